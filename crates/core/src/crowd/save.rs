//! Crowds that outlive the program.

use alloc::string::String;
use alloc::vec::Vec;

use super::block::{BLOCK, Block};
use super::group::{Group, GroupClock, Slept};
use super::new_member::Body;
use super::{Crowd, Lanes, MemberId};
use crate::actor::SavedActor;
use crate::ids::{ClipId, NONE};
use crate::play::{RestoreError, SavedNumbers, find_clip};
use crate::reel::Reel;
use crate::time::{Speed, Ticks};
use crate::view::LookSet;

/// The version of what is written here.
const VERSION: u32 = 2;

/// A crowd as plain data, clips and looks by their names, so that it is found again in another build of
/// the game: with its groups, and with its ids, which stay good. With the feature `serde` it can be
/// written and read by any serde format, text or binary.
#[derive(Clone, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
#[cfg_attr(feature = "serde", serde(deny_unknown_fields))]
pub struct SavedCrowd {
    version: u32,
    /// The names of all clips that are played or were asked for.
    clips: Vec<String>,
    /// The looks of each outfit that is worn; the first is none.
    outfits: Vec<Vec<String>>,
    groups: Vec<SavedGroup>,
    blocks: Vec<SavedBlock>,
    players: Vec<SavedMember>,
    actors: Vec<(u32, SavedActor)>,
}

#[derive(Clone, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
#[cfg_attr(feature = "serde", serde(deny_unknown_fields))]
struct SavedGroup {
    clock: SavedClock,
    asleep: bool,
    /// What it has slept through: the clock before, and ticks of the game.
    slept: Vec<(SavedClock, u64)>,
}

#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
#[cfg_attr(feature = "serde", serde(deny_unknown_fields))]
struct SavedClock {
    /// In 65,536ths.
    scale: i32,
    carry: u32,
    /// In ticks.
    hit_stop: u64,
    paused: bool,
}

/// 64 slots.
#[derive(Clone, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
#[cfg_attr(feature = "serde", serde(deny_unknown_fields))]
struct SavedBlock {
    group: u8,
    of_actors: bool,
    /// Which of its members each slot has, or will have next.
    generations: Vec<u32>,
}

#[derive(Clone, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
#[cfg_attr(feature = "serde", serde(deny_unknown_fields))]
struct SavedMember {
    slot: u32,
    /// Numbers of the saved clips: what plays, what was asked for, and what follows, if anything was
    /// named.
    clips: [u16; 3],
    /// The number of the saved outfit.
    outfit: u16,
    numbers: SavedNumbers,
}

impl SavedCrowd {
    pub(super) fn of(crowd: &Crowd) -> SavedCrowd {
        let reel = &crowd.reel;
        let mut saved = SavedCrowd {
            version: VERSION,
            clips: Vec::new(),
            outfits: alloc::vec![Vec::new()],
            groups: crowd.groups.iter().map(SavedGroup::of).collect(),
            blocks: Vec::new(),
            players: Vec::new(),
            actors: Vec::new(),
        };
        let mut clips = SavedClips::of(crowd);
        let mut outfits = alloc::vec![LookSet::NOTHING];
        for at in 0..crowd.blocks.len() {
            let Some(slots) = crowd.block(at) else { continue };
            saved.blocks.push(SavedBlock {
                group: slots.block.group,
                of_actors: slots.block.is_of_actors(),
                generations: slots.states.iter().map(|state| state.generation).collect(),
            });
            for lane in Lanes(slots.block.alive) {
                let slot = (at * BLOCK + lane) as u32;
                if let Some(actor) = slots.actor(reel, lane) {
                    saved.actors.push((slot, actor.save(reel)));
                    continue;
                }
                let player = slots.player(reel, lane);
                let known = |clip: u16| reel.clip_at(clip).is_some();
                if !known(player.clip) || !known(player.requested) {
                    continue;
                }
                let id = MemberId { slot, generation: slots.states[lane].generation };
                let then = Some(player.plan.then).filter(|then| known(*then));
                let numbers = [player.clip, player.requested].map(|clip| clips.number(clip));
                let [clip, requested] = numbers;
                saved.players.push(SavedMember {
                    slot,
                    clips: [clip, requested, then.map_or(NONE, |then| clips.number(then))],
                    outfit: number_of(&mut outfits, crowd.looks(id).unwrap_or_default()),
                    numbers: SavedNumbers::of(&player),
                });
            }
        }
        let name_of = |clip: &u16| reel.full_clip_name(ClipId::new(reel.family, *clip));
        saved.clips = clips.all.iter().map(name_of).collect();
        let names_of =
            |looks: &LookSet| looks.iter().map(|look| reel.full_look_name(look)).collect();
        saved.outfits = outfits.iter().map(names_of).collect();
        saved
    }

    /// Restores the crowd, playing from this reel. Looks that the reel has lost are left out; all
    /// members count as [`changed`](Crowd::changed).
    ///
    /// # Errors
    /// When the reel has lost a clip or a role, or the data are not those of a crowd.
    pub fn load(&self, reel: &Reel) -> Result<Crowd, RestoreError> {
        if self.version != VERSION {
            return Err(RestoreError::Version { found: self.version });
        }
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
        let ids = self.clips.iter().map(|name| find_clip(reel, name));
        let ids: Vec<u16> = ids.collect::<Result<_, _>>()?;
        for member in &self.players {
            let id = |nth: u16| ids.get(usize::from(nth)).copied().ok_or(RestoreError::Damaged);
            let [clip, requested, then] = member.clips;
            let then = if then == NONE { NONE } else { id(then)? };
            let player = member.numbers.load(reel, [id(clip)?, id(requested)?, then])?;
            let outfit =
                self.outfits.get(usize::from(member.outfit)).ok_or(RestoreError::Damaged)?;
            let mut looks = LookSet::NOTHING;
            for look in outfit.iter().filter_map(|name| reel.look_id(name).ok()) {
                let _ = looks.wear(reel, look);
            }
            crowd.put_saved(member.slot, Body::Player(player, looks))?;
        }
        for (slot, actor) in &self.actors {
            crowd.put_saved(*slot, Body::Actor(actor.load(reel)?))?;
        }
        Ok(crowd)
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
        let GroupClock { scale, carry, hit_stop, paused } = *clock;
        SavedClock { scale: scale.to_bits(), carry, hit_stop, paused }
    }

    fn load(&self) -> Option<GroupClock> {
        let sound = self.scale >= 0 && self.carry < 1 << 16;
        let scale = Speed::from_bits(self.scale).ok().filter(|_| sound)?;
        Some(GroupClock { scale, carry: self.carry, hit_stop: self.hit_stop, paused: self.paused })
    }
}

/// The clips that are saved, in the order in which they are met.
struct SavedClips {
    all: Vec<u16>,
    /// Where each clip of the reel stands among them; `NONE` for one that is not.
    places: Vec<u16>,
}

impl SavedClips {
    fn of(crowd: &Crowd) -> SavedClips {
        SavedClips { all: Vec::new(), places: alloc::vec![NONE; crowd.reel.data.clips.len()] }
    }

    fn number(&mut self, clip: u16) -> u16 {
        let Some(place) = self.places.get_mut(usize::from(clip)) else { return NONE };
        if *place == NONE {
            *place = self.all.len() as u16;
            self.all.push(clip);
        }
        *place
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
