//! Pictures of clips, sheets and scripts, for people to look at.

mod clip;
mod order;
mod panels;
mod script;
mod sheet;
mod text;

pub use clip::clip;
pub(crate) use panels::panels;
pub use script::script;
pub use sheet::with_grid_lines;

use lucky_reel_assets::Pixmap;
use lucky_reel_core::Rect;

use crate::Canvas;
use text::Lettering;

/// The colors of all charts: a dark ground, light letters, a few lights.
mod color {
    pub(super) const GROUND: [u8; 4] = [0x12, 0x18, 0x24, 0xff];
    pub(super) const BOXES: [[u8; 4]; 2] = [[0x22, 0x2f, 0x42, 0xff], [0x2b, 0x3b, 0x51, 0xff]];
    pub(super) const EDGE: [u8; 4] = [0x4a, 0x60, 0x7a, 0xff];
    pub(super) const LETTERS: [u8; 4] = [0xee, 0xf1, 0xe6, 0xff];
    pub(super) const DIM: [u8; 4] = [0xa3, 0xb2, 0xc2, 0xff];
    pub(super) const MARK: [u8; 4] = [0xff, 0xc8, 0x57, 0xff];
    pub(super) const SPAN_DARK: [u8; 4] = [0x2f, 0x7d, 0x6b, 0xff];
    pub(super) const FAINT: [u8; 4] = [0x4a, 0x60, 0x7a, 0x38];
    pub(super) const SPAN: [u8; 4] = [0x6f, 0xd0, 0xb4, 0xff];
}

/// A canvas with letters.
struct Sheet {
    canvas: Canvas,
    letters: Lettering,
}

impl Sheet {
    fn new(size: [u32; 2]) -> Option<Sheet> {
        let mut canvas = Canvas::new(size)?;
        canvas.clear(color::GROUND);
        Some(Sheet { canvas, letters: Lettering::new()? })
    }

    /// Writes with the left end of the base line at `at`; gives the width.
    fn write(&mut self, at: [i32; 2], size: f32, color: [u8; 4], text: &str) -> i32 {
        self.letters.draw(&mut self.canvas, at, size, color, text)
    }

    /// Writes as much as fits into a width, about the middle of it.
    fn write_centerd(&mut self, at: [i32; 2], width: i32, size: f32, color: [u8; 4], text: &str) {
        let wide = self.letters.width(size, text);
        if wide <= width {
            self.write([at[0] + (width - wide) / 2, at[1]], size, color, text);
        }
    }

    /// Squares behind what is seen through.
    fn checks(&mut self, corner: [i32; 2], size: [u32; 2]) {
        for y in 0..size[1].div_ceil(16) {
            for x in 0..size[0].div_ceil(16) {
                let at = [corner[0] + x as i32 * 16, corner[1] + y as i32 * 16];
                let room = [(size[0] - x * 16).min(16) as i32, (size[1] - y * 16).min(16) as i32];
                self.fill(at, room, color::BOXES[((x + y) % 2) as usize]);
            }
        }
    }

    /// A piece of a picture, upscaled.
    fn draw_part(&mut self, picture: &Pixmap, part: Rect, corner: [i32; 2], scale: u32) {
        for y in 0..part.height {
            for x in 0..part.width {
                let at = [corner[0] + (x * scale) as i32, corner[1] + (y * scale) as i32];
                self.canvas.fill(at, [scale; 2], picture.pixel([part.x + x, part.y + y]));
            }
        }
    }

    /// The outline of a rectangle.
    fn frame(&mut self, [x, y]: [i32; 2], [width, height]: [i32; 2], color: [u8; 4]) {
        for (at, size) in [
            ([x, y], [width, 1]),
            ([x, y], [1, height]),
            ([x, y + height - 1], [width, 1]),
            ([x + width - 1, y], [1, height]),
        ] {
            self.fill(at, size, color);
        }
    }

    fn fill(&mut self, at: [i32; 2], size: [i32; 2], color: [u8; 4]) {
        self.canvas.fill(at, size.map(|side| side.max(0) as u32), color);
    }
}
