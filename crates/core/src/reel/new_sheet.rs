use alloc::string::String;
use alloc::vec::Vec;
use core::ops::{Bound, RangeBounds};

use crate::ids::SheetId;
use crate::sheet::{Grid, Pivot, Rect};

/// Describes a sheet to build; [`ReelBuilder::sheet`](crate::ReelBuilder::sheet) takes it.
///
/// ```
/// use lucky_reel_core::{Grid, NewFrame, NewSheet, Pivot, Rect};
///
/// let even = NewSheet::grid([256, 128], Grid::cell_size([32, 32])).pivot(Pivot::At([16.0, 30.0]));
/// let odd = NewSheet::frames([64, 64], [
///     NewFrame::at(Rect::new(0, 0, 20, 31)),
///     NewFrame::at(Rect::new(20, 0, 18, 24)).trimmed_from([20, 31], [1, 7]),
/// ]);
/// ```
#[derive(Clone, Debug)]
#[must_use = "give it to `ReelBuilder::sheet`"]
pub struct NewSheet {
    pub(crate) image: [u32; 2],
    pub(crate) cut: Cut,
    pub(crate) pivot: Pivot,
    pub(crate) points: Vec<NewPoint>,
    pub(crate) areas: Vec<NewArea>,
    pub(crate) shares: Option<SheetId>,
}

/// A named place on a frame.
#[derive(Clone, Debug)]
pub(crate) struct NewPoint {
    pub(crate) name: String,
    pub(crate) frame: u32,
    pub(crate) at: [f32; 2],
}

/// A named rectangle on frames.
#[derive(Clone, Debug)]
pub(crate) struct NewArea {
    pub(crate) name: String,
    pub(crate) frames: (Bound<u32>, Bound<u32>),
    /// Left, top, width and height.
    pub(crate) at: [f32; 4],
}

/// How an image is cut into frames.
#[derive(Clone, Debug)]
pub(crate) enum Cut {
    Grid(Grid),
    Frames(Vec<NewFrame>),
}

impl NewSheet {
    /// An image of this width and height in pixels, cut by a grid. The pivot is the center.
    pub fn grid(image: [u32; 2], grid: Grid) -> NewSheet {
        NewSheet::new(image, Cut::Grid(grid))
    }

    /// An image of this width and height in pixels, cut into frames one by one, numbered from 0. The
    /// pivot is the center of each.
    pub fn frames(image: [u32; 2], frames: impl IntoIterator<Item = NewFrame>) -> NewSheet {
        NewSheet::new(image, Cut::Frames(frames.into_iter().collect()))
    }

    fn new(image: [u32; 2], cut: Cut) -> NewSheet {
        let (points, areas) = (Vec::new(), Vec::new());
        NewSheet { image, cut, pivot: Pivot::Center, points, areas, shares: None }
    }

    /// The pivot of all frames that have none of their own.
    pub fn pivot(mut self, pivot: Pivot) -> NewSheet {
        self.pivot = pivot;
        self
    }

    /// Uses the image of a sheet added before, cut differently: renderers upload it once. A sheet of
    /// another size keeps an image of its own.
    pub fn on_image_of(mut self, other: SheetId) -> NewSheet {
        self.shares = Some(other);
        self
    }

    /// A named place on one of its frames, such as the hand that a lantern hangs from: whole or half
    /// pixels from the top left of the untrimmed frame. [`View::point`](crate::View::point) hands it
    /// out, mirrored with the art.
    pub fn point(mut self, name: impl Into<String>, frame: u32, at: [f32; 2]) -> NewSheet {
        self.points.push(NewPoint { name: name.into(), frame, at });
        self
    }

    /// A named rectangle on some of its frames (`..` for all, `3..=5`), such as what can be hit: left,
    /// top, width and height in whole or half pixels from the top left of the untrimmed frame. Given
    /// again for a frame, it replaces what was given before.
    /// [`View::area`](crate::View::area) hands it out, mirrored with the art.
    pub fn area(
        mut self,
        name: impl Into<String>,
        frames: impl RangeBounds<u32>,
        at: [f32; 4],
    ) -> NewSheet {
        let frames = (frames.start_bound().cloned(), frames.end_bound().cloned());
        self.areas.push(NewArea { name: name.into(), frames, at });
        self
    }
}

/// One frame of a sheet that is not cut by a grid.
#[derive(Clone, Copy, Debug)]
pub struct NewFrame {
    pub(crate) source: Rect,
    pub(crate) size: [u32; 2],
    pub(crate) shift: [u32; 2],
    pub(crate) pivot: Option<Pivot>,
}

impl NewFrame {
    /// A rectangle of the image, untrimmed.
    #[must_use]
    pub fn at(source: Rect) -> NewFrame {
        NewFrame { source, size: [source.width, source.height], shift: [0, 0], pivot: None }
    }

    /// The rectangle is what is left of a frame of this size, and stood there in it: pixels right and
    /// down from its top left. Pivots are relative to the untrimmed frame.
    #[must_use]
    pub fn trimmed_from(mut self, size: [u32; 2], shift: [u32; 2]) -> NewFrame {
        (self.size, self.shift) = (size, shift);
        self
    }

    /// The rectangle of the image.
    #[must_use]
    pub fn source(&self) -> Rect {
        self.source
    }

    /// A pivot of its own.
    #[must_use]
    pub fn pivot(mut self, pivot: Pivot) -> NewFrame {
        self.pivot = Some(pivot);
        self
    }
}
