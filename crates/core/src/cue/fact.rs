use alloc::string::{String, ToString};
use alloc::vec::Vec;
use core::cmp::Ordering;
use core::fmt;
use core::hash::{Hash, Hasher};
use core::marker::PhantomData;

use crate::ids::RoleId;
use crate::time::ExactTime;

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
        let role = RoleId::from_bits(bits >> 8 & (1 << 48) - 1);
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

/// The kind of a fact.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
#[non_exhaustive]
pub enum FactKind {
    /// Yes or no.
    Flag,
    /// A whole number.
    Whole,
    /// A number.
    Number,
    /// One of a closed list of choices.
    Choice,
    /// Yes for an instant, or for a stated time; it falls by itself.
    Pulse,
}

/// What it is, in words: `a whole number`.
impl fmt::Display for FactKind {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(self.describe())
    }
}

impl FactKind {
    pub(crate) const fn describe(self) -> &'static str {
        match self {
            FactKind::Flag => "yes or no",
            FactKind::Whole => "a whole number",
            FactKind::Number => "a number",
            FactKind::Choice => "one of its choices",
            FactKind::Pulse => "a pulse",
        }
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

/// What a fact can be: `bool`, `i32`, `f32`, [`ChoiceId`], and `()` for a pulse.
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

/// A value of a fact, as files and tools write it.
#[derive(Clone, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
#[non_exhaustive]
pub enum FactValue {
    /// Yes or no; of a pulse, whether it is up.
    Flag(bool),
    /// A whole number.
    Whole(i32),
    /// A number.
    Number(f32),
    /// A word.
    Choice(String),
}

impl From<bool> for FactValue {
    fn from(value: bool) -> FactValue {
        FactValue::Flag(value)
    }
}

impl From<i32> for FactValue {
    fn from(value: i32) -> FactValue {
        FactValue::Whole(value)
    }
}

impl From<f32> for FactValue {
    fn from(value: f32) -> FactValue {
        FactValue::Number(value)
    }
}

impl From<&str> for FactValue {
    fn from(value: &str) -> FactValue {
        FactValue::Choice(value.to_string())
    }
}

impl fmt::Display for FactValue {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            FactValue::Flag(value) => write!(f, "{value}"),
            FactValue::Whole(value) => write!(f, "{value}"),
            FactValue::Number(value) => write!(f, "{value}"),
            FactValue::Choice(value) => f.write_str(value),
        }
    }
}

/// Describes a fact to build; [`ReelBuilder::fact`](crate::ReelBuilder::fact) takes it. A plain value
/// makes a fact of its type with this default.
#[derive(Clone, Debug)]
pub struct NewFact {
    pub(crate) kind: FactKind,
    pub(crate) default: FactValue,
    pub(crate) choices: Vec<String>,
    pub(crate) duration: ExactTime,
}

impl NewFact {
    fn of(kind: FactKind, default: FactValue) -> NewFact {
        NewFact { kind, default, choices: Vec::new(), duration: ExactTime::ZERO }
    }

    /// A fact that is one of these choices; the first is the default.
    #[must_use]
    pub fn choices<W: Into<String>>(choices: impl IntoIterator<Item = W>) -> NewFact {
        let choices: Vec<String> = choices.into_iter().map(Into::into).collect();
        let first = choices.first().cloned().unwrap_or_default();
        NewFact { choices, ..NewFact::of(FactKind::Choice, FactValue::Choice(first)) }
    }

    /// The default choice.
    #[must_use]
    pub fn starting_as(mut self, choice: impl Into<String>) -> NewFact {
        self.default = FactValue::Choice(choice.into());
        self
    }

    /// A pulse: true for one instant.
    #[must_use]
    pub fn pulse() -> NewFact {
        NewFact::of(FactKind::Pulse, FactValue::Flag(false))
    }

    /// A pulse that stays true for this long, at most 59 seconds, so that a press just before its time
    /// still counts.
    #[must_use]
    pub fn pulse_for(time: impl Into<ExactTime>) -> NewFact {
        NewFact { duration: time.into(), ..NewFact::pulse() }
    }
}

impl From<bool> for NewFact {
    fn from(value: bool) -> NewFact {
        NewFact::of(FactKind::Flag, value.into())
    }
}

impl From<i32> for NewFact {
    fn from(value: i32) -> NewFact {
        NewFact::of(FactKind::Whole, value.into())
    }
}

impl From<f32> for NewFact {
    fn from(value: f32) -> NewFact {
        NewFact::of(FactKind::Number, value.into())
    }
}
