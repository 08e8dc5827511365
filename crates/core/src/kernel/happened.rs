//! What happens in one instant, as flags.

use crate::clip::ClipData;
use crate::event::EventMask;

/// What is to be reported for one instant.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub(crate) struct Happened(u8);

impl Happened {
    pub(crate) const NOTHING: Happened = Happened(0);
    pub(crate) const ENTER: Happened = Happened(1);
    pub(crate) const MARKS: Happened = Happened(1 << 1);
    pub(crate) const CYCLE: Happened = Happened(1 << 2);
    pub(crate) const TURN: Happened = Happened(1 << 3);
    pub(crate) const END: Happened = Happened(1 << 4);
    pub(crate) const NEXT: Happened = Happened(1 << 5);
    pub(crate) const ANYTHING: Happened = Happened(u8::MAX);
    /// What is said of the hold that is left.
    pub(super) const OF_THE_LEFT: Happened = Happened::CYCLE.and(Happened::TURN).and(Happened::END);

    #[inline]
    pub(super) const fn from_bits(bits: u8) -> Happened {
        Happened(bits)
    }

    #[inline]
    pub(super) const fn bits(self) -> u8 {
        self.0
    }

    /// What events of these kinds report.
    pub(crate) const fn wanted_by(mask: EventMask) -> Happened {
        let mut happened = Happened(mask.bits() & 0b111);
        if mask.intersects(EventMask::CYCLES) {
            happened = happened.and(Happened::TURN);
        }
        if mask.intersects(EventMask::ENDS) {
            happened = happened.and(Happened::END).and(Happened::NEXT);
        }
        happened
    }

    /// Where a hold is entered.
    #[inline]
    pub(crate) fn on_entering(clip: &ClipData, hold: u16) -> Happened {
        if clip.marks_of(hold).is_empty() {
            Happened::ENTER
        } else {
            Happened::ENTER.and(Happened::MARKS)
        }
    }

    /// At a first moment on a hold of which so many units are left: its marks are reported where all of it
    /// lies ahead.
    #[inline]
    pub(crate) fn at_first(clip: &ClipData, hold: u16, left: u64) -> Happened {
        let length = clip.holds.get(usize::from(hold)).map(|hold| hold.ticks << 16);
        if length == Some(left) { Happened::on_entering(clip, hold) } else { Happened::ENTER }
    }

    #[inline]
    pub(crate) const fn and(self, other: Happened) -> Happened {
        Happened(self.0 | other.0)
    }

    #[inline]
    pub(crate) const fn only(self, those: Happened) -> Happened {
        Happened(self.0 & those.0)
    }

    #[inline]
    pub(crate) const fn has(self, any: Happened) -> bool {
        self.0 & any.0 != 0
    }
}
