//! Which frames: `4`, `"5 for 80ms"`, `"4 to 2"`, `"all"`, and lists of these.

use std::ops::Range;

use lucky_reel_core::ExactTime;

use super::sheet::Sheet;
use crate::document::{Node, Notes};
use crate::index::Index;
use crate::pictures::Pictures;
use crate::time_text::parse_time;

/// A frame, its own time if it has one, and where it was written.
#[derive(Clone, Debug)]
pub(super) struct Listed {
    pub(super) number: u32,
    pub(super) time: Option<ExactTime>,
    pub(super) span: Range<usize>,
}

/// What is counted, for messages: `frames`, `columns` or `holds`; how many there are; whether they
/// may have times of their own; and whether `all` means all of them.
#[derive(Clone, Copy)]
pub(super) struct Counted<'c> {
    pub(super) what: &'c str,
    pub(super) count: u32,
    pub(super) timed: bool,
    pub(super) all: bool,
    /// Names that some of them have.
    pub(super) names: Option<&'c Index<u32>>,
}

/// Reads numbers as a reel file writes them. Problems are reported, and left out of the result.
pub(super) fn listed(
    notes: &mut Notes<'_>,
    node: &Node,
    key: &str,
    counted: Counted<'_>,
) -> Option<Vec<Listed>> {
    let mut numbers = Vec::new();
    let single = std::slice::from_ref(node);
    for item in node.list().unwrap_or(single) {
        let (from, to, time) = read_item(notes, item, key, counted)?;
        let last = counted.count.saturating_sub(1);
        if from.max(to) > last {
            let what = format!("there is no {} {}", singular(counted.what), from.max(to));
            let fix = format!("the {} are 0 to {last}, counted from 0", counted.what);
            notes.say(&item.span, key, what, fix);
            return None;
        }
        spend(notes, item, key, from.abs_diff(to) as usize + 1)?;
        let mut push = |number| numbers.push(Listed { number, time, span: item.span.clone() });
        if from <= to {
            (from..=to).for_each(&mut push);
        } else {
            (to..=from).rev().for_each(&mut push);
        }
    }
    Some(numbers)
}

/// Takes so much of what a file may list.
fn spend(notes: &mut Notes<'_>, node: &Node, key: &str, count: usize) -> Option<()> {
    match notes.listable.checked_sub(count) {
        Some(left) => notes.listable = left,
        None => {
            let what = "the file lists more frames and marks than a reel can hold";
            notes.say(&node.span, key, what, "split the file");
            return None;
        }
    }
    Some(())
}

fn singular(plural: &str) -> &str {
    plural.strip_suffix('s').unwrap_or(plural)
}

/// An item of a list of frames as it is written: `4`, `"4 to 2"`, `"all"`, a name, each perhaps with a time.
pub(super) struct Item<'n> {
    pub(super) numbers: Numbers<'n>,
    pub(super) time: Option<&'n str>,
}

/// Which frames an item names.
#[derive(Clone, Copy, Debug)]
pub(super) enum Numbers<'n> {
    Range(u32, u32),
    All,
    /// A cutout, or nothing that is known.
    Name(&'n str),
}

impl<'n> Item<'n> {
    /// `None` for neither a whole number nor a text. A time is looked for where one may be.
    pub(super) fn read(item: &'n Node, timed: bool) -> Option<Item<'n>> {
        if let Some(number) = item.whole() {
            return Some(Item { numbers: Numbers::Range(number, number), time: None });
        }
        let text = item.text()?;
        let (numbers, time) = match text.split_once(" for ").filter(|_| timed) {
            Some((numbers, time)) => (numbers.trim(), Some(time.trim())),
            None => (text.trim(), None),
        };
        let range = match numbers.split_once(" to ") {
            None => numbers.parse().ok().map(|number| (number, number)),
            Some((from, to)) => from.trim().parse().ok().zip(to.trim().parse().ok()),
        };
        let numbers = match range {
            Some((from, to)) => Numbers::Range(from, to),
            None if numbers == "all" => Numbers::All,
            None => Numbers::Name(numbers),
        };
        Some(Item { numbers, time })
    }
}

impl Numbers<'_> {
    /// How many frames these are; as many as there are, where it does not say.
    pub(super) fn count(&self) -> Option<usize> {
        match self {
            Numbers::Range(from, to) => Some(from.abs_diff(*to) as usize + 1),
            Numbers::All => None,
            Numbers::Name(_) => Some(1),
        }
    }
}

/// One item: from, to, and the time of each.
fn read_item(
    notes: &mut Notes<'_>,
    node: &Node,
    key: &str,
    counted: Counted<'_>,
) -> Option<(u32, u32, Option<ExactTime>)> {
    let Some(item) = Item::read(node, counted.timed) else {
        let example =
            if counted.timed { "4, \"4 to 2\" or \"5 for 80ms\"" } else { "4 or \"4 to 2\"" };
        notes.say_kind(node, key, &format!("whole numbers from 0, such as {example}"));
        return None;
    };
    let time = match item.time.map(|text| (text, parse_time(text))) {
        None => None,
        Some((_, Ok(time))) => Some(time),
        Some((text, Err(error))) => {
            let what = format!("`{text}` is not a duration");
            notes.say(&node.span, key, what, error.to_string());
            return None;
        }
    };
    let range = match item.numbers {
        Numbers::Range(from, to) => Some((from, to)),
        Numbers::All if counted.all => Some((0, counted.count.saturating_sub(1))),
        Numbers::All => None,
        Numbers::Name(name) => {
            let number = counted.names.and_then(|names| names.get(name));
            number.map(|number| (*number, *number))
        }
    };
    let Some((from, to)) = range else {
        let all = if counted.all { ", \"all\"" } else { "" };
        let timed = if counted.timed { " or \"5 for 80ms\"" } else { "" };
        let what = format!("`{}` names no {}", node.text().unwrap_or_default(), counted.what);
        notes.say(&node.span, key, what, format!("write such as 4, \"4 to 2\"{all}{timed}"));
        return None;
    };
    Some((from, to, time))
}

/// The frames of one row or column, with `take` of them, or up to the last cell that is not empty.
pub(super) fn along(
    notes: &mut Notes<'_>,
    sheet: &Sheet,
    line: (&Node, &str, Along),
    take: Option<(&Node, String)>,
    pictures: &mut Pictures<'_, '_>,
) -> Option<Vec<Listed>> {
    let (node, key, along) = line;
    let Some([columns, rows]) = sheet.cut.cells else {
        // A sheet without frames is at fault itself.
        if sheet.frame_count() > 0 {
            let what = format!("the sheet has no {}s, for it is not cut by a grid", along.name());
            notes.say(&node.span, key, what, "list its frames: frames = \"0 to 3\"");
        }
        return None;
    };
    let (lines, across, length) = match along {
        Along::Row => (rows, "columns", columns),
        Along::Column => (columns, "rows", rows),
    };
    let Some(number) = node.whole() else {
        notes.say_kind(node, key, "a whole number from 0");
        return None;
    };
    if number >= lines {
        let name = along.name();
        let what = format!("the sheet has no {name} {number}");
        let fix = format!("its {name}s are 0 to {}, counted from 0", lines - 1);
        notes.say(&node.span, key, what, fix);
        return None;
    }
    let frame_at = |nth: u32| match along {
        Along::Row => number * columns + nth,
        Along::Column => nth * columns + number,
    };
    let taken = match take {
        Some((take, take_key)) => {
            let counted =
                Counted { what: across, count: length, timed: true, all: true, names: None };
            listed(notes, take, &take_key, counted)?
        }
        None => {
            let filled =
                filled_cells(notes, sheet, pictures, (0..length).map(frame_at), node, key)?;
            if filled == 0 {
                let what = format!("nothing is drawn in {} {number}", along.name());
                let fix = "name another one, or say which cells to take: take = \"0 to 3\"";
                notes.say(&node.span, key, what, fix);
                return None;
            }
            spend(notes, node, key, filled as usize)?;
            let span = node.span.clone();
            (0..filled).map(|number| Listed { number, time: None, span: span.clone() }).collect()
        }
    };
    let frames =
        taken.into_iter().map(|listed| Listed { number: frame_at(listed.number), ..listed });
    // With a count the last row may be shorter than the others.
    let (inside, outside): (Vec<_>, Vec<_>) =
        frames.partition(|frame| frame.number < sheet.frame_count());
    if let Some(frame) = outside.first() {
        let what = format!("cell {} is beyond the grid's `count`", frame.number);
        let fix = format!("the frames are 0 to {}", sheet.frame_count() - 1);
        notes.say(&frame.span, key, what, fix);
        return None;
    }
    Some(inside)
}

#[derive(Clone, Copy)]
pub(super) enum Along {
    Row,
    Column,
}

impl Along {
    fn name(self) -> &'static str {
        match self {
            Along::Row => "row",
            Along::Column => "column",
        }
    }
}

/// How many cells there are up to the last one that is not empty.
fn filled_cells(
    notes: &mut Notes<'_>,
    sheet: &Sheet,
    pictures: &mut Pictures<'_, '_>,
    frames: impl DoubleEndedIterator<Item = u32> + ExactSizeIterator,
    node: &Node,
    key: &str,
) -> Option<u32> {
    let picture = match pictures.picture(&sheet.on.image) {
        Ok(picture) => picture,
        Err(problem) => {
            notes.say(&node.span, key, problem.message(), problem.fix());
            return None;
        }
    };
    let empty = |frame: u32| sheet.source_of(frame).is_none_or(|rect| picture.is_empty_at(rect));
    let last = frames.enumerate().rfind(|(_, frame)| !empty(*frame));
    Some(last.map_or(0, |(nth, _)| nth as u32 + 1))
}
