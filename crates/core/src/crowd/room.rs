//! Coming and going.

use super::block::{BLOCK, Block, Codes, Hot, Row};
use super::handle::{GroupId, Handle};
use super::new_member::{Body, NewMember};
use super::{Crowd, Lanes};
use crate::play::Steps;
use crate::reel::Reel;

impl Crowd {
    /// Takes a new member in, and gives its handle. With another reel, and in a group that the crowd does
    /// not have, it is [`Handle::NOBODY`], which reaches nobody.
    pub fn spawn(&mut self, reel: &Reel, new: impl Into<NewMember>) -> Handle {
        let new = new.into();
        if !self.fit(reel) || self.groups.get(usize::from(new.group.0)).is_none() {
            return Handle::NOBODY;
        }
        let Some(body) = new.make(reel) else { return Handle::NOBODY };
        let is_actor = matches!(body, Body::Actor(_));
        let Some((at, lane)) = self.free_slot(new.group, is_actor) else { return Handle::NOBODY };
        self.seat_new(reel, at, lane, body)
    }

    /// Puts a new member into a free slot.
    pub(super) fn seat_new(&mut self, reel: &Reel, at: usize, lane: usize, body: Body) -> Handle {
        let Some((mut seat, steps)) = self.block_and_steps(at) else { return Handle::NOBODY };
        let handle = seat.rows[lane].handle(at, lane);
        seat.block.alive |= 1 << lane;
        match body {
            Body::Player(player, worn) => {
                seat.put_player(reel, steps, lane, &player);
                seat.tell_changed(lane);
                // One outfit too many is one that is not worn.
                let _ = self.dress(handle, worn);
            }
            Body::Actor(actor) => {
                seat.put_actor(reel, steps, lane, actor);
                seat.tell_changed(lane);
            }
        }
        self.len += 1;
        handle
    }

    /// Takes a member out; `false` where it has gone already.
    pub fn despawn(&mut self, handle: Handle) -> bool {
        let there = self.contains(handle);
        if there {
            self.free(handle.slot);
        }
        there
    }

    /// Takes all members out. Their handles are stale from now on.
    pub fn clear(&mut self) {
        for at in 0..self.blocks.len() {
            for lane in Lanes(self.blocks[at].alive) {
                self.free((at * BLOCK + lane) as u32);
            }
        }
    }

    pub(super) fn free(&mut self, slot: u32) {
        let (at, lane) = (slot as usize / BLOCK, slot as usize % BLOCK);
        let Some(mut block) = self.block_mut(at) else { return };
        if !block.block.has(lane) {
            return;
        }
        block.free(lane);
        let (group, is_actor) = (block.block.group, block.block.is_of_actors());
        self.len -= 1;
        let room = &mut self.groups[usize::from(group)].room[usize::from(is_actor)];
        *room = (*room).min(at as u32);
    }

    /// How many members there are.
    #[must_use]
    pub fn len(&self) -> usize {
        self.len
    }

    /// Whether there is nobody.
    #[must_use]
    pub fn is_empty(&self) -> bool {
        self.len == 0
    }

    /// How many slots there are, taken or not: above every [`Handle::index`]. A multiple of 64.
    #[must_use]
    pub fn slots(&self) -> usize {
        self.blocks.len() * BLOCK
    }

    /// How many bytes it takes for each slot: its columns, handle and bits included, what actors keep
    /// besides left out.
    #[must_use]
    pub fn bytes_a_slot(&self) -> usize {
        let whole = size_of::<Hot>() + size_of::<Codes>() + size_of::<[Row; BLOCK]>();
        let has = |some: fn(&Block) -> bool| usize::from(self.blocks.iter().any(some));
        let dressed = has(|block| !block.outfits.is_empty()) * size_of::<u16>();
        let frozen = has(|block| !block.frozen.is_empty()) * size_of::<u32>();
        (whole + size_of::<Block>()).div_ceil(BLOCK) + dressed + frozen
    }

    /// The lowest free slot of a group, in a new block where there is none.
    fn free_slot(&mut self, group: GroupId, is_actor: bool) -> Option<(usize, usize)> {
        let room = &mut self.groups[usize::from(group.0)].room[usize::from(is_actor)];
        let fits = |block: &Block| {
            block.group == group.0 && block.is_of_actors() == is_actor && block.alive != u64::MAX
        };
        let from = (*room as usize).min(self.blocks.len());
        let found = self.blocks[from..].iter().position(fits).map(|at| from + at);
        let at = found.unwrap_or(self.blocks.len());
        *room = u32::try_from(at).ok()?;
        if found.is_none() {
            u32::try_from((at + 1) * BLOCK).ok()?;
            self.add_block(Block::new(group.0, is_actor, &self.reel.clone()));
        }
        let lane = self.blocks[at].alive.trailing_ones() as usize;
        Some((at, lane))
    }

    pub(super) fn add_block(&mut self, block: Block) {
        self.hot.push(Hot::empty());
        self.codes.push([Steps::NOTHING; BLOCK]);
        self.rows.push([Row::EMPTY; BLOCK]);
        self.blocks.push(block);
    }
}
