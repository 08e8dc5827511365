//! Roles: facts, cues, bridges and phases.

mod conditions;
mod cues;
mod facts;
mod marks;
mod phases;
mod targets;

use alloc::vec::Vec;

use super::report::{Report, site_of};
use super::{none, put};
use crate::cue::{NewCue, RoleData};
use crate::ids::SpanId;
use crate::order::by_text;
use crate::reel::builder::Added;
use crate::reel::{Key, ProblemKind, ReelBuilder, ReelData, Section};

const MAX_CUES: usize = 1_000;

pub(super) fn compile(builder: &ReelBuilder, data: &mut ReelData, report: &mut Report) {
    let lists = Lists::of(builder);
    let of_cues = builder.cues.iter().map(|cue| &*cue.role);
    let roles = of_cues.chain(builder.facts.iter().map(|fact| &*fact.role));
    data.roles = none(data.names.roles.len());
    for role in roles {
        let Some(id) = data.names.roles.add("", role) else { continue };
        if data.roles.get(usize::from(id)).is_some_and(Option::is_some) {
            continue;
        }
        let compiled =
            RoleCompiler { role, builder, lists: &lists, data, report, spans: Vec::new() }
                .compile();
        put(&mut data.roles, id, Some(compiled));
    }
    for (nth, clip) in builder.clips.iter().enumerate() {
        let known = data.names.roles.find("", &clip.role);
        let has_facts = known.and_then(|id| data.names.roles.get(usize::from(id))).is_some();
        if let (Some((mark, ..)), false) = (clip.new.sets.first(), has_facts) {
            let key = Key::MarkSets(mark.clone());
            report.on(Section::Clips, nth, clip).say(key, None, ProblemKind::NoFacts);
        }
    }
    phases::add(builder, data, report);
}

struct RoleCompiler<'a> {
    role: &'a str,
    builder: &'a ReelBuilder,
    lists: &'a Lists<'a>,
    data: &'a mut ReelData,
    report: &'a mut Report,
    /// The spans that cues name so far.
    spans: Vec<SpanId>,
}

impl<'a> RoleCompiler<'a> {
    fn compile(&mut self) -> RoleData {
        let (facts, defaults) = self.facts();
        let cues: Vec<(usize, &Added<NewCue>)> =
            self.mine(&self.builder.cues, &self.lists.cues).collect();
        let mut role =
            RoleData { facts, defaults, cues: Vec::new(), bridges: Vec::new(), spans: Vec::new() };
        for (nth, cue) in &cues {
            let compiled = self.cue(&site_of(Section::Cues, *nth, cue), cue, &role.facts);
            role.cues.extend(compiled);
        }
        self.check_order(&cues);
        role.bridges = self.bridges();
        role.spans = core::mem::take(&mut self.spans);
        self.watch(&role.spans);
        self.mark_sets(&role.facts);
        role
    }

    /// Facts need cues, and these a last one that always matches; unless some could not be read.
    fn check_order(&mut self, cues: &[(usize, &Added<NewCue>)]) {
        let mut incomplete = self.report.incomplete.iter();
        if incomplete.any(|(section, role, _)| *section == Section::Cues && role == self.role) {
            return;
        }
        match cues.last() {
            Some((nth, last)) if !last.new.when.is_empty() => {
                let mut refuse = self.report.on(Section::Cues, *nth, last);
                refuse.say(Key::When, None, ProblemKind::LastCueConditional);
            }
            Some(_) => {}
            None => {
                let first = self.mine(&self.builder.facts, &self.lists.facts).next();
                if let Some((nth, first)) = first {
                    let mut refuse = self.report.on(Section::Facts, nth, first);
                    refuse.say(None, None, ProblemKind::NoCues);
                }
            }
        }
        if let (Some((nth, last)), true) = (cues.last(), cues.len() > MAX_CUES) {
            let (what, count, max) = ("cues in a role", cues.len(), MAX_CUES);
            let mut refuse = self.report.on(Section::Cues, *nth, last);
            refuse.say(None, None, ProblemKind::TooMany { what, count, max });
        }
    }

    /// What of a list is of this role, with its place there.
    fn mine<T>(
        &self,
        list: &'a [Added<T>],
        by_role: &'a ByRole<'a>,
    ) -> impl Iterator<Item = (usize, &'a Added<T>)> + use<'a, T> {
        by_role.of(self.role).map(move |nth| (nth, &list[nth]))
    }
}

/// Where the things of each role stand in the builder's lists.
struct Lists<'a> {
    clips: ByRole<'a>,
    facts: ByRole<'a>,
    cues: ByRole<'a>,
    bridges: ByRole<'a>,
}

impl<'a> Lists<'a> {
    fn of(builder: &'a ReelBuilder) -> Lists<'a> {
        Lists {
            clips: ByRole::of_list(&builder.clips),
            facts: ByRole::of_list(&builder.facts),
            cues: ByRole::of_list(&builder.cues),
            bridges: ByRole::of_list(&builder.bridges),
        }
    }
}

/// Roles and places in a list, sorted.
struct ByRole<'a>(Vec<(&'a str, usize)>);

impl<'a> ByRole<'a> {
    fn of_list<T>(list: &'a [Added<T>]) -> ByRole<'a> {
        let list = list.iter().enumerate().map(|(nth, added)| (&*added.role, nth)).collect();
        ByRole(by_text(list, |(role, _)| role))
    }

    fn of(&'a self, role: &str) -> impl Iterator<Item = usize> + use<'a> {
        let from = self.0.partition_point(|(known, _)| *known < role);
        let count = self.0[from..].partition_point(|(known, _)| *known == role);
        self.0[from..from + count].iter().map(|(_, nth)| *nth)
    }
}
