//! Lucky Reel for games in C, C++ and whatever calls C. The header `include/lucky_reel.h` is made from what is
//! declared here; it begins with the rules that all functions follow.
//!
//! Every function is `unsafe` for one reason, which the header says once: pointers must point to what they say. They
//! come in raw, and become references in `from_c` alone, after they have been checked.

mod actor;
mod area;
mod art;
mod clock;
mod crowd;
mod event;
mod from_c;
mod group;
mod instances;
mod names;
mod picture;
mod player;
mod save;
mod status;

// What only C uses: numbers from C may be any, so that functions take them as numbers.
pub use actor::LuckyFacing;
pub use crowd::LuckyEventMask;

/// So many ticks are a second.
pub const LUCKY_TICKS_PER_SECOND: u64 = 72_072_000;
const _: () = assert!(LUCKY_TICKS_PER_SECOND == lucky_reel::Ticks::PER_SECOND);
