//! Reel files and pictures for Lucky Reel, read into memory.
//!
//! Games reach this as `lucky_reel::assets`; it may know everything of the core, and nothing of the
//! tools or the command.
//!
//! | module | what it does |
//! | --- | --- |
//! | [`load`](fn@load), [`Loader`] | reel files and their pictures into a reel |
//! | [`LoadError`], [`Problem`] | what is wrong, where, and how to fix it |
//! | [`picture`] | pixels, and PNG in and out |
//! | [`film`] | GIF, APNG and animated WebP, taken apart |
//! | [`packing`] | pictures packed into one sheet |
//! | [`document`] | TOML and JSON as trees that know where they stand |

mod art;
pub mod document;
mod file_names;
pub mod film;
mod limits;
mod loader;
pub mod packing;
pub mod picture;
mod pictures;
mod problem;
mod reel_file;
mod report;
mod source;

pub use art::Art;
pub use limits::Limits;
pub use loader::{Loader, load, load_all, load_bytes, load_reel};
pub use picture::Picture;
pub use problem::{LoadError, Problem, ProblemSource, Severity};
pub use reel_file::{SourceFile, Sources};
pub use report::printable;
