use core::ops::BitOr;

use super::Handle;
use crate::play::Event;

/// Which events of a crowd are wanted. What is not asked for is not worked out.
///
/// ```
/// use lucky_reel_core::Tell;
///
/// let wanted = Tell::MARKS | Tell::ENDS;
/// ```
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct Tell(u8);

impl Tell {
    /// No events.
    pub const NOTHING: Tell = Tell(0);
    /// [`Event::Enter`]: holds that came up.
    pub const ENTERED: Tell = Tell(1);
    /// [`Event::Mark`].
    pub const MARKS: Tell = Tell(1 << 1);
    /// [`Event::Cycle`] and [`Event::Turn`].
    pub const CYCLES: Tell = Tell(1 << 2);
    /// [`Event::End`] and [`Event::Next`].
    pub const ENDS: Tell = Tell(1 << 3);
    /// [`Event::Cue`], [`Event::Bridge`] and [`Event::CutOff`], of actors.
    pub const CUES: Tell = Tell(1 << 4);
    /// All events.
    pub const ALL: Tell = Tell(0b1_1111);

    #[inline]
    pub(super) const fn has(self, some: Tell) -> bool {
        self.0 & some.0 != 0
    }

    /// Whether an event is among those that are wanted.
    #[must_use]
    pub fn wants(self, event: &Event) -> bool {
        self.has(match event {
            Event::Enter { .. } => Tell::ENTERED,
            Event::Mark { .. } => Tell::MARKS,
            Event::Cycle { .. } | Event::Turn { .. } => Tell::CYCLES,
            Event::End { .. } | Event::Next { .. } => Tell::ENDS,
            Event::Cue { .. } | Event::Bridge { .. } | Event::CutOff { .. } => Tell::CUES,
        })
    }
}

impl BitOr for Tell {
    type Output = Tell;
    fn bitor(self, other: Tell) -> Tell {
        Tell(self.0 | other.0)
    }
}

/// The member that an event is of, while events are read.
#[derive(Debug)]
pub struct Member {
    pub(super) handle: Handle,
    pub(super) leaves: bool,
}

impl Member {
    /// Its handle.
    #[must_use]
    #[inline]
    pub fn handle(&self) -> Handle {
        self.handle
    }

    /// Takes it out of the crowd once all events of this advance have been told.
    #[inline]
    pub fn despawn(&mut self) {
        self.leaves = true;
    }
}
