//! One evaluation of the cues: which one wins, and what becomes of it.

use super::state::{Actor, DIRTY, DONE, LOOPED, OVER_CUES, OWES_TURN, TURNED};
use crate::cue::{BridgeData, CueData, CueTarget, RoleData, SpeedBy, facing_for};
use crate::facing::Facing;
use crate::ids::{BridgeId, ClipId, CueId, NONE};
use crate::reel::Reel;
use crate::time::{Speed, Ticks};

/// What an evaluation has led to.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum Evaluation {
    /// What plays goes on; its facing and its speed may have changed.
    Nothing,
    /// This cue begins, or starts over.
    Cue(CueId),
    /// This bridge begins.
    Bridge(BridgeId),
    /// There have been as many changes in this instant as there are cues.
    CueLoop,
}

/// What is to be done.
enum Decision<'r> {
    Stay,
    /// The bridge that plays leads to this cue now.
    Retarget(&'r CueData),
    Begin(&'r CueData),
    Bridge(&'r BridgeData, &'r CueData),
}

impl Actor {
    /// The spans that cues name in which it stands, by their bits. Before the first cue nothing plays.
    pub(super) fn inside(&self, reel: &Reel) -> u32 {
        if self.cue == NONE && !self.plays_over_cues() { 0 } else { self.player.watched(reel) }
    }

    /// Evaluates the cues once.
    pub(super) fn evaluate(&mut self, reel: &Reel, role: &RoleData) -> Evaluation {
        self.set_flag(DIRTY, false);
        let decision = self.decide(role, self.inside(reel));
        self.fresh = 0;
        let changes = matches!(decision, Decision::Begin(_) | Decision::Bridge(..));
        if changes && usize::from(self.changes) >= role.cues.len() {
            self.set_flag(LOOPED, true);
            return Evaluation::CueLoop;
        }
        self.changes += u16::from(changes);
        match decision {
            Decision::Begin(cue) => {
                self.begin(reel, role, cue);
                Evaluation::Cue(cue.id)
            }
            Decision::Bridge(bridge, target) => {
                self.target = target.id.number;
                self.bridge = bridge.id.number;
                self.start(reel, role, bridge.target, None, false);
                Evaluation::Bridge(bridge.id)
            }
            Decision::Retarget(cue) => {
                self.target = cue.id.number;
                self.go_on(reel, role);
                Evaluation::Nothing
            }
            Decision::Stay => {
                self.go_on(reel, role);
                Evaluation::Nothing
            }
        }
    }

    fn decide<'r>(&self, role: &'r RoleData, inside: u32) -> Decision<'r> {
        let Some(winner) = role.winner(&self.circumstances(inside)) else { return Decision::Stay };
        let done = self.has(DONE);
        if self.plays_over_cues() {
            let breaks_in =
                self.yields_to != NONE && role.is_above(winner.id.number, self.yields_to);
            return if done || breaks_in { Decision::Begin(winner) } else { Decision::Stay };
        }
        if self.is_bridging() {
            // `finish` covers the bridge into its cue.
            let target = role.cue(self.target);
            let covered = target
                .filter(|target| target.finish && !role.is_above(winner.id.number, self.target));
            let next = covered.unwrap_or(winner);
            let same_bridge = |bridge: &BridgeData| bridge.id.number == self.bridge;
            return if done {
                Decision::Begin(next)
            } else if next.id.number == self.target {
                Decision::Stay
            } else if role.bridge_between(self.cue, next.id.number).is_some_and(same_bridge) {
                Decision::Retarget(next)
            } else {
                Decision::Begin(next)
            };
        }
        let Some(cue) = role.cue(self.cue) else { return Decision::Begin(winner) };
        if winner.id == cue.id {
            let again = cue.restart && self.fresh & cue.pulses != 0;
            return if again { Decision::Begin(cue) } else { Decision::Stay };
        }
        if cue.finish && !done && !role.is_above(winner.id.number, self.cue) {
            return Decision::Stay;
        }
        match role.bridge_between(self.cue, winner.id.number) {
            Some(bridge) => Decision::Bridge(bridge, winner),
            None => Decision::Begin(winner),
        }
    }

    fn begin(&mut self, reel: &Reel, role: &RoleData, cue: &CueData) {
        let again = self.cue == cue.id.number;
        // What has played over the cues is no cue that one follows.
        let from = if self.plays_over_cues() { NONE } else { self.cue };
        self.cue = cue.id.number;
        (self.bridge, self.target, self.yields_to) = (NONE, NONE, NONE);
        self.set_flag(OVER_CUES, false);
        for slot in 0..self.facts.len() {
            if self.pulses & cue.pulses & 1 << slot != 0 {
                self.facts[slot] = 0;
            }
        }
        self.pulses &= !cue.pulses;
        self.start(reel, role, cue.target, cue.hold_after(from), again);
    }

    /// Starts what plays from now on: at a hold, in step with what has played, or at its beginning.
    fn start(
        &mut self,
        reel: &Reel,
        role: &RoleData,
        target: CueTarget,
        hold: Option<u16>,
        again: bool,
    ) {
        self.set_flag(DONE, false);
        self.begun_facing = self.facing;
        let Some(clip) = self.clip_of(reel, target, self.facing) else { return };
        // How often to play, and what follows, was said of what has played.
        self.player.forget_plan(reel);
        let playing = self.player.clip();
        let goes_on = hold.is_none() && !again && !self.player.has_ended();
        match reel.in_phase(playing, clip).filter(|_| goes_on && self.player.belongs_to(reel)) {
            Some(_) if playing == clip && self.player.requested_clip() == clip => {}
            Some(align) => self.player.take_place(reel, clip.number, align),
            None => {
                self.player.play(reel, clip);
            }
        }
        // What begins has no turn behind it.
        self.set_flag(TURNED, false);
        self.apply_speed_of(reel, role);
        self.set_flag(TURNED, false);
        if let Some(hold) = hold {
            self.player.seek_hold(reel, u32::from(hold));
        }
    }

    /// What plays goes on, in its facing of now and at its speed of now.
    fn go_on(&mut self, reel: &Reel, role: &RoleData) {
        let plays = match role.bridge(self.bridge).filter(|_| self.is_bridging()) {
            Some(bridge) => Some((bridge.target, bridge.turns)),
            None => role.cue(self.cue).map(|cue| (cue.target, cue.turns)),
        };
        let plays = plays.filter(|_| !self.plays_over_cues());
        if let Some((CueTarget::Facings(set), turns)) = plays {
            let facing = facing_for(turns, self.facing, self.begun_facing);
            if let Some(set) = reel.facing_set(set) {
                self.player.turn_to(reel, set.clip(facing), facing, set.align);
            }
        }
        self.apply_speed_of(reel, role);
    }

    /// The clip of a target for a facing.
    pub(super) fn clip_of(&self, reel: &Reel, target: CueTarget, facing: Facing) -> Option<ClipId> {
        match target {
            CueTarget::Clip(clip) => Some(clip),
            CueTarget::Facings(set) => reel.facing_data(set).map(|set| set.clip(facing)),
        }
    }

    pub(super) fn apply_speed(&mut self, reel: &Reel) {
        if let Some(role) = self.role_in(reel) {
            self.set_flag(TURNED, false);
            self.apply_speed_of(reel, role);
        }
    }

    /// Plays as fast as the game and the cue's fact say.
    ///
    /// Marks that turn a clip to and fro over one boundary would never let time pass: of two turns in one
    /// instant the second waits for the next boundary.
    pub(super) fn apply_speed_of(&mut self, reel: &Reel, role: &RoleData) {
        let speed = self.wanted_speed(reel, role);
        let turns = speed.is_negative() != self.player.speed().is_negative();
        let waits = turns && self.has(TURNED);
        self.set_flag(OWES_TURN, waits);
        if !waits {
            self.player.set_speed(speed);
            self.set_flag(TURNED, turns || self.has(TURNED));
        }
    }

    /// The speed that the game has set, times what the cue's fact says.
    pub(super) fn wanted_speed(&self, reel: &Reel, role: &RoleData) -> Speed {
        let by_cue = !self.is_bridging() && !self.plays_over_cues();
        let by = role.cue(self.cue).filter(|_| by_cue).and_then(|cue| cue.speed);
        let number = |slot: u8| f64::from(f32::from_bits(self.facts[usize::from(slot)]));
        let factor = match by {
            None => return self.speed,
            Some(SpeedBy::Factor(slot)) => number(slot),
            Some(SpeedBy::Distance(slot)) => {
                // Units for a 65,536th of a pixel, times pixels a second, over units a second.
                // Of the cue's own clip, also when its chain has gone on.
                let clip = reel.clip_at(self.player.requested);
                let units = clip.map_or(0, |clip| clip.units_for_ground) as f64;
                number(slot) * units / Ticks::PER_SECOND as f64
            }
        };
        Speed::nearest(factor * self.speed.to_f64())
    }
}
