//! Keys of the data on marks, by the type of their values.

use alloc::string::String;
use core::fmt;
use core::hash::{Hash, Hasher};
use core::marker::PhantomData;

use crate::cue::FactKind;
use crate::ids::Family;

/// A key of the data on marks, by the type of its values: `DataKey<i32>`, `DataKey<f32>`, `DataKey<bool>`, and
/// `DataKey<str>` for texts. [`Reel::id`](crate::Reel::id) looks it up, once; [`Event::get`](crate::Event::get) reads by it.
pub struct DataKey<T: ?Sized> {
    pub(crate) family: Family,
    pub(crate) number: u16,
    kind: PhantomData<fn() -> *const T>,
}

impl<T: DataType + ?Sized> DataKey<T> {
    pub(crate) const fn new(family: Family, number: u16) -> DataKey<T> {
        DataKey { family, number, kind: PhantomData }
    }

    /// The number itself, from 0.
    #[must_use]
    pub const fn index(self) -> usize {
        self.number as usize
    }

    /// The key as a number, for code that keeps it outside Rust. It holds as long as the process runs: save names
    /// instead.
    #[must_use]
    pub const fn to_bits(self) -> u64 {
        (T::KIND as u64) << 56 | (self.family.to_bits() as u64) << 16 | self.number as u64
    }

    /// The key that `to_bits` gave. Any number is accepted; what no reel gave, and the number of a key of another type,
    /// is refused like a key of another reel.
    #[must_use]
    pub const fn from_bits(bits: u64) -> DataKey<T> {
        let is_of_type = bits >> 56 == T::KIND as u64;
        let family = if is_of_type { (bits >> 16) as u32 } else { 0 };
        DataKey::new(Family::from_bits(family), bits as u16)
    }

    pub(crate) fn number_in(self, family: Family) -> Option<u16> {
        (self.family == family).then_some(self.number)
    }
}

impl<T: ?Sized> Clone for DataKey<T> {
    fn clone(&self) -> DataKey<T> {
        *self
    }
}

impl<T: ?Sized> Copy for DataKey<T> {}

impl<T: ?Sized> PartialEq for DataKey<T> {
    fn eq(&self, other: &DataKey<T>) -> bool {
        (self.family, self.number) == (other.family, other.number)
    }
}

impl<T: ?Sized> Eq for DataKey<T> {}

impl<T: ?Sized> PartialOrd for DataKey<T> {
    fn partial_cmp(&self, other: &DataKey<T>) -> Option<core::cmp::Ordering> {
        Some(self.cmp(other))
    }
}

impl<T: ?Sized> Ord for DataKey<T> {
    fn cmp(&self, other: &DataKey<T>) -> core::cmp::Ordering {
        (self.family, self.number).cmp(&(other.family, other.number))
    }
}

impl<T: ?Sized> Hash for DataKey<T> {
    fn hash<H: Hasher>(&self, state: &mut H) {
        self.number.hash(state);
    }
}

impl<T: ?Sized> fmt::Debug for DataKey<T> {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "DataKey({})", self.number)
    }
}

mod sealed {
    pub trait Sealed {}
    impl Sealed for bool {}
    impl Sealed for i32 {}
    impl Sealed for f32 {}
    impl Sealed for str {}
}

/// What a datum on a mark can be: `bool`, `i32`, `f32`, and `str`. The trait is sealed.
pub trait DataType: sealed::Sealed {
    /// What is read: the value itself, or a text of the reel.
    type Value<'r>;
    #[doc(hidden)]
    const KIND: FactKind;
    #[doc(hidden)]
    fn read(bits: u32, texts: &[String]) -> Option<Self::Value<'_>>;
}

impl DataType for bool {
    type Value<'r> = bool;
    const KIND: FactKind = FactKind::Flag;
    fn read(bits: u32, _: &[String]) -> Option<bool> {
        Some(bits != 0)
    }
}

impl DataType for i32 {
    type Value<'r> = i32;
    const KIND: FactKind = FactKind::Whole;
    fn read(bits: u32, _: &[String]) -> Option<i32> {
        Some(bits as i32)
    }
}

impl DataType for f32 {
    type Value<'r> = f32;
    const KIND: FactKind = FactKind::Number;
    fn read(bits: u32, _: &[String]) -> Option<f32> {
        Some(f32::from_bits(bits))
    }
}

impl DataType for str {
    type Value<'r> = &'r str;
    const KIND: FactKind = FactKind::Choice;
    fn read(bits: u32, texts: &[String]) -> Option<&str> {
        texts.get(bits as usize).map(String::as_str)
    }
}
