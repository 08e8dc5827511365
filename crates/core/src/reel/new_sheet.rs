use crate::sheet::{Grid, Pivot};

/// What a sheet shall be; [`ReelBuilder::sheet`](crate::ReelBuilder::sheet) takes it.
///
/// ```
/// use lucky_reel_core::{Grid, NewSheet, Pivot};
///
/// let sheet = NewSheet::grid([256, 128], Grid::cells([32, 32])).pivot(Pivot::At([16.0, 30.0]));
/// ```
#[derive(Clone, Copy, Debug)]
#[must_use = "give it to `ReelBuilder::sheet`"]
pub struct NewSheet {
    pub(crate) image: [u32; 2],
    pub(crate) grid: Grid,
    pub(crate) pivot: Pivot,
}

impl NewSheet {
    /// An image of this width and height in pixels, cut by a grid. The pivot is the centre.
    pub fn grid(image: [u32; 2], grid: Grid) -> NewSheet {
        NewSheet { image, grid, pivot: Pivot::Centre }
    }

    /// Another pivot for all of its frames.
    pub fn pivot(mut self, pivot: Pivot) -> NewSheet {
        self.pivot = pivot;
        self
    }
}
