//! Values by their names.

use std::collections::BTreeMap;
use std::path::Path;

/// Values by name, in the order of the names.
///
/// The map leads from names to places in a list: there is one kind of map, compiled once, whatever the values are.
#[derive(Clone, Debug)]
pub(crate) struct Index<V> {
    places: BTreeMap<String, usize>,
    values: Vec<V>,
}

impl<V> Default for Index<V> {
    fn default() -> Index<V> {
        Index { places: BTreeMap::new(), values: Vec::new() }
    }
}

/// A path as a name: of two paths never the same one.
pub(crate) fn path_name(path: &Path) -> String {
    match path.to_str() {
        Some(text) => text.to_owned(),
        // A letter for each byte, after one that no path has.
        None => {
            let bytes = path.as_os_str().as_encoded_bytes();
            ['\0'].into_iter().chain(bytes.iter().copied().map(char::from)).collect()
        }
    }
}

impl<V> Index<V> {
    pub(crate) fn get(&self, name: &str) -> Option<&V> {
        self.values.get(*self.places.get(name)?)
    }

    pub(crate) fn get_mut(&mut self, name: &str) -> Option<&mut V> {
        self.values.get_mut(*self.places.get(name)?)
    }

    pub(crate) fn has(&self, name: &str) -> bool {
        self.places.contains_key(name)
    }

    /// Puts a value in, over the one that the name had.
    pub(crate) fn insert(&mut self, name: String, value: V) {
        match self.get_mut(&name) {
            Some(known) => *known = value,
            None => self.push(name, value),
        }
    }

    /// Puts a value in, where the name has none yet.
    pub(crate) fn insert_new(&mut self, name: String, value: V) {
        if !self.has(&name) {
            self.push(name, value);
        }
    }

    /// The place of a new name is the end of the list.
    fn push(&mut self, name: String, value: V) {
        self.places.insert(name, self.values.len());
        self.values.push(value);
    }

    pub(crate) fn is_empty(&self) -> bool {
        self.values.is_empty()
    }

    pub(crate) fn names(&self) -> impl Iterator<Item = &str> + Clone {
        self.places.keys().map(String::as_str)
    }

    pub(crate) fn iter(&self) -> impl Iterator<Item = (&String, &V)> {
        self.places.iter().filter_map(|(name, place)| Some((name, self.values.get(*place)?)))
    }

    /// The values in the order in which their names came.
    pub(crate) fn values(&self) -> &[V] {
        &self.values
    }

    pub(crate) fn into_values(self) -> Vec<V> {
        self.values
    }
}
