//! Views, blits and instances drawn onto pixels, with rotation, scale, tint and flash: for tests, servers and small games.

use lucky_reel_assets::Pixels;
use lucky_reel_assets::blend_over;
use lucky_reel_core::{Area, Blit, Instance, Rect, View};

/// Draws views onto RGBA pixels: nearest neighbor, alpha over, flips, whole-number scale. For
/// examples, tools and tests; games have a renderer.
///
/// ```
/// use lucky_reel_assets::Pixels;
/// use lucky_reel_core::{Grid, NewClip, NewSheet, Player, Reel};
/// use lucky_reel_canvas::Canvas;
///
/// let mut dot = Pixels::new([1, 1]).unwrap();
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
    picture: Pixels,
}

impl Canvas {
    /// A transparent canvas of this width and height; `None` above 67,108,864 pixels.
    #[must_use]
    pub fn new(size: [u32; 2]) -> Option<Canvas> {
        Pixels::new(size).map(|picture| Canvas { picture })
    }

    /// A canvas that begins as this picture.
    #[must_use]
    pub fn on(picture: Pixels) -> Canvas {
        Canvas { picture }
    }

    /// What has been drawn.
    #[must_use]
    pub fn picture(&self) -> &Pixels {
        &self.picture
    }

    /// What has been drawn.
    #[must_use]
    pub fn into_picture(self) -> Pixels {
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
    pub fn draw(&mut self, view: &View<'_>, images: &[Pixels], position: [i32; 2], scale: u32) {
        self.copy(&view.blit(position, scale), images);
    }

    /// Copies what a blit says. One whose image is not among the images, or that is smaller than its
    /// source, is not drawn.
    pub fn copy(&mut self, blit: &Blit, images: &[Pixels]) {
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

    /// Draws a line one pixel wide, its ends included: on each column, or row where it is steep, the pixel
    /// that it runs through. One with an end that is not a number is not drawn.
    pub fn line(&mut self, from: [f32; 2], to: [f32; 2], rgba: [u8; 4]) {
        let Some((from, to)) = self.clipped(from, to) else { return };
        let long = (to[0] - from[0]).abs().max((to[1] - from[1]).abs());
        let steps = long.ceil().max(1.0);
        let mut last = None;
        for step in 0..=steps as u32 {
            let part = step as f32 / steps;
            let pixel =
                [0, 1].map(|axis| (from[axis] + (to[axis] - from[axis]) * part).floor() as i32);
            if last.replace(pixel) != Some(pixel) {
                self.blend(pixel, rgba);
            }
        }
    }

    /// The part of a line that can be on the canvas; `None` where there is none.
    fn clipped(&self, from: [f32; 2], to: [f32; 2]) -> Option<([f32; 2], [f32; 2])> {
        let (mut first, mut last) = (0.0_f32, 1.0_f32);
        let size = self.picture.size();
        for axis in [0, 1] {
            let (start, way) = (from[axis], to[axis] - from[axis]);
            let (least, most) = (-1.0, size[axis] as f32 + 1.0);
            if !way.is_finite() || way == 0.0 && !(least..=most).contains(&start) {
                return None;
            }
            if way != 0.0 {
                let (a, b) = ((least - start) / way, (most - start) / way);
                (first, last) = (first.max(a.min(b)), last.min(a.max(b)));
            }
        }
        let at = |part: f32| [0, 1].map(|axis| from[axis] + (to[axis] - from[axis]) * part);
        (first <= last).then(|| (at(first), at(last)))
    }

    /// Draws a whole picture with its top left at `at`, upscaled.
    pub fn draw_picture(&mut self, picture: &Pixels, at: [i32; 2], scale: u32) {
        let size = picture.size().map(|side| side.saturating_mul(scale));
        self.paint(at, size, |x, y| picture.pixel([x / scale, y / scale]));
    }

    /// Draws an instance at its place, scale and rotation, tinted and flashed: each pixel of the canvas whose middle lies
    /// inside shows the texel there. As a GPU does it with nearest sampling and straight alpha, for tests
    /// and pictures. One whose image is not among the images is not drawn.
    pub fn draw_instance(&mut self, instance: &Instance, images: &[Pixels]) {
        let Some(image) = images.get(usize::from(instance.image)) else { return };
        let Instance { origin, axis_x, axis_y, source, tint, flash, .. } = *instance;
        let area = Area {
            corners: [[0.0, 0.0], [1.0, 0.0], [1.0, 1.0], [0.0, 1.0]].map(|[u, v]| {
                [0, 1].map(|axis| origin[axis] + u * axis_x[axis] + v * axis_y[axis])
            }),
        };
        let [least, most] = area.bounds();
        let size = self.picture.size();
        let from = least.map(|side| side.floor().max(0.0) as u32);
        let to = [0, 1].map(|axis| (most[axis].ceil().max(0.0) as u32).min(size[axis]));
        let cross = |a: [f32; 2], b: [f32; 2]| a[0] * b[1] - a[1] * b[0];
        let whole = cross(axis_x, axis_y);
        let is_inside = Rect::fits(
            image.size(),
            Rect::new(source[0].into(), source[1].into(), source[2].into(), source[3].into()),
        );
        if whole == 0.0 || !is_inside {
            return;
        }
        for (x, y) in (from[1]..to[1]).flat_map(|y| (from[0]..to[0]).map(move |x| (x, y))) {
            let at = [x as f32 + 0.5 - origin[0], y as f32 + 0.5 - origin[1]];
            let shares = [cross(at, axis_y) / whole, cross(axis_x, at) / whole];
            if shares.iter().any(|share| !(0.0..1.0).contains(share)) {
                continue;
            }
            let texel = [0, 1].map(|axis| {
                let length = source[axis + 2];
                u32::from(source[axis])
                    + ((shares[axis] * f32::from(length)) as u32).min(u32::from(length) - 1)
            });
            let seen = shaded(image.pixel(texel), tint, flash);
            self.blend([x as i32, y as i32], seen);
        }
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

/// A texel as an instance shows it: tinted, and mixed toward its flash; alpha is tinted alone.
fn shaded(texel: [u8; 4], tint: [u8; 4], [red, green, blue, amount]: [u8; 4]) -> [u8; 4] {
    let share = |a: u8, b: u8| (u32::from(a) * u32::from(b) + 127) / 255;
    let mixed = |channel: usize, toward: u8| {
        let tinted = share(texel[channel], tint[channel]);
        let (kept, mixed) = (255 - u32::from(amount), u32::from(amount) * u32::from(toward));
        ((tinted * kept + mixed + 127) / 255) as u8
    };
    [mixed(0, red), mixed(1, green), mixed(2, blue), share(texel[3], tint[3]) as u8]
}
