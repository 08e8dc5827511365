use alloc::vec::Vec;

use crate::sheet::{Grid, Pivot, Rect};

/// What a sheet shall be; [`ReelBuilder::sheet`](crate::ReelBuilder::sheet) takes it.
///
/// ```
/// use lucky_reel_core::{Grid, NewFrame, NewSheet, Pivot, Rect};
///
/// let even = NewSheet::grid([256, 128], Grid::cells([32, 32])).pivot(Pivot::At([16.0, 30.0]));
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
}

/// How an image is cut into frames.
#[derive(Clone, Debug)]
pub(crate) enum Cut {
    Grid(Grid),
    Frames(Vec<NewFrame>),
}

impl NewSheet {
    /// An image of this width and height in pixels, cut by a grid. The pivot is the centre.
    pub fn grid(image: [u32; 2], grid: Grid) -> NewSheet {
        NewSheet { image, cut: Cut::Grid(grid), pivot: Pivot::Centre }
    }

    /// An image of this width and height in pixels, cut into frames one by one, numbered from 0. The
    /// pivot is the centre of each.
    pub fn frames(image: [u32; 2], frames: impl IntoIterator<Item = NewFrame>) -> NewSheet {
        let cut = Cut::Frames(frames.into_iter().collect());
        NewSheet { image, cut, pivot: Pivot::Centre }
    }

    /// Another pivot for all of its frames but those that have their own.
    pub fn pivot(mut self, pivot: Pivot) -> NewSheet {
        self.pivot = pivot;
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
    /// down from its top left. Pivots are reckoned from the untrimmed frame.
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
