//! Times, modes and names of clips in words.

use lucky_reel_core::{Clip, FactValue, MarkId, Mode, Reel, Ticks};

/// Milliseconds with as many digits as are worth reading.
#[must_use]
pub fn milliseconds(time: Ticks) -> String {
    let text = format!("{:.2}", time.as_millis_f64());
    let text = text.trim_end_matches('0').trim_end_matches('.');
    format!("{text} ms")
}

/// Mode and repeats in words.
#[must_use]
pub fn mode_of(clip: &Clip<'_>) -> String {
    let mode = clip.mode;
    match (clip.mode, clip.repeat) {
        _ if clip.is_still => "a still".to_owned(),
        (_, None) => format!("{mode}, forever"),
        (Mode::Once, _) => mode.to_string(),
        (_, Some(1)) => format!("{mode}, one cycle"),
        (_, Some(cycles)) => format!("{mode}, {cycles} cycles"),
    }
}

/// The name of a clip, with its role where the reel has several.
#[must_use]
pub fn name_of(reel: &Reel, clip: &Clip<'_>) -> String {
    let role = reel.role_name(clip.id);
    let is_only_role = reel.clips().all(|other| reel.role_name(other.id) == role);
    if is_only_role { clip.name.to_owned() } else { format!("{role}/{}", clip.name) }
}

/// What a mark of a clip carries at a hold: keys and values, those of that hold in place of those of all.
#[must_use]
pub fn data_at<'r>(clip: &Clip<'r>, mark: MarkId, hold: u32) -> Vec<(&'r str, FactValue)> {
    let mut found: Vec<(&str, FactValue)> = Vec::new();
    // Those of one hold come before those of all.
    for datum in clip.mark_data().filter(|datum| datum.mark == mark) {
        let is_here = datum.hold.is_none_or(|at| at == hold);
        if is_here && found.iter().all(|(key, _)| *key != datum.key) {
            found.push((datum.key, datum.value));
        }
    }
    found.sort_by_key(|(key, _)| *key);
    found
}

/// The same in words: `damage 5, sound thud`; empty where it carries nothing.
#[must_use]
pub fn data_in_words(clip: &Clip<'_>, mark: MarkId, hold: u32) -> String {
    let data = data_at(clip, mark, hold).into_iter();
    data.map(|(key, value)| format!("{key} {value}")).collect::<Vec<_>>().join(", ")
}
