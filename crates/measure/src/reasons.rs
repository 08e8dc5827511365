//! What speaks for a guess and against it, in words.

use super::division::{Division, Ending};
use super::evidence::{BETTER_BELOW, LIKENESS, WITHIN};
use super::lines::Lines;
use super::pairs::Borders;
use super::search::{Pair, Search};

/// Sentences for a pair of divisions, and sentences against it; none against a size of cells that was given.
pub(super) fn reasons(
    search: &Search,
    pair: &Pair,
    size_is_given: bool,
) -> (Vec<String>, Vec<String>) {
    let divisions = search.divisions(pair);
    let [across, down] = &divisions;
    let (mut reasons, mut doubts) = (Vec::new(), Vec::new());
    let borders = Borders::between(&search.ink, &search.drawn, [across, down]);
    about_borders(&borders, &mut reasons, &mut doubts);
    let mut alike = Vec::new();
    for axis in [0, 1] {
        let (division, lines) = (&divisions[axis], &search.lines[axis]);
        let evidence = &search.axes[axis][pair.at[axis]].evidence;
        let cells = ["columns", "rows"][axis];
        if division.gap > 0 && division.count > 1 {
            reasons.push(gaps(division, lines, cells));
        }
        if division.count > 1 && evidence[LIKENESS] > 0.25 {
            alike.push((cells, division.period()));
        }
        if evidence[BETTER_BELOW] > 0.15 && !size_is_given {
            doubts.push(format!("{cells} look more alike at a smaller distance"));
        }
        let parts_within = division.count > 1 && evidence[WITHIN] > 0.9 && division.gap == 0;
        if parts_within && !size_is_given {
            doubts.push(format!(
                "lines within the {cells} part drawings as well: they may be smaller"
            ));
        }
        if division.ending == Ending::LeftOver {
            let side = ["on the right", "at the bottom"][axis];
            let rest = counted(division.rest, "pixel");
            doubts.push(format!("{rest} left over {side}, with nothing drawn"));
        }
    }
    let alike = match &alike[..] {
        [(one, a), (other, b)] if a == b => Some(format!("{one} and {other} {a} pixels")),
        [] => None,
        more => {
            let each: Vec<String> =
                more.iter().map(|(cells, period)| format!("{cells} {period} pixels")).collect();
            Some(each.join(" and "))
        }
    };
    reasons.extend(alike.map(|alike| format!("{alike} apart look alike, less so a few off")));
    if across.count * down.count == 1 && !size_is_given {
        doubts.push("nothing parts the image: give --cell if it has several".to_owned());
    } else if across.cell == down.cell {
        reasons.push("the cells are square".to_owned());
    }
    (reasons, doubts)
}

/// What the pixels say where two guesses cut at the same places.
pub(super) fn same_places(one: &[Division; 2], other: &[Division; 2]) -> Option<String> {
    let same = (0..2).all(|axis| {
        one[axis].period() == other[axis].period() && one[axis].count == other[axis].count
    });
    let [across, down] = other;
    let spaces = match (across.gap.max(down.gap), across.margin.max(down.margin)) {
        (0, 0) => "without gaps".to_owned(),
        (gap, margin) => format!("with gap {gap} and margin {margin}"),
    };
    same.then(|| {
        format!("cells of {} x {} {spaces} have the same distance", across.cell, down.cell)
    })
}

fn about_borders(borders: &Borders, reasons: &mut Vec<String>, doubts: &mut Vec<String>) {
    let (all, cut) = (borders.count, borders.count - borders.uncut);
    let edges = borders.parting - borders.uncut;
    match (all, cut) {
        (0, _) => {}
        (1, 0) => reasons.push("no drawing crosses the border".to_owned()),
        (_, 0) => reasons.push(format!("no drawing crosses any of {all} borders")),
        _ if 2 * cut <= all => {
            reasons.push(format!("no drawing crosses {} of {all} borders", borders.uncut));
        }
        _ => {}
    }
    if cut > 0 && 2 * edges >= cut {
        let of = if borders.uncut > 0 { "the other " } else { "" };
        reasons
            .push(format!("colors change more at {edges} of {of}{cut} borders than beside them"));
    } else if cut > 0 {
        let borders = counted(all as usize, "border");
        doubts.push(format!("drawings cross {cut} of {borders}"));
    }
}

fn gaps(division: &Division, lines: &Lines, cells: &str) -> String {
    let colored: Vec<[u8; 4]> = division
        .gap_lines()
        .filter(|line| lines.gap_share[*line] > 0.5)
        .filter_map(|line| lines.gap_color[line])
        .collect();
    let period = division.period();
    match colored.first() {
        Some([r, g, b, _]) if 2 * colored.len() > division.gap * (division.count - 1) => format!(
            "lines of one color (#{r:02x}{g:02x}{b:02x}), {} wide, part the {cells} every {period} pixels",
            counted(division.gap, "pixel")
        ),
        _ => format!(
            "{} of background part the {cells} every {period} pixels",
            counted(division.gap, "pixel")
        ),
    }
}

fn counted(count: usize, what: &str) -> String {
    if count == 1 { format!("1 {what}") } else { format!("{count} {what}s") }
}
