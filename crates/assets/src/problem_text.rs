//! What is said about each problem that a builder of reels found, and how to fix it.

use lucky_reel_core::BuildError;
use lucky_reel_core::problem::{self, Key, Section};

use crate::fault::Fault;
use crate::key_path::{key_of, section_key};
use crate::problem::{LoadError, Problem, ProblemSource};
use crate::suggestion::asked;

/// For reels that were built in code: the report says the same as for a reel file.
impl From<BuildError> for LoadError {
    fn from(error: BuildError) -> LoadError {
        let report = |problem: &problem::Problem| {
            let Fault { message, fix } = fault_of(problem);
            let mut report = Problem::new(ProblemSource::ReelFile, "".as_ref(), message, fix);
            report.key = key_of(problem);
            report
        };
        LoadError::new(error.problems().iter().map(report).collect())
    }
}

/// The text of a problem. Each code has its values at fixed places.
pub(crate) fn fault_of(problem: &problem::Problem) -> Fault {
    let (code, values) = (problem.code(), problem.values());
    let values: Vec<&str> = values.iter().map(String::as_str).collect();
    Fault { message: message(problem, code, &values), fix: fix(problem, code, &values) }
}

/// What is wrong; `{0}` is the first value.
fn message(problem: &problem::Problem, code: &str, values: &[&str]) -> String {
    let text = match (code, values) {
        ("name-reserved", _) => "this name is reserved",
        ("name-start", _) => "the name does not start with a letter",
        ("name-character", _) => "the name has a character other than letters, digits, - and _",
        ("name-too-long", _) => "the name is longer than 100 bytes",
        ("name-twice", [name, ..]) => {
            return fill("there are two {0} `{1}`", &[plural(problem.section), name]);
        }
        ("too-many", _) => "{0} {1}; at most {2} fit",
        ("unknown", _) => "there is no {0} `{1}`",
        ("facing-set", _) => "`{0}` is a facing set, not a clip",
        ("foreign-sheet", _) => "the sheet is not of this reel",
        ("empty", _) => match (problem.section, &problem.key) {
            (_, Some(Key::Area(_))) => "the area is on no frame",
            (Section::Sheets, _) => "the sheet has no frames",
            (Section::Facings, _) => "the set has no clip for any facing",
            _ => "the clip has no frames",
        },
        ("no-frame", ["", _, _]) => "the sheet has no frame {1}",
        ("no-frame", _) => "the sheet `{0}` has no frame {1}",
        ("no-hold", _) => "the clip has no hold {0}",
        ("grid-no-size", _) => "a cell of 0 pixels shows nothing",
        ("grid-no-cells", _) => "`{1}` of 0 leaves no cell",
        ("grid-too-many", _) => "that makes {1} cells; a sheet has at most {2}",
        ("grid-too-few", ["across", ..]) => {
            "{1} cells of {2} px do not fit beside one another into an image {3} px wide"
        }
        ("grid-too-few", _) => {
            "{1} cells of {2} px do not fit below one another into an image {3} px high"
        }
        ("grid-uneven", ["across", _, _, "true", ..]) => {
            "an image {2} px wide is not a whole number of cells of {1} px"
        }
        ("grid-uneven", [_, _, _, "true", ..]) => {
            "an image {2} px high is not a whole number of cells of {1} px"
        }
        ("grid-uneven", ["across", ..]) => {
            "an image {2} px wide, less its start, margin and gaps, is not a whole number of cells of {1} px"
        }
        ("grid-uneven", _) => {
            "an image {2} px high, less its start, margin and gaps, is not a whole number of cells of {1} px"
        }
        ("outside-image", _) => "frame {0} reaches beyond the image",
        ("outside-untrimmed", _) => "the trimmed frame {0} reaches beyond its untrimmed size",
        ("off-pixels", _) => match problem.key {
            Some(Key::Area(_)) => {
                "a rectangle has whole or half pixels within 1,000,000, and no negative size"
            }
            Some(Key::Pivot) => "a pivot lies on whole or half pixels within 1,000,000",
            _ => "a point lies on whole or half pixels within 1,000,000",
        },
        ("no-times", _) => "the clip does not say how long its frames stay up",
        ("zero-fps", _) => "0 frames a second show nothing",
        ("times-count", _) => "{0} times for {1} frames",
        ("total-unneeded", _) => "every frame has its own time already",
        ("total-used-up", _) => "nothing of it is left for the frames without a time",
        ("empty-hold", _) => "hold {0} has no length",
        ("inexact-sum", _) => "these times cannot be added exactly",
        ("clip-too-long", _) => "one cycle is longer than 2^47 ticks (22 days)",
        ("repeat-on-once", _) => "a clip that plays `once` does not repeat",
        ("repeat", _) => "a clip cannot repeat {0} times",
        ("end-of-endless", _) => "an endless clip never comes to its end",
        ("span-reversed", _) => "the span ends at {1}, before it begins at {0}",
        ("stride", _) => "a cycle cannot cover {0} pixels",
        ("not-on-hold", _) => "the mark `{0}` is not on hold {1}",
        ("data-kind", _) => "the data `{0}` is {2}, and cannot be `{1}`",
        ("no-facts", _) => "a mark sets a fact, and the role has none",
        ("nothing-to-mirror", _) => "the set has no clip of its own for `{0}`",
        ("look-holds", _) => "`{0}` has {1} holds, and `{2}` has {3}",
        ("look-frames", _) => "this sheet has {0} frames, and the base sheet has {1}",
        ("look-size", _) => "frame {0} is {1} x {2} px, and {3} x {4} px in the base sheet",
        ("choices", _) => "the choices of a fact all differ, and are 1 to {0}",
        ("pulse-too-long", _) => "a pulse lasts at most 59 seconds",
        ("unknown-choice", _) => "`{0}` has no choice `{1}`",
        ("value", _) => "`{0}` is {2}, and cannot be `{1}`",
        ("not-a-number", _) => "`{0}` is {1}, not a number",
        ("empty-range", _) => "no number lies in this range",
        ("last-cue-conditional", _) => "the last cue does not always match",
        ("no-cues", _) => "the role has facts and no cues",
        ("finish-endless", _) => "it plays to the end of a clip that never ends",
        ("bridge-endless", _) => "a bridge's clip must come to an end",
        ("bridge-open", _) => "a bridge leads from some cue to some other",
        ("no-distance", _) => "the clip does not say what distance a cycle covers",
        ("speed-fact", _) => "there is no number `{0}` among the facts",
        ("incomplete", _) => "some of it could not be read",
        ("phase-start", _) => "clips in phase keep their place",
        _ => return problem.to_string(),
    };
    fill(text, values)
}

/// What to do about it.
fn fix(problem: &problem::Problem, code: &str, values: &[&str]) -> String {
    let text = match (code, values) {
        ("name-reserved" | "name-twice", _) => "choose another name",
        ("name-start" | "name-character", _) => {
            "start with a letter and use letters, digits, - and _"
        }
        ("name-too-long", _) => "choose a shorter name",
        ("too-many", _) => "use fewer",
        ("unknown", [_, _, near @ ..]) if !near.is_empty() => return asked(near),
        ("unknown", ["fact", ..]) => "add it to the facts",
        ("unknown", _) => "name a {0} of this role",
        ("facing-set", _) => "write { facings = \"{0}\" }",
        ("foreign-sheet", _) => "use an id that this builder returned",
        ("empty", _) => "add at least one",
        ("no-frame", [.., count]) => return fill("its frames are 0 to {0}", &[&last(count)]),
        ("no-hold", [.., count]) => return fill("its holds are 0 to {0}", &[&last(count)]),
        ("grid-no-size", _) => "give the width and height of one cell in pixels",
        ("grid-no-cells", _) => "give `{1}` a number from 1 up, or leave it out",
        ("grid-too-many", _) => "use larger cells, or split the image",
        ("grid-too-few", [_, _, _, _, "0"]) => "use cells of at most {3} px",
        ("grid-too-few", _) => "at most {4} fit",
        ("grid-uneven", [axis, _, _, _, sizes, spaces @ ..]) => {
            return what_fits(axis, sizes, spaces);
        }
        ("not-on-hold", [_, _, ""]) => "put the mark on that hold",
        ("not-on-hold", _) => "it is on hold {2}",
        ("data-kind", _) => "give it the same type in the whole reel, or choose another key",
        ("outside-image", _) => "keep it within the image's {1} x {2} px",
        ("outside-untrimmed", _) => "check the untrimmed size and the offset",
        ("off-pixels", _) => match problem.key {
            Some(Key::Pivot) => "write such as [16, 30] or [15.5, 30]",
            Some(Key::Area(_)) => "write left, top, width and height: [8, 10, 16, 20.5]",
            _ => "write such as [24, 12] or [24.5, 12]",
        },
        ("no-times", _) => "give `fps`, `each` or `total`",
        ("zero-fps", _) => "give a number from 1 up",
        ("times-count", _) => {
            "give one time for each frame without its own time, or one for all of them"
        }
        ("total-unneeded", _) => "leave out `total`, or the times of the frames",
        ("total-used-up", _) => "give a longer `total`",
        ("empty-hold", _) => "give every hold a time above 0, at least one tick (1/72072000s)",
        ("inexact-sum", _) => "write them in milliseconds",
        ("clip-too-long", _) => "make the clip shorter",
        ("repeat-on-once", _) => "leave it out, or use mode `loop`",
        ("repeat", _) => "give a number from 1 to 2147483647, or leave it out to play forever",
        ("end-of-endless", _) => "leave it out, use mode `once`, or give `repeat`",
        ("span-reversed", _) => "write the smaller number first",
        ("stride", _) => {
            "give a number of pixels above 0, up to 1000000, that suits the clip's duration"
        }
        ("no-facts", _) => "add the fact: [facts]",
        ("nothing-to-mirror", _) => "mirror a facing that has one",
        ("look-holds", _) => {
            "name a clip with as many holds: times and marks stay those of the base"
        }
        ("look-frames" | "look-size", _) => {
            "use a sheet with as many frames of the same untrimmed sizes"
        }
        ("choices", _) => "write such as { choices = [\"none\", \"left\", \"right\"] }",
        ("pulse-too-long", _) => "make it shorter",
        ("value", [.., "yes or no" | "a pulse"]) => "write true or false",
        ("value", _) => "write {2}",
        ("unknown-choice", [_, _, "", _]) => "its choices are {3}",
        ("unknown-choice", [_, _, near, _]) => return asked(&[near]),
        ("not-a-number", _) => "compare it with one of its own values",
        ("empty-range", _) => "write such as \"> 0\" or \"-2 to 3\"",
        ("last-cue-conditional", _) => {
            "leave out its `when`, or add a last cue without one, such as resting"
        }
        ("no-cues", _) => "add a cue: [[cues]]",
        ("finish-endless", _) => "leave out `finish`, or give the clip mode \"once\" or `repeat`",
        ("bridge-endless", _) => "give the clip mode \"once\" or `repeat`",
        ("bridge-open", _) => "name them: from = [\"falling\"], to = [\"resting\"]",
        ("no-distance", _) => "give the clip `stride`, the pixels that a cycle covers",
        ("speed-fact", _) => {
            "name a fact whose default is a number with a point, such as pace = 1.0"
        }
        ("incomplete", _) => "fix what else is reported of it",
        ("phase-start", _) => "use \"time\" or \"hold\"",
        _ => "",
    };
    fill(text, values)
}

/// Cell sizes that fill an image evenly, and margins with gaps that do.
fn what_fits(axis: &str, sizes: &str, spaces: &[&str]) -> String {
    let (side, give) = match axis {
        "across" => ("widths", "columns"),
        _ => ("heights", "count"),
    };
    let mut text = String::new();
    if !spaces.is_empty() {
        let spaces = spaces.iter().filter_map(|space| space.split_once('/'));
        let spaces: Vec<String> =
            spaces.map(|(margin, gap)| format!("margin {margin} with gap {gap}")).collect();
        text = format!("for this cell size, use {}; or ", spaces.join(", or "));
    }
    text + &match sizes {
        "" => "make the margin or the gap smaller".to_owned(),
        sizes => format!("{side} that fit: {sizes}; or give `{give}` to leave a rest over"),
    }
}

/// The number before a count.
fn last(count: &str) -> String {
    count.parse().map_or(0, |count: u64| count.saturating_sub(1)).to_string()
}

/// A text with its values: the nth one where `{n}` stands.
fn fill(text: &str, values: &[&str]) -> String {
    let mut filled = String::with_capacity(text.len() + 40);
    let mut rest = text;
    while let Some((before, after)) = rest.split_once('{') {
        filled += before;
        let closes = after.get(1..).is_some_and(|rest| rest.starts_with('}'));
        let digit = after.as_bytes().first().filter(|_| closes);
        match digit.and_then(|digit| values.get(usize::from(digit.wrapping_sub(b'0')))) {
            Some(value) => {
                filled += value;
                rest = &after[2..];
            }
            None => {
                filled.push('{');
                rest = after;
            }
        }
    }
    filled + rest
}

/// Several things of a section, in a sentence.
fn plural(section: Section) -> &'static str {
    match section {
        Section::Facings => "facing sets",
        Section::Phases => "phase groups",
        other => section_key(other),
    }
}
