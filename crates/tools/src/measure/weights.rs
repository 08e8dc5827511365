//! How much each kind of evidence weighs. Fitted by `examples/fit_measure.rs` to real and made-up sheets
//! whose cells are known.

use super::evidence::KINDS;
use super::pairs::PAIR_KINDS;

/// What is seen along one axis.
pub const NAMES: [&str; KINDS] = [
    "free borders, against chance",
    "free or strong borders, against chance",
    "crossing at borders, of the usual",
    "lower quartile of changes at borders",
    "changes at borders where figures touch",
    "fewer drawings that go on",
    "free lines within cells",
    "free or strong lines within cells",
    "likeness at the distance of a cell, above that near it",
    "a better likeness at a smaller distance",
    "likeness at a part of the distance",
    "likeness where little is free",
    "changes explained by the place in the cell",
    "figures that fill their cells",
    "a multiple of 8",
    "a multiple of 16",
    "far from 32 pixels",
    "a margin",
    "a gap as wide as the margin",
    "a gap for each cell",
    "something left over",
    "gaps of one color",
    "edges of gaps",
    "dirt in gaps and margins",
    "a single cell",
    "a single cell and something left over",
    "empty cells",
    "something left over of a power of two",
    "a single cell that ends with the drawings",
    "room for more cells",
    "changes at parts of cells",
    "likeness, of many cells",
];

/// What is seen of both axes together.
pub const PAIR_NAMES: [&str; PAIR_KINDS] = [
    "square cells",
    "long cells",
    "cells of two squares",
    "square cells in a strip",
    "unequal gaps",
    "unequal margins",
    "borders that cut nothing",
    "borders that part",
    "edges at borders that cut",
    "parting lines through the middle",
    "a single picture",
    "spread of the figures",
    "figures that stand level",
    "figures at the sides of cells",
    "many cells",
    "far from 16 cells",
    "many borders that part",
    "many parting lines through the middle",
];

/// To choose the divisions of each axis that are looked at in pairs.
pub const AXIS: [f64; KINDS] = [0.311, 1.165, -2.527, -1.134, -0.506, 3.189, -1.227, -1.530, -2.011, -1.094, 0.477, -0.027, 2.461, 2.425, 0.993, 1.167, -0.272, -5.287, 2.771, -2.865, -4.786, 0.247, 3.151, -5.190, 0.451, -5.991, -0.848, 2.506, 2.082, -0.900, -0.563, 4.529];

/// For each axis of a pair.
pub const EACH: [f64; KINDS] = [0.628, 1.089, -2.041, -0.229, -0.703, 1.293, -0.708, -1.480, 0.633, -1.029, 0.219, -0.892, 2.326, 2.459, 0.502, 1.111, -0.029, -3.419, 1.474, 0.090, -4.095, -1.226, 3.618, -3.477, 1.375, -5.061, -1.674, 2.546, 1.661, -0.922, 0.143, 2.533];

/// For a pair.
pub const PAIR: [f64; PAIR_KINDS] = [1.661, -1.133, 0.803, 1.410, -5.425, -2.829, 1.890, 1.622, -0.775, -0.663, 0.684, -1.957, 0.456, 1.887, 0.648, -0.740, 0.333, -0.464];

pub(super) fn score<const N: usize>(weights: &[f64; N], evidence: &[f64; N]) -> f64 {
    weights.iter().zip(evidence).map(|(weight, evidence)| weight * evidence).sum()
}
