//! Clips that keep in step.

use alloc::string::ToString;
use alloc::vec::Vec;

use super::super::{Fault, Refuse};
use crate::cue::PhaseData;
use crate::facing::Align;
use crate::ids::ClipId;
use crate::reel::{ReelBuilder, ReelData};

pub(super) fn add(builder: &ReelBuilder, data: &mut ReelData, faults: &mut Vec<Fault>) {
    for added in &builder.phases {
        let mut refuse =
            Refuse { table: "phases", role: added.role.clone(), name: added.name.clone(), faults };
        let names = &data.names.clips;
        let mut clips = Vec::new();
        for (nth, wanted) in added.new.clips.iter().enumerate() {
            let fits = |name: &str| match wanted.strip_suffix('*') {
                Some(start) => name.starts_with(start),
                None => name == wanted,
            };
            let mine = names.alive().filter(|(_, name)| name.role == added.role);
            let found: Vec<ClipId> = mine
                .filter(|(_, name)| fits(&name.name))
                .map(|(id, _)| ClipId::new(names.family, id as u16))
                .collect();
            if found.is_empty() {
                refuse.say_unknown("clips", Some(nth), "clip", wanted, names);
            }
            clips.extend(found);
        }
        if added.new.align == Align::Start {
            let problem = "clips in step keep their place".to_string();
            refuse.say("align", None, problem, "use \"time\" or \"hold\"");
        }
        let (role, name) = (added.role.clone(), added.name.clone());
        data.phases.push(PhaseData { role, name, clips, align: added.new.align });
    }
}
