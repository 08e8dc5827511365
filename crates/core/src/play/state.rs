//! Where a player is in its life, what that means, and how it changes: the one table of states, and the flags that
//! hold one.

use super::player::Player;
use crate::clip::ClipEnd;
use crate::kernel::{StepTable, Way};
use crate::reel::Reel;

use super::cross::NextOr;

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

/// What a state means.
#[derive(Clone, Copy)]
pub(crate) struct Meaning {
    /// It stands on a place of its line; else it shows its first hold, or its rest hold.
    pub(crate) holds: bool,
    /// Its next movement begins with a first moment, at which its hold is reported.
    pub(crate) starts: bool,
    /// It has come to an end.
    pub(crate) ends: bool,
}

/// The meaning of each state, in the order of their numbers.
const MEANINGS: [(State, Meaning); 8] = {
    const fn row(state: State, [holds, starts, ends]: [bool; 3]) -> (State, Meaning) {
        (state, Meaning { holds, starts, ends })
    }
    const O: bool = false;
    const X: bool = true;
    [
        //                   holds, starts, ends
        row(State::Pending, [O, X, O]),
        row(State::Seeked, [X, X, O]),
        row(State::Running, [X, O, O]),
        row(State::Ended, [X, O, X]),
        row(State::Finished, [X, O, X]),
        row(State::Stopped, [O, O, O]),
        row(State::Swapped, [X, X, O]),
        row(State::Still, [X, O, O]),
    ]
};

impl State {
    pub(crate) fn means(self) -> Meaning {
        MEANINGS[self as usize].1
    }

    /// Whether time moves it, its speed pointing where it did or the other way. What has ended stands until its
    /// speed turns inward.
    fn moves(self, turned: bool) -> bool {
        match self {
            State::Stopped | State::Finished | State::Still => false,
            State::Ended => turned,
            _ => true,
        }
    }
}

/// The flags of a player: its state, how its line is read and which way it heads, and what the game has set.
const STATE: u8 = 0b111;
const WAY_SHIFT: u32 = 3;
const WAY: u8 = Way::BITS << WAY_SHIFT;
pub(super) const PAUSED: u8 = 1 << 5;
pub(super) const FLIP_X: u8 = 1 << 6;
pub(super) const FLIP_Y: u8 = 1 << 7;

/// The flags that mirror a player; they lie beside each other.
pub(crate) const FLIPS: u8 = FLIP_X | FLIP_Y;
pub(crate) const FLIPS_SHIFT: u32 = FLIP_X.trailing_zeros();
const _: () = assert!(FLIPS >> FLIPS_SHIFT == 0b11);
const _: () =
    assert!(MEANINGS.len() == STATE as usize + 1, "every number in these bits is a state");

/// Flags, by themselves: a crowd keeps them in a column.
impl Player {
    /// Every number in these bits is a state; to the processor this is no more than the bits themselves.
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

    #[inline]
    pub(super) fn way_of(flags: u8) -> Way {
        Way::of((flags & WAY) >> WAY_SHIFT)
    }

    /// The flags of one whose state is another one now.
    #[inline]
    pub(crate) fn with_state(flags: u8, state: State) -> u8 {
        flags & !STATE | state as u8
    }

    #[inline]
    fn with_way(flags: u8, way: Way) -> u8 {
        flags & !WAY | way.bits() << WAY_SHIFT
    }

    /// The flags of one whose first moment has come, at a speed of this sign: how its line is read is fixed where
    /// it was asked to play; else it may turn.
    #[inline]
    pub(crate) fn begun_flags(flags: u8, negative: bool) -> u8 {
        let way = match Player::state_of(flags) {
            State::Pending => Way::begun(negative),
            _ => Player::way_of(flags).turned(negative),
        };
        Player::with_state(Player::with_way(flags, way), State::Running)
    }
}

impl Player {
    pub(crate) fn state(&self) -> State {
        Player::state_of(self.flags)
    }

    pub(crate) fn set_state(&mut self, state: State) {
        self.clear_ready();
        self.flags = Player::with_state(self.flags, state);
    }

    /// How its line is read, and which way it heads.
    #[inline]
    pub(crate) fn way(&self) -> Way {
        Player::way_of(self.flags)
    }

    pub(super) fn set_way(&mut self, way: Way) {
        self.flags = Player::with_way(self.flags, way);
    }

    /// Whether it heads along the line, and not back.
    #[inline]
    pub(super) fn heads_along(&self) -> bool {
        self.way().is_along()
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

    /// Whether a movement of this sign goes against the last one.
    pub(super) fn turns(&self, negative: bool) -> bool {
        self.way().is_negative() != negative
    }

    /// Whether a movement of this sign moves it at all.
    pub(super) fn can_move(&self, negative: bool) -> bool {
        self.state().moves(self.turns(negative))
    }

    /// Whether no time that passes can change it.
    pub(crate) fn stands(&self) -> bool {
        let free = self.can_move(self.pace.is_negative()) && self.pace.size() > 0;
        self.has(PAUSED) || self.hit_stop == 0 && !free
    }

    /// Whether it goes on as it did, without a second look, until its hold is over: running within a
    /// hold, not paused, in no hit-stop, its speed points where the last movement went (or is 0), and
    /// its clip plays as often as it says itself.
    pub(crate) fn is_ready(&self) -> bool {
        let free = self.state() == State::Running && !self.has(PAUSED) && self.hit_stop == 0;
        free && !self.turns(self.pace.is_negative()) && self.left > 0 && self.plan.times == 0
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

    /// Whether it has begun and is neither over nor put somewhere.
    pub(crate) fn is_under_way(&self) -> bool {
        matches!(self.state(), State::Running | State::Swapped)
    }

    /// Whether it was stopped.
    pub(crate) fn is_stopped(&self) -> bool {
        self.state() == State::Stopped
    }

    /// Whether it has come to the end of a clip that vanishes, for good.
    pub(crate) fn has_vanished(&self, reel: &Reel) -> bool {
        self.state() == State::Finished
            && self.clip_in(reel).is_some_and(|clip| self.end(clip) == NextOr::End(ClipEnd::Vanish))
    }

    /// What becomes of it at the first moment at which it moves, where it is asked to play, or was put
    /// somewhere, and nothing holds it back.
    pub(crate) fn begun(&self, reel: &Reel) -> Option<Player> {
        let held = self.has(PAUSED) || self.hit_stop > 0 || self.pace.size() == 0;
        let negative = self.pace.is_negative();
        let starts = match self.state() {
            State::Pending => true,
            State::Seeked => !self.turns(negative) && self.left > 0,
            _ => false,
        };
        let clip = self.clip_in(reel).filter(|clip| starts && !held && !clip.is_still)?;
        let mut player = *self;
        player.begin_movement(reel, clip, negative)?;
        player.is_ready().then_some(player)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn each_row_of_the_table_is_that_of_its_state() {
        for (number, (state, meaning)) in MEANINGS.into_iter().enumerate() {
            assert_eq!((state as usize, Player::state_of(number as u8)), (number, state));
            assert!(!(meaning.starts && meaning.ends) && state.moves(true) >= state.moves(false));
            // What starts moves whichever way; only what has ended waits for a turn.
            assert!(!meaning.starts || state.moves(false));
            assert!(state.moves(true) == state.moves(false) || meaning.ends);
        }
    }
}
