//! Crowds: many players, or actors, in one store, advanced in one call.

mod advance;
mod block;
mod control;
mod drawn;
mod group;
mod groups;
mod handle;
mod listener;
mod new_member;
#[cfg(feature = "rayon")]
mod parallel;
mod pass;
mod read;
mod reload;
mod room;
mod save;
mod seat;
mod tell;
mod told;
mod wardrobe;

use alloc::sync::Arc;
use alloc::vec::Vec;
use core::fmt;

use block::{BLOCK, Block, Codes, Hot, Row};
pub use drawn::Drawn;
use group::{Group, Pass};
pub use handle::{GroupId, Handle, Members};
pub use listener::Member;
pub use new_member::NewMember;
pub use save::SavedCrowd;
use seat::{BlockMut, BlockRef};
pub use tell::Tell;
pub use told::Told;
use wardrobe::Wardrobe;

use crate::play::Steps;
use crate::reel::Reel;

/// Many players in columns, advanced in one call: what plays ten thousand moths or a million grains
/// without a loop of yours over structs.
///
/// A member plays, bit for bit, as a single [`Player`](crate::Player) or [`Actor`](crate::Actor) would.
/// It takes 35 bytes (an actor 200 more), 12 of which every advance touches. Members are spawned with a
/// [`NewMember`], and told of by their [`Handle`].
///
/// # Order
///
/// Members come in the order of their slots, in iteration and among events: a slot is the lowest that
/// is free in the blocks of 64 that a group has, or the first of a new block. So with one group and no
/// departures it is the order in which they were spawned, and it is the same on every machine. The
/// events of one member come in the order of the law.
///
/// # Ends
///
/// A player that vanishes is freed at the end of the advance in which it does so. An actor that has
/// vanished stays, as another of its cues may bring it back.
///
/// ```
/// use lucky_reel_core::{Crowd, Event, Grid, Mode, NewClip, NewSheet, Reel, Tell, Ticks};
///
/// let mut builder = Reel::builder();
/// let sheet = builder.sheet("puff", NewSheet::grid([64, 16], Grid::cells([16, 16])));
/// let puff = NewClip::of(sheet).frames(0..4).each(Ticks::from_millis(50)).mode(Mode::Once);
/// let puff = builder.clip("puff", puff.mark("thin", [2]).then_vanish());
/// let reel = builder.build()?;
///
/// let mut crowd = Crowd::new(&reel);
/// let first = crowd.spawn(&reel, puff);
/// crowd.advance(&reel, Ticks::from_millis(80));
/// let second = crowd.spawn(&reel, puff);
/// let mut told = Vec::new();
/// crowd.advance_telling(&reel, Ticks::from_millis(130), Tell::MARKS | Tell::ENDS, |member, event| {
///     told.push((member.handle(), matches!(event, Event::End { .. }), event.at()));
/// });
/// let millis = Ticks::from_millis;
/// let expected =
///     [(first, false, millis(20)), (first, true, millis(120)), (second, false, millis(100))];
/// assert_eq!(told, expected);
/// assert!(!crowd.contains(first) && crowd.contains(second)); // it is gone by itself
/// # Ok::<(), lucky_reel_core::BuildError>(())
/// ```
pub struct Crowd {
    /// The version of the reel that the columns are of.
    reel: Reel,
    steps: Arc<Steps>,
    hot: Vec<Hot>,
    codes: Vec<Codes>,
    rows: Vec<[Row; BLOCK]>,
    blocks: Vec<Block>,
    groups: Vec<Group>,
    /// What the present advance means for each group.
    passes: Vec<Pass>,
    wardrobe: Wardrobe,
    len: usize,
    /// Slots to be freed at the end of an advance.
    leaving: Vec<u32>,
}

impl Crowd {
    /// A crowd of nobody.
    #[must_use]
    pub fn new(reel: &Reel) -> Crowd {
        Crowd {
            reel: reel.clone(),
            steps: Arc::new(Steps::of(reel)),
            hot: Vec::new(),
            codes: Vec::new(),
            rows: Vec::new(),
            blocks: Vec::new(),
            groups: alloc::vec![Group::NEW],
            passes: Vec::new(),
            wardrobe: Wardrobe::new(),
            len: 0,
            leaving: Vec::new(),
        }
    }

    /// Becomes again what it was when `saved` was cloned from it: a rollback, without allocation where
    /// it has been as large. Handles of then are good again, those of later members are stale; all
    /// members count as [`changed`](Crowd::changed).
    ///
    /// ```
    /// # use lucky_reel_core::{Crowd, Grid, NewClip, NewSheet, Reel, Ticks};
    /// # let mut builder = Reel::builder();
    /// # let sheet = builder.sheet("moth", NewSheet::grid([64, 16], Grid::cells([16, 16])));
    /// # let flutter = builder.clip("flutter", NewClip::of(sheet).frames(0..4).fps(12));
    /// # let reel = builder.build()?;
    /// let mut crowd = Crowd::new(&reel);
    /// let moth = crowd.spawn(&reel, flutter);
    /// let saved = crowd.clone();
    /// crowd.advance(&reel, Ticks::from_millis(100));
    /// crowd.despawn(moth);
    /// crowd.restore_from(&saved);
    /// assert_eq!(crowd.player(moth), saved.player(moth));
    /// # Ok::<(), lucky_reel_core::BuildError>(())
    /// ```
    pub fn restore_from(&mut self, saved: &Crowd) {
        self.clone_from(saved);
        for block in &mut self.blocks {
            (block.changed, block.told) = (block.alive, block.alive);
        }
    }

    /// One block of all columns.
    fn block(&self, at: usize) -> Option<BlockRef<'_>> {
        Some(BlockRef {
            hot: self.hot.get(at)?,
            codes: self.codes.get(at)?,
            rows: self.rows.get(at)?,
            block: self.blocks.get(at)?,
        })
    }

    fn block_mut(&mut self, at: usize) -> Option<BlockMut<'_>> {
        self.block_and_steps(at).map(|(block, _)| block)
    }

    /// One block of all columns, and the steps that its codes are of.
    fn block_and_steps(&mut self, at: usize) -> Option<(BlockMut<'_>, &Steps)> {
        let Crowd { steps, hot, codes, rows, blocks, .. } = self;
        let block = BlockMut {
            hot: hot.get_mut(at)?,
            codes: codes.get_mut(at)?,
            rows: rows.get_mut(at)?,
            block: blocks.get_mut(at)?,
        };
        Some((block, steps))
    }
}

impl Clone for Crowd {
    fn clone(&self) -> Crowd {
        Crowd {
            reel: self.reel.clone(),
            steps: self.steps.clone(),
            hot: self.hot.clone(),
            codes: self.codes.clone(),
            rows: self.rows.clone(),
            blocks: self.blocks.clone(),
            groups: self.groups.clone(),
            passes: self.passes.clone(),
            wardrobe: self.wardrobe.clone(),
            len: self.len,
            leaving: self.leaving.clone(),
        }
    }

    /// Becomes as the other, without allocation where it has been as large.
    fn clone_from(&mut self, other: &Crowd) {
        let Crowd {
            reel,
            steps,
            hot,
            codes,
            rows,
            blocks,
            groups,
            passes: _,
            wardrobe,
            len,
            leaving,
        } = other;
        self.reel.clone_from(reel);
        self.steps.clone_from(steps);
        self.hot.clone_from(hot);
        self.codes.clone_from(codes);
        self.rows.clone_from(rows);
        self.blocks.clone_from(blocks);
        self.groups.clone_from(groups);
        self.wardrobe.clone_from(wardrobe);
        self.len = *len;
        self.leaving.clone_from(leaving);
    }
}

impl fmt::Debug for Crowd {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.debug_struct("Crowd")
            .field("members", &self.len)
            .field("slots", &self.slots())
            .field("groups", &self.groups)
            .finish_non_exhaustive()
    }
}

/// The bits that are set, lowest first.
#[derive(Clone, Copy)]
struct Lanes(u64);

impl Iterator for Lanes {
    type Item = usize;

    #[inline]
    fn next(&mut self) -> Option<usize> {
        let lane = self.0.trailing_zeros() as usize;
        self.0 &= self.0.wrapping_sub(1);
        (lane < BLOCK).then_some(lane)
    }
}
