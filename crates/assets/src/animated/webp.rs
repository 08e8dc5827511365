use std::io::Cursor;

use image_webp::{LoopCount, WebPDecoder};
use lucky_reel_core::ExactTime;

use super::{AnimatedImage, check_size, delay, of_frame};
use crate::Pixels;
use crate::limits::Limits;
use crate::pixels::PixelsError;

fn decoder_of(bytes: &[u8]) -> Result<WebPDecoder<Cursor<&[u8]>>, PixelsError> {
    WebPDecoder::new(Cursor::new(bytes)).map_err(|error| PixelsError::broken("WebP", error))
}

pub(super) fn size(bytes: &[u8]) -> Result<[u32; 2], PixelsError> {
    let (width, height) = decoder_of(bytes)?.dimensions();
    Ok([width, height])
}

pub(super) fn read(bytes: &[u8], limits: Limits) -> Result<AnimatedImage, PixelsError> {
    let mut decoder = decoder_of(bytes)?;
    let (width, height) = decoder.dimensions();
    let size = [width, height];
    if let Some(frame) = frame_of_two_sizes(bytes) {
        return Err(of_frame("WebP", frame, "its pixels are not of the size that it says"));
    }
    let count = if decoder.is_animated() { decoder.num_frames() } else { 1 };
    // The decoder's own limits cover no frames.
    check_size(size, u64::from(count), limits)?;
    if !decoder.is_animated() {
        let picture =
            pixels_of(&mut decoder).map_err(|error| PixelsError::broken("WebP", error))?;
        let frames: Vec<(Pixels, ExactTime)> = vec![(picture, delay(0, 1))];
        return Ok(AnimatedImage { size, frames, plays: Some(1), missing: None });
    }
    let plays = match decoder.loop_count() {
        LoopCount::Forever => None,
        LoopCount::Times(times) => Some(u32::from(times.get())),
    };
    let too_large = || PixelsError::too_large(size, u64::from(count), limits.pixels);
    let mut screen = Screen::new(Pixels::new_within(size, limits.pixels).ok_or_else(too_large)?);
    let mut frames = Vec::new();
    let parts = chunks(bytes.get(12..).unwrap_or_default()).filter(|(name, _)| *name == b"ANMF");
    for (nth, (_, data)) in parts.enumerate().take(count as usize) {
        let part = Part::read(data, size).map_err(|error| of_frame("WebP", nth, error))?;
        screen.lay(part);
        frames.push((screen.picture.clone(), delay(screen.millis, 1_000)));
    }
    if frames.len() < count as usize {
        return Err(of_frame("WebP", frames.len(), "it is cut short"));
    }
    Ok(AnimatedImage { size, frames, plays, missing: None })
}

/// The pixels of a still image.
fn pixels_of(decoder: &mut WebPDecoder<Cursor<&[u8]>>) -> Result<Pixels, String> {
    let size = decoder.dimensions().into();
    let length = decoder.output_buffer_size();
    let mut buffer = vec![0; length.ok_or("it does not fit into memory")?];
    decoder.read_image(&mut buffer).map_err(|error| error.to_string())?;
    let rgba = if decoder.has_alpha() {
        buffer
    } else {
        buffer.chunks_exact(3).flat_map(|s| [s[0], s[1], s[2], 255]).collect()
    };
    Pixels::from_rgba(size, rgba).ok_or_else(|| "it has fewer pixels than it says".to_owned())
}

/// One frame as it is in the file: a part of the canvas.
struct Part {
    at: [u32; 2],
    picture: Pixels,
    has_alpha: bool,
    millis: u32,
    /// It is blended over what is there, and cleared when its time is over.
    blends: bool,
    clears: bool,
}

impl Part {
    /// What an `ANMF` chunk holds: its head, and an image that is decoded as one of its own. It is refused
    /// before it takes memory where it does not lie on the canvas.
    fn read(data: &[u8], canvas: [u32; 2]) -> Result<Part, String> {
        let short = || "it is cut short".to_owned();
        let number = |at: usize| {
            let [a, b, c] = data.get(at..at + 3)?.try_into().ok()?;
            Some(u32::from_le_bytes([a, b, c, 0]))
        };
        let head = [0, 3, 6, 9, 12].map(number);
        let [Some(x), Some(y), Some(width), Some(height), Some(millis)] = head else {
            return Err(short());
        };
        let flags = *data.get(15).ok_or_else(short)?;
        let (at, size) = ([2 * x, 2 * y], [width + 1, height + 1]);
        if (0..2).any(|axis| at[axis] + size[axis] > canvas[axis]) {
            return Err("it lies outside of the image".to_owned());
        }
        let still = still_of(data.get(16..).unwrap_or_default(), size);
        let mut decoder =
            WebPDecoder::new(Cursor::new(&still[..])).map_err(|error| error.to_string())?;
        if <[u32; 2]>::from(decoder.dimensions()) != size {
            return Err("its pixels are not of the size that it says".to_owned());
        }
        let (has_alpha, picture) = (decoder.has_alpha(), pixels_of(&mut decoder)?);
        let (blends, clears) = (flags & 2 == 0, flags & 1 != 0);
        Ok(Part { at, picture, has_alpha, millis, blends, clears })
    }

    fn covers(&self, size: [u32; 2]) -> bool {
        self.at == [0, 0] && self.picture.size() == size
    }

    fn contains(&self, [x, y]: [u32; 2]) -> bool {
        let size = self.picture.size();
        (self.at[0]..self.at[0] + size[0]).contains(&x)
            && (self.at[1]..self.at[1] + size[1]).contains(&y)
    }
}

/// The parts of a frame as a still image.
fn still_of(parts: &[u8], [width, height]: [u32; 2]) -> Vec<u8> {
    let mut still = b"RIFF\0\0\0\0WEBP".to_vec();
    if parts.starts_with(b"ALPH") {
        // Transparency beside the colors needs a head that says so.
        still.extend_from_slice(b"VP8X\x0a\0\0\0\x10\0\0\0");
        still.extend_from_slice(&(width - 1).to_le_bytes()[..3]);
        still.extend_from_slice(&(height - 1).to_le_bytes()[..3]);
    }
    still.extend_from_slice(parts);
    let length = (still.len() - 8) as u32;
    still[4..8].copy_from_slice(&length.to_le_bytes());
    still
}

/// What is seen after each frame. Composed step by step as the format's reference decoder does it, rounding
/// included, so that twenty blended frames do not drift apart from it.
struct Screen {
    picture: Pixels,
    /// Of the present frame.
    millis: u32,
    /// The frame before; none before the first.
    before: Option<Part>,
    /// What was there before that one did not matter.
    was_key: bool,
}

impl Screen {
    fn new(picture: Pixels) -> Screen {
        Screen { picture, millis: 0, before: None, was_key: false }
    }

    fn lay(&mut self, part: Part) {
        let (size, own) = (self.picture.size(), part.picture.size());
        let is_first = self.before.is_none();
        let cleared = self.before.take().filter(|before| before.clears);
        let is_key = is_first
            || (!part.has_alpha || !part.blends) && part.covers(size)
            || cleared.as_ref().is_some_and(|before| before.covers(size) || self.was_key);
        if is_key {
            self.picture.rgba_mut().fill(0);
        } else if let Some(before) = &cleared {
            let [wide, high] = before.picture.size();
            for y in 0..high {
                for x in 0..wide {
                    self.picture.set_pixel([before.at[0] + x, before.at[1] + y], [0; 4]);
                }
            }
        }
        for y in 0..own[1] {
            for x in 0..own[0] {
                let at = [part.at[0] + x, part.at[1] + y];
                let above = part.picture.pixel([x, y]);
                // Nothing is below where the frame before was cleared.
                let is_alone = is_key || cleared.as_ref().is_some_and(|before| before.contains(at));
                let pixel = match part.blends && !is_alone {
                    true => blended(above, self.picture.pixel(at)),
                    false => above,
                };
                self.picture.set_pixel(at, pixel);
            }
        }
        (self.millis, self.was_key) = (part.millis, is_key);
        self.before = Some(part);
    }
}

/// One color over another, in whole numbers as the reference decoder counts: always rounded down, so that
/// an opaque color may lose one step.
fn blended(above: [u8; 4], below: [u8; 4]) -> [u8; 4] {
    match above[3] {
        0 => return below,
        255 => return above,
        _ => {}
    }
    let alpha = u32::from(above[3]);
    let rest = (u32::from(below[3]) * (256 - alpha)) >> 8;
    let sum = alpha + rest;
    let scale = (1 << 24) / sum;
    let mix = |channel: usize| {
        let mixed = u32::from(above[channel]) * alpha + u32::from(below[channel]) * rest;
        ((u64::from(mixed) * u64::from(scale)) >> 24) as u8
    };
    [mix(0), mix(1), mix(2), sum as u8]
}

/// The first frame whose colors are of another size than its head says, while its transparency is
/// not: the decoder relies on it that they agree.
fn frame_of_two_sizes(bytes: &[u8]) -> Option<usize> {
    let frames = chunks(bytes.get(12..)?).filter(|(name, _)| *name == b"ANMF");
    frames.enumerate().find_map(|(nth, (_, frame))| {
        let side = |at: usize| {
            let [a, b, c] = frame.get(at..at + 3)?.try_into().ok()?;
            Some(u32::from_le_bytes([a, b, c, 0]) + 1)
        };
        let mut parts = chunks(frame.get(16..)?);
        parts.next().filter(|(name, _)| *name == b"ALPH")?;
        // Whatever it is called, the decoder takes it for the colors.
        let colors = parts.next().map_or(&[][..], |(_, colors)| colors);
        let coded = |at: usize| {
            let bytes = colors.get(at..at + 2)?.try_into().ok()?;
            Some(u32::from(u16::from_le_bytes(bytes)) & 0x3fff)
        };
        ([side(6)?, side(9)?].map(Some) != [coded(6), coded(8)]).then_some(nth)
    })
}

/// The chunks of a RIFF: their names and what they hold.
fn chunks(mut bytes: &[u8]) -> impl Iterator<Item = (&[u8], &[u8])> {
    std::iter::from_fn(move || {
        let (name, rest) = bytes.split_at_checked(4)?;
        let (length, rest) = rest.split_at_checked(4)?;
        let length = u32::from_le_bytes(length.try_into().ok()?) as usize;
        let data = rest.get(..length.min(rest.len()))?;
        bytes = rest.get(length.saturating_add(length & 1)..).unwrap_or_default();
        Some((name, data))
    })
}
