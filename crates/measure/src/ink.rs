//! What is drawn and what is background, pixel by pixel.

use lucky_reel_assets::Pixels;

/// Alpha up to this is not seen.
const UNSEEN: u8 = 8;
/// A transparent background takes at least this share of the pixels.
const LEAST_TRANSPARENT: f64 = 0.02;
/// A background of one color takes at least this share, and its pixels differ by this much at most.
const LEAST_COLORED: f64 = 0.12;
const NEAR_BACKGROUND: u8 = 10;

/// What lies behind the drawings.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Background {
    /// Transparent pixels.
    Transparent,
    /// Pixels of about this red, green and blue.
    Color([u8; 3]),
    /// None that stands apart from the drawings.
    None,
}

/// The pixels of a sheet as they are looked at, row by row.
pub(super) struct Ink {
    pub(super) width: usize,
    pub(super) height: usize,
    /// Premultiplied red, green, blue and alpha.
    pub(super) pixels: Vec<[u8; 4]>,
    /// Whether each belongs to a drawing.
    pub(super) drawn: Vec<bool>,
}

impl Ink {
    pub(super) fn of(picture: &Pixels) -> (Ink, Background) {
        let [width, height] = picture.size().map(|side| side as usize);
        let pixels: Vec<[u8; 4]> = picture.rgba().chunks_exact(4).map(premultiplied).collect();
        let background = background_of(&pixels);
        let drawn = pixels.iter().map(|pixel| !is_background(*pixel, background)).collect();
        (Ink { width, height, pixels, drawn }, background)
    }

    /// Columns as rows.
    pub(super) fn transposed(&self) -> Ink {
        Ink {
            width: self.height,
            height: self.width,
            pixels: transposed(&self.pixels, self.width, self.height),
            drawn: transposed(&self.drawn, self.width, self.height),
        }
    }

    pub(super) fn row(&self, row: usize) -> (&[[u8; 4]], &[bool]) {
        let range = row * self.width..(row + 1) * self.width;
        (&self.pixels[range.clone()], &self.drawn[range])
    }
}

fn premultiplied(pixel: &[u8]) -> [u8; 4] {
    let [r, g, b, alpha] = [pixel[0], pixel[1], pixel[2], pixel[3]];
    let times = |value: u8| ((u16::from(value) * u16::from(alpha) + 127) / 255) as u8;
    if alpha == 255 { [r, g, b, alpha] } else { [times(r), times(g), times(b), alpha] }
}

/// Square by square, so that both sides stay in the cache.
fn transposed<T: Copy>(values: &[T], width: usize, height: usize) -> Vec<T> {
    const SIDE: usize = 32;
    let mut out = values.to_vec();
    for top in (0..height).step_by(SIDE) {
        for left in (0..width).step_by(SIDE) {
            for y in top..(top + SIDE).min(height) {
                for x in left..(left + SIDE).min(width) {
                    out[x * height + y] = values[y * width + x];
                }
            }
        }
    }
    out
}

/// The largest difference of a channel.
pub(super) fn difference(a: [u8; 4], b: [u8; 4]) -> u8 {
    let apart = |channel: usize| a[channel].abs_diff(b[channel]);
    apart(0).max(apart(1)).max(apart(2)).max(apart(3))
}

fn is_background(pixel: [u8; 4], background: Background) -> bool {
    pixel[3] <= UNSEEN
        || match background {
            Background::Color([r, g, b]) => difference(pixel, [r, g, b, 255]) <= NEAR_BACKGROUND,
            Background::Transparent | Background::None => false,
        }
}

fn background_of(pixels: &[[u8; 4]]) -> Background {
    let total = pixels.len().max(1) as f64;
    let unseen = pixels.iter().filter(|pixel| pixel[3] <= UNSEEN).count();
    if unseen as f64 >= LEAST_TRANSPARENT * total {
        return Background::Transparent;
    }
    // The fullest of the bins of 8 by 8 by 8 colors.
    let bin = |pixel: &[u8; 4]| {
        let part = |channel: usize| usize::from(pixel[channel] >> 3);
        part(0) << 10 | part(1) << 5 | part(2)
    };
    let mut counts = vec![0_u32; 1 << 15];
    pixels.iter().for_each(|pixel| counts[bin(pixel)] += 1);
    let fullest = (0..counts.len()).max_by_key(|&bin| counts[bin]).unwrap_or(0);
    let mut channels = [[0_u32; 256]; 3];
    for pixel in pixels.iter().filter(|pixel| bin(pixel) == fullest) {
        (0..3).for_each(|channel| channels[channel][usize::from(pixel[channel])] += 1);
    }
    let color = channels.map(|counts| median(&counts));
    let background = Background::Color(color);
    let alike = pixels.iter().filter(|pixel| is_background(**pixel, background)).count();
    if alike as f64 >= LEAST_COLORED * total { background } else { Background::None }
}

/// The median of bytes that were counted.
pub(super) fn median(counts: &[u32; 256]) -> u8 {
    let total: u32 = counts.iter().sum();
    let mut below = 0;
    let middle = counts.iter().position(|count| {
        below += count;
        2 * below >= total
    });
    middle.unwrap_or(0) as u8
}
