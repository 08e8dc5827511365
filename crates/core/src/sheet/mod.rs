//! Images cut into frames.

mod flips;
mod frame;
mod grid;
mod packed_frame;
mod pivot;

pub use flips::Flips;
pub use frame::{Frame, Rect};
pub use grid::{Grid, GridError};
pub use packed_frame::PackedFrame;
pub use pivot::Pivot;
pub(crate) use pivot::in_halves;
