//! Names of numbered files: which match a pattern, and their order.

use std::cmp::Ordering;

/// Whether a name matches a pattern, in which `*` stands for any text.
pub(crate) fn matches(pattern: &str, name: &str) -> bool {
    let Some((start, rest)) = pattern.split_once('*') else { return pattern == name };
    let Some(mut name) = name.strip_prefix(start) else { return false };
    let mut parts = rest.split('*');
    let Some(end) = parts.next_back() else { return true };
    // The first place that fits leaves the most for the parts that follow.
    for part in parts {
        match name.split_once(part) {
            Some((_, after)) => name = after,
            None => return false,
        }
    }
    name.ends_with(end)
}

/// The order in which people count: `puff-9` before `puff-10`.
#[must_use]
pub fn natural_order(one: &str, other: &str) -> Ordering {
    let (mut a, mut b) = (one, other);
    loop {
        let (number_a, number_b) = (digits(a), digits(b));
        if !number_a.is_empty() && !number_b.is_empty() {
            let (x, y) = (number_a.trim_start_matches('0'), number_b.trim_start_matches('0'));
            match x.len().cmp(&y.len()).then_with(|| x.cmp(y)) {
                Ordering::Equal => {
                    (a, b) = (&a[number_a.len()..], &b[number_b.len()..]);
                    continue;
                }
                unlike => return unlike,
            }
        }
        let (mut chars_a, mut chars_b) = (a.chars(), b.chars());
        match (chars_a.next(), chars_b.next()) {
            // Names that count alike, such as `1` and `01`, are ordered by their text.
            (None, None) => return one.cmp(other),
            (x, y) if x == y => (a, b) = (chars_a.as_str(), chars_b.as_str()),
            (x, y) => return x.cmp(&y),
        }
    }
}

/// The digits at the start of a text.
fn digits(text: &str) -> &str {
    &text[..text.find(|c: char| !c.is_ascii_digit()).unwrap_or(text.len())]
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    /// The pattern tried letter by letter, every way.
    fn matches_naively(pattern: &[char], name: &[char]) -> bool {
        match pattern.split_first() {
            None => name.is_empty(),
            Some(('*', rest)) => (0..=name.len()).any(|n| matches_naively(rest, &name[n..])),
            Some((c, rest)) => name.first() == Some(c) && matches_naively(rest, &name[1..]),
        }
    }

    proptest! {
        #[test]
        fn a_star_is_any_text(pattern in "[ab*]{0,6}", name in "[ab]{0,7}") {
            let chars = |text: &str| text.chars().collect::<Vec<char>>();
            prop_assert_eq!(matches(&pattern, &name), matches_naively(&chars(&pattern), &chars(&name)));
        }

        #[test]
        fn numbers_count(head in "[a-c]{0,2}", one in 0_u64..2_000, other in 0_u64..2_000, tail in "[a-c]{0,2}") {
            let name = |number: u64| format!("{head}{number}{tail}");
            prop_assert_eq!(natural_order(&name(one), &name(other)), one.cmp(&other));
        }

        #[test]
        fn names_have_one_order(names in prop::collection::vec("[a0-2]{0,4}", 3)) {
            let [a, b, c] = [0, 1, 2].map(|nth| &*names[nth]);
            prop_assert_eq!(natural_order(a, b), natural_order(b, a).reverse());
            prop_assert_eq!(natural_order(a, b).is_eq(), a == b);
            prop_assert!(natural_order(a, b).is_gt() || natural_order(b, c).is_gt() || natural_order(a, c).is_le());
        }
    }
}
