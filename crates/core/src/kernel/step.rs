//! A place of a clip's line, read one way and headed one way, and the boundary that lies ahead of it.

use super::happened::Happened;
use crate::sheet::PackedFrame;

/// 16 bytes. It says where the boundary leads as long as the play does not end there.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Step {
    /// How long the next one stays up, in units of clip time. That is a whole number of ticks, so the
    /// lowest 16 bits are free for flags, and for the events of the boundary.
    next_units_and_flags: u64,
    /// How far on the step that follows stands; it may be before this one, all wraps. A crowd keeps more than a
    /// number in the bits above it, which an addition leaves alone.
    ahead: u32,
    /// What it shows, unflipped.
    pub(super) frame: PackedFrame,
}

/// What comes after the boundary depends on the cycle: the play may end there.
const DEPENDS: u64 = 1;
/// The boundary can change what an actor plays.
const AFFECTS_CUES: u64 = 1 << 1;
/// The boundary leads to the same picture.
const SAME: u64 = 1 << 2;
/// At the boundary a cycle begins, or ends on the way back.
const WRAPS_UP: u64 = 1 << 3;
const WRAPS_DOWN: u64 = 1 << 4;
/// The boundary is the end of a clip that is played once, and stays, or vanishes.
const STAYS: u64 = 1 << 5;
const VANISHES: u64 = 1 << 6;
/// From here on: what happens at the boundary.
const HAPPENED_SHIFT: u32 = 8;
const FLAGS: u64 = 0xffff;

/// What is true of a step.
#[derive(Clone, Copy, Debug, Default)]
pub(super) struct Facts {
    pub(super) is_edge: bool,
    pub(super) depends: bool,
    pub(super) affects_cues: bool,
    pub(super) same: bool,
    /// By how much the count of cycles changes.
    pub(super) cycles: i32,
    pub(super) stays: bool,
    pub(super) vanishes: bool,
    pub(super) happened: Happened,
}

impl Step {
    /// What comes after the boundary depends on the cycle where the game has said how often to play,
    /// also of a clip that is itself endless.
    pub(crate) const EDGE: u64 = 1 << 7;
    /// Where anything but the clock, the step and the picture changes, or not even that.
    pub(crate) const UNUSUAL: u64 = SAME | WRAPS_UP | WRAPS_DOWN;
    /// The step that shows nothing and lasts forever.
    pub(crate) const NOTHING: Step =
        Step { next_units_and_flags: DEPENDS | Step::EDGE, ahead: 0, frame: PackedFrame::NOTHING };

    pub(super) fn new(next_units: u64, ahead: u32, frame: PackedFrame, facts: Facts) -> Step {
        let flags = [
            (facts.depends, DEPENDS),
            (facts.affects_cues, AFFECTS_CUES),
            (facts.same, SAME),
            (facts.cycles > 0, WRAPS_UP),
            (facts.cycles < 0, WRAPS_DOWN),
            (facts.stays, STAYS),
            (facts.vanishes, VANISHES),
            (facts.is_edge, Step::EDGE),
        ];
        let flags = flags.into_iter().filter(|(on, _)| *on).fold(0, |all, (_, flag)| all | flag);
        let happened = u64::from(facts.happened.bits()) << HAPPENED_SHIFT;
        Step { next_units_and_flags: next_units | flags | happened, ahead, frame }
    }

    /// The flags of boundaries that cannot be crossed by these numbers alone.
    pub(crate) const fn stops(for_actor: bool) -> u64 {
        if for_actor { DEPENDS | AFFECTS_CUES } else { DEPENDS }
    }

    #[inline]
    pub(crate) fn has(self, flags: u64) -> bool {
        self.next_units_and_flags & flags != 0
    }

    /// With the flags of another one, too, and with what happens there.
    #[inline]
    pub(crate) fn or_flags_of(self, other: Step) -> Step {
        let next_units_and_flags = self.next_units_and_flags | other.next_units_and_flags & FLAGS;
        Step { next_units_and_flags, ..self }
    }

    /// How long the next one stays up, in units of clip time.
    #[inline]
    pub(crate) fn next_units(self) -> u64 {
        self.next_units_and_flags & !FLAGS
    }

    /// The number of the step that follows this one; what lies above the number is kept.
    #[inline]
    pub(crate) fn follow(self, number: u32) -> u32 {
        number.wrapping_add(self.ahead)
    }

    /// Whether the boundary leads to another picture.
    #[inline]
    pub(crate) fn changes(self) -> bool {
        !self.has(SAME)
    }

    /// By how much the count of cycles changes at the boundary.
    #[inline]
    pub(crate) fn cycles(self) -> i32 {
        i32::from(self.has(WRAPS_UP)) - i32::from(self.has(WRAPS_DOWN))
    }

    /// The cycle after the boundary, of the one before it.
    #[inline(always)]
    pub(crate) fn count(self, cycle: i32) -> i32 {
        cycle.wrapping_add(self.cycles())
    }

    /// Whether a play of so many cycles may end at the boundary.
    pub(crate) fn is_edge(self) -> bool {
        self.has(Step::EDGE)
    }

    /// Whether the boundary is the end of a clip that is played once, and stays or vanishes there; and
    /// whether it vanishes.
    #[inline]
    pub(crate) fn ends(self) -> Option<bool> {
        self.has(STAYS | VANISHES).then_some(self.has(VANISHES))
    }

    /// What happens at the boundary.
    #[inline]
    pub(crate) fn happened(self) -> Happened {
        Happened::from_bits((self.next_units_and_flags >> HAPPENED_SHIFT) as u8)
    }

    /// The flags of steps at whose boundary any of these happens.
    pub(crate) const fn flags_of(happened: Happened) -> u64 {
        (happened.bits() as u64) << HAPPENED_SHIFT
    }
}
