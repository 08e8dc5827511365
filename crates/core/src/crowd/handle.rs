use super::BLOCK;

/// A member of a crowd: its slot, and which of the slot's members it is. A handle whose member has
/// gone is refused; it never reaches another's (not before a slot has had 2^32 members).
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct Handle {
    pub(super) slot: u32,
    pub(super) generation: u32,
}

impl Handle {
    /// A handle that no member ever has.
    pub const NOBODY: Handle = Handle { slot: u32::MAX, generation: u32::MAX };

    /// The number of its slot: for the game's own columns (positions, healths). Slots are used again,
    /// so that the numbers stay dense; they are below [`Crowd::slots`](super::Crowd::slots).
    #[must_use]
    pub const fn index(self) -> usize {
        self.slot as usize
    }

    pub(super) const fn block(self) -> usize {
        self.slot as usize / BLOCK
    }

    pub(super) const fn lane(self) -> usize {
        self.slot as usize % BLOCK
    }
}

/// A group of a crowd, whose time can be slowed, paused or frozen on its own.
/// [`GroupId::default`] is the group that every crowd begins with.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct GroupId(pub(super) u8);

/// Whom a command is for: one member, all of a group, or all.
///
/// ```
/// use lucky_reel_core::{Crowd, Grid, Members, NewClip, NewSheet, Reel, Speed};
///
/// # let mut builder = Reel::builder();
/// # let sheet = builder.sheet("moth", NewSheet::grid([64, 16], Grid::cells([16, 16])));
/// # let flutter = builder.clip("flutter", NewClip::of(sheet).frames(0..4).fps(12));
/// # let reel = builder.build()?;
/// let mut crowd = Crowd::new(&reel);
/// let moth = crowd.spawn(&reel, flutter);
/// crowd.spawn(&reel, flutter);
/// let slow = Speed::from_f64(0.5).unwrap();
/// assert_eq!(crowd.set_speed(&reel, moth, slow), 1);
/// assert_eq!(crowd.set_speed(&reel, Members::All, slow), 2);
/// crowd.despawn(moth);
/// assert_eq!(crowd.set_speed(&reel, moth, slow), 0); // a stale handle reaches nobody
/// # Ok::<(), lucky_reel_core::BuildError>(())
/// ```
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Members {
    /// The member of this handle, if it is still there.
    One(Handle),
    /// All members of this group.
    Group(GroupId),
    /// All members.
    All,
}

impl From<Handle> for Members {
    fn from(handle: Handle) -> Members {
        Members::One(handle)
    }
}

impl From<GroupId> for Members {
    fn from(group: GroupId) -> Members {
        Members::Group(group)
    }
}
