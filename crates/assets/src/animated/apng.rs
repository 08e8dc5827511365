use png::{BlendOp, DisposeOp};

use super::{AnimatedImage, check_size, delay, of_frame};
use crate::Pixmap;
use crate::limits::Limits;
use crate::pixmap::{PixmapError, PngHeader, blend_over, buffer_size, picture_of, reader_of};

pub(super) fn read(bytes: &[u8], limits: Limits) -> Result<AnimatedImage, PixmapError> {
    let size = PngHeader::read(bytes)?.size;
    let mut reader = reader_of(bytes, size, 1, limits)?;
    let Some(control) = reader.info().animation_control().copied() else {
        let still = Pixmap::from_png_within(bytes, limits)?;
        return Ok(AnimatedImage { size, frames: vec![(still, delay(0, 1))], plays: Some(1) });
    };
    let wanted = u64::from(control.num_frames);
    check_size(size, wanted, limits)?;
    let too_large = || PixmapError::too_large(size, 1, limits.pixels);
    let mut screen = Pixmap::new_within(size, limits.pixels).ok_or_else(too_large)?;
    let mut frames: Vec<(Pixmap, _)> = Vec::new();
    let mut buffer = vec![0; buffer_size(&reader)?];
    while (frames.len() as u64) < wanted {
        let nth = frames.len();
        let info = reader.next_frame(&mut buffer).map_err(|error| of_frame("APNG", nth, error))?;
        // A default image without a frame control is no frame.
        let Some(frame) = reader.info().frame_control().copied() else { continue };
        let samples = buffer[..info.buffer_size()].to_vec();
        let part = picture_of([info.width, info.height], info.color_type, samples)?;
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
    Ok(AnimatedImage { size, frames, plays })
}
