use lucky_reel_core::Grid;

use super::{Sheet, color};
use lucky_reel_assets::Pixmap;

/// Draws a sheet with grid lines and cell numbers from 0, upscaled so that it can be read.
///
/// `None` when the grid does not fit the picture, or the drawing would be too large.
///
/// ```
/// use lucky_reel_assets::Pixmap;
/// use lucky_reel_tools::chart;
/// use lucky_reel_core::Grid;
///
/// let picture = Pixmap::new([64, 32]).unwrap();
/// assert!(chart::with_grid_lines(&picture, Grid::cell_size([32, 32])).is_some());
/// assert!(chart::with_grid_lines(&picture, Grid::cell_size([30, 32])).is_none());
/// ```
#[must_use]
pub fn with_grid_lines(picture: &Pixmap, grid: Grid) -> Option<Pixmap> {
    let cells = grid.cut(picture.size()).ok()?;
    let [width, height] = picture.size();
    let by_room = (1_240 / width.max(1)).min(900 / height.max(1));
    // A number needs some 20 pixels.
    let by_number = 24_u32.div_ceil(grid.cell()[0].min(grid.cell()[1]).max(1));
    let scale = by_room.max(by_number).clamp(1, 16);
    let upscaled = picture.upscaled(scale)?;
    let size = upscaled.size();
    let mut sheet = Sheet::new([size[0].checked_add(40)?, size[1].checked_add(40)?])?;
    // Squares behind what is seen through.
    for y in 0..size[1].div_ceil(16) {
        for x in 0..size[0].div_ceil(16) {
            let at = [20 + x as i32 * 16, 20 + y as i32 * 16];
            let room = [(size[0] - x * 16).min(16) as i32, (size[1] - y * 16).min(16) as i32];
            sheet.fill(at, room, color::BOXES[((x + y) % 2) as usize]);
        }
    }
    sheet.canvas.draw_picture(&upscaled, [20, 20], 1);
    for (number, cell) in cells.iter().enumerate() {
        let [x, y] = [cell.x, cell.y].map(|side| 20 + (side * scale) as i32);
        let [width, height] = [cell.width, cell.height].map(|side| (side * scale) as i32);
        for (at, size) in [
            ([x, y], [width, 1]),
            ([x, y], [1, height]),
            ([x, y + height - 1], [width, 1]),
            ([x + width - 1, y], [1, height]),
        ] {
            sheet.fill(at, size, color::SPAN);
        }
        let text = number.to_string();
        let wide = sheet.letters.width(12.0, &text);
        sheet.fill([x + 1, y + 1], [wide + 5, 14], color::GROUND);
        sheet.write([x + 3, y + 12], 12.0, color::MARK, &text);
    }
    Some(sheet.canvas.into_picture())
}
