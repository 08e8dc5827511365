//! x
pub use lucky_reel_core::*;
