//! What of a reel belongs to actors, looked up.

use alloc::string::String;

use super::{NameError, Reel};
use crate::cue::{ChoiceId, FactId, FactType, RoleData};
use crate::facing::{Align, Facing, FacingSet};
use crate::ids::{BridgeId, ClipId, CueId, FacingSetId, FrameId, LookId, NONE, RoleId};
use crate::look::LookData;

impl Reel {
    /// The role of this name, if it has cues.
    ///
    /// # Errors
    /// When there is none, or it has no cues; naming the nearest.
    pub fn role_id(&self, name: &str) -> Result<RoleId, NameError> {
        let id = self.data.names.roles.look_up("role with cues", name)?;
        Ok(RoleId::new(self.family, id))
    }

    /// The facing set of this name.
    ///
    /// # Errors
    /// As for [`clip`](Reel::clip_id).
    pub fn facing_set_id(&self, name: &str) -> Result<FacingSetId, NameError> {
        let id = self.data.names.facings.look_up("facing set", name)?;
        Ok(FacingSetId::new(self.family, id))
    }

    /// The clip that a facing set shows for a facing: the nearest one's, where it has none for it.
    /// `None` for a dead or foreign id.
    #[must_use]
    pub fn clip_facing(&self, set: FacingSetId, facing: Facing) -> Option<ClipId> {
        Some(self.facing_set(set)?.clip(facing))
    }

    /// All facing sets: id, role and name.
    pub fn facing_sets(&self) -> impl Iterator<Item = (FacingSetId, &str, &str)> {
        let alive = self.data.names.facings.alive();
        alive.map(|(id, name)| (FacingSetId::new(self.family, id as u16), &*name.role, &*name.name))
    }

    /// Whether a set has a clip for a facing, of its own or another's mirrored, so that no nearest one
    /// is used instead.
    #[must_use]
    pub fn has_facing(&self, set: FacingSetId, facing: Facing) -> bool {
        self.facing_set(set).is_some_and(|set| set.own & 1 << facing as u8 != 0)
    }

    /// All groups of clips that stay in step: role, name, clips, and what is kept.
    pub fn phase_groups(&self) -> impl Iterator<Item = (&str, &str, &[ClipId], Align)> {
        self.data
            .phases
            .iter()
            .map(|group| (&*group.role, &*group.name, &*group.clips, group.align))
    }

    /// The clips whose pictures looks show instead of others.
    pub fn clips_of_looks(&self) -> impl Iterator<Item = ClipId> {
        self.data.looks.iter().flatten().flat_map(|look| &look.clips).map(|(_, other, _)| *other)
    }

    /// All looks: id, role and name.
    pub fn looks(&self) -> impl Iterator<Item = (LookId, &str, &str)> {
        let alive = self.data.names.looks.alive();
        alive.map(|(id, name)| (LookId::new(self.family, id as u16), &*name.role, &*name.name))
    }

    /// The frame of a look's sheet that is shown instead of a frame; `None` where the look has none for it.
    #[must_use]
    pub fn frame_in_look(&self, look: LookId, frame: FrameId) -> Option<FrameId> {
        self.look_data(look)?.frame(frame)
    }

    /// The look of this name.
    ///
    /// # Errors
    /// As for [`clip`](Reel::clip_id).
    pub fn look_id(&self, name: &str) -> Result<LookId, NameError> {
        let id = self.data.names.looks.look_up("look", name)?;
        Ok(LookId::new(self.family, id))
    }

    /// The fact of this name, as what it is: `reel.fact_id::<bool>("moving")`.
    ///
    /// # Errors
    /// As for [`clip`](Reel::clip_id); and when it is of another kind.
    pub fn fact_id<T: FactType>(&self, name: &str) -> Result<FactId<T>, NameError> {
        let id = self.data.names.facts.look_up("fact", name)?;
        let (role, slot) = self.fact_place(id);
        let data = self.role_data(role).and_then(|data| data.facts.get(slot)?.as_ref());
        match data {
            Some(fact) if fact.kind == T::KIND => Ok(FactId::new(role, slot as u8)),
            Some(fact) => {
                Err(NameError::of_kind("fact", name, fact.kind.describe(), T::KIND.describe()))
            }
            None => {
                Err(NameError::of_kind("fact", name, "of a role without cues", T::KIND.describe()))
            }
        }
    }

    /// The fact that [`FactId::to_bits`] gave; `None` where this reel has no such fact, or one of another
    /// kind.
    #[must_use]
    pub fn fact_from_bits<T: FactType>(&self, bits: u64) -> Option<FactId<T>> {
        let id: FactId<T> = FactId::new(RoleId::from_bits(bits >> 8), bits as u8);
        let fact = self.role_data(id.role)?.facts.get(usize::from(id.slot))?.as_ref()?;
        (fact.kind == T::KIND).then_some(id)
    }

    /// A choice of a fact by its place in the fact's list, from 0; `None` where the list is shorter.
    #[must_use]
    pub fn choice_at(&self, fact: FactId<ChoiceId>, index: usize) -> Option<ChoiceId> {
        let data = self.role_data(fact.role)?.facts.get(usize::from(fact.slot))?.as_ref()?;
        let index = u8::try_from(index).ok().filter(|at| usize::from(*at) < data.choices.len())?;
        Some(ChoiceId { role: fact.role, slot: fact.slot, index })
    }

    /// A choice of a fact.
    ///
    /// # Errors
    /// When the fact has no such word, naming the nearest.
    pub fn choice_id(&self, fact: FactId<ChoiceId>, word: &str) -> Result<ChoiceId, NameError> {
        let data = self.role_data(fact.role);
        let data = data.and_then(|role| role.facts.get(usize::from(fact.slot))?.as_ref());
        let words = data.map_or(&[][..], |data| &data.choices);
        match words.iter().position(|known| known == word) {
            Some(index) => Ok(ChoiceId { role: fact.role, slot: fact.slot, index: index as u8 }),
            None => Err(NameError::unknown("word", word, words)),
        }
    }

    /// The cue of this name.
    ///
    /// # Errors
    /// As for [`clip`](Reel::clip_id).
    pub fn cue_id(&self, name: &str) -> Result<CueId, NameError> {
        let id = self.data.names.cues.look_up("cue", name)?;
        Ok(CueId::new(self.family, id))
    }

    /// The bridge of this name.
    ///
    /// # Errors
    /// As for [`clip`](Reel::clip_id).
    pub fn bridge_id(&self, name: &str) -> Result<BridgeId, NameError> {
        let id = self.data.names.bridges.look_up("bridge", name)?;
        Ok(BridgeId::new(self.family, id))
    }

    /// The name of a cue without its role; empty for a dead or foreign id.
    #[must_use]
    pub fn cue_name(&self, cue: CueId) -> &str {
        self.data.names.cues.of(cue.number_in(self.family)).map_or("", |name| &name.name)
    }

    /// The name of a bridge without its role; empty for a dead or foreign id.
    #[must_use]
    pub fn bridge_name(&self, bridge: BridgeId) -> &str {
        self.data.names.bridges.of(bridge.number_in(self.family)).map_or("", |name| &name.name)
    }

    /// The name of a look without its role; empty for a dead or foreign id.
    #[must_use]
    pub fn look_name(&self, look: LookId) -> &str {
        self.data.names.looks.of(look.number_in(self.family)).map_or("", |name| &name.name)
    }

    /// The role of a fact, and its slot there.
    fn fact_place(&self, id: u16) -> (RoleId, usize) {
        let names = &self.data.names;
        let role = names.facts.get(usize::from(id)).map_or("", |name| &name.role);
        let role = names.roles.find("", role).unwrap_or(NONE);
        (RoleId::new(self.family, role), names.facts.rank(id))
    }

    /// The name of a look with its role, for what is saved.
    pub(crate) fn full_look_name(&self, look: LookId) -> String {
        self.data
            .names
            .looks
            .of(look.number_in(self.family))
            .map_or_else(String::new, |name| name.full())
    }

    pub(crate) fn role_data(&self, role: RoleId) -> Option<&RoleData> {
        self.data.roles.get(usize::from(role.number_in(self.family)?))?.as_ref()
    }

    pub(crate) fn look_data(&self, look: LookId) -> Option<&LookData> {
        self.data.looks.get(usize::from(look.number_in(self.family)?))?.as_ref()
    }

    pub(crate) fn facing_set(&self, set: FacingSetId) -> Option<&FacingSet> {
        self.data.facings.get(usize::from(set.number_in(self.family)?))?.as_ref()
    }

    /// The first facing set that shows a clip.
    pub(crate) fn facing_set_of(&self, clip: ClipId) -> Option<&FacingSet> {
        self.data.facings.iter().flatten().find(|set| set.has(clip))
    }

    /// How two clips keep in step, if they do.
    pub(crate) fn in_phase(&self, one: ClipId, other: ClipId) -> Option<Align> {
        let both = |clips: &[ClipId]| clips.contains(&one) && clips.contains(&other);
        self.data.phases.iter().find(|group| both(&group.clips)).map(|group| group.align)
    }
}
