//! Cues and bridges.

use alloc::format;
use alloc::string::{String, ToString};
use alloc::vec::Vec;

use super::super::Refuse;
use super::RoleCompiler;
use crate::cue::{BridgeData, Condition, CueData, FactData, NewCue, NewSpeed, SpeedBy, Test};
use crate::ids::{BridgeId, CueId};
use crate::reel::builder::Added;

impl RoleCompiler<'_> {
    pub(super) fn cue(
        &mut self,
        added: &Added<NewCue>,
        facts: &[Option<FactData>],
    ) -> Option<CueData> {
        let new = &added.new;
        let before = self.faults.len();
        let target = self.target("cues", &added.name, &new.target);
        let mut when = Vec::new();
        for (nth, condition) in new.when.iter().enumerate() {
            let several = (new.when.len() > 1).then_some(nth);
            when.push(self.condition(&added.name, several, condition, facts));
        }
        let mut begin = Vec::new();
        for (nth, (from, hold)) in new.begin.iter().enumerate() {
            let cue = self.other_cue("cues", &added.name, "begin.from", nth, from);
            let shortest = target.and_then(|target| self.shortest(target));
            match (cue, shortest) {
                (Some(_), Some(count)) if *hold as usize >= count => {
                    let problem = format!("the clip has no hold {hold}");
                    let remedy = format!("its holds are 0 to {}", count - 1);
                    let mut refuse = self.refuse("cues", &added.name);
                    refuse.say("begin.hold", Some(nth), problem, remedy);
                }
                (Some(cue), _) => begin.push((cue, *hold as u16)),
                _ => {}
            }
        }
        if new.finish && !target.is_none_or(|target| self.is_finite(target)) {
            let problem = "it shall run to the end of a clip that never ends".to_string();
            let remedy = "leave out `finish`, or give the clip mode \"once\" or `repeat`";
            self.refuse("cues", &added.name).say("finish", None, problem, remedy);
        }
        let speed = match &new.speed {
            None => None,
            Some(NewSpeed::Factor(fact)) => {
                self.number(&added.name, "speed.fact", fact, facts).map(SpeedBy::Factor)
            }
            Some(NewSpeed::Ground(fact)) => {
                let covers = target.is_none_or(|target| self.covers_ground(target));
                if !covers {
                    let problem = "the clip does not say what ground it covers".to_string();
                    let remedy = "give the clip `covers`, the pixels that a cycle covers";
                    self.refuse("cues", &added.name).say("speed.ground", None, problem, remedy);
                }
                self.number(&added.name, "speed.ground", fact, facts).map(SpeedBy::Ground)
            }
        };
        let pulses = when.iter().flatten().flatten().fold(0, |pulses, test| match test {
            Test::Flag { slot, pulse: true, .. } => pulses | 1 << slot,
            _ => pulses,
        });
        let id = CueId::new(self.data.names.family, added.id);
        let NewCue { turns, finish, again, .. } = *new;
        let when: Option<Vec<Condition>> = when.into_iter().collect();
        let sound = self.faults.len() == before;
        let (target, when) = (target?, when?);
        sound.then_some(CueData { id, when, target, turns, finish, again, begin, speed, pulses })
    }

    pub(super) fn other_cue(
        &mut self,
        table: &'static str,
        name: &str,
        key: &str,
        nth: usize,
        cue: &str,
    ) -> Option<CueId> {
        let builder = self.builder;
        let mut mine = builder.cues.iter().filter(|known| known.role == self.role);
        let found = mine.find(|known| known.name == cue);
        if found.is_none() {
            let (role, name) = (self.role.to_string(), name.to_string());
            let mut refuse = Refuse { table, role, name, faults: self.faults };
            refuse.say_unknown(key, Some(nth), "cue", cue, &self.data.names.cues);
        }
        found.map(|cue| CueId::new(builder.names.family, cue.id))
    }

    pub(super) fn bridges(&mut self) -> Vec<BridgeData> {
        let (builder, role, mut bridges) = (self.builder, self.role, Vec::new());
        for added in builder.bridges.iter().filter(|bridge| bridge.role == role) {
            let target = self.target("bridges", &added.name, &added.new.target);
            let mut cues = |key: &str, names: &[String]| -> Vec<CueId> {
                let found = names.iter().enumerate();
                let found =
                    found.map(|(nth, cue)| self.other_cue("bridges", &added.name, key, nth, cue));
                found.collect::<Vec<_>>().into_iter().flatten().collect()
            };
            let (from, to) = (cues("from", &added.new.from), cues("to", &added.new.to));
            if target.is_some_and(|target| !self.is_finite(target)) {
                let problem = "a bridge's clip must come to an end".to_string();
                let remedy = "give the clip mode \"once\" or `repeat`";
                self.refuse("bridges", &added.name).say("play", None, problem, remedy);
            }
            let empty = if added.new.from.is_empty() { "from" } else { "to" };
            if added.new.from.is_empty() || added.new.to.is_empty() {
                let problem = "a bridge leads from some cue to some other".to_string();
                let remedy = "name them: from = [\"falling\"], to = [\"resting\"]";
                self.refuse("bridges", &added.name).say(empty, None, problem, remedy);
            }
            let (id, turns) = (BridgeId::new(builder.names.family, added.id), added.new.turns);
            bridges.extend(target.map(|target| BridgeData { id, target, turns, from, to }));
        }
        bridges
    }
}
