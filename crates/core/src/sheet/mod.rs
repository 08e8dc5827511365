//! Images cut into frames.

mod flips;
mod frame;
mod grid;
mod grid_error;
mod packed_frame;
mod pivot;

pub use flips::Flips;
pub use frame::{Frame, Rect};
pub use grid::Grid;
pub(crate) use grid_error::GridError;
pub use packed_frame::PackedFrame;
pub use pivot::Pivot;
pub(crate) use pivot::in_halves;
