//! What cues and bridges play.

use alloc::vec::Vec;

use super::super::report::{CLIP, FACINGS};
use super::RoleCompiler;
use crate::clip::{ClipData, Mode};
use crate::cue::{CueTarget, NewTarget};
use crate::ids::{ClipId, FacingSetId};
use crate::reel::{Key, ProblemKind, Site};

impl RoleCompiler<'_> {
    pub(super) fn target(&mut self, site: &Site, target: &NewTarget) -> Option<CueTarget> {
        let names = &self.data.names;
        let (what, key, wanted, names) = match target {
            NewTarget::Clip(clip) => (CLIP, Key::Play, clip, &names.clips),
            NewTarget::Facings(set) => (FACINGS, Key::PlayFacings, set, &names.facings),
        };
        let (role, short) = wanted.split_once('/').unwrap_or((self.role, wanted));
        let Some(id) = names.find_alive(role, short) else {
            let sets = &self.data.names.facings;
            if what == CLIP && sets.find_alive(role, short).is_some() {
                self.report.at(site).say(key, None, ProblemKind::FacingSet(wanted.clone()));
            } else {
                self.report.at(site).say_unknown(key, None, what, wanted, names);
            }
            return None;
        };
        Some(match target {
            NewTarget::Clip(_) => CueTarget::Clip(ClipId::new(names.family, id)),
            NewTarget::Facings(_) => CueTarget::Facings(FacingSetId::new(names.family, id)),
        })
    }

    /// The clips that a target may play.
    pub(super) fn clips_of(&self, target: CueTarget) -> Vec<&ClipData> {
        let ids = match target {
            CueTarget::Clip(clip) => [clip].into(),
            CueTarget::Facings(set) => {
                let set = self.data.facings.get(set.index()).and_then(Option::as_ref);
                set.map_or_else(Vec::new, |set| set.clips.to_vec())
            }
        };
        ids.iter().filter_map(|id| self.data.clips.get(id.index())?.as_ref()).collect()
    }

    pub(super) fn is_finite(&self, target: CueTarget) -> bool {
        self.clips_of(target).iter().all(|clip| clip.repeat > 0 || clip.mode == Mode::Once)
    }

    pub(super) fn covers_ground(&self, target: CueTarget) -> bool {
        self.clips_of(target).iter().all(|clip| clip.units_for_ground > 0)
    }

    /// How many holds the shortest clip of a target has.
    pub(super) fn shortest(&self, target: CueTarget) -> Option<usize> {
        self.clips_of(target).iter().map(|clip| clip.holds.len()).min()
    }
}
