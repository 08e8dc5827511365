//! Time passes for a crowd.

use alloc::vec::Vec;

use super::Crowd;
use super::block::{BLOCK, Block, Codes, Hot, Row};
use super::listener::{Aloud, Listener, Member};
use super::pass::{Context, pass_block};
use super::seat::BlockMut;
use super::tell::Tell;
use super::told::Told;
use crate::play::Event;
use crate::reel::Reel;
use crate::time::Ticks;

impl Crowd {
    /// Lets game time pass for all members, without telling of it.
    ///
    /// Any split of the same time gives the same, bit for bit. In the next version of its reel it goes
    /// on; with a foreign one nothing moves.
    pub fn advance(&mut self, reel: &Reel, dt: Ticks) {
        self.advance_telling(reel, dt, Tell::NOTHING, |_, _| {});
    }

    /// Lets game time pass for all members, and tells what happened to whom: member by member in the
    /// order of their slots, each in the order of the law. What is not asked for costs nothing.
    ///
    /// Members may be despawned meanwhile, by [`Member::despawn`]; they leave when all is told. An
    /// event's `at` counts game time, whatever the time of the member's group. After a very long step
    /// there may be very many events.
    ///
    /// An example is at [`Crowd`].
    pub fn advance_telling(
        &mut self,
        reel: &Reel,
        dt: Ticks,
        tell: Tell,
        told: impl FnMut(&mut Member, Event),
    ) {
        if self.begin_pass(reel, dt) {
            let steps = self.steps.clone();
            let mut aloud = Aloud::new(reel, &steps, tell, told);
            self.pass_all(reel, tell, &mut aloud);
        }
    }

    /// As [`advance_telling`](Crowd::advance_telling), into a buffer that is used again.
    ///
    /// An example is at [`Told`].
    pub fn advance_into(&mut self, reel: &Reel, dt: Ticks, tell: Tell, told: &mut Told) {
        if self.begin_pass(reel, dt) {
            told.begin(tell, &self.steps, &self.passes);
            self.pass_all(reel, tell, told);
        } else {
            told.begin(Tell::NOTHING, &self.steps, &[]);
        }
    }

    fn pass_all(&mut self, reel: &Reel, tell: Tell, listener: &mut impl Listener) {
        let Crowd { steps, passes, hot, codes, rows, blocks, leaving, .. } = self;
        let context = Context { reel, steps, passes, tell };
        let columns = Columns { first: 0, hot, codes, rows, blocks };
        columns.pass(context, leaving, listener);
        self.end_pass();
    }

    /// Reckons the time of each group; `false` with a foreign reel.
    pub(super) fn begin_pass(&mut self, reel: &Reel, dt: Ticks) -> bool {
        if !self.fit(reel) {
            return false;
        }
        self.passes.clear();
        self.passes.extend(self.groups.iter_mut().map(|group| group.pass(dt)));
        true
    }

    /// Frees the slots of those who leave.
    pub(super) fn end_pass(&mut self) {
        let mut leaving = core::mem::take(&mut self.leaving);
        for slot in leaving.drain(..) {
            self.free(slot);
        }
        self.leaving = leaving;
    }
}

/// Some blocks that follow one another.
pub(super) struct Columns<'c> {
    pub(super) first: usize,
    pub(super) hot: &'c mut [Hot],
    pub(super) codes: &'c mut [Codes],
    pub(super) rows: &'c mut [[Row; BLOCK]],
    pub(super) blocks: &'c mut [Block],
}

impl Columns<'_> {
    /// Lets time pass for them, in their order.
    #[inline]
    pub(super) fn pass(
        self,
        context: Context<'_>,
        leaving: &mut Vec<u32>,
        listener: &mut impl Listener,
    ) {
        let Columns { first, hot, codes, rows, blocks } = self;
        let columns = hot.iter_mut().zip(codes).zip(rows).zip(blocks);
        for (at, (((hot, codes), rows), block)) in (first..).zip(columns) {
            let mut seat = BlockMut { hot, codes, rows, block };
            pass_block(context, at, &mut seat, leaving, listener);
        }
    }
}
