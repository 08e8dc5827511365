use std::ops::Range;
use std::path::Path;

use lucky_reel_core::NameError;

use super::{Entry, Node, Value};
use crate::index::Index;
use crate::problem::{Place, Problem, ProblemSource, Severity};

/// Notes down what is wrong with one text file.
pub(crate) struct Notes<'f> {
    pub(crate) path: &'f Path,
    pub(crate) text: &'f str,
    pub(crate) problems: Vec<Problem>,
    /// How many problems were found: those that were said before and those beyond the limit, too.
    pub(crate) found: usize,
    /// Likely mistakes, which do not keep the file from being loaded.
    pub(crate) warnings: Vec<Problem>,
    /// How many more holds and marks the file may list, so that a small file takes no large memory.
    pub(crate) listable: usize,
}

/// Words that people try first, the key that is meant, and how it is written.
const OTHER_WORDS: [(&str, &str, &str); 12] = [
    ("frame_rate", "fps", "fps = 8"),
    ("framerate", "fps", "fps = 8"),
    ("frame-rate", "fps", "fps = 8"),
    ("rate", "fps", "fps = 8"),
    ("speed", "fps", "fps = 8"),
    ("duration", "each", "each = \"120ms\""),
    ("delay", "each", "each = \"120ms\""),
    ("loop", "mode", "mode = \"loop\""),
    ("looping", "mode", "mode = \"loop\""),
    ("pingpong", "mode", "mode = \"ping-pong\""),
    ("ping_pong", "mode", "mode = \"ping-pong\""),
    ("once", "mode", "mode = \"once\""),
];

/// At most this many problems of one file are reported.
pub(crate) const MAX_PROBLEMS: usize = 100;
/// How many holds and marks one file may list.
const LISTABLE: usize = 2_000_000;

impl<'f> Notes<'f> {
    pub(crate) fn on(path: &'f Path, text: &'f str) -> Notes<'f> {
        let (problems, warnings) = (Vec::new(), Vec::new());
        Notes { path, text, problems, found: 0, warnings, listable: LISTABLE }
    }

    /// Whether no more problems are reported.
    pub(crate) fn is_full(&self) -> bool {
        self.problems.len() >= MAX_PROBLEMS
    }

    /// Something is wrong with the value of a key.
    pub(crate) fn say(
        &mut self,
        span: &Range<usize>,
        key: &str,
        what: impl Into<String>,
        fix: impl Into<String>,
    ) {
        self.found += 1;
        if self.is_full() {
            return;
        }
        let mut problem = Problem::new(ProblemSource::ReelFile, self.path, what, fix);
        problem.place = Some(Box::new(Place::of(self.text, span.clone())));
        key.clone_into(&mut problem.key);
        // Clips that one entry makes, and those that are like it, share its words, and so their mistakes.
        if !self.problems.iter().any(|known| problem.is_like(known)) {
            self.problems.push(problem);
        }
    }

    /// A likely mistake.
    pub(crate) fn warn(&mut self, span: &Range<usize>, key: &str, what: String, fix: &str) {
        let mut warning = Problem::in_text(self.path, self.text, span.clone(), what, fix);
        warning.severity = Severity::Warning;
        key.clone_into(&mut warning.key);
        if self.warnings.len() < MAX_PROBLEMS {
            self.warnings.push(warning);
        }
    }

    /// A value is not of the wanted kind.
    pub(crate) fn say_kind(&mut self, node: &Node, key: &str, wanted: &str) {
        let given = match &node.value {
            Value::Number(text) => text.clone(),
            other => other.kind().to_owned(),
        };
        self.say(&node.span, key, format!("unexpected {given}"), format!("give {wanted}"));
    }

    /// The fields of a table. A key other than the known ones is refused, and then read as the
    /// known key that was probably meant, so that what is wrong with its value is said, too.
    pub(crate) fn fields<'n>(
        &mut self,
        node: &'n Node,
        path: &str,
        known: &[&'static str],
    ) -> Option<Fields<'n>> {
        let Some(entries) = node.table() else {
            let example = known.first().copied().unwrap_or("key");
            self.say_kind(node, path, &format!("a table, such as {{ {example} = … }}"));
            return None;
        };
        let (mut exact, mut misspelt) = (Vec::new(), Vec::new());
        for entry in entries {
            if known.contains(&&*entry.key) {
                exact.push((&*entry.key, entry));
            } else {
                let meant = self.unknown_key(entry, path, known);
                misspelt.extend(meant.map(|meant| (meant, entry)));
            }
        }
        exact.append(&mut misspelt);
        Some(Fields { entries: exact })
    }

    /// Refuses an unknown key; gives the known one that was probably meant.
    pub(crate) fn unknown_key(
        &mut self,
        entry: &Entry,
        path: &str,
        known: &[&'static str],
    ) -> Option<&'static str> {
        if self.is_full() {
            return None;
        }
        let other_word = OTHER_WORDS.iter().find(|(word, ..)| entry.key.eq_ignore_ascii_case(word));
        if let Some((_, key, example)) = other_word.filter(|(_, key, _)| known.contains(key)) {
            let what = format!("there is no key `{}` here", entry.key);
            let fix = format!("use `{key}`, such as {example}");
            self.say(&entry.key_span, &join(path, &entry.key), what, fix);
            return None;
        }
        let near = NameError::nearest(&entry.key, known.iter().copied());
        let fix = match near {
            Some(near) => format!("did you mean `{near}`? Known here: {}", known.join(", ")),
            None => format!("known here: {}", known.join(", ")),
        };
        let what = format!("there is no key `{}` here", entry.key);
        self.say(&entry.key_span, &join(path, &entry.key), what, fix);
        known.iter().copied().find(|known| near == Some(*known))
    }

    /// Refuses keys that a table has twice, down to the leaves. Of the entries of a section, such as
    /// two clips of one name, both are read, and the core refuses the second.
    pub(crate) fn keys_twice(&mut self, node: &Node, path: &str, are_names: &dyn Fn(&str) -> bool) {
        let mut first: Index<usize> = Index::default();
        for (nth, inner) in node.list().unwrap_or_default().iter().enumerate() {
            self.keys_twice(inner, &format!("{path}[{nth}]"), are_names);
        }
        let entries = node.table().unwrap_or_default();
        for (nth, entry) in entries.iter().enumerate() {
            let key = join(path, &entry.key);
            self.keys_twice(&entry.node, &key, are_names);
            match first.get(&entry.key).and_then(|first| entries.get(*first)) {
                Some(known) if !are_names(path) => {
                    let line = Place::of(self.text, known.key_span.clone()).line;
                    let what =
                        format!("there are two keys `{}`, the first at line {line}", entry.key);
                    self.say(&entry.key_span, &key, what, "keep one of them");
                }
                Some(_) => {}
                None => first.insert(entry.key.clone(), nth),
            }
        }
    }
}

/// The key of a value within a table.
#[must_use]
pub fn join(path: &str, key: &str) -> String {
    if path.is_empty() { key.to_owned() } else { format!("{path}.{key}") }
}

/// The known keys of a table, as they are written or were meant.
#[derive(Clone, Debug, Default)]
pub(crate) struct Fields<'n> {
    entries: Vec<(&'n str, &'n Entry)>,
}

impl<'n> Fields<'n> {
    pub(crate) fn get(&self, key: &str) -> Option<&'n Node> {
        self.entry(key).map(|entry| &entry.node)
    }

    /// The entry of a key, for where the key itself stands.
    pub(crate) fn entry(&self, key: &str) -> Option<&'n Entry> {
        self.entries.iter().find(|(known, _)| *known == key).map(|(_, entry)| *entry)
    }

    /// All entries, each with its known key.
    pub(crate) fn iter(&self) -> impl Iterator<Item = (&'n str, &'n Entry)> {
        self.entries.iter().copied()
    }
}
