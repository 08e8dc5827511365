//! What happens at one boundary, or at the first moment of a movement, as events.

use super::happened::Happened;
use super::line::RETURNING;
use super::origin::Origin;
use crate::clip::ClipData;
use crate::event::{Event, EventKind, serial};
use crate::ids::{ClipId, Family, MarkId};
use crate::sheet::PackedFrame;
use crate::time::Ticks;

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

    /// One of the marks of a hold, by name, and whether it is the last.
    #[inline(never)]
    fn mark_at(self, at: Origin, nth: u8) -> Option<(MarkId, bool)> {
        let marks = self.get(at.clip())?.marks_of(at.place() & !RETURNING);
        let (_, mark) = *marks.get(usize::from(nth))?;
        Some((mark, usize::from(nth) + 1 == marks.len()))
    }
}

/// What happened in one instant, and what of it has not been reported yet: events in the order of the
/// law come from here alone.
///
/// Of words alone, so that a boundary that is read at once stays in registers.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Boundary {
    /// What happened, how many marks have been reported, and the plays of the hold that is left and of
    /// the one that is entered: a byte each, from the lowest.
    bytes: u32,
    /// The hold that is left, and the one that is entered.
    pub(crate) left: Origin,
    pub(crate) now: Origin,
    /// The cycle whose boundary is crossed, and the one that it has come to.
    pub(crate) crossed: i32,
    pub(crate) cycle: i32,
    /// What the hold shows that is entered.
    frame: PackedFrame,
}

/// One mark more has been reported.
const ONE_MARK: u32 = 1 << 8;

impl Boundary {
    pub(crate) const NOTHING: Boundary =
        Boundary::new(Happened::NOTHING, [Origin::NONE; 2], [0; 2], [0; 2], PackedFrame::NOTHING);

    /// From one step into another; of each pair, that of the hold that is left stands first.
    #[inline]
    pub(crate) const fn new(
        happened: Happened,
        [left, now]: [Origin; 2],
        [crossed, cycle]: [i32; 2],
        [left_plays, plays]: [u8; 2],
        frame: PackedFrame,
    ) -> Boundary {
        let bytes = u32::from_le_bytes([happened.bits(), 0, left_plays, plays]);
        Boundary { bytes, left, now, crossed, cycle, frame }
    }

    /// What has not been reported yet.
    #[inline]
    pub(crate) const fn happened(&self) -> Happened {
        Happened::from_bits(self.bytes as u8)
    }

    /// This is to be reported, and nothing else.
    #[inline]
    pub(crate) fn report(&mut self, happened: Happened) {
        self.bytes = self.bytes & !0xff | u32::from(happened.bits());
    }

    fn marks_reported(&self) -> u8 {
        (self.bytes >> 8) as u8
    }

    /// Another count of cycles and of plays.
    pub(crate) fn count(&mut self, cycle: i32, plays: u8) {
        self.cycle = cycle;
        self.bytes = self.bytes & 0x00ff_ffff | u32::from(plays) << 24;
    }

    #[inline]
    pub(crate) fn left_plays(&self) -> u8 {
        (self.bytes >> 16) as u8
    }

    #[inline]
    pub(crate) fn plays(&self) -> u8 {
        (self.bytes >> 24) as u8
    }

    /// Whether all has been reported.
    #[inline]
    pub(crate) fn is_done(&self) -> bool {
        self.bytes as u8 == 0
    }

    /// Whether this happened; it then counts as reported.
    #[inline]
    fn take(&mut self, one: Happened) -> bool {
        let had = self.happened().has(one);
        self.bytes &= !u32::from(one.bits());
        had
    }

    /// The next event of this instant. Inlined, so that what is not read of an event is not made.
    #[inline]
    pub(crate) fn next(&mut self, clips: Clips<'_>, when: Ticks) -> Option<Event> {
        if self.is_done() {
            return None;
        }
        let (mut at, mut plays, mut cycle, mut nth) = (self.now, self.plays(), self.cycle, 0);
        let (kind, number) = if self.happened().has(Happened::OF_THE_LEFT) {
            (at, plays) = (self.left, self.left_plays());
            if self.take(Happened::CYCLE) {
                cycle = self.crossed;
                (EventKind::Cycle, 2)
            } else if self.take(Happened::TURN) {
                (EventKind::Turn, 3)
            } else {
                self.take(Happened::END);
                cycle = self.crossed;
                (EventKind::End, 4)
            }
        } else if self.take(Happened::NEXT) {
            cycle = 0;
            (EventKind::Next, 5)
        } else if self.take(Happened::ENTER) {
            (EventKind::Enter(self.frame.frame()?), 0)
        } else {
            nth = self.marks_reported();
            self.bytes = self.bytes.wrapping_add(ONE_MARK);
            let (mark, is_last) = clips.mark_at(at, nth)?;
            if is_last {
                self.take(Happened::MARKS);
            }
            (EventKind::Mark(mark), 1)
        };
        let hold = if number == 5 { 0 } else { at.place() & !RETURNING };
        Some(Event {
            at: when,
            clip: ClipId::new(clips.family, at.clip()),
            hold: u32::from(hold),
            cycle,
            serial: serial(plays, cycle, at.place(), number, nth),
            kind,
        })
    }
}
