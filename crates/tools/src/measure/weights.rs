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
    0.409, 1.252, -2.614, 1.020, -3.033, 1.397, -1.087, -1.426, 2.114, -0.734, 1.180, -0.278,
    2.550, 1.417, 0.790, 0.841, -0.047, -4.592, 4.005, 0.588, -5.635, -3.138, 5.777, -6.825, 0.839,
    -5.600, -1.627, 2.886, 1.937, -0.672, -0.623, 2.603,
];

/// For a pair.
pub const PAIR: [f64; PAIR_KINDS] = [
    1.592, -1.225, 0.830, 1.454, -7.531, -5.536, 2.250, 0.438, -0.712, -0.238, 0.219, -7.700,
    1.061, 0.637, 0.631, -0.878, 0.691, -0.611,
];

pub(super) fn score<const N: usize>(weights: &[f64; N], evidence: &[f64; N]) -> f64 {
    weights.iter().zip(evidence).map(|(weight, evidence)| weight * evidence).sum()
}
