//! Actors that outlive the program, by any serde format.

use alloc::string::{String, ToString};
use alloc::vec::Vec;

use super::state::{ALL_FLAGS, Actor, DIRTY, OWES_TURN};
use crate::cue::{FactKind, FactValue, RoleData};
use crate::facing::Facing;
use crate::ids::{BridgeId, CueId, NONE};
use crate::play::{RestoreError, SavedPlayer};
use crate::reel::Reel;
use crate::time::Speed;

/// The version of what is written here.
const VERSION: u32 = 2;

/// An actor as plain data, with names instead of ids, so that another build of the game can load it.
/// With the feature `serde` it can be written and read by any serde format, text or binary.
///
/// A cue, a fact or a look that the reel has lost is left out: the cues are evaluated anew then.
#[derive(Clone, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
#[cfg_attr(feature = "serde", serde(deny_unknown_fields))]
pub struct SavedActor {
    version: u32,
    role: String,
    player: SavedPlayer,
    cue: String,
    bridge: String,
    target: String,
    yields_to: String,
    facing: Facing,
    begun_facing: Facing,
    /// In 65,536ths.
    speed: i32,
    changes: u16,
    flags: u8,
    facts: Vec<(String, FactValue)>,
    /// Pulses that are up, the ticks for which they are, and whether they are fresh.
    pulses: Vec<(String, u32, bool)>,
    looks: Vec<String>,
}

impl SavedActor {
    /// Restores the actor, playing from this reel.
    ///
    /// # Errors
    /// When the reel has lost its role or its clip, or the data are not those of an actor.
    pub fn load(&self, reel: &Reel) -> Result<Actor, RestoreError> {
        if self.version != VERSION {
            return Err(RestoreError::Version { found: self.version });
        }
        let gone = || RestoreError::RoleGone { role: self.role.clone() };
        let role = reel.role_id(&self.role).map_err(|_| gone())?;
        let data = reel.role_data(role).ok_or_else(gone)?;
        let cue = |name: &str| {
            let mut cues = data.cues.iter().map(|cue| cue.id);
            cues.find(|id| reel.cue_name(*id) == name).map_or(NONE, |id| id.number)
        };
        if usize::from(self.changes) > data.cues.len() {
            return Err(RestoreError::Damaged);
        }
        let mut bridges = data.bridges.iter().map(|bridge| bridge.id);
        let bridge = bridges.find(|id| reel.bridge_name(*id) == self.bridge);
        let mut actor = Actor::new(reel, role);
        actor.player = self.player.load(reel)?;
        (actor.cue, actor.target) = (cue(&self.cue), cue(&self.target));
        actor.yields_to = cue(&self.yields_to);
        actor.bridge = bridge.map_or(NONE, |id| id.number);
        (actor.facing, actor.begun_facing) = (self.facing, self.begun_facing);
        actor.speed = Speed::from_bits(self.speed).map_err(|_| RestoreError::Damaged)?;
        actor.changes = self.changes;
        for (name, value) in &self.facts {
            // What the reel has lost, or made something else, begins as it says now.
            let _ = actor.set_by_name(reel, name, value);
        }
        for (name, left, fresh) in &self.pulses {
            let Some((slot, longest)) = pulse_of(data, name) else { continue };
            let bit = 1 << slot;
            // Of a fresh one the time begins when it is looked at.
            let left = if *fresh { 0 } else { (*left).min(longest) };
            if *fresh || left > 0 {
                actor.pulses |= bit;
                actor.fresh |= if *fresh { bit } else { 0 };
                actor.facts[slot] = left;
            }
        }
        for name in &self.looks {
            if let Ok(look) = reel.look_id(name) {
                let _ = actor.wear(reel, look);
            }
        }
        actor.flags = self.flags & ALL_FLAGS;
        if actor.fresh != 0 {
            // What has been set off is looked at in the next advance.
            actor.set_flag(DIRTY, true);
        }
        let lost = |now: u16, then: &str| now == NONE && !then.is_empty();
        if lost(actor.cue, &self.cue) || lost(actor.bridge, &self.bridge) {
            (actor.bridge, actor.target) = (NONE, NONE);
            actor.set_flag(DIRTY, true);
        }
        if !actor.has(DIRTY) && !actor.has(OWES_TURN) {
            // It plays as fast as its cue says now.
            let speed = actor.wanted_speed(reel, data);
            actor.player.set_speed(speed);
        }
        Ok(actor)
    }
}

impl Actor {
    /// This actor as plain data, everything by its name.
    ///
    /// ```
    /// # use lucky_reel_core::{Actor, Grid, NewClip, NewCue, NewSheet, Reel, Ticks};
    /// # let mut builder = Reel::builder();
    /// # let sheet = builder.sheet("moth", NewSheet::grid([64, 16], Grid::cell_size([16, 16])));
    /// # builder.clip("flutter", NewClip::of(sheet).frames(0..4).fps(12));
    /// # builder.cue("resting", NewCue::play("flutter"));
    /// # let reel = builder.build()?;
    /// let mut moth = Actor::new(&reel, reel.role_id("")?);
    /// moth.advance(&reel, Ticks::from_millis(333));
    /// assert_eq!(moth.save(&reel).load(&reel)?, moth);
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    #[must_use]
    pub fn save(&self, reel: &Reel) -> SavedActor {
        // As the reel sees it, which may be a later version than the one that it last played from.
        let mut actor = *self;
        actor.rebind(reel);
        let role = reel.role(actor.role());
        let all: Vec<_> = role.iter().flat_map(|role| role.facts()).collect();
        let plain = all.iter().filter(|fact| fact.kind() != FactKind::Pulse);
        let facts = plain.map(|fact| {
            let bits = actor.facts[usize::from(fact.slot)];
            (fact.name().to_string(), fact.data.value_of(bits))
        });
        let up = all.iter().filter(|fact| actor.pulses & 1 << fact.slot != 0);
        let pulses = up.map(|fact| {
            let left = actor.facts[usize::from(fact.slot)];
            (fact.name().to_string(), left, actor.fresh & 1 << fact.slot != 0)
        });
        let family = actor.player.family;
        let cue_name = |cue| reel.cue_name(CueId::new(family, cue)).to_string();
        SavedActor {
            version: VERSION,
            role: role.map_or_else(String::new, |role| role.name().to_string()),
            player: actor.player.save(reel),
            cue: cue_name(actor.cue),
            bridge: reel.bridge_name(BridgeId::new(family, actor.bridge)).to_string(),
            target: cue_name(actor.target),
            yields_to: cue_name(actor.yields_to),
            facing: actor.facing,
            begun_facing: actor.begun_facing,
            speed: actor.speed.to_bits(),
            changes: actor.changes,
            flags: actor.flags,
            facts: facts.collect(),
            pulses: pulses.collect(),
            looks: actor.looks.iter().map(|look| reel.full_look_name(look)).collect(),
        }
    }
}

/// The slot of a pulse, and the longest time for which it is up.
fn pulse_of(role: &RoleData, name: &str) -> Option<(usize, u32)> {
    let mut facts = role.facts.iter().enumerate();
    facts.find_map(|(slot, fact)| {
        let fact = fact.as_ref()?;
        (fact.name == name && fact.kind == FactKind::Pulse).then_some((slot, fact.duration))
    })
}
