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
    0.235, 1.354, -2.504, -1.166, -0.958, 3.383, -0.891, -1.867, -2.518, -0.574, 0.820, 0.580,
    2.856, 2.427, 1.311, 1.125, -0.309, -5.587, 3.401, -2.413, -4.543, -0.077, 4.070, -9.322,
    0.793, -6.269, -1.442, 2.675, 2.433, -1.269, -0.288, 4.927,
];

/// For each axis of a pair.
pub const EACH: [f64; KINDS] = [
    0.581, 1.356, -2.391, -0.069, -1.303, 1.326, -0.608, -1.674, 0.850, -0.461, 0.913, -0.192,
    2.554, 1.555, 1.065, 1.092, -0.114, -3.852, 2.148, 0.586, -4.614, -2.460, 5.378, -6.629, 0.823,
    -5.939, -3.669, 3.154, 2.105, -1.451, 0.308, 3.230,
];

/// For a pair.
pub const PAIR: [f64; PAIR_KINDS] = [
    1.855, -0.994, 0.734, 1.482, -7.309, -4.330, 2.192, 1.326, -0.530, -0.367, 2.030, -4.717,
    1.011, 2.895, 0.671, -0.825, 0.470, -0.464,
];

pub(super) fn score<const N: usize>(weights: &[f64; N], evidence: &[f64; N]) -> f64 {
    weights.iter().zip(evidence).map(|(weight, evidence)| weight * evidence).sum()
}
