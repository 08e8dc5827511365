//! Drawings as lists of what is drawn, for PNG and SVG alike, and for the preview's window.

mod ink;
mod lettering;
mod svg;

use lucky_reel_assets::Pixels;
use lucky_reel_core::{AreaId, Blit, Rect, View};

pub(crate) use ink::Ink;
pub use ink::Theme;
use lettering::Lettering;
use lucky_reel_canvas::Canvas;
pub(crate) use svg::{data_address, escaped};

/// No drawing has more pixels.
const MAX_PIXELS: u64 = 1 << 26;
/// Sides of the squares behind what is seen through.
const CHECK: u32 = 16;

/// What is drawn, in order.
pub(crate) struct Drawing {
    size: [u32; 2],
    theme: Theme,
    letters: Lettering,
    steps: Vec<Step>,
}

enum Step {
    Fill { at: [i32; 2], size: [u32; 2], ink: Ink },
    Text { at: [i32; 2], size: f32, width: i32, ink: Ink, text: String },
    Pixels { picture: Pixels, at: [i32; 2], scale: u32 },
}

impl Drawing {
    /// `None` when it would be too large.
    pub(crate) fn new(size: [u32; 2], theme: Theme) -> Option<Drawing> {
        let fits = u64::from(size[0]) * u64::from(size[1]) <= MAX_PIXELS;
        let letters = Lettering::new()?;
        fits.then(|| Drawing { size, theme, letters, steps: Vec::new() })
    }

    pub(crate) fn size(&self) -> [u32; 2] {
        self.size
    }

    pub(crate) fn pixels(&self) -> Pixels {
        let Some(mut canvas) = Canvas::new(self.size) else { return Pixels::default() };
        canvas.clear(self.theme.color(Ink::Background));
        for step in &self.steps {
            match step {
                Step::Fill { at, size, ink } => canvas.fill(*at, *size, self.theme.color(*ink)),
                Step::Pixels { picture, at, scale } => canvas.draw_picture(picture, *at, *scale),
                Step::Text { at, size, ink, text, .. } => {
                    self.letters.draw(&mut canvas, *at, *size, self.theme.color(*ink), text);
                }
            }
        }
        canvas.into_picture()
    }

    pub(crate) fn svg(&self) -> String {
        svg::of(self)
    }

    /// Width of a text, in pixels.
    pub(crate) fn width(&self, size: f32, text: &str) -> i32 {
        self.letters.width(size, text)
    }

    /// Writes with the left end of the base line at `at`; gives the width.
    pub(crate) fn write(&mut self, at: [i32; 2], size: f32, ink: Ink, text: &str) -> i32 {
        let width = self.width(size, text);
        self.steps.push(Step::Text { at, size, width, ink, text: text.to_owned() });
        width
    }

    /// Writes with the right end of the base line at `at`.
    pub(crate) fn write_left_of(&mut self, at: [i32; 2], size: f32, ink: Ink, text: &str) {
        let width = self.width(size, text);
        self.write([at[0] - width, at[1]], size, ink, text);
    }

    /// Writes about the middle of a width; nothing where it does not fit.
    pub(crate) fn write_centered(
        &mut self,
        at: [i32; 2],
        width: i32,
        size: f32,
        ink: Ink,
        text: &str,
    ) -> bool {
        let wide = self.width(size, text);
        if wide <= width {
            self.write([at[0] + (width - wide) / 2, at[1]], size, ink, text);
        }
        wide <= width
    }

    pub(crate) fn fill(&mut self, at: [i32; 2], size: [i32; 2], ink: Ink) {
        let size = size.map(|side| side.max(0) as u32);
        if size[0] > 0 && size[1] > 0 {
            self.steps.push(Step::Fill { at, size, ink });
        }
    }

    /// The outline of a rectangle.
    pub(crate) fn frame(&mut self, [x, y]: [i32; 2], [width, height]: [i32; 2], ink: Ink) {
        for (at, size) in [
            ([x, y], [width, 1]),
            ([x, y], [1, height]),
            ([x, y + height - 1], [width, 1]),
            ([x + width - 1, y], [1, height]),
        ] {
            self.fill(at, size, ink);
        }
    }

    /// A cross whose middle is the corner of four pixels: a pivot.
    pub(crate) fn cross(&mut self, [x, y]: [i32; 2], arm: i32, ink: Ink) {
        self.fill([x - arm, y - 1], [2 * arm, 2], ink);
        self.fill([x - 1, y - arm], [2, 2 * arm], ink);
    }

    /// Squares behind what is seen through.
    pub(crate) fn checks(&mut self, corner: [i32; 2], size: [u32; 2]) {
        self.fill(corner, size.map(|side| side as i32), Ink::Box(0));
        for y in 0..size[1].div_ceil(CHECK) {
            for x in (0..size[0].div_ceil(CHECK)).filter(|x| (x + y) % 2 == 1) {
                let at = [corner[0] + (x * CHECK) as i32, corner[1] + (y * CHECK) as i32];
                let room = [size[0] - x * CHECK, size[1] - y * CHECK].map(|left| left.min(CHECK));
                self.fill(at, room.map(|side| side as i32), Ink::Box(1));
            }
        }
    }

    pub(crate) fn picture(&mut self, picture: Pixels, at: [i32; 2], scale: u32) {
        self.steps.push(Step::Pixels { picture, at, scale });
    }

    /// A piece of a picture, upscaled.
    pub(crate) fn part(&mut self, picture: &Pixels, part: Rect, corner: [i32; 2], scale: u32) {
        let Some(mut cut) = Pixels::new([part.width, part.height]) else { return };
        for y in 0..part.height {
            for x in 0..part.width {
                cut.set_pixel([x, y], picture.pixel([part.x + x, part.y + y]));
            }
        }
        self.picture(cut, corner, scale);
    }

    /// A view with its pivot on `position`, upscaled.
    pub(crate) fn view(
        &mut self,
        view: &View<'_>,
        images: &[Pixels],
        position: [i32; 2],
        scale: u32,
    ) {
        self.faint(view, images, (position, scale), 255);
    }

    /// A view that is seen through: `alpha` of 255.
    pub(crate) fn faint(
        &mut self,
        view: &View<'_>,
        images: &[Pixels],
        (position, scale): ([i32; 2], u32),
        alpha: u8,
    ) {
        let blit = view.blit(position, scale);
        let size = [blit.source.width, blit.source.height];
        let Some(mut cut) = Canvas::new(size) else { return };
        cut.copy(&Blit { at: [0, 0], size, ..blit }, images);
        let mut picture = cut.into_picture();
        if alpha < 255 {
            for pixel in picture.rgba_mut().chunks_exact_mut(4) {
                pixel[3] = (u16::from(pixel[3]) * u16::from(alpha) / 255) as u8;
            }
        }
        self.picture(picture, blit.at, scale);
    }

    /// The outlines of the areas of a view whose pivot is on `position`: the left top corner of each, and
    /// its id, for what is written beside it.
    pub(crate) fn areas(
        &mut self,
        view: &View<'_>,
        position: [i32; 2],
        scale: u32,
        ink: Ink,
    ) -> Vec<([i32; 2], AreaId)> {
        let outlined = view.areas().map(|(id, corners)| {
            let [from, to] = corners.map(|corner| {
                [0, 1].map(|axis| position[axis] + (corner[axis] * scale as f32).round() as i32)
            });
            self.frame(from, [0, 1].map(|axis| (to[axis] - from[axis]).max(1)), ink);
            (from, id)
        });
        outlined.collect()
    }
}
