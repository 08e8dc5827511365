//! Where in the file each thing that the core was given was written.

use std::collections::BTreeMap;
use std::ops::Range;

use lucky_reel_core::Fault;

use crate::document::{Node, Value};

/// A place and the key that stands there.
#[derive(Clone, Debug)]
pub(super) struct Origin {
    pub(super) span: Range<usize>,
    pub(super) key: String,
}

/// Places by table, name and key.
#[derive(Debug, Default)]
pub(super) struct Origins {
    /// The name itself, under the empty key, and every key of it.
    of: BTreeMap<(String, String), BTreeMap<String, Written>>,
}

#[derive(Clone, Debug)]
struct Written {
    origin: Origin,
    items: Vec<Range<usize>>,
}

impl Origins {
    pub(super) fn name(&mut self, table: &str, name: &str, origin: Origin) {
        let keys = self.of.entry((table.to_owned(), name.to_owned())).or_default();
        keys.insert(String::new(), Written { origin, items: Vec::new() });
    }

    /// A key of a name, and all keys below it.
    pub(super) fn key(&mut self, table: &str, name: &str, key: &str, node: &Node, path: &str) {
        let items = match &node.value {
            Value::List(nodes) => nodes.iter().map(|node| node.span.clone()).collect(),
            _ => Vec::new(),
        };
        self.items(
            table,
            name,
            key,
            Origin { span: node.span.clone(), key: path.to_owned() },
            items,
        );
        for entry in node.table().unwrap_or_default() {
            let (key, path) = (format!("{key}.{}", entry.key), format!("{path}.{}", entry.key));
            self.key(table, name, &key, &entry.node, &path);
        }
    }

    /// A key whose values stand where the items say.
    pub(super) fn items(
        &mut self,
        table: &str,
        name: &str,
        key: &str,
        origin: Origin,
        items: Vec<Range<usize>>,
    ) {
        let keys = self.of.entry((table.to_owned(), name.to_owned())).or_default();
        keys.insert(key.to_owned(), Written { origin, items });
    }

    /// Where a fault was written.
    pub(super) fn find(&self, fault: &Fault) -> Option<Origin> {
        self.at(fault.table(), fault.name(), fault.key(), fault.index())
    }

    /// Where a key was written, or one of its values; where its very key is not, the key above it, or
    /// the name.
    pub(super) fn at(
        &self,
        table: &str,
        name: &str,
        key: &str,
        index: Option<usize>,
    ) -> Option<Origin> {
        let keys = self.of.get(&(table.to_owned(), name.to_owned()))?;
        let mut above = key;
        loop {
            if let Some(written) = keys.get(above) {
                let mut origin = written.origin.clone();
                let item = index.and_then(|index| written.items.get(index));
                if let (Some(span), true) = (item, above == key) {
                    origin.span = span.clone();
                }
                return Some(origin);
            }
            if above.is_empty() {
                return None;
            }
            above = above.rsplit_once('.').map_or("", |(above, _)| above);
        }
    }
}
