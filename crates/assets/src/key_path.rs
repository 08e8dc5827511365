//! The keys of a reel file for what the core names by section and part.

use lucky_reel_core::problem::{self, Key, Section};

/// The whole key of a problem, such as `clips.bram/walk.marks.step[2]`
pub(crate) fn key_of(problem: &problem::Problem) -> String {
    let role = match problem.section {
        Section::Role => String::new(),
        _ if problem.role.is_empty() => String::new(),
        _ => format!("{}/", problem.role),
    };
    let mut key = format!("{}.{role}{}", section_key(problem.section), problem.name);
    for word in problem.key.iter().flat_map(key_path) {
        key += ".";
        key += &word;
    }
    match problem.index {
        Some(index) => key + &format!("[{index}]"),
        None => key,
    }
}

/// The word for a section in a reel file, such as `clips`.
pub(crate) fn section_key(section: Section) -> &'static str {
    match section {
        Section::Role => "role",
        Section::Sheets => "sheets",
        Section::Clips => "clips",
        Section::Facings => "facings",
        Section::Looks => "looks",
        Section::Facts => "facts",
        Section::Cues => "cues",
        Section::Bridges => "bridges",
        Section::Phases => "phases",
        _ => "",
    }
}

/// The keys that lead to a part of an entry in a reel file, below the entry: `["end", "play"]`.
pub(crate) fn key_path(key: &Key) -> Vec<String> {
    fn words<const N: usize>(words: [&str; N]) -> Vec<String> {
        words.map(String::from).to_vec()
    }
    match key {
        Key::Grid(part) => words(["grid", part]),
        Key::Frames => words(["frames"]),
        Key::Pivot => words(["pivot"]),
        Key::Point(name, frame) => words(["points", name, &frame.to_string()]),
        Key::Area(name) => words(["areas", name]),
        Key::Sheet => words(["sheet"]),
        Key::Fps => words(["fps"]),
        Key::Each => words(["each"]),
        Key::Total => words(["total"]),
        Key::Repeat => words(["repeat"]),
        Key::End => words(["end"]),
        Key::EndPlay => words(["end", "play"]),
        Key::Marks => words(["marks"]),
        Key::Mark(mark) => words(["marks", mark]),
        Key::MarkSets(mark) => words(["marks", mark, "set"]),
        Key::MarkSet(mark, fact) => words(["marks", mark, "set", fact]),
        Key::MarkData(mark, key) => words(["marks", mark, "data", key]),
        Key::Span(span) => words(["spans", span]),
        Key::Rest => words(["rest"]),
        Key::Stride => words(["stride"]),
        Key::Facing(facing) => words([facing.name()]),
        Key::Mirror(facing) => words([facing.name(), "mirror"]),
        Key::Swap(facing) => words([facing.name(), "swap"]),
        Key::LookClip(clip) => words(["clips", clip]),
        Key::LookSheet(sheet) => words(["sheets", sheet]),
        Key::Choices => words(["choices"]),
        Key::Pulse => words(["pulse"]),
        Key::When => words(["when"]),
        Key::WhenFact(fact) => words(["when", fact]),
        Key::WhenInside => words(["when", "inside"]),
        Key::StartAtFrom => words(["start_at", "from"]),
        Key::StartAtHold => words(["start_at", "hold"]),
        Key::Finish => words(["finish"]),
        Key::SpeedFact => words(["speed", "fact"]),
        Key::SpeedDistance => words(["speed", "distance"]),
        Key::Play => words(["play"]),
        Key::PlayFacings => words(["play", "facings"]),
        Key::From => words(["from"]),
        Key::To => words(["to"]),
        Key::Clips => words(["clips"]),
        Key::Align => words(["align"]),
        _ => Vec::new(),
    }
}
