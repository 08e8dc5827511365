//! What the game tells an actor, and what can be asked of it.

use super::state::{Actor, DIRTY};
use crate::checksum::Checksum;
use crate::command_error::CommandError;
use crate::cue::{FactId, FactKind, FactType, FactValue};
use crate::event::Event;
use crate::facing::Facing;
use crate::ids::{BridgeId, CueId, LookId, NONE, RoleId};
use crate::play::Player;
use crate::reel::Reel;
use crate::sheet::{Flips, PackedFrame};
use crate::time::{Speed, Ticks};
use crate::view::{LookSet, View};

impl Actor {
    /// Sets a fact. Cues are evaluated with all changes together at the start of the next
    /// advance. Setting the value that a fact already has changes nothing.
    ///
    /// # Errors
    /// When the fact is of another reel or role; when a number is not finite, or the choice is another
    /// fact's.
    pub fn set<T: FactType>(&mut self, fact: FactId<T>, value: T) -> Result<(), CommandError> {
        if fact.role != self.role() {
            let is_of_reel = fact.role.family == self.player.family;
            return Err(if is_of_reel { CommandError::OtherRole } else { CommandError::UnknownId });
        }
        let bits = value.to_bits(fact.role, fact.slot).ok_or(CommandError::Value)?;
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
    /// # use lucky_reel_core::{CueId, RoleId, Actor, Grid, Mode, NewClip, NewCue, NewFact, NewSheet, Reel, Ticks, Condition};
    /// # let mut builder = Reel::builder();
    /// # let sheet = builder.sheet("bram", NewSheet::grid([128, 32], Grid::cell_size([32, 32])));
    /// # builder.clip("idle", NewClip::of(sheet).frames([0]));
    /// # builder.clip("stumble", NewClip::of(sheet).frames(0..4).fps(10).mode(Mode::Once));
    /// builder.fact("hurt", NewFact::pulse());
    /// builder.cue("hurt", NewCue::play("stumble").when(Condition::new().fact("hurt", true)).finish());
    /// builder.cue("resting", NewCue::play("idle"));
    /// let reel = builder.build()?;
    /// let mut bram = Actor::new(&reel, reel.id("")?);
    /// bram.pulse(reel.id("hurt")?)?;
    /// bram.advance(&reel, Ticks::from_millis(300));
    /// assert_eq!(bram.cue(), Some(reel.id::<CueId>("hurt")?)); // long fallen, and it runs to its end
    /// bram.advance(&reel, Ticks::from_millis(300));
    /// assert_eq!(bram.cue(), Some(reel.id::<CueId>("resting")?));
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn pulse(&mut self, fact: FactId<()>) -> Result<(), CommandError> {
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
    ) -> Result<(), CommandError> {
        let role = reel.role(self.role()).ok_or(CommandError::UnknownId)?;
        let fact = role.facts().find(|fact| fact.name == name).ok_or(CommandError::UnknownId)?;
        let bits = fact.data.bits_of(value).ok_or(CommandError::Value)?;
        match (fact.data.kind, bits) {
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
        let fact = reel.role(self.role())?.facts().find(|fact| fact.name == name)?;
        if fact.data.kind == FactKind::Pulse {
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
        let fact = &mut self.facts[usize::from(slot) % crate::cue::MAX_FACTS];
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
        self.facts[usize::from(slot) % crate::cue::MAX_FACTS] = 0;
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
    /// When four are worn already, or the reel does not know the look.
    pub fn wear(&mut self, reel: &Reel, look: LookId) -> Result<(), CommandError> {
        self.looks.wear(reel, look)
    }

    /// Takes a look off; `false` where it is not worn.
    pub fn take_off(&mut self, look: LookId) -> bool {
        self.looks.take_off(look)
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

    /// Pauses what it plays, or goes on. Cues are evaluated in a pause, too.
    pub fn set_paused(&mut self, paused: bool) {
        self.player.set_paused(paused);
    }

    /// Freezes what it plays, as [`Player::hit_stop`]. Cues are still evaluated.
    pub fn hit_stop(&mut self, time: Ticks) {
        self.player.hit_stop(time);
    }

    /// Mirrors it about its pivot, in addition to what its facing does.
    pub fn set_flips(&mut self, flips: Flips) {
        self.player.set_flips(flips);
    }

    /// The player inside, to read: its clip, hold, spans, speed and so on.
    #[must_use]
    pub fn player(&self) -> &Player {
        &self.player
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
        self.view(reel).map_or(PackedFrame::NOTHING, |view| PackedFrame::of(view.id, view.flips))
    }

    /// What was shown at the moment of an event of its last advance, in the looks that it wears; `None`
    /// where the reel does not know the event's clip.
    #[must_use]
    pub fn view_at<'r>(&self, reel: &'r Reel, event: &Event) -> Option<View<'r>> {
        event.view(reel, self.player.flips(), &self.looks)
    }

    /// A number that is the same on every machine for actors that behave identically from here on.
    #[must_use]
    pub fn checksum(&self, reel: &Reel) -> u64 {
        let mut sum = Checksum::default();
        self.add_to(reel, &mut sum);
        sum.get()
    }

    pub(crate) fn add_to(&self, reel: &Reel, sum: &mut Checksum) {
        let mut actor = *self;
        actor.rebind(reel);
        actor.player.add_to(reel, sum);
        actor.looks.add_to(reel, sum);
        let names = &reel.data.names;
        sum.add(names.roles.sum(actor.role));
        for cue in [actor.cue, actor.target, actor.yields_to] {
            sum.add(names.cues.sum(cue));
        }
        sum.add(names.bridges.sum(actor.bridge));
        sum.add_pair(actor.pulses, actor.fresh);
        sum.add_pair(actor.speed.to_bits() as u32, u32::from(actor.changes));
        let [facing, begun] = [actor.facing as u32, actor.begun_facing as u32];
        sum.add_pair(facing << 8 | begun, u32::from(actor.flags));
        actor.facts.chunks(2).for_each(|pair| sum.add_pair(pair[0], pair[1]));
    }
}
