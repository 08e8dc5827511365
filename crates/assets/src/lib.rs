//! Reel files and pictures for Lucky Reel: reading, drawing, writing.
//!
//! Games reach this as `lucky_reel::assets`; it may know everything of the core, and nothing of the
//! command.
//!
//! | module | what it does |
//! | --- | --- |
//! | [`load`](fn@load), [`Loader`] | reel files and their pictures into a reel |
//! | [`LoadError`], [`Problem`] | what is wrong, where, and how to mend it |
//! | [`picture`] | pixels, PNG in and out, moving pictures out |
//! | [`Canvas`] | draws views onto pixels, for examples, tools and tests |
//! | [`measure`](mod@measure) | how large the cells of a sheet are |
//! | [`film`] | GIF, APNG and animated WebP, taken apart |
//! | [`gather`](mod@gather) | loose pictures packed into one sheet |
//! | [`render`] | a clip as GIF, APNG, series or strip |
//! | [`chart`] | pictures of clips, for people |
//! | [`convert`](mod@convert) | reel files as TOML or JSON, and their schema |
//! | [`script`] | facts over time, for tools and tests |
//! | [`whole_file`] | files that are written whole or not at all |

mod art;
mod canvas;
pub mod chart;
mod check;
pub mod convert;
mod document;
pub mod film;
pub mod gather;
mod limits;
mod loader;
pub mod measure;
pub mod picture;
mod pictures;
mod problem;
mod reel_file;
pub mod render;
pub mod script;
mod source;
pub mod whole_file;

pub use art::Art;
pub use canvas::Canvas;
pub use limits::Limits;
pub use loader::{Loader, load, load_all, load_bytes, load_reel};
pub use picture::Picture;
pub use problem::{LoadError, Problem, Responsible, Severity};
