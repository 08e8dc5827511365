//! "Did you mean": the one sentence for names that are nearly right.

use lucky_reel_core::NameError;

/// Asks whether the nearest of the known names was meant; says something else where none is near.
///
/// ```
/// use lucky_reel_assets::did_you_mean;
///
/// let known = ["walk", "idle"];
/// assert_eq!(did_you_mean("wakl", known, || "name a clip".to_owned()), "did you mean `walk`?");
/// assert_eq!(did_you_mean("puff", known, || "name a clip".to_owned()), "name a clip");
/// ```
pub fn did_you_mean<'n>(
    wanted: &str,
    known: impl IntoIterator<Item = &'n str>,
    otherwise: impl FnOnce() -> String,
) -> String {
    match NameError::nearest(wanted, known) {
        Some(near) => asked(&[near]),
        None => otherwise(),
    }
}

/// Asks whether one of these was meant.
pub(crate) fn asked(names: &[&str]) -> String {
    match names {
        [only] => format!("did you mean `{only}`?"),
        several => format!("did you mean one of `{}`?", several.join("`, `")),
    }
}
