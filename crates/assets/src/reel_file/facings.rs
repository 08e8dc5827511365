//! `[facings.NAME]`: the clip of each facing, added to what rows have made.

use lucky_reel_core::problem::Section;
use lucky_reel_core::{Facing, NewFacings};

use super::To;
use super::clips::SetsByRows;
use super::origins::{Home, Origin};
use super::shared_values::{align, facing};
use crate::document::{Fields, Node, Notes, Value, join};

pub(super) fn read(to: &mut To<'_, '_>, facings: Option<&Node>, mut by_rows: SetsByRows) {
    let entries = match facings.map(|node| (node, node.table())) {
        Some((node, None)) => {
            to.notes.say_kind(node, "facings", "tables, such as [facings.walk]");
            &[]
        }
        Some((_, Some(entries))) => entries,
        None => &[],
    };
    for (nth, entry) in entries.iter().enumerate() {
        let (path, before) = (join("facings", &entry.key), to.notes.found);
        let rows = by_rows.get_mut(&entry.key).map(|rows| std::mem::take(&mut rows.clips));
        let rows = rows.unwrap_or_default();
        let of_rows = |facing: Facing| rows.iter().any(|(of_row, _)| *of_row == facing);
        let mut set = NewFacings::new();
        for (facing, clip) in &rows {
            set = set.clip(*facing, clip);
        }
        let known: [&'static str; 9] =
            std::array::from_fn(|nth| Facing::ALL.get(nth).map_or("align", |facing| facing.name()));
        let fields = to.notes.fields(&entry.node, &path, &known);
        for (key, field) in fields.iter().flat_map(Fields::iter) {
            let path = join(&path, &field.key);
            match Facing::from_name(key) {
                // Art of its own comes before a mirror.
                Some(of) if of_rows(of) && field.node.table().is_some() => {}
                Some(of) => set = read_facing(to.notes, &field.node, &path, of, set),
                None => {
                    set = match align(to.notes, &field.node, &path) {
                        Some(align) => set.align(align),
                        None => set,
                    };
                }
            }
        }
        let home = Home { table: "facings", entry: nth };
        to.origin(Section::Facings, Origin::new(home, &entry.key, entry));
        to.builder.facings(&entry.key, set);
        to.incomplete_since(before, Section::Facings, &entry.key);
    }
    // Those that a facing set of the file took in are empty.
    for (name, rows) in by_rows.iter().filter(|(_, rows)| !rows.clips.is_empty()) {
        let (span, path) = (rows.span.clone(), join("clips", name));
        to.origin(Section::Facings, Origin::named(rows.home, name, path, span));
        let set = rows.clips.iter().fold(NewFacings::new(), |set, (of, clip)| set.clip(*of, clip));
        to.builder.facings(name, set);
    }
}

/// `"walk-left"`, or `{ mirror = "right", swap = { step-left = "step-right" } }`.
fn read_facing(
    notes: &mut Notes<'_>,
    node: &Node,
    path: &str,
    of: Facing,
    set: NewFacings,
) -> NewFacings {
    if let Some(clip) = node.text() {
        return set.clip(of, clip);
    }
    if !matches!(node.value, Value::Table(_)) {
        notes.say_kind(node, path, "the name of a clip, or { mirror = \"right\" }");
        return set;
    }
    let Some(fields) = notes.fields(node, path, &["mirror", "swap"]) else { return set };
    let Some((mirror, base)) = fields.get("mirror").and_then(|node| Some((node, node.text()?)))
    else {
        let what = "it does not say which facing is mirrored";
        notes.say(&node.span, path, what, "write { mirror = \"right\" }");
        return set;
    };
    let Some(base) = facing(notes, mirror, &join(path, "mirror"), base) else { return set };
    let swap = match fields.get("swap").map(|node| (node, node.table())) {
        None => &[],
        Some((_, Some(entries))) => entries,
        Some((node, None)) => {
            notes.say_kind(
                node,
                &join(path, "swap"),
                "marks, such as { step-left = \"step-right\" }",
            );
            &[]
        }
    };
    let pairs = swap.iter().filter_map(|pair| match pair.node.text() {
        Some(other) => Some((pair.key.as_str(), other)),
        None => {
            notes.say_kind(&pair.node, &join(&join(path, "swap"), &pair.key), "the name of a mark");
            None
        }
    });
    set.mirror_swapping(of, base, pairs.collect::<Vec<_>>())
}
