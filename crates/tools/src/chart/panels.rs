use lucky_reel_assets::Pixels;
use lucky_reel_core::Rect;

use crate::drawing::{Drawing, Ink, Theme};

/// All panels together are upscaled to about this size.
const ROOM: [u32; 2] = [1_220, 700];
const MARGIN: u32 = 20;
const LABEL: u32 = 26;
/// Pixels around all marks of a panel, where these are small.
const RING: i32 = 8;

/// Pieces of images beside one another, upscaled, each with a label below it and rectangles of the image
/// that are pointed at. `None` where it would be too large.
pub(crate) fn panels(panels: &[(&Pixels, Rect, &str, &[Rect])]) -> Option<Pixels> {
    let widths: u32 = panels.iter().map(|(_, area, ..)| area.width).sum();
    let height = panels.iter().map(|(_, area, ..)| area.height).max()?;
    let scale = (ROOM[0] / widths.max(1)).min(ROOM[1] / height.max(1)).clamp(1, 16);
    let least = 160; // for the labels
    let wide = |area: &Rect| (area.width * scale).max(least) + MARGIN;
    let width: u32 = panels.iter().map(|(_, area, ..)| wide(area)).sum();
    let mut sheet = Drawing::new(
        [width.checked_add(MARGIN)?, (height * scale).checked_add(2 * MARGIN + LABEL)?],
        Theme::Dark,
    )?;
    let mut left = MARGIN;
    for (image, area, label, marks) in panels {
        let corner = [left as i32, MARGIN as i32];
        let size = [area.width * scale, area.height * scale];
        sheet.checks(corner, size);
        sheet.part(image, *area, corner, scale);
        for mark in *marks {
            let [x, y] = [(mark.x, area.x), (mark.y, area.y)]
                .map(|(mark, area)| (i64::from(mark) - i64::from(area)) as i32 * scale as i32);
            let [wide, high] = [mark.width, mark.height].map(|side| (side * scale) as i32);
            sheet.frame([corner[0] + x, corner[1] + y], [wide, high], Ink::Mark);
        }
        ring(&mut sheet, corner, *area, scale, marks);
        sheet.write([corner[0], corner[1] + size[1] as i32 + 18], 12.0, Ink::Letters, label);
        left += wide(area);
    }
    Some(sheet.pixels())
}

/// A ring around all marks, so that single pixels are found.
fn ring(sheet: &mut Drawing, corner: [i32; 2], area: Rect, scale: u32, marks: &[Rect]) {
    let far = |mark: &Rect| [mark.x + mark.width, mark.y + mark.height];
    let near =
        marks.iter().map(|mark| [mark.x, mark.y]).reduce(|a, b| [a[0].min(b[0]), a[1].min(b[1])]);
    let far = marks.iter().map(far).reduce(|a, b| [a[0].max(b[0]), a[1].max(b[1])]);
    let (Some(near), Some(far)) = (near, far) else { return };
    let place = |axis: usize, line: u32| {
        let from = [area.x, area.y][axis];
        corner[axis] + (i64::from(line) - i64::from(from)) as i32 * scale as i32
    };
    let at = [0, 1].map(|axis| place(axis, near[axis]) - RING);
    let size = [0, 1].map(|axis| place(axis, far[axis]) + RING - at[axis]);
    let is_small = size[0].min(size[1]) < 6 * RING;
    if is_small && size[0].max(size[1]) < 30 * RING {
        sheet.frame(at, size, Ink::Span);
    }
}
