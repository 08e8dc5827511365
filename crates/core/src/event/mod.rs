//! What an advance reports.

mod cause;
mod mask;

pub use cause::CueCause;
pub use mask::EventMask;

use crate::ids::{BridgeId, ClipId, CueId, FrameId, MarkId};
use crate::time::Ticks;

/// One thing that happened during an advance.
///
/// `at` counts from the start of the advance to the first tick at which the boundary has been reached
/// (rounded up): arrivals have 0 < `at` ≤ `dt`; a start, and a turn that stood on a boundary, have `at`
/// at the first moving moment.
///
/// # Order in one instant
///
/// Cycle, turn, end, next, enter, marks by name. What an actor's cues do comes at the moment at which
/// they are evaluated.
///
/// ```
/// use lucky_reel_core::{EventKind, Grid, NewClip, NewSheet, Player, Reel, Ticks};
///
/// let mut builder = Reel::builder();
/// let fan = builder.sheet("fan", NewSheet::grid([32, 16], Grid::cell_size([16, 16])));
/// let turn = NewClip::of(fan).frames(0..2).each(Ticks::from_millis(100)).mark("click", [0]);
/// let turn = builder.clip("turn", turn);
/// let reel = builder.build()?;
/// let mut player = Player::new(&reel, turn);
/// player.advance(&reel, Ticks::from_millis(150));
/// let lines = player.advance(&reel, Ticks::from_millis(60)).map(|event| match event.kind {
///     EventKind::Cycle => format!("cycle {} is complete", event.cycle),
///     EventKind::Enter(_) => format!("hold {} came up", event.hold),
///     EventKind::Mark(mark) => format!("{} after {}", reel.name(mark), event.at),
///     other => format!("{other:?}"),
/// });
/// let lines: Vec<String> = lines.collect();
/// assert_eq!(lines, ["cycle 1 is complete", "hold 0 came up", "click after 50ms"]);
/// # Ok::<(), lucky_reel_core::BuildError>(())
/// ```
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
#[non_exhaustive]
pub struct Event {
    /// When, from the start of the advance.
    pub at: Ticks,
    /// The clip; of [`EventKind::Next`] the one that goes on, and of what cues do the one that plays
    /// from now on.
    pub clip: ClipId,
    /// The hold, from 0 in the clip's own list: the one that came up, or of a cycle, a turn and an end
    /// the one that is left.
    pub hold: u32,
    /// Cycles that are complete; of [`EventKind::Cycle`] the one whose boundary was crossed.
    pub cycle: i32,
    /// Depends on the play, the cycle, the hold and the kind of event alone: after a rollback and a
    /// second run an event is recognized as the same one, so that its sound is not heard twice. (Plays
    /// are counted modulo 256.)
    pub serial: u64,
    /// What happened.
    pub kind: EventKind,
}

/// What happened.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
#[non_exhaustive]
pub enum EventKind {
    /// A hold came up, which shows this frame.
    Enter(FrameId),
    /// A hold with this mark came up.
    Mark(MarkId),
    /// The boundary of a cycle was crossed; forward, so many cycles are now complete.
    Cycle,
    /// A ping-pong turns: its far-end hold comes up next.
    Turn,
    /// The time of the last hold is up.
    End,
    /// Another clip goes on.
    Next,
    /// A cue of an actor takes over, or starts over.
    Cue(CueId, CueCause),
    /// A bridge of an actor begins.
    Bridge(BridgeId, CueCause),
    /// In this instant an actor's cues would have changed more often than there are cues; they are not
    /// evaluated again before something else happens.
    CueLoop,
}

impl Event {
    /// Whether it is this mark.
    #[must_use]
    #[inline]
    pub fn is_mark(&self, mark: MarkId) -> bool {
        self.kind == EventKind::Mark(mark)
    }

    /// The mark that was passed, if it is one.
    #[must_use]
    #[inline]
    pub fn mark(&self) -> Option<MarkId> {
        match self.kind {
            EventKind::Mark(mark) => Some(mark),
            _ => None,
        }
    }

    /// Whether a clip came to its end.
    #[must_use]
    #[inline]
    pub fn is_end(&self) -> bool {
        self.kind == EventKind::End
    }
}

/// The play (8 bits), the cycle (32), the hold and its way (16), the kind (3), which mark (5).
#[inline]
pub(crate) fn serial(plays: u8, cycle: i32, place: u16, kind: u64, mark: u8) -> u64 {
    u64::from(plays) << 56
        | u64::from(cycle as u32) << 24
        | u64::from(place) << 8
        | kind << 5
        | u64::from(mark & 31)
}
