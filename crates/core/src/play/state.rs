//! Where a player is in its life and what that means: the one table of states, and the flags that hold one.

use crate::kernel::Way;

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
    /// Every number in these bits is a state; to the processor this is no more than the bits themselves.
    #[inline]
    pub(super) fn of(flags: u8) -> State {
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

    /// The flags of one whose state is this now.
    #[inline]
    pub(crate) fn put(self, flags: u8) -> u8 {
        flags & !STATE | self as u8
    }

    #[inline]
    pub(crate) fn means(self) -> Meaning {
        MEANINGS[self as usize].1
    }

    /// Whether time moves it, its speed pointing where it did or the other way. What has ended stands until its
    /// speed turns inward.
    #[inline]
    pub(super) fn moves(self, turned: bool) -> bool {
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

/// How a line is read, by the flags of its player.
#[inline]
pub(super) fn way_of(flags: u8) -> Way {
    Way::of((flags & WAY) >> WAY_SHIFT)
}

#[inline]
pub(super) fn with_way(flags: u8, way: Way) -> u8 {
    flags & !WAY | way.bits() << WAY_SHIFT
}

/// The flags of one whose first moment has come, at a speed of this sign: how its line is read is fixed where
/// it was asked to play; else it may turn.
#[inline]
pub(crate) fn begun_flags(flags: u8, negative: bool) -> u8 {
    let way = match State::of(flags) {
        State::Pending => Way::begun(negative),
        _ => way_of(flags).turned(negative),
    };
    State::Running.put(with_way(flags, way))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn each_row_of_the_table_is_that_of_its_state() {
        for (number, (state, meaning)) in MEANINGS.into_iter().enumerate() {
            assert_eq!((state as usize, State::of(number as u8)), (number, state));
            assert!(!(meaning.starts && meaning.ends) && state.moves(true) >= state.moves(false));
            // What starts moves whichever way; only what has ended waits for a turn.
            assert!(!meaning.starts || state.moves(false));
            assert!(state.moves(true) == state.moves(false) || meaning.ends);
        }
    }
}
