//! `[clips.NAME]` and `[defaults]` as written, and what a clip takes over from others.

use std::ops::Range;

use super::origins::{Elsewhere, Home};
use crate::document::{Entry, Fields, Node, Notes, join};
use crate::index::Index;
use crate::suggestion::did_you_mean;

/// The keys of a clip.
const CLIP: [&str; 18] = [
    "sheet", "frames", "row", "column", "rows", "take", "like", "fps", "each", "total", "mode",
    "repeat", "end", "marks", "spans", "rest", "stride", "pivot",
];
/// The keys that every clip may take over.
const DEFAULTS: [&str; 9] =
    ["sheet", "fps", "each", "total", "mode", "repeat", "end", "rest", "mirror"];

/// How many clips one may be like, by way of one another.
const MAX_IDENTICAL: usize = 32;

/// Of these only one says where the frames come from.
pub(super) const FRAMES: [&str; 4] = ["frames", "row", "column", "rows"];
/// Of these only one says how long they stay up.
pub(super) const TIMES: [&str; 3] = ["fps", "each", "total"];

/// All clips of a file as written.
pub(super) struct Entries<'n> {
    list: Vec<Written<'n>>,
    /// Names of clips that are no tables.
    pub(super) unreadable: Vec<&'n str>,
    by_name: Index<usize>,
    defaults: Option<Fields<'n>>,
}

struct Written<'n> {
    entry: &'n Entry,
    /// Its place among the clips of the file.
    nth: usize,
    fields: Fields<'n>,
    /// Whether all of its keys are known and none excludes another.
    sound: bool,
}

/// A value that a clip has said, or taken over.
#[derive(Clone, Copy)]
pub(super) struct Said<'n> {
    pub(super) key: &'static str,
    pub(super) key_span: &'n Range<usize>,
    pub(super) node: &'n Node,
    /// The clip that said it, and where that stands; `None` for the defaults.
    clip: Option<(&'n str, Home)>,
    /// Whether the clip said it itself.
    pub(super) own: bool,
    /// How many clips away it was said.
    distance: usize,
}

impl Said<'_> {
    /// Whether it was said for all clips, and not by this one or one that it is like.
    pub(super) fn is_default(&self) -> bool {
        self.clip.is_none()
    }

    /// For what the core calls by another word or counts to another clip.
    pub(super) fn elsewhere(&self) -> Elsewhere {
        Elsewhere { home: self.clip.map(|(_, home)| home), word: self.key, path: self.path() }
    }

    /// The key where it was said, such as `clips.walk.fps`.
    pub(super) fn path(&self) -> String {
        let above = self.clip.map_or("defaults".to_owned(), |(clip, _)| join("clips", clip));
        join(&above, self.key)
    }
}

/// A clip with the clips it is like, nearest first.
pub(super) struct Lineage<'e, 'n> {
    entries: &'e Entries<'n>,
    /// Each with the row that was picked of its rows, if any.
    members: Vec<(usize, Option<&'n str>)>,
}

impl<'n> Entries<'n> {
    pub(super) fn read(
        notes: &mut Notes<'_>,
        defaults: Option<&'n Node>,
        clips: Option<&'n Node>,
    ) -> Entries<'n> {
        let defaults = defaults.and_then(|node| notes.fields(node, "defaults", &DEFAULTS));
        if let Some(fields) = &defaults {
            one_of(notes, fields, "defaults", &TIMES);
        }
        let (mut list, mut unreadable) = (Vec::new(), Vec::new());
        match clips.map(|node| (node, node.table())) {
            None => {}
            Some((node, None)) => notes.say_kind(node, "clips", "tables, such as [clips.walk]"),
            Some((_, Some(clips))) => {
                for (nth, entry) in clips.iter().enumerate() {
                    let (path, before) = (join("clips", &entry.key), notes.found);
                    let Some(fields) = notes.fields(&entry.node, &path, &CLIP) else {
                        unreadable.push(&*entry.key);
                        continue;
                    };
                    one_of(notes, &fields, &path, &FRAMES);
                    one_of(notes, &fields, &path, &TIMES);
                    let sound = notes.found == before;
                    list.push(Written { entry, nth, fields, sound });
                }
            }
        }
        let mut by_name = Index::default();
        for (nth, written) in list.iter().enumerate() {
            by_name.insert(written.entry.key.clone(), nth);
        }
        Entries { list, unreadable, by_name, defaults }
    }

    pub(super) fn len(&self) -> usize {
        self.list.len()
    }

    pub(super) fn entry(&self, index: usize) -> &'n Entry {
        self.list[index].entry
    }

    /// Where an entry stands.
    pub(super) fn home(&self, index: usize) -> Home {
        Home { table: "clips", entry: self.list[index].nth }
    }

    pub(super) fn is_sound(&self, index: usize) -> bool {
        self.list[index].sound
    }

    /// The clip of an entry together with all that it takes over.
    pub(super) fn lineage(&self, notes: &mut Notes<'_>, index: usize) -> Lineage<'_, 'n> {
        let mut members = vec![(index, None)];
        let mut at = index;
        while let Some(like) = self.list[at].fields.get("like") {
            let key = format!("clips.{}.like", self.entry(at).key);
            let own = at == index;
            let Some(name) = like.text() else {
                if own {
                    notes.say_kind(like, &key, "the name of a clip");
                }
                break;
            };
            let Some((found, row)) = self.find(name) else {
                if own {
                    let names = self.list.iter().map(|written| &*written.entry.key);
                    let fix = did_you_mean(name, names, || "name a clip of this file".to_owned());
                    notes.say(&like.span, &key, format!("there is no clip `{name}`"), fix);
                }
                break;
            };
            if members.iter().any(|(member, _)| *member == found) {
                if own {
                    let what = "the clip is like itself, by way of others";
                    notes.say(&like.span, &key, what, "leave out `like` in one of them");
                }
                break;
            }
            if members.len() >= MAX_IDENTICAL {
                if own {
                    let what = "the clip is like too many others, by way of one another";
                    notes.say(&like.span, &key, what, "let it be like one of the last of them");
                }
                break;
            }
            members.push((found, row));
            at = found;
        }
        Lineage { entries: self, members }
    }

    /// The entry that makes a clip of this name, with the row where its rows make it.
    pub(super) fn find(&self, name: &str) -> Option<(usize, Option<&'n str>)> {
        if let Some(found) = self.by_name.get(name) {
            return Some((*found, None));
        }
        let mut dashes = name.match_indices('-');
        dashes.find_map(|(dash, _)| {
            let found = *self.by_name.get(&name[..dash])?;
            let row = self.rows_of(found)?.iter().find(|row| row.key == name[dash + 1..])?;
            Some((found, Some(&*row.key)))
        })
    }

    /// The rows of an entry: its own, or those of the entry that it is like.
    fn rows_of(&self, index: usize) -> Option<&'n [Entry]> {
        let mut fields = &self.list[index].fields;
        for _ in 0..MAX_IDENTICAL {
            if let Some(said) = FRAMES.iter().find_map(|key| fields.entry(key)) {
                return (said.key == "rows").then(|| said.node.table())?;
            }
            fields = &self.list[*self.by_name.get(fields.get("like")?.text()?)?].fields;
        }
        None
    }
}

/// Refuses two keys of which only one can be meant.
fn one_of(notes: &mut Notes<'_>, fields: &Fields<'_>, path: &str, keys: &[&str]) {
    let said: Vec<(&str, &Entry)> = fields.iter().filter(|(key, _)| keys.contains(key)).collect();
    if let [(one, _), (other, second), ..] = said[..]
        && one != other
    {
        let what = format!("both `{one}` and `{other}` are given");
        let fix = format!("keep one of {}", keys.join(", "));
        notes.say(&second.key_span, &join(path, &second.key), what, fix);
    }
}

impl<'n> Lineage<'_, 'n> {
    /// The first of these keys that is said, by the clip itself, by those it is like, or by the
    /// defaults.
    pub(super) fn first_of(&self, keys: &[&'static str]) -> Option<Said<'n>> {
        let members = self.members.iter().enumerate();
        let said = members.flat_map(|(distance, (index, _))| {
            let written = &self.entries.list[*index];
            let said = move |key: &&'static str| {
                let Entry { key_span, node, .. } = written.fields.entry(key)?;
                let home = Home { table: "clips", entry: written.nth };
                let clip = Some((&*written.entry.key, home));
                Some(Said { key, key_span, node, clip, own: distance == 0, distance })
            };
            keys.iter().filter_map(said).collect::<Vec<_>>()
        });
        let by_default = || {
            let fields = self.entries.defaults.as_ref()?;
            keys.iter().find_map(|key| {
                let Entry { key_span, node, .. } = fields.entry(key)?;
                let (clip, own, distance) = (None, false, usize::MAX);
                Some(Said { key, key_span, node, clip, own, distance })
            })
        };
        said.into_iter().next().or_else(by_default)
    }

    pub(super) fn get(&self, key: &'static str) -> Option<Said<'n>> {
        self.first_of(&[key])
    }

    /// Which of the rows of `rows` is meant, where `like` named the clip of one row.
    pub(super) fn picked_row(&self, rows: Said<'n>) -> Option<&'n str> {
        self.members.iter().take(rows.distance.saturating_add(1)).find_map(|(_, row)| *row)
    }

    /// Whether a value was taken over and does not suit what the clip says itself: cycles for a clip
    /// that plays once, an end for one that is endless.
    pub(super) fn falls_away(&self, key: &'static str) -> bool {
        let once = self.get("mode").and_then(|said| said.node.text()) == Some("once");
        let inherited = self.get(key).is_some_and(|said| !said.own);
        match key {
            "repeat" => inherited && once,
            "end" => inherited && !once && self.get("repeat").is_none(),
            _ => false,
        }
    }
}
