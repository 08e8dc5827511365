//! Pixels: pictures, and PNG in and out.

mod error;
mod over;
mod png;

pub use error::PixelsError;
pub use over::blend_over;
pub use png::PngHeader;
pub(crate) use png::{SIGNATURE, buffer_size, chunks, picture_of, reader_of};

use crate::limits::Limits;

/// Pixels, 8 bits each of red, green, blue and alpha, row by row from the top left: sRGB, straight
/// alpha.
///
/// ```
/// use lucky_reel_assets::Pixels;
///
/// let mut picture = Pixels::new([4, 4]).unwrap();
/// picture.set_pixel([1, 2], [255, 200, 80, 255]);
/// let bytes = picture.to_png();
/// assert_eq!(Pixels::from_png(&bytes).unwrap(), picture);
/// ```
#[derive(Clone, Default, PartialEq, Eq, Hash)]
pub struct Pixels {
    size: [u32; 2],
    pixels: Vec<u8>,
}

impl Pixels {
    /// A transparent picture of this width and height; `None` above 67,108,864 pixels.
    #[must_use]
    pub fn new(size: [u32; 2]) -> Option<Pixels> {
        Pixels::new_within(size, Limits::default().pixels)
    }

    /// A transparent picture within another limit.
    pub(crate) fn new_within(size: [u32; 2], most: u64) -> Option<Pixels> {
        let pixels = u64::from(size[0]) * u64::from(size[1]);
        let bytes = usize::try_from(pixels.checked_mul(4)?).ok()?;
        (pixels <= most).then(|| Pixels { size, pixels: vec![0; bytes] })
    }

    /// A picture of these RGBA bytes; `None` when there are too few or too many for the size.
    #[must_use]
    pub fn from_rgba(size: [u32; 2], pixels: Vec<u8>) -> Option<Pixels> {
        let expected = u64::from(size[0]) * u64::from(size[1]) * 4;
        (pixels.len() as u64 == expected).then_some(Pixels { size, pixels })
    }

    /// Width and height, in pixels.
    #[must_use]
    pub fn size(&self) -> [u32; 2] {
        self.size
    }

    /// The RGBA bytes, row by row.
    #[must_use]
    pub fn rgba(&self) -> &[u8] {
        &self.pixels
    }

    /// The RGBA bytes, row by row.
    #[must_use]
    pub fn rgba_mut(&mut self) -> &mut [u8] {
        &mut self.pixels
    }

    /// The pixel at `[x, y]`; transparent outside.
    #[must_use]
    pub fn pixel(&self, at: [u32; 2]) -> [u8; 4] {
        self.index(at)
            .map_or([0; 4], |index| [0, 1, 2, 3].map(|channel| self.pixels[index + channel]))
    }

    /// Sets the pixel at `[x, y]`; does nothing outside.
    pub fn set_pixel(&mut self, at: [u32; 2], rgba: [u8; 4]) {
        if let Some(index) = self.index(at) {
            self.pixels[index..index + 4].copy_from_slice(&rgba);
        }
    }

    /// Copies a whole picture to `[x, y]`, as far as it fits.
    pub(crate) fn copy_from(&mut self, picture: &Pixels, [left, top]: [u32; 2]) {
        let [width, height] = picture.size;
        for y in 0..height {
            for x in 0..width {
                self.set_pixel([left + x, top + y], picture.pixel([x, y]));
            }
        }
    }

    /// A rectangle of it; `None` where that reaches outside.
    #[must_use]
    pub fn part(&self, part: lucky_reel_core::Rect) -> Option<Pixels> {
        if !lucky_reel_core::Rect::fits(self.size(), part) {
            return None;
        }
        let row = |y: u32| {
            let start = (y as usize * self.size()[0] as usize + part.x as usize) * 4;
            &self.rgba()[start..start + part.width as usize * 4]
        };
        let pixels = (part.y..part.y + part.height).flat_map(row).copied().collect();
        Pixels::from_rgba([part.width, part.height], pixels)
    }

    /// A copy with each pixel as a square of `scale` by `scale`; `None` above 67,108,864 pixels, or at
    /// scale 0.
    #[must_use]
    pub fn upscaled(&self, scale: u32) -> Option<Pixels> {
        let [width, height] = self.size;
        let size = [width.checked_mul(scale)?, height.checked_mul(scale)?];
        let mut upscaled = Pixels::new(size).filter(|_| scale > 0)?;
        let row = (width as usize * 4).max(1);
        let wide = row * scale as usize;
        let rows = upscaled.pixels.chunks_exact_mut(wide * scale as usize);
        for (source, rows) in self.pixels.chunks_exact(row).zip(rows) {
            let pixels = rows[..wide].chunks_exact_mut(4 * scale as usize);
            for (pixel, square) in source.chunks_exact(4).zip(pixels) {
                square.chunks_exact_mut(4).for_each(|copy| copy.copy_from_slice(pixel));
            }
            for copy in 1..scale as usize {
                rows.copy_within(..wide, copy * wide);
            }
        }
        Some(upscaled)
    }

    /// A copy with transparent pixels at the right and below, up to this size.
    pub(crate) fn extended(&self, [width, height]: [u32; 2]) -> Option<Pixels> {
        let size = [self.size[0].max(width), self.size[1].max(height)];
        if size == self.size {
            return Some(self.clone());
        }
        let mut extended = Pixels::new(size)?;
        let [row, wide] = [self.size[0], size[0]].map(|side| (side as usize * 4).max(1));
        for (from, to) in self.pixels.chunks_exact(row).zip(extended.pixels.chunks_exact_mut(wide))
        {
            to[..row].copy_from_slice(from);
        }
        Some(extended)
    }

    /// A copy whose colors are multiplied by their alpha, rounded: for smooth sampling, where the colors
    /// of straight alpha darken at the edges. The product is that of the sRGB numbers.
    ///
    /// ```
    /// use lucky_reel_assets::Pixels;
    ///
    /// let glow = Pixels::from_rgba([1, 1], vec![200, 100, 255, 128]).unwrap();
    /// assert_eq!(glow.premultiplied().pixel([0, 0]), [100, 50, 128, 128]);
    /// ```
    #[must_use]
    pub fn premultiplied(&self) -> Pixels {
        let mut copy = self.clone();
        for pixel in copy.pixels.chunks_exact_mut(4) {
            let alpha = u16::from(pixel[3]);
            for color in &mut pixel[..3] {
                *color = ((u16::from(*color) * alpha + 127) / 255) as u8;
            }
        }
        copy
    }

    /// Whether a rectangle is fully transparent.
    #[must_use]
    pub fn is_empty_at(&self, rect: lucky_reel_core::Rect) -> bool {
        (rect.y..rect.y.saturating_add(rect.height)).all(|y| {
            (rect.x..rect.x.saturating_add(rect.width)).all(|x| self.pixel([x, y])[3] == 0)
        })
    }

    /// The smallest rectangle around the pixels of a rectangle that are not transparent; `None` if all
    /// are.
    #[must_use]
    pub fn opaque_bounds(&self, rect: lucky_reel_core::Rect) -> Option<lucky_reel_core::Rect> {
        let (mut low, mut high) = ([u32::MAX; 2], [0; 2]);
        for y in rect.y..rect.y.saturating_add(rect.height) {
            for x in rect.x..rect.x.saturating_add(rect.width) {
                if self.pixel([x, y])[3] > 0 {
                    low = [low[0].min(x), low[1].min(y)];
                    high = [high[0].max(x), high[1].max(y)];
                }
            }
        }
        let size = |axis: usize| high[axis] - low[axis] + 1;
        (low[0] != u32::MAX).then(|| lucky_reel_core::Rect::new(low[0], low[1], size(0), size(1)))
    }

    /// How many pixels that are seen have this color, red, green and blue, whatever their alpha.
    #[must_use]
    pub fn count_color(&self, color: [u8; 3]) -> usize {
        let pixels = self.pixels.chunks_exact(4);
        pixels.filter(|pixel| pixel[3] > 0 && pixel[..3] == color).count()
    }

    /// Gives pixels of some colors others, all at once; alpha stays.
    pub(crate) fn recolor(&mut self, pairs: &[([u8; 3], [u8; 3])]) {
        for pixel in self.pixels.chunks_exact_mut(4) {
            if let Some((_, to)) = pairs.iter().find(|(from, _)| pixel[..3] == *from) {
                pixel[..3].copy_from_slice(to);
            }
        }
    }

    /// How many pixels it has.
    pub(crate) fn pixels(&self) -> u64 {
        u64::from(self.size[0]) * u64::from(self.size[1])
    }

    fn index(&self, [x, y]: [u32; 2]) -> Option<usize> {
        let inside = x < self.size[0] && y < self.size[1];
        inside.then(|| (y as usize * self.size[0] as usize + x as usize) * 4)
    }
}

impl std::fmt::Debug for Pixels {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(f, "Pixels({} x {})", self.size[0], self.size[1])
    }
}
