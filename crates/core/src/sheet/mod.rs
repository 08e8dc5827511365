//! Images cut into frames.

mod frame;
mod grid;

pub use frame::{Frame, Pivot, Rect};
pub use grid::{Grid, GridError};
