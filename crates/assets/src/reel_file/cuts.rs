//! The values that say how a sheet is cut, where its pivots are, and what of it is transparent.

use lucky_reel_core::{Grid, NewFrame, Pivot, Rect};

use crate::document::{Node, Notes, Value, join};
use crate::index::Index;
use crate::suggestion::did_you_mean;

/// `#rrggbb`.
pub(super) fn hex_color(text: &str) -> Option<[u8; 3]> {
    let digits = text.strip_prefix('#').filter(|digits| digits.len() == 6)?;
    let [_, r, g, b] = u32::from_str_radix(digits, 16).ok()?.to_be_bytes();
    Some([r, g, b])
}

/// Numbers by name, and the frames themselves.
pub(super) type Regions = (Index<u32>, Vec<NewFrame>);

/// `{ stand = [0, 0, 20, 31], … }`: left, top, width and height of each, numbered in their order.
pub(super) fn read_cutouts(
    notes: &mut Notes<'_>,
    node: &Node,
    path: &str,
    size: [u32; 2],
) -> Option<Regions> {
    let Some(entries) = node.table().filter(|entries| !entries.is_empty()) else {
        notes.say_kind(node, path, "rectangles by name, such as { stand = [0, 0, 20, 31] }");
        return None;
    };
    let (mut named, mut frames) = (Index::default(), Vec::new());
    for entry in entries {
        let key = join(path, &entry.key);
        let sides: Option<Vec<u32>> =
            entry.node.list().and_then(|sides| sides.iter().map(Node::whole).collect());
        let Some([x, y, width, height]) = sides.as_deref() else {
            let fix = "write left, top, width and height in pixels: [0, 0, 20, 31]";
            notes.say(&entry.node.span, &key, "not a rectangle", fix);
            return None;
        };
        let rect = Rect::new(*x, *y, *width, *height);
        if !Rect::fits(size, rect) || *width == 0 || *height == 0 {
            let fix = format!("keep it within the image's {} x {} px", size[0], size[1]);
            notes.say(&entry.node.span, &key, "the rectangle is not inside the image", fix);
            return None;
        }
        if !entry.key.starts_with(char::is_alphabetic) || entry.key == "all" {
            let what = "a frame of this name could be read as something else";
            notes.say(
                &entry.key_span,
                &key,
                what,
                "start with a letter, and choose another name than `all`",
            );
            return None;
        }
        named.insert(entry.key.clone(), frames.len() as u32);
        frames.push(NewFrame::at(rect));
    }
    Some((named, frames))
}

pub(super) fn read_grid(notes: &mut Notes<'_>, node: &Node, path: &str) -> Option<Grid> {
    let known = ["cell", "start", "margin", "gap", "columns", "count"];
    let fields = notes.fields(node, path, &known)?;
    let Some(cell) = fields.get("cell") else {
        let fix = "give width and height of one cell in pixels: cell = [32, 32]";
        notes.say(&node.span, &join(path, "cell"), "the size of a cell is not said", fix);
        return None;
    };
    let mut grid = Grid::cell_size(pair(notes, cell, &join(path, "cell"), false)?);
    if let Some(start) = fields.get("start") {
        grid = grid.start(pair(notes, start, &join(path, "start"), false)?);
    }
    if let Some(margin) = fields.get("margin") {
        grid = grid.margin(pair(notes, margin, &join(path, "margin"), true)?);
    }
    if let Some(gap) = fields.get("gap") {
        grid = grid.gap(pair(notes, gap, &join(path, "gap"), true)?);
    }
    if let Some(columns) = fields.get("columns") {
        grid = grid.columns(whole(notes, columns, &join(path, "columns"))?);
    }
    if let Some(count) = fields.get("count") {
        grid = grid.count(whole(notes, count, &join(path, "count"))?);
    }
    Some(grid)
}

/// The cells of a grid that have been packed, and how many make a row:
/// `{ cell = [32, 32], columns = 8, at = [[0, 0], [34, 0], …] }`.
pub(super) fn read_placed_cells(
    notes: &mut Notes<'_>,
    node: &Node,
    path: &str,
    size: [u32; 2],
) -> Option<(Vec<Rect>, u32)> {
    let fields = notes.fields(node, path, &["cell", "columns", "at"])?;
    let (Some(cell), Some(columns), Some(at)) =
        (fields.get("cell"), fields.get("columns"), fields.get("at"))
    else {
        let what = "cells that stand anywhere need `cell`, `columns` and `at`";
        let fix = "write such as { cell = [32, 32], columns = 2, at = [[0, 0], [34, 0]] }";
        notes.say(&node.span, path, what, fix);
        return None;
    };
    let [width, height] = pair(notes, cell, &join(path, "cell"), false)?;
    let key = join(path, "columns");
    let in_row = whole(notes, columns, &key)?;
    if in_row == 0 {
        notes.say(&columns.span, &key, "a row has no cells", "write how many cells are in a row");
        return None;
    }
    let Some(corners) = at.list().filter(|corners| !corners.is_empty()) else {
        let fix = "write the left top pixel of each cell: [[0, 0], [34, 0]]";
        notes.say(&at.span, &join(path, "at"), "there are no cells", fix);
        return None;
    };
    let mut cells = Vec::new();
    for corner in corners {
        let key = join(path, "at");
        let [x, y] = pair(notes, corner, &key, false)?;
        let rect = Rect::new(x, y, width, height);
        if width == 0 || height == 0 || !Rect::fits(size, rect) {
            let fix = format!("keep it within the image's {} x {} px", size[0], size[1]);
            notes.say(&corner.span, &key, "the cell is not inside the image", fix);
            return None;
        }
        cells.push(rect);
    }
    Some((cells, in_row))
}

/// Pixels across and down: `[2, 3]`, or `2` for both where that is said so.
fn pair(notes: &mut Notes<'_>, node: &Node, key: &str, one_for_both: bool) -> Option<[u32; 2]> {
    let pair = match (node.whole(), node.list()) {
        (Some(both), _) if one_for_both => Some([both, both]),
        (_, Some([across, down])) => across.whole().zip(down.whole()).map(|(x, y)| [x, y]),
        _ => None,
    };
    if pair.is_none() {
        let example = if one_for_both { "[2, 2], or 2 for both" } else { "[32, 32]" };
        let fix = format!("write whole pixels across and down: {example}");
        notes.say(&node.span, key, "expected a pair of whole numbers of pixels", fix);
    }
    pair
}

fn whole(notes: &mut Notes<'_>, node: &Node, key: &str) -> Option<u32> {
    let whole = node.whole();
    if whole.is_none() {
        let what = "expected a whole number from 0 to 4294967295";
        notes.say(&node.span, key, what, "write such as 8");
    }
    whole
}

pub(super) fn read_pivot(notes: &mut Notes<'_>, node: &Node, key: &str) -> Option<Pivot> {
    if let Some(name) = node.text() {
        if let Some((_, pivot)) = Pivot::NAMED.iter().find(|(known, _)| *known == name) {
            return Some(*pivot);
        }
        let names = Pivot::NAMED.map(|(name, _)| name);
        let all = || format!("use one of {}, or pixels such as [16, 30]", names.join(", "));
        let fix = did_you_mean(name, names, all);
        notes.say(&node.span, key, format!("there is no pivot named `{name}`"), fix);
        return None;
    }
    let pixels = numbers(node);
    if pixels.is_none() {
        let fix =
            "write pixels from the cell's top left, such as [16, 30], or a name such as \"bottom\"";
        notes.say(&node.span, key, "unknown pivot", fix);
    }
    pixels.map(Pivot::At)
}

/// A list of so many numbers.
pub(super) fn numbers<const N: usize>(node: &Node) -> Option<[f32; N]> {
    let number = |node: &Node| match &node.value {
        Value::Number(text) => text.parse::<f32>().ok().filter(|number| number.is_finite()),
        _ => None,
    };
    let numbers: Option<Vec<f32>> = node.list()?.iter().map(number).collect();
    numbers?.try_into().ok()
}
