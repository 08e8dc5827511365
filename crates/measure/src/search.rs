//! All that comes into question for a sheet, with the evidence for it.

use super::division::{Division, KnownAxis, divisions};
use super::evidence::{self, KINDS};
use super::ink::{Background, Ink};
use super::lines::Lines;
use super::pairs::{self, DrawnSums};
use super::weights::{self, score};
use lucky_reel_assets::Pixels;

/// So many divisions of each axis are looked at in pairs.
const MAX_EACH: usize = 16;
/// So many of them are tried as the side of square cells.
const MAX_SQUARES: usize = 4;

/// A division of one axis and what speaks for it.
#[derive(Clone)]
pub(super) struct Weighed {
    pub(super) division: Division,
    pub(super) evidence: [f64; KINDS],
}

/// The divisions of each axis to be looked at in pairs, by their numbers: those of the best scores, the best
/// single cell, and those whose cells are as long as the best of the other axis.
pub(super) fn best_of(all: [&[(Division, f64)]; 2]) -> [Vec<usize>; 2] {
    let orders = all.map(|all| {
        let mut order: Vec<usize> = (0..all.len()).collect();
        order.sort_by(|a, b| all[*b].1.total_cmp(&all[*a].1));
        order
    });
    let single = |axis: usize| orders[axis].iter().copied().find(|at| all[axis][*at].0.count == 1);
    [0, 1].map(|axis| {
        let other = 1 - axis;
        let mut kept: Vec<usize> = orders[axis].iter().copied().take(MAX_EACH).collect();
        let sides = orders[other].iter().copied().take(MAX_SQUARES).chain(single(other));
        let squares = sides.flat_map(|at| {
            let cell = all[other][at].0.cell;
            let of_side = move |at: &usize| all[axis][*at].0.cell == cell;
            let is_single = move |at: &usize| all[axis][*at].0.count == 1;
            let mut sides = orders[axis].iter().copied().filter(of_side);
            [sides.clone().find(is_single), sides.next()]
        });
        for at in single(axis).into_iter().chain(squares.flatten()) {
            if !kept.contains(&at) {
                kept.push(at);
            }
        }
        kept
    })
}

/// A sheet that has been looked at.
pub(super) struct Search {
    pub(super) background: Background,
    pub(super) ink: Ink,
    pub(super) drawn: DrawnSums,
    /// Across and down.
    pub(super) lines: [Lines; 2],
    pub(super) axes: [Vec<Weighed>; 2],
}

/// Two divisions, by their numbers, and what speaks for them together.
pub(super) struct Pair {
    pub(super) at: [usize; 2],
    pub(super) score: f64,
    /// How likely it is the right one of all pairs, from 0 to 1.
    pub(super) chance: f64,
}

impl Search {
    pub(super) fn of(picture: &Pixels, known: [KnownAxis; 2]) -> Search {
        let (ink, background) = Ink::of(picture);
        // Each axis by itself: half the time for large sheets.
        let lines = std::thread::scope(|scope| {
            let columns = scope.spawn(|| Lines::of(&ink.transposed()));
            let rows = Lines::of(&ink);
            [columns.join().unwrap_or_else(|panic| std::panic::resume_unwind(panic)), rows]
        });
        let axes = [0, 1].map(|axis| {
            let weighed = divisions(&lines[axis], known[axis]).into_iter().map(|division| {
                Weighed { evidence: evidence::evidence(&lines[axis], &division), division }
            });
            weighed.collect()
        });
        let drawn = DrawnSums::of(&ink);
        Search { background, ink, drawn, lines, axes }
    }

    /// Leaves the best divisions of each axis.
    pub(super) fn keep_best(&mut self) {
        let all = [0, 1].map(|axis| {
            self.axes[axis]
                .iter()
                .map(|weighed| (weighed.division, score(&weights::AXIS, &weighed.evidence)))
                .collect::<Vec<_>>()
        });
        let kept = best_of([&all[0], &all[1]]);
        for (axis, kept) in kept.into_iter().enumerate() {
            self.axes[axis] = kept.into_iter().map(|at| self.axes[axis][at].clone()).collect();
        }
    }

    /// All pairs, the likeliest first.
    pub(super) fn pairs(&self) -> Vec<Pair> {
        let [across, down] = &self.axes;
        let all = (0..across.len()).flat_map(|x| (0..down.len()).map(move |y| [x, y]));
        let all: Vec<[usize; 2]> = all.collect();
        let (left, right) = all.split_at(all.len() / 2);
        let look =
            |part: &[[usize; 2]]| part.iter().map(|at| self.pair(*at)).collect::<Vec<Pair>>();
        let mut pairs = std::thread::scope(|scope| {
            let right = scope.spawn(|| look(right));
            let mut pairs = look(left);
            pairs.extend(right.join().unwrap_or_else(|panic| std::panic::resume_unwind(panic)));
            pairs
        });
        let best = pairs.iter().map(|pair| pair.score).fold(f64::MIN, f64::max);
        let total: f64 = pairs.iter().map(|pair| (pair.score - best).exp()).sum();
        pairs.iter_mut().for_each(|pair| pair.chance = (pair.score - best).exp() / total);
        let order = |pair: &Pair| {
            let [x, y] = self.divisions(pair).map(|it| (it.cell, it.margin, it.gap, it.count));
            (x.0 * y.0, x, y)
        };
        pairs.sort_by(|a, b| b.score.total_cmp(&a.score).then_with(|| order(a).cmp(&order(b))));
        pairs
    }

    fn pair(&self, at: [usize; 2]) -> Pair {
        let weighed = [&self.axes[0][at[0]], &self.axes[1][at[1]]];
        let evidence =
            pairs::evidence(&self.ink, &self.drawn, weighed.map(|weighed| &weighed.division));
        let each: f64 = weighed.iter().map(|axis| score(&weights::EACH, &axis.evidence)).sum();
        Pair { at, score: each + score(&weights::PAIR, &evidence), chance: 0.0 }
    }

    pub(super) fn divisions(&self, pair: &Pair) -> [Division; 2] {
        [0, 1].map(|axis| self.axes[axis][pair.at[axis]].division)
    }
}
