//! Pictures that carry timing: GIF, APNG and animated WebP, each frame fully composed.
//!
//! What counts where decoders differ:
//!
//! - GIF: what is disposed of to the background, and what no frame has covered, is transparent; frames
//!   are cut to the canvas; unknown ways of disposal mean none. Without the loop extension it plays
//!   once; the loop number 0 is forever, any other number n is n times.
//! - GIF: a file that is cut short has its whole frames; frames without any color table are black.
//!   [`AnimatedImage::missing`] says so.
//! - APNG: a default image that is no frame is left out; a delay over 0 is a delay over 100.
//! - WebP: frames are blended in whole numbers, rounded down, as the format's reference decoder does it.
//! - A delay of 0 becomes 100 ms. Every other delay is kept as it is.

mod apng;
#[cfg(feature = "gif")]
mod gif;
#[cfg(feature = "webp")]
mod webp;

#[cfg(not(feature = "gif"))]
use left_out::gif;
#[cfg(not(feature = "webp"))]
use left_out::webp;

/// In place of formats whose features are off: their files are refused, and the feature is named.
#[cfg(not(all(feature = "gif", feature = "webp")))]
mod left_out {
    macro_rules! left_out {
        ($module:ident, $format:literal) => {
            #[cfg(not(feature = $format))]
            pub(super) mod $module {
                use crate::animated::AnimatedImage;
                use crate::limits::Limits;
                use crate::pixels::PixelsError;

                pub(in crate::animated) fn size(_: &[u8]) -> Result<[u32; 2], PixelsError> {
                    Err(PixelsError::left_out($format))
                }

                pub(in crate::animated) fn read(
                    _: &[u8],
                    _: Limits,
                ) -> Result<AnimatedImage, PixelsError> {
                    Err(PixelsError::left_out($format))
                }
            }
        };
    }
    left_out!(gif, "gif");
    left_out!(webp, "webp");
}

use lucky_reel_core::ExactTime;

use crate::Pixels;
use crate::decoding::decode;
use crate::limits::Limits;
use crate::pixels::{PixelsError, PngHeader};

/// An animated image, decoded into frames.
///
/// ```
/// use lucky_reel_assets::animated::AnimatedImage;
///
/// # let moth = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/greenhouse/moth.png");
/// let image = AnimatedImage::from_bytes(&std::fs::read(moth)?)?;
/// assert_eq!((image.frames.len(), image.plays), (1, Some(1))); // a still picture is one frame
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[derive(Clone, Debug)]
pub struct AnimatedImage {
    /// Width and height of each frame, in pixels.
    pub size: [u32; 2],
    /// Each frame as it is seen, and how long.
    pub frames: Vec<(Pixels, ExactTime)>,
    /// How often it plays; `None` is forever.
    pub plays: Option<u32>,
    /// What the file lacks, in words: some damaged files are read all the same, as browsers read them, as
    /// far as their frames are whole. `None` for a whole file.
    pub missing: Option<String>,
}

impl AnimatedImage {
    /// Decodes a GIF, an APNG or an animated WebP. A still image counts as an animated image of one
    /// frame.
    ///
    /// # Errors
    /// When it is none of these, is broken or cut short (naming the frame), or has more than
    /// 67,108,864 pixels in all of its frames.
    pub fn from_bytes(bytes: &[u8]) -> Result<AnimatedImage, PixelsError> {
        AnimatedImage::from_bytes_within(bytes, Limits::default())
    }

    /// Like [`from_bytes`](AnimatedImage::from_bytes), with other limits.
    ///
    /// # Errors
    /// As [`from_bytes`](AnimatedImage::from_bytes).
    pub fn from_bytes_within(bytes: &[u8], limits: Limits) -> Result<AnimatedImage, PixelsError> {
        let image = match bytes {
            [b'G', b'I', b'F', ..] => decode("GIF", || gif::read(bytes, limits))?,
            [b'R', b'I', b'F', b'F', _, _, _, _, b'W', b'E', b'B', b'P', ..] => {
                decode("WebP", || webp::read(bytes, limits))?
            }
            [0x89, b'P', b'N', b'G', ..] => decode("APNG", || apng::read(bytes, limits))?,
            [] => return Err(PixelsError::new("the file is empty", "export it again")),
            _ => {
                let what = "this is neither a GIF, nor a PNG, nor a WebP";
                return Err(PixelsError::new(what, "export it as one of these"));
            }
        };
        if image.frames.is_empty() {
            return Err(PixelsError::new("it has no frames", "export it again"));
        }
        Ok(image)
    }

    /// Width and height, without decoding a pixel.
    pub(crate) fn size_of(bytes: &[u8]) -> Result<[u32; 2], PixelsError> {
        match bytes {
            [b'G', b'I', b'F', ..] => decode("GIF", || gif::size(bytes)),
            [b'R', b'I', b'F', b'F', ..] => decode("WebP", || webp::size(bytes)),
            _ => PngHeader::read(bytes).map(|header| header.size),
        }
    }
}

/// Refuses more frames of a size than are taken in.
fn check_size(size: [u32; 2], frames: u64, limits: Limits) -> Result<(), PixelsError> {
    if frames > limits.frames {
        let what = format!("it has more than {} frames", limits.frames);
        return Err(PixelsError::new(what, "use a shorter image, or raise the limit"));
    }
    let pixels = u64::from(size[0]) * u64::from(size[1]);
    if pixels.saturating_mul(frames) > limits.pixels {
        return Err(PixelsError::too_large(size, frames, limits.pixels));
    }
    Ok(())
}

/// A delay; none at all becomes 100 ms.
fn delay(above: u32, below: u32) -> ExactTime {
    let ticks = u128::from(above) * u128::from(lucky_reel_core::Ticks::PER_SECOND);
    let time = ExactTime::from_fraction(ticks, u128::from(below)).unwrap_or(ExactTime::ZERO);
    if time == ExactTime::ZERO { lucky_reel_core::Ticks::from_millis(100).into() } else { time }
}

/// Puts the number of the frame into an error.
fn of_frame(format: &str, frame: usize, cause: impl std::fmt::Display) -> PixelsError {
    PixelsError::broken(format, format!("frame {frame}: {cause}"))
}
