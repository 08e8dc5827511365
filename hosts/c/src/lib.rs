//! Lucky Reel for games in C, C++ and whatever calls C. The header `include/lucky_reel.h` is made from what is
//! declared here; it begins with the rules that all functions follow.
//!
//! Pointers from C are declared as what they must be: `Option<&T>` is read and may be null, `Option<Box<T>>`
//! is taken over, `Option<&mut MaybeUninit<T>>` is written and need not be initialized. So `unsafe` is left to texts and lists, and to names that C can link.

mod actor;
mod art;
mod clock;
mod crowd;
mod event;
mod from_c;
mod names;
mod picture;
mod player;
mod status;

// What only C uses: numbers from C may be any, so that functions take them as numbers.
pub use actor::LuckyFacing;
pub use crowd::LuckyEventMask;

/// So many ticks are a second.
pub const LUCKY_TICKS_PER_SECOND: u64 = 72_072_000;
const _: () = assert!(LUCKY_TICKS_PER_SECOND == lucky_reel::Ticks::PER_SECOND);
