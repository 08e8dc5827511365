//! What speaks for and against a pair of divisions: the shape of the cells, and each border between two
//! cells that are not empty.

use super::division::Division;
use super::ink::{Ink, difference};

/// So many kinds of evidence there are for a pair.
pub(crate) const PAIR_KINDS: usize = 18;
/// So many pixels of borders are looked at, in cells spread evenly, and so many cells for their bounds.
const MAX_PIXELS: usize = 20_480;
const MAX_BOUNDS: usize = 128;
/// Of so many cells at least the borders are looked at.
const LEAST_CELLS: usize = 16;

/// Sums of drawn pixels, to ask of any rectangle whether it is empty.
pub(super) struct DrawnSums {
    width: usize,
    sums: Vec<u32>,
}

impl DrawnSums {
    pub(super) fn of(ink: &Ink) -> DrawnSums {
        let width = ink.width + 1;
        let mut sums = vec![0; width * (ink.height + 1)];
        for y in 0..ink.height {
            let mut row = 0;
            let (_, drawn) = ink.row(y);
            for (x, drawn) in drawn.iter().enumerate() {
                row += u32::from(*drawn);
                sums[(y + 1) * width + x + 1] = sums[y * width + x + 1] + row;
            }
        }
        DrawnSums { width, sums }
    }

    /// How many pixels are drawn in a rectangle.
    pub(super) fn count(&self, [x, y]: [usize; 2], [wide, high]: [usize; 2]) -> u32 {
        let sum = |x: usize, y: usize| self.sums[y * self.width + x];
        sum(x + wide, y + high) + sum(x, y) - sum(x + wide, y) - sum(x, y + high)
    }

    /// The bounds of what is drawn in a rectangle that is not empty, from its top left: for each axis the
    /// first line and the one after the last.
    fn bounds(&self, at: [usize; 2], size: [usize; 2]) -> [[usize; 2]; 2] {
        [0, 1].map(|axis| {
            let is_empty = |from: usize, to: usize| {
                let (mut at, mut size) = (at, size);
                at[axis] += from;
                size[axis] = to - from;
                self.count(at, size) == 0
            };
            // The number of lines that are empty from either end, by bisection.
            let bisect = |is_empty: &dyn Fn(usize) -> bool| {
                let (mut low, mut high) = (0, size[axis]);
                while low < high {
                    let middle = low + (high - low).div_ceil(2);
                    if is_empty(middle) { low = middle } else { high = middle - 1 }
                }
                low
            };
            let before = bisect(&|lines| is_empty(0, lines));
            let after = bisect(&|lines| is_empty(size[axis] - lines, size[axis]));
            [before, size[axis] - after]
        })
    }
}

/// The borders between cells that are not empty.
#[derive(Clone, Copy, Debug, Default)]
pub(super) struct Borders {
    pub(super) count: u32,
    /// No drawing goes on over these.
    pub(super) uncut: u32,
    /// Nor over these, or colors change far more than near them.
    pub(super) parting: u32,
    /// How much more colors change at those that cut, as a logarithm, summed up.
    edges: f64,
    /// Of lines through the middle of cells, those that would part them as well.
    middles: u32,
    middles_parting: u32,
}

/// The evidence for a pair, across and down, in the order of [`weights::PAIR_NAMES`](super::weights::PAIR_NAMES).
pub(super) fn evidence(ink: &Ink, drawn: &DrawnSums, pair: [&Division; 2]) -> [f64; PAIR_KINDS] {
    let flag = |on: bool| f64::from(u8::from(on));
    let [across, down] = pair;
    let [wide, high] = pair.map(|division| division.cell as f64);
    let singles = pair.iter().filter(|division| division.count == 1).count();
    let is_square = across.cell == down.cell;
    let is_double = across.cell == 2 * down.cell || down.cell == 2 * across.cell;
    let borders = Borders::between(ink, drawn, pair);
    let count = f64::from(borders.count.max(1));
    let cells = ((across.count * down.count) as f64).log2();
    let many = f64::from(borders.count + 1).log2();
    let boxes = Boxes::of(drawn, pair);
    let middles = f64::from(borders.middles_parting) / f64::from(borders.middles.max(1));
    [
        flag(is_square),
        (wide / high).log2().abs().min(4.0),
        flag(is_double),
        flag(is_square && singles == 1),
        flag(singles == 0 && across.gap != down.gap),
        flag(across.margin != down.margin),
        f64::from(borders.uncut) / count,
        f64::from(borders.parting) / count,
        borders.edges / count,
        middles,
        flag(singles == 2),
        boxes.spread,
        boxes.level,
        boxes.cut,
        cells,
        (cells - 4.0).powi(2) / 8.0,
        f64::from(borders.parting) / count * many,
        middles * many,
    ]
}

impl Borders {
    pub(super) fn between(ink: &Ink, drawn: &DrawnSums, [across, down]: [&Division; 2]) -> Borders {
        let mut borders = Borders::default();
        let cell = [across.cell, down.cell];
        let most = (MAX_PIXELS / (cell[0] + cell[1])).max(LEAST_CELLS);
        let step = (across.count * down.count).div_ceil(most).max(1);
        let at = |column: usize, row: usize| [across.start(column), down.start(row)];
        for number in (0..across.count * down.count).step_by(step) {
            let (column, row) = (number % across.count, number / across.count);
            let here = at(column, row);
            if drawn.count(here, cell) == 0 {
                continue;
            }
            if across.gap == 0 && column > 0 && drawn.count(at(column - 1, row), cell) > 0 {
                borders.add(ink, 0, here, cell);
            }
            if down.gap == 0 && row > 0 && drawn.count(at(column, row - 1), cell) > 0 {
                borders.add(ink, 1, here, cell);
            }
        }
        borders
    }

    /// The border before a cell, along an axis, and the line through its middle.
    fn add(&mut self, ink: &Ink, axis: usize, at: [usize; 2], cell: [usize; 2]) {
        let line = at[axis];
        let along = (at[1 - axis], cell[1 - axis]);
        let (is_cut, edge) = look(ink, axis, line, along);
        self.count += 1;
        self.uncut += u32::from(!is_cut);
        self.parting += u32::from(!is_cut || edge > 0.4);
        if is_cut {
            self.edges += edge.clamp(-1.5, 2.0);
        }
        let (is_cut, edge) = look(ink, axis, line + cell[axis] / 2, along);
        self.middles += 1;
        self.middles_parting += u32::from(!is_cut || edge > 0.4);
    }
}

/// How the bounds of the figures lie in their cells.
#[derive(Default)]
struct Boxes {
    /// How far their centers are spread, in parts of a cell, across and down together.
    spread: f64,
    /// The share of the figures that stand as high as most.
    level: f64,
    /// The share of the sides of all bounds that lie on the side of the cell.
    cut: f64,
}

impl Boxes {
    fn of(drawn: &DrawnSums, [across, down]: [&Division; 2]) -> Boxes {
        let cell = [across.cell, down.cell];
        let step = (across.count * down.count).div_ceil(MAX_BOUNDS).max(1);
        let mut bounds = Vec::new();
        for number in (0..across.count * down.count).step_by(step) {
            let at = [across.start(number % across.count), down.start(number / across.count)];
            if drawn.count(at, cell) > 0 {
                bounds.push(drawn.bounds(at, cell));
            }
        }
        if bounds.len() < 2 {
            return Boxes::default();
        }
        let count = bounds.len() as f64;
        let spread = |axis: usize| {
            let center = |bound: &[[usize; 2]; 2]| (bound[axis][0] + bound[axis][1]) as f64 / 2.0;
            let mean = bounds.iter().map(center).sum::<f64>() / count;
            let square = bounds.iter().map(|bound| (center(bound) - mean).powi(2)).sum::<f64>();
            (square / count).sqrt() / cell[axis] as f64
        };
        let mut feet: Vec<usize> = bounds.iter().map(|bound| bound[1][1]).collect();
        feet.sort_unstable();
        let most = feet.chunk_by(|a, b| a == b).map(<[usize]>::len).max().unwrap_or(0);
        let sides = bounds.iter().map(|bound| {
            let on = |axis: usize| {
                u32::from(bound[axis][0] == 0) + u32::from(bound[axis][1] == cell[axis])
            };
            on(0) + on(1)
        });
        Boxes {
            spread: spread(0) + spread(1),
            level: most as f64 / count,
            cut: f64::from(sides.sum::<u32>()) / count / 4.0,
        }
    }
}

/// Whether a drawing goes on over a piece of a line, and how much more colors change there than near it.
fn look(ink: &Ink, axis: usize, line: usize, along: (usize, usize)) -> (bool, f64) {
    let (is_cut, here) = change(ink, axis, line, along);
    let size = if axis == 0 { ink.width } else { ink.height };
    let near = [line.wrapping_sub(3), line.wrapping_sub(2), line + 2, line + 3];
    let near = near.iter().filter(|near| (1..size).contains(*near));
    let (sum, count) = near.fold((0.0, 0_u32), |(sum, count), near| {
        (sum + change(ink, axis, *near, along).1, count + 1)
    });
    let inside = sum / f64::from(count.max(1));
    (is_cut, ((here + 0.02) / (inside + 0.02)).ln())
}

fn change(ink: &Ink, axis: usize, line: usize, (from, length): (usize, usize)) -> (bool, f64) {
    let (step, back) = if axis == 0 { (ink.width, 1) } else { (1, ink.width) };
    let mut at = if axis == 0 { from * ink.width + line } else { line * ink.width + from };
    let (mut is_cut, mut sum) = (false, 0_u32);
    for _ in 0..length {
        is_cut |= ink.drawn[at] & ink.drawn[at - back];
        sum += u32::from(difference(ink.pixels[at], ink.pixels[at - back]).min(64));
        at += step;
    }
    (is_cut, f64::from(sum) / 64.0 / length.max(1) as f64)
}
