//! Where events go while a crowd is advanced.

use alloc::vec::Vec;

use super::block::{BLOCK, MemberState};
use super::group_clock::GroupAdvance;
use super::member_id::MemberId;
use crate::actor::Actor;
use crate::event::Event;
use crate::kernel::{Boundary, Happened, StepTable};
use crate::play::{Events, Player};
use crate::reel::Reel;
use crate::time::{Ticks, divide_units};

/// A plain boundary that was crossed, as little worked out as can be: 32 bytes.
#[derive(Clone, Copy)]
pub(super) struct CrossingRecord {
    /// Of the member, after it was crossed.
    pub(super) state: MemberState,
    /// Units of clip time that were left over.
    pub(super) over: u64,
    pub(super) slot: u32,
    /// The step that was left, and how it is mirrored; or the number of something that was kept whole.
    pub(super) code: u32,
}

impl CrossingRecord {
    pub(super) const NOTHING: CrossingRecord =
        CrossingRecord { state: MemberState::EMPTY, over: 0, slot: u32::MAX, code: 0 };

    #[inline]
    pub(super) fn id(&self) -> MemberId {
        MemberId { slot: self.slot, generation: self.state.generation }
    }

    /// What happened there of what is wanted, and when.
    #[inline]
    pub(super) fn boundary(
        &self,
        steps: &StepTable,
        advance: &GroupAdvance,
        wanted: Happened,
    ) -> (Boundary, Ticks) {
        let CrossingRecord { state, over, code, .. } = *self;
        let number = code & super::block::STEP;
        let step = steps.get(number);
        let before = state.cycle.wrapping_sub(step.cycles());
        let mut boundary = steps.boundary(number, step, before, state.plays);
        boundary.report(boundary.happened().only(wanted));
        let after = divide_units(over, u64::from(state.pace.size()));
        let at = advance.game_tick(Ticks::new(advance.ticks - after), false);
        (boundary, at)
    }
}

/// A member before an advance that took the slow path.
#[derive(Clone, Copy)]
#[allow(clippy::large_enum_variant)] // it is kept in a list that is used again
pub(super) enum Before {
    Player(Player),
    Actor(Actor),
}

/// The events of an advance that took the slow path.
#[allow(clippy::large_enum_variant)] // it lives while it is read
#[derive(Clone)]
pub(super) enum SlowEvents<'r> {
    Player(Events<'r>),
    Actor(Events<'r, Actor>),
}

impl Before {
    pub(super) fn events<'r>(&self, reel: &'r Reel, ticks: u64) -> SlowEvents<'r> {
        match *self {
            Before::Player(mut player) => {
                SlowEvents::Player(player.advance(reel, Ticks::new(ticks)))
            }
            Before::Actor(mut actor) => SlowEvents::Actor(actor.advance(reel, Ticks::new(ticks))),
        }
    }

    /// When it begins to move.
    pub(super) fn first(&self) -> Ticks {
        match self {
            Before::Player(player) => player.hit_stop_left(),
            Before::Actor(actor) => actor.player().hit_stop_left(),
        }
    }
}

impl Iterator for SlowEvents<'_> {
    type Item = Event;

    #[inline]
    fn next(&mut self) -> Option<Event> {
        match self {
            SlowEvents::Player(events) => events.next(),
            SlowEvents::Actor(events) => events.next(),
        }
    }
}

/// An event of a group's time as one of the game's.
#[inline]
pub(super) fn in_game_time(event: Event, first: Ticks, advance: &GroupAdvance) -> Event {
    let at = advance.game_tick(event.at, event.at == first);
    Event { at, ..event }
}

/// Takes in what happens, in order.
pub(super) trait EventSink {
    /// Room for the crossings of a block, at least.
    fn room(&mut self) -> &mut [CrossingRecord];
    /// This many have been written into the room, of members of this group; and what happened in any of
    /// them.
    fn crossed(&mut self, count: usize, happened: Happened, group: u8);
    /// What happened to a member at one moment.
    fn moment(&mut self, member: MemberId, boundary: Boundary, at: Ticks);
    /// A member took the slow path: as it was before.
    fn slow(&mut self, member: MemberId, before: Before, group: u8);
}

/// For an advance of which nothing is wanted.
pub(super) struct Silence([CrossingRecord; BLOCK]);

impl Silence {
    pub(super) fn new() -> Silence {
        Silence([CrossingRecord::NOTHING; BLOCK])
    }
}

impl EventSink for Silence {
    #[inline]
    fn room(&mut self) -> &mut [CrossingRecord] {
        &mut self.0
    }

    #[inline]
    fn crossed(&mut self, _: usize, _: Happened, _: u8) {}

    fn moment(&mut self, _: MemberId, _: Boundary, _: Ticks) {}

    fn slow(&mut self, _: MemberId, _: Before, _: u8) {}
}

/// Slots of members that leave at the end of an advance.
pub(super) type Leaving = Vec<u32>;
