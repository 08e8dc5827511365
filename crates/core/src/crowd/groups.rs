//! Commands for groups: members that share a clock of their own.

use core::fmt;

use super::event_member::EventMember;
use super::group::{Group, GroupAdvance, GroupClock};
use super::member_id::{GroupId, Target};
use super::{Crowd, Lanes};
use crate::event::{Event, EventMask};
use crate::range::OutOfRange;
use crate::time::Ticks;

/// Why a group cannot be set.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub enum GroupError {
    /// The crowd has no such group.
    Unknown,
    /// The time scale is negative, not finite or above 32,767.
    Scale(OutOfRange),
}

impl fmt::Display for GroupError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            GroupError::Unknown => f.write_str("the crowd has no such group: add it first"),
            GroupError::Scale(error) => error.fmt(f),
        }
    }
}

impl core::error::Error for GroupError {}

/// Groups.
impl Crowd {
    /// Adds a group; `None` when there are 256.
    pub fn add_group(&mut self) -> Option<GroupId> {
        let id = u8::try_from(self.groups.len()).ok()?;
        self.push_group(Group::default());
        Some(GroupId(id))
    }

    pub(super) fn push_group(&mut self, group: Group) {
        self.groups.push(group);
        self.free_blocks.push(Default::default());
    }

    /// Scales the time of a group by `factor`. Time does not run backward (players do, by their
    /// speed).
    ///
    /// # Errors
    /// When there is no such group, or the factor is negative, not finite or above 32,767.
    pub fn set_group_scale(&mut self, group: GroupId, factor: f64) -> Result<(), GroupError> {
        let clock = self.clock_mut(group).ok_or(GroupError::Unknown)?;
        clock.set_scale(factor).map_err(GroupError::Scale)
    }

    /// Pauses a group until [`resume_group`](Crowd::resume_group); `false` when there is no such group.
    pub fn pause_group(&mut self, group: GroupId) -> bool {
        self.clock_mut(group).map(|clock| clock.paused = true).is_some()
    }

    /// Resumes a group, without losing or gaining time; `false` when there is no such group.
    pub fn resume_group(&mut self, group: GroupId) -> bool {
        self.clock_mut(group).map(|clock| clock.paused = false).is_some()
    }

    /// Freezes a group for this much game time; of two hit-stops the longer counts. It does not count
    /// on while the group is paused. `false` when there is no such group.
    pub fn hit_stop_group(&mut self, group: GroupId, time: Ticks) -> bool {
        let clock = self.clock_mut(group);
        clock.map(|clock| clock.hit_stop = clock.hit_stop.max(time.get())).is_some()
    }

    fn clock_mut(&mut self, group: GroupId) -> Option<&mut GroupClock> {
        self.groups.get_mut(usize::from(group.0)).map(|group| &mut group.clock)
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
    /// # use lucky_reel_core::{Crowd, EventMask, Grid, NewClip, NewMember, NewSheet, Reel, Ticks};
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
    /// let mut beats = Vec::new();
    /// crowd.wake_group_with(far, EventMask::MARKS, |_, event| beats.push(event.at));
    /// assert_eq!(crowd.player(moth).unwrap().hold_index(&reel), Some(2));
    /// assert_eq!(beats, [Ticks::from_millis(200)]); // from when it fell asleep
    /// # Ok::<(), lucky_reel_core::BuildError>(())
    /// ```
    pub fn sleep_group(&mut self, group: GroupId) -> bool {
        let group = self.groups.get_mut(usize::from(group.0));
        group.map(|group| group.is_asleep = true).is_some()
    }

    /// Wakes a group and catches it up, without events. `false` when there is no such group.
    pub fn wake_group(&mut self, group: GroupId) -> bool {
        self.wake_group_with(group, EventMask::NONE, |_, _| {})
    }

    /// As [`wake_group`](Crowd::wake_group), with events as [`advance_with`](Crowd::advance_with) gives
    /// them: their `at` counts from the moment at which the group fell asleep or was last caught up. Of a
    /// sleep of more than an hour the events of the last hour are given.
    pub fn wake_group_with(
        &mut self,
        group: GroupId,
        mask: EventMask,
        call: impl FnMut(&mut EventMember<'_>, Event),
    ) -> bool {
        let known = self.groups.get_mut(usize::from(group.0));
        let known = known.map(|group| group.is_asleep = false).is_some();
        self.catch_up(group, mask, call);
        known
    }

    /// Brings a group that has slept to the present time, asleep or not.
    pub(super) fn catch_up(
        &mut self,
        group: GroupId,
        mask: EventMask,
        mut call: impl FnMut(&mut EventMember<'_>, Event),
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
            self.advance_groups(if is_heard { mask } else { EventMask::NONE }, &mut call);
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
        for id in self.groups().filter(|id| group.is_none_or(|group| group == id.0)) {
            self.catch_up(id, EventMask::NONE, |_, _| {});
        }
    }

    /// Whether a group is asleep; `false` when there is no such group, too.
    #[must_use]
    pub fn is_asleep(&self, group: GroupId) -> bool {
        self.groups.get(usize::from(group.0)).is_some_and(|group| group.is_asleep)
    }

    /// All groups of this crowd.
    pub fn groups(&self) -> impl Iterator<Item = GroupId> + use<> {
        (0..self.groups.len()).map(|id| GroupId(id as u8))
    }

    /// All members of a group, in the order of their slots.
    pub fn ids_in(&self, group: GroupId) -> impl Iterator<Item = super::MemberId> + '_ {
        let blocks = self.blocks.iter().enumerate();
        let blocks = blocks.filter(move |(_, block)| block.group == group.0);
        blocks.flat_map(move |(at, block)| {
            Lanes(block.alive).map(move |lane| self.states[at][lane].id(at, lane))
        })
    }
}
