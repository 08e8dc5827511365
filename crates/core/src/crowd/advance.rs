//! Time passes for a crowd.

use super::advance_block::{Context, advance_block};
use super::block::{BLOCK, Block, Clocks, Codes, MemberState};
use super::event_buffer::EventBuffer;
use super::sink::{EventSink, Leaving, Silence};
use super::slot::BlockMut;
use super::{Crowd, Departed};
use crate::event::EventMask;
use crate::time::Ticks;

impl Crowd {
    /// Advances all members by game time, in constant time per member, however long the time.
    ///
    /// Any split of the same time gives the same, bit for bit.
    pub fn advance(&mut self, dt: Ticks) {
        self.begin_advance(dt);
        self.advance_groups(EventMask::NONE, None);
    }

    /// Advances all members by game time, and notes the events of each in a buffer that is used again:
    /// member by member in the order of their slots, each in the order of the law. Events not asked for
    /// cost nothing; those asked for are worked out when they are read.
    ///
    /// An event's `at` counts game time, whatever the time of the member's group. An example is at
    /// [`EventBuffer`].
    pub fn advance_into(&mut self, dt: Ticks, mask: EventMask, events: &mut EventBuffer) {
        self.begin_advance(dt);
        events.begin(mask, &self.reel);
        #[cfg(feature = "rayon")]
        if self.parallel {
            return self.advance_in_parallel(mask, events);
        }
        self.advance_groups(mask, Some(events));
    }

    /// Whether [`advance_into`](Crowd::advance_into) uses the threads of rayon's pool: with the same
    /// results bit for bit, including the events and their order. Off by default.
    #[cfg(feature = "rayon")]
    pub fn set_parallel(&mut self, parallel: bool) {
        self.parallel = parallel;
    }

    #[cfg(feature = "rayon")]
    fn advance_in_parallel(&mut self, mask: EventMask, events: &mut EventBuffer) {
        use super::event_buffer::Part;
        use rayon::prelude::*;
        /// This many blocks are given to a thread at a time.
        const SHARE: usize = 64;
        events.begin_part(&self.advances);
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
            part.events.begin(mask, context.reel);
            part.events.begin_part(context.advances);
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
        self.departed.clear();
        self.advances.clear();
        self.advances.extend(self.groups.iter_mut().map(|group| group.advance(dt)));
    }

    /// Advances all blocks by the time of their groups, which has been worked out.
    pub(super) fn advance_groups(&mut self, mask: EventMask, events: Option<&mut EventBuffer>) {
        match events {
            Some(events) => {
                events.begin_part(&self.advances);
                let (context, columns, leaving) = self.columns(mask);
                columns.advance(context, leaving, events);
            }
            None => {
                let (context, columns, leaving) = self.columns(EventMask::NONE);
                columns.advance(context, leaving, &mut Silence::new());
            }
        }
        self.end_advance();
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
            let (at, lane) = (slot as usize / BLOCK, slot as usize % BLOCK);
            if let Some(slots) = self.block(at) {
                let id = slots.states[lane].id(at, lane);
                let (flips, looks) = (slots.player_flips(lane), self.looks_in(slots, lane));
                self.departed.push(Departed { id, flips, looks });
            }
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
