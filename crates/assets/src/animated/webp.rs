use std::io::Cursor;

use image_webp::{LoopCount, WebPDecoder};
use lucky_reel_core::ExactTime;

use super::{AnimatedImage, check_size, delay, of_frame};
use crate::Pixmap;
use crate::limits::Limits;
use crate::pixmap::PixmapError;

fn decoder_of(bytes: &[u8]) -> Result<WebPDecoder<Cursor<&[u8]>>, PixmapError> {
    WebPDecoder::new(Cursor::new(bytes)).map_err(|error| PixmapError::broken("WebP", error))
}

pub(super) fn size(bytes: &[u8]) -> Result<[u32; 2], PixmapError> {
    let (width, height) = decoder_of(bytes)?.dimensions();
    Ok([width, height])
}

pub(super) fn read(bytes: &[u8], limits: Limits) -> Result<AnimatedImage, PixmapError> {
    let mut decoder = decoder_of(bytes)?;
    let (width, height) = decoder.dimensions();
    let size = [width, height];
    if let Some(frame) = frame_of_two_sizes(bytes) {
        return Err(of_frame("WebP", frame, "its pixels are not of the size that it says"));
    }
    let count = if decoder.is_animated() { decoder.num_frames() } else { 1 };
    // The decoder's own limits cover no frames.
    check_size(size, u64::from(count), limits)?;
    let length = decoder.output_buffer_size();
    let mut buffer =
        vec![
            0;
            length.ok_or_else(|| PixmapError::too_large(size, u64::from(count), limits.pixels))?
        ];
    let has_alpha = decoder.has_alpha();
    let picture = |buffer: &[u8]| {
        let rgba = if has_alpha {
            buffer.to_vec()
        } else {
            buffer.chunks_exact(3).flat_map(|s| [s[0], s[1], s[2], 255]).collect()
        };
        let short = || PixmapError::broken("WebP", "it has fewer pixels than it says");
        Pixmap::from_rgba(size, rgba).ok_or_else(short)
    };
    if !decoder.is_animated() {
        decoder.read_image(&mut buffer).map_err(|error| PixmapError::broken("WebP", error))?;
        let frames: Vec<(Pixmap, ExactTime)> = vec![(picture(&buffer)?, delay(0, 1))];
        return Ok(AnimatedImage { size, frames, plays: Some(1) });
    }
    // Else what is disposed of to the background would stay.
    decoder.set_background_color([0; 4]).map_err(|error| PixmapError::broken("WebP", error))?;
    let mut frames = Vec::new();
    for nth in 0..count as usize {
        let millis =
            decoder.read_frame(&mut buffer).map_err(|error| of_frame("WebP", nth, error))?;
        frames.push((picture(&buffer)?, delay(millis, 1_000)));
    }
    let plays = match decoder.loop_count() {
        LoopCount::Forever => None,
        LoopCount::Times(times) => Some(u32::from(times.get())),
    };
    Ok(AnimatedImage { size, frames, plays })
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
