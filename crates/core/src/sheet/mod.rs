//! Images cut into frames.

mod frame;
mod grid;
mod pivot;

pub use frame::{Frame, Rect};
pub use grid::{Grid, GridError};
pub use pivot::Pivot;
pub(crate) use pivot::in_halves;
