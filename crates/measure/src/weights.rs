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
pub const AXIS: [f64; KINDS] = [
    0.082, 1.528, -2.522, -2.094, -0.701, 4.598, -1.213, -2.618, -2.025, -0.988, 1.186, 0.664,
    2.780, 2.584, 1.167, 1.006, -0.311, -6.025, 3.260, -3.459, -4.032, -0.042, 5.144, -10.680,
    1.201, -5.412, -1.096, 1.560, 2.194, -1.335, -0.845, 4.828,
];

/// For each axis of a pair.
pub const EACH: [f64; KINDS] = [
    0.240, 1.072, -2.562, -0.147, -2.544, 3.367, -1.483, -1.869, 2.985, -1.058, 1.414, -0.190,
    2.457, 3.074, 0.506, 1.427, -0.053, -6.482, 5.345, -0.252, -5.337, -2.344, 7.069, -5.207,
    2.550, -5.702, -0.066, 2.956, 2.196, -0.581, -0.614, 2.721,
];

/// For a pair.
pub const PAIR: [f64; PAIR_KINDS] = [
    1.783, -1.212, 0.722, 1.575, -7.004, -4.621, 2.610, -0.270, -1.086, -0.283, -0.385, -6.533,
    1.105, 0.107, 0.151, -1.130, 1.456, -0.871,
];

pub(super) fn score<const N: usize>(weights: &[f64; N], evidence: &[f64; N]) -> f64 {
    weights.iter().zip(evidence).map(|(weight, evidence)| weight * evidence).sum()
}
