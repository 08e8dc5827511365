//! What speaks for and against one division of an axis.
//!
//! A drawing mostly ends within its cell, so little goes on over a border; frames of one figure are alike
//! at the distance of a cell; a border of opaque cells is an edge. None of these is enough, so they are
//! weighed together: see `weights.rs`.

use super::division::{Division, Ending};
use super::lines::Lines;

/// So many kinds of evidence there are for an axis.
pub(crate) const KINDS: usize = 32;

/// What is also put into words: free lines within cells, likeness at the distance of a cell above that
/// near it, and a better likeness at a smaller distance.
pub(super) const WITHIN: usize = 6;
pub(super) const LIKENESS: usize = 8;
pub(super) const BETTER_BELOW: usize = 9;

/// The evidence for a division, in the order of [`weights::NAMES`](super::weights::NAMES).
pub(super) fn evidence(lines: &Lines, division: &Division) -> [f64; KINDS] {
    let (cell, gap, period) = (division.cell, division.gap, division.period());
    let flag = |on: bool| f64::from(u8::from(on));
    let mut all = [0.0; KINDS];
    let multiples = [flag(cell.is_multiple_of(8)), flag(cell.is_multiple_of(16))];
    let size = ((cell as f64).log2() - 5.0).powi(2);
    let dirt = mean(division.free_lines().map(|line| 1.0 - lines.plain[line]));
    let is_left_over = division.ending == Ending::LeftOver;
    // Images are filled up to a power of two.
    all[27] = flag(is_left_over && lines.count().is_power_of_two());
    if division.count == 1 {
        all[14..18].copy_from_slice(&[multiples[0], multiples[1], size, flag(division.margin > 0)]);
        all[23..26].copy_from_slice(&[(5.0 * dirt).min(1.0), 1.0, flag(is_left_over)]);
        all[28] = flag(is_left_over && cell == lines.used.end);
        return all;
    }
    all[29] = flag(is_left_over && division.rest >= period);
    let borders: Vec<usize> =
        division.borders().filter(|line| lines.is_used_border(*line)).collect();
    let usual = lines.usual;
    let count = borders.len() as f64;
    let free = borders.iter().filter(|line| lines.is_free(**line)).count() as f64;
    let parted = |line: usize| lines.is_free(line) || lines.strong[line];
    let parting = borders.iter().filter(|line| parted(**line)).count() as f64;
    let by_chance = usual.free + (1.0 - usual.free) * usual.strong;
    all[0] = likelihood(free, count, 0.96, usual.free).clamp(-6.0, 6.0) / 3.0;
    all[1] = likelihood(parting, count, 0.95, by_chance).clamp(-8.0, 8.0) / 4.0;
    let crossing = mean(borders.iter().map(|line| lines.crossing[*line]));
    all[2] = if usual.crossing > 1e-9 { (crossing / usual.crossing).min(2.0) } else { 0.0 };
    if gap == 0 && !borders.is_empty() {
        let mut ranks: Vec<f64> = borders.iter().map(|line| lines.rank[*line]).collect();
        ranks.sort_by(f64::total_cmp);
        all[3] = if ranks.len() == 1 { ranks[0] - 0.5 } else { ranks[ranks.len() / 4] - 0.25 };
        let hidden = (crossing / usual.crossing.max(0.25)).min(1.0);
        all[4] = (mean(ranks.iter().copied()) - 0.5) * hidden;
        let going_on = mean(borders.iter().map(|line| lines.going_on[*line]));
        all[5] = usual.going_on - if crossing > 1e-9 { going_on / crossing } else { 0.0 };
    }
    // Borders of smaller cells would part as much.
    let within = [cell / 2, cell / 3, 2 * cell / 3].map(|off| {
        let lines_at = (0..division.count).map(|nth| division.start(nth) + off);
        let lines_at: Vec<usize> = lines_at.filter(|line| lines.is_used_border(*line)).collect();
        let free = mean(lines_at.iter().map(|line| flag(lines.is_free(*line))));
        [free, mean(lines_at.iter().map(|line| flag(parted(*line))))]
    });
    all[WITHIN] = within.iter().map(|within| within[0]).fold(0.0, f64::max);
    all[7] = within.iter().map(|within| within[1]).fold(0.0, f64::max);
    // Likeness at the distance of a cell, against distances near it, below it, and parts of it.
    let like = |distance: usize| lines.likeness.get(distance).copied().unwrap_or(0.0);
    let here = like(period);
    let near = (like(period.saturating_sub(3)) + like(period + 3)) / 2.0;
    all[LIKENESS] = ((here - near) / (1.05 - near)).clamp(-1.0, 1.5);
    all[31] = all[LIKENESS] * (division.count as f64).log2();
    let peak = |distance: usize| {
        let value = like(distance);
        (value >= like(distance - 1) && value >= like(distance + 1)).then_some(value)
    };
    let best = (6..period.saturating_sub(3)).filter_map(peak).fold(-1.0, f64::max);
    all[BETTER_BELOW] = (best - here + 0.02).max(0.0);
    let parts = [period / 2, period / 3, 2 * period / 3, period / 4, period / 5].map(like);
    all[10] = (parts.into_iter().fold(-1.0, f64::max) - here).clamp(-1.0, 1.0);
    if gap == 0 {
        let parts = (2..=5).filter(|part| cell.is_multiple_of(*part)).map(|part| {
            let at = (0..division.count).flat_map(|nth| (1..part).map(move |k| (nth, k)));
            let at = at.map(|(nth, k)| division.start(nth) + k * cell / part);
            let at = at.filter(|line| lines.is_used_border(*line));
            mean(at.map(|line| lines.rank[line])) - 0.5
        });
        all[30] = parts.fold(-0.5, f64::max);
    }
    all[11] = here * (1.0 - usual.free);
    all[12] = folded(lines, division).max(-0.5);
    // Figures that fill their cells from side to side.
    let full: Vec<usize> = (0..division.count)
        .map(|nth| division.start(nth))
        .filter(|start| !lines.is_empty(*start..*start + cell))
        .collect();
    let touches = |start: usize| lines.drawn[start] > 0 && lines.drawn[start + cell - 1] > 0;
    all[13] = mean(full.iter().map(|start| flag(touches(*start))));
    all[14..17].copy_from_slice(&[multiples[0], multiples[1], size]);
    all[17] = flag(division.margin > 0);
    all[18] = flag(gap > 0 && division.margin == gap);
    all[19] = flag(division.ending == Ending::Gap);
    all[20] = flag(is_left_over);
    all[21] = mean(division.gap_lines().map(|line| flag(lines.gap_share[line] > 0.5)));
    if gap > 0 {
        let edges =
            division.borders().map(|start| lines.change[start - gap].min(lines.change[start]));
        all[22] = mean(edges);
    }
    all[23] = (5.0 * dirt).min(1.0);
    // Cells at the end in which nothing is drawn.
    let empty = division.count - full.len();
    all[26] = empty as f64 / division.count as f64;
    all
}

/// The mean; 0 of nothing.
pub(super) fn mean(values: impl Iterator<Item = f64>) -> f64 {
    let (sum, count) = values.fold((0.0, 0_u32), |(sum, count), value| (sum + value, count + 1));
    sum / f64::from(count.max(1))
}

/// How much likelier it is that so many of `count` borders part figures if each does by `expected`, than
/// by chance.
fn likelihood(parting: f64, count: f64, expected: f64, by_chance: f64) -> f64 {
    let by_chance = by_chance.clamp(0.03, 0.97);
    let odds = |part: f64, one: f64, other: f64| part * (one / other).ln();
    odds(parting, expected, by_chance) + odds(count - parting, 1.0 - expected, 1.0 - by_chance)
}

/// How much of the changes from line to line is explained by their place in the cell: R², adjusted for
/// the number of places.
fn folded(lines: &Lines, division: &Division) -> f64 {
    let period = division.period();
    let range = lines.used.start + 1..lines.used.end;
    let (count, groups) = (range.len(), period.min(range.len()));
    if count <= groups + 1 {
        return -0.5;
    }
    let mean = mean(range.clone().map(|line| lines.change[line]));
    let mut sums = vec![(0.0, 0_u32); period];
    let mut total = 0.0;
    for line in range {
        let change = lines.change[line] - mean;
        let place = &mut sums[(line + period - division.margin % period) % period];
        *place = (place.0 + change, place.1 + 1);
        total += change * change;
    }
    if total < 1e-12 {
        return 0.0;
    }
    let explained: f64 = sums.iter().map(|(sum, of)| sum * sum / f64::from((*of).max(1))).sum();
    1.0 - (1.0 - explained / total) * (count - 1) as f64 / (count - groups) as f64
}
