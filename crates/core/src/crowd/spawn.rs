//! Coming and going.

use core::cmp::Reverse;

use super::block::{BLOCK, Block, Clocks, MemberState};
use super::member_id::{GroupId, MemberId, Target};
use super::new_member::{Body, NewMember};
use super::{Crowd, Lanes};
use crate::command_error::CommandError;
use crate::kernel::StepTable;
use crate::save::RestoreError;

impl Crowd {
    /// Adds a member and returns its id.
    ///
    /// # Errors
    /// When the reel does not know its clip or role, its player or actor plays from another reel, or the
    /// crowd does not have its group ([`CommandError::UnknownId`]); when there is no slot left, or too many
    /// different sets of looks are worn.
    pub fn spawn(&mut self, new: impl Into<NewMember>) -> Result<MemberId, CommandError> {
        let new = new.into();
        self.groups.get(usize::from(new.group.0)).ok_or(CommandError::UnknownId)?;
        let body = new.make(&self.reel).ok_or(CommandError::UnknownId)?;
        if let Body::Player(_, looks) = body
            && !self.outfits.has_room_for(&looks)
        {
            return Err(CommandError::TooManyOutfits);
        }
        self.catch_up_for(Target::Group(new.group));
        let is_actor = matches!(body, Body::Actor(_));
        let slot = self.free_slot(new.group, is_actor).ok_or(CommandError::TooManyMembers)?;
        let id = self.put_new(slot.0, slot.1, body).ok_or(CommandError::TooManyMembers)?;
        if let (true, Some(slots)) = (is_actor && new.is_freed, self.block_mut(id.block())) {
            slots.block.freed |= 1 << id.lane();
        }
        Ok(id)
    }

    /// Puts a new member into a free slot.
    fn put_new(&mut self, at: usize, lane: usize, body: Body) -> Option<MemberId> {
        let (mut slots, reel) = self.block_and_reel(at)?;
        let id = slots.states[lane].id(at, lane);
        slots.block.alive |= 1 << lane;
        let looks = match body {
            Body::Player(player, looks) => {
                slots.put_player(reel, lane, &player);
                looks
            }
            Body::Actor(actor) => {
                slots.put_actor(reel, lane, actor);
                actor.looks()
            }
        };
        slots.mark_changed(lane);
        if !looks.is_empty() {
            // Only a save can have more outfits than fit: the rest is not worn.
            let _ = self.dress(id, looks);
        }
        self.len += 1;
        Some(id)
    }

    /// Puts a saved member into the slot that it had.
    pub(super) fn put_saved(&mut self, slot: u32, body: Body) -> Result<(), RestoreError> {
        let (at, lane) = (slot as usize / BLOCK, slot as usize % BLOCK);
        let fits = self.blocks.get(at).is_some_and(|block| {
            !block.has(lane) && block.is_of_actors() == matches!(body, Body::Actor(_))
        });
        let put = if fits { self.put_new(at, lane, body) } else { None };
        put.map(|_| ()).ok_or(RestoreError::Damaged)
    }

    /// Removes members: their ids become stale. Gives how many were there.
    pub fn remove(&mut self, target: impl Into<Target>) -> usize {
        let target = target.into();
        if let Target::One(member) = target {
            let there = self.contains(member);
            if there {
                self.free(member.slot);
            }
            return usize::from(there);
        }
        let before = self.len;
        for at in 0..self.blocks.len() {
            if matches!(target, Target::Group(group) if self.blocks[at].group != group.0) {
                continue;
            }
            for lane in Lanes(self.blocks[at].alive) {
                self.free((at * BLOCK + lane) as u32);
            }
        }
        before - self.len
    }

    pub(super) fn free(&mut self, slot: u32) {
        let (at, lane) = (slot as usize / BLOCK, slot as usize % BLOCK);
        let Some(slots) = self.block(at).filter(|slots| slots.block.has(lane)) else { return };
        let outfit = slots.block.outfits.get(lane).copied().unwrap_or(0);
        self.outfits.remove(outfit);
        if let Some(mut slots) = self.block_mut(at) {
            slots.free(lane);
        }
        self.len -= 1;
        self.list_free(at);
    }

    /// Lists a block as one with free slots.
    pub(super) fn list_free(&mut self, at: usize) {
        let block = &mut self.blocks[at];
        if !block.is_listed {
            block.is_listed = true;
            let (group, kind) = (usize::from(block.group), usize::from(block.is_of_actors()));
            self.free_blocks[group][kind].push(Reverse(at as u32));
        }
    }

    /// The lowest free slot of a group, in a new block where there is none.
    fn free_slot(&mut self, group: GroupId, is_actor: bool) -> Option<(usize, usize)> {
        let kind = usize::from(is_actor);
        let free = &mut self.free_blocks[usize::from(group.0)][kind];
        while let Some(Reverse(at)) = free.peek().copied() {
            let block = &mut self.blocks[at as usize];
            if block.alive != u64::MAX {
                return Some((at as usize, block.alive.trailing_ones() as usize));
            }
            block.is_listed = false;
            free.pop();
        }
        let at = self.blocks.len();
        u32::try_from((at + 1) * BLOCK).ok()?;
        let block = Block::new(group.0, is_actor, &self.reel);
        self.add_block(block);
        self.list_free(at);
        Some((at, 0))
    }

    pub(super) fn add_block(&mut self, block: Block) {
        self.clocks.push(Clocks::empty());
        self.codes.push([StepTable::NOTHING; BLOCK]);
        self.states.push([MemberState::EMPTY; BLOCK]);
        self.blocks.push(block);
    }

    /// How many members there are.
    #[must_use]
    pub fn len(&self) -> usize {
        self.len
    }

    /// Whether there is no member.
    #[must_use]
    pub fn is_empty(&self) -> bool {
        self.len == 0
    }

    /// How many slots there are, used or free: above every [`MemberId::index`]. A multiple of 64.
    #[must_use]
    pub fn slots(&self) -> usize {
        self.blocks.len() * BLOCK
    }
}
