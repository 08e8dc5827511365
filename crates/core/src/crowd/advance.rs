//! Time passes for a crowd.

use alloc::vec::Vec;

use super::Crowd;
use super::block::BlockMut;
use super::handle::Handle;
use super::pass::{Context, pass_block};
use super::tell::{Member, Tell};
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
        mut told: impl FnMut(&mut Member, Event),
    ) {
        if !self.begin_pass(reel, dt) {
            return;
        }
        let Crowd { steps, passes, hot, codes, cold, blocks, leaving, .. } = self;
        let context = Context { reel, steps, passes, tell };
        let columns = hot.iter_mut().zip(codes).zip(cold).zip(blocks).enumerate();
        for (at, (((hot, codes), cold), block)) in columns {
            let mut seat = BlockMut { hot, codes, cold, block };
            pass_block(context, at, &mut seat, leaving, &mut told);
        }
        self.end_pass();
    }

    /// As [`advance_telling`](Crowd::advance_telling), and adds what happened to `events`: for a buffer
    /// that is used again.
    ///
    /// ```
    /// # use lucky_reel_core::{Crowd, Event, Grid, NewClip, NewSheet, Reel, Tell, Ticks};
    /// # let mut builder = Reel::builder();
    /// # let sheet = builder.sheet("moth", NewSheet::grid([64, 16], Grid::cells([16, 16])));
    /// # let flutter = builder.clip("flutter", NewClip::of(sheet).frames(0..4).fps(12));
    /// # let reel = builder.build()?;
    /// let mut crowd = Crowd::new(&reel);
    /// crowd.spawn(&reel, flutter);
    /// let mut events = Vec::new();
    /// for _ in 0..60 {
    ///     events.clear();
    ///     crowd.advance_into(&reel, Ticks::per_second_of(60), Tell::CYCLES, &mut events);
    ///     for (moth, event) in &events {
    ///         if let Event::Cycle { cycle: 2, .. } = event {
    ///             crowd.despawn(*moth);
    ///         }
    ///     }
    /// }
    /// assert!(crowd.is_empty());
    /// # Ok::<(), lucky_reel_core::BuildError>(())
    /// ```
    pub fn advance_into(
        &mut self,
        reel: &Reel,
        dt: Ticks,
        tell: Tell,
        events: &mut Vec<(Handle, Event)>,
    ) {
        self.advance_telling(reel, dt, tell, |member, event| events.push((member.handle, event)));
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
