use core::ops::{BitAnd, BitOr};

use super::EventKind;

/// Which events are wanted. Events not wanted are not computed.
///
/// ```
/// use lucky_reel_core::EventMask;
///
/// let wanted = EventMask::MARKS | EventMask::ENDS;
/// ```
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
pub struct EventMask(u8);

impl EventMask {
    /// No events.
    pub const NONE: EventMask = EventMask(0);
    /// [`EventKind::Enter`]: holds that came up.
    pub const ENTERS: EventMask = EventMask(1);
    /// [`EventKind::Mark`].
    pub const MARKS: EventMask = EventMask(1 << 1);
    /// [`EventKind::Cycle`] and [`EventKind::Turn`].
    pub const CYCLES: EventMask = EventMask(1 << 2);
    /// [`EventKind::End`] and [`EventKind::Next`].
    pub const ENDS: EventMask = EventMask(1 << 3);
    /// [`EventKind::Cue`], [`EventKind::Bridge`] and [`EventKind::CueLoop`], of actors.
    pub const CUES: EventMask = EventMask(1 << 4);
    /// All events.
    pub const ALL: EventMask = EventMask(0b1_1111);

    /// The events of these bits, in the order of the constants; others are ignored.
    #[must_use]
    pub const fn from_bits(bits: u8) -> EventMask {
        EventMask(bits & EventMask::ALL.0)
    }

    pub(crate) const fn bits(self) -> u8 {
        self.0
    }

    /// Whether any of these is wanted.
    #[inline]
    pub(crate) const fn intersects(self, some: EventMask) -> bool {
        self.0 & some.0 != 0
    }

    /// Whether events of this kind are wanted.
    #[must_use]
    #[inline]
    pub const fn wants(self, kind: EventKind) -> bool {
        self.intersects(EventMask::of(kind))
    }

    /// The mask bit for events of this kind.
    #[inline]
    pub(crate) const fn of(kind: EventKind) -> EventMask {
        match kind {
            EventKind::Enter(_) => EventMask::ENTERS,
            EventKind::Mark(_) => EventMask::MARKS,
            EventKind::Cycle | EventKind::Turn => EventMask::CYCLES,
            EventKind::End | EventKind::Next => EventMask::ENDS,
            EventKind::Cue(..) | EventKind::Bridge(..) | EventKind::CueLoop => EventMask::CUES,
        }
    }
}

impl BitAnd for EventMask {
    type Output = EventMask;
    fn bitand(self, other: EventMask) -> EventMask {
        EventMask(self.0 & other.0)
    }
}

impl BitOr for EventMask {
    type Output = EventMask;
    fn bitor(self, other: EventMask) -> EventMask {
        EventMask(self.0 | other.0)
    }
}
