//! Facing sets, looks and phase groups of a reel, to read.

use super::Reel;
use crate::cue::RoleData;
use crate::facing::{Align, Facing, FacingSetData};
use crate::ids::{ClipId, FacingSetId, FrameId, LookId, RoleId};
use crate::new_look::LookData;

/// A facing set of a reel: which clip each facing shows.
#[derive(Clone, Copy, Debug)]
#[non_exhaustive]
pub struct FacingSet<'r> {
    /// Its id.
    pub id: FacingSetId,
    /// Its name, without the role.
    pub name: &'r str,
    /// What a change of facing keeps.
    pub align: Align,
    data: &'r FacingSetData,
}

impl FacingSet<'_> {
    /// The clip that a facing shows: the nearest facing's, where it has none.
    #[must_use]
    pub fn clip(&self, facing: Facing) -> ClipId {
        self.data.clip(facing)
    }

    /// Whether a facing has a clip, its own or another's mirrored, so that no nearest one is shown
    /// instead.
    #[must_use]
    pub fn has(&self, facing: Facing) -> bool {
        self.data.own & 1 << facing as u8 != 0
    }
}

/// A group of clips that stay in step: switching between them keeps the position.
#[derive(Clone, Copy, Debug)]
#[non_exhaustive]
pub struct PhaseGroup<'r> {
    /// The role that it is of; empty where none was named.
    pub role: &'r str,
    /// Its name.
    pub name: &'r str,
    /// Its clips.
    pub clips: &'r [ClipId],
    /// What a switch keeps.
    pub align: Align,
}

impl Reel {
    /// A facing set; `None` for an id that the reel does not know.
    #[must_use]
    pub fn facing_set(&self, set: FacingSetId) -> Option<FacingSet<'_>> {
        let data = self.facing_data(set)?;
        Some(FacingSet { id: set, name: self.name(set), align: data.align, data })
    }

    /// The frame that a look shows instead of a frame; `None` where it has none for it.
    #[must_use]
    pub fn look_frame(&self, look: LookId, frame: FrameId) -> Option<FrameId> {
        self.look_data(look)?.frame(frame)
    }

    /// The clips whose pictures a look shows instead of others.
    pub fn look_clips(&self, look: LookId) -> impl Iterator<Item = ClipId> {
        let clips = self.look_data(look).map_or(&[][..], |look| &look.clips);
        clips.iter().map(|(_, other, _)| *other)
    }

    /// All groups of clips that stay in step.
    pub fn phase_groups(&self) -> impl Iterator<Item = PhaseGroup<'_>> {
        self.data.phases.iter().map(|group| PhaseGroup {
            role: &group.role,
            name: &group.name,
            clips: &group.clips,
            align: group.align,
        })
    }

    pub(crate) fn role_data(&self, role: RoleId) -> Option<&RoleData> {
        self.data.roles.get(usize::from(role.number_in(self.family)?))?.as_ref()
    }

    pub(crate) fn look_data(&self, look: LookId) -> Option<&LookData> {
        self.data.looks.get(usize::from(look.number_in(self.family)?))?.as_ref()
    }

    pub(crate) fn facing_data(&self, set: FacingSetId) -> Option<&FacingSetData> {
        self.data.facings.get(usize::from(set.number_in(self.family)?))?.as_ref()
    }

    /// The first facing set that shows a clip.
    pub(crate) fn facing_set_of(&self, clip: ClipId) -> Option<&FacingSetData> {
        self.data.facings.iter().flatten().find(|set| set.has(clip))
    }

    /// How two clips keep in step, if they do.
    pub(crate) fn in_phase(&self, one: ClipId, other: ClipId) -> Option<Align> {
        let both = |clips: &[ClipId]| clips.contains(&one) && clips.contains(&other);
        self.data.phases.iter().find(|group| both(&group.clips)).map(|group| group.align)
    }
}
