//! Names that are not there, and the names that were perhaps meant.

use alloc::format;
use alloc::string::{String, ToString};
use alloc::vec::Vec;
use core::fmt;

use super::name_check::check_name;

/// A name that a reel does not have, or has in several roles; the message says which is near.
#[derive(Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct NameError {
    /// What it would be a name of: `clip`, `mark`, `fact`.
    pub kind: &'static str,
    /// The name that was asked for.
    pub name: String,
    why: Reason,
}

#[derive(Clone, Debug, PartialEq, Eq)]
enum Reason {
    Unknown {
        near: Vec<String>,
        known: usize,
    },
    /// There is no clip of this name, but a facing set.
    FacingSet(Vec<String>),
    Several(String, String),
    /// It is there, and of another kind.
    Kind {
        is: &'static str,
        wanted: &'static str,
    },
}

impl NameError {
    /// There is no such name among these.
    pub(crate) fn unknown(kind: &'static str, wanted: &str, known: &[String]) -> NameError {
        let near = suggestions(wanted, known.iter().map(String::as_str));
        let why = Reason::Unknown { near, known: known.len() };
        NameError { kind, name: wanted.to_string(), why }
    }

    /// It was there when something was saved, and is not any more.
    pub(crate) fn gone(kind: &'static str, name: String) -> NameError {
        NameError { kind, name, why: Reason::Unknown { near: Vec::new(), known: 1 } }
    }

    /// There is no such clip, but a facing set of this name.
    pub(super) fn facing_set(wanted: &str, clips: Vec<String>) -> NameError {
        NameError { kind: "clip", name: wanted.to_string(), why: Reason::FacingSet(clips) }
    }

    /// Several roles have it.
    pub(super) fn several(
        kind: &'static str,
        wanted: &str,
        one: String,
        other: String,
    ) -> NameError {
        NameError { kind, name: wanted.to_string(), why: Reason::Several(one, other) }
    }

    pub(crate) fn of_kind(
        kind: &'static str,
        wanted: &str,
        is: &'static str,
        should: &'static str,
    ) -> NameError {
        NameError { kind, name: wanted.to_string(), why: Reason::Kind { is, wanted: should } }
    }

    /// The nearest name, if one is near enough.
    #[must_use]
    pub fn near(&self) -> Option<&str> {
        match &self.why {
            Reason::Unknown { near, .. } => near.first().map(String::as_str),
            Reason::Several(one, _) => Some(one),
            Reason::FacingSet(clips) => clips.first().map(String::as_str),
            Reason::Kind { .. } => None,
        }
    }
}

impl NameError {
    /// The name nearest to `wanted`, if one is near enough: for messages of programs that read names
    /// themselves.
    ///
    /// ```
    /// use lucky_reel_core::NameError;
    ///
    /// assert_eq!(NameError::nearest("wakl", ["walk", "idle"]), Some("walk"));
    /// assert_eq!(NameError::nearest("puff", ["walk", "idle"]), None);
    /// ```
    #[must_use]
    pub fn nearest<'n>(wanted: &str, names: impl IntoIterator<Item = &'n str>) -> Option<&'n str> {
        nearest(wanted, names)
    }
}

impl NameError {
    /// Whether a name can be given to a clip, a sheet, a cue and so on: it starts with a letter, consists of
    /// letters, digits, `-` and `_`, and has no meaning of its own in reel files.
    ///
    /// ```
    /// use lucky_reel_core::NameError;
    ///
    /// assert!(NameError::is_valid("walk-down"));
    /// assert!(!NameError::is_valid("9") && !NameError::is_valid("all"));
    /// ```
    #[must_use]
    pub fn is_valid(name: &str) -> bool {
        check_name(name).is_ok()
    }
}

impl fmt::Display for NameError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let Self { kind, name: wanted, why } = self;
        match why {
            Reason::Unknown { known: 0, .. } => {
                write!(f, "there is no {kind} `{wanted}`: the reel has no {kind}")
            }
            Reason::Unknown { near, .. } if !near.is_empty() => {
                write!(f, "there is no {kind} `{wanted}`: {}", did_you_mean(near))
            }
            Reason::Unknown { .. } => {
                write!(f, "there is no {kind} `{wanted}`, nor a similar name")
            }
            Reason::FacingSet(clips) => write!(
                f,
                "`{wanted}` is a facing set, not a clip: name one of its clips, `{}`; in code, \
                 `reel.facing_set(set)` says which",
                clips.join("`, `")
            ),
            Reason::Kind { is, wanted: should } => {
                write!(f, "the {kind} `{wanted}` is {is}, not {should}: ask for it as what it is")
            }
            Reason::Several(one, other) => {
                write!(f, "several roles have a {kind} `{wanted}`: say `{one}` or `{other}`")
            }
        }
    }
}

/// The message, as `main` prints it; `{:#?}` shows the structure.
impl fmt::Debug for NameError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        if f.alternate() {
            return f
                .debug_struct("NameError")
                .field("kind", &self.kind)
                .field("name", &self.name)
                .field("why", &self.why)
                .finish();
        }
        fmt::Display::fmt(self, f)
    }
}

impl core::error::Error for NameError {}

/// The name nearest to `wanted`, if one is near enough.
fn nearest<'n>(wanted: &str, names: impl IntoIterator<Item = &'n str>) -> Option<&'n str> {
    // Words far longer than any name would only cost time.
    if wanted.len() > 200 {
        return None;
    }
    let wanted: Vec<char> = wanted.chars().flat_map(char::to_lowercase).collect();
    names
        .into_iter()
        .map(|name| {
            (edits(&wanted, &name.chars().flat_map(char::to_lowercase).collect::<Vec<_>>()), name)
        })
        .filter(|&(edits, name)| {
            let letters = name.chars().count();
            // To change every letter is no slip.
            edits <= 1 + letters.min(wanted.len()) / 3 && edits < letters.max(wanted.len())
        })
        .min_by_key(|&(edits, _)| edits)
        .map(|(_, name)| name)
}

/// Likely names: the nearest, or those that start with `wanted`, four at most.
pub(super) fn suggestions<'n>(
    wanted: &str,
    names: impl IntoIterator<Item = &'n str, IntoIter: Clone>,
) -> Vec<String> {
    let names = names.into_iter();
    if let Some(near) = nearest(wanted, names.clone()) {
        return Vec::from([near.to_string()]);
    }
    let longer = names.filter(|name| wanted.len() > 1 && name.starts_with(wanted));
    longer.take(4).map(ToString::to_string).collect()
}

/// `did you mean one of `a`, `b`?`
pub(crate) fn did_you_mean(names: &[String]) -> String {
    match names {
        [only] => format!("did you mean `{only}`?"),
        several => format!("did you mean one of `{}`?", several.join("`, `")),
    }
}

/// How many letters must be put in, left out, changed or swapped to make one word the other.
fn edits(a: &[char], b: &[char]) -> usize {
    let mut before_last: Vec<usize> = Vec::new();
    let mut last: Vec<usize> = (0..=b.len()).collect();
    for i in 0..a.len() {
        let mut row = Vec::with_capacity(b.len() + 1);
        row.push(i + 1);
        for j in 0..b.len() {
            let changed = last[j] + usize::from(a[i] != b[j]);
            let mut least = changed.min(last[j + 1] + 1).min(row[j] + 1);
            if i > 0 && j > 0 && a[i] == b[j - 1] && a[i - 1] == b[j] {
                least = least.min(before_last[j - 1] + 1);
            }
            row.push(least);
        }
        before_last = core::mem::replace(&mut last, row);
    }
    last.last().copied().unwrap_or(0)
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    /// Edits by trying everything.
    fn edits_naively(a: &[char], b: &[char]) -> usize {
        match (a, b) {
            ([], rest) | (rest, []) => rest.len(),
            ([x, a_rest @ ..], [y, b_rest @ ..]) => {
                let changed = edits_naively(a_rest, b_rest) + usize::from(x != y);
                let left_out = edits_naively(a_rest, b) + 1;
                let put_in = edits_naively(a, b_rest) + 1;
                let swapped = match (a_rest, b_rest) {
                    ([p, a_rest @ ..], [q, b_rest @ ..]) if x == q && y == p => {
                        edits_naively(a_rest, b_rest) + 1
                    }
                    _ => usize::MAX,
                };
                changed.min(left_out).min(put_in).min(swapped)
            }
        }
    }

    proptest! {
        #[test]
        fn edits_are_as_few_as_can_be(a in "[a-c]{0,6}", b in "[a-c]{0,6}") {
            let [a, b] = [a, b].map(|word| word.chars().collect::<Vec<_>>());
            prop_assert_eq!(edits(&a, &b), edits_naively(&a, &b));
        }

        /// One slip in a name is always seen through, where no other name is as near.
        #[test]
        fn one_slip_is_seen_through(at in 0_usize..8, slip in "[a-z]") {
            let name = "stumbles";
            let mut typed = String::from(name);
            typed.replace_range(at..=at, &slip);
            prop_assert_eq!(nearest(&typed, ["walk", name, "hover"]), Some(name));
        }
    }
}
