//! The ways to divide one axis into cells.

use super::lines::Lines;

/// Cells smaller than this are not guessed, and gaps and margins wider than this neither.
const SMALLEST: usize = 6;
const WIDEST: usize = 4;
/// The widest of both where the size of the cells is known.
const WIDEST_OF_KNOWN: usize = 16;
/// Gaps and margins show the background or one color over this share of each line at least.
const LEAST_PLAIN: f64 = 0.8;

/// What is known of an axis already, in pixels and cells.
#[derive(Clone, Copy, Debug, Default)]
pub(super) struct KnownAxis {
    pub(super) cell: Option<usize>,
    pub(super) margin: Option<usize>,
    pub(super) gap: Option<usize>,
    pub(super) count: Option<usize>,
}

/// How a division ends.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum Ending {
    /// With the margin that it begins with.
    Even,
    /// Each cell has a gap of its own, so one stands before the first or after the last.
    Gap,
    /// With lines that are left over, on which nothing is drawn.
    LeftOver,
}

/// One way to divide an axis, in pixels: a margin, then cells with gaps between them, then the rest.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) struct Division {
    pub(super) margin: usize,
    pub(super) cell: usize,
    pub(super) gap: usize,
    pub(super) count: usize,
    pub(super) rest: usize,
    pub(super) ending: Ending,
}

impl Division {
    pub(super) fn period(&self) -> usize {
        self.cell + self.gap
    }

    /// Where a cell begins.
    pub(super) fn start(&self, nth: usize) -> usize {
        self.margin + nth * self.period()
    }

    /// The starts of all cells but the first: the borders between cells.
    pub(super) fn borders(&self) -> impl Iterator<Item = usize> + '_ {
        (1..self.count).map(|nth| self.start(nth))
    }

    /// The lines of the gaps between cells.
    pub(super) fn gap_lines(&self) -> impl Iterator<Item = usize> + '_ {
        self.borders().flat_map(|start| start - self.gap..start)
    }

    /// The lines of gaps and of the margins.
    pub(super) fn free_lines(&self) -> impl Iterator<Item = usize> + '_ {
        let end = self.start(self.count - 1) + self.cell;
        let after = if self.ending == Ending::LeftOver { 0 } else { self.rest };
        (0..self.margin).chain(self.gap_lines()).chain(end..end + after)
    }
}

/// All divisions that come into question.
pub(super) fn divisions(lines: &Lines, known: KnownAxis) -> Vec<Division> {
    let blank_from = lines.blank_from();
    let search =
        |is_strict| Search { lines, known, blank_from, is_strict, found: Vec::new() }.run();
    let all = search(true);
    // Asked for what the pixels speak against.
    if all.is_empty() { search(false) } else { all }
}

struct Search<'l> {
    lines: &'l Lines,
    known: KnownAxis,
    blank_from: usize,
    /// Gaps and margins must be plain.
    is_strict: bool,
    found: Vec<Division>,
}

impl Search<'_> {
    fn run(mut self) -> Vec<Division> {
        let widest = if self.known.cell.is_some() { WIDEST_OF_KNOWN } else { WIDEST };
        let size = self.lines.count();
        // What is wider than the image fits nowhere, and would be searched for long.
        let range = |known: Option<usize>| {
            known.map_or(0..=widest.min(size), |known| known..=known).filter(move |it| *it <= size)
        };
        for gap in range(self.known.gap) {
            for margin in range(self.known.margin) {
                self.even(margin, gap);
            }
            let sides = if gap == 0 { vec![0] } else { vec![0, gap] };
            for margin in sides {
                if self.known.margin.is_none_or(|known| known == margin) {
                    self.with_gaps_of_their_own(margin, gap);
                    self.with_rest(margin, gap);
                }
            }
        }
        if self.known.margin.is_none_or(|margin| margin == 0) {
            self.single_with_rest();
        }
        self.found
    }

    /// The margin is the same on both sides.
    fn even(&mut self, margin: usize, gap: usize) {
        let size = self.lines.count();
        let Some(room) = (size + gap).checked_sub(2 * margin) else { return };
        for period in divisors(room) {
            let count = room / period;
            // A single cell says nothing of gaps.
            if period > gap && (count > 1 || gap == 0 || self.known.gap.is_some()) {
                self.add(Division {
                    margin,
                    cell: period - gap,
                    gap,
                    count,
                    rest: margin,
                    ending: Ending::Even,
                });
            }
        }
    }

    fn with_gaps_of_their_own(&mut self, margin: usize, gap: usize) {
        let size = self.lines.count();
        for period in divisors(size) {
            if gap > 0 && period > gap && size / period > 1 {
                let cell = period - gap;
                let (count, rest) = (size / period, gap - margin);
                self.add(Division { margin, cell, gap, count, rest, ending: Ending::Gap });
            }
        }
    }

    fn with_rest(&mut self, margin: usize, gap: usize) {
        let size = self.lines.count();
        let used = self.blank_from;
        if used == size && self.is_strict && self.known.count.is_none() {
            return;
        }
        let cells = self.known.cell.map_or(SMALLEST..=size / 2, |cell| cell..=cell);
        for cell in cells {
            let period = cell + gap;
            let most = (size + gap).saturating_sub(margin) / period;
            // As many as there is room for, or as are used.
            let needed = used.saturating_sub(margin).div_ceil(period);
            let mut counts = vec![most, needed.min(most)];
            counts.extend(self.known.count.filter(|count| *count <= most));
            counts.dedup();
            for count in counts {
                if count < 2 && self.known.cell.is_none() || count == 0 {
                    continue;
                }
                let rest = size - (margin + count * period - gap);
                let is_new = rest > 0 && rest != margin && !(gap > 0 && margin + rest == gap);
                if is_new && (!self.is_strict || size - rest >= used) {
                    let ending = Ending::LeftOver;
                    self.add(Division { margin, cell, gap, count, rest, ending });
                }
            }
        }
    }

    /// One cell, and nothing drawn after it.
    fn single_with_rest(&mut self) {
        let size = self.lines.count();
        for cell in self.blank_from.max(SMALLEST)..size {
            let rest = size - cell;
            let ending = Ending::LeftOver;
            self.add(Division {
                margin: 0,
                cell,
                gap: self.known.gap.unwrap_or(0),
                count: 1,
                rest,
                ending,
            });
        }
    }

    /// Takes a division in, unless it is known to be another, too small, or has drawings in its gaps.
    fn add(&mut self, division: Division) {
        let size = self.lines.count();
        let is_known = |known: Option<usize>, is: usize| known.is_none_or(|known| known == is);
        let least = if self.known.cell.is_some() || division.count == 1 { 1 } else { SMALLEST };
        if division.count == 0
            || division.cell < least
            || division.start(division.count - 1) + division.cell > size
            || !is_known(self.known.cell, division.cell)
            || !is_known(self.known.count, division.count)
            || self.is_strict
                && division.free_lines().any(|line| self.lines.plain[line] < LEAST_PLAIN)
            || self.found.contains(&division)
        {
            return;
        }
        self.found.push(division);
    }
}

fn divisors(number: usize) -> impl Iterator<Item = usize> {
    (1..=number).filter(move |divisor| number.is_multiple_of(*divisor))
}
