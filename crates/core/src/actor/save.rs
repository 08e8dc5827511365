//! Actors that outlive the program, by any serde format.

use alloc::vec::Vec;

use super::state::{ALL_FLAGS, Actor, DIRTY, OWES_TURN};
use crate::cue::{FactKind, MAX_FACTS};
use crate::facing::Facing;
use crate::ids::NONE;
use crate::play::SavedState;
use crate::reel::Reel;
use crate::save::{FoundNames, NameWriter, RestoreError, Savable, Saved};
use crate::time::Speed;

/// A saved actor within its table of names: names by their positions in it, from 1, 0 for none.
#[derive(Clone, Debug, PartialEq, Eq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
#[cfg_attr(feature = "serde", serde(deny_unknown_fields))]
#[allow(unreachable_pub)] // a sealed trait names it
pub struct SavedActing {
    role: u16,
    player: SavedState,
    cue: u16,
    bridge: u16,
    target: u16,
    yields_to: u16,
    facing: Facing,
    begun_facing: Facing,
    /// In 65,536ths.
    speed: i32,
    changes: u16,
    flags: u8,
    /// Of each fact of the role: what it is; of a pulse, the ticks for which it is still true.
    facts: Vec<u32>,
    /// The facts that are pulses and true, by their bits, and those that were set since the last evaluation.
    pulses: u32,
    fresh: u32,
    looks: Vec<u16>,
}

impl Savable for Actor {
    type Data = SavedActing;

    fn load(
        data: &SavedActing,
        reel: &Reel,
        names: &FoundNames<'_>,
    ) -> Result<Option<Actor>, RestoreError> {
        data.load(reel, names)
    }
}

impl SavedActing {
    pub(crate) fn of(actor: &Actor, reel: &Reel, names: &mut NameWriter<'_>) -> SavedActing {
        // As the reel sees it, which may be a later version than the one that it last played from.
        let mut actor = *actor;
        let role = actor.rebind(reel);
        let (mut facts, [mut pulses, mut fresh]) = (Vec::new(), [0; 2]);
        let slots = role.map_or(&[][..], |role| &role.facts).iter().enumerate();
        for (slot, _) in slots.filter(|(_, fact)| fact.is_some()) {
            let bit = 1_u32 << facts.len();
            pulses |= if actor.pulses >> slot & 1 != 0 { bit } else { 0 };
            fresh |= if actor.fresh >> slot & 1 != 0 { bit } else { 0 };
            facts.push(actor.facts[slot]);
        }
        let cue = |number: u16| {
            let cues = role.map_or(&[][..], |role| &role.cues);
            cues.iter().position(|cue| cue.id.number == number).map_or(0, |at| at as u16 + 1)
        };
        let bridges = role.map_or(&[][..], |role| &role.bridges);
        let bridge = bridges.iter().position(|bridge| bridge.id.number == actor.bridge);
        SavedActing {
            role: role.map_or(0, |_| names.role(actor.role)),
            player: SavedState::of(&actor.player, reel, names),
            cue: cue(actor.cue),
            bridge: bridge.map_or(0, |at| at as u16 + 1),
            target: cue(actor.target),
            yields_to: cue(actor.yields_to),
            facing: actor.facing,
            begun_facing: actor.begun_facing,
            speed: actor.speed.to_bits(),
            changes: actor.changes,
            flags: actor.flags,
            facts,
            pulses,
            fresh,
            looks: actor.looks.iter().map(|look| names.look(look)).collect(),
        }
    }

    /// The actor again; `None` where its role or its clip is lost.
    pub(crate) fn load(
        &self,
        reel: &Reel,
        names: &FoundNames<'_>,
    ) -> Result<Option<Actor>, RestoreError> {
        let Some(role) = names.role(self.role)? else { return Ok(None) };
        let Some(player) = self.player.load(reel, names)? else { return Ok(None) };
        let too_many = usize::from(self.changes) > role.data.cues.len();
        if too_many || self.facts.len() != role.fact_count() || self.facts.len() > MAX_FACTS {
            return Err(RestoreError::Damaged);
        }
        let mut actor = Actor::new(reel, role.id);
        actor.player = player;
        (actor.cue, actor.target) = (role.cue(self.cue)?, role.cue(self.target)?);
        (actor.yields_to, actor.bridge) = (role.cue(self.yields_to)?, role.bridge(self.bridge)?);
        (actor.facing, actor.begun_facing) = (self.facing, self.begun_facing);
        actor.speed = Speed::from_bits(self.speed).map_err(|_| RestoreError::Damaged)?;
        actor.changes = self.changes;
        for (at, fact) in role.facts() {
            let saved = self.facts.get(at).copied().unwrap_or(0);
            if fact.data.kind != FactKind::Pulse {
                if let Some(bits) = fact.bits(saved) {
                    actor.facts[fact.slot] = bits;
                }
                continue;
            }
            let is_fresh = self.fresh >> at & 1 != 0;
            // Of a fresh one the time begins when it is looked at.
            let left = if is_fresh { 0 } else { saved.min(fact.data.duration) };
            if is_fresh || self.pulses >> at & 1 != 0 && left > 0 {
                actor.pulses |= 1 << fact.slot;
                actor.fresh |= u32::from(is_fresh) << fact.slot;
                actor.facts[fact.slot] = left;
            }
        }
        for look in &self.looks {
            if let Some(look) = names.look(*look)? {
                // More than can be worn are those of a damaged save.
                let _ = actor.wear(reel, look);
            }
        }
        actor.flags = self.flags & ALL_FLAGS;
        if actor.fresh != 0 {
            // What has been set off is looked at in the next advance.
            actor.set_flag(DIRTY, true);
        }
        let is_lost = |now: u16, then: u16| now == NONE && then != 0;
        if is_lost(actor.cue, self.cue) || is_lost(actor.bridge, self.bridge) {
            (actor.bridge, actor.target) = (NONE, NONE);
            actor.set_flag(DIRTY, true);
        }
        if !actor.has(DIRTY) && !actor.has(OWES_TURN) {
            // It plays as fast as its cue says now.
            let speed = actor.wanted_speed(reel, role.data);
            actor.player.set_speed(speed);
        }
        Ok(Some(actor))
    }
}

impl Actor {
    /// This actor as plain data, everything by its name: see [`Saved`].
    ///
    /// ```
    /// # use lucky_reel_core::{RoleId, Actor, Grid, NewClip, NewCue, NewSheet, Reel, Ticks};
    /// # let mut builder = Reel::builder();
    /// # let sheet = builder.sheet("moth", NewSheet::grid([64, 16], Grid::cell_size([16, 16])));
    /// # builder.clip("flutter", NewClip::of(sheet).frames(0..4).fps(12));
    /// # builder.cue("resting", NewCue::play("flutter"));
    /// # let reel = builder.build()?;
    /// let mut moth = Actor::new(&reel, reel.id("")?);
    /// moth.advance(&reel, Ticks::from_millis(333));
    /// assert_eq!(moth.save(&reel).load(&reel)?, moth);
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    #[must_use]
    pub fn save(&self, reel: &Reel) -> Saved<Actor> {
        let mut names = NameWriter::new(reel);
        let acting = SavedActing::of(self, reel, &mut names);
        Saved::new(names, acting)
    }
}
