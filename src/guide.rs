//! The guide: longer texts, whose examples run like all others.

/// Ticks, clocks, fixed and variable steps, and the mistakes they prevent.
#[doc = include_str!("../docs/guide/time.md")]
pub mod time {}

/// Measuring a sheet, images of all kinds, one page of art, and likely mistakes.
#[cfg(feature = "assets")]
#[doc = include_str!("../docs/guide/sheets.md")]
pub mod sheets {}

/// Players: start, stop, attacks with a window, a drawn result, saving and rolling back.
#[cfg(feature = "assets")]
#[doc = include_str!("../docs/guide/playing.md")]
pub mod playing {}

/// Sizes, areas, masks: where things are and what they touch.
#[cfg(feature = "assets")]
#[doc = include_str!("../docs/guide/touching.md")]
pub mod touching {}

/// Every key of `NAME.reel.toml`, with its values.
#[cfg(feature = "assets")]
#[doc = include_str!("../docs/guide/reel-file.md")]
pub mod reel_file {}

/// Facts, cues, bridges, facings and looks: which clip plays when.
#[cfg(feature = "assets")]
#[doc = include_str!("../docs/guide/cues.md")]
pub mod cues {}

/// Reloading while the game runs, a live preview, and pictures of time.
#[cfg(feature = "watch")]
#[doc = include_str!("../docs/guide/tuning.md")]
pub mod tuning {}

/// A folder, files in the program, one archive, a pack of your own.
#[cfg(feature = "archive")]
#[doc = include_str!("../docs/guide/shipping.md")]
pub mod shipping {}

/// Crowds, tiles, and the way to the screen.
#[cfg(feature = "assets")]
#[doc = include_str!("../docs/guide/crowds.md")]
pub mod crowds {}

/// The page that greets newcomers; its code is checked here.
#[cfg(all(doctest, feature = "assets"))]
#[doc = include_str!("../README.md")]
mod readme {}
