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
    0.072, 1.549, -2.811, -1.072, -1.622, 3.561, -0.861, -2.378, -1.984, -0.842, 1.273, 0.810,
    2.921, 2.204, 1.264, 0.942, -0.297, -6.108, 5.174, -2.368, -4.529, -0.180, 4.283, -13.408,
    0.596, -5.578, -1.162, 1.782, 2.204, -1.250, -0.626, 4.621,
];

/// For each axis of a pair.
pub const EACH: [f64; KINDS] = [
    0.411, 1.245, -2.610, 1.016, -3.034, 1.402, -1.091, -1.425, 2.138, -0.741, 1.167, -0.278,
    2.549, 1.435, 0.794, 0.835, -0.047, -4.595, 4.009, 0.588, -5.634, -3.132, 5.757, -6.838, 0.851,
    -5.597, -1.618, 2.882, 1.940, -0.671, -0.645, 2.581,
];

/// For a pair.
pub const PAIR: [f64; PAIR_KINDS] = [
    1.595, -1.226, 0.825, 1.448, -7.521, -5.527, 2.241, 0.442, -0.706, -0.250, 0.203, -7.524,
    1.061, 0.597, 0.627, -0.883, 0.688, -0.606,
];

pub(super) fn score<const N: usize>(weights: &[f64; N], evidence: &[f64; N]) -> f64 {
    weights.iter().zip(evidence).map(|(weight, evidence)| weight * evidence).sum()
}
