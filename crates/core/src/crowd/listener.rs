//! Who hears what happens, while it happens.

use alloc::vec::Vec;

use super::block::{BLOCK, Row};
use super::group::Pass;
use super::handle::Handle;
use super::tell::Tell;
use crate::play::{Crossing, Event, Steps};
use crate::reel::Reel;
use crate::time::Ticks;

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

/// A plain boundary that was crossed, as little worked out as can be: 32 bytes.
#[derive(Clone, Copy)]
pub(super) struct Passed {
    /// Of the member, after it was crossed.
    pub(super) row: Row,
    /// Units of clip time that were left over.
    pub(super) left: u64,
    pub(super) slot: u32,
    /// The step that was left, and how it is mirrored; or the number of an event that was worked out.
    pub(super) code: u32,
}

impl Passed {
    pub(super) const NOTHING: Passed = Passed { row: Row::EMPTY, left: 0, slot: u32::MAX, code: 0 };

    pub(super) fn handle(&self) -> Handle {
        Handle { slot: self.slot, generation: self.row.generation }
    }

    #[inline]
    pub(super) fn crossing(&self, pass: &Pass) -> Crossing {
        let ticks = Ticks::new(pass.ticks - divide(self.left, self.row.pace.size()));
        let at = if pass.is_plain() { ticks } else { pass.game_tick(ticks, false) };
        Crossing { code: self.code, cycle: self.row.cycle, play: self.row.play, at }
    }
}

/// Rounded down; 0 of what stands still.
#[inline]
fn divide(units: u64, speed: u32) -> u64 {
    // Floats divide far quicker than whole numbers of 64 bits. With at most 52 bits the quotient is
    // off by one at the most.
    if units >> 52 != 0 || speed == 0 {
        return units.checked_div(u64::from(speed)).unwrap_or(0);
    }
    let quotient = (units as i64 as f64 / f64::from(speed)) as i64 as u64;
    quotient - u64::from(quotient * u64::from(speed) > units)
}

/// Hears what happens, in order.
pub(super) trait Listener {
    /// Room for what a block may tell, at least.
    fn room(&mut self) -> &mut [Passed];
    /// So many have been written into the room, of members of this group.
    fn passed(&mut self, count: usize, group: u8, pass: &Pass, leaving: &mut Vec<u32>);
    fn event(&mut self, event: Event, member: &mut Member);
}

/// Has every event worked out at once, for a closure.
pub(super) struct Aloud<'a, F> {
    reel: &'a Reel,
    steps: &'a Steps,
    tell: Tell,
    told: F,
    room: [Passed; BLOCK],
}

impl<'a, F: FnMut(&mut Member, Event)> Aloud<'a, F> {
    pub(super) fn new(reel: &'a Reel, steps: &'a Steps, tell: Tell, told: F) -> Aloud<'a, F> {
        Aloud { reel, steps, tell, told, room: [Passed::NOTHING; BLOCK] }
    }
}

impl<F: FnMut(&mut Member, Event)> Listener for Aloud<'_, F> {
    #[inline]
    fn room(&mut self) -> &mut [Passed] {
        &mut self.room
    }

    #[inline]
    fn passed(&mut self, count: usize, _: u8, pass: &Pass, leaving: &mut Vec<u32>) {
        let Aloud { reel, steps, tell, told, room } = self;
        for passed in room.iter().take(count) {
            let mut member = Member { handle: passed.handle(), leaves: false };
            passed.crossing(pass).tell(reel, steps, |event| {
                if tell.wants(&event) {
                    told(&mut member, event);
                }
            });
            if member.leaves {
                leaving.push(passed.slot);
            }
        }
    }

    #[inline]
    fn event(&mut self, event: Event, member: &mut Member) {
        (self.told)(member, event);
    }
}
