use core::cmp::Ordering;
use core::fmt;
use core::hash::{Hash, Hasher};
use core::marker::PhantomData;

use super::FactKind;
use crate::ids::RoleId;

/// A fact of a role, by its type: `FactId<bool>`, `FactId<i32>`, `FactId<f32>`, `FactId<ChoiceId>`, and
/// `FactId<()>` for a pulse. [`Reel::id`](crate::Reel::id) looks it up, once.
pub struct FactId<T> {
    pub(crate) role: RoleId,
    pub(crate) slot: u8,
    kind: PhantomData<fn() -> T>,
}

impl<T: FactType> FactId<T> {
    pub(crate) const fn new(role: RoleId, slot: u8) -> FactId<T> {
        FactId { role, slot, kind: PhantomData }
    }

    /// The number itself, from 0 in its role.
    #[must_use]
    pub const fn index(self) -> usize {
        self.slot as usize
    }

    /// The id as a number, for code that keeps it outside Rust. It holds as long as the process runs: save
    /// names instead.
    #[must_use]
    pub const fn to_bits(self) -> u64 {
        (T::KIND as u64) << 56 | self.role.to_bits() << 8 | self.slot as u64
    }

    /// The id that `to_bits` gave. Any number is accepted; what no reel gave, and the number of a fact of
    /// another type, is refused like an id of another reel.
    #[must_use]
    pub const fn from_bits(bits: u64) -> FactId<T> {
        let role = RoleId::from_bits(bits >> 8 & 0xffff_ffff_ffff);
        let is_of_type = bits >> 56 == T::KIND as u64;
        FactId::new(if is_of_type { role } else { RoleId::from_bits(0) }, bits as u8)
    }
}

impl<T> Clone for FactId<T> {
    fn clone(&self) -> FactId<T> {
        *self
    }
}

impl<T> Copy for FactId<T> {}

impl<T> Hash for FactId<T> {
    fn hash<H: Hasher>(&self, state: &mut H) {
        (self.role, self.slot).hash(state);
    }
}

impl<T> PartialOrd for FactId<T> {
    fn partial_cmp(&self, other: &FactId<T>) -> Option<Ordering> {
        Some(self.cmp(other))
    }
}

impl<T> Ord for FactId<T> {
    fn cmp(&self, other: &FactId<T>) -> Ordering {
        (self.role, self.slot).cmp(&(other.role, other.slot))
    }
}

impl<T> PartialEq for FactId<T> {
    fn eq(&self, other: &FactId<T>) -> bool {
        (self.role, self.slot) == (other.role, other.slot)
    }
}

impl<T> Eq for FactId<T> {}

impl<T> fmt::Debug for FactId<T> {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "FactId({}, {})", self.role.number, self.slot)
    }
}

/// One of the choices that a fact may be. [`Reel::id`](crate::Reel::id) looks it up, once.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct ChoiceId {
    pub(crate) role: RoleId,
    pub(crate) slot: u8,
    pub(crate) index: u8,
}

impl ChoiceId {
    /// Its position in the fact's list of choices, from 0.
    #[must_use]
    pub const fn index(self) -> usize {
        self.index as usize
    }

    /// The choice of a fact at a position of its list, from 0. Any position is accepted; a choice that the
    /// fact does not have has no name and matches no condition.
    #[must_use]
    pub const fn at(fact: FactId<ChoiceId>, index: u8) -> ChoiceId {
        ChoiceId { role: fact.role, slot: fact.slot, index }
    }

    /// The id as a number, for code that keeps it outside Rust. It holds as long as the process runs: save
    /// names instead.
    #[must_use]
    pub const fn to_bits(self) -> u64 {
        self.role.to_bits() << 16 | (self.slot as u64) << 8 | self.index as u64
    }

    /// The id that `to_bits` gave. Any number is accepted; what no reel gave is refused like an id of
    /// another reel.
    #[must_use]
    pub const fn from_bits(bits: u64) -> ChoiceId {
        let role = RoleId::from_bits(bits >> 16);
        ChoiceId { role, slot: (bits >> 8) as u8, index: bits as u8 }
    }
}

mod sealed {
    pub trait Sealed {}
    impl Sealed for bool {}
    impl Sealed for i32 {}
    impl Sealed for f32 {}
    impl Sealed for super::ChoiceId {}
    impl Sealed for () {}
}

/// What a fact can be: `bool`, `i32`, `f32`, [`ChoiceId`], and `()` for a pulse. The trait is sealed.
pub trait FactType: sealed::Sealed + Copy {
    /// The kind of facts that are of this type.
    const KIND: FactKind;
    /// How it is kept; `None` where it cannot be: not finite, or a word of another fact.
    #[doc(hidden)]
    fn to_bits(self, role: RoleId, slot: u8) -> Option<u32>;
}

impl FactType for bool {
    const KIND: FactKind = FactKind::Flag;
    fn to_bits(self, _: RoleId, _: u8) -> Option<u32> {
        Some(u32::from(self))
    }
}

impl FactType for i32 {
    const KIND: FactKind = FactKind::Whole;
    fn to_bits(self, _: RoleId, _: u8) -> Option<u32> {
        Some(self as u32)
    }
}

impl FactType for f32 {
    const KIND: FactKind = FactKind::Number;
    fn to_bits(self, _: RoleId, _: u8) -> Option<u32> {
        // So that −0 is no change from 0.
        self.is_finite().then(|| (self + 0.0).to_bits())
    }
}

impl FactType for ChoiceId {
    const KIND: FactKind = FactKind::Choice;
    fn to_bits(self, role: RoleId, slot: u8) -> Option<u32> {
        ((self.role, self.slot) == (role, slot)).then_some(u32::from(self.index))
    }
}

impl FactType for () {
    const KIND: FactKind = FactKind::Pulse;
    fn to_bits(self, _: RoleId, _: u8) -> Option<u32> {
        Some(0)
    }
}
