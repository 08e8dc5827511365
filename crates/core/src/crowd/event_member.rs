use alloc::vec::Vec;

use super::member_id::MemberId;
use super::new_member::NewMember;
use crate::ids::ClipId;

/// The member that an event belongs to, during an advance. Commands to it are carried out in order once
/// all events of the advance have been seen.
///
/// ```
/// use lucky_reel_core::{Crowd, EventMask, Grid, Mode, NewClip, NewSheet, Reel, Ticks};
///
/// # let mut builder = Reel::builder();
/// # let sheet = builder.sheet("moth", NewSheet::grid([64, 16], Grid::cell_size([16, 16])));
/// let new = || NewClip::of(sheet).each(Ticks::from_millis(50)).mode(Mode::Once);
/// let burst = builder.clip("burst", new().frames(0..2).then_vanish());
/// let glow = builder.clip("glow", new().frames(2..4));
/// # let reel = builder.build()?;
/// let mut crowd = Crowd::new(&reel);
/// let lamp = crowd.spawn(glow).unwrap();
/// crowd.advance_with(Ticks::from_millis(100), EventMask::ENDS, |member, event| {
///     member.restart();
///     member.spawn(burst); // a spark each time
/// });
/// assert_eq!((crowd.len(), crowd.player(lamp).unwrap().has_ended()), (2, false));
/// # Ok::<(), lucky_reel_core::BuildError>(())
/// ```
#[derive(Debug)]
pub struct EventMember<'q> {
    id: MemberId,
    queue: &'q mut Queue,
}

/// What is to be done at the end of an advance.
#[derive(Clone, Debug, Default)]
pub(super) struct Queue {
    pub(super) commands: Vec<(MemberId, MemberCommand)>,
    pub(super) spawns: Vec<NewMember>,
}

#[derive(Clone, Copy, Debug)]
pub(super) enum MemberCommand {
    Despawn,
    Restart,
    Play(ClipId),
    SwitchTo(ClipId),
}

impl<'q> EventMember<'q> {
    #[inline]
    pub(super) fn new(id: MemberId, queue: &'q mut Queue) -> EventMember<'q> {
        EventMember { id, queue }
    }

    /// Its id.
    #[must_use]
    #[inline]
    pub fn id(&self) -> MemberId {
        self.id
    }

    /// Removes it from the crowd.
    pub fn remove(&mut self) {
        self.queue.commands.push((self.id, MemberCommand::Despawn));
    }

    /// Starts the clip last asked for again; actors choose their clips themselves.
    pub fn restart(&mut self) {
        self.queue.commands.push((self.id, MemberCommand::Restart));
    }

    /// Plays a clip from its start; actors choose their clips themselves.
    pub fn play(&mut self, clip: ClipId) {
        self.queue.commands.push((self.id, MemberCommand::Play(clip)));
    }

    /// Plays a clip unless it is the one last asked for; actors choose their clips themselves.
    pub fn switch_to(&mut self, clip: ClipId) {
        self.queue.commands.push((self.id, MemberCommand::SwitchTo(clip)));
    }

    /// Adds a new member to the crowd.
    pub fn spawn(&mut self, new: impl Into<NewMember>) {
        self.queue.spawns.push(new.into());
    }
}
