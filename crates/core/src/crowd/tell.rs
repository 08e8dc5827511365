use core::ops::{BitAnd, BitOr};

use super::block::STEP;
use crate::play::{Event, Step, Steps};

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
    /// What a step knows of the boundary at its end, in the order of the step's bits.
    pub(super) const IN_STEP: Tell = Tell(0b111);

    /// All events.
    pub const ALL: Tell = Tell(0b1_1111);

    #[inline]
    pub(super) const fn has(self, some: Tell) -> bool {
        self.0 & some.0 != 0
    }

    /// What crossing the boundary at the end of a step is asked for by.
    #[inline]
    pub(super) fn of_step(steps: &Steps, step: u32) -> Tell {
        Tell(steps.get(step & STEP).map_or(0, Step::kinds))
    }

    /// The events that are told of a step, in the step's own bits.
    pub(super) const fn in_step(self) -> u64 {
        Step::flags_of_kinds(self.0)
    }

    /// Whether an event is among those that are wanted.
    #[must_use]
    pub fn wants(self, event: &Event) -> bool {
        self.has(Tell::kind_of(event))
    }

    /// What this event is asked for by.
    pub(super) fn kind_of(event: &Event) -> Tell {
        match event {
            Event::Enter { .. } => Tell::ENTERED,
            Event::Mark { .. } => Tell::MARKS,
            Event::Cycle { .. } | Event::Turn { .. } => Tell::CYCLES,
            Event::End { .. } | Event::Next { .. } => Tell::ENDS,
            Event::Cue { .. } | Event::Bridge { .. } | Event::CutOff { .. } => Tell::CUES,
        }
    }
}

impl BitAnd for Tell {
    type Output = Tell;
    fn bitand(self, other: Tell) -> Tell {
        Tell(self.0 & other.0)
    }
}

impl BitOr for Tell {
    type Output = Tell;
    fn bitor(self, other: Tell) -> Tell {
        Tell(self.0 | other.0)
    }
}
