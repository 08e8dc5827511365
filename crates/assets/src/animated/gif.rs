use gif::{ColorOutput, DecodeOptions, DecodingError, DisposalMethod, MemoryLimit, Repeat};

use super::{AnimatedImage, check_size, delay, of_frame};
use crate::Pixmap;
use crate::limits::Limits;
use crate::pixmap::PixmapError;

fn options(most: u64) -> DecodeOptions {
    let mut options = DecodeOptions::new();
    options.set_color_output(ColorOutput::RGBA);
    let bytes = most.saturating_mul(4).clamp(1, u64::from(u32::MAX));
    if let Some(bytes) = std::num::NonZeroU64::new(bytes) {
        options.set_memory_limit(MemoryLimit::Bytes(bytes));
    }
    options
}

pub(super) fn size(bytes: &[u8]) -> Result<[u32; 2], PixmapError> {
    let decoder = options(1).read_info(bytes).map_err(|error| broken(&error))?;
    Ok([u32::from(decoder.width()), u32::from(decoder.height())])
}

pub(super) fn read(bytes: &[u8], limits: Limits) -> Result<AnimatedImage, PixmapError> {
    let mut decoder = options(limits.pixels).read_info(bytes).map_err(|error| broken(&error))?;
    let size = [u32::from(decoder.width()), u32::from(decoder.height())];
    check_size(size, 1, limits)?;
    let too_large = || PixmapError::too_large(size, 1, limits.pixels);
    let mut screen = Pixmap::new_within(size, limits.pixels).ok_or_else(too_large)?;
    let mut frames = Vec::new();
    loop {
        let frame = match decoder.read_next_frame() {
            Ok(Some(frame)) => frame,
            Ok(None) => break,
            Err(error) => return Err(of_frame("GIF", frames.len(), error)),
        };
        check_size(size, frames.len() as u64 + 1, limits)?;
        let before = (frame.dispose == DisposalMethod::Previous).then(|| screen.clone());
        let at = [u32::from(frame.left), u32::from(frame.top)];
        let (width, height) = (u32::from(frame.width), u32::from(frame.height));
        for (nth, pixel) in (0..).zip(frame.buffer.chunks_exact(4)) {
            if let ([r, g, b, 255], true) = (pixel, width > 0) {
                screen.set_pixel([at[0] + nth % width, at[1] + nth / width], [*r, *g, *b, 255]);
            }
        }
        frames.push((screen.clone(), delay(u32::from(frame.delay), 100)));
        match (frame.dispose, before) {
            (DisposalMethod::Background, _) => {
                for nth in 0..width * height {
                    screen.set_pixel([at[0] + nth % width, at[1] + nth / width], [0; 4]);
                }
            }
            (_, Some(before)) => screen = before,
            _ => {}
        }
    }
    let plays = match decoder.repeat() {
        Repeat::Infinite => None,
        // Without the extension the decoder says 0 times.
        Repeat::Finite(times) => Some(u32::from(times).max(1)),
    };
    Ok(AnimatedImage { size, frames, plays })
}

fn broken(error: &DecodingError) -> PixmapError {
    PixmapError::broken("GIF", error)
}
