//! What to draw, and where: the way of a frame to the screen.
//!
//! # Pivot
//!
//! The pivot lands on the position given, whatever the flip, scale, turn or trim. Flipping mirrors
//! about the pivot. Pivots lie on pixel edges, halves are legal; whole-pixel blits floor after
//! flipping. Everything is y-down; a place may say [`y_up`](Placement::y_up). Corners run clockwise on
//! the screen from the top left.

mod area;
mod at_event;
mod blit;
mod bounds;
mod instance;
mod instances;
mod lay;
mod look_set;
mod placement;
mod point;
mod quad;
mod runs;
mod writer;

pub use area::Area;
pub use blit::Blit;
pub use instance::{Instance, InstanceAttribute, SmallInstance};
pub(crate) use instances::HasInstances;
pub use instances::Instances;
pub use look_set::LookSet;
pub use placement::Placement;
pub use quad::Quad;
pub use runs::ImageRun;
pub use writer::{InstanceBuffer, InstanceFormat, InstanceWriter};

use crate::ids::FrameId;
use crate::reel::Reel;
use crate::sheet::{Flips, Frame, PackedFrame};

/// What to draw now: a frame of a reel, and how it is mirrored.
///
/// ```
/// use lucky_reel_core::{Flips, Grid, NewClip, NewSheet, Pivot, Placement, Player, Reel};
///
/// let mut builder = Reel::builder();
/// let sheet = NewSheet::grid([128, 32], Grid::cell_size([32, 32])).pivot(Pivot::At([16.0, 30.0]));
/// let sheet = builder.sheet("bram", sheet);
/// let idle = builder.clip("idle", NewClip::of(sheet).frames([2]).fps(1));
/// let reel = builder.build()?;
///
/// let view = Player::new(&reel, idle).view(&reel).unwrap();
/// let quad = view.quad(Placement::at([100.0, 80.0]).scaled(2.0));
/// assert_eq!(quad.corners[0], [68.0, 20.0]); // 16 left and 30 up of the pivot, twice as large
/// assert_eq!(quad.uv[0], [0.5, 0.0]);
///
/// let blit = view.blit([100, 80], 1);
/// assert_eq!((blit.source.x, blit.at, blit.size), (64, [84, 50], [32, 32]));
/// # Ok::<(), lucky_reel_core::BuildError>(())
/// ```
#[derive(Clone, Copy, Debug)]
#[non_exhaustive]
pub struct View<'r> {
    /// The frame's number in the whole reel.
    pub id: FrameId,
    /// The frame: its image, what to cut from it, its untrimmed size and its pivot, all of them unflipped.
    pub frame: &'r Frame,
    /// How it is mirrored.
    pub flips: Flips,
    reel: &'r Reel,
}

impl PackedFrame {
    /// The view to draw; `None` when nothing is up.
    #[must_use]
    pub fn view(self, reel: &Reel) -> Option<View<'_>> {
        View::of(reel, self.frame()?, self.flips())
    }
}

impl<'r> View<'r> {
    /// A frame of a reel; `None` for an id that the reel does not have.
    #[must_use]
    pub fn of(reel: &'r Reel, frame: FrameId, flips: Flips) -> Option<View<'r>> {
        Some(View { id: frame, frame: reel.frame(frame)?, flips, reel })
    }

    /// The reel that the frame is of.
    #[must_use]
    #[inline]
    pub fn reel(&self) -> &'r Reel {
        self.reel
    }

    /// The edges of the drawn rectangle, in half pixels from the pivot, flips applied: the left or
    /// top one, and the right or bottom one.
    fn edges(&self, axis: usize) -> [i64; 2] {
        let source = [self.frame.source.width, self.frame.source.height];
        let first = 2 * i64::from(self.frame.shift[axis]) - i64::from(self.frame.pivot[axis]);
        let last = first + 2 * i64::from(source[axis]);
        let flipped = [self.flips.x, self.flips.y];
        if flipped[axis] { [-last, -first] } else { [first, last] }
    }
}
