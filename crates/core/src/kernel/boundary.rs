//! What happens at one boundary, or at the first moment of a movement, as events.

use super::line::RETURNING;
use super::table::Origin;
use crate::clip::ClipData;
use crate::event::{Event, EventKind, EventMask, serial};
use crate::ids::{ClipId, Family, NONE};
use crate::sheet::PackedFrame;

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
    const OF_THE_LEFT: Happened = Happened::CYCLE.and(Happened::TURN).and(Happened::END);

    pub(super) const fn from_bits(bits: u8) -> Happened {
        Happened(bits)
    }

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

    pub(crate) const fn and(self, other: Happened) -> Happened {
        Happened(self.0 | other.0)
    }

    pub(crate) const fn only(self, those: Happened) -> Happened {
        Happened(self.0 & those.0)
    }

    pub(crate) const fn has(self, any: Happened) -> bool {
        self.0 & any.0 != 0
    }

    /// Whether this happened; it then counts as reported.
    fn take(&mut self, one: Happened) -> bool {
        let had = self.has(one);
        self.0 &= !one.0;
        had
    }
}

/// The clips of a reel by their numbers.
#[derive(Clone, Copy)]
pub(crate) struct Clips<'r> {
    pub(crate) family: Family,
    pub(crate) data: &'r [Option<ClipData>],
}

impl<'r> Clips<'r> {
    #[inline]
    pub(crate) fn get(self, clip: u16) -> Option<&'r ClipData> {
        self.data.get(usize::from(clip))?.as_ref()
    }
}

/// What happened in one instant, and what of it has not been reported yet: events in the order of the
/// law come from here alone.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Boundary {
    pub(crate) happened: Happened,
    marks_reported: u8,
    /// Of the hold that is left, and of the one that is entered.
    pub(crate) left_plays: u8,
    pub(crate) plays: u8,
    pub(crate) left: Origin,
    pub(crate) now: Origin,
    /// The cycle whose boundary is crossed, and the one that it has come to.
    pub(crate) crossed: i32,
    pub(crate) cycle: i32,
    /// What the hold shows that is entered.
    frame: PackedFrame,
}

impl Boundary {
    pub(crate) const NOTHING: Boundary = Boundary::within_play(
        Happened::NOTHING,
        [Origin { clip: NONE, place: 0 }; 2],
        [0; 2],
        0,
        PackedFrame::NOTHING,
    );

    /// A movement from one step into the next within one play.
    #[inline]
    pub(crate) const fn within_play(
        happened: Happened,
        [left, now]: [Origin; 2],
        [crossed, cycle]: [i32; 2],
        plays: u8,
        frame: PackedFrame,
    ) -> Boundary {
        Boundary {
            happened,
            marks_reported: 0,
            left_plays: plays,
            plays,
            left,
            now,
            crossed,
            cycle,
            frame,
        }
    }

    /// Whether all has been reported.
    #[inline]
    pub(crate) fn is_done(&self) -> bool {
        self.happened.0 == 0
    }

    /// The next event of this instant. To be inlined, so that a hold that came up, which is what nearly
    /// always happened, is handed on in registers.
    #[inline]
    pub(crate) fn next(&mut self, clips: Clips<'_>) -> Option<Event<()>> {
        let others = Happened::OF_THE_LEFT.and(Happened::NEXT);
        if self.happened.has(others) || !self.happened.take(Happened::ENTER) {
            if self.is_done() {
                return None;
            }
            let (after, event) = self.next_other(clips);
            *self = after;
            return event;
        }
        let now = self.now;
        Some(Event {
            at: (),
            clip: ClipId::new(clips.family, now.clip),
            hold: u32::from(now.place & !RETURNING),
            cycle: self.cycle,
            serial: serial(self.plays, self.cycle, now.place, 0, 0),
            kind: EventKind::Enter(self.frame.frame()?),
        })
    }

    /// By value, so that a boundary has no address and stays in registers.
    #[inline(never)]
    fn next_other(mut self, clips: Clips<'_>) -> (Boundary, Option<Event<()>>) {
        let event = self.take_other(clips);
        (self, event)
    }

    fn take_other(&mut self, clips: Clips<'_>) -> Option<Event<()>> {
        let hold = |origin: Origin| u32::from(origin.place & !RETURNING);
        let event = |origin: Origin, cycle, serial, kind| {
            let clip = ClipId::new(clips.family, origin.clip);
            Some(Event { at: (), clip, hold: hold(origin), cycle, serial, kind })
        };
        if self.happened.has(Happened::OF_THE_LEFT) {
            let (kind, number, cycle) = if self.happened.take(Happened::CYCLE) {
                (EventKind::Cycle, 2, self.crossed)
            } else if self.happened.take(Happened::TURN) {
                (EventKind::Turn, 3, self.cycle)
            } else {
                self.happened.take(Happened::END);
                (EventKind::End, 4, self.crossed)
            };
            let serial = serial(self.left_plays, cycle, self.left.place, number, 0);
            return event(self.left, cycle, serial, kind);
        }
        let now = self.now;
        if self.happened.take(Happened::NEXT) {
            let serial = serial(self.plays, 0, now.place, 5, 0);
            return event(Origin { place: 0, ..now }, 0, serial, EventKind::Next);
        }
        if self.happened.has(Happened::MARKS) {
            let marks = clips.get(now.clip)?.marks_of(now.place & !RETURNING);
            let nth = self.marks_reported;
            self.marks_reported += 1;
            if usize::from(nth) + 1 >= marks.len() {
                self.happened.take(Happened::MARKS);
            }
            let (_, mark) = *marks.get(usize::from(nth))?;
            let serial = serial(self.plays, self.cycle, now.place, 1, nth);
            return event(now, self.cycle, serial, EventKind::Mark(mark));
        }
        None
    }
}
