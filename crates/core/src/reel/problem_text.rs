//! What is said about each problem, and how to fix it.

use alloc::format;
use alloc::string::{String, ToString};

use super::name_error::did_you_mean;
use super::problem_kind::{BadName, ProblemKind};
use super::site::Section;
use crate::cue::FactKind;

impl ProblemKind {
    /// What is wrong, in words.
    #[must_use]
    pub(super) fn message(&self) -> String {
        match self {
            Self::Name(BadName::Reserved) => "this name is reserved".into(),
            Self::Name(BadName::Start) => "the name does not start with a letter".into(),
            Self::Name(BadName::Character) => {
                "the name has a character other than letters, digits, - and _".into()
            }
            Self::Name(BadName::TooLong) => "the name is longer than 100 bytes".into(),
            Self::NameTwice { section, name, .. } => {
                format!("there are two {} `{name}`", plural(*section))
            }
            Self::TooMany { what, count, max } => format!("{count} {what}; at most {max} fit"),
            Self::Unknown { what, name, .. } => format!("there is no {what} `{name}`"),
            Self::FacingSet(name) => format!("`{name}` is a facing set, not a clip"),
            Self::ForeignSheet => "the sheet is not of this reel".into(),
            Self::Empty(what) => format!("the {what}"),
            Self::NoFrame { sheet, frame, .. } if sheet.is_empty() => {
                format!("the sheet has no frame {frame}")
            }
            Self::NoFrame { sheet, frame, .. } => {
                format!("the sheet `{sheet}` has no frame {frame}")
            }
            Self::NoHold { hold, .. } => format!("the clip has no hold {hold}"),
            Self::Grid(error) => error.message(),
            Self::OutsideImage(frame, _) => format!("frame {frame} reaches beyond the image"),
            Self::OutsideUntrimmed(frame) => {
                format!("the trimmed frame {frame} reaches beyond its untrimmed size")
            }
            Self::OffPixels("rectangle") => {
                "a rectangle has whole or half pixels within 1,000,000, and no negative size".into()
            }
            Self::OffPixels(what) => {
                format!("a {what} lies on whole or half pixels within 1,000,000")
            }
            Self::NoTimes => "the clip does not say how long its frames stay up".into(),
            Self::ZeroFps => "0 frames a second show nothing".into(),
            Self::TimesCount(times, frames) => format!("{times} times for {frames} frames"),
            Self::TotalUnneeded => "every frame has its own time already".into(),
            Self::TotalUsedUp => "nothing of it is left for the frames without a time".into(),
            Self::EmptyHold(hold) => format!("hold {hold} has no length"),
            Self::InexactSum => "these times cannot be added exactly".into(),
            Self::ClipTooLong => "one cycle is longer than 2^47 ticks (22 days)".into(),
            Self::RepeatOnOnce => "a clip that plays `once` does not repeat".into(),
            Self::Repeat(cycles) => format!("a clip cannot repeat {cycles} times"),
            Self::EndOfEndless => "an endless clip never comes to its end".into(),
            Self::SpanReversed(from, to) => {
                format!("the span ends at {to}, before it begins at {from}")
            }
            Self::Stride(pixels) => format!("a cycle cannot cover {pixels} pixels"),
            Self::NoFacts => "a mark sets a fact, and the role has none".into(),
            Self::NothingToMirror(facing) => {
                format!("the set has no clip of its own for `{}`", facing.name())
            }
            Self::LookHolds { other, base } => {
                format!("`{}` has {} holds, and `{}` has {}", other.0, other.1, base.0, base.1)
            }
            Self::LookFrames(own, base) => {
                format!("this sheet has {own} frames, and the base sheet has {base}")
            }
            Self::LookSize(frame, own, base) => {
                let px = |[width, height]: [u32; 2]| format!("{width} x {height} px");
                format!("frame {frame} is {}, and {} in the base sheet", px(*own), px(*base))
            }
            Self::Choices(max) => format!("the choices of a fact all differ, and are 1 to {max}"),
            Self::PulseTooLong => "a pulse lasts at most 59 seconds".into(),
            Self::UnknownChoice { fact, choice, .. } => {
                format!("`{fact}` has no choice `{choice}`")
            }
            Self::Value { fact, is, value } => {
                format!("`{fact}` is {}, and cannot be `{value}`", is.describe())
            }
            Self::NotANumber(fact, is) => format!("`{fact}` is {}, not a number", is.describe()),
            Self::EmptyRange => "no number lies in this range".into(),
            Self::LastCueConditional => "the last cue does not always match".into(),
            Self::NoCues => "the role has facts and no cues".into(),
            Self::FinishEndless => "it plays to the end of a clip that never ends".into(),
            Self::BridgeEndless => "a bridge's clip must come to an end".into(),
            Self::BridgeOpen => "a bridge leads from some cue to some other".into(),
            Self::NoDistance => "the clip does not say what distance a cycle covers".into(),
            Self::SpeedFact(fact) => format!("there is no number `{fact}` among the facts"),
            Self::Incomplete => "some of it could not be read".into(),
            Self::PhaseStart => "clips in phase keep their place".into(),
        }
    }

    /// What to do about it.
    #[must_use]
    pub(super) fn fix(&self) -> String {
        let fix = match self {
            Self::Name(BadName::Reserved) | Self::NameTwice { .. } => "choose another name",
            Self::Name(BadName::Start | BadName::Character) => {
                "start with a letter and use letters, digits, - and _"
            }
            Self::Name(BadName::TooLong) => "choose a shorter name",
            Self::TooMany { .. } => "use fewer",
            Self::Unknown { near, .. } if !near.is_empty() => return did_you_mean(near),
            Self::FacingSet(name) => return format!("write {{ facings = \"{name}\" }}"),
            Self::Unknown { what: "fact", .. } => "add it to the facts",
            Self::Unknown { what, .. } => return format!("name a {what} of this role"),
            Self::ForeignSheet => "use an id that this builder returned",
            Self::Empty(_) => "add at least one",
            Self::NoFrame { count, .. } => return format!("its frames are 0 to {}", count - 1),
            Self::NoHold { count, .. } => return format!("its holds are 0 to {}", count - 1),
            Self::Grid(error) => return error.fix(),
            Self::OutsideImage(_, [width, height]) => {
                return format!("keep it within the image's {width} x {height} px");
            }
            Self::OutsideUntrimmed(_) => "check the untrimmed size and the offset",
            Self::OffPixels("pivot") => "write such as [16, 30] or [15.5, 30]",
            Self::OffPixels("rectangle") => "write left, top, width and height: [8, 10, 16, 20.5]",
            Self::OffPixels(_) => "write such as [24, 12] or [24.5, 12]",
            Self::NoTimes => "give `fps`, `each` or `total`",
            Self::ZeroFps => "give a number from 1 up",
            Self::TimesCount(..) => {
                "give one time for each frame without its own time, or one for all of them"
            }
            Self::TotalUnneeded => "leave out `total`, or the times of the frames",
            Self::TotalUsedUp => "give a longer `total`",
            Self::EmptyHold(_) => "give every hold a time above 0, at least one tick (1/72072000s)",
            Self::InexactSum => "write them in milliseconds",
            Self::ClipTooLong => "make the clip shorter",
            Self::RepeatOnOnce => "leave it out, or use mode `loop`",
            Self::Repeat(_) => {
                "give a number from 1 to 2147483647, or leave it out to play forever"
            }
            Self::EndOfEndless => "leave it out, use mode `once`, or give `repeat`",
            Self::SpanReversed(..) => "write the smaller number first",
            Self::Stride(_) => {
                "give a number of pixels above 0, up to 1000000, that suits the clip's duration"
            }
            Self::NoFacts => "add the fact: [facts]",
            Self::NothingToMirror(_) => "mirror a facing that has one",
            Self::LookHolds { .. } => {
                "name a clip with as many holds: times and marks stay those of the base"
            }
            Self::LookFrames(..) | Self::LookSize(..) => {
                "use a sheet with as many frames of the same untrimmed sizes"
            }
            Self::Choices(_) => "write such as { choices = [\"none\", \"left\", \"right\"] }",
            Self::PulseTooLong => "make it shorter",
            Self::Value { is: FactKind::Flag | FactKind::Pulse, .. } => "write true or false",
            Self::Value { is, .. } => return format!("write {}", is.describe()),
            Self::UnknownChoice { near: Some(near), .. } => {
                return format!("did you mean `{near}`?");
            }
            Self::UnknownChoice { choices, .. } => {
                return format!("its choices are {}", choices.join(", "));
            }
            Self::NotANumber(..) => "compare it with one of its own values",
            Self::EmptyRange => "write such as \"> 0\" or \"-2 to 3\"",
            Self::LastCueConditional => {
                "leave out its `when`, or add a last cue without one, such as resting"
            }
            Self::NoCues => "add a cue: [[cues]]",
            Self::FinishEndless => "leave out `finish`, or give the clip mode \"once\" or `repeat`",
            Self::BridgeEndless => "give the clip mode \"once\" or `repeat`",
            Self::BridgeOpen => "name them: from = [\"falling\"], to = [\"resting\"]",
            Self::NoDistance => "give the clip `stride`, the pixels that a cycle covers",
            Self::SpeedFact(_) => {
                "name a fact whose default is a number with a point, such as pace = 1.0"
            }
            Self::Incomplete => "fix what else is reported of it",
            Self::PhaseStart => "use \"time\" or \"hold\"",
        };
        fix.to_string()
    }
}

/// Several things of a section, in a sentence.
fn plural(section: Section) -> &'static str {
    match section {
        Section::Facings => "facing sets",
        Section::Phases => "phase groups",
        other => other.name(),
    }
}
