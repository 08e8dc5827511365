use lucky_reel_assets::Pixmap;
use lucky_reel_assets::blend_over;
use lucky_reel_core::{Blit, View};

/// Draws views onto RGBA pixels: nearest neighbor, alpha over, flips, whole-number scale. For
/// examples, tools and tests; games have a renderer.
///
/// ```
/// use lucky_reel_assets::Pixmap;
/// use lucky_reel_core::{Grid, NewClip, NewSheet, Player, Reel};
/// use lucky_reel_tools::Canvas;
///
/// let mut dot = Pixmap::new([1, 1]).unwrap();
/// dot.set_pixel([0, 0], [255, 200, 80, 255]);
/// let mut builder = Reel::builder();
/// let sheet = builder.sheet("dot", NewSheet::grid([1, 1], Grid::cell_size([1, 1])));
/// let still = builder.clip("still", NewClip::of(sheet).frames([0]).fps(1));
/// let reel = builder.build().unwrap();
///
/// let mut canvas = Canvas::new([8, 8]).unwrap();
/// canvas.draw(&Player::new(&reel, still).view(&reel).unwrap(), &[dot], [4, 4], 3);
/// assert_eq!(canvas.picture().pixel([4, 4]), [255, 200, 80, 255]);
/// ```
#[derive(Clone, Debug)]
pub struct Canvas {
    picture: Pixmap,
}

impl Canvas {
    /// A transparent canvas of this width and height; `None` above 67,108,864 pixels.
    #[must_use]
    pub fn new(size: [u32; 2]) -> Option<Canvas> {
        Pixmap::new(size).map(|picture| Canvas { picture })
    }

    /// A canvas that begins as this picture.
    #[must_use]
    pub fn on(picture: Pixmap) -> Canvas {
        Canvas { picture }
    }

    /// What has been drawn.
    #[must_use]
    pub fn picture(&self) -> &Pixmap {
        &self.picture
    }

    /// What has been drawn.
    #[must_use]
    pub fn into_picture(self) -> Pixmap {
        self.picture
    }

    /// Sets every pixel.
    pub fn clear(&mut self, rgba: [u8; 4]) {
        for pixel in self.picture.rgba_mut().chunks_exact_mut(4) {
            pixel.copy_from_slice(&rgba);
        }
    }

    /// Lays a color over a rectangle: its top left, and its width and height.
    pub fn fill(&mut self, at: [i32; 2], size: [u32; 2], rgba: [u8; 4]) {
        self.paint(at, size, |_, _| rgba);
    }

    /// Draws a view with its pivot on `position`, each of its pixels `scale` pixels wide and high.
    /// A view whose image is not among the images is not drawn.
    pub fn draw(&mut self, view: &View<'_>, images: &[Pixmap], position: [i32; 2], scale: u32) {
        self.copy(&view.blit(position, scale), images);
    }

    /// Copies what a blit says. One whose image is not among the images, or that is smaller than its
    /// source, is not drawn.
    pub fn copy(&mut self, blit: &Blit, images: &[Pixmap]) {
        let Some(image) = images.get(blit.image.index()) else { return };
        let source = blit.source;
        let Some(scale) = blit.size[0].checked_div(source.width).filter(|scale| *scale > 0) else {
            return;
        };
        self.paint(blit.at, blit.size, |x, y| {
            let (x, y) = (x / scale, y / scale);
            let x = if blit.flips.x { source.width - 1 - x } else { x };
            let y = if blit.flips.y { source.height - 1 - y } else { y };
            image.pixel([source.x + x, source.y + y])
        });
    }

    /// Draws a whole picture with its top left at `at`, upscaled.
    pub fn draw_picture(&mut self, picture: &Pixmap, at: [i32; 2], scale: u32) {
        let size = picture.size().map(|side| side.saturating_mul(scale));
        self.paint(at, size, |x, y| picture.pixel([x / scale, y / scale]));
    }

    /// Lays one pixel over what is there.
    pub fn blend(&mut self, [x, y]: [i32; 2], rgba: [u8; 4]) {
        if let (Ok(x), Ok(y)) = (u32::try_from(x), u32::try_from(y)) {
            let below = self.picture.pixel([x, y]);
            self.picture.set_pixel([x, y], blend_over(rgba, below));
        }
    }

    /// Lays over what is there what `color` says for each pixel of a rectangle, as far as it lies on
    /// the canvas.
    fn paint(&mut self, at: [i32; 2], size: [u32; 2], color: impl Fn(u32, u32) -> [u8; 4]) {
        let canvas = self.picture.size();
        let seen = |axis: usize| {
            let start = i64::from(at[axis]);
            let end = (start + i64::from(size[axis])).min(i64::from(canvas[axis]));
            (start.max(0)..end).map(move |on_canvas| (on_canvas as u32, (on_canvas - start) as u32))
        };
        for (y, v) in seen(1) {
            for (x, u) in seen(0) {
                let below = self.picture.pixel([x, y]);
                self.picture.set_pixel([x, y], blend_over(color(u, v), below));
            }
        }
    }
}
