use std::io::Cursor;

use image_webp::{LoopCount, WebPDecoder};
use lucky_reel_core::ExactTime;

use super::{Film, check_size, delay, of_frame};
use crate::Picture;
use crate::limits::Limits;
use crate::picture::PictureError;

fn decoder_of(bytes: &[u8]) -> Result<WebPDecoder<Cursor<&[u8]>>, PictureError> {
    WebPDecoder::new(Cursor::new(bytes)).map_err(|error| PictureError::broken("WebP", error))
}

pub(super) fn size(bytes: &[u8]) -> Result<[u32; 2], PictureError> {
    let (width, height) = decoder_of(bytes)?.dimensions();
    Ok([width, height])
}

pub(super) fn read(bytes: &[u8], limits: Limits) -> Result<Film, PictureError> {
    let mut decoder = decoder_of(bytes)?;
    let (width, height) = decoder.dimensions();
    let size = [width, height];
    let count = if decoder.is_animated() { decoder.num_frames() } else { 1 };
    // The decoder's own limits cover no frames.
    check_size(size, u64::from(count), limits)?;
    let length = decoder.output_buffer_size();
    let mut buffer =
        vec![
            0;
            length.ok_or_else(|| PictureError::too_large(size, u64::from(count), limits.pixels))?
        ];
    let has_alpha = decoder.has_alpha();
    let picture = |buffer: &[u8]| {
        let rgba = if has_alpha {
            buffer.to_vec()
        } else {
            buffer.chunks_exact(3).flat_map(|s| [s[0], s[1], s[2], 255]).collect()
        };
        let short = || PictureError::broken("WebP", "it has fewer pixels than it says");
        Picture::from_rgba(size, rgba).ok_or_else(short)
    };
    if !decoder.is_animated() {
        decoder.read_image(&mut buffer).map_err(|error| PictureError::broken("WebP", error))?;
        let frames: Vec<(Picture, ExactTime)> = vec![(picture(&buffer)?, delay(0, 1))];
        return Ok(Film { size, frames, plays: Some(1) });
    }
    // Else what is disposed of to the background would stay.
    decoder.set_background_color([0; 4]).map_err(|error| PictureError::broken("WebP", error))?;
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
    Ok(Film { size, frames, plays })
}
