//! The words of the project are plain and its own: names that were given up do not come back.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use std::fs;
use std::path::{Path, PathBuf};

/// Names and phrases that were replaced, and what stands for them now. A space at either end stands for
/// the end of a word.
const REPLACED: &[(&str, &str)] = &[
    (" Told ", "EventBuffer"),
    (" Tell ", "EventMask"),
    (" advance_telling", "advance_into"),
    (" NOBODY ", "Option<MemberId>"),
    (" Worn ", "LookSet"),
    (" put_on", "wear"),
    (" WearError ", "CommandError"),
    (" view_wearing ", "view_with"),
    (" Shown ", "PackedFrame"),
    (" Spot::at", "Placement or InstanceAt"),
    (" Drawable ", "InstanceFormat"),
    (" Drawn ", "Instances"),
    (" fit_to", "set_duration"),
    (" per_second_of", "from_rate"),
    (" longest_step", "max_step"),
    (" left_over()", "alpha()"),
    (" Grid::cells", "Grid::cell_size"),
    (" NewWhen ", "ConditionPart"),
    (" OfFact ", "FactType"),
    (" starts_over", "restarts"),
    (" get_clip", "clip"),
    (" CutOff ", "CueLoop"),
    (" MovingPng ", "AnimatedPng"),
    (" Pixmap", "Pixels"),
    (" Pages ", "Atlas"),
    (" on_pages ", "into_atlas"),
    (" despawned ", "removed"),
    (" SaveError ", "RestoreError"),
    (" FactError ", "CommandError"),
    (" GroupError ", "CommandError"),
    (" LookError ", "CommandError"),
    (" EventMember ", "EventBuffer"),
    (" advance_with ", "advance_into"),
    (" FacingsId ", "FacingSetId"),
    (" next_version", "reload"),
    (" load_next", "reload"),
    (" backwards", "backward"),
    (" forwards", "forward"),
    (" quantised", "quantized"),
    (" MOST_", "MAX_"),
    (" far to near", "back to front"),
    ("olour", "color"),
    ("Centre", "Center"),
    (" centre", "center"),
    (" grey", "gray"),
    ("neighbour", "neighbor"),
    ("behaviour", "behavior"),
    (" is_there_already", "already_exists"),
    (" seen_part_of", "opaque_bounds"),
    (" whole_file", "atomic_write"),
    (" Responsible ", "ProblemSource"),
    (" lucky-reel gather", "lucky-reel pack"),
    (" lucky-reel draw", "lucky-reel chart"),
    ("--most-", "--max-"),
    ("--lasting", "--duration"),
    ("--extend", "--extrude"),
    ("mend it", "fix"),
    (" remedy", "fix"),
    ("perhaps not meant", "likely mistakes"),
    (" film ", "animated image"),
    (" whom ", "target"),
    (" told ", "set, given or reported"),
    (" gliding ", "fast"),
    (" shall ", "will, or is to"),
    (" can not ", "cannot"),
    (" for ever ", "forever"),
    (" naught ", "nothing"),
    ("passed over", "skipped"),
    ("not looked at", "not checked"),
    ("thrown places", "random starts"),
    ("how manieth", "index"),
];

fn is_word(c: char) -> bool {
    c.is_alphanumeric() || c == '_'
}

/// Whether a text has a phrase whose ends are ends of words where it says so.
fn has(text: &str, phrase: &str) -> bool {
    let bare = phrase.trim();
    text.match_indices(bare).any(|(at, _)| {
        let before = text[..at].chars().next_back().is_none_or(|c| !is_word(c));
        let after = text[at + bare.len()..].chars().next().is_none_or(|c| !is_word(c));
        (before || !phrase.starts_with(' ')) && (after || !phrase.ends_with(' '))
    })
}

fn texts(folder: &Path) -> Vec<PathBuf> {
    let entries = fs::read_dir(folder).unwrap().map(|entry| entry.unwrap().path());
    entries
        .flat_map(|path| {
            let name = path.file_name().unwrap().to_string_lossy().into_owned();
            match path.is_dir() {
                true if name == "target" || name.starts_with('.') => Vec::new(),
                true => texts(&path),
                false if ["rs", "md", "toml", "json", "txt"].iter().any(|e| name.ends_with(e)) => {
                    vec![path]
                }
                false => Vec::new(),
            }
        })
        .collect()
}

#[test]
fn old_words_do_not_come_back() {
    let root = Path::new(env!("CARGO_MANIFEST_DIR"));
    let mut found = Vec::new();
    for path in texts(root).iter().filter(|path| !path.ends_with("tests/words.rs")) {
        let text = fs::read_to_string(path).unwrap();
        for (nth, line) in text.lines().enumerate() {
            let wrong = REPLACED.iter().filter(|(old, _)| has(line, old));
            let place = path.strip_prefix(root).unwrap().display();
            found
                .extend(wrong.map(|(old, new)| format!("{place}:{}: {old} is now {new}", nth + 1)));
        }
    }
    assert!(found.is_empty(), "{} places\n{}", found.len(), found.join("\n"));
}
