//! The ways in which what a builder was given can be wrong.

use alloc::string::{String, ToString};
use alloc::vec::Vec;

use crate::cue::FactKind;
use crate::facing::Facing;
use crate::sheet::GridError;

/// What is wrong with what a builder was given.
#[derive(Clone, Debug, PartialEq)]
pub(crate) enum ProblemKind {
    /// A name that could be read as something else.
    Name(BadName),
    /// Two things of one section and role share a name; `first` is the `nth` of the first one's
    /// site.
    NameTwice {
        /// Their name.
        name: String,
        /// The first of them.
        first: usize,
    },
    /// More of something than a reel can have.
    TooMany {
        /// Of what, such as `holds in one clip`.
        what: &'static str,
        /// How many there are.
        count: usize,
        /// How many there can be.
        max: usize,
    },
    /// A name that nothing has.
    Unknown {
        /// What should have it, such as `clip`.
        what: &'static str,
        /// The name.
        name: String,
        /// The names that were perhaps meant.
        near: Vec<String>,
    },
    /// A facing set where a clip should be.
    FacingSet(String),
    /// An id of another builder's sheet.
    ForeignSheet,
    /// A sheet, a clip or an area without a frame, or a facing set without a clip.
    Empty,
    /// A frame that the sheet does not have.
    NoFrame {
        /// The sheet's name; empty where the sheet itself is at fault.
        sheet: String,
        /// The frame.
        frame: u32,
        /// How many frames the sheet has.
        count: u32,
    },
    /// A hold that the clip does not have.
    NoHold {
        /// The hold.
        hold: u32,
        /// How many holds the clip has.
        count: usize,
    },
    /// A grid that does not fit its image.
    Grid(GridError),
    /// A frame that reaches beyond its image: the frame, the image's size.
    OutsideImage(u32, [u32; 2]),
    /// A trimmed frame that reaches beyond its untrimmed size.
    OutsideUntrimmed(u32),
    /// A pivot, a point or an area between pixels and half pixels, or too far away.
    OffPixels,
    /// A clip that moves and does not say how long its frames stay up.
    NoTimes,
    /// A frame rate of 0.
    ZeroFps,
    /// Times for a different number of frames: times, frames.
    TimesCount(usize, usize),
    /// A total for frames that all have their own times.
    TotalUnneeded,
    /// A total that is used up by the frames that have their own times.
    TotalUsedUp,
    /// A hold of no length.
    EmptyHold(usize),
    /// Times that cannot be added exactly.
    InexactSum,
    /// A clip, or its way there and back, over 2^47 ticks.
    ClipTooLong,
    /// `repeat` on a clip that plays once.
    RepeatOnOnce,
    /// A number of cycles out of range.
    Repeat(u32),
    /// An end on a clip that never ends.
    EndOfEndless,
    /// A span that ends before it begins: from, to.
    SpanReversed(u32, u32),
    /// A distance out of range, in pixels.
    Stride(f64),
    /// A value on a hold that its mark is not on.
    NotOnHold {
        /// The mark.
        mark: String,
        /// The hold.
        hold: u32,
        /// The holds that the mark is on.
        holds: Vec<String>,
    },
    /// A value of another type than its key has.
    DataKind {
        /// The key.
        key: String,
        /// The type that its first value has.
        is: FactKind,
        /// The value.
        value: String,
    },
    /// A mark that sets a fact in a role without facts.
    NoFacts,
    /// A mirror of a facing that has no clip of its own.
    NothingToMirror(Facing),
    /// A look's clip with another number of holds than the base.
    LookHolds {
        /// The clip that the look brings, and how many holds it has.
        other: (String, usize),
        /// The clip that it stands for, and how many holds it has.
        base: (String, usize),
    },
    /// A look's sheet with another number of frames than the base: its own, the base's.
    LookFrames(u32, u32),
    /// A frame of a look's sheet of another size than the base's: frame, its own size, the base's.
    LookSize(u32, [u32; 2], [u32; 2]),
    /// Choices of a fact that are too few, too many, or not all different.
    Choices(usize),
    /// A pulse that is too long.
    PulseTooLong,
    /// A value that a fact cannot have.
    Value {
        /// The fact.
        fact: String,
        /// Its kind.
        is: FactKind,
        /// The value.
        value: String,
    },
    /// A choice that a fact does not have.
    UnknownChoice {
        /// The fact.
        fact: String,
        /// The choice.
        choice: String,
        /// The choice that was perhaps meant.
        near: Option<String>,
        /// All choices that it has.
        choices: Vec<String>,
    },
    /// A comparison with a number of a fact that is none.
    NotANumber(String, FactKind),
    /// A range of numbers with nothing in it.
    EmptyRange,
    /// A last cue that does not always match.
    LastCueConditional,
    /// Facts in a role that has no cues.
    NoCues,
    /// A cue that plays to the end of a clip that never ends.
    FinishEndless,
    /// A bridge whose clip never ends.
    BridgeEndless,
    /// A bridge that leads from nowhere or to nowhere.
    BridgeOpen,
    /// A distance speed for a clip that does not say what distance a cycle covers.
    NoDistance,
    /// A fact that is to be a speed and is no number.
    SpeedFact(String),
    /// Some of it could not be read, see [`Section::mark_incomplete`].
    Incomplete,
    /// Clips in phase that would start over.
    PhaseStart,
}

impl ProblemKind {
    /// A word for it that does not change from version to version.
    pub(super) fn code(&self) -> &'static str {
        match self {
            Self::Name(BadName::Reserved) => "name-reserved",
            Self::Name(BadName::Start) => "name-start",
            Self::Name(BadName::Character) => "name-character",
            Self::Name(BadName::TooLong) => "name-too-long",
            Self::NameTwice { .. } => "name-twice",
            Self::TooMany { .. } => "too-many",
            Self::Unknown { .. } => "unknown",
            Self::FacingSet(..) => "facing-set",
            Self::ForeignSheet => "foreign-sheet",
            Self::Empty => "empty",
            Self::NoFrame { .. } => "no-frame",
            Self::NoHold { .. } => "no-hold",
            Self::Grid(error) => error.code(),
            Self::OutsideImage(..) => "outside-image",
            Self::OutsideUntrimmed(..) => "outside-untrimmed",
            Self::OffPixels => "off-pixels",
            Self::NoTimes => "no-times",
            Self::ZeroFps => "zero-fps",
            Self::TimesCount(..) => "times-count",
            Self::TotalUnneeded => "total-unneeded",
            Self::TotalUsedUp => "total-used-up",
            Self::EmptyHold(..) => "empty-hold",
            Self::InexactSum => "inexact-sum",
            Self::ClipTooLong => "clip-too-long",
            Self::RepeatOnOnce => "repeat-on-once",
            Self::Repeat(..) => "repeat",
            Self::EndOfEndless => "end-of-endless",
            Self::SpanReversed(..) => "span-reversed",
            Self::Stride(..) => "stride",
            Self::NotOnHold { .. } => "not-on-hold",
            Self::DataKind { .. } => "data-kind",
            Self::NoFacts => "no-facts",
            Self::NothingToMirror(..) => "nothing-to-mirror",
            Self::LookHolds { .. } => "look-holds",
            Self::LookFrames(..) => "look-frames",
            Self::LookSize(..) => "look-size",
            Self::Choices(..) => "choices",
            Self::PulseTooLong => "pulse-too-long",
            Self::Value { .. } => "value",
            Self::UnknownChoice { .. } => "unknown-choice",
            Self::NotANumber(..) => "not-a-number",
            Self::EmptyRange => "empty-range",
            Self::LastCueConditional => "last-cue-conditional",
            Self::NoCues => "no-cues",
            Self::FinishEndless => "finish-endless",
            Self::BridgeEndless => "bridge-endless",
            Self::BridgeOpen => "bridge-open",
            Self::NoDistance => "no-distance",
            Self::SpeedFact(..) => "speed-fact",
            Self::Incomplete => "incomplete",
            Self::PhaseStart => "phase-start",
        }
    }

    /// The names and numbers that it speaks of, in the order in which its text has them.
    pub(super) fn values(&self) -> Vec<String> {
        fn texts<const N: usize>(values: [&dyn ToString; N]) -> Vec<String> {
            let mut texts = Vec::with_capacity(N);
            for value in values {
                texts.push(value.to_string());
            }
            texts
        }
        let joined = |names: &[String]| names.join(", ");
        match self {
            Self::NameTwice { name, first } => texts([name, first]),
            Self::TooMany { what, count, max } => texts([count, what, max]),
            Self::Unknown { what, name, near } => {
                let mut values = texts([what, name]);
                values.extend_from_slice(near);
                values
            }
            Self::FacingSet(name) => texts([name]),
            Self::NoFrame { sheet, frame, count } => texts([sheet, frame, count]),
            Self::NoHold { hold, count } => texts([hold, count]),
            Self::Grid(error) => error.values(),
            Self::OutsideImage(frame, [width, height]) => texts([frame, width, height]),
            Self::OutsideUntrimmed(frame) => texts([frame]),
            Self::TimesCount(times, frames) => texts([times, frames]),
            Self::EmptyHold(hold) => texts([hold]),
            Self::Repeat(cycles) => texts([cycles]),
            Self::SpanReversed(from, to) => texts([from, to]),
            Self::Stride(pixels) => texts([pixels]),
            Self::NotOnHold { mark, hold, holds } => texts([mark, hold, &joined(holds)]),
            Self::DataKind { key, is, value } => texts([key, value, &is.describe_data()]),
            Self::NothingToMirror(facing) => texts([&facing.name()]),
            Self::LookHolds { other, base } => texts([&other.0, &other.1, &base.0, &base.1]),
            Self::LookFrames(own, base) => texts([own, base]),
            Self::LookSize(frame, own, base) => {
                texts([frame, &own[0], &own[1], &base[0], &base[1]])
            }
            Self::Choices(max) => texts([max]),
            Self::Value { fact, is, value } => texts([fact, value, is]),
            Self::UnknownChoice { fact, choice, near, choices } => {
                let near = near.as_deref().unwrap_or_default();
                texts([fact, choice, &near, &joined(choices)])
            }
            Self::NotANumber(fact, is) => texts([fact, is]),
            Self::SpeedFact(fact) => texts([fact]),
            _ => Vec::new(),
        }
    }
}

/// Why a name is refused: it must start with a letter and consist of letters, digits, `-` and `_`.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum BadName {
    /// It has a meaning of its own in a reel file.
    Reserved,
    /// It does not start with a letter.
    Start,
    /// It has another character in it.
    Character,
    /// It is longer than 100 bytes.
    TooLong,
}
