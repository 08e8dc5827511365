//! A clip's entry in the text, and what it takes over from others.

use lucky_reel_assets::document::{Entry, Node};

use super::EditError;

/// Keys of which one says where a clip's frames come from, and how long they stay up.
const FRAMES: [&str; 4] = ["frames", "row", "column", "rows"];
const TIMES: [&str; 3] = ["each", "fps", "total"];
/// As many clips may be like one another.
const MAX_IDENTICAL: usize = 32;

/// The entry that makes a clip, and those that it is like, nearest first.
pub(super) struct ClipText<'n> {
    lineage: Vec<&'n [Entry]>,
    defaults: &'n [Entry],
}

/// A key that is said, and whether the clip's own entry says it.
#[derive(Clone, Copy)]
pub(super) struct Said<'n> {
    pub(super) key: &'static str,
    pub(super) entry: &'n Entry,
    pub(super) is_own: bool,
}

impl<'n> ClipText<'n> {
    /// Finds a clip by its name: its own entry, or the one whose `rows` make it.
    pub(super) fn find(root: &'n Node, name: &str) -> Result<ClipText<'n>, EditError> {
        let missing = || {
            let message = format!("the text has no clip `{name}`");
            EditError::new(message, "name a clip of the reel file")
        };
        let clips = child(table(root), "clips").map(|entry| table(&entry.node)).unwrap_or_default();
        let mut at = entry_of(clips, name).ok_or_else(missing)?;
        let mut lineage = vec![at];
        while let Some(like) = child(at, "like").and_then(|like| like.node.text())
            && let Some(next) = entry_of(clips, like)
            && lineage.len() <= MAX_IDENTICAL
        {
            lineage.push(next);
            at = next;
        }
        let defaults = child(table(root), "defaults").map(|entry| table(&entry.node));
        Ok(ClipText { lineage, defaults: defaults.unwrap_or_default() })
    }

    /// The entries of the clip itself.
    pub(super) fn own(&self) -> &'n [Entry] {
        self.lineage[0]
    }

    /// What says how long its holds stay up, where it is not the frames themselves.
    pub(super) fn times(&self) -> Option<Said<'n>> {
        self.first_of(&TIMES).or_else(|| said(self.defaults, &TIMES, false))
    }

    /// What lists its frames one by one: `frames`, or `take` of a row or a column.
    pub(super) fn listing(&self) -> Option<Said<'n>> {
        match self.first_of(&FRAMES)? {
            frames if frames.key == "frames" => Some(frames),
            _ => self.first_of(&["take"]),
        }
    }

    fn first_of(&self, keys: &[&'static str]) -> Option<Said<'n>> {
        let members = self.lineage.iter().enumerate();
        members.filter_map(|(distance, entries)| said(entries, keys, distance == 0)).next()
    }
}

fn said<'n>(entries: &'n [Entry], keys: &[&'static str], is_own: bool) -> Option<Said<'n>> {
    keys.iter().find_map(|key| Some(Said { key, entry: child(entries, key)?, is_own }))
}

/// The entry of a name, or the one whose rows make a clip of this name.
fn entry_of<'n>(clips: &'n [Entry], name: &str) -> Option<&'n [Entry]> {
    let plain = |name: &str| child(clips, name).map(|entry| table(&entry.node));
    let by_rows = || name.match_indices('-').find_map(|(dash, _)| plain(&name[..dash]));
    plain(name).or_else(by_rows)
}

fn table(node: &Node) -> &[Entry] {
    node.table().unwrap_or_default()
}

fn child<'n>(entries: &'n [Entry], key: &str) -> Option<&'n Entry> {
    entries.iter().find(|entry| entry.key == key)
}
