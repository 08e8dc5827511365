//! placeholder
pub use lucky_reel_core::*;
#[cfg(feature="assets")] pub use lucky_reel_assets as assets;
