//! What is seen along one axis: of each line of pixels, and over each border between two.

use super::ink::{Ink, difference, median};
use super::likeness::likeness;

/// Differences of a channel beyond this count alike.
const MAX_DIFFERENCE: u8 = 64;
/// A drawing goes on over a border where its color changes by no more than this.
const SAME_DRAWING: u8 = 24;
/// A line is of one color where its pixels differ by no more than this.
const SAME_COLOR: u8 = 12;
/// So many colors of lines are looked at.
const GAP_COLORS: usize = 3;

/// Statistics of the lines of one axis. What is said of a border is said at the line after it.
pub(super) struct Lines {
    /// How much colors change over the border, from 0 to 1.
    pub(super) change: Vec<f64>,
    /// The share of places at which something is drawn on both sides, and where it is of about the same
    /// color, too.
    pub(super) crossing: Vec<f64>,
    pub(super) going_on: Vec<f64>,
    /// The place of `change` among all borders, from 0 to 1.
    pub(super) rank: Vec<f64>,
    /// Whether colors change here far more than beside it.
    pub(super) strong: Vec<bool>,
    /// How many pixels of each line are drawn.
    pub(super) drawn: Vec<u32>,
    /// The share of background and of the line's gap color.
    pub(super) plain: Vec<f64>,
    /// The share of the line's gap color alone, and that color.
    pub(super) gap_share: Vec<f64>,
    pub(super) gap_color: Vec<Option<[u8; 4]>>,
    /// How alike the image is to itself so many lines on, from −1 to 1.
    pub(super) likeness: Vec<f64>,
    /// The lines from the first to the last on which something is drawn.
    pub(super) used: std::ops::Range<usize>,
    /// Over the borders in between: the share of free ones, of strong ones, the mean of `crossing`, and
    /// the share of it that goes on.
    pub(super) usual: Usual,
}

/// How borders are on average.
#[derive(Clone, Copy, Default)]
pub(super) struct Usual {
    pub(super) free: f64,
    pub(super) strong: f64,
    pub(super) crossing: f64,
    pub(super) going_on: f64,
}

impl Lines {
    /// Along the rows of an image.
    pub(super) fn of(ink: &Ink) -> Lines {
        let (count, places) = (ink.height, ink.width.max(1) as f64);
        let mut lines = Lines {
            change: vec![0.0; count],
            crossing: vec![0.0; count],
            going_on: vec![0.0; count],
            rank: Vec::new(),
            strong: Vec::new(),
            drawn: Vec::with_capacity(count),
            plain: vec![0.0; count],
            gap_share: vec![0.0; count],
            gap_color: vec![None; count],
            likeness: likeness(ink),
            used: 0..0,
            usual: Usual::default(),
        };
        for line in 0..count {
            let (pixels, drawn) = ink.row(line);
            lines.drawn.push(drawn.iter().filter(|drawn| **drawn).count() as u32);
            if line == 0 {
                continue;
            }
            let (before, drawn_before) = ink.row(line - 1);
            let (mut change, mut crossing, mut going_on) = (0_u64, 0_u32, 0_u32);
            let pairs = pixels.iter().zip(before).zip(drawn.iter().zip(drawn_before));
            for ((pixel, before), (drawn, drawn_before)) in pairs {
                let apart = difference(*pixel, *before);
                let both = *drawn & *drawn_before;
                change += u64::from(apart.min(MAX_DIFFERENCE));
                crossing += u32::from(both);
                going_on += u32::from(both & (apart <= SAME_DRAWING));
            }
            lines.change[line] = change as f64 / places / f64::from(MAX_DIFFERENCE);
            lines.crossing[line] = f64::from(crossing) / places;
            lines.going_on[line] = f64::from(going_on) / places;
        }
        lines.find_gap_colors(ink);
        let first = lines.drawn.iter().position(|drawn| *drawn > 0).unwrap_or(0);
        let last = lines.drawn.iter().rposition(|drawn| *drawn > 0).map_or(0, |last| last + 1);
        lines.used = first..last;
        lines.rank = ranks(&lines.change);
        lines.strong = (0..count).map(|line| lines.is_strong(line)).collect();
        lines.usual = lines.usual_borders();
        lines
    }

    /// How many lines there are.
    pub(super) fn count(&self) -> usize {
        self.drawn.len()
    }

    /// Whether no drawing goes on over this border.
    pub(super) fn is_free(&self, line: usize) -> bool {
        self.crossing[line] == 0.0
    }

    /// Whether it is a border in the used lines.
    pub(super) fn is_used_border(&self, line: usize) -> bool {
        line > self.used.start && line < self.used.end
    }

    /// Whether nothing is drawn on these lines.
    pub(super) fn is_empty(&self, range: std::ops::Range<usize>) -> bool {
        self.drawn[range].iter().all(|drawn| *drawn == 0)
    }

    /// Where lines of background and gap color alone begin, up to the end.
    pub(super) fn blank_from(&self) -> usize {
        let is_blank = |line: usize| self.drawn[line] == 0 || self.plain[line] >= 0.95;
        (0..self.count()).rev().find(|line| !is_blank(*line)).map_or(0, |last| last + 1)
    }

    fn is_strong(&self, line: usize) -> bool {
        let around = (1..=3).flat_map(|off| [line.wrapping_sub(off), line + off]);
        let around: Vec<f64> = around
            .filter(|near| (1..self.count()).contains(near))
            .map(|near| self.change[near])
            .collect();
        let mean = around.iter().sum::<f64>() / around.len().max(1) as f64;
        self.rank[line] >= 0.9 && ((self.change[line] + 0.01) / (mean + 0.01)).ln() > 0.2
    }

    fn usual_borders(&self) -> Usual {
        let borders = (self.used.start + 1)..self.used.end.max(self.used.start + 1);
        let count = borders.len().max(1) as f64;
        let share = |test: &dyn Fn(usize) -> f64| borders.clone().map(test).sum::<f64>() / count;
        let crossing = share(&|line| self.crossing[line]);
        Usual {
            free: share(&|line| f64::from(u8::from(self.is_free(line)))),
            strong: share(&|line| f64::from(u8::from(self.strong[line]))),
            crossing,
            going_on: share(&|line| self.going_on[line]) / crossing.max(1e-9),
        }
    }

    /// Colors of lines that are of one color: gaps that were filled, and ruled lines.
    fn find_gap_colors(&mut self, ink: &Ink) {
        let places = ink.width.max(1);
        let mut found: Vec<([u8; 4], [u8; 4], usize)> = Vec::new();
        for line in 0..ink.height {
            let (pixels, _) = ink.row(line);
            let background = places - self.drawn[line] as usize;
            if 2 * background >= places {
                continue;
            }
            let mut counts = [[0_u32; 256]; 4];
            for pixel in pixels {
                (0..4).for_each(|channel| counts[channel][usize::from(pixel[channel])] += 1);
            }
            let color = counts.map(|counts| median(&counts));
            let alike = self.pixels_of(ink, line, color);
            if 2 * alike > places && (alike + background) as f64 >= 0.95 * places as f64 {
                let group = color.map(|channel| channel >> 4);
                match found.iter_mut().find(|(known, ..)| *known == group) {
                    Some((.., count)) => *count += 1,
                    None => found.push((group, color, 1)),
                }
            }
        }
        found.sort_by_key(|(.., count)| std::cmp::Reverse(*count));
        found.truncate(GAP_COLORS);
        for line in 0..ink.height {
            let colors =
                found.iter().map(|(_, color, _)| (self.pixels_of(ink, line, *color), *color));
            let (share, color) = match colors.max_by_key(|(share, _)| *share) {
                Some((share, color)) => (share, Some(color)),
                None => (0, None),
            };
            let background = places - self.drawn[line] as usize;
            self.gap_share[line] = share as f64 / places as f64;
            self.gap_color[line] = color;
            self.plain[line] = (background + share) as f64 / places as f64;
        }
    }

    /// How many drawn pixels of a line are of about a color.
    fn pixels_of(&self, ink: &Ink, line: usize, color: [u8; 4]) -> usize {
        let (pixels, drawn) = ink.row(line);
        let alike =
            |(pixel, drawn): (&[u8; 4], &bool)| *drawn & (difference(*pixel, color) <= SAME_COLOR);
        pixels.iter().zip(drawn).filter(|pair| alike(*pair)).count()
    }
}

/// The place of each border among all, from 0 to 1; equal ones share theirs.
fn ranks(change: &[f64]) -> Vec<f64> {
    let mut sorted: Vec<f64> = change.iter().skip(1).copied().collect();
    sorted.sort_by(f64::total_cmp);
    let total = sorted.len().max(1) as f64;
    let rank = |value: &f64| {
        let below = sorted.partition_point(|other| other < value);
        let up_to = sorted.partition_point(|other| other <= value);
        (below + up_to) as f64 / 2.0 / total
    };
    change.iter().map(rank).collect()
}
