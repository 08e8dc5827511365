/// Members of a block: one for each bit of a word.
pub(super) const BLOCK: usize = u64::BITS as usize;

/// Names a member of a crowd by slot and generation. An id whose member is gone is refused; it never
/// reaches another member (before a slot has had 2^32 of them).
///
/// A game can keep it in its own entities and files: by serde, or as 64 bits.
///
/// ```
/// use lucky_reel_core::{Crowd, Grid, MemberId, NewClip, NewSheet, Reel};
///
/// # let mut builder = Reel::builder();
/// # let sheet = builder.sheet("moth", NewSheet::grid([64, 16], Grid::cell_size([16, 16])));
/// # let flutter = builder.clip("flutter", NewClip::of(sheet).frames(0..4).fps(12));
/// # let reel = builder.build()?;
/// let mut crowd = Crowd::new(&reel);
/// let moth = crowd.spawn(flutter).unwrap();
/// assert_eq!(MemberId::from_bits(moth.to_bits()), moth);
/// # Ok::<(), lucky_reel_core::BuildError>(())
/// ```
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub struct MemberId {
    pub(super) slot: u32,
    pub(super) generation: u32,
}

impl MemberId {
    /// The number of its slot: for the game's own columns (positions, healths). Slots are used again,
    /// so that the numbers stay dense; they are below [`Crowd::slots`](super::Crowd::slots).
    #[must_use]
    #[inline]
    pub const fn index(self) -> usize {
        self.slot as usize
    }

    /// The slot in the upper 32 bits, its generation in the lower.
    #[must_use]
    pub const fn to_bits(self) -> u64 {
        (self.slot as u64) << 32 | self.generation as u64
    }

    /// The id that [`to_bits`](MemberId::to_bits) gave. Any number is accepted; an id that no member
    /// has is refused like that of a member that is gone.
    #[must_use]
    pub const fn from_bits(bits: u64) -> MemberId {
        MemberId { slot: (bits >> 32) as u32, generation: bits as u32 }
    }

    #[inline]
    pub(super) const fn block(self) -> usize {
        self.slot as usize / BLOCK
    }

    #[inline]
    pub(super) const fn lane(self) -> usize {
        self.slot as usize % BLOCK
    }
}

/// A group of a crowd, whose time can be slowed, paused, frozen or left to sleep on its own.
/// [`GroupId::default`] is the group that every crowd begins with.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, PartialOrd, Ord, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub struct GroupId(pub(super) u8);

impl GroupId {
    /// Its number, from 0 in the order in which the groups were added.
    #[must_use]
    pub const fn to_bits(self) -> u8 {
        self.0
    }

    /// The id that [`to_bits`](GroupId::to_bits) gave. A crowd refuses a group that it does not have.
    #[must_use]
    pub const fn from_bits(bits: u8) -> GroupId {
        GroupId(bits)
    }
}

/// What a command applies to: one member, a group, or all.
///
/// ```
/// use lucky_reel_core::{Crowd, Grid, NewClip, NewSheet, Reel, Speed, Target};
///
/// # let mut builder = Reel::builder();
/// # let sheet = builder.sheet("moth", NewSheet::grid([64, 16], Grid::cell_size([16, 16])));
/// # let flutter = builder.clip("flutter", NewClip::of(sheet).frames(0..4).fps(12));
/// # let reel = builder.build()?;
/// let mut crowd = Crowd::new(&reel);
/// let moth = crowd.spawn(flutter).unwrap();
/// crowd.spawn(flutter);
/// let slow = Speed::from_f64(0.5).unwrap();
/// assert_eq!(crowd.set_speed(moth, slow), 1);
/// assert_eq!(crowd.set_speed(Target::All, slow), 2);
/// crowd.remove(moth);
/// assert_eq!(crowd.set_speed(moth, slow), 0); // the id of a member that has gone reaches none
/// # Ok::<(), lucky_reel_core::BuildError>(())
/// ```
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum Target {
    /// The member of this id, if it is still there.
    One(MemberId),
    /// All members of this group.
    Group(GroupId),
    /// All members.
    All,
}

impl From<MemberId> for Target {
    fn from(member: MemberId) -> Target {
        Target::One(member)
    }
}

impl From<GroupId> for Target {
    fn from(group: GroupId) -> Target {
        Target::Group(group)
    }
}
