//! `[facings.NAME]`: the clip of each facing, added to what rows have made.

use lucky_reel_core::{Facing, NewFacings, ReelBuilder};

use super::clips::SetsByRows;
use super::origins::{Origin, Origins};
use super::parts::{align, facing};
use crate::document::{Node, Notes, Value, join};

pub(super) fn read(
    builder: &mut ReelBuilder,
    notes: &mut Notes<'_>,
    facings: Option<&Node>,
    mut by_rows: SetsByRows,
    origins: &mut Origins,
) {
    let entries = match facings.map(|node| (node, node.table())) {
        Some((node, None)) => {
            notes.say_kind(node, "facings", "tables, such as [facings.walk]");
            &[]
        }
        Some((_, Some(entries))) => entries,
        None => &[],
    };
    for entry in entries {
        let path = join("facings", &entry.key);
        let origin = Origin { span: entry.key_span.clone(), key: path.clone() };
        origins.name("facings", &entry.key, origin);
        let rows = by_rows.remove(&entry.key).unwrap_or_default();
        let of_rows = |facing: Facing| rows.iter().any(|(of_row, _)| *of_row == facing);
        let mut set = NewFacings::new();
        for (facing, clip) in &rows {
            set = set.clip(*facing, clip);
        }
        let known: [&'static str; 9] =
            std::array::from_fn(|nth| Facing::ALL.get(nth).map_or("align", |facing| facing.name()));
        let Some(fields) = notes.fields(&entry.node, &path, &known) else { continue };
        for field in fields.entries {
            let path = join(&path, &field.key);
            origins.key("facings", &entry.key, &field.key, &field.node, &path);
            match Facing::from_name(&field.key) {
                // Art of its own comes before a mirror.
                Some(of) if of_rows(of) && field.node.table().is_some() => {}
                Some(of) => set = read_facing(notes, &field.node, &path, of, set),
                None if field.key == "align" => {
                    set = match align(notes, &field.node, &path) {
                        Some(align) => set.align(align),
                        None => set,
                    };
                }
                None => {}
            }
        }
        builder.facings(&entry.key, set);
    }
    for (name, rows) in by_rows {
        let set = rows.into_iter().fold(NewFacings::new(), |set, (of, clip)| set.clip(of, clip));
        builder.facings(&name, set);
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
        let what = "it is not said which facing is mirrored";
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
