//! When two crowds are equal, and a number by which two machines tell that theirs are.

use super::block::BLOCK;
use super::{Crowd, Lanes};
use crate::checksum::Checksum;

impl Crowd {
    /// A number that is the same on every machine for crowds that behave identically from here on: for
    /// lockstep. It takes some nanoseconds a member, and allocates nothing.
    ///
    /// ```
    /// # use lucky_reel_core::{Crowd, Grid, NewClip, NewSheet, Reel, Ticks};
    /// # let mut builder = Reel::builder();
    /// # let sheet = builder.sheet("moth", NewSheet::grid([64, 16], Grid::cell_size([16, 16])));
    /// # let flutter = builder.clip("flutter", NewClip::of(sheet).frames(0..4).fps(12));
    /// # let reel = builder.build()?;
    /// let mut crowd = Crowd::new(&reel);
    /// crowd.spawn(flutter).unwrap();
    /// let before = crowd.checksum();
    /// let mut other = crowd.clone();
    /// crowd.advance(Ticks::from_millis(20));
    /// assert_ne!(crowd.checksum(), before);
    /// other.advance(Ticks::from_millis(20));
    /// assert_eq!(crowd.checksum(), other.checksum());
    /// # Ok::<(), lucky_reel_core::BuildError>(())
    /// ```
    #[must_use]
    pub fn checksum(&self) -> u64 {
        let mut sum = Checksum::default();
        for group in &self.groups {
            group.add_to(&mut sum);
        }
        for at in 0..self.blocks.len() {
            let Some(slots) = self.block(at) else { continue };
            let kind = u32::from(slots.block.is_of_actors());
            sum.add_pair(u32::from(slots.block.group), kind);
            sum.add(slots.block.alive);
            sum.add(slots.block.freed);
            for state in slots.states {
                sum.add(u64::from(state.generation));
            }
            for lane in Lanes(slots.block.alive) {
                match slots.actor(&self.reel, lane) {
                    Some(actor) => actor.add_to(&self.reel, &mut sum),
                    None => {
                        slots.player(&self.reel, lane).add_to(&self.reel, &mut sum);
                        self.looks_in(slots, lane).add_to(&self.reel, &mut sum);
                    }
                }
            }
        }
        sum.get()
    }

    fn is_same_block(&self, other: &Crowd, at: usize) -> bool {
        let (Some(one), Some(two)) = (self.block(at), other.block(at)) else { return false };
        let of = |block: &super::block::Block| {
            (block.group, block.is_of_actors(), block.alive, block.freed)
        };
        let generations = |lane: usize| one.states[lane].generation == two.states[lane].generation;
        let is_same_member = |lane: usize| {
            let actors = (one.actor(&self.reel, lane), two.actor(&other.reel, lane));
            let looks = self.looks_in(one, lane) == other.looks_in(two, lane);
            looks
                && actors.0 == actors.1
                && (actors.0.is_some()
                    || one.player(&self.reel, lane) == two.player(&other.reel, lane))
        };
        of(one.block) == of(two.block)
            && (0..BLOCK).all(generations)
            && Lanes(one.block.alive).all(is_same_member)
    }
}

/// Equal when they behave identically from here on, on one version of a reel. Which members count as
/// [`changed`](Crowd::changed) is not compared.
impl PartialEq for Crowd {
    fn eq(&self, other: &Crowd) -> bool {
        self.reel.build == other.reel.build
            && self.groups == other.groups
            && self.blocks.len() == other.blocks.len()
            && (0..self.blocks.len()).all(|at| self.is_same_block(other, at))
    }
}

impl Eq for Crowd {}
