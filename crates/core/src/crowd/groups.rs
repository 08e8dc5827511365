//! What groups are told: members that share a clock of their own.

use super::Crowd;
use super::group::Group;
use super::handle::GroupId;
use crate::range::OutOfRange;
use crate::time::Ticks;

impl Crowd {
    /// Adds a group; `None` when there are 256.
    pub fn add_group(&mut self) -> Option<GroupId> {
        let id = u8::try_from(self.groups.len()).ok()?;
        self.groups.push(Group::NEW);
        Some(GroupId(id))
    }

    /// Slows or quickens the time of a group: `factor` of the game's.
    ///
    /// # Errors
    /// When the factor is negative, not finite or above 32,767: time does not run backwards (players
    /// do, by their speed).
    pub fn set_group_scale(&mut self, group: GroupId, factor: f64) -> Result<(), OutOfRange> {
        self.group_mut(group).map_or(Ok(()), |group| group.set_scale(factor))
    }

    /// No time passes for a group until [`resume_group`](Crowd::resume_group).
    pub fn pause_group(&mut self, group: GroupId) {
        if let Some(group) = self.group_mut(group) {
            group.paused = true;
        }
    }

    /// Time passes for a group again, without anything lost or gained.
    pub fn resume_group(&mut self, group: GroupId) {
        if let Some(group) = self.group_mut(group) {
            group.paused = false;
        }
    }

    /// Freezes a group for so much game time; of two hit-stops the longer counts. It does not count on
    /// while the group is paused.
    pub fn hit_stop_group(&mut self, group: GroupId, time: Ticks) {
        if let Some(group) = self.group_mut(group) {
            group.frozen = group.frozen.max(time.get());
        }
    }

    fn group_mut(&mut self, group: GroupId) -> Option<&mut Group> {
        self.groups.get_mut(usize::from(group.0))
    }

    /// All groups of this crowd.
    pub fn groups(&self) -> impl Iterator<Item = GroupId> + use<> {
        (0..self.groups.len()).map(|id| GroupId(id as u8))
    }
}
