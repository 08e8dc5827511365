//! Time passes for a crowd.

use super::Crowd;
use super::advance_block::{Context, advance_block};
use super::block::{BLOCK, Block, Clocks, Codes, MemberState};
use super::event_buffer::EventBuffer;
use super::event_member::{EventMember, MemberCommand};
use super::sink::{CallbackSink, EventSink, Leaving};
use super::slot::BlockMut;
use crate::event::{Event, EventMask};
use crate::time::Ticks;

impl Crowd {
    /// Advances all members by game time, without events, in constant time per member, however long the
    /// time.
    ///
    /// Any split of the same time gives the same, bit for bit.
    pub fn advance(&mut self, dt: Ticks) {
        self.advance_with(dt, EventMask::NONE, |_, _| {});
    }

    /// Advances all members by game time, with the events of each: member by member in the order of
    /// their slots, each in the order of the law. Events not asked for cost nothing.
    ///
    /// Commands to an [`EventMember`] are carried out when all events have been seen. An event's `at` counts game
    /// time, whatever the time of the member's group. After a very long step there may be very many
    /// events: [`advance_into`](Crowd::advance_into) works out those alone that are read.
    ///
    /// Examples are at [`Crowd`] and [`EventMember`].
    pub fn advance_with(
        &mut self,
        dt: Ticks,
        mask: EventMask,
        call: impl FnMut(&mut EventMember<'_>, Event),
    ) {
        self.begin_advance(dt);
        self.advance_groups(mask, call);
    }

    /// Like [`advance_with`](Crowd::advance_with), into a buffer that can be reused.
    ///
    /// An example is at [`EventBuffer`].
    pub fn advance_into(&mut self, dt: Ticks, mask: EventMask, events: &mut EventBuffer) {
        self.begin_advance(dt);
        events.begin(mask, &self.reel, &self.advances);
        let (context, columns, leaving) = self.columns(mask);
        columns.advance(context, leaving, events);
        self.end_advance();
    }

    /// As [`advance_into`](Crowd::advance_into), on the threads of rayon's pool: with the same results
    /// bit for bit, including the events and their order.
    #[cfg(feature = "rayon")]
    pub fn advance_in_parallel(&mut self, dt: Ticks, mask: EventMask, events: &mut EventBuffer) {
        use super::event_buffer::Part;
        use rayon::prelude::*;
        /// So many blocks are given to a thread at a time.
        const SHARE: usize = 64;
        self.begin_advance(dt);
        events.begin(mask, &self.reel, &self.advances);
        let mut parts = core::mem::take(&mut events.parts);
        let shares = self.blocks.len().div_ceil(SHARE);
        parts.resize_with(shares.max(parts.len()), Part::default);
        let (context, columns, leaving) = self.columns(mask);
        let Columns { first: _, clocks, codes, states, blocks } = columns;
        let columns = clocks
            .par_chunks_mut(SHARE)
            .zip(codes.par_chunks_mut(SHARE))
            .zip(states.par_chunks_mut(SHARE))
            .zip(blocks.par_chunks_mut(SHARE))
            .zip(&mut parts)
            .enumerate();
        columns.for_each(|(nth, ((((clocks, codes), states), blocks), part))| {
            part.events.begin(mask, context.reel, context.advances);
            let columns = Columns { first: nth * SHARE, clocks, codes, states, blocks };
            columns.advance(context, &mut part.leaving, &mut part.events);
        });
        for part in parts.iter_mut().take(shares) {
            events.append(&part.events);
            leaving.append(&mut part.leaving);
        }
        events.parts = parts;
        self.end_advance();
    }

    /// What the time means for each group.
    fn begin_advance(&mut self, dt: Ticks) {
        self.advances.clear();
        self.advances.extend(self.groups.iter_mut().map(|group| group.advance(dt)));
    }

    /// Advances all blocks by the time of their groups, which has been worked out.
    pub(super) fn advance_groups(
        &mut self,
        mask: EventMask,
        call: impl FnMut(&mut EventMember<'_>, Event),
    ) {
        let reel = self.reel.clone();
        let mut queue = core::mem::take(&mut self.queue);
        let (context, columns, leaving) = self.columns(mask);
        let mut sink = CallbackSink::new(&reel, mask, &mut queue, call);
        columns.advance(context, leaving, &mut sink);
        self.end_advance();
        for (member, command) in queue.commands.drain(..) {
            match command {
                MemberCommand::Despawn => {
                    self.remove(member);
                }
                MemberCommand::Restart => {
                    self.restart(member);
                }
                MemberCommand::Play(clip) => {
                    self.play(member, clip);
                }
                MemberCommand::SwitchTo(clip) => {
                    self.switch_to(member, clip);
                }
            }
        }
        queue.spawns.drain(..).for_each(|new| {
            self.spawn(new);
        });
        self.queue = queue;
    }

    fn columns(&mut self, mask: EventMask) -> (Context<'_>, Columns<'_>, &mut Leaving) {
        let Crowd { reel, advances, clocks, codes, states, blocks, leaving, .. } = self;
        let columns = Columns { first: 0, clocks, codes, states, blocks };
        (Context::new(reel, advances, mask), columns, leaving)
    }

    /// Frees the slots of those who leave.
    fn end_advance(&mut self) {
        let mut leaving = core::mem::take(&mut self.leaving);
        for slot in leaving.drain(..) {
            self.free(slot);
        }
        self.leaving = leaving;
    }
}

/// Some blocks that follow one another.
struct Columns<'c> {
    first: usize,
    clocks: &'c mut [Clocks],
    codes: &'c mut [Codes],
    states: &'c mut [[MemberState; BLOCK]],
    blocks: &'c mut [Block],
}

impl Columns<'_> {
    /// Lets time pass for them, in their order.
    #[inline]
    fn advance(self, context: Context<'_>, leaving: &mut Leaving, sink: &mut impl EventSink) {
        let Columns { first, clocks, codes, states, blocks } = self;
        let columns = clocks.iter_mut().zip(codes).zip(states).zip(blocks);
        for (at, (((clocks, codes), states), block)) in (first..).zip(columns) {
            let mut slots = BlockMut { clocks, codes, states, block };
            advance_block(context, at, &mut slots, leaving, sink);
        }
    }
}
