//! A player taken apart into plain numbers, for stores that keep many of them in columns.

use super::player::{BACKWARDS, FLIP_X, FLIP_Y, NEGATIVE, PAUSED, Player, STATE, State};
use crate::clip::End;
use crate::ids::ClipId;
use crate::reel::Reel;
use crate::time::Pace;

/// All that a player is, but the reel that it plays from.
#[derive(Clone, Copy)]
pub(crate) struct Parts {
    pub(crate) remain: u64,
    pub(crate) pace: Pace,
    pub(crate) frozen: u32,
    pub(crate) cycle: i32,
    pub(crate) place: u16,
    pub(crate) clip: ClipId,
    pub(crate) asked: ClipId,
    pub(crate) flags: u8,
    pub(crate) play: u8,
}

/// The flags that mirror a player; they lie beside each other.
pub(crate) const FLIPS: u8 = FLIP_X | FLIP_Y;
pub(crate) const FLIPS_SHIFT: u32 = FLIP_X.trailing_zeros();
const _: () = assert!(FLIPS >> FLIPS_SHIFT == 0b11);

impl Parts {
    pub(crate) fn into_player(self, reel: &Reel) -> Player {
        let Parts { remain, pace, frozen, cycle, place, clip, asked, flags, play } = self;
        let mut player = Player {
            remain,
            pace,
            frozen,
            cycle,
            stamp: reel.stamp.with_ready(false),
            place,
            clip,
            asked,
            flags,
            play,
        };
        player.glide_if_free();
        player
    }

    /// The flags that one has once it has [`departed`](Player::departed).
    pub(crate) fn departed_flags(flags: u8, pace: Pace) -> u8 {
        let is_fresh = flags & STATE == State::Fresh as u8;
        let way = match (is_fresh, pace.is_negative()) {
            (false, _) => flags & (BACKWARDS | NEGATIVE),
            (true, true) => BACKWARDS | NEGATIVE,
            (true, false) => 0,
        };
        State::Running as u8 | way
    }

    /// The flags of one that has come to its end and stays there.
    pub(crate) fn ended_flags(flags: u8) -> u8 {
        flags & !STATE | State::Ended as u8
    }
}

impl Player {
    pub(crate) fn parts(&self) -> Parts {
        let Player { remain, pace, frozen, cycle, stamp: _, place, clip, asked, flags, play } =
            *self;
        Parts { remain, pace, frozen, cycle, place, clip, asked, flags, play }
    }

    /// Finds its place again where the reel has a next version.
    pub(crate) fn refit(&mut self, reel: &Reel) {
        if !self.is_of_version(reel) {
            self.settle(reel);
        }
    }

    /// Whether it is asked to play and has not begun, so that it has no place yet.
    pub(crate) fn is_fresh(&self) -> bool {
        self.state() == State::Fresh
    }

    /// Whether no time that passes can change it.
    pub(crate) fn stands(&self) -> bool {
        let turned = self.pace.is_negative() != self.has(NEGATIVE);
        let still = match self.state() {
            State::Stopped | State::Finished => true,
            State::Ended => !turned,
            _ => false,
        };
        self.has(PAUSED) || self.frozen == 0 && (still || self.pace.size() == 0)
    }

    /// Whether it has come to the end of a clip that vanishes, for good.
    pub(crate) fn has_vanished(&self, reel: &Reel) -> bool {
        self.state() == State::Finished
            && self.clip_in(reel).is_some_and(|clip| clip.end == End::Vanish)
    }

    /// What becomes of it at the first moment that it moves, where it is asked to play, or was put
    /// somewhere, and nothing holds it back.
    pub(crate) fn departed(&self, reel: &Reel) -> Option<Player> {
        let held = self.has(PAUSED) || self.frozen > 0 || self.pace.size() == 0;
        let turned = self.pace.is_negative() != self.has(NEGATIVE);
        let starts = self.is_fresh() || self.state() == State::Sought && !turned && self.remain > 0;
        let clip = self.clip_in(reel).filter(|_| starts && !held)?;
        let mut player = *self;
        player.depart(player.line(clip), self.pace.is_negative())?;
        Some(player)
    }

    /// How its line is read and which way it heads, as a number below [`WAYS`].
    pub(crate) fn way(&self) -> usize {
        way_of(self.flags)
    }
}

/// A line is read forwards or backwards, and headed along or against.
pub(crate) const WAYS: usize = 4;
const WAY_SHIFT: u32 = BACKWARDS.trailing_zeros();
const _: () = assert!(BACKWARDS << 1 == NEGATIVE);

fn way_of(flags: u8) -> usize {
    usize::from((flags & (BACKWARDS | NEGATIVE)) >> WAY_SHIFT)
}

/// The flags of a way.
pub(super) fn flags_of(way: usize) -> u8 {
    (way as u8) << WAY_SHIFT & (BACKWARDS | NEGATIVE)
}
