//! The marks and spans of a clip: where they are, what they set, and what they carry.

use lucky_reel_core::NewClip;

use super::clips::ClipReader;
use super::facts::value_of;
use super::frames::{Counted, listed};
use crate::document::{Entry, Fields, Node, Notes, join};

impl ClipReader<'_, '_> {
    pub(super) fn marks(&self, notes: &mut Notes<'_>, mut clip: NewClip, count: u32) -> NewClip {
        let Some(said) = self.lineage.get("marks") else { return clip };
        let Some(marks) = said.node.table() else {
            notes.say_kind(said.node, &said.path(), "holds by name, such as { step = [1, 3] }");
            return clip;
        };
        for mark in marks {
            let key = join(&said.path(), &mark.key);
            let parts =
                mark.node.list().filter(|parts| parts.iter().any(|it| it.table().is_some()));
            clip = match (parts, mark.node.table()) {
                // A table for some holds each.
                (Some(parts), _) => {
                    let parts = parts.iter();
                    parts.fold(clip, |clip, part| self.mark(notes, clip, (mark, part, &key), count))
                }
                (_, Some(_)) => self.mark(notes, clip, (mark, &mark.node, &key), count),
                _ => clip.mark(&mark.key, self.holds(notes, &mark.node, &key, count)),
            };
        }
        clip
    }

    /// `{ holds = [1, 3], set = { foot = "left" }, data = { sound = "thud" } }`, or one of several such.
    fn mark(
        &self,
        notes: &mut Notes<'_>,
        mut clip: NewClip,
        (mark, part, key): (&Entry, &Node, &str),
        count: u32,
    ) -> NewClip {
        let Some(fields) = notes.fields(part, key, &["holds", "set", "data"]) else { return clip };
        let is_all = part.span == mark.node.span;
        let holds = match fields.get("holds") {
            Some(holds) => self.holds(notes, holds, &join(key, "holds"), count),
            None => {
                let what = "the mark does not list its holds";
                let fix = "say them: { holds = [1, 3], set = { foot = \"left\" } }";
                notes.say(&part.span, &join(key, "holds"), what, fix);
                // Its name is known all the same.
                Vec::new()
            }
        };
        clip = clip.mark(&mark.key, holds.iter().copied());
        for fact in table_of(notes, &fields, (key, "set"), "facts, such as { foot = \"left\" }") {
            let path = join(&join(key, "set"), &fact.key);
            if let Some(value) = value_of(notes, &fact.node, &path, self.kinds.get(&fact.key)) {
                clip = clip.mark_sets(&mark.key, &fact.key, value);
            }
        }
        for datum in table_of(notes, &fields, (key, "data"), "values, such as { damage = 5 }") {
            let path = join(&join(key, "data"), &datum.key);
            let Some(value) = value_of(notes, &datum.node, &path, None) else { continue };
            clip = match is_all {
                true => clip.mark_data(&mark.key, &datum.key, value),
                false => holds.iter().fold(clip, |clip, hold| {
                    clip.mark_data_at(&mark.key, *hold, &datum.key, value.clone())
                }),
            };
        }
        clip
    }

    pub(super) fn spans(&self, notes: &mut Notes<'_>, mut clip: NewClip, count: u32) -> NewClip {
        let Some(said) = self.lineage.get("spans") else { return clip };
        let Some(spans) = said.node.table() else {
            notes.say_kind(said.node, &said.path(), "holds by name, such as { open = \"3 to 5\" }");
            return clip;
        };
        for span in spans {
            let key = join(&said.path(), &span.key);
            let mut holds = self.holds(notes, &span.node, &key, count);
            holds.sort_unstable();
            for stretch in holds.chunk_by(|a, b| *b <= a + 1) {
                clip = clip.span(&span.key, stretch[0]..=stretch[stretch.len() - 1]);
            }
        }
        clip
    }

    /// Holds of this clip, counted from 0.
    pub(super) fn holds(
        &self,
        notes: &mut Notes<'_>,
        node: &Node,
        key: &str,
        count: u32,
    ) -> Vec<u32> {
        let counted = Counted { what: "holds", count, timed: false, all: false, names: None };
        let holds = listed(notes, node, key, counted);
        holds.into_iter().flatten().map(|hold| hold.number).collect()
    }
}

/// The entries of a table in a field, if there is one.
fn table_of<'n>(
    notes: &mut Notes<'_>,
    fields: &Fields<'n>,
    (path, key): (&str, &str),
    wanted: &str,
) -> &'n [Entry] {
    let Some(node) = fields.get(key) else { return &[] };
    if node.table().is_none() {
        notes.say_kind(node, &join(path, key), wanted);
    }
    node.table().unwrap_or_default()
}
