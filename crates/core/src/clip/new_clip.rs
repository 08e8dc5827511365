use alloc::string::String;
use alloc::vec::Vec;
use core::ops::RangeInclusive;

use super::{ClipEnd, Mode};
use crate::cue::FactValue;
use crate::ids::SheetId;
use crate::sheet::Pivot;
use crate::time::{ExactTime, Ticks};

/// Describes a clip to build; [`ReelBuilder::clip`](crate::ReelBuilder::clip) takes it.
///
/// A clip of one frame without a duration is a *still*: it stands, and reports one
/// [`Enter`](crate::EventKind::Enter) and nothing more.
///
/// Nothing is checked here: the builder checks everything together.
///
/// ```
/// use lucky_reel_core::{Mode, NewClip, NewSheet, Grid, Reel, Ticks};
///
/// let mut builder = Reel::builder();
/// let lamp = builder.sheet("lamp", NewSheet::grid([64, 16], Grid::cell_size([16, 16])));
/// builder.clip(
///     "glow",
///     NewClip::of(lamp)
///         .hold(0, Ticks::from_millis(300)) // a frame with a time of its own
///         .frames(1..4)
///         .fps(10)
///         .mode(Mode::PingPong),
/// );
/// assert!(builder.build().is_ok());
/// ```
#[derive(Clone, Debug)]
#[must_use = "give it to `ReelBuilder::clip`"]
pub struct NewClip {
    pub(crate) sheet: SheetId,
    pub(crate) holds: Vec<(u32, Option<ExactTime>)>,
    pub(crate) times: Times,
    pub(crate) mode: Mode,
    pub(crate) repeat: Option<u32>,
    pub(crate) end: Option<ClipEnd<String>>,
    pub(crate) marks: Vec<(String, Vec<u32>)>,
    pub(crate) spans: Vec<(String, u32, u32)>,
    pub(crate) rest: u32,
    pub(crate) stride: Option<f64>,
    pub(crate) pivot: Option<Pivot>,
    pub(crate) sets: Vec<(String, String, FactValue)>,
    pub(crate) data: Vec<(String, Option<u32>, String, FactValue)>,
}

/// How long the holds without a time of their own stay up.
#[derive(Clone, Debug, PartialEq)]
pub(crate) enum Times {
    Unsaid,
    Fps(u32),
    Each(ExactTime),
    List(Vec<ExactTime>),
    Total(ExactTime),
}

impl NewClip {
    /// A clip of frames of this sheet: a loop that has no holds yet.
    pub fn of(sheet: SheetId) -> NewClip {
        NewClip {
            sheet,
            holds: Vec::new(),
            times: Times::Unsaid,
            mode: Mode::Loop,
            repeat: None,
            end: None,
            marks: Vec::new(),
            spans: Vec::new(),
            rest: 0,
            stride: None,
            pivot: None,
            sets: Vec::new(),
            data: Vec::new(),
        }
    }

    /// Adds one hold for each of these frames, counted from 0 within the sheet.
    pub fn frames(mut self, frames: impl IntoIterator<Item = u32>) -> NewClip {
        self.holds.extend(frames.into_iter().map(|frame| (frame, None)));
        self
    }

    /// Adds one hold with a time of its own.
    pub fn hold(mut self, frame: u32, time: impl Into<ExactTime>) -> NewClip {
        self.holds.push((frame, Some(time.into())));
        self
    }

    /// Frames a second, for all holds without a time of their own. A rate that does not divide the
    /// second is rounded on the running total: a cycle is exact to one tick.
    pub fn fps(mut self, rate: u32) -> NewClip {
        self.times = Times::Fps(rate);
        self
    }

    /// The same time for all holds without a time of their own.
    pub fn each(mut self, time: impl Into<ExactTime>) -> NewClip {
        self.times = Times::Each(time.into());
        self
    }

    /// A time for each hold that has none of its own, in order.
    pub fn times<T: Into<ExactTime>>(mut self, times: impl IntoIterator<Item = T>) -> NewClip {
        self.times = Times::List(times.into_iter().map(Into::into).collect());
        self
    }

    /// The time of all holds together, listed once. Holds without a time of their own share evenly
    /// what the others leave.
    pub fn total(mut self, time: impl Into<ExactTime>) -> NewClip {
        self.times = Times::Total(time.into());
        self
    }

    /// The order in which the holds are shown.
    pub fn mode(mut self, mode: Mode) -> NewClip {
        self.mode = mode;
        self
    }

    /// How many cycles a loop or a ping-pong has; endless by default.
    pub fn repeat(mut self, cycles: u32) -> NewClip {
        self.repeat = Some(cycles);
        self
    }

    /// What happens after the last hold: it stays, unless something else is said here. The clip of
    /// [`ClipEnd::Play`] is named, of the same role or as `role/name`; it may be added later.
    pub fn end(mut self, end: ClipEnd<String>) -> NewClip {
        self.end = Some(end);
        self
    }

    /// A mark on these holds, counted from 0: reported each time one of them is entered.
    pub fn mark(
        mut self,
        name: impl Into<String>,
        holds: impl IntoIterator<Item = u32>,
    ) -> NewClip {
        self.marks.push((name.into(), holds.into_iter().collect()));
        self
    }

    /// Each time this mark is passed, an actor's fact becomes this value, so that the next clip can
    /// depend on what was shown last; `true` for a pulse sets it off.
    pub fn mark_sets(
        mut self,
        mark: impl Into<String>,
        fact: impl Into<String>,
        value: impl Into<FactValue>,
    ) -> NewClip {
        self.sets.push((mark.into(), fact.into(), value.into()));
        self
    }

    /// What this mark carries under a key, for the game to read from the event: damage, the name of a sound. A key has
    /// values of one type in a whole reel.
    pub fn mark_data(
        mut self,
        mark: impl Into<String>,
        key: impl Into<String>,
        value: impl Into<FactValue>,
    ) -> NewClip {
        self.data.push((mark.into(), None, key.into(), value.into()));
        self
    }

    /// The same on one of the mark's holds alone, instead of what it carries elsewhere.
    pub fn mark_data_at(
        mut self,
        mark: impl Into<String>,
        hold: u32,
        key: impl Into<String>,
        value: impl Into<FactValue>,
    ) -> NewClip {
        self.data.push((mark.into(), Some(hold), key.into(), value.into()));
        self
    }

    /// A named stretch of holds, counted from 0, that can be asked about while the clip plays. A
    /// name may be given several stretches.
    pub fn span(mut self, name: impl Into<String>, holds: RangeInclusive<u32>) -> NewClip {
        self.spans.push((name.into(), *holds.start(), *holds.end()));
        self
    }

    /// The hold to stand on when the thing does not move; 0 by default.
    pub fn rest(mut self, hold: u32) -> NewClip {
        self.rest = hold;
        self
    }

    /// How many pixels one cycle covers, for
    /// [`Player::advance_by_distance`](crate::Player::advance_by_distance).
    pub fn stride(mut self, pixels: f64) -> NewClip {
        self.stride = Some(pixels);
        self
    }

    /// A pivot for those frames of this clip that have none of their own, instead of the sheet's.
    pub fn pivot(mut self, pivot: Pivot) -> NewClip {
        self.pivot = Some(pivot);
        self
    }

    /// Whether holds have been added.
    pub(crate) fn is_empty(&self) -> bool {
        self.holds.is_empty()
    }

    /// How many holds have been added.
    pub(crate) fn len(&self) -> usize {
        self.holds.len()
    }

    /// Whether it is a still: one frame without a duration, and without an end.
    pub(crate) fn is_still(&self) -> bool {
        let one = matches!(self.holds[..], [(_, None)]);
        one && self.times == Times::Unsaid && !self.is_finite()
    }

    /// Whether it comes to an end: `once`, or a number of cycles.
    pub(crate) fn is_finite(&self) -> bool {
        self.mode == Mode::Once || self.repeat.is_some()
    }
}

impl From<Ticks> for Times {
    fn from(ticks: Ticks) -> Times {
        Times::Each(ticks.into())
    }
}
