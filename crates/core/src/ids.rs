//! Numbers with a type.
//!
//! An id that stands for a name carries the *family* of its reel: all versions of one reel are of one
//! family, and no two reels that were begun separately are. So an id of another reel is refused, and is
//! never read as another thing of this one.

use core::fmt;
use core::hash::{Hash, Hasher};
use core::num::NonZeroU32;
use core::sync::atomic::{AtomicU32, Ordering};

/// Which reel an id, a player or a build belongs to: shared by all versions of it.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub(crate) struct Family(NonZeroU32);

impl Family {
    /// A family that no other reel of this process has.
    pub(crate) fn new() -> Family {
        static NEXT: AtomicU32 = AtomicU32::new(1);
        Family(NonZeroU32::new(NEXT.fetch_add(1, Ordering::Relaxed)).unwrap_or(NonZeroU32::MAX))
    }

    pub(crate) const fn to_bits(self) -> u32 {
        self.0.get()
    }

    /// What no family has, 0, becomes the one that is handed out last.
    pub(crate) const fn from_bits(bits: u32) -> Family {
        match NonZeroU32::new(bits) {
            Some(number) => Family(number),
            None => Family(NonZeroU32::MAX),
        }
    }
}

/// The number that stands for no name; no reel hands it out.
pub(crate) const NONE: u16 = u16::MAX;

macro_rules! id {
    ($(#[$doc:meta])* $name:ident) => {
        $(#[$doc])*
        ///
        /// Another reel than its own refuses it; every version of its own takes it as long as the name
        /// is there.
        #[derive(Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
        pub struct $name {
            pub(crate) family: Family,
            pub(crate) number: u16,
        }

        impl $name {
            #[inline]
            pub(crate) const fn new(family: Family, number: u16) -> $name {
                $name { family, number }
            }

            /// The number itself, from 0: dense as long as no reload takes names away.
            #[must_use]
            #[inline]
            pub const fn index(self) -> usize {
                self.number as usize
            }

            /// The id as a number, for code that keeps it outside Rust; 48 bits are used. It holds as long
            /// as the process runs: save names instead.
            #[must_use]
            pub const fn to_bits(self) -> u64 {
                (self.family.to_bits() as u64) << 16 | self.number as u64
            }

            /// The id that `to_bits` gave. Any number is accepted; what no reel gave is refused like an id
            /// of another reel, or like one whose name is gone.
            #[must_use]
            pub const fn from_bits(bits: u64) -> $name {
                $name { family: Family::from_bits((bits >> 16) as u32), number: bits as u16 }
            }

            /// The number, where it is of this family.
            #[inline]
            #[allow(dead_code)] // not every kind is looked up by its number
            pub(crate) fn number_in(self, family: Family) -> Option<u16> {
                (self.family == family).then_some(self.number)
            }
        }

        /// Ids of one reel hash by their numbers, the same in every run.
        impl Hash for $name {
            fn hash<H: Hasher>(&self, state: &mut H) {
                self.number.hash(state);
            }
        }

        impl fmt::Debug for $name {
            fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
                f.debug_tuple(stringify!($name)).field(&self.number).finish()
            }
        }
    };
}

id! {
    /// A clip of a reel.
    ClipId
}
id! {
    /// A sheet of a reel.
    SheetId
}
id! {
    /// The name of a mark.
    MarkId
}
id! {
    /// The name of a span.
    SpanId
}
id! {
    /// The name of a point of frames.
    PointId
}
id! {
    /// The name of an area of frames.
    AreaId
}
id! {
    /// A role of a reel that has cues.
    RoleId
}
id! {
    /// A facing set of a reel.
    FacingSetId
}
id! {
    /// A look of a reel.
    LookId
}
id! {
    /// A cue of a reel.
    CueId
}
id! {
    /// A bridge of a reel.
    BridgeId
}

macro_rules! index {
    ($(#[$doc:meta])* $name:ident($number:ty)) => {
        $(#[$doc])*
        ///
        /// A plain index of one build: it stands for no name, so it is not kept from reload to reload.
        #[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
        #[repr(transparent)]
        pub struct $name(pub(crate) $number);

        impl $name {
            /// The number itself: dense, from 0.
            #[must_use]
            #[inline]
            pub const fn index(self) -> usize {
                self.0 as usize
            }
        }
    };
}

index! {
    /// An image of a reel: an index over all of its images.
    ImageId(u16)
}
index! {
    /// A frame of a reel: an index over all frames of all of its sheets.
    FrameId(u32)
}
