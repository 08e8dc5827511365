//! Crowds that outlive the program.

use alloc::vec::Vec;

use super::block::{BLOCK, Block};
use super::group_clock::{Group, GroupClock, Slept};
use super::new_member::Body;
use super::{Crowd, Lanes};
use crate::actor::SavedActing;
use crate::play::SavedState;
use crate::reel::Reel;
use crate::save::{FoundNames, NameWriter, RestoreError, Savable, Saved};
use crate::time::{Speed, Ticks};
use crate::view::LookSet;

/// A saved crowd within its table of names.
#[derive(Clone, Debug, PartialEq, Eq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
#[cfg_attr(feature = "serde", serde(deny_unknown_fields))]
#[allow(unreachable_pub)] // a sealed trait names it
pub struct SavedMembers {
    /// The looks of each outfit that is worn; the first is none.
    outfits: Vec<Vec<u16>>,
    groups: Vec<SavedGroup>,
    blocks: Vec<SavedBlock>,
    players: Vec<SavedMember>,
    actors: Vec<(u32, SavedActing)>,
}

#[derive(Clone, Debug, PartialEq, Eq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
#[cfg_attr(feature = "serde", serde(deny_unknown_fields))]
struct SavedGroup {
    clock: SavedClock,
    asleep: bool,
    /// What it has slept through: the clock before, and ticks of the game.
    slept: Vec<(SavedClock, u64)>,
}

#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
#[cfg_attr(feature = "serde", serde(deny_unknown_fields))]
struct SavedClock {
    /// In 65,536ths.
    scale: i32,
    carry: u32,
}

/// 64 slots.
#[derive(Clone, Debug, PartialEq, Eq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
#[cfg_attr(feature = "serde", serde(deny_unknown_fields))]
struct SavedBlock {
    group: u8,
    of_actors: bool,
    /// Which of its members each slot has, or will have next.
    generations: Vec<u32>,
    /// The actors that are freed once they have vanished, by their bits.
    freed: u64,
}

#[derive(Clone, Debug, PartialEq, Eq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
#[cfg_attr(feature = "serde", serde(deny_unknown_fields))]
struct SavedMember {
    slot: u32,
    /// The number of the saved outfit.
    outfit: u16,
    player: SavedState,
}

impl SavedMembers {
    pub(super) fn of(crowd: &Crowd) -> Saved<Crowd> {
        let reel = &crowd.reel;
        let mut names = NameWriter::new(reel);
        let mut outfits = alloc::vec![LookSet::NOTHING];
        let (mut blocks, mut players, mut actors) = (Vec::new(), Vec::new(), Vec::new());
        for at in 0..crowd.blocks.len() {
            let Some(slots) = crowd.block(at) else { continue };
            blocks.push(SavedBlock {
                group: slots.block.group,
                of_actors: slots.block.is_of_actors(),
                generations: slots.states.iter().map(|state| state.generation).collect(),
                freed: slots.block.freed,
            });
            for lane in Lanes(slots.block.alive) {
                let slot = (at * BLOCK + lane) as u32;
                if let Some(actor) = slots.actor(reel, lane) {
                    actors.push((slot, SavedActing::of(&actor, reel, &mut names)));
                    continue;
                }
                let player = slots.player(reel, lane);
                let is_known = |clip: u16| reel.clip_at(clip).is_some();
                if !is_known(player.clip) || !is_known(player.requested) {
                    continue;
                }
                let outfit = number_of(&mut outfits, crowd.looks_in(slots, lane));
                let player = SavedState::of(&player, reel, &mut names);
                players.push(SavedMember { slot, outfit, player });
            }
        }
        let numbers = |looks: &LookSet| looks.iter().map(|look| names.look(look)).collect();
        let outfits = outfits.iter().map(numbers).collect();
        let groups = crowd.groups.iter().map(SavedGroup::of).collect();
        let members = SavedMembers { outfits, groups, blocks, players, actors };
        Saved::new(names, members)
    }

    fn load_members(&self, reel: &Reel, names: &FoundNames<'_>) -> Result<Crowd, RestoreError> {
        let mut crowd = Crowd::new(reel);
        crowd.groups.clear();
        crowd.free_blocks.clear();
        for group in &self.groups {
            crowd.push_group(group.load().ok_or(RestoreError::Damaged)?);
        }
        if !(1..=256).contains(&crowd.groups.len()) {
            return Err(RestoreError::Damaged);
        }
        for saved in &self.blocks {
            let known = usize::from(saved.group) < crowd.groups.len();
            if !known || saved.generations.len() != BLOCK {
                return Err(RestoreError::Damaged);
            }
            crowd.add_block(Block::new(saved.group, saved.of_actors, reel));
            let states = crowd.states.last_mut().into_iter().flatten();
            for (state, generation) in states.zip(&saved.generations) {
                state.generation = *generation;
            }
            crowd.list_free(crowd.blocks.len() - 1);
        }
        let mut outfits = Vec::new();
        for saved in &self.outfits {
            let mut looks = LookSet::NOTHING;
            for look in saved {
                if let Some(look) = names.look(*look)? {
                    // More than can be worn are those of a damaged save.
                    let _ = looks.wear(reel, look);
                }
            }
            outfits.push(looks);
        }
        for member in &self.players {
            let looks = outfits.get(usize::from(member.outfit)).ok_or(RestoreError::Damaged)?;
            if let Some(player) = member.player.load(reel, names)? {
                crowd.put_saved(member.slot, Body::Player(player, *looks))?;
            }
        }
        for (slot, actor) in &self.actors {
            if let Some(actor) = actor.load(reel, names)? {
                crowd.put_saved(*slot, Body::Actor(actor))?;
            }
        }
        for (block, saved) in crowd.blocks.iter_mut().zip(&self.blocks) {
            block.freed = if saved.of_actors { saved.freed & block.alive } else { 0 };
        }
        Ok(crowd)
    }
}

impl Savable for Crowd {
    type Data = SavedMembers;

    fn load(
        data: &SavedMembers,
        reel: &Reel,
        names: &FoundNames<'_>,
    ) -> Result<Option<Crowd>, RestoreError> {
        data.load_members(reel, names).map(Some)
    }
}

impl SavedGroup {
    fn of(group: &Group) -> SavedGroup {
        let slept = group.slept.iter().map(|slept| (SavedClock::of(&slept.clock), slept.dt.get()));
        SavedGroup {
            clock: SavedClock::of(&group.clock),
            asleep: group.is_asleep,
            slept: slept.collect(),
        }
    }

    fn load(&self) -> Option<Group> {
        let slept = self.slept.iter();
        let slept =
            slept.map(|(clock, dt)| Some(Slept { clock: clock.load()?, dt: Ticks::new(*dt) }));
        Some(Group {
            clock: self.clock.load()?,
            is_asleep: self.asleep,
            slept: slept.collect::<Option<_>>()?,
        })
    }
}

impl SavedClock {
    fn of(clock: &GroupClock) -> SavedClock {
        let GroupClock { scale, carry } = *clock;
        SavedClock { scale: scale.to_bits(), carry }
    }

    fn load(&self) -> Option<GroupClock> {
        let sound = self.scale >= 0 && self.carry < 1 << 16;
        let scale = Speed::from_bits(self.scale).ok().filter(|_| sound)?;
        Some(GroupClock { scale, carry: self.carry })
    }
}

/// Where an outfit stands among those that are saved. They are few.
fn number_of(outfits: &mut Vec<LookSet>, outfit: LookSet) -> u16 {
    let known = outfits.iter().position(|other| *other == outfit);
    known.unwrap_or_else(|| {
        outfits.push(outfit);
        outfits.len() - 1
    }) as u16
}
