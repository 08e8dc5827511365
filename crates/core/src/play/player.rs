use core::fmt;

use crate::clip::{ClipData, End};
use crate::clip::{Line, RETURNING, Spot};
use crate::ids::ClipId;
use crate::reel::{Reel, Stamp};
use crate::time::{Pace, Speed};

/// The playback state of one thing: a small `Copy` value (32 bytes) that belongs to the game.
///
/// It holds numbers alone; everything it plays is in the [`Reel`] that it is given at each call.
/// Copying it is saving it: a rollback of a thousand players is a memcpy.
///
/// # Half-open holds
///
/// Forwards a hold is up for [start, end) of clip time, backwards for (start, end]. Landing exactly
/// on a boundary shows the next frame in the direction of travel.
///
/// ```
/// use lucky_reel_core::{Grid, NewClip, NewSheet, Player, Reel, Ticks};
///
/// let mut builder = Reel::builder();
/// let fan = builder.sheet("fan", NewSheet::grid([64, 16], Grid::cells([16, 16])));
/// let turn = builder.clip("turn", NewClip::of(fan).frames(0..4).each(Ticks::from_millis(100)));
/// let reel = builder.build()?;
///
/// let mut player = Player::new(&reel, turn);
/// player.advance(&reel, Ticks::from_millis(100) - Ticks::new(1));
/// assert_eq!(player.hold(&reel), Some(0));
/// player.advance(&reel, Ticks::new(1)); // exactly 100 ms
/// assert_eq!(player.hold(&reel), Some(1));
/// # Ok::<(), lucky_reel_core::BuildError>(())
/// ```
#[derive(Clone, Copy)]
pub struct Player {
    /// Units left of the present entry in the direction of the last movement.
    pub(super) remain: u64,
    pub(super) pace: Pace,
    /// Game ticks left of a hit-stop.
    pub(super) frozen: u32,
    pub(super) cycle: i32,
    pub(super) stamp: Stamp,
    /// The hold, and [`RETURNING`].
    pub(super) place: u16,
    pub(super) clip: ClipId,
    pub(super) asked: ClipId,
    pub(super) flags: u8,
    /// Counts the plays, so that events of different plays differ.
    pub(super) play: u8,
}

/// Where a player is in its life, in the lowest three bits of its flags.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum State {
    /// Asked to play; the first movement fixes how the clip is read.
    Fresh = 0,
    /// Put somewhere; the next movement reports the hold it stands on.
    Sought = 1,
    Running = 2,
    /// Stays at an end, and goes on when its speed turns inwards.
    Ended = 3,
    /// Over for good: it shows its first hold, or nothing.
    Finished = 4,
    /// Stands on the rest hold.
    Stopped = 5,
    /// Another clip took the place of its own; the next movement reports the hold it stands on, and
    /// none of its marks.
    Landed = 6,
}

pub(super) const STATE: u8 = 0b111;
/// The line is read from its last hold to its first. Fixed when a play starts.
pub(super) const BACKWARDS: u8 = 1 << 3;
/// The last movement, which `remain` refers to, was at a negative speed.
pub(super) const NEGATIVE: u8 = 1 << 4;
pub(super) const PAUSED: u8 = 1 << 5;
pub(super) const FLIP_X: u8 = 1 << 6;
pub(super) const FLIP_Y: u8 = 1 << 7;

const _: () = assert!(size_of::<Player>() <= 32);

impl Player {
    pub(super) fn state(&self) -> State {
        match self.flags & STATE {
            0 => State::Fresh,
            1 => State::Sought,
            2 => State::Running,
            3 => State::Ended,
            4 => State::Finished,
            5 => State::Stopped,
            _ => State::Landed,
        }
    }

    /// Whether it goes on as it did, without a second look, until its hold is over: running within a
    /// hold, not paused, in no hit-stop, and its speed points where the last movement went (or is 0).
    pub(crate) fn glides(&self) -> bool {
        let ahead = self.pace.is_negative() == self.has(NEGATIVE);
        let free = self.state() == State::Running && !self.has(PAUSED) && self.frozen == 0;
        free && ahead && self.remain > 0
    }

    /// After a movement: whether the next one may go on without a second look.
    pub(super) fn glide_if_free(&mut self) {
        self.stamp = self.stamp.with_ready(self.glides());
    }

    /// Something may stand in the way from now on.
    pub(super) fn look_twice(&mut self) {
        self.stamp = self.stamp.with_ready(false);
    }

    pub(super) fn set_state(&mut self, state: State) {
        self.look_twice();
        self.flags = self.flags & !STATE | state as u8;
    }

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

    /// Whether it heads along the line, and not back.
    pub(super) fn heads_forwards(&self) -> bool {
        self.has(NEGATIVE) == self.has(BACKWARDS)
    }

    pub(super) fn line<'r>(&self, clip: &'r ClipData) -> Line<'r> {
        Line { clip, backwards: self.has(BACKWARDS) }
    }

    /// Where it is on its line, by the direction of the last movement.
    pub(super) fn spot(&self, line: Line<'_>) -> Spot {
        let entry = line.entry_of(self.place);
        let into = if self.heads_forwards() {
            line.units_of(entry).saturating_sub(self.remain)
        } else {
            self.remain
        };
        Spot { cycle: self.cycle, entry, into }
    }

    /// Puts it on a spot of its line, heading as it did.
    pub(super) fn put(&mut self, line: Line<'_>, spot: Spot) {
        self.cycle = spot.cycle;
        self.place = line.place_of(spot.entry);
        self.remain =
            if self.heads_forwards() { line.units_of(spot.entry) - spot.into } else { spot.into };
    }

    /// The clip it plays, if it is of this reel and alive.
    pub(super) fn clip_in<'r>(&self, reel: &'r Reel) -> Option<&'r ClipData> {
        if !self.stamp.same_family(reel.stamp) {
            return None;
        }
        reel.clip_data(self.clip)
    }

    /// Finds its place again in another version of its reel, by clip and hold: its hold, or the
    /// last one there is; what was left of it, at most the hold's new length. Gives the clip it
    /// plays, with every number of the player within its bounds.
    pub(super) fn settle<'r>(&mut self, reel: &'r Reel) -> Option<&'r ClipData> {
        let clip = self.clip_in(reel)?;
        self.stamp = reel.stamp.with_ready(false);
        let line = self.line(clip);
        let last = clip.holds.len() as u16 - 1;
        let hold = self.place & !RETURNING;
        if hold > last {
            self.place = last;
            self.remain = u64::MAX;
        } else if self.place != hold && !(clip.turns() && 0 < hold && hold < last) {
            self.place = hold;
        }
        self.remain = self.remain.min(line.units_of(line.entry_of(self.place)));
        if let Some(cycles) = line.cycles() {
            let far = line.far_end();
            match self.state() {
                State::Ended if self.heads_forwards() => self.put(line, far),
                State::Ended => {
                    self.put(line, Spot { cycle: 0, entry: 0, into: 0 });
                }
                State::Running | State::Sought | State::Landed => {
                    let closing = clip.turns() && line.entry_of(self.place) == 0;
                    self.cycle = self.cycle.clamp(0, if closing { cycles } else { cycles - 1 });
                }
                State::Fresh | State::Finished | State::Stopped => {}
            }
        } else if self.state() == State::Ended {
            self.set_state(State::Running);
        }
        Some(clip)
    }

    pub(crate) fn is_of_version(&self, reel: &Reel) -> bool {
        self.stamp.same_version(reel.stamp)
    }

    pub(crate) fn is_of_family(&self, reel: &Reel) -> bool {
        self.stamp.same_family(reel.stamp)
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
        let last = clip.holds.len() as u16 - 1;
        match self.state() {
            State::Fresh if self.pace.is_negative() => Some(last),
            State::Fresh => Some(0),
            State::Stopped => Some(clip.rest),
            State::Finished if clip.end == End::Vanish => None,
            _ if self.stamp.same_version(reel.stamp) => {
                Some(self.place).filter(|place| place & !RETURNING <= last)
            }
            _ => Some((self.place & !RETURNING).min(last)),
        }
    }
}

/// Equal when they play alike from now on.
impl PartialEq for Player {
    fn eq(&self, other: &Player) -> bool {
        let Player { remain, pace, frozen, cycle, stamp, place, clip, asked, flags, play } = *self;
        (remain, pace, frozen, cycle, place, clip, asked, flags, play)
            == (
                other.remain,
                other.pace,
                other.frozen,
                other.cycle,
                other.place,
                other.clip,
                other.asked,
                other.flags,
                other.play,
            )
            && stamp.same_version(other.stamp)
    }
}

impl Eq for Player {}

impl fmt::Debug for Player {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.debug_struct("Player")
            .field("clip", &self.clip.0)
            .field("asked", &self.asked.0)
            .field("state", &self.state())
            .field("hold", &(self.place & !RETURNING))
            .field("returning", &(self.place & RETURNING != 0))
            .field("cycle", &self.cycle)
            .field("left", &(self.remain as f64 / 65_536.0))
            .field("speed", &Speed::from(self.pace))
            .field("backwards", &self.has(BACKWARDS))
            .field("hit_stop", &self.frozen)
            .field("paused", &self.has(PAUSED))
            .field("flips", &(self.has(FLIP_X), self.has(FLIP_Y)))
            .finish()
    }
}
