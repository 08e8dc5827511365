//! Commands for groups: members that share a clock of their own.

use super::Crowd;
use super::event_buffer::EventBuffer;
use super::group_clock::{Group, GroupAdvance};
use super::member_id::{GroupId, Target};
use crate::command_error::CommandError;
use crate::event::EventMask;

/// Groups.
impl Crowd {
    /// Adds a group.
    ///
    /// # Errors
    /// When there are 256.
    pub fn add_group(&mut self) -> Result<GroupId, CommandError> {
        let id = u8::try_from(self.groups.len()).map_err(|_| CommandError::TooManyGroups)?;
        self.push_group(Group::default());
        Ok(GroupId(id))
    }

    pub(super) fn push_group(&mut self, group: Group) {
        self.groups.push(group);
        self.free_blocks.push(Default::default());
    }

    /// Scales the time of a group by `factor`: 0.5 for slow motion, 0 for a pause that leaves its members' own
    /// pauses alone. Time does not run backward (players do, by their speed).
    ///
    /// # Errors
    /// When there is no such group, or the factor is negative, not finite or above 32,767.
    pub fn set_group_scale(&mut self, group: GroupId, factor: f64) -> Result<(), CommandError> {
        let known = self.groups.get_mut(usize::from(group.0));
        known.ok_or(CommandError::UnknownId)?.clock.set_scale(factor)
    }

    /// Leaves a group out of advances until [`wake_group`](Crowd::wake_group): for what is off the
    /// screen. `false` when there is no such group.
    ///
    /// # Asleep
    ///
    /// Its time is counted and costs nothing. Woken, its members are where they would be had they never
    /// slept, in constant time a member however long that was. Until then they are seen as they fell
    /// asleep; a command to one of them, or a new member, first catches the group up, without events. One
    /// that is removed leaves the others asleep.
    ///
    /// ```
    /// # use lucky_reel_core::{Crowd, EventBuffer, EventMask, Grid, NewClip, NewMember, NewSheet, Reel, Ticks};
    /// # let mut builder = Reel::builder();
    /// # let sheet = builder.sheet("moth", NewSheet::grid([64, 16], Grid::cell_size([16, 16])));
    /// let flutter = NewClip::of(sheet).frames(0..4).each(Ticks::from_millis(100)).mark("beat", [2]);
    /// let flutter = builder.clip("flutter", flutter);
    /// # let reel = builder.build()?;
    /// let mut crowd = Crowd::new(&reel);
    /// let far = crowd.add_group().unwrap();
    /// let moth = crowd.spawn(NewMember::playing(flutter).in_group(far)).unwrap();
    /// crowd.sleep_group(far);
    /// crowd.advance(Ticks::from_millis(250));
    /// assert_eq!(crowd.player(moth).unwrap().hold_index(&reel), Some(0));
    /// let mut beats = EventBuffer::new();
    /// crowd.wake_group(far, EventMask::MARKS, &mut beats);
    /// assert_eq!(crowd.player(moth).unwrap().hold_index(&reel), Some(2));
    /// let at: Vec<Ticks> = beats.iter().map(|(_, event)| event.at).collect();
    /// assert_eq!(at, [Ticks::from_millis(200)]); // from when it fell asleep
    /// # Ok::<(), lucky_reel_core::BuildError>(())
    /// ```
    pub fn sleep_group(&mut self, group: GroupId) -> bool {
        let group = self.groups.get_mut(usize::from(group.0));
        group.map(|group| group.is_asleep = true).is_some()
    }

    /// Wakes a group and catches it up, with its events of the kinds asked for as
    /// [`advance_into`](Crowd::advance_into) gives them: their `at` counts from the moment at which the group
    /// fell asleep or was last caught up. Of a sleep of more than an hour the events of the last hour are given.
    /// `false` when there is no such group.
    pub fn wake_group(
        &mut self,
        group: GroupId,
        mask: EventMask,
        events: &mut EventBuffer,
    ) -> bool {
        events.begin(mask, &self.reel);
        let known = self.groups.get_mut(usize::from(group.0));
        let known = known.map(|group| group.is_asleep = false).is_some();
        self.departed.clear();
        self.catch_up(group, mask, (mask != EventMask::NONE).then_some(events));
        known
    }

    /// Brings a group that has slept to the present time, asleep or not.
    pub(super) fn catch_up(
        &mut self,
        group: GroupId,
        mask: EventMask,
        mut events: Option<&mut EventBuffer>,
    ) {
        let at = usize::from(group.0);
        let Some(slept) = self.groups.get_mut(at).filter(|group| !group.slept.is_empty()) else {
            return;
        };
        let parts = slept.wake_up();
        // What others show stays as changed as it is.
        let changed: alloc::vec::Vec<(u64, u64)> =
            self.blocks.iter().map(|block| (block.changed, block.commanded)).collect();
        for (advance, is_heard) in parts {
            self.advances.clear();
            self.advances.resize(self.groups.len(), GroupAdvance::NONE);
            self.advances[at] = advance;
            let heard = events.as_deref_mut().filter(|_| is_heard);
            self.advance_groups(mask, heard);
            for (block, changed) in self.blocks.iter_mut().zip(&changed) {
                block.commanded |= block.changed | changed.1;
                block.changed |= changed.0;
            }
        }
    }

    /// Catches up all groups that a command is for.
    pub(super) fn catch_up_for(&mut self, target: Target) {
        if self.groups.iter().all(|group| group.slept.is_empty()) {
            return;
        }
        let group = match target {
            Target::One(member) => self.blocks.get(member.block()).map(|block| block.group),
            Target::Group(group) => Some(group.0),
            Target::All => None,
        };
        for id in (0..self.groups.len()).map(|id| GroupId(id as u8)) {
            if group.is_none_or(|group| group == id.0) {
                self.catch_up(id, EventMask::NONE, None);
            }
        }
    }

    /// Whether a group is asleep; `false` when there is no such group, too.
    #[must_use]
    pub fn is_asleep(&self, group: GroupId) -> bool {
        self.groups.get(usize::from(group.0)).is_some_and(|group| group.is_asleep)
    }
}
