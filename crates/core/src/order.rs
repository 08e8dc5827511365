//! Lists in order, and numbers by what they belong to.
//!
//! Sorting and maps are compiled anew for each type that they are used with. So plain keys are sorted and looked
//! up, of few types, and the items follow.

use alloc::collections::BTreeMap;
use alloc::vec::Vec;

/// Numbers by keys that are numbers themselves.
pub(crate) type NumberMap = BTreeMap<[u64; 3], u32>;

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
