//! Pictures of clips, sheets and scripts, for people to look at.

mod clip;
mod order;
mod script;
mod sheet;
mod text;

pub use clip::clip;
pub use script::script;
pub use sheet::with_grid_lines;

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

    fn fill(&mut self, at: [i32; 2], size: [i32; 2], color: [u8; 4]) {
        self.canvas.fill(at, size.map(|side| side.max(0) as u32), color);
    }
}
