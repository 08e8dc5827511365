use std::ops::Range;
use std::path::Path;

use lucky_reel_core::reel::nearest;

use super::{Entry, Node, Value};
use crate::problem::{Place, Problem, Responsible};

/// Notes down what is wrong with one text file.
pub(crate) struct Notes<'f> {
    pub(crate) path: &'f Path,
    pub(crate) text: &'f str,
    pub(crate) problems: Vec<Problem>,
    /// How many more holds and marks the file may list, so that a small file takes no large memory.
    pub(crate) listable: usize,
}

/// More than so many problems of one file are not told.
pub(crate) const MOST_PROBLEMS: usize = 100;
/// How many holds and marks one file may list.
const LISTABLE: usize = 2_000_000;

impl<'f> Notes<'f> {
    pub(crate) fn on(path: &'f Path, text: &'f str) -> Notes<'f> {
        Notes { path, text, problems: Vec::new(), listable: LISTABLE }
    }

    /// Whether as much is wrong as is told.
    pub(crate) fn is_full(&self) -> bool {
        self.problems.len() >= MOST_PROBLEMS
    }

    /// Something is wrong with the value of a key.
    pub(crate) fn say(
        &mut self,
        span: &Range<usize>,
        key: &str,
        what: impl Into<String>,
        remedy: impl Into<String>,
    ) {
        if self.is_full() {
            return;
        }
        let mut problem = Problem::new(Responsible::ReelFile, self.path, what, remedy);
        problem.place = Some(Box::new(Place::of(self.text, span.clone())));
        key.clone_into(&mut problem.key);
        // Clips that one entry makes share its words, and so their mistakes.
        if !self.problems.iter().any(|known| problem.is_like(known)) {
            self.problems.push(problem);
        }
    }

    /// A value is not of the wanted kind.
    pub(crate) fn say_kind(&mut self, node: &Node, key: &str, wanted: &str) {
        let given = match &node.value {
            Value::Number(text) => text.clone(),
            other => other.kind().to_owned(),
        };
        self.say(&node.span, key, format!("{given} can not stand here"), format!("give {wanted}"));
    }

    /// The fields of a table; keys other than the known ones are refused, with the nearest named.
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
        for entry in entries.iter().filter(|entry| !known.contains(&&*entry.key)) {
            if self.is_full() {
                break;
            }
            let near = nearest(&entry.key, known.iter().copied());
            let remedy = match near {
                Some(near) => format!("did you mean `{near}`? Known here: {}", known.join(", ")),
                None => format!("known here: {}", known.join(", ")),
            };
            let key = join(path, &entry.key);
            self.say(
                &entry.key_span,
                &key,
                format!("there is no key `{}` here", entry.key),
                remedy,
            );
        }
        Some(Fields { entries })
    }
}

/// The key of a value within a table.
#[must_use]
pub fn join(path: &str, key: &str) -> String {
    if path.is_empty() { key.to_owned() } else { format!("{path}.{key}") }
}

/// A table whose keys have been looked at.
#[derive(Clone, Copy)]
pub(crate) struct Fields<'n> {
    pub(crate) entries: &'n [Entry],
}

impl<'n> Fields<'n> {
    pub(crate) fn get(&self, key: &str) -> Option<&'n Node> {
        self.entries.iter().find(|entry| entry.key == key).map(|entry| &entry.node)
    }
}
