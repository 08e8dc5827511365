//! What can be asked of a crowd.

use super::block::{BLOCK, STEP, frame_at};
use super::instances::Members;
use super::member_id::{MemberId, Target};
use super::save::SavedMembers;
use super::slot::BlockRef;
use super::{Crowd, Lanes};
use crate::actor::Actor;
use crate::event::Event;
use crate::ids::AreaId;
use crate::kernel::RETURNING;
use crate::play::Player;
use crate::reel::Reel;
use crate::save::Saved;
use crate::sheet::PackedFrame;
use crate::view::{Area, InstanceWriter, Instances, LookSet, Placement, View};

impl Crowd {
    /// The reel that it plays from.
    #[must_use]
    pub fn reel(&self) -> &Reel {
        &self.reel
    }

    /// Whether the member of this id is still there.
    #[must_use]
    #[inline]
    pub fn contains(&self, member: MemberId) -> bool {
        self.slot(member).is_some()
    }

    /// The actor that a member is, but for how far its player has come.
    #[inline]
    pub(super) fn actor_at(&self, member: MemberId) -> Option<&Actor> {
        let (at, lane) = (member.block(), member.lane());
        let (block, states) = (self.blocks.get(at)?, self.states.get(at)?);
        let there = block.has(lane) && states[lane].generation == member.generation;
        block.actors.get(lane).filter(|_| there)
    }

    /// The block and the lane of a member, while it is there.
    #[inline]
    pub(super) fn slot(&self, member: MemberId) -> Option<(BlockRef<'_>, usize)> {
        let (slots, lane) = (self.block(member.block())?, member.lane());
        let there = slots.block.has(lane) && slots.states[lane].generation == member.generation;
        there.then_some((slots, lane))
    }

    /// A copy of a member as a player; `None` if it is gone.
    #[must_use]
    pub fn player(&self, member: MemberId) -> Option<Player> {
        let (slots, lane) = self.slot(member)?;
        match slots.actor(&self.reel, lane) {
            Some(actor) => Some(*actor.player()),
            None => Some(slots.player(&self.reel, lane)),
        }
    }

    /// A copy of a member as an actor; `None` if it is gone or is a player.
    #[must_use]
    pub fn actor(&self, member: MemberId) -> Option<Actor> {
        let (slots, lane) = self.slot(member)?;
        slots.actor(&self.reel, lane)
    }

    /// The looks that a member wears; `None` if it is gone.
    #[must_use]
    pub fn looks(&self, member: MemberId) -> Option<LookSet> {
        self.slot(member).map(|(slots, lane)| self.looks_in(slots, lane))
    }

    pub(super) fn looks_in(&self, slots: BlockRef<'_>, lane: usize) -> LookSet {
        match slots.block.actors.get(lane) {
            Some(actor) => actor.looks(),
            None => self.outfits.get(slots.block.outfits.get(lane).copied().unwrap_or(0)),
        }
    }

    /// What a member shows, in its looks; nothing if it is gone.
    #[must_use]
    pub fn packed_frame(&self, member: MemberId) -> PackedFrame {
        let shown = self.slot(member).map(|(slots, lane)| self.frame_in(slots, lane));
        shown.filter(|shown| shown.frame().is_some()).unwrap_or(PackedFrame::NOTHING)
    }

    /// What a member shows, in its looks, to be drawn; `None` when there is nothing.
    #[must_use]
    pub fn view(&self, member: MemberId) -> Option<View<'_>> {
        self.packed_frame(member).view(&self.reel)
    }

    /// What was shown at the moment of an event of the last advance, in the member's looks, also of a
    /// member that has vanished in it; `None` for any other member that has gone.
    ///
    /// ```
    /// # use lucky_reel_core::*;
    /// # let mut builder = Reel::builder();
    /// # let sheet = builder.sheet("puff", NewSheet::grid([64, 16], Grid::cell_size([16, 16])));
    /// let puff = NewClip::of(sheet).frames(0..4).fps(20).mode(Mode::Once).mark("thin", [2]);
    /// let puff = builder.clip("puff", puff.end(ClipEnd::Vanish));
    /// # let reel = builder.build()?;
    /// let mut crowd = Crowd::new(&reel);
    /// crowd.spawn(puff).unwrap();
    /// let mut events = EventBuffer::new();
    /// crowd.advance_into(Ticks::from_secs(1), EventMask::MARKS, &mut events);
    /// for (member, event) in &events {
    ///     let view = crowd.view_at(member, &event).unwrap(); // although it is gone by now
    ///     assert_eq!(view.id.index(), 2);
    /// }
    /// # Ok::<(), BuildError>(())
    /// ```
    #[must_use]
    pub fn view_at(&self, member: MemberId, event: &Event) -> Option<View<'_>> {
        let (flips, looks) = match self.slot(member) {
            Some((slots, lane)) => (slots.player_flips(lane), self.looks_in(slots, lane)),
            None => {
                let at = self.departed.binary_search_by_key(&member.slot, |gone| gone.id.slot);
                let gone = self.departed.get(at.ok()?).filter(|gone| gone.id == member)?;
                (gone.flips, gone.looks)
            }
        };
        event.view(&self.reel, flips, &looks)
    }

    /// What is up in a slot of a block that is taken, looks included.
    #[inline]
    pub(super) fn frame_in(&self, slots: BlockRef<'_>, lane: usize) -> PackedFrame {
        let plain = slots.block.actors.is_empty() && slots.block.outfits.is_empty();
        let bare = frame_at(self.reel.steps(), slots.codes[lane]);
        if plain { bare } else { self.dressed_frame_in(slots, lane).unwrap_or(bare) }
    }

    #[inline(never)]
    fn dressed_frame_in(&self, slots: BlockRef<'_>, lane: usize) -> Option<PackedFrame> {
        let looks = self.looks_in(slots, lane);
        let code = slots.codes[lane];
        if looks.is_empty() || frame_at(self.reel.steps(), code).frame().is_none() {
            return None;
        }
        let origin = self.reel.steps().origin(code & STEP);
        let clip = crate::ids::ClipId::new(self.reel.family, origin.clip());
        let (frame, mirrored) = self.reel.dressed(clip, origin.place() & !RETURNING, &looks)?;
        Some(PackedFrame::of_clip(frame, mirrored).mirrored_by(code >> PackedFrame::FLIPS_SHIFT))
    }

    /// All members of a target that are there, in the order of their slots.
    pub fn ids(&self, target: impl Into<Target>) -> impl Iterator<Item = MemberId> + '_ {
        let target = target.into();
        (0..self.blocks.len()).flat_map(move |at| {
            let lanes = match target {
                Target::All => self.blocks[at].alive,
                Target::Group(group) if self.blocks[at].group == group.0 => self.blocks[at].alive,
                Target::One(member) if member.block() == at && self.contains(member) => {
                    1 << member.lane()
                }
                Target::Group(_) | Target::One(_) => 0,
            };
            self.ids_of(at, lanes)
        })
    }

    /// The members whose picture was changed by the last advance, or by commands since the one before
    /// it (including new and mirrored members), in the order of their slots: all that a renderer needs
    /// to upload.
    pub fn changed(&self) -> impl Iterator<Item = MemberId> + '_ {
        (0..self.blocks.len()).flat_map(|at| self.ids_of(at, self.blocks[at].changed))
    }

    pub(super) fn ids_of(&self, at: usize, lanes: u64) -> impl Iterator<Item = MemberId> + '_ {
        let states = &self.states[at];
        Lanes(lanes).map(move |lane| {
            let slot = (at * BLOCK + lane) as u32;
            MemberId { slot, generation: states[lane].generation }
        })
    }

    /// Where a named rectangle of each member that shows one lies, by the placement that `place` returns for
    /// it: for an `AreaGrid` of the crate `lucky-reel`.
    pub fn areas(
        &self,
        area: AreaId,
        mut place: impl FnMut(MemberId) -> Placement,
    ) -> impl Iterator<Item = (MemberId, Area)> {
        let shown = self.ids(Target::All).filter_map(|member| Some((member, self.view(member)?)));
        shown.filter_map(move |(member, view)| Some((member, view.area(area, place(member))?)))
    }

    /// The members, to write for a renderer. With a writer for another version of the reel nothing is
    /// written.
    pub fn instances<'c>(&'c self, writer: &'c InstanceWriter) -> Instances<'c, Crowd> {
        Instances { of: self, writer, chosen: Members::VISIBLE }
    }

    /// This crowd as plain data, with its groups and with its ids, which stay good: see [`Saved`]. Members whose clip the reel has lost are left out.
    ///
    /// ```
    /// # use lucky_reel_core::{Crowd, Grid, NewClip, NewMember, NewSheet, Reel, Ticks};
    /// # let mut builder = Reel::builder();
    /// # let sheet = builder.sheet("moth", NewSheet::grid([64, 16], Grid::cell_size([16, 16])));
    /// # let flutter = builder.clip("flutter", NewClip::of(sheet).frames(0..4).fps(12));
    /// # let reel = builder.build()?;
    /// let mut crowd = Crowd::new(&reel);
    /// let moth = crowd.spawn(NewMember::playing(flutter).random_start(7, 1)).unwrap();
    /// crowd.advance(Ticks::from_millis(333));
    /// let again = crowd.save().load(&reel).unwrap();
    /// assert_eq!(again.player(moth), crowd.player(moth));
    /// # Ok::<(), lucky_reel_core::BuildError>(())
    /// ```
    #[must_use]
    pub fn save(&self) -> Saved<Crowd> {
        SavedMembers::of(self)
    }
}
