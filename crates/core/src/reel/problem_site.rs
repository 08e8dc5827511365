//! Which of the things that a builder was given, and which part of it.

use alloc::string::String;

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
    /// A value that a mark carries: mark, key.
    MarkData(String, String),
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
