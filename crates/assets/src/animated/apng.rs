use png::{BlendOp, DisposeOp};

use super::{AnimatedImage, check_size, delay, of_frame};
use crate::Pixels;
use crate::limits::Limits;
use crate::pixels::{
    PixelsError, PngHeader, SIGNATURE, blend_over, buffer_size, chunks, picture_of, reader_of,
};

pub(super) fn read(bytes: &[u8], limits: Limits) -> Result<AnimatedImage, PixelsError> {
    let size = PngHeader::read(bytes)?.size;
    let mut reader = reader_of(bytes, size, 1, limits)?;
    let Some(control) = reader.info().animation_control().copied() else {
        let still = Pixels::from_png_within(bytes, limits)?;
        let frames = vec![(still, delay(0, 1))];
        return Ok(AnimatedImage { size, frames, plays: Some(1), missing: None });
    };
    let wanted = u64::from(control.num_frames);
    check_size(size, wanted, limits)?;
    let too_large = || PixelsError::too_large(size, 1, limits.pixels);
    let mut screen = Pixels::new_within(size, limits.pixels).ok_or_else(too_large)?;
    let mut frames: Vec<(Pixels, _)> = Vec::new();
    let mut buffer = vec![0; buffer_size(&reader)?];
    // The decoder lays out interlaced parts as if they were as large as the canvas.
    let mut parts = reader.info().interlaced.then(|| parts_of(bytes));
    while (frames.len() as u64) < wanted {
        let nth = frames.len();
        let info = reader.next_frame(&mut buffer).map_err(|error| of_frame("APNG", nth, error))?;
        // A default image without a frame control is no frame.
        let Some(frame) = reader.info().frame_control().copied() else { continue };
        let samples = buffer[..info.buffer_size()].to_vec();
        let part = match parts.as_mut().map(|parts| parts.next().flatten()) {
            Some(Some(part)) => Pixels::from_png_within(&part, limits),
            _ => picture_of([info.width, info.height], info.color_type, samples),
        };
        let part = part.map_err(|error| of_frame("APNG", nth, error.message()))?;
        let before = (frame.dispose_op == DisposeOp::Previous).then(|| screen.clone());
        for y in 0..frame.height {
            for x in 0..frame.width {
                let at = [frame.x_offset + x, frame.y_offset + y];
                let pixel = part.pixel([x, y]);
                let laid = match frame.blend_op {
                    BlendOp::Source => pixel,
                    BlendOp::Over => blend_over(pixel, screen.pixel(at)),
                };
                screen.set_pixel(at, laid);
            }
        }
        let below = if frame.delay_den == 0 { 100 } else { u32::from(frame.delay_den) };
        frames.push((screen.clone(), delay(u32::from(frame.delay_num), below)));
        match (frame.dispose_op, before) {
            // There is nothing before the first frame.
            (DisposeOp::Previous, Some(before)) if nth > 0 => screen = before,
            (DisposeOp::Background | DisposeOp::Previous, _) => {
                for y in 0..frame.height {
                    for x in 0..frame.width {
                        screen.set_pixel([frame.x_offset + x, frame.y_offset + y], [0; 4]);
                    }
                }
            }
            (DisposeOp::None, _) => {}
        }
    }
    let plays = (control.num_plays > 0).then_some(control.num_plays);
    Ok(AnimatedImage { size, frames, plays, missing: None })
}

/// Each frame as a PNG of its own: the chunks that all share, and its part of the data. `None` for one whose
/// chunks are not as they should be.
fn parts_of(bytes: &[u8]) -> impl Iterator<Item = Option<Vec<u8>>> {
    let all: Vec<([u8; 4], &[u8])> = chunks(bytes).collect();
    let is = |name: &'static [u8; 4]| move |chunk: &&([u8; 4], &[u8])| chunk.0 == *name;
    let shared: Vec<([u8; 4], &[u8])> =
        all.iter().filter(|(name, _)| [b"PLTE", b"tRNS"].contains(&name)).copied().collect();
    let head = all.iter().find(is(b"IHDR")).map(|(_, head)| head.to_vec());
    let starts: Vec<usize> =
        all.iter().enumerate().filter(|(_, chunk)| chunk.0 == *b"fcTL").map(|(at, _)| at).collect();
    (0..starts.len()).map(move |nth| {
        let end = starts.get(nth + 1).copied().unwrap_or(all.len());
        let control = all[starts[nth]].1;
        let mut head = head.clone()?;
        head.get_mut(..8)?.copy_from_slice(control.get(4..12)?);
        let mut part = SIGNATURE.to_vec();
        push(&mut part, *b"IHDR", &head);
        shared.iter().for_each(|(name, data)| push(&mut part, *name, data));
        for (name, data) in &all[starts[nth]..end] {
            match name {
                b"IDAT" => push(&mut part, *b"IDAT", data),
                // A number stands before the data.
                b"fdAT" => push(&mut part, *b"IDAT", data.get(4..)?),
                _ => {}
            }
        }
        push(&mut part, *b"IEND", &[]);
        Some(part)
    })
}

fn push(png: &mut Vec<u8>, name: [u8; 4], data: &[u8]) {
    png.extend_from_slice(&(data.len() as u32).to_be_bytes());
    png.extend_from_slice(&name);
    png.extend_from_slice(data);
    let mut check = crc32fast::Hasher::new();
    check.update(&name);
    check.update(data);
    png.extend_from_slice(&check.finalize().to_be_bytes());
}
