//! Named places and rectangles on the frames of a sheet.

use super::cuts::numbers;
use super::frames::{Counted, listed};
use super::sheet::AreaRead;
use crate::document::{Node, Notes, Value, join};
use crate::index::Index;

/// Points by name and frame: `{ lantern = { 0 = [24, 12], 1 = [25, 13] } }`, a frame being a number or
/// a cutout's name.
pub(super) fn read_points(
    notes: &mut Notes<'_>,
    node: &Node,
    path: &str,
    number_of: impl Fn(&str) -> Option<u32>,
) -> Vec<(String, u32, [f32; 2])> {
    let example = "places by name and frame, such as { lantern = { 0 = [24, 12] } }";
    let mut points = Vec::new();
    for point in node.table().unwrap_or_default() {
        let key = join(path, &point.key);
        for entry in point.node.table().unwrap_or_default() {
            let key = join(&key, &entry.key);
            let Some(frame) = number_of(&entry.key) else {
                let what = format!("there is no frame `{}`", entry.key);
                notes.say(&entry.key_span, &key, what, "write a number from 0, or a cutout's name");
                continue;
            };
            match numbers(&entry.node) {
                Some(at) => points.push((point.key.clone(), frame, at)),
                None => {
                    let fix = "write pixels from the cell's top left, such as [24, 12]";
                    notes.say(&entry.node.span, &key, "expected a place on a frame", fix);
                }
            }
        }
        if point.node.table().is_none() {
            notes.say_kind(&point.node, &key, "places by frame, such as { 0 = [24, 12] }");
        }
    }
    if node.table().is_none() {
        notes.say_kind(node, path, example);
    }
    points
}

/// Areas by name and frames: `{ body = { all = [10, 8, 12, 22], "3 to 5" = [8, 8, 16, 22] } }`, in the order
/// in which they are written. `cutouts` are the names of frames.
pub(super) fn read_areas(
    notes: &mut Notes<'_>,
    node: &Node,
    path: &str,
    (count, cutouts): (u32, &Index<u32>),
) -> Vec<AreaRead> {
    let example = "rectangles by name and frames, such as { body = { all = [10, 8, 12, 22] } }";
    let mut areas = Vec::new();
    let counted = Counted { what: "frames", count, timed: false, all: true, names: Some(cutouts) };
    for area in node.table().unwrap_or_default() {
        let key = join(path, &area.key);
        for entry in area.node.table().unwrap_or_default() {
            let key = join(&key, &entry.key);
            let frames =
                Node { span: entry.key_span.clone(), value: Value::Text(entry.key.clone()) };
            let frames = listed(notes, &frames, &key, counted).unwrap_or_default();
            let at = numbers(&entry.node);
            if at.is_none() {
                let fix = "write left, top, width and height in pixels: [10, 8, 12, 22]";
                notes.say(&entry.node.span, &key, "not a rectangle", fix);
            }
            let numbers = || frames.iter().map(|frame| frame.number);
            if let (Some(first), Some(last), Some(at)) = (numbers().min(), numbers().max(), at) {
                let (name, span) = (area.key.clone(), entry.node.span.clone());
                areas.push(AreaRead { name, frames: first..=last, at, span });
            }
        }
        if area.node.table().is_none() {
            notes.say_kind(
                &area.node,
                &key,
                "rectangles by frame, such as { all = [10, 8, 12, 22] }",
            );
        }
    }
    if node.table().is_none() {
        notes.say_kind(node, path, example);
    }
    areas
}
