//! `[facings.NAME]`: the clip of each facing, added to what rows have made; and what the defaults mirror.

use lucky_reel_core::problem::Section;
use lucky_reel_core::{Facing, NewFacings};

use super::To;
use super::clips::SetsByRows;
use super::origins::{Elsewhere, Home, Origin};
use super::shared_values::{align, facing};
use crate::document::{Fields, Node, Notes, Value, join};

pub(super) fn read(
    to: &mut To<'_, '_>,
    (facings, defaults): (Option<&Node>, Option<&Node>),
    mut by_rows: SetsByRows,
) {
    let mirrors = Mirrors::read(to.notes, defaults.and_then(|defaults| defaults.get("mirror")));
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
        let (mut own, mut given): (Vec<Facing>, Vec<Facing>) = (Vec::new(), Vec::new());
        for (facing, clip) in &rows {
            own.push(*facing);
            set = set.clip(*facing, clip);
        }
        let known: [&'static str; 9] =
            std::array::from_fn(|nth| Facing::ALL.get(nth).map_or("align", |facing| facing.name()));
        let fields = to.notes.fields(&entry.node, &path, &known);
        for (key, field) in fields.iter().flat_map(Fields::iter) {
            let path = join(&path, &field.key);
            if let Some(facing) = Facing::from_name(key) {
                given.push(facing);
                own.extend(field.node.text().map(|_| facing));
            }
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
        let mut origin = Origin::new(home, &entry.key, entry);
        set = mirrors.add(set, &own, &given, &mut origin);
        to.origin(Section::Facings, origin);
        to.builder.facings(&entry.key, set);
        to.incomplete_since(before, Section::Facings, &entry.key);
    }
    // Those that a facing set of the file took in are empty.
    for (name, rows) in by_rows.iter().filter(|(_, rows)| !rows.clips.is_empty()) {
        let (span, path) = (rows.span.clone(), join("clips", name));
        let mut origin = Origin::named(rows.home, name, path, span);
        let set = rows.clips.iter().fold(NewFacings::new(), |set, (of, clip)| set.clip(*of, clip));
        let own: Vec<Facing> = rows.clips.iter().map(|(of, _)| *of).collect();
        let set = mirrors.add(set, &own, &[], &mut origin);
        to.origin(Section::Facings, origin);
        to.builder.facings(name, set);
    }
}

/// Which side mirrors which in a whole file, and the marks that change places there: of the defaults,
/// `mirror = { left = "right", swap = { step-left = "step-right" } }`.
#[derive(Default)]
struct Mirrors<'n> {
    of: Vec<(Facing, Facing)>,
    swap: Vec<(&'n str, &'n str)>,
}

impl<'n> Mirrors<'n> {
    fn read(notes: &mut Notes<'_>, node: Option<&'n Node>) -> Mirrors<'n> {
        let (mut mirrors, path) = (Mirrors::default(), "defaults.mirror");
        let known: [&'static str; 9] =
            std::array::from_fn(|nth| Facing::ALL.get(nth).map_or("swap", |facing| facing.name()));
        let fields = node.and_then(|node| notes.fields(node, path, &known));
        for (key, field) in fields.iter().flat_map(Fields::iter) {
            let path = join(path, key);
            let Some(of) = Facing::from_name(key) else {
                mirrors.swap = read_swap(notes, &field.node, &path);
                continue;
            };
            let Some(base) = field.node.text() else {
                notes.say_kind(&field.node, &path, "the facing that it mirrors");
                continue;
            };
            mirrors.of.extend(facing(notes, &field.node, &path, base).map(|base| (of, base)));
        }
        mirrors
    }

    /// Adds what a set does not say itself, of facings that have art of their own.
    fn add(
        &self,
        set: NewFacings,
        own: &[Facing],
        given: &[Facing],
        origin: &mut Origin,
    ) -> NewFacings {
        let is_open = |of: &Facing| !own.contains(of) && !given.contains(of);
        let open = self.of.iter().filter(|(of, base)| is_open(of) && own.contains(base));
        open.fold(set, |set, (of, base)| {
            let path = "defaults.mirror".to_owned();
            origin.elsewhere.push((of.name(), Elsewhere { home: None, word: "mirror", path }));
            set.mirror_swapping(*of, *base, self.swap.iter().copied())
        })
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
    let swap = fields.get("swap");
    let swap = swap.map(|node| read_swap(notes, node, &join(path, "swap"))).unwrap_or_default();
    set.mirror_swapping(of, base, swap)
}

/// Marks that change places: `{ step-left = "step-right" }`.
fn read_swap<'n>(notes: &mut Notes<'_>, node: &'n Node, path: &str) -> Vec<(&'n str, &'n str)> {
    if node.table().is_none() {
        notes.say_kind(node, path, "marks, such as { step-left = \"step-right\" }");
    }
    let pairs = node.table().unwrap_or_default().iter().filter_map(|pair| match pair.node.text() {
        Some(other) => Some((pair.key.as_str(), other)),
        None => {
            notes.say_kind(&pair.node, &join(path, &pair.key), "the name of a mark");
            None
        }
    });
    pairs.collect()
}
