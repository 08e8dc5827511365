//! Roles: facts, cues, bridges and phases.

mod conditions;
mod cues;
mod facts;
mod marks;
mod phases;
mod targets;

use alloc::format;
use alloc::string::{String, ToString};
use alloc::vec::Vec;

use super::{Fault, Refuse};
use crate::cue::{NewCue, RoleData};
use crate::ids::SpanId;
use crate::reel::builder::Added;
use crate::reel::{ReelBuilder, ReelData};

const MOST_CUES: usize = 1_000;

pub(super) fn compile(builder: &ReelBuilder, data: &mut ReelData, faults: &mut Vec<Fault>) {
    let mut roles: Vec<&str> = Vec::new();
    let of_cues = builder.cues.iter().map(|cue| &*cue.role);
    for role in of_cues.chain(builder.facts.iter().map(|fact| &*fact.role)) {
        if !roles.contains(&role) {
            roles.push(role);
        }
    }
    for role in roles {
        let Some(id) = data.names.roles.add("", role) else { continue };
        let mut compiler = RoleCompiler { role, builder, data, faults, spans: Vec::new() };
        let compiled = compiler.compile();
        let index = usize::from(id);
        if data.roles.len() <= index {
            data.roles.resize_with(index + 1, || None);
        }
        data.roles[index] = Some(compiled);
    }
    let clips =
        builder.clips.iter().enumerate().filter_map(|(id, clip)| Some((id, clip.as_ref()?)));
    for (id, clip) in clips.filter(|(_, clip)| !clip.sets.is_empty()) {
        let role = data.names.clips.get(id).map_or("", |name| &name.role);
        let known = data.names.roles.find("", role);
        if known.and_then(|id| data.names.roles.get(usize::from(id))).is_none() {
            let mut refuse = Refuse::new("clips", &data.names.clips, id, faults);
            let key = format!("marks.{}.set", clip.sets[0].0);
            let problem = "a mark sets a fact, and the role has none".to_string();
            refuse.say(&key, None, problem, "add the fact: [facts]");
        }
    }
    phases::add(builder, data, faults);
}

struct RoleCompiler<'a> {
    role: &'a str,
    builder: &'a ReelBuilder,
    data: &'a mut ReelData,
    faults: &'a mut Vec<Fault>,
    /// The spans that cues name so far.
    spans: Vec<SpanId>,
}

impl RoleCompiler<'_> {
    fn compile(&mut self) -> RoleData {
        let (facts, defaults) = self.facts();
        let mine = |cue: &&Added<NewCue>| cue.role == self.role;
        let cues: Vec<&Added<NewCue>> = self.builder.cues.iter().filter(mine).collect();
        let mut role =
            RoleData { facts, defaults, cues: Vec::new(), bridges: Vec::new(), spans: Vec::new() };
        for cue in &cues {
            let compiled = self.cue(cue, &role.facts);
            role.cues.extend(compiled);
        }
        match cues.last() {
            Some(last) if !last.new.when.is_empty() => {
                let problem = "the last cue does not hold always".to_string();
                let remedy = "leave out its `when`, or add a last cue without one, such as resting";
                self.refuse("cues", &last.name).say("when", None, problem, remedy);
            }
            Some(_) => {}
            None => {
                let first = self.builder.facts.iter().find(|fact| fact.role == self.role);
                let name = first.map_or_else(String::new, |fact| fact.name.clone());
                let problem = "the role has facts and no cues".to_string();
                self.refuse("facts", &name).say("", None, problem, "add a cue: [[cues]]");
            }
        }
        if cues.len() > MOST_CUES {
            let problem = format!("{} cues; a role has at most {MOST_CUES}", cues.len());
            self.refuse("cues", &cues[0].name).say("", None, problem, "use fewer");
        }
        role.bridges = self.bridges();
        role.spans = core::mem::take(&mut self.spans);
        self.watch(&role.spans);
        self.mark_sets(&role.facts);
        role
    }

    fn refuse(&mut self, table: &'static str, name: &str) -> Refuse<'_> {
        let (role, name) = (self.role.to_string(), name.to_string());
        Refuse { table, role, name, faults: self.faults }
    }
}
