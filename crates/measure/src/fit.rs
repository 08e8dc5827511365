//! What the program that fits the weights sees: see `examples/fit_measure`.

use std::collections::HashMap;
use std::sync::Mutex;

use lucky_reel_assets::Pixels;

use super::search::Search;
use super::{GridHints, division::Division};

pub use super::weights::{AXIS, EACH, NAMES, PAIR, PAIR_NAMES};

/// A division of one axis: margin, cell, gap, count.
pub type Shape = [usize; 4];

/// What speaks for the divisions of each axis, and for pairs of them.
pub struct Sample {
    search: Search,
    /// Pairs that were asked for before.
    pairs: Mutex<HashMap<[usize; 2], Vec<f64>>>,
}

impl Sample {
    /// Looks at a sheet of which nothing is known.
    #[must_use]
    pub fn of(picture: &Pixels) -> Sample {
        Sample { search: Search::of(picture, GridHints::default().axes()), pairs: Mutex::default() }
    }

    /// The divisions of an axis with their evidence.
    #[must_use]
    pub fn axis(&self, axis: usize) -> Vec<(Shape, Vec<f64>)> {
        let weighed = self.search.axes[axis].iter();
        weighed.map(|weighed| (shape(&weighed.division), weighed.evidence.to_vec())).collect()
    }

    /// The divisions of each axis that go into pairs where each has this score.
    #[must_use]
    pub fn best(&self, scores: [&[f64]; 2]) -> [Vec<usize>; 2] {
        let all = [0, 1].map(|axis| {
            let divisions = self.search.axes[axis].iter().map(|weighed| weighed.division);
            divisions.zip(scores[axis].iter().copied()).collect::<Vec<_>>()
        });
        super::search::best_of([&all[0], &all[1]])
    }

    /// The evidence for a pair of divisions, by their numbers.
    #[must_use]
    pub fn pair(&self, at: [usize; 2]) -> Vec<f64> {
        let divisions = [0, 1].map(|axis| &self.search.axes[axis][at[axis]].division);
        let look =
            || super::pairs::evidence(&self.search.ink, &self.search.drawn, divisions).to_vec();
        match self.pairs.lock() {
            Ok(mut known) => known.entry(at).or_insert_with(look).clone(),
            Err(_) => look(),
        }
    }
}

fn shape(division: &Division) -> Shape {
    [division.margin, division.cell, division.gap, division.count]
}
