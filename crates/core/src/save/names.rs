use alloc::string::{String, ToString};
use alloc::vec::Vec;

use super::RestoreError;
use crate::cue::{FactData, FactKind, RoleData};
use crate::ids::{ClipId, LookId, NONE, RoleId};
use crate::reel::{NameError, Reel};

/// All names of a save, each once: what is saved refers to them by their positions, from 1; 0 is none.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
#[cfg_attr(feature = "serde", serde(deny_unknown_fields))]
#[allow(unreachable_pub)] // a saved thing has one
pub struct SavedNames {
    clips: Vec<String>,
    looks: Vec<String>,
    roles: Vec<SavedRole>,
}

#[derive(Clone, Debug, PartialEq, Eq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
#[cfg_attr(feature = "serde", serde(deny_unknown_fields))]
struct SavedRole {
    name: String,
    facts: Vec<SavedFact>,
    cues: Vec<String>,
    bridges: Vec<String>,
}

#[derive(Clone, Debug, PartialEq, Eq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
#[cfg_attr(feature = "serde", serde(deny_unknown_fields))]
struct SavedFact {
    name: String,
    kind: FactKind,
    choices: Vec<String>,
}

/// Collects names while something is saved.
pub(crate) struct NameWriter<'r> {
    reel: &'r Reel,
    saved: SavedNames,
    /// The position of each clip of the reel.
    clips: Vec<u16>,
    looks: Vec<LookId>,
    roles: Vec<u16>,
}

impl<'r> NameWriter<'r> {
    pub(crate) fn new(reel: &'r Reel) -> NameWriter<'r> {
        let clips = alloc::vec![0; reel.data.clips.len()];
        let saved = SavedNames::default();
        NameWriter { reel, saved, clips, looks: Vec::new(), roles: Vec::new() }
    }

    pub(crate) fn finish(self) -> SavedNames {
        self.saved
    }

    /// The position of a clip; 0 for none, and for one that the reel has lost.
    pub(crate) fn clip(&mut self, clip: u16) -> u16 {
        let known = self.reel.clip_at(clip).and(self.clips.get_mut(usize::from(clip)));
        let Some(place) = known else { return 0 };
        if *place == 0 {
            self.saved.clips.push(self.reel.full_name(ClipId::new(self.reel.family, clip)));
            *place = self.saved.clips.len() as u16;
        }
        *place
    }

    pub(crate) fn look(&mut self, look: LookId) -> u16 {
        let known = self.looks.iter().position(|known| *known == look);
        let at = known.unwrap_or_else(|| {
            self.looks.push(look);
            self.saved.looks.push(self.reel.full_name(look));
            self.looks.len() - 1
        });
        at as u16 + 1
    }

    pub(crate) fn role(&mut self, role: u16) -> u16 {
        let id = RoleId::new(self.reel.family, role);
        let Some(data) = self.reel.role_data(id) else { return 0 };
        let known = self.roles.iter().position(|known| *known == role);
        let at = known.unwrap_or_else(|| {
            let facts = data.facts.iter().flatten().map(|fact| SavedFact {
                name: fact.name.clone(),
                kind: fact.kind,
                choices: fact.choices.clone(),
            });
            let name = |name: &str| name.to_string();
            self.saved.roles.push(SavedRole {
                name: name(self.reel.name(id)),
                facts: facts.collect(),
                cues: data.cues.iter().map(|cue| name(self.reel.name(cue.id))).collect(),
                bridges: data.bridges.iter().map(|one| name(self.reel.name(one.id))).collect(),
            });
            self.roles.push(role);
            self.roles.len() - 1
        });
        at as u16 + 1
    }
}

/// The names of a save, found again in a reel.
#[allow(unreachable_pub)] // a sealed trait names it
pub struct FoundNames<'r> {
    clips: Vec<FoundClip>,
    looks: Vec<Option<LookId>>,
    roles: Vec<Option<FoundRole<'r>>>,
    /// Those that the reel has lost.
    pub(super) missing: Vec<NameError>,
}

/// A clip that the reel still has, or what plays instead.
#[derive(Clone, Copy)]
struct FoundClip {
    number: Option<u16>,
    is_replaced: bool,
}

/// A role that the reel still has, with what it has of its facts, cues and bridges.
pub(crate) struct FoundRole<'r> {
    pub(crate) id: RoleId,
    pub(crate) data: &'r RoleData,
    facts: Vec<Option<FoundFact<'r>>>,
    cues: Vec<u16>,
    bridges: Vec<u16>,
}

pub(crate) struct FoundFact<'r> {
    pub(crate) slot: usize,
    pub(crate) data: &'r FactData,
    choices: Vec<Option<u32>>,
}

impl SavedNames {
    /// Finds all names again; what is missing goes on as the replacement says, where it is a clip.
    pub(super) fn find<'r>(
        &self,
        reel: &'r Reel,
        mut replacement: impl FnMut(&NameError) -> Option<ClipId>,
    ) -> FoundNames<'r> {
        let (names, mut missing) = (&reel.data.names, Vec::new());
        let mut lost = |kind: &'static str, name: String| {
            let one = NameError::gone(kind, name);
            let instead = replacement(&one).and_then(|clip| reel.number_of(clip));
            missing.push(one);
            instead
        };
        let clips = self.clips.iter().map(|name| {
            let found = names.clips.find_saved(name);
            let number = found.or_else(|| lost("clip", name.clone()));
            FoundClip { number, is_replaced: found.is_none() }
        });
        let clips = clips.collect();
        let looks = self.looks.iter().map(|name| {
            let found = names.looks.find_saved(name).map(|id| LookId::new(reel.family, id));
            if found.is_none() {
                lost("look", name.clone());
            }
            found
        });
        let looks = looks.collect();
        let mut roles = Vec::new();
        for saved in &self.roles {
            let id = names.roles.find_saved(&saved.name).map(|id| RoleId::new(reel.family, id));
            let found = id.and_then(|id| {
                let data = reel.role_data(id)?;
                Some(saved.find(reel, id, data, &mut |kind, name| {
                    lost(
                        kind,
                        if saved.name.is_empty() { name } else { saved.name.clone() + "/" + &name },
                    );
                }))
            });
            if found.is_none() {
                lost("role", saved.name.clone());
            }
            roles.push(found);
        }
        FoundNames { clips, looks, roles, missing }
    }
}

impl SavedRole {
    fn find<'r>(
        &self,
        reel: &Reel,
        id: RoleId,
        data: &'r RoleData,
        lost: &mut impl FnMut(&'static str, String),
    ) -> FoundRole<'r> {
        let mut facts = Vec::new();
        for saved in &self.facts {
            let found = (0..).zip(&data.facts).find_map(|(slot, fact)| {
                let fact = fact.as_ref()?;
                let is_same = fact.name == saved.name && fact.kind == saved.kind;
                is_same.then_some((slot, fact))
            });
            if found.is_none() {
                lost("fact", saved.name.clone());
            }
            facts.push(found.map(|(slot, data)| {
                let choice = |word: &String| {
                    let at = data.choices.iter().position(|known| known == word);
                    if at.is_none() {
                        lost("choice", saved.name.clone() + " = " + word);
                    }
                    at.map(|at| at as u32)
                };
                let choices = saved.choices.iter().map(choice).collect();
                FoundFact { slot, data, choices }
            }));
        }
        let mut cues = Vec::new();
        for name in &self.cues {
            let found = data.cues.iter().find(|cue| reel.name(cue.id) == name);
            if found.is_none() {
                lost("cue", name.clone());
            }
            cues.push(found.map_or(NONE, |cue| cue.id.number));
        }
        let mut bridges = Vec::new();
        for name in &self.bridges {
            let found = data.bridges.iter().find(|bridge| reel.name(bridge.id) == name);
            if found.is_none() {
                lost("bridge", name.clone());
            }
            bridges.push(found.map_or(NONE, |bridge| bridge.id.number));
        }
        FoundRole { id, data, facts, cues, bridges }
    }
}

/// What stands at a position from 1; `None` at 0.
fn at<T>(list: &[T], position: u16) -> Result<Option<&T>, RestoreError> {
    match usize::from(position).checked_sub(1) {
        None => Ok(None),
        Some(at) => list.get(at).map(Some).ok_or(RestoreError::Damaged),
    }
}

impl<'r> FoundNames<'r> {
    /// The clip at a position; `None` for none, and where it is lost.
    pub(crate) fn clip(&self, position: u16) -> Result<Option<u16>, RestoreError> {
        Ok(at(&self.clips, position)?.and_then(|found| found.number))
    }

    /// Whether another clip plays instead of the one at a position.
    pub(crate) fn is_replaced(&self, position: u16) -> Result<bool, RestoreError> {
        Ok(at(&self.clips, position)?.is_some_and(|found| found.is_replaced))
    }

    pub(crate) fn look(&self, position: u16) -> Result<Option<LookId>, RestoreError> {
        Ok(at(&self.looks, position)?.copied().flatten())
    }

    pub(crate) fn role(&self, position: u16) -> Result<Option<&FoundRole<'r>>, RestoreError> {
        let role = at(&self.roles, position)?.ok_or(RestoreError::Damaged)?;
        Ok(role.as_ref())
    }
}

impl<'r> FoundRole<'r> {
    /// The number of a cue; [`NONE`] for none, and where it is lost.
    pub(crate) fn cue(&self, position: u16) -> Result<u16, RestoreError> {
        Ok(at(&self.cues, position)?.copied().unwrap_or(NONE))
    }

    pub(crate) fn bridge(&self, position: u16) -> Result<u16, RestoreError> {
        Ok(at(&self.bridges, position)?.copied().unwrap_or(NONE))
    }

    /// The facts that are left, each with its position, from 0.
    pub(crate) fn facts(&self) -> impl Iterator<Item = (usize, &FoundFact<'r>)> {
        let facts = self.facts.iter().enumerate();
        facts.filter_map(|(at, fact)| Some((at, fact.as_ref()?)))
    }

    /// How many facts were saved.
    pub(crate) fn fact_count(&self) -> usize {
        self.facts.len()
    }
}

impl FoundFact<'_> {
    /// How the reel keeps what was saved so; `None` for what the fact can no longer be.
    pub(crate) fn bits(&self, saved: u32) -> Option<u32> {
        match self.data.kind {
            FactKind::Choice => *self.choices.get(saved as usize)?,
            _ => Some(saved).filter(|bits| self.data.can_be(*bits)),
        }
    }
}
