//! What to draw, and where: the way of a frame to the screen.
//!
//! # Pivot
//!
//! The pivot lands on the position given, whatever the flip, scale, turn or trim. Flipping mirrors
//! about the pivot. Pivots lie on pixel edges, halves are legal; whole-pixel blits floor after
//! flipping. Everything is y-down; a place may say [`y_up`](Placement::y_up). Corners run clockwise on
//! the screen from the top left.

mod area;
mod area_grid;
mod at_event;
mod back_to_front;
mod blit;
mod bounds;
mod draw_list;
mod instance;
mod lay;
mod look_set;
mod placement;
mod point;
mod quad;
mod writer;

pub use area::Area;
pub use area_grid::AreaGrid;
pub use blit::Blit;
pub use draw_list::{DrawItem, DrawList};
pub use instance::{Instance, InstanceAttribute, SmallInstance};
pub use look_set::LookSet;
pub use placement::Placement;
pub use quad::Quad;
pub use writer::{InstanceBuffer, InstanceFormat, InstanceWriter};

use crate::ids::{FrameId, ImageId};
use crate::reel::Reel;
use crate::sheet::{Flips, Frame, PackedFrame, Rect};

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
pub struct View<'r> {
    reel: &'r Reel,
    id: FrameId,
    frame: &'r Frame,
    flips: Flips,
}

impl PackedFrame {
    /// The view to draw; `None` when nothing is up.
    #[must_use]
    pub fn view(self, reel: &Reel) -> Option<View<'_>> {
        View::of(reel, self.frame()?, self.flips())
    }
}

impl<'r> View<'r> {
    /// A frame of a reel; `None` for a foreign id.
    #[must_use]
    pub fn of(reel: &'r Reel, frame: FrameId, flips: Flips) -> Option<View<'r>> {
        Some(View { reel, id: frame, frame: reel.frame(frame)?, flips })
    }

    /// This picture in four bytes.
    #[must_use]
    pub fn packed_frame(&self) -> PackedFrame {
        PackedFrame::of(self.id, self.flips)
    }

    /// The frame's number in the whole reel.
    #[must_use]
    pub fn frame(&self) -> FrameId {
        self.id
    }

    /// The image to draw from.
    #[must_use]
    pub fn image(&self) -> ImageId {
        self.frame.image
    }

    /// What to cut from the image, in pixels.
    #[must_use]
    pub fn source(&self) -> Rect {
        self.frame.source
    }

    /// Width and height of the untrimmed frame, in pixels.
    #[must_use]
    pub fn size(&self) -> [u32; 2] {
        self.frame.size
    }

    /// Where the source lies in the untrimmed frame, unflipped: pixels right and down.
    #[must_use]
    pub fn shift(&self) -> [i32; 2] {
        self.frame.shift
    }

    /// The pivot in pixels from the untrimmed frame's top left, unflipped.
    #[must_use]
    pub fn pivot(&self) -> [f32; 2] {
        self.frame.pivot()
    }

    /// How it is mirrored.
    #[must_use]
    pub fn flips(&self) -> Flips {
        self.flips
    }

    /// The same picture, mirrored otherwise.
    #[must_use]
    pub fn flipped(self, flips: Flips) -> View<'r> {
        View { flips, ..self }
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
