use core::fmt;

use super::state::{FLIP_X, FLIP_Y, PAUSED, State};
use crate::clip::{ClipData, ClipEnd};
use crate::ids::{Family, NONE};
use crate::kernel::{Line, LineTime, Origin, RETURNING};
use crate::reel::{Build, Reel};
use crate::time::{Pace, Speed};

/// The playback state of one thing: a small `Copy` value (48 bytes) that belongs to the game.
///
/// It holds numbers alone; everything it plays is in the [`Reel`] that it is given at each call.
/// Copying it is saving it: a rollback of a thousand players is a memcpy.
///
/// # Half-open holds
///
/// Forward a hold is up for [start, end) of clip time, backward for (start, end]. Landing exactly
/// on a boundary shows the next frame in the direction of travel.
///
/// ```
/// use lucky_reel_core::{Grid, NewClip, NewSheet, Player, Reel, Ticks};
///
/// let mut builder = Reel::builder();
/// let fan = builder.sheet("fan", NewSheet::grid([64, 16], Grid::cell_size([16, 16])));
/// let turn = builder.clip("turn", NewClip::of(fan).frames(0..4).each(Ticks::from_millis(100)));
/// let reel = builder.build()?;
///
/// let mut player = Player::new(&reel, turn);
/// player.advance(&reel, Ticks::from_millis(100) - Ticks::new(1));
/// assert_eq!(player.hold_index(&reel), Some(0));
/// player.advance(&reel, Ticks::new(1)); // exactly 100 ms
/// assert_eq!(player.hold_index(&reel), Some(1));
/// # Ok::<(), lucky_reel_core::BuildError>(())
/// ```
#[derive(Clone, Copy)]
pub struct Player {
    /// Units left of the present place in the direction of the last movement.
    pub(crate) left: u64,
    pub(crate) pace: Pace,
    /// Game ticks left of a hit-stop.
    pub(crate) hit_stop: u32,
    pub(crate) cycle: i32,
    pub(crate) family: Family,
    pub(crate) build: Build,
    /// The step that it is on, while it is ready.
    pub(crate) step: u32,
    pub(crate) plan: Plan,
    /// The hold, and [`RETURNING`].
    pub(crate) place: u16,
    pub(crate) clip: u16,
    pub(crate) requested: u16,
    pub(crate) flags: u8,
    /// Counts the plays, so that events of different plays differ.
    pub(crate) plays: u8,
}

/// What the game wants of the present play, instead of what the clip says itself.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) struct Plan {
    /// How many cycles; 0 for as many as the clip says.
    pub(crate) times: u32,
    /// The clip that follows; [`NONE`] for the clip's own end.
    pub(crate) then: u16,
}

impl Plan {
    pub(crate) const NONE: Plan = Plan { times: 0, then: NONE };
}

/// Another clip, or an end.
#[derive(Clone, Copy, PartialEq, Eq)]
pub(super) enum NextOr {
    Next(u16),
    End(ClipEnd),
}

const _: () = assert!(size_of::<Player>() <= 48);

impl Player {
    pub(super) fn line<'r>(&self, clip: &'r ClipData) -> Line<'r> {
        // A still stands, however often the game wants it played.
        let times = if clip.is_still { 0 } else { self.plan.times };
        let repeat = if times > 0 { times } else { clip.repeat };
        Line { clip, backward: self.way().reads_backward(), repeat }
    }

    /// How many cycles its play has; `None` for an endless one.
    pub(crate) fn cycles(&self, reel: &Reel) -> Option<i32> {
        self.clip_in(reel).and_then(|clip| self.line(clip).cycles())
    }

    /// What follows when the last hold's time is up.
    pub(super) fn end(&self, clip: &ClipData) -> NextOr {
        match (self.plan.then, clip.end) {
            (NONE, ClipEnd::Play(next)) => NextOr::Next(next.number),
            (NONE, end) => NextOr::End(end),
            (then, _) => NextOr::Next(then),
        }
    }

    /// The time along its line, by the direction of the last movement.
    pub(super) fn line_time(&self, line: Line<'_>) -> LineTime {
        let Player { cycle, place, left, .. } = *self;
        let into =
            if self.heads_along() { line.units_of(place).saturating_sub(left) } else { left };
        LineTime { cycle, place, into }
    }

    /// Puts it at a time along its line, heading as it did.
    pub(super) fn put(&mut self, line: Line<'_>, time: LineTime) {
        (self.cycle, self.place) = (time.cycle, time.place);
        let along = self.heads_along();
        self.left = if along { line.units_of(time.place) - time.into } else { time.into };
    }

    pub(crate) fn origin(&self) -> Origin {
        Origin::new(self.clip, self.place)
    }

    /// The clip it plays, if it is of this reel and alive.
    pub(crate) fn clip_in<'r>(&self, reel: &'r Reel) -> Option<&'r ClipData> {
        if self.family != reel.family {
            return None;
        }
        reel.clip_at(self.clip)
    }

    pub(crate) fn is_of_build(&self, reel: &Reel) -> bool {
        self.build.is(reel.build)
    }

    /// The spans that cues name in which it stands, by their bits.
    pub(crate) fn watched(&self, reel: &Reel) -> u32 {
        let hold = self
            .place_shown(reel)
            .zip(self.clip_in(reel))
            .and_then(|(place, clip)| clip.holds.get(usize::from(place & !RETURNING)));
        hold.map_or(0, |hold| hold.watched)
    }

    /// What is up: the hold, and whether on the way back. `None` when there is nothing.
    pub(crate) fn place_shown(&self, reel: &Reel) -> Option<u16> {
        let clip = self.clip_in(reel)?;
        if !self.is_of_build(reel) {
            let mut settled = *self;
            settled.rebind(reel)?;
            return settled.place_shown(reel);
        }
        let last = clip.holds.len() as u16 - 1;
        match self.state() {
            State::Pending if self.pace.is_negative() => Some(last),
            State::Pending => Some(0),
            State::Stopped => Some(clip.rest),
            State::Finished if clip.end == ClipEnd::Vanish && self.plan.then == NONE => None,
            _ => Some(self.place).filter(|place| place & !RETURNING <= last),
        }
    }
}

/// Equal when they play alike from now on.
impl PartialEq for Player {
    fn eq(&self, other: &Player) -> bool {
        let all = |player: &Player| {
            let Player { left, pace, hit_stop, cycle, family, build: _, step: _, plan, .. } =
                *player;
            let Player { place, clip, requested, flags, plays, .. } = *player;
            ((left, pace, hit_stop, cycle, family, plan), (place, clip, requested, flags, plays))
        };
        all(self) == all(other) && self.build.is(other.build)
    }
}

impl Eq for Player {}

impl fmt::Debug for Player {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.debug_struct("Player")
            .field("clip", &self.clip)
            .field("requested", &self.requested)
            .field("state", &self.state())
            .field("hold", &(self.place & !RETURNING))
            .field("returning", &(self.place & RETURNING != 0))
            .field("cycle", &self.cycle)
            .field("left", &(self.left as f64 / 65_536.0))
            .field("speed", &Speed::from(self.pace))
            .field("backward", &self.way().reads_backward())
            .field("hit_stop", &self.hit_stop)
            .field("paused", &self.has(PAUSED))
            .field("flips", &(self.has(FLIP_X), self.has(FLIP_Y)))
            .field("plan", &self.plan)
            .finish()
    }
}
