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
    0.267, 1.051, -2.524, -0.188, -2.519, 3.395, -1.479, -1.866, 2.970, -1.051, 1.408, -0.173,
    2.418, 3.120, 0.522, 1.463, -0.037, -6.490, 5.377, -0.276, -5.347, -2.277, 7.183, -5.211,
    2.591, -5.709, 0.010, 3.001, 2.184, -0.542, -0.631, 2.766,
];

/// For a pair.
pub const PAIR: [f64; PAIR_KINDS] = [
    1.736, -1.228, 0.708, 1.621, -7.059, -4.627, 2.544, -0.372, -1.065, -0.367, -0.209, -6.392,
    1.200, 0.194, 0.087, -1.270, 1.529, -0.859,
];

pub(super) fn score<const N: usize>(weights: &[f64; N], evidence: &[f64; N]) -> f64 {
    weights.iter().zip(evidence).map(|(weight, evidence)| weight * evidence).sum()
}
