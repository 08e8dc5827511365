//! Clips that stay in phase.

use alloc::vec::Vec;

use super::super::report::{CLIP, Report};
use crate::cue::PhaseData;
use crate::facing::Align;
use crate::ids::ClipId;
use crate::reel::{Key, ProblemKind, ReelBuilder, ReelData, Section};

pub(super) fn add(builder: &ReelBuilder, data: &mut ReelData, report: &mut Report) {
    for (nth, added) in builder.phases.iter().enumerate() {
        let mut refuse = report.on(Section::Phases, nth, added);
        let names = &data.names.clips;
        let mut clips = Vec::new();
        for (nth, wanted) in added.new.clips.iter().enumerate() {
            let fits = |name: &str| match wanted.strip_suffix('*') {
                Some(start) => name.starts_with(start),
                None => name == wanted,
            };
            let found: Vec<ClipId> = names
                .alive_in(&added.role)
                .filter(|(_, name)| fits(&name.name))
                .map(|(id, _)| ClipId::new(names.family, id))
                .collect();
            if found.is_empty() {
                refuse.say_unknown(Key::Clips, Some(nth), CLIP, wanted, names);
            }
            clips.extend(found);
        }
        if added.new.align == Align::Start {
            refuse.say(Key::Align, None, ProblemKind::PhaseStart);
        }
        let (role, name) = (added.role.clone(), added.name.clone());
        data.phases.push(PhaseData { role, name, clips, align: added.new.align });
    }
}
