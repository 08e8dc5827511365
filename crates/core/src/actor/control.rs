//! What the game tells an actor, and what can be asked of it.

use core::fmt;

use super::state::{Actor, DIRTY};
use crate::cue::{FactId, FactKind, FactType, FactValue};
use crate::facing::Facing;
use crate::ids::{BridgeId, CueId, LookId, NONE, RoleId, SpanId};
use crate::play::Player;
use crate::reel::Reel;
use crate::sheet::PackedFrame;
use crate::time::{Speed, Ticks};
use crate::view::{LookError, LookSet, View};

/// Why a fact cannot be set.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub enum FactError {
    /// It is a fact of another role.
    OtherRole,
    /// The number is not finite, or the word is another fact's.
    Value,
    /// The role has no fact of this name.
    Unknown,
    /// The member of a crowd has gone.
    Gone,
    /// The member of a crowd is a player, which has no facts.
    NotAnActor,
}

impl fmt::Display for FactError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(match self {
            FactError::OtherRole => "the fact is of another role: look it up by `role/name`",
            FactError::Value => {
                "the fact cannot be this: give a finite number, or one of its choices"
            }
            FactError::Unknown => "the role has no such fact: look at its facts",
            FactError::Gone => "the member has left the crowd: forget its id",
            FactError::NotAnActor => "the member is a player, not an actor: spawn it with a role",
        })
    }
}

impl core::error::Error for FactError {}

impl Actor {
    /// Sets a fact. Cues are evaluated with all changes together at the start of the next
    /// advance. Setting the value that a fact already has changes nothing.
    ///
    /// # Errors
    /// When the fact is of another role; when a number is not finite. Nothing is changed then.
    pub fn set<T: FactType>(&mut self, fact: FactId<T>, value: T) -> Result<(), FactError> {
        if fact.role != self.role() {
            return Err(FactError::OtherRole);
        }
        let bits = value.to_bits(fact.role, fact.slot).ok_or(FactError::Value)?;
        if T::KIND == FactKind::Pulse {
            self.set_off(fact.slot);
        } else {
            self.set_bits(fact.slot, bits);
        }
        Ok(())
    }

    /// Sets off a pulse: true from the start of the next advance, for one instant or for the length
    /// that the role states. The first cue naming it that takes over uses it up. When it ends, that
    /// counts as no change.
    ///
    /// # Errors
    /// When the pulse is of another role.
    ///
    /// ```
    /// # use lucky_reel_core::{Actor, Grid, Mode, NewClip, NewCue, NewFact, NewSheet, Reel, Ticks, Condition};
    /// # let mut builder = Reel::builder();
    /// # let sheet = builder.sheet("bram", NewSheet::grid([128, 32], Grid::cell_size([32, 32])));
    /// # builder.clip("idle", NewClip::of(sheet).frames([0]));
    /// # builder.clip("stumble", NewClip::of(sheet).frames(0..4).fps(10).mode(Mode::Once));
    /// builder.fact("hurt", NewFact::pulse());
    /// builder.cue("hurt", NewCue::play("stumble").when(Condition::fact("hurt", true)).finish());
    /// builder.cue("resting", NewCue::play("idle"));
    /// let reel = builder.build()?;
    /// let mut bram = Actor::new(&reel, reel.role_id("")?);
    /// bram.pulse(reel.fact_id("hurt")?)?;
    /// bram.advance(&reel, Ticks::from_millis(300));
    /// assert_eq!(bram.cue(), Some(reel.cue_id("hurt")?)); // long fallen, and it runs to its end
    /// bram.advance(&reel, Ticks::from_millis(300));
    /// assert_eq!(bram.cue(), Some(reel.cue_id("resting")?));
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn pulse(&mut self, fact: FactId<()>) -> Result<(), FactError> {
        self.set(fact, ())
    }

    /// Sets a fact by its name, for tools: `true` sets off a pulse.
    ///
    /// # Errors
    /// When the role has no such fact, or it cannot be this.
    pub fn set_by_name(
        &mut self,
        reel: &Reel,
        name: &str,
        value: &FactValue,
    ) -> Result<(), FactError> {
        let role = reel.role(self.role()).ok_or(FactError::OtherRole)?;
        let fact = role.facts().find(|fact| fact.name() == name).ok_or(FactError::Unknown)?;
        let bits = fact.data.bits_of(value).ok_or(FactError::Value)?;
        match (fact.kind(), bits) {
            (FactKind::Pulse, 0) => {}
            (FactKind::Pulse, _) => self.set_off(fact.slot),
            _ => self.set_bits(fact.slot, bits),
        }
        Ok(())
    }

    /// The value of a fact by its name, for tools; of a pulse, whether it is up. `None` where the role has
    /// no such fact.
    #[must_use]
    pub fn value_by_name(&self, reel: &Reel, name: &str) -> Option<FactValue> {
        let fact = reel.role(self.role())?.facts().find(|fact| fact.name() == name)?;
        if fact.kind() == FactKind::Pulse {
            let bit = 1_u32.checked_shl(u32::from(fact.slot)).unwrap_or(0);
            return Some(FactValue::Flag(self.pulses & bit != 0));
        }
        self.facts.get(usize::from(fact.slot)).map(|bits| fact.data.value_of(*bits))
    }

    /// Whether setting a fact to this value would change nothing.
    #[inline]
    pub(crate) fn is_already<T: FactType>(&self, fact: FactId<T>, value: T) -> bool {
        T::KIND != FactKind::Pulse
            && fact.role == self.role()
            && value.to_bits(fact.role, fact.slot)
                == self.facts.get(usize::from(fact.slot)).copied()
    }

    /// Sets a fact's bits; setting an equal value is no change.
    pub(super) fn set_bits(&mut self, slot: u8, bits: u32) {
        let fact = &mut self.facts[usize::from(slot) % crate::cue::MOST_FACTS];
        if *fact != bits {
            *fact = bits;
            self.set_flag(DIRTY, true);
        }
    }

    /// Sets off a pulse; how long it is up is filled in when it is looked at.
    pub(super) fn set_off(&mut self, slot: u8) {
        let bit = 1_u32.checked_shl(u32::from(slot)).unwrap_or(0);
        self.pulses |= bit;
        self.fresh |= bit;
        self.facts[usize::from(slot) % crate::cue::MOST_FACTS] = 0;
        self.set_flag(DIRTY, true);
    }

    /// Sets which way it faces. Cues are evaluated with it at the start of the next advance.
    pub fn set_facing(&mut self, facing: Facing) {
        if self.facing != facing {
            self.facing = facing;
            self.set_flag(DIRTY, true);
        }
    }

    /// Which way it faces.
    #[must_use]
    pub fn facing(&self) -> Facing {
        self.facing
    }

    /// Puts on a look, over the others.
    ///
    /// # Errors
    /// When four are worn already, or the reel has no such look.
    pub fn wear(&mut self, reel: &Reel, look: LookId) -> Result<(), LookError> {
        self.looks.wear(reel, look)
    }

    /// Takes a look off.
    pub fn take_off(&mut self, look: LookId) {
        self.looks.take_off(look);
    }

    pub(crate) fn set_looks(&mut self, looks: LookSet) {
        self.looks = looks;
    }

    /// The looks that it wears.
    #[must_use]
    pub fn looks(&self) -> LookSet {
        self.looks
    }

    /// Sets how fast it plays; what a cue's fact says comes on top of it.
    pub fn set_speed(&mut self, reel: &Reel, speed: Speed) {
        let inside = self.inside(reel);
        self.speed = speed;
        self.apply_speed(reel);
        // What has not begun shows its other end when it is turned, which may lie in a span.
        if self.inside(reel) != inside {
            self.set_flag(DIRTY, true);
        }
    }

    /// Pauses until [`resume`](Actor::resume). Cues are still evaluated.
    pub fn pause(&mut self) {
        self.player.pause();
    }

    /// Resumes after a pause.
    pub fn resume(&mut self) {
        self.player.resume();
    }

    /// Freezes what it plays, as [`Player::hit_stop`]. Cues are still evaluated.
    pub fn hit_stop(&mut self, time: Ticks) {
        self.player.hit_stop(time);
    }

    /// Mirrors it left to right about its pivot, in addition to what its facing does.
    pub fn set_flip_x(&mut self, flipped: bool) {
        self.player.set_flip_x(flipped);
    }

    /// Mirrors it top to bottom about its pivot.
    pub fn set_flip_y(&mut self, flipped: bool) {
        self.player.set_flip_y(flipped);
    }

    /// The player inside, to read.
    #[must_use]
    pub fn player(&self) -> &Player {
        &self.player
    }

    /// Whether its player is inside this span now: see [`Player::in_span`].
    #[must_use]
    pub fn in_span(&self, reel: &Reel, span: SpanId) -> bool {
        self.player.in_span(reel, span)
    }

    /// Its role.
    #[must_use]
    pub fn role(&self) -> RoleId {
        RoleId::new(self.player.family, self.role)
    }

    /// The cue in charge; during a bridge, the one before it. `None` before the first advance.
    #[must_use]
    pub fn cue(&self) -> Option<CueId> {
        (self.cue != NONE).then(|| CueId::new(self.player.family, self.cue))
    }

    /// The bridge in charge, if there is one.
    #[must_use]
    pub fn bridge(&self) -> Option<BridgeId> {
        self.is_bridging().then(|| BridgeId::new(self.player.family, self.bridge))
    }

    /// What to draw now, in the looks that it wears; `None` when there is nothing.
    #[must_use]
    pub fn view<'r>(&self, reel: &'r Reel) -> Option<View<'r>> {
        if self.looks.is_empty() {
            return self.player.view(reel);
        }
        self.player.view_with(reel, &self.looks)
    }

    /// The frame shown, in the looks that it wears, with its flips, in four bytes.
    #[must_use]
    pub fn packed_frame(&self, reel: &Reel) -> PackedFrame {
        self.view(reel).map_or(PackedFrame::NOTHING, |view| view.packed_frame())
    }
}
