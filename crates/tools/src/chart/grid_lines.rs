use lucky_reel_core::{Grid, Rect, View};

use crate::drawing::{Drawing, Ink, Theme};
use lucky_reel_assets::Pixels;

/// Pixels around the art, for the numbers.
const BESIDE: u32 = 44;
const ABOVE: u32 = 28;
/// The art is upscaled to about this size, a cell to this at least.
const ROOM: [u32; 2] = [1_200, 740];
const LEAST_CELL: u32 = 12;
const LETTER: f32 = 12.0;

/// Draws a sheet with grid lines, upscaled so that it can be read, the numbers of its columns above it,
/// those of its rows on the left, and on the right the first and last frame of each row. Of views of frames
/// that are cut from the picture, their pivots, points and areas are drawn besides.
///
/// `None` when the grid does not fit the picture, or the drawing would be too large.
///
/// ```
/// use lucky_reel_assets::Pixels;
/// use lucky_reel_tools::chart;
/// use lucky_reel_core::Grid;
///
/// let picture = Pixels::new([64, 32]).unwrap();
/// assert!(chart::with_grid_lines(&picture, Grid::cell_size([32, 32]), &[]).is_some());
/// assert!(chart::with_grid_lines(&picture, Grid::cell_size([30, 32]), &[]).is_none());
/// ```
#[must_use]
pub fn with_grid_lines(picture: &Pixels, grid: Grid, views: &[View<'_>]) -> Option<Pixels> {
    let [columns, _] = grid.columns_and_rows(picture.size())?;
    let cells = grid.cut(picture.size())?;
    let [width, height] = picture.size();
    let by_room = (ROOM[0] / width.max(1)).min(ROOM[1] / height.max(1));
    let cell = cells.first().map(|cell| [cell.width, cell.height])?;
    let by_cell = LEAST_CELL.div_ceil(cell[0].min(cell[1]).max(1));
    let scale = by_room.max(by_cell).clamp(1, 16);
    let upscaled = picture.upscaled(scale)?;
    let size = upscaled.size();
    let outer = [size[0].checked_add(BESIDE + 2 * BESIDE)?, size[1].checked_add(2 * ABOVE)?];
    let mut sheet = Drawing::new(outer, Theme::Dark)?;
    let corner = [BESIDE, ABOVE].map(|side| side as i32);
    sheet.checks(corner, size);
    sheet.picture(picture.clone(), corner, scale);
    let placed = |cell: &Rect| {
        let at = [corner[0] + (cell.x * scale) as i32, corner[1] + (cell.y * scale) as i32];
        (at, [cell.width, cell.height].map(|side| (side * scale) as i32))
    };
    for cell in &cells {
        let (at, size) = placed(cell);
        sheet.frame(at, size, Ink::Span);
    }
    for view in views {
        draw_named(&mut sheet, view, corner, scale);
    }
    // Where cells are narrow, every second, fifth or tenth column has its number.
    let last = columns.saturating_sub(1);
    let wide = sheet.width(LETTER, &last.to_string()) + 6;
    let step = step_for(wide, cell[0] * scale);
    for (column, cell) in cells.iter().enumerate().take(columns as usize).step_by(step) {
        let ([x, _], [width, _]) = placed(cell);
        let text = column.to_string();
        let left = x + (width - sheet.width(LETTER, &text)) / 2;
        sheet.write([left, corner[1] - 8], LETTER, Ink::Mark, &text);
    }
    let step = step_for(LETTER as i32 + 2, cell[1] * scale);
    for (row, cells) in cells.chunks(columns as usize).enumerate().step_by(step) {
        let ([_, y], [_, height]) = placed(&cells[0]);
        let base = y + height / 2 + 4;
        let text = row.to_string();
        let left = corner[0] - 8 - sheet.width(LETTER, &text);
        sheet.write([left, base], LETTER, Ink::Mark, &text);
        let first = row * columns as usize;
        let frames = match cells.len() {
            1 => first.to_string(),
            count => format!("{first} to {}", first + count - 1),
        };
        let right = corner[0] + size[0] as i32 + 8;
        sheet.write([right, base], LETTER, Ink::Dim, &frames);
    }
    Some(sheet.pixels())
}

/// The pivot, the points and the areas of a frame, where it is cut from the picture.
fn draw_named(sheet: &mut Drawing, view: &View<'_>, corner: [i32; 2], scale: u32) {
    let source = [view.frame.source.x, view.frame.source.y];
    let on_sheet = |axis: usize, from_pivot: f32| {
        let pixels = source[axis] as f32 - view.frame.shift[axis] as f32 + view.frame.pivot()[axis];
        corner[axis] + ((pixels + from_pivot) * scale as f32).round() as i32
    };
    let pivot = [0, 1].map(|axis| on_sheet(axis, 0.0));
    sheet.areas(view, pivot, scale, Ink::Area);
    sheet.cross(pivot, 4, Ink::Span);
    for (_, from_pivot) in view.points() {
        let at = [0, 1].map(|axis| on_sheet(axis, from_pivot[axis]) - 3);
        sheet.frame(at, [7, 7], Ink::Mark);
    }
}

/// So that there is room for the numbers, only every so many are written.
fn step_for(needed: i32, room: u32) -> usize {
    let steps = [1, 2, 5, 10, 20, 50, 100];
    let fits = |step: &usize| needed <= (*step as i32).saturating_mul(room as i32);
    steps.into_iter().find(fits).unwrap_or(200)
}
