//! Values by their keys.

use std::borrow::Borrow;
use std::collections::BTreeMap;

/// Values by key, in the order of the keys.
///
/// The map leads from keys to places in a list, so that it is compiled once for each type of keys, not once
/// for each pair of a key and a value.
#[derive(Clone, Debug)]
pub(crate) struct Index<K, V> {
    places: BTreeMap<K, usize>,
    values: Vec<V>,
}

impl<K, V> Default for Index<K, V> {
    fn default() -> Index<K, V> {
        Index { places: BTreeMap::new(), values: Vec::new() }
    }
}

impl<K: Ord, V> Index<K, V> {
    pub(crate) fn get<Q: Ord + ?Sized>(&self, key: &Q) -> Option<&V>
    where
        K: Borrow<Q>,
    {
        self.values.get(*self.places.get(key)?)
    }

    pub(crate) fn get_mut<Q: Ord + ?Sized>(&mut self, key: &Q) -> Option<&mut V>
    where
        K: Borrow<Q>,
    {
        self.values.get_mut(*self.places.get(key)?)
    }

    pub(crate) fn has<Q: Ord + ?Sized>(&self, key: &Q) -> bool
    where
        K: Borrow<Q>,
    {
        self.places.contains_key(key)
    }

    /// Puts a value in, over the one that the key had.
    pub(crate) fn insert(&mut self, key: K, value: V) {
        match self.get_mut(&key) {
            Some(known) => *known = value,
            None => self.push(key, value),
        }
    }

    /// Puts a value in, where the key has none yet.
    pub(crate) fn insert_new(&mut self, key: K, value: V) {
        if !self.has(&key) {
            self.push(key, value);
        }
    }

    /// The place of a new key is the end of the list.
    fn push(&mut self, key: K, value: V) {
        self.places.insert(key, self.values.len());
        self.values.push(value);
    }

    pub(crate) fn is_empty(&self) -> bool {
        self.values.is_empty()
    }

    pub(crate) fn keys(&self) -> impl Iterator<Item = &K> + Clone {
        self.places.keys()
    }

    pub(crate) fn iter(&self) -> impl Iterator<Item = (&K, &V)> {
        self.places.iter().filter_map(|(key, place)| Some((key, self.values.get(*place)?)))
    }

    /// The values in the order in which their keys came.
    pub(crate) fn values(&self) -> &[V] {
        &self.values
    }

    pub(crate) fn into_values(self) -> Vec<V> {
        self.values
    }
}
