//! Crowds: many players, or actors, in one store, advanced in one call.
//!
//! | file | what of a crowd |
//! | --- | --- |
//! | `member_id.rs`, `new_member.rs`, `spawn.rs` | who is in it, coming and going |
//! | `block.rs`, `slot.rs` | the columns, 64 members in a block; how a player is put into them and taken out |
//! | `group_clock.rs`, `group_control.rs` | clocks that members share; sleep |
//! | `advance.rs`, `advance_block.rs` | one advance: the fast path, and the way of a single player for the rest |
//! | `sink.rs`, `event_buffer.rs`, `buffered_events.rs` | where events go, and how they are read |
//! | `control.rs`, `queries.rs`, `instances.rs`, `outfits.rs` | commands, questions, the way to the screen, looks |
//! | `equality.rs`, `save.rs` | whether two are equal, on one machine or two; saving |

mod advance;
mod advance_block;
mod block;
mod buffered_events;
mod control;
mod equality;
mod event_buffer;
mod group_clock;
mod group_control;
mod instances;
mod member_id;
mod new_member;
mod outfits;
mod queries;
mod save;
mod sink;
mod slot;
mod spawn;

use alloc::collections::BinaryHeap;
use alloc::vec::Vec;
use core::cmp::Reverse;
use core::fmt;

use block::{BLOCK, Block, Clocks, Codes, MemberState};
pub use event_buffer::EventBuffer;
use group_clock::{Group, GroupAdvance};
pub use member_id::{GroupId, MemberId, Target};
pub use new_member::NewMember;
use outfits::OutfitTable;
use slot::{BlockMut, BlockRef};

use crate::reel::Reel;
use crate::sheet::Flips;
use crate::view::LookSet;

/// Many players in columns, advanced in one call: what plays ten thousand moths or a million grains
/// without a loop of yours over structs.
///
/// A member plays, bit for bit, as a single [`Player`](crate::Player) or [`Actor`](crate::Actor) would.
/// It takes 36 bytes (an actor 224 more), 12 of which every advance touches. Members are spawned with a
/// [`NewMember`], and named by a [`MemberId`].
///
/// A crowd keeps its reel: no command takes one, and [`reload`](Crowd::reload) is the only place where it
/// meets another. Making one costs next to nothing, whatever the reel.
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
/// vanished stays, as another of its cues may bring it back, unless it was spawned with
/// [`NewMember::freed_when_vanished`].
///
/// ```
/// use lucky_reel_core::{ClipEnd, Crowd, EventBuffer, EventMask, Grid, Mode, NewClip, NewSheet, Reel, Ticks};
///
/// let mut builder = Reel::builder();
/// let sheet = builder.sheet("puff", NewSheet::grid([64, 16], Grid::cell_size([16, 16])));
/// let puff = NewClip::of(sheet).frames(0..4).each(Ticks::from_millis(50)).mode(Mode::Once);
/// let puff = builder.clip("puff", puff.mark("thin", [2]).end(ClipEnd::Vanish));
/// let reel = builder.build()?;
///
/// let mut crowd = Crowd::new(&reel);
/// let first = crowd.spawn(puff).unwrap();
/// crowd.advance(Ticks::from_millis(80));
/// let second = crowd.spawn(puff).unwrap();
/// let mut events = EventBuffer::new();
/// crowd.advance_into(Ticks::from_millis(130), EventMask::MARKS | EventMask::ENDS, &mut events);
/// let seen: Vec<_> = events.iter().map(|(id, event)| (id, event.is_end(), event.at)).collect();
/// let millis = Ticks::from_millis;
/// let expected =
///     [(first, false, millis(20)), (first, true, millis(120)), (second, false, millis(100))];
/// assert_eq!(seen, expected);
/// assert!(!crowd.contains(first) && crowd.contains(second)); // it is gone by itself
/// # Ok::<(), lucky_reel_core::BuildError>(())
/// ```
pub struct Crowd {
    reel: Reel,
    clocks: Vec<Clocks>,
    codes: Vec<Codes>,
    states: Vec<[MemberState; BLOCK]>,
    blocks: Vec<Block>,
    groups: Vec<Group>,
    /// By group, of players and of actors: the blocks that may have free slots, lowest first.
    free_blocks: Vec<[BinaryHeap<Reverse<u32>>; 2]>,
    /// What the present advance means for each group.
    advances: Vec<GroupAdvance>,
    outfits: OutfitTable,
    len: usize,
    /// Slots to be freed at the end of an advance.
    leaving: Vec<u32>,
    /// Those who left in the last advance, in the order of their slots.
    departed: Vec<Departed>,
    #[cfg(feature = "rayon")]
    parallel: bool,
}

/// A member that has vanished, as its events may be asked about.
#[derive(Clone, Copy, Debug)]
struct Departed {
    id: MemberId,
    flips: Flips,
    looks: LookSet,
}

impl Crowd {
    /// A crowd without members, which plays from this reel.
    #[must_use]
    pub fn new(reel: &Reel) -> Crowd {
        let mut crowd = Crowd {
            reel: reel.clone(),
            clocks: Vec::new(),
            codes: Vec::new(),
            states: Vec::new(),
            blocks: Vec::new(),
            groups: Vec::new(),
            free_blocks: Vec::new(),
            advances: Vec::new(),
            outfits: OutfitTable::default(),
            len: 0,
            leaving: Vec::new(),
            departed: Vec::new(),
            #[cfg(feature = "rayon")]
            parallel: false,
        };
        crowd.push_group(Group::default());
        crowd
    }

    /// Switches to another version of its reel: every member keeps its place, by clip and hold.
    /// `false`, and nothing is changed, for a foreign reel.
    pub fn reload(&mut self, reel: &Reel) -> bool {
        if self.reel.family != reel.family {
            return false;
        }
        if self.reel.build == reel.build {
            return true;
        }
        let old = core::mem::replace(&mut self.reel, reel.clone());
        for at in 0..self.blocks.len() {
            let Some((mut slots, reel)) = self.block_and_reel(at) else { continue };
            for lane in Lanes(slots.block.alive) {
                match slots.as_ref().actor(&old, lane) {
                    Some(mut actor) => {
                        actor.refresh(reel);
                        slots.put_actor(reel, lane, actor);
                    }
                    None => {
                        let mut player = slots.as_ref().player(&old, lane);
                        player.rebind(reel);
                        player.update_ready(reel);
                        slots.put_player(reel, lane, &player);
                    }
                }
                // Its picture may be another one under the same number.
                slots.mark_changed(lane);
            }
        }
        true
    }

    /// One block of all columns.
    #[inline]
    fn block(&self, at: usize) -> Option<BlockRef<'_>> {
        Some(BlockRef {
            clocks: self.clocks.get(at)?,
            codes: self.codes.get(at)?,
            states: self.states.get(at)?,
            block: self.blocks.get(at)?,
        })
    }

    fn block_mut(&mut self, at: usize) -> Option<BlockMut<'_>> {
        self.block_and_reel(at).map(|(block, _)| block)
    }

    /// One block of all columns, and the reel that it plays from.
    fn block_and_reel(&mut self, at: usize) -> Option<(BlockMut<'_>, &Reel)> {
        let Crowd { reel, clocks, codes, states, blocks, .. } = self;
        let block = BlockMut {
            clocks: clocks.get_mut(at)?,
            codes: codes.get_mut(at)?,
            states: states.get_mut(at)?,
            block: blocks.get_mut(at)?,
        };
        Some((block, reel))
    }
}

/// A snapshot, for a rollback: ids of that state are valid again in it, those of later members are stale. All
/// members of a clone count as [`changed`](Crowd::changed), as what is on the screen may be of another state.
///
/// ```
/// # use lucky_reel_core::{Crowd, Grid, NewClip, NewSheet, Reel, Ticks};
/// # let mut builder = Reel::builder();
/// # let sheet = builder.sheet("moth", NewSheet::grid([64, 16], Grid::cell_size([16, 16])));
/// # let flutter = builder.clip("flutter", NewClip::of(sheet).frames(0..4).fps(12));
/// # let reel = builder.build()?;
/// let mut crowd = Crowd::new(&reel);
/// let moth = crowd.spawn(flutter).unwrap();
/// let snapshot = crowd.clone();
/// crowd.advance(Ticks::from_millis(100));
/// crowd.remove(moth);
/// crowd.clone_from(&snapshot); // allocates nothing unless it has to grow
/// assert!(crowd == snapshot && crowd.contains(moth));
/// # Ok::<(), lucky_reel_core::BuildError>(())
/// ```
impl Clone for Crowd {
    fn clone(&self) -> Crowd {
        let mut crowd = Crowd::new(&self.reel);
        crowd.clone_from(self);
        crowd
    }

    /// Becomes as the other, without allocation where it has been as large.
    fn clone_from(&mut self, other: &Crowd) {
        let Crowd { reel, clocks, codes, states, blocks, groups, free_blocks, .. } = other;
        let Crowd { advances: _, outfits, len, leaving: _, departed, .. } = other;
        self.reel.clone_from(reel);
        self.clocks.clone_from(clocks);
        self.codes.clone_from(codes);
        self.states.clone_from(states);
        self.blocks.clone_from(blocks);
        self.groups.clone_from(groups);
        self.free_blocks.clone_from(free_blocks);
        self.outfits.clone_from(outfits);
        self.departed.clone_from(departed);
        self.len = *len;
        #[cfg(feature = "rayon")]
        (self.parallel = other.parallel);
        for block in &mut self.blocks {
            (block.changed, block.commanded) = (block.alive, block.alive);
        }
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
