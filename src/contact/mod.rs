//! What touches what: areas that overlap, and drawings that share opaque pixels.
//!
//! It stands above the core, and uses its public names alone.

mod area_grid;
mod bits;
mod masks;
mod on_screen;
mod window;

pub use area_grid::AreaGrid;
pub use masks::{Masks, PictureAt};
