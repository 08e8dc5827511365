//! Which of the things that a builder was given, and which part of it.

use alloc::string::{String, ToString};
use alloc::vec::Vec;
use core::fmt;

use crate::facing::Facing;

/// The kinds of things that a builder takes.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
#[non_exhaustive]
pub enum Section {
    /// The name of a role.
    Role,
    /// Sheets.
    Sheets,
    /// Clips.
    Clips,
    /// Facing sets.
    Facings,
    /// Looks.
    Looks,
    /// Facts.
    Facts,
    /// Cues.
    Cues,
    /// Bridges.
    Bridges,
    /// Groups of clips that stay in phase.
    Phases,
}

impl Section {
    /// The word for it in a reel file, such as `clips`.
    #[must_use]
    pub fn name(self) -> &'static str {
        match self {
            Section::Role => "role",
            Section::Sheets => "sheets",
            Section::Clips => "clips",
            Section::Facings => "facings",
            Section::Looks => "looks",
            Section::Facts => "facts",
            Section::Cues => "cues",
            Section::Bridges => "bridges",
            Section::Phases => "phases",
        }
    }
}

/// What a [`Problem`](super::Problem) is about.
#[derive(Clone, Debug, PartialEq, Eq, Hash)]
pub struct Site {
    /// The kind of thing.
    pub section: Section,
    /// The role that it belongs to; empty where none was named.
    pub role: String,
    /// Its name.
    pub name: String,
    /// Which one it is: how many of its section, of all roles, the builder was given before it. This
    /// tells two things of one name apart.
    pub nth: usize,
    /// The part of it that is wrong; `None` for the whole.
    pub key: Option<Key>,
    /// Which of several values of the key, counted from 0.
    pub index: Option<usize>,
}

/// `clips.bram/walk.marks.step[2]`
impl fmt::Display for Site {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{}.", self.section.name())?;
        if !self.role.is_empty() && self.section != Section::Role {
            write!(f, "{}/", self.role)?;
        }
        write!(f, "{}", self.name)?;
        for word in self.key.iter().flat_map(Key::path) {
            write!(f, ".{word}")?;
        }
        match self.index {
            Some(index) => write!(f, "[{index}]"),
            None => Ok(()),
        }
    }
}

/// A part of a sheet, clip, cue and so on.
#[derive(Clone, Debug, PartialEq, Eq, Hash)]
#[non_exhaustive]
pub enum Key {
    /// A part of a sheet's grid: `cell`, `columns` or `count`.
    Grid(&'static str),
    /// The frames of a sheet or a clip.
    Frames,
    /// The pivot of a sheet or a clip.
    Pivot,
    /// A point of a sheet on one of its frames.
    Point(String, u32),
    /// An area of a sheet; the index says which of several for different frames.
    Area(String),
    /// The sheet of a clip.
    Sheet,
    /// A clip's frame rate.
    Fps,
    /// The duration of each frame of a clip.
    Each,
    /// The duration of a whole clip.
    Total,
    /// How often a clip plays.
    Repeat,
    /// What happens at a clip's end.
    End,
    /// The clip that follows at the end.
    EndPlay,
    /// All marks of a clip.
    Marks,
    /// One mark of a clip.
    Mark(String),
    /// All facts that a mark sets.
    MarkSets(String),
    /// A fact that a mark sets: mark, fact.
    MarkSet(String, String),
    /// A span of a clip.
    Span(String),
    /// The rest hold of a clip.
    Rest,
    /// The pixels that a cycle covers.
    Stride,
    /// The clip that a facing set has for a facing.
    Facing(Facing),
    /// The facing that another one mirrors.
    Mirror(Facing),
    /// The marks that change places in a mirrored facing.
    Swap(Facing),
    /// A clip for which a look has another.
    LookClip(String),
    /// A sheet for which a look has another.
    LookSheet(String),
    /// The choices of a fact.
    Choices,
    /// The length of a pulse.
    Pulse,
    /// When a cue matches.
    When,
    /// What a cue asks of one fact.
    WhenFact(String),
    /// The span that a cue asks about.
    WhenInside,
    /// The cue that a start hold belongs to.
    StartAtFrom,
    /// The hold that a cue's clip starts at.
    StartAtHold,
    /// Whether a cue plays to its end.
    Finish,
    /// The fact that is a cue's speed.
    SpeedFact,
    /// The fact that is a cue's speed in pixels per second.
    SpeedDistance,
    /// The clip that a cue or a bridge plays.
    Play,
    /// The facing set that a cue or a bridge plays.
    PlayFacings,
    /// The cues that a bridge leads away from.
    From,
    /// The cues that a bridge leads to.
    To,
    /// The clips of a phase group.
    Clips,
    /// What stays the same when clips change in place.
    Align,
}

impl Key {
    /// The keys that lead to it in a reel file, below the entry: `["end", "play"]`.
    #[must_use]
    pub fn path(&self) -> Vec<String> {
        fn words<const N: usize>(words: [&str; N]) -> Vec<String> {
            words.map(String::from).to_vec()
        }
        match self {
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
        }
    }
}
