//! What is made of reels for people: drawings, charts, animated images, checks, written files.
//!
//! The command and the examples stand on this; games do not need it. It may know everything of the
//! core and the assets.
//!
//! | module | what it does |
//! | --- | --- |
//! | [`check`](fn@check) | what loads, and is likely a mistake |
//! | [`pack`] | the reel file of a packed sheet |
//! | [`render`], [`AnimatedPng`] | a clip as GIF, APNG, series or strip |
//! | `chart` (feature `drawings`) | pictures of clips, for people |
//! | [`convert`] | reel files as TOML or JSON, and their schema |
//! | `edit` (feature `preview`) | durations changed in the text of a reel file |
//! | [`explain`] | which cue wins, and why |
//! | `preview` (feature `preview`) | a clip or a role played live, with edits; for windows and terminals |
//! | [`words`] | times, modes and names of clips in words |
//! | [`script`] | facts over time, for tools and tests |
//! | [`atomic_write`] | files that are written whole or not at all |

mod animated_png;
#[cfg(feature = "archive")]
pub mod archive;
pub mod atomic_write;
#[cfg(feature = "drawings")]
pub mod chart;
mod check;
pub mod convert;
#[cfg(feature = "drawings")]
mod drawing;
#[cfg(feature = "drawings")]
pub mod edit;
pub mod explain;
pub mod pack;
#[cfg(feature = "preview")]
pub mod preview;
pub mod render;
pub mod script;
// Charts and the preview read more of it than pictures do.
#[cfg_attr(not(feature = "preview"), allow(dead_code))]
mod timeline;
pub mod words;
mod write;

pub use animated_png::AnimatedPng;
pub use check::{CheckReport, check};
#[cfg(feature = "drawings")]
pub use drawing::Theme;
