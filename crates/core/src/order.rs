//! Lists in order, and numbers by what they belong to.
//!
//! Sorting and maps are compiled anew for each type that they are used with. So plain keys are sorted and looked
//! up, of few types, and the items follow.

use alloc::vec::Vec;

/// Numbers by keys that are numbers themselves: a key stands in its own slot, or in the first free one after it.
#[derive(Clone, Debug, Default)]
pub(crate) struct NumberMap {
    /// A power of two, of which a half is free.
    slots: Vec<Option<([u64; 3], u32)>>,
    count: usize,
}

impl NumberMap {
    /// The slot of a key, or the free one that it would take.
    fn find(&self, key: [u64; 3]) -> usize {
        let last = self.slots.len() - 1;
        let mut at = self.home(key);
        while self.slots[at].is_some_and(|(known, _)| known != key) {
            at = (at + 1) & last;
        }
        at
    }

    fn home(&self, key: [u64; 3]) -> usize {
        let mut mixed = 0_u64;
        for word in key {
            mixed = (mixed.rotate_left(5) ^ word).wrapping_mul(0x9e37_79b9_7f4a_7c15);
        }
        (mixed >> 32) as usize & (self.slots.len() - 1)
    }

    pub(crate) fn get(&self, key: [u64; 3]) -> Option<u32> {
        if self.slots.is_empty() {
            return None;
        }
        self.slots[self.find(key)].map(|(_, number)| number)
    }

    pub(crate) fn insert(&mut self, key: [u64; 3], number: u32) {
        if 2 * (self.count + 1) > self.slots.len() {
            let mut larger = Vec::new();
            larger.resize((2 * self.slots.len()).max(16), None);
            let before = core::mem::replace(&mut self.slots, larger);
            for slot in before {
                if let Some((key, _)) = slot {
                    let at = self.find(key);
                    self.slots[at] = slot;
                }
            }
        }
        let at = self.find(key);
        self.count += usize::from(self.slots[at].is_none());
        self.slots[at] = Some((key, number));
    }

    /// Takes a key out; those that stand behind it for its sake move up.
    pub(crate) fn remove(&mut self, key: [u64; 3]) -> Option<u32> {
        let found = self.get(key)?;
        let last = self.slots.len() - 1;
        let mut free = self.find(key);
        self.slots[free] = None;
        self.count -= 1;
        let mut at = free;
        loop {
            at = (at + 1) & last;
            let Some((behind, _)) = self.slots[at] else { return Some(found) };
            // It may stand anywhere from its home on, and moves to the free slot where that lies between.
            let (way, gap) = (at.wrapping_sub(self.home(behind)), at.wrapping_sub(free));
            if way & last >= gap & last {
                self.slots[free] = self.slots[at].take();
                free = at;
            }
        }
    }
}

/// Items in the order of a number each; equal ones stay as they were.
pub(crate) fn by_number<T>(mut items: Vec<T>, number: impl Fn(&T) -> u64) -> Vec<T> {
    let mut keys: Vec<[u64; 2]> = Vec::with_capacity(items.len());
    for item in &items {
        keys.push([number(item), keys.len() as u64]);
    }
    put_in_order(&mut items, number_places(keys));
    items
}

/// Items in the order of a text each; equal ones stay as they were.
pub(crate) fn by_text<T>(mut items: Vec<T>, text: impl Fn(&T) -> &str) -> Vec<T> {
    let mut keys: Vec<(&str, usize)> = Vec::with_capacity(items.len());
    for item in &items {
        keys.push((text(item), keys.len()));
    }
    let places = text_places(keys);
    put_in_order(&mut items, places);
    items
}

fn number_places(mut keys: Vec<[u64; 2]>) -> Vec<usize> {
    keys.sort_unstable();
    keys.into_iter().map(|[_, place]| place as usize).collect()
}

fn text_places(mut keys: Vec<(&str, usize)>) -> Vec<usize> {
    keys.sort_unstable();
    keys.into_iter().map(|(_, place)| place).collect()
}

/// Each place says where the item stands that comes there. Items move along the circles that this makes.
fn put_in_order<T>(items: &mut [T], mut places: Vec<usize>) {
    for start in 0..places.len() {
        let mut at = start;
        loop {
            let from = core::mem::replace(&mut places[at], at);
            if from == start || from == at {
                break;
            }
            items.swap(at, from);
            at = from;
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use alloc::string::{String, ToString};
    use proptest::prelude::*;

    proptest! {
        /// Against a map of the standard library, with keys that often meet.
        #[test]
        fn numbers_are_found_by_their_keys(
            orders in prop::collection::vec((any::<bool>(), [0_u64..3, 0_u64..9, 0_u64..2], any::<u32>()), 0..200),
        ) {
            let (mut map, mut wanted) = (NumberMap::default(), alloc::collections::BTreeMap::new());
            for (puts, key, number) in orders {
                if puts {
                    map.insert(key, number);
                    wanted.insert(key, number);
                } else {
                    prop_assert_eq!(map.remove(key), wanted.remove(&key));
                }
                prop_assert_eq!(map.get(key), wanted.get(&key).copied());
            }
            prop_assert!(wanted.iter().all(|(key, number)| map.get(*key) == Some(*number)));
            prop_assert_eq!(map.slots.iter().flatten().count(), wanted.len());
        }

        #[test]
        fn items_come_in_order_and_equal_ones_stay_as_they_were(numbers in prop::collection::vec(0_u64..40, 0..60)) {
            let items: Vec<(u64, usize)> = numbers.into_iter().zip(0..).collect();
            let mut wanted = items.clone();
            wanted.sort_by_key(|(number, _)| *number);
            prop_assert_eq!(by_number(items.clone(), |(number, _)| *number), wanted);
            let texts: Vec<(String, usize)> =
                items.into_iter().map(|(number, nth)| (number.to_string(), nth)).collect();
            let mut wanted = texts.clone();
            wanted.sort_by(|a, b| a.0.cmp(&b.0));
            prop_assert_eq!(by_text(texts, |(text, _)| text), wanted);
        }
    }
}
