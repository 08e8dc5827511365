//! Crowds that outlive the program.

use alloc::string::String;
use alloc::vec::Vec;

use super::block::{BLOCK, Block};
use super::group::Group;
use super::new_member::Body;
use super::{Crowd, Handle, Lanes};
use crate::actor::SavedActor;
use crate::ids::ClipId;
use crate::look::Worn;
use crate::play::{Plain, SaveError, SavedPlayer, full_name};
use crate::reel::Reel;
use crate::time::Speed;

/// The version of what is written here.
const VERSION: u32 = 1;

/// A crowd as plain data, clips and looks by their names, so that it is found again in another build of
/// the game: with its groups, and with its handles, which stay good. With the feature `serde` it can be
/// written and read by any serde format.
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
    /// Numbers of the saved clips.
    clip: u16,
    asked: u16,
    /// The number of the saved outfit.
    outfit: u16,
    state: Plain,
}

impl Crowd {
    /// This crowd as plain data. Members whose clip the reel has lost are left out; with another reel
    /// than its own all are.
    ///
    /// ```
    /// # use lucky_reel_core::{Crowd, Grid, NewClip, NewMember, NewSheet, Reel, Ticks};
    /// # let mut builder = Reel::builder();
    /// # let sheet = builder.sheet("moth", NewSheet::grid([64, 16], Grid::cells([16, 16])));
    /// # let flutter = builder.clip("flutter", NewClip::of(sheet).frames(0..4).fps(12));
    /// # let reel = builder.build()?;
    /// let mut crowd = Crowd::new(&reel);
    /// let moth = crowd.spawn(&reel, NewMember::playing(flutter).scattered(7, 1));
    /// crowd.advance(&reel, Ticks::from_millis(333));
    /// let again = crowd.save(&reel).load(&reel).unwrap();
    /// assert_eq!(again.player(moth), crowd.player(moth));
    /// # Ok::<(), lucky_reel_core::BuildError>(())
    /// ```
    #[must_use]
    pub fn save(&self, reel: &Reel) -> SavedCrowd {
        let mut saved = SavedCrowd {
            version: VERSION,
            clips: Vec::new(),
            outfits: alloc::vec![Vec::new()],
            groups: self.groups.iter().map(SavedGroup::of).collect(),
            blocks: Vec::new(),
            players: Vec::new(),
            actors: Vec::new(),
        };
        if !self.reel.stamp.same_family(reel.stamp) {
            return saved;
        }
        let (mut clips, mut outfits) = (Numbers::default(), Numbers::default());
        outfits.number(Worn::NOTHING);
        for at in 0..self.blocks.len() {
            let Some(seat) = self.block(at) else { continue };
            saved.blocks.push(SavedBlock {
                group: seat.block.group,
                of_actors: seat.block.is_of_actors(),
                generations: seat.rows.iter().map(|row| row.generation).collect(),
            });
            for lane in Lanes(seat.block.alive) {
                let slot = (at * BLOCK + lane) as u32;
                if let Some(actor) = seat.actor(&self.reel, &self.steps, lane) {
                    saved.actors.push((slot, actor.save(reel)));
                    continue;
                }
                let player = seat.player(&self.reel, &self.steps, lane);
                if [player.clip(), player.asked()].iter().any(|id| reel.clip_data(*id).is_none()) {
                    continue;
                }
                let handle = Handle { slot, generation: seat.rows[lane].generation };
                saved.players.push(SavedMember {
                    slot,
                    clip: clips.number(player.clip()),
                    asked: clips.number(player.asked()),
                    outfit: outfits.number(self.worn(handle)),
                    state: player.plain_bytes(),
                });
            }
        }
        saved.clips = clips.0.iter().map(|clip| full_name(reel, *clip)).collect();
        let names_of = |worn: &Worn| worn.looks().map(|look| reel.full_look_name(look)).collect();
        saved.outfits = outfits.0.iter().map(names_of).collect();
        saved
    }
}

impl SavedCrowd {
    /// The crowd again, playing from this reel. Looks that the reel has lost are left out; all members
    /// count as [`changed`](Crowd::changed).
    ///
    /// # Errors
    /// When the reel has lost a clip or a role, or the data are not those of a crowd.
    pub fn load(&self, reel: &Reel) -> Result<Crowd, SaveError> {
        if self.version != VERSION {
            return Err(SaveError::Version { found: self.version });
        }
        let mut crowd = Crowd::new(reel);
        crowd.groups.clear();
        for group in &self.groups {
            crowd.groups.push(group.load().ok_or(SaveError::Damaged)?);
        }
        if !(1..=256).contains(&crowd.groups.len()) {
            return Err(SaveError::Damaged);
        }
        for saved in &self.blocks {
            let known = usize::from(saved.group) < crowd.groups.len();
            if !known || saved.generations.len() != BLOCK {
                return Err(SaveError::Damaged);
            }
            crowd.add_block(Block::new(saved.group, saved.of_actors, reel));
            let rows = crowd.rows.last_mut().into_iter().flatten();
            for (row, generation) in rows.zip(&saved.generations) {
                row.generation = *generation;
            }
        }
        let gone = |name: &String| SaveError::ClipGone { clip: alloc::format!("`{name}`") };
        let ids = self.clips.iter().map(|name| reel.clip(name).map_err(|_| gone(name)));
        let ids: Vec<ClipId> = ids.collect::<Result<_, _>>()?;
        for member in &self.players {
            let id = |nth: u16| ids.get(usize::from(nth)).copied().ok_or(SaveError::Damaged);
            let saved = SavedPlayer::from_plain_bytes(String::new(), String::new(), member.state);
            let player = saved.restore(reel, id(member.clip)?, id(member.asked)?)?;
            let outfit = self.outfits.get(usize::from(member.outfit)).ok_or(SaveError::Damaged)?;
            let mut worn = Worn::NOTHING;
            for look in outfit.iter().filter_map(|name| reel.look(name).ok()) {
                let _ = worn.put_on(reel, look);
            }
            crowd.seat_saved(reel, member.slot, Body::Player(player, worn))?;
        }
        for (slot, actor) in &self.actors {
            crowd.seat_saved(reel, *slot, Body::Actor(actor.load(reel)?))?;
        }
        Ok(crowd)
    }
}

impl Crowd {
    /// Puts a member into the slot that it had.
    fn seat_saved(&mut self, reel: &Reel, slot: u32, body: Body) -> Result<(), SaveError> {
        let (at, lane) = (slot as usize / BLOCK, slot as usize % BLOCK);
        let fits = self.blocks.get(at).is_some_and(|block| {
            !block.has(lane) && block.is_of_actors() == matches!(body, Body::Actor(_))
        });
        if !fits {
            return Err(SaveError::Damaged);
        }
        self.seat_new(reel, at, lane, body);
        Ok(())
    }
}

impl SavedGroup {
    fn of(group: &Group) -> SavedGroup {
        SavedGroup {
            scale: group.scale.to_bits(),
            carry: group.carry,
            hit_stop: group.frozen,
            paused: group.paused,
        }
    }

    fn load(&self) -> Option<Group> {
        let sound = self.scale >= 0 && self.carry < 1 << 16;
        let scale = Speed::from_bits(self.scale).ok().filter(|_| sound)?;
        let (carry, frozen, paused) = (self.carry, self.hit_stop, self.paused);
        Some(Group { scale, carry, frozen, paused, ..Group::NEW })
    }
}

/// Numbers for things, in the order in which they are met.
struct Numbers<T>(Vec<T>);

impl<T> Default for Numbers<T> {
    fn default() -> Numbers<T> {
        Numbers(Vec::new())
    }
}

impl<T: Copy + PartialEq> Numbers<T> {
    fn number(&mut self, thing: T) -> u16 {
        let known = self.0.iter().position(|other| *other == thing);
        known.unwrap_or_else(|| {
            self.0.push(thing);
            self.0.len() - 1
        }) as u16
    }
}
