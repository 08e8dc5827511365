use ab_glyph::{Font, FontRef, PxScale, ScaleFont, point};

use lucky_reel_canvas::Canvas;

/// Letters on a canvas. Their size is that of the font's square in pixels, as on web pages; from 15 up they
/// are bold.
pub(super) struct Lettering {
    plain: FontRef<'static>,
    bold: FontRef<'static>,
}

pub(super) const BOLD_FROM: f32 = 15.0;

impl Lettering {
    pub(super) fn new() -> Option<Lettering> {
        let plain = include_bytes!("../../fonts/DejaVuSans-subset.ttf");
        let bold = include_bytes!("../../fonts/DejaVuSans-Bold-subset.ttf");
        Some(Lettering {
            plain: FontRef::try_from_slice(plain).ok()?,
            bold: FontRef::try_from_slice(bold).ok()?,
        })
    }

    fn font(&self, size: f32) -> &FontRef<'static> {
        if size < BOLD_FROM { &self.plain } else { &self.bold }
    }

    /// Width in pixels.
    pub(super) fn width(&self, size: f32, text: &str) -> i32 {
        let font = self.font(size).as_scaled(scale_of(size));
        text.chars().map(|c| font.h_advance(font.glyph_id(c))).sum::<f32>().ceil() as i32
    }

    /// Draws with the left end of the base line at `at`; gives the width.
    pub(super) fn draw(
        &self,
        canvas: &mut Canvas,
        at: [i32; 2],
        size: f32,
        color: [u8; 4],
        text: &str,
    ) -> i32 {
        let scale = scale_of(size);
        let font = self.font(size).as_scaled(scale);
        let mut x = at[0] as f32;
        for letter in text.chars() {
            let id = font.glyph_id(letter);
            let glyph = id.with_scale_and_position(scale, point(x, at[1] as f32));
            x += font.h_advance(id);
            let Some(outline) = font.outline_glyph(glyph) else { continue };
            let corner = outline.px_bounds().min;
            outline.draw(|dx, dy, cover| {
                let pixel = [corner.x as i32 + dx as i32, corner.y as i32 + dy as i32];
                let alpha = (cover.clamp(0.0, 1.0) * f32::from(color[3])).round() as u8;
                canvas.blend(pixel, [color[0], color[1], color[2], alpha]);
            });
        }
        x.ceil() as i32 - at[0]
    }
}

/// The scale of a size: from the top of the highest letter to the bottom of the lowest, which is more.
fn scale_of(size: f32) -> PxScale {
    const HEIGHT: f32 = 2_384.0 / 2_048.0; // of this font
    PxScale::from(size * HEIGHT)
}
