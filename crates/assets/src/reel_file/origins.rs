//! Where in the file each thing that the core was given was written.

use std::ops::Range;

use lucky_reel_core::problem::{Key, Section};

use crate::document::{Entry, Node, Value, join};
use crate::key_path::key_path;

/// An entry of a table of the document, by its place there.
#[derive(Clone, Copy, Debug)]
pub(super) struct Home {
    pub(super) table: &'static str,
    pub(super) entry: usize,
}

/// Where one thing that the builder was given was written.
#[derive(Debug)]
pub(super) struct Origin {
    name: String,
    home: Home,
    /// Its key, such as `clips.walk`, and where its name stands.
    path: String,
    span: Range<usize>,
    /// Words whose values stand elsewhere, or under another word: the values of a clip that were said
    /// by another one, by way of `like`, or by the defaults.
    pub(super) elsewhere: Vec<(&'static str, Elsewhere)>,
    /// Keys whose values the core counts otherwise than the file lists them, and where each stands.
    pub(super) items: Vec<(Key, Vec<Range<usize>>)>,
}

/// A key and where its value stands.
#[derive(Debug)]
pub(super) struct Elsewhere {
    /// The entry that has it; `None` for the defaults.
    pub(super) home: Option<Home>,
    pub(super) word: &'static str,
    pub(super) path: String,
}

impl Origin {
    /// An entry whose name is its key in a table.
    pub(super) fn new(home: Home, name: &str, entry: &Entry) -> Origin {
        let path = join(home.table, &entry.key);
        Origin::named(home, name, path, entry.key_span.clone())
    }

    pub(super) fn named(home: Home, name: &str, path: String, span: Range<usize>) -> Origin {
        let (elsewhere, items) = (Vec::new(), Vec::new());
        Origin { name: name.to_owned(), home, path, span, elsewhere, items }
    }
}

/// The origins of all things that one file gave to the builder.
#[derive(Debug, Default)]
pub(super) struct Origins {
    /// Each with its section, and its number there.
    of: Vec<(Section, usize, Origin)>,
}

impl Origins {
    pub(super) fn add(&mut self, section: Section, nth: usize, origin: Origin) {
        self.of.push((section, nth, origin));
    }

    /// Where the name of a thing stands.
    pub(super) fn name_span(&self, section: Section, nth: usize) -> Option<Range<usize>> {
        Some(self.get(section, nth)?.span.clone())
    }

    /// Which thing of a section has a name.
    pub(super) fn find(&self, section: Section, name: &str) -> Option<usize> {
        let is_it =
            |(of, _, origin): &&(Section, usize, Origin)| *of == section && origin.name == name;
        self.of.iter().find(is_it).map(|(_, nth, _)| *nth)
    }

    /// Of a thing that was said to be at two places, the last one.
    fn get(&self, section: Section, nth: usize) -> Option<&Origin> {
        let is_it = |(of, number, _): &&(Section, usize, Origin)| *of == section && *number == nth;
        self.of.iter().rev().find(is_it).map(|(_, _, origin)| origin)
    }

    /// Where a part of a thing stands in the document, and its key there. Where its very key was not written,
    /// the key above it, or the name.
    pub(super) fn place(
        &self,
        (section, nth): (Section, usize),
        (part, index): (Option<&Key>, Option<usize>),
        root: &Node,
    ) -> Option<(Range<usize>, String)> {
        let origin = self.get(section, nth)?;
        let named = || Some((origin.span.clone(), origin.path.clone()));
        let words = part.map(key_path).unwrap_or_default();
        let mut words = words.iter().map(String::as_str).peekable();
        let Some(first) = words.next() else { return named() };
        let elsewhere = origin.elsewhere.iter().rev().find(|(word, _)| *word == first);
        let (mut node, mut path) = match elsewhere.map(|(_, elsewhere)| elsewhere) {
            Some(Elsewhere { home, word, path }) => {
                let above = match home {
                    Some(home) => entry_of(root, *home),
                    None => root.get("defaults"),
                };
                let Some(node) = above.and_then(|above| above.get(word)) else { return named() };
                (node, path.clone())
            }
            None => {
                let found = entry_of(root, origin.home).and_then(|entry| entry.get(first));
                let Some(node) = found else { return named() };
                (node, join(&origin.path, first))
            }
        };
        let items = origin.items.iter().find(|(key, _)| Some(key) == part);
        if let Some(span) = items.and_then(|(_, items)| items.get(index?)) {
            let path = words.fold(path, |path, word| join(&path, word));
            return Some((span.clone(), path));
        }
        let mut index = index;
        for word in words {
            // Of a list of tables the index says which.
            if let Value::List(nodes) = &node.value
                && let Some(one) = index.take().and_then(|index| nodes.get(index))
            {
                node = one;
            }
            let Some(inner) = node.get(word) else { return Some((node.span.clone(), path)) };
            (node, path) = (inner, join(&path, word));
        }
        if let (Some(Key::Mark(_)), Some(holds)) = (part, node.get("holds")) {
            (node, path) = (holds, join(&path, "holds"));
        }
        let one = index.and_then(|index| node.list()?.get(index));
        Some((one.unwrap_or(node).span.clone(), path))
    }
}

fn entry_of(root: &Node, home: Home) -> Option<&Node> {
    let table = root.get(home.table)?;
    match &table.value {
        Value::Table(entries) => entries.get(home.entry).map(|entry| &entry.node),
        Value::List(nodes) => nodes.get(home.entry),
        _ => None,
    }
}
