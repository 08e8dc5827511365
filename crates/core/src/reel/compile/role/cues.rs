//! Cues and bridges.

use alloc::string::String;
use alloc::vec::Vec;

use super::super::report::{CUE, site_of};
use super::RoleCompiler;
use crate::cue::{AllOf, BridgeData, CueData, FactData, NewCue, NewSpeed, SpeedBy, Test};
use crate::ids::{BridgeId, CueId};
use crate::reel::builder::Added;
use crate::reel::{Key, ProblemKind, Section, Site};

impl RoleCompiler<'_> {
    pub(super) fn cue(
        &mut self,
        site: &Site,
        added: &Added<NewCue>,
        facts: &[Option<FactData>],
    ) -> Option<CueData> {
        let new = &added.new;
        let before = self.report.problems.len();
        let target = self.target(site, &new.target);
        let mut when = Vec::new();
        for (nth, condition) in new.when.iter().enumerate() {
            let several = (new.when.len() > 1).then_some(nth);
            when.push(self.condition(site, several, condition, facts));
        }
        let mut begin = Vec::new();
        for (nth, (from, hold)) in new.begin.iter().enumerate() {
            let cue = self.other_cue(site, Key::StartAtFrom, nth, from);
            let shortest = target.and_then(|target| self.shortest(target));
            match (cue, shortest) {
                (Some(_), Some(count)) if *hold as usize >= count => {
                    let kind = ProblemKind::NoHold { hold: *hold, count };
                    self.report.at(site).say(Key::StartAtHold, Some(nth), kind);
                }
                (Some(cue), _) => begin.push((cue, *hold as u16)),
                _ => {}
            }
        }
        if new.finish && !target.is_none_or(|target| self.is_finite(target)) {
            self.report.at(site).say(Key::Finish, None, ProblemKind::FinishEndless);
        }
        let speed = match &new.speed {
            None => None,
            Some(NewSpeed::Factor(fact)) => {
                self.number(site, Key::SpeedFact, fact, facts).map(SpeedBy::Factor)
            }
            Some(NewSpeed::Distance(fact)) => {
                let covers = target.is_none_or(|target| self.covers_ground(target));
                if !covers {
                    self.report.at(site).say(Key::SpeedDistance, None, ProblemKind::NoDistance);
                }
                self.number(site, Key::SpeedDistance, fact, facts).map(SpeedBy::Distance)
            }
        };
        let pulses = when.iter().flatten().flatten().fold(0, |pulses, test| match test {
            Test::Flag { slot, pulse: true, .. } => pulses | 1 << slot,
            _ => pulses,
        });
        let id = CueId::new(self.data.names.family, added.id);
        let NewCue { turns, finish, restart, .. } = *new;
        let when: Option<Vec<AllOf>> = when.into_iter().collect();
        let sound = self.report.problems.len() == before;
        let (target, when) = (target?, when?);
        sound.then_some(CueData { id, when, target, turns, finish, restart, begin, speed, pulses })
    }

    fn other_cue(&mut self, site: &Site, key: Key, nth: usize, cue: &str) -> Option<CueId> {
        let found =
            self.mine(&self.builder.cues, &self.lists.cues).find(|(_, known)| known.name == cue);
        if found.is_none() {
            self.report.at(site).say_unknown(key, Some(nth), CUE, cue, &self.data.names.cues);
        }
        found.map(|(_, cue)| CueId::new(self.builder.names.family, cue.id))
    }

    pub(super) fn bridges(&mut self) -> Vec<BridgeData> {
        let (builder, mut bridges) = (self.builder, Vec::new());
        for (nth, added) in self.mine(&builder.bridges, &self.lists.bridges) {
            let site = &site_of(Section::Bridges, nth, added);
            let target = self.target(site, &added.new.target);
            let mut cues = |key: Key, names: &[String]| -> Vec<CueId> {
                let found = names.iter().enumerate();
                found.filter_map(|(nth, cue)| self.other_cue(site, key.clone(), nth, cue)).collect()
            };
            let (from, to) = (cues(Key::From, &added.new.from), cues(Key::To, &added.new.to));
            if target.is_some_and(|target| !self.is_finite(target)) {
                self.report.at(site).say(Key::Play, None, ProblemKind::BridgeEndless);
            }
            let empty = if added.new.from.is_empty() { Key::From } else { Key::To };
            if added.new.from.is_empty() || added.new.to.is_empty() {
                self.report.at(site).say(empty, None, ProblemKind::BridgeOpen);
            }
            let (id, turns) = (BridgeId::new(builder.names.family, added.id), added.new.turns);
            bridges.extend(target.map(|target| BridgeData { id, target, turns, from, to }));
        }
        bridges
    }
}
