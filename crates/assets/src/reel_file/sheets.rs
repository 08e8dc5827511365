//! `[sheets.NAME]`: an image, its grid and its pivot.

use std::collections::BTreeMap;

use lucky_reel_core::{Grid, NewSheet, Pivot, ReelBuilder, SheetId};

use super::origins::{Origin, Origins};
use crate::document::{Node, Notes, Value, join};
use crate::pictures::Pictures;

/// A sheet that clips can name.
pub(super) struct Sheet {
    pub(super) id: SheetId,
    pub(super) image: String,
    pub(super) grid: Grid,
    /// Columns and rows; `None` when the sheet is at fault itself.
    pub(super) cells: Option<[u32; 2]>,
    /// How many frames there are.
    pub(super) frames: u32,
}

pub(super) type Sheets = BTreeMap<String, Sheet>;

pub(super) fn read(
    builder: &mut ReelBuilder,
    notes: &mut Notes<'_>,
    sheets: Option<&Node>,
    pictures: &mut Pictures<'_, '_>,
    origins: &mut Origins,
) -> Sheets {
    let mut known = Sheets::new();
    let Some(sheets) = sheets else {
        let remedy = "name an image: [sheets.NAME], image = \"NAME.png\"";
        notes.say(&(0..0), "sheets", "the file names no sheet", remedy);
        return known;
    };
    let Some(entries) = sheets.table() else {
        notes.say_kind(sheets, "sheets", "tables, such as [sheets.bram]");
        return known;
    };
    for entry in entries {
        let path = join("sheets", &entry.key);
        let origin = Origin { span: entry.key_span.clone(), key: path.clone() };
        origins.name("sheets", &entry.key, origin);
        let read = read_sheet(notes, &entry.node, &entry.key, &path, pictures, origins);
        let (image, size, grid, pivot) = read.unwrap_or_default();
        // A sheet at fault is still known by its name, so that its clips are not at fault, too.
        let broken = size == [0, 0];
        let grid = grid.unwrap_or(Grid::cells(if broken { [1, 1] } else { size }));
        let (size, cells) =
            if broken { ([1, 1], None) } else { (size, grid.columns_and_rows(size).ok()) };
        let frames = cells.and_then(|_| grid.cut(size).ok()).map_or(0, |cells| cells.len() as u32);
        let id = builder.sheet(&entry.key, NewSheet::grid(size, grid).pivot(pivot));
        known.insert(entry.key.clone(), Sheet { id, image, grid, cells, frames });
    }
    known
}

type Read = (String, [u32; 2], Option<Grid>, Pivot);

fn read_sheet(
    notes: &mut Notes<'_>,
    node: &Node,
    name: &str,
    path: &str,
    pictures: &mut Pictures<'_, '_>,
    origins: &mut Origins,
) -> Option<Read> {
    let fields = notes.fields(node, path, &["image", "grid", "pivot"])?;
    for entry in fields.entries {
        origins.key("sheets", name, &entry.key, &entry.node, &join(path, &entry.key));
    }
    let key = join(path, "image");
    let Some(image) = fields.get("image") else {
        notes.say(&node.span, &key, "the sheet has no image", "give it one: image = \"NAME.png\"");
        return None;
    };
    let Some(file) = image.text() else {
        notes.say_kind(image, &key, "the path of a PNG, such as \"bram.png\"");
        return None;
    };
    let size = match pictures.size(file) {
        Ok(size) => size,
        Err(problem) => {
            // Told of the picture's own path, at the place that names it.
            let what = format!("{}: {}", problem.path().display(), problem.what());
            let responsible = problem.responsible();
            notes.say(&image.span, &key, what, problem.remedy());
            if let Some(last) = notes.problems.last_mut() {
                (last.responsible, last.cause) = (responsible, problem.cause);
            }
            return None;
        }
    };
    let grid = fields.get("grid").map(|grid| read_grid(notes, grid, &join(path, "grid")));
    let grid = match grid {
        Some(None) => return None,
        Some(Some(grid)) => Some(grid),
        None => None,
    };
    let cell = grid.map_or(size, |grid| grid.cell());
    let pivot =
        fields.get("pivot").and_then(|node| read_pivot(notes, node, &join(path, "pivot"), cell));
    Some((file.to_owned(), size, grid, pivot.unwrap_or_default()))
}

fn read_grid(notes: &mut Notes<'_>, node: &Node, path: &str) -> Option<Grid> {
    let fields = notes.fields(node, path, &["cell", "margin", "gap", "columns", "count"])?;
    let Some(cell) = fields.get("cell") else {
        let remedy = "give width and height of one cell in pixels: cell = [32, 32]";
        notes.say(&node.span, &join(path, "cell"), "the size of a cell is not said", remedy);
        return None;
    };
    let mut grid = Grid::cells(pair(notes, cell, &join(path, "cell"), false)?);
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

/// Pixels across and down: `[2, 3]`, or `2` for both where that is said so.
fn pair(notes: &mut Notes<'_>, node: &Node, key: &str, one_for_both: bool) -> Option<[u32; 2]> {
    let pair = match (node.whole(), node.list()) {
        (Some(both), _) if one_for_both => Some([both, both]),
        (_, Some([across, down])) => across.whole().zip(down.whole()).map(|(x, y)| [x, y]),
        _ => None,
    };
    if pair.is_none() {
        let example = if one_for_both { "[2, 2], or 2 for both" } else { "[32, 32]" };
        let remedy = format!("write whole pixels across and down: {example}");
        notes.say(&node.span, key, "this is no pair of whole numbers of pixels", remedy);
    }
    pair
}

fn whole(notes: &mut Notes<'_>, node: &Node, key: &str) -> Option<u32> {
    let whole = node.whole();
    if whole.is_none() {
        let what = "this is no whole number from 0 to 4294967295";
        notes.say(&node.span, key, what, "write such as 8");
    }
    whole
}

const PIVOTS: [(&str, [f32; 2]); 9] = [
    ("top-left", [0.0, 0.0]),
    ("top", [0.5, 0.0]),
    ("top-right", [1.0, 0.0]),
    ("left", [0.0, 0.5]),
    ("centre", [0.5, 0.5]),
    ("right", [1.0, 0.5]),
    ("bottom-left", [0.0, 1.0]),
    ("bottom", [0.5, 1.0]),
    ("bottom-right", [1.0, 1.0]),
];

fn read_pivot(notes: &mut Notes<'_>, node: &Node, key: &str, cell: [u32; 2]) -> Option<Pivot> {
    if let Some(name) = node.text() {
        if let Some((_, share)) = PIVOTS.iter().find(|(known, _)| *known == name) {
            let at = [0, 1].map(|axis| cell[axis] as f32 * share[axis]);
            return Some(Pivot::At(at));
        }
        let names = PIVOTS.map(|(name, _)| name);
        let remedy = match lucky_reel_core::reel::nearest(name, names) {
            Some(near) => format!("did you mean `{near}`?"),
            None => format!("use one of {}, or pixels such as [16, 30]", names.join(", ")),
        };
        notes.say(&node.span, key, format!("there is no pivot named `{name}`"), remedy);
        return None;
    }
    let number = |node: &Node| match &node.value {
        Value::Number(text) => text.parse::<f32>().ok().filter(|number| number.is_finite()),
        _ => None,
    };
    let pair = match node.list() {
        Some([x, y]) => number(x).zip(number(y)),
        _ => None,
    };
    let Some((x, y)) = pair else {
        let remedy =
            "write pixels from the cell's top left, such as [16, 30], or a name such as \"bottom\"";
        notes.say(&node.span, key, "this is no pivot", remedy);
        return None;
    };
    Some(Pivot::At([x, y]))
}
