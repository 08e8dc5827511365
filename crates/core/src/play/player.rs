use core::fmt;

use super::cross::NextOr;
use crate::clip::{ClipData, ClipEnd};
use crate::ids::{Family, NONE};
use crate::kernel::{BACKWARD as READS_BACKWARD, Line, NEGATIVE as HEADS_NEGATIVE, Origin};
use crate::kernel::{RETURNING, Spot, StepTable, Way};
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
    /// Units left of the present entry in the direction of the last movement.
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

/// Where a player is in its life, in the lowest three bits of its flags.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum State {
    /// Asked to play; the first movement fixes how the clip is read.
    Pending = 0,
    /// Put somewhere; the next movement reports the hold it stands on.
    Seeked = 1,
    Running = 2,
    /// Stays at an end, and goes on when its speed turns inward.
    Ended = 3,
    /// Over for good: it shows its first hold, or nothing.
    Finished = 4,
    /// Stands on the rest hold.
    Stopped = 5,
    /// Another clip took the place of its own; the next movement reports the hold it stands on, and
    /// none of its marks.
    Swapped = 6,
    /// A still has come up, and stands.
    Still = 7,
}

pub(super) const STATE: u8 = 0b111;
const WAY_SHIFT: u32 = 3;
pub(super) const BACKWARD: u8 = READS_BACKWARD << WAY_SHIFT;
pub(super) const NEGATIVE: u8 = HEADS_NEGATIVE << WAY_SHIFT;
pub(super) const PAUSED: u8 = 1 << 5;
pub(super) const FLIP_X: u8 = 1 << 6;
pub(super) const FLIP_Y: u8 = 1 << 7;

const _: () = assert!(size_of::<Player>() <= 48);

impl Player {
    pub(crate) fn state(&self) -> State {
        Player::state_of(self.flags)
    }

    pub(super) fn state_of(flags: u8) -> State {
        match flags & STATE {
            0 => State::Pending,
            1 => State::Seeked,
            2 => State::Running,
            3 => State::Ended,
            4 => State::Finished,
            5 => State::Stopped,
            6 => State::Swapped,
            _ => State::Still,
        }
    }

    pub(crate) fn set_state(&mut self, state: State) {
        self.clear_ready();
        self.flags = self.flags & !STATE | state as u8;
    }

    #[inline]
    pub(super) fn has(&self, flag: u8) -> bool {
        self.flags & flag != 0
    }

    pub(super) fn set(&mut self, flag: u8, on: bool) {
        if on {
            self.flags |= flag;
        } else {
            self.flags &= !flag;
        }
    }

    /// Whether it goes on as it did, without a second look, until its hold is over: running within a
    /// hold, not paused, in no hit-stop, its speed points where the last movement went (or is 0), and
    /// its clip plays as often as it says itself.
    pub(crate) fn is_ready(&self) -> bool {
        let ahead = self.pace.is_negative() == self.has(NEGATIVE);
        let free = self.state() == State::Running && !self.has(PAUSED) && self.hit_stop == 0;
        free && ahead && self.left > 0 && self.plan.times == 0
    }

    /// After a movement: whether the next one may take the fast path.
    pub(crate) fn update_ready(&mut self, reel: &Reel) {
        let ready = self.is_ready() && self.is_of_build(reel);
        if ready {
            self.step = reel.steps().find(self.clip, self.place, self.way());
        }
        self.build = self.build.with_ready(ready && self.step != StepTable::NOTHING);
    }

    /// Something may stand in the way from now on.
    pub(super) fn clear_ready(&mut self) {
        self.build = self.build.with_ready(false);
    }

    /// How its line is read, and which way it heads.
    #[inline]
    pub(crate) fn way(&self) -> Way {
        Player::way_of(self.flags)
    }

    #[inline]
    pub(super) fn way_of(flags: u8) -> Way {
        Way::of(flags >> WAY_SHIFT)
    }

    /// Whether it heads along the line, and not back.
    #[inline]
    pub(super) fn heads_along(&self) -> bool {
        self.way().is_along()
    }

    pub(super) fn line<'r>(&self, clip: &'r ClipData) -> Line<'r> {
        // A still stands, however often the game wants it played.
        let times = if clip.is_still { 0 } else { self.plan.times };
        let repeat = if times > 0 { times } else { clip.repeat };
        Line { clip, backward: self.has(BACKWARD), repeat }
    }

    /// How many cycles its play has; `None` for an endless one.
    pub(crate) fn cycles(&self, reel: &Reel) -> Option<i32> {
        self.clip_in(reel).and_then(|clip| self.line(clip).cycles())
    }

    /// Whether it has begun and is neither over nor put somewhere.
    pub(crate) fn is_under_way(&self) -> bool {
        matches!(self.state(), State::Running | State::Swapped)
    }

    /// What follows when the last hold's time is up.
    pub(super) fn end(&self, clip: &ClipData) -> NextOr {
        match (self.plan.then, clip.end) {
            (NONE, ClipEnd::Play(next)) => NextOr::Next(next.number),
            (NONE, end) => NextOr::End(end),
            (then, _) => NextOr::Next(then),
        }
    }

    /// Where it is on its line, by the direction of the last movement.
    pub(super) fn spot(&self, line: Line<'_>) -> Spot {
        let entry = line.entry_of(self.place);
        let into = if self.heads_along() {
            line.units_of(entry).saturating_sub(self.left)
        } else {
            self.left
        };
        Spot { cycle: self.cycle, entry, into }
    }

    /// Puts it on a spot of its line, heading as it did.
    pub(super) fn put(&mut self, line: Line<'_>, spot: Spot) {
        self.cycle = spot.cycle;
        self.place = line.place_of(spot.entry);
        self.left =
            if self.heads_along() { line.units_of(spot.entry) - spot.into } else { spot.into };
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
            .field("backward", &self.has(BACKWARD))
            .field("hit_stop", &self.hit_stop)
            .field("paused", &self.has(PAUSED))
            .field("flips", &(self.has(FLIP_X), self.has(FLIP_Y)))
            .field("plan", &self.plan)
            .finish()
    }
}
