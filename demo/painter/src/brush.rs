//! Shapes in hard-edged pixels, and the colors of the night.

use lucky_reel_assets::Pixels;

pub(crate) type Color = [u8; 4];

pub(crate) const fn rgb(hex: u32) -> Color {
    [(hex >> 16) as u8, (hex >> 8) as u8, hex as u8, 255]
}

/// The same color, seen through.
pub(crate) const fn veil(hex: u32, alpha: u8) -> Color {
    let [r, g, b, _] = rgb(hex);
    [r, g, b, alpha]
}

/// A picture, or one cell of it, being painted.
pub(crate) struct Brush<'p> {
    picture: &'p mut Pixels,
    origin: [i32; 2],
    size: [i32; 2],
}

impl<'p> Brush<'p> {
    pub(crate) fn on(picture: &'p mut Pixels) -> Brush<'p> {
        let size = picture.size().map(|side| side as i32);
        Brush { picture, origin: [0, 0], size }
    }

    /// One cell; what sticks out of it is cut off.
    pub(crate) fn cell(picture: &'p mut Pixels, at: [i32; 2], size: [i32; 2]) -> Brush<'p> {
        Brush { picture, origin: [at[0] * size[0], at[1] * size[1]], size }
    }

    fn at(&self, x: i32, y: i32) -> Option<[u32; 2]> {
        let inside = (0..self.size[0]).contains(&x) && (0..self.size[1]).contains(&y);
        inside.then(|| [(self.origin[0] + x) as u32, (self.origin[1] + y) as u32])
    }

    pub(crate) fn get(&self, x: i32, y: i32) -> Color {
        self.at(x, y).map_or([0; 4], |at| self.picture.pixel(at))
    }

    /// Lays a color over a pixel.
    pub(crate) fn dot(&mut self, x: i32, y: i32, color: Color) {
        let Some(at) = self.at(x, y) else { return };
        let below = self.picture.pixel(at);
        let mixed = if color[3] == 255 || below[3] == 0 {
            color
        } else {
            let (a, b) = (u32::from(color[3]), 255 - u32::from(color[3]));
            let mix = |c: usize| ((u32::from(color[c]) * a + u32::from(below[c]) * b) / 255) as u8;
            [mix(0), mix(1), mix(2), below[3].max(color[3])]
        };
        self.picture.set_pixel(at, mixed);
    }

    /// Sets a pixel, whatever was there.
    pub(crate) fn put(&mut self, x: i32, y: i32, color: Color) {
        if let Some(at) = self.at(x, y) {
            self.picture.set_pixel(at, color);
        }
    }

    pub(crate) fn rect(&mut self, x: i32, y: i32, width: i32, height: i32, color: Color) {
        for y in y..y + height {
            for x in x..x + width {
                self.dot(x, y, color);
            }
        }
    }

    /// A filled ellipse about the middle of a pixel, or about an edge where `x` or `y` is a half.
    pub(crate) fn ellipse(&mut self, center: [f32; 2], radius: [f32; 2], color: Color) {
        self.shaded(center, radius, |_, _| color);
    }

    /// A filled ellipse whose color depends on where in it a pixel lies, from -1 to 1.
    pub(crate) fn shaded(
        &mut self,
        center: [f32; 2],
        radius: [f32; 2],
        color: impl Fn(f32, f32) -> Color,
    ) {
        for y in 0..self.size[1] {
            for x in 0..self.size[0] {
                let u = (x as f32 - center[0]) / radius[0];
                let v = (y as f32 - center[1]) / radius[1];
                if u * u + v * v <= 1.0 {
                    self.dot(x, y, color(u, v));
                }
            }
        }
    }

    pub(crate) fn line(&mut self, from: [i32; 2], to: [i32; 2], color: Color) {
        let [dx, dy] = [to[0] - from[0], to[1] - from[1]];
        let steps = dx.abs().max(dy.abs()).max(1);
        for step in 0..=steps {
            let along =
                |from: i32, by: i32| from + (by * step * 2 + steps * by.signum()) / (steps * 2);
            self.dot(along(from[0], dx), along(from[1], dy), color);
        }
    }

    /// A small picture drawn with letters; what a letter means is up to `colors`.
    pub(crate) fn stamp(&mut self, x: i32, y: i32, rows: &[&str], colors: &[(char, Color)]) {
        for (y, row) in (y..).zip(rows) {
            for (x, letter) in (x..).zip(row.chars()) {
                if let Some((_, color)) = colors.iter().find(|(known, _)| *known == letter) {
                    self.dot(x, y, *color);
                }
            }
        }
    }

    /// A dark line around everything that is opaque.
    pub(crate) fn outline(&mut self, color: Color) {
        let opaque = |brush: &Brush<'_>, x, y| brush.get(x, y)[3] == 255;
        let mut edge = Vec::new();
        for y in 0..self.size[1] {
            for x in 0..self.size[0] {
                let beside = [(1, 0), (-1, 0), (0, 1), (0, -1)];
                let near = beside.iter().any(|(dx, dy)| opaque(self, x + dx, y + dy));
                if !opaque(self, x, y) && near {
                    edge.push((x, y));
                }
            }
        }
        for (x, y) in edge {
            self.put(x, y, color);
        }
    }

    /// The left half on the right and the other way round.
    pub(crate) fn mirror(&mut self) {
        for y in 0..self.size[1] {
            for x in 0..self.size[0] / 2 {
                let (Some(left), Some(right)) = (self.at(x, y), self.at(self.size[0] - 1 - x, y))
                else {
                    continue;
                };
                let (one, other) = (self.picture.pixel(left), self.picture.pixel(right));
                self.picture.set_pixel(left, other);
                self.picture.set_pixel(right, one);
            }
        }
    }
}

/// Pseudo-random numbers, the same each time.
pub(crate) fn random(seed: u32) -> impl FnMut(u32) -> i32 {
    let mut state = seed.wrapping_mul(2_654_435_769) | 1;
    move |below| {
        state ^= state << 13;
        state ^= state >> 17;
        state ^= state << 5;
        (state % below) as i32
    }
}
