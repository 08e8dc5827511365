//! Reel files and pictures for Lucky Reel, read into memory.
//!
//! Games reach this as `lucky_reel::assets`; it may know everything of the core, and nothing of the
//! tools or the command.
//!
//! | module | what it does |
//! | --- | --- |
//! | [`load`](fn@load), [`Loader`] | reel files and their pictures into a reel |
//! | [`LoadError`], [`Problem`] | what is wrong, where, and how to fix it |
//! | [`Pixels`] | pixels, and PNG in and out |
//! | `Watcher` (feature `watch`) | files that are edited while the game runs |
//! | [`animated`] | GIF, APNG and animated WebP, taken apart |
//! | `Atlas` (feature `atlas`) | the frames of all files on as few images as fit |
//! | `packing` (feature `atlas`) | pictures packed into one sheet |
//! | [`parse_time`], [`parse_rate`] | durations and frame rates as people write them |
//! | [`document`] | TOML and JSON as trees that know where they stand |

pub mod animated;
#[cfg(feature = "archive")]
mod archive;
mod art;
#[cfg(feature = "atlas")]
mod atlas;
mod decoding;
pub mod document;
#[cfg(feature = "report")]
mod drawn_report;
mod fault;
mod file_bytes;
mod file_names;
mod files;
mod index;
mod key_path;
mod limits;
mod loader;
#[cfg(feature = "atlas")]
pub mod packing;
mod pictures;
mod pixels;
mod printable;
mod problem;
mod problem_text;
mod reel_file;
mod report;
mod suggestion;
mod time_text;
#[cfg(feature = "watch")]
mod watch;

#[cfg(feature = "archive")]
pub use archive::Archive;
pub use art::Art;
#[cfg(feature = "atlas")]
pub use atlas::Atlas;
pub use fault::Fault;
pub use file_names::natural_order;
pub use files::Files;
pub use limits::Limits;
pub use loader::{Loader, load, load_all, load_bytes, load_reel};
pub use pictures::GridAdvice;
pub use pixels::{Pixels, PixelsError, PngHeader, blend_over};
pub use printable::printable;
pub use problem::{LoadError, Problem, ProblemSource, Severity};
pub use reel_file::{SheetSource, SourceFile, Sources};
pub use suggestion::did_you_mean;
pub use time_text::{ParseTimeError, parse_rate, parse_time};
#[cfg(feature = "watch")]
pub use watch::{Reload, Watcher};
