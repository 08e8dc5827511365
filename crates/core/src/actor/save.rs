//! Actors that outlive the program: as any serde format, or as bytes.

use alloc::string::{String, ToString};
use alloc::vec::Vec;

use super::state::{Actor, CUT, DONE, NO, OWED};
use crate::cue::{FactKind, FactValue, RoleData};
use crate::facing::Facing;
use crate::ids::{BridgeId, CueId};
use crate::play::{SaveError, SavedPlayer};
use crate::reel::Reel;
use crate::time::Speed;

/// The version of what is written here.
const VERSION: u32 = 1;

/// An actor as plain data, everything by its name, so that it is found again in another build of the
/// game. With the feature `serde` it can be written and read by any serde format.
///
/// A cue, a fact or a look that the reel has lost is left out: the cues are looked at anew then.
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
    facing: u8,
    begun_facing: u8,
    /// In 65,536ths.
    speed: i32,
    changes: u16,
    flags: u8,
    facts: Vec<(String, FactValue)>,
    /// Pulses that are up, the ticks for which they are, and whether they are fresh.
    pulses: Vec<(String, u32, bool)>,
    worn: Vec<String>,
}

impl SavedActor {
    /// The actor again, acting from this reel.
    ///
    /// # Errors
    /// When the reel has lost its role or its clip, or the data are not those of an actor.
    pub fn load(&self, reel: &Reel) -> Result<Actor, SaveError> {
        if self.version != VERSION {
            return Err(SaveError::Version { found: self.version });
        }
        let role = reel.role(&self.role).map_err(|_| SaveError::Damaged)?;
        let data = reel.role_data(role).ok_or(SaveError::Damaged)?;
        let facing =
            |number: u8| Facing::ALL.get(usize::from(number)).copied().ok_or(SaveError::Damaged);
        let cue = |name: &str| {
            let mut cues = data.cues.iter().map(|cue| cue.id);
            cues.find(|id| reel.cue_name(*id) == name).unwrap_or(CueId(NO))
        };
        let mut bridges = data.bridges.iter().map(|bridge| bridge.id);
        let bridge = bridges.find(|id| reel.bridge_name(*id) == self.bridge);
        let mut actor = Actor::new(reel, role);
        actor.player = self.player.load(reel)?;
        (actor.cue, actor.target) = (cue(&self.cue), cue(&self.target));
        actor.bridge = bridge.unwrap_or(BridgeId(NO));
        (actor.facing, actor.begun_facing) = (facing(self.facing)?, facing(self.begun_facing)?);
        actor.speed = Speed::from_bits(self.speed).map_err(|_| SaveError::Damaged)?;
        actor.changes = self.changes;
        for (name, value) in &self.facts {
            // What the reel has lost, or made something else, begins as it says now.
            let _ = actor.set_by_name(reel, name, value);
        }
        for (name, left, fresh) in &self.pulses {
            if let Some(slot) = slot_of(data, name) {
                let bit = 1 << slot;
                actor.pulses |= bit;
                actor.fresh |= if *fresh { bit } else { 0 };
                actor.facts[slot] = *left;
            }
        }
        for name in &self.worn {
            if let Ok(look) = reel.look(name) {
                let _ = actor.wear(reel, look);
            }
        }
        actor.flags = self.flags & (OWED | DONE | CUT);
        actor.watched = actor.player.watched(reel);
        let lost = |now: u16, then: &str| now == NO && !then.is_empty();
        if lost(actor.cue.0, &self.cue) || lost(actor.bridge.0, &self.bridge) {
            (actor.bridge, actor.target) = (BridgeId(NO), CueId(NO));
            actor.set_flag(OWED, true);
        }
        Ok(actor)
    }

    fn to_bytes(&self) -> Vec<u8> {
        let mut out = Writer(Vec::new());
        out.number(self.version);
        self.texts().for_each(|text| out.text(text));
        out.0.extend(self.player.to_plain_bytes());
        out.0.extend([self.facing, self.begun_facing, self.flags]);
        out.0.extend(self.speed.to_le_bytes());
        out.0.extend(self.changes.to_le_bytes());
        out.number(self.facts.len() as u32);
        for (name, value) in &self.facts {
            out.text(name);
            match value {
                FactValue::Flag(value) => out.0.extend([0, u8::from(*value)]),
                FactValue::Whole(value) => {
                    out.0.push(1);
                    out.0.extend(value.to_le_bytes());
                }
                FactValue::Number(value) => {
                    out.0.push(2);
                    out.0.extend(value.to_le_bytes());
                }
                FactValue::Word(word) => {
                    out.0.push(3);
                    out.text(word);
                }
            }
        }
        out.number(self.pulses.len() as u32);
        for (name, left, fresh) in &self.pulses {
            out.text(name);
            out.number(*left);
            out.0.push(u8::from(*fresh));
        }
        out.number(self.worn.len() as u32);
        self.worn.iter().for_each(|look| out.text(look));
        out.0
    }

    fn texts(&self) -> impl Iterator<Item = &str> {
        let (clip, asked) = self.player.names();
        [&self.role, &self.cue, &self.bridge, &self.target, clip, asked]
            .into_iter()
            .map(|text| &**text)
    }

    fn from_bytes(bytes: &[u8]) -> Option<SavedActor> {
        let mut from = Reader(bytes);
        let version = from.number()?;
        let mut texts = [const { String::new() }; 6];
        for text in &mut texts {
            *text = from.text()?;
        }
        let [role, cue, bridge, target, clip, asked] = texts;
        let player = SavedPlayer::from_plain_bytes(clip, asked, from.take()?);
        let [facing, begun_facing, flags] = from.take()?;
        let speed = i32::from_le_bytes(from.take()?);
        let changes = u16::from_le_bytes(from.take()?);
        let (mut facts, mut pulses, mut worn) = (Vec::new(), Vec::new(), Vec::new());
        for _ in 0..from.number()? {
            let name = from.text()?;
            let [kind] = from.take()?;
            let value = match kind {
                0 => FactValue::Flag(from.take()? == [1]),
                1 => FactValue::Whole(i32::from_le_bytes(from.take()?)),
                2 => FactValue::Number(f32::from_le_bytes(from.take()?)),
                _ => FactValue::Word(from.text()?),
            };
            facts.push((name, value));
        }
        for _ in 0..from.number()? {
            pulses.push((from.text()?, from.number()?, from.take()? == [1]));
        }
        for _ in 0..from.number()? {
            worn.push(from.text()?);
        }
        from.0.is_empty().then_some(SavedActor {
            version,
            role,
            player,
            cue,
            bridge,
            target,
            facing,
            begun_facing,
            speed,
            changes,
            flags,
            facts,
            pulses,
            worn,
        })
    }
}

impl Actor {
    /// This actor as plain data, everything by its name.
    ///
    /// ```
    /// # use lucky_reel_core::{Actor, Grid, NewClip, NewCue, NewSheet, Reel, Ticks};
    /// # let mut builder = Reel::builder();
    /// # let sheet = builder.sheet("moth", NewSheet::grid([64, 16], Grid::cells([16, 16])));
    /// # builder.clip("flutter", NewClip::of(sheet).frames(0..4).fps(12));
    /// # builder.cue("resting", NewCue::play("flutter"));
    /// # let reel = builder.build()?;
    /// let mut moth = Actor::new(&reel, reel.role("")?);
    /// moth.advance(&reel, Ticks::from_millis(333));
    /// assert_eq!(moth.save(&reel).load(&reel)?, moth);
    /// assert_eq!(Actor::from_bytes(&reel, &moth.to_bytes(&reel))?, moth);
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    #[must_use]
    pub fn save(&self, reel: &Reel) -> SavedActor {
        let role = reel.get_role(self.role);
        let all: Vec<_> = role.iter().flat_map(|role| role.facts()).collect();
        let plain = all.iter().filter(|fact| fact.kind() != FactKind::Pulse);
        let facts = plain.map(|fact| {
            let bits = self.facts[usize::from(fact.slot)];
            (fact.name().to_string(), fact.data.value_of(bits))
        });
        let up = all.iter().filter(|fact| self.pulses & 1 << fact.slot != 0);
        let pulses = up.map(|fact| {
            let left = self.facts[usize::from(fact.slot)];
            (fact.name().to_string(), left, self.fresh & 1 << fact.slot != 0)
        });
        SavedActor {
            version: VERSION,
            role: role.map_or_else(String::new, |role| role.name().to_string()),
            player: self.player.save(reel),
            cue: reel.cue_name(self.cue).to_string(),
            bridge: reel.bridge_name(self.bridge).to_string(),
            target: reel.cue_name(self.target).to_string(),
            facing: self.facing as u8,
            begun_facing: self.begun_facing as u8,
            speed: self.speed.to_bits(),
            changes: self.changes,
            flags: self.flags,
            facts: facts.collect(),
            pulses: pulses.collect(),
            worn: self.worn.looks().map(|look| reel.full_look_name(look)).collect(),
        }
    }

    /// This actor as bytes that are the same on every machine: little-endian, a version first,
    /// everything by its name.
    #[must_use]
    pub fn to_bytes(&self, reel: &Reel) -> Vec<u8> {
        self.save(reel).to_bytes()
    }

    /// The actor that [`to_bytes`](Actor::to_bytes) gave.
    ///
    /// # Errors
    /// As [`SavedActor::load`].
    pub fn from_bytes(reel: &Reel, bytes: &[u8]) -> Result<Actor, SaveError> {
        SavedActor::from_bytes(bytes).ok_or(SaveError::Damaged)?.load(reel)
    }
}

fn slot_of(role: &RoleData, pulse: &str) -> Option<usize> {
    role.facts.iter().position(|fact| {
        fact.as_ref().is_some_and(|fact| fact.name == pulse && fact.kind == FactKind::Pulse)
    })
}

struct Writer(Vec<u8>);

impl Writer {
    fn number(&mut self, number: u32) {
        self.0.extend(number.to_le_bytes());
    }

    fn text(&mut self, text: &str) {
        self.number(text.len() as u32);
        self.0.extend(text.as_bytes());
    }
}

struct Reader<'b>(&'b [u8]);

impl Reader<'_> {
    fn take<const N: usize>(&mut self) -> Option<[u8; N]> {
        let (head, rest) = self.0.split_first_chunk::<N>()?;
        self.0 = rest;
        Some(*head)
    }

    fn number(&mut self) -> Option<u32> {
        self.take().map(u32::from_le_bytes)
    }

    fn text(&mut self) -> Option<String> {
        let length = self.number()? as usize;
        let (head, rest) = self.0.split_at_checked(length)?;
        self.0 = rest;
        Some(core::str::from_utf8(head).ok()?.to_string())
    }
}
