use alloc::vec::Vec;

use super::Rect;
use super::grid_error::{Axis, GridError, MAX_FRAMES, Reason};
use crate::order::by_number;

/// Cuts a sheet into equal cells, row by row, counted from 0.
///
/// ```
/// use lucky_reel_core::{Grid, Rect};
///
/// let frames = Grid::cell_size([32, 32]).cut([128, 64]).unwrap();
/// assert_eq!(frames.len(), 8);
/// assert_eq!(frames[5], Rect::new(32, 32, 32, 32)); // the second cell of the second row
///
/// assert_eq!(Grid::cell_size([30, 32]).cut([128, 64]), None); // 128 is no multiple of 30
/// ```
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Grid {
    cell: [u32; 2],
    start: [u32; 2],
    margin: [u32; 2],
    gap: [u32; 2],
    columns: Option<u32>,
    count: Option<u32>,
}

impl Grid {
    /// Cells of this width and height, in pixels.
    #[must_use]
    pub const fn cell_size(cell: [u32; 2]) -> Grid {
        Grid { cell, start: [0, 0], margin: [0, 0], gap: [0, 0], columns: None, count: None }
    }

    /// Where the grid begins, in pixels from the image's top left; no cell lies before it.
    #[must_use]
    pub const fn start(mut self, start: [u32; 2]) -> Grid {
        self.start = start;
        self
    }

    /// Margin around all cells in pixels, across (left and right) and down (above and below).
    #[must_use]
    pub const fn margin(mut self, margin: [u32; 2]) -> Grid {
        self.margin = margin;
        self
    }

    /// Gap between two cells in pixels, across and down.
    #[must_use]
    pub const fn gap(mut self, gap: [u32; 2]) -> Grid {
        self.gap = gap;
        self
    }

    /// How many cells a row has. Space left over on the right is then fine.
    #[must_use]
    pub const fn columns(mut self, columns: u32) -> Grid {
        self.columns = Some(columns);
        self
    }

    /// How many cells there are in all. Space left over below is then fine.
    #[must_use]
    pub const fn count(mut self, count: u32) -> Grid {
        self.count = Some(count);
        self
    }

    /// How many columns and rows this grid has on an image of this size, in pixels. `None` when the cells do not
    /// fill the image evenly, or do not fit at all: a builder that is given the grid says what would fit.
    #[must_use]
    pub fn columns_and_rows(&self, image: [u32; 2]) -> Option<[u32; 2]> {
        self.fit(image).ok()
    }

    /// The rectangles of all cells on an image of this size, in pixels; `None` as for
    /// [`columns_and_rows`](Grid::columns_and_rows).
    #[must_use]
    pub fn cut(&self, image: [u32; 2]) -> Option<Vec<Rect>> {
        self.cells(image).ok()
    }

    /// Columns and rows, or what does not fit and what would.
    fn fit(&self, image: [u32; 2]) -> Result<[u32; 2], GridError> {
        let fail = |axis, key, why| Err(GridError { axis, key, why });
        if self.cell.contains(&0) {
            return fail(Axis::Across, "cell", Reason::NoSize);
        }
        if self.columns == Some(0) {
            return fail(Axis::Across, "columns", Reason::NoCells);
        }
        if self.count == Some(0) {
            return fail(Axis::Down, "count", Reason::NoCells);
        }
        let columns = self.along(Axis::Across, image[0], self.columns)?;
        let rows = self.along(Axis::Down, image[1], self.count.map(|n| n.div_ceil(columns)))?;
        let cells = u64::from(columns) * u64::from(rows);
        if cells > MAX_FRAMES {
            return fail(Axis::Across, "cell", Reason::TooMany(cells));
        }
        Ok([columns, rows])
    }

    /// All cells, or what does not fit and what would.
    pub(crate) fn cells(&self, image: [u32; 2]) -> Result<Vec<Rect>, GridError> {
        let [columns, rows] = self.fit(image)?;
        let count = self.count.unwrap_or(columns * rows);
        let start = |axis: usize, index: u32| {
            // All of it lies within the image, so it fits; 64 bits for what lies in between.
            let step = u64::from(self.cell[axis]) + u64::from(self.gap[axis]);
            self.start[axis] + self.margin[axis] + (u64::from(index) * step) as u32
        };
        let mut cells = Vec::with_capacity(count as usize);
        for index in 0..count {
            let (x, y) = (start(0, index % columns), start(1, index / columns));
            cells.push(Rect::new(x, y, self.cell[0], self.cell[1]));
        }
        Ok(cells)
    }

    /// How many cells stand along one axis; `wanted` of them, if that many fit.
    fn along(&self, axis: Axis, size: u32, wanted: Option<u32>) -> Result<u32, GridError> {
        let index = axis as usize;
        let (cell, gap) = (u64::from(self.cell[index]), u64::from(self.gap[index]));
        let begun = size.saturating_sub(self.start[index]);
        let (image, margin) = (u64::from(begun), u64::from(self.margin[index]));
        // With one gap more than there are, every cell has a gap of its own.
        let room = (image + gap).saturating_sub(2 * margin);
        let fitting = room / (cell + gap);
        let misfit = |why| GridError { axis, key: axis.key(wanted.is_some()), why };
        match wanted {
            Some(wanted) if u64::from(wanted) > fitting => {
                Err(misfit(Reason::TooFew { wanted, fitting, cell, image }))
            }
            Some(wanted) => Ok(wanted),
            None if fitting == 0 || room % (cell + gap) != 0 => Err(misfit(Reason::Uneven {
                cell,
                image,
                plain: margin == 0 && gap == 0 && self.start[index] == 0,
                fits: sizes_that_fit(room, gap, cell),
                spaces: spaces_that_fit(image, cell, [margin, gap]),
            })),
            None => u32::try_from(fitting).map_err(|_| misfit(Reason::TooMany(fitting))),
        }
    }
}

/// The margins and gaps nearest to the given ones with which cells of this size fill the image evenly;
/// none where neither was given.
fn spaces_that_fit(image: u64, cell: u64, [margin, gap]: [u64; 2]) -> Vec<[u64; 2]> {
    if margin == 0 && gap == 0 {
        return Vec::new();
    }
    const MOST: u64 = 32;
    let all = (0..=MOST).flat_map(|margin| (0..=MOST).map(move |gap| [margin, gap]));
    let fits: Vec<[u64; 2]> = all
        .filter(|[margin, gap]| {
            let room = (image + gap).saturating_sub(2 * margin);
            room > 0 && room.is_multiple_of(cell + gap)
        })
        .collect();
    let mut fits = by_number(fits, |fit| fit[0].abs_diff(margin) + fit[1].abs_diff(gap));
    fits.truncate(3);
    fits
}

/// The cell sizes nearest to `cell` that fill `room` evenly, smallest first.
fn sizes_that_fit(room: u64, gap: u64, cell: u64) -> Vec<u64> {
    let fits: Vec<u64> = (1..=room.min(4_096))
        .filter(|count| room.is_multiple_of(*count) && room / count > gap)
        .map(|count| room / count - gap)
        .collect();
    let mut fits = by_number(fits, |fit| fit.abs_diff(cell));
    fits.truncate(4);
    fits.sort_unstable();
    fits
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        /// Cells that were laid out by hand are found again, in order, whatever lies around them.
        #[test]
        fn cells_laid_out_by_hand_are_cut_again(
            cell in [1_u32..40, 1_u32..40], margin in [0_u32..9, 0_u32..9], gap in [0_u32..9, 0_u32..9],
            columns in 1_u32..9, rows in 1_u32..9, left_over in 0_u32..5, start in [0_u32..9, 0_u32..9],
        ) {
            let size = |i: usize, n: u32| start[i] + 2 * margin[i] + n * cell[i] + (n - 1) * gap[i];
            let mut by_hand = Vec::new();
            for row in 0..rows {
                for column in 0..columns {
                    let at = |i: usize, n: u32| start[i] + margin[i] + n * (cell[i] + gap[i]);
                    by_hand.push(Rect::new(at(0, column), at(1, row), cell[0], cell[1]));
                }
            }
            let grid = Grid::cell_size(cell).start(start).margin(margin).gap(gap);
            let image = [size(0, columns), size(1, rows)];
            prop_assert_eq!(&grid.cut(image).unwrap(), &by_hand);
            prop_assert!(by_hand.iter().all(|cell| Rect::fits(image, *cell)));

            let ragged = [image[0] + left_over, image[1] + left_over];
            let count = columns * rows - left_over.min(columns - 1);
            let cut = grid.columns(columns).count(count).cut(ragged).unwrap();
            prop_assert_eq!(&cut[..], &by_hand[..count as usize]);
        }

        /// Every size that a refusal names does fit.
        #[test]
        fn sizes_named_by_a_refusal_fit(cell in [1_u32..70, 1_u32..70], gap in 0_u32..3, image in [1_u32..200, 1_u32..200]) {
            if let Err(GridError { axis, why: Reason::Uneven { fits, .. }, .. }) =
                Grid::cell_size(cell).gap([gap, gap]).cells(image)
            {
                for fit in fits {
                    let mut fitted = cell;
                    fitted[axis as usize] = fit as u32;
                    let again = Grid::cell_size(fitted).gap([gap, gap]).cells(image);
                    prop_assert!(!matches!(again, Err(GridError { axis: a, .. }) if a == axis), "{}", fit);
                }
            }
        }
    }
}
