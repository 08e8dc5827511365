use std::borrow::Cow;

use gif::{ColorOutput, DecodeOptions, DecodingError, DisposalMethod, MemoryLimit, Repeat};

use super::{AnimatedImage, check_size, delay, of_frame};
use crate::Pixels;
use crate::limits::Limits;
use crate::pixels::PixelsError;

fn options(most: u64) -> DecodeOptions {
    let mut options = DecodeOptions::new();
    options.set_color_output(ColorOutput::RGBA);
    let bytes = most.saturating_mul(4).clamp(1, u64::from(u32::MAX));
    if let Some(bytes) = std::num::NonZeroU64::new(bytes) {
        options.set_memory_limit(MemoryLimit::Bytes(bytes));
    }
    options
}

pub(super) fn size(bytes: &[u8]) -> Result<[u32; 2], PixelsError> {
    let decoder = options(1).read_info(bytes).map_err(|error| broken(&error))?;
    Ok([u32::from(decoder.width()), u32::from(decoder.height())])
}

pub(super) fn read(bytes: &[u8], limits: Limits) -> Result<AnimatedImage, PixelsError> {
    let outline = Outline::of(bytes);
    let bytes: &[u8] = &outline.with_table(bytes);
    let mut decoder = options(limits.pixels).read_info(bytes).map_err(|error| broken(&error))?;
    let size = [u32::from(decoder.width()), u32::from(decoder.height())];
    check_size(size, 1, limits)?;
    let too_large = || PixelsError::too_large(size, 1, limits.pixels);
    let mut screen = Pixels::new_within(size, limits.pixels).ok_or_else(too_large)?;
    let mut frames = Vec::new();
    loop {
        let frame = match decoder.read_next_frame() {
            Ok(Some(frame)) => frame,
            Ok(None) => break,
            // What has been read is whole.
            Err(_) if outline.is_cut && !frames.is_empty() => break,
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
    let missing = outline.missing(frames.len());
    Ok(AnimatedImage { size, frames, plays, missing })
}

/// The blocks of a GIF, and what of them is missing.
#[derive(Default)]
struct Outline {
    /// Whole images.
    images: usize,
    /// An image has no color table, neither its own nor that of the file.
    lacks_table: bool,
    has_table: bool,
    /// It ends before its last byte, 3B.
    is_cut: bool,
}

/// Length of the head, and where its flags are.
const HEAD: usize = 13;
const FLAGS: usize = 10;
/// A flag: a color table follows; its size is in the lowest three bits.
const TABLE: u8 = 0x80;

impl Outline {
    fn of(bytes: &[u8]) -> Outline {
        let mut outline = Outline::default();
        outline.is_cut = outline.walk(bytes).is_none();
        outline
    }

    /// Goes through all blocks to the last byte; `None` when the file ends before.
    fn walk(&mut self, bytes: &[u8]) -> Option<()> {
        let table = |flags: u8| if flags & TABLE == 0 { 0 } else { 3 << ((flags & 7) + 1) };
        let flags = *bytes.get(FLAGS)?;
        self.has_table = flags & TABLE != 0;
        let mut rest = bytes.get(HEAD + table(flags)..)?;
        loop {
            let (kind, after) = rest.split_first()?;
            let data = match kind {
                0x21 => after.get(1..)?,
                0x2c => {
                    let flags = *after.get(8)?;
                    self.lacks_table |= flags & TABLE == 0 && !self.has_table;
                    // The head of the image, its table, and the size of its codes.
                    after.get(9 + table(flags) + 1..)?
                }
                // The last byte, or something that only the decoder can judge.
                _ => return Some(()),
            };
            rest = after_blocks(data)?;
            self.images += usize::from(*kind == 0x2c);
        }
    }

    /// With a table of black where one is missing: the decoder insists on one, and browsers show black.
    fn with_table<'b>(&self, bytes: &'b [u8]) -> Cow<'b, [u8]> {
        if !self.lacks_table {
            return Cow::Borrowed(bytes);
        }
        let mut patched = bytes.to_vec();
        patched[FLAGS] |= TABLE | 7;
        patched.splice(HEAD..HEAD, [0; 3 * 256]);
        Cow::Owned(patched)
    }

    /// What is missing, in words.
    fn missing(&self, frames: usize) -> Option<String> {
        let mut missing = Vec::new();
        if self.is_cut && frames < self.images {
            missing.push(format!("it is broken after frame {}", frames.saturating_sub(1)));
        } else if self.is_cut {
            missing.push("it is cut short: only its whole frames are read".to_owned());
        }
        if self.lacks_table {
            missing.push("it has no color table: frames without one are black".to_owned());
        }
        (!missing.is_empty()).then(|| missing.join("; "))
    }
}

/// What follows a list of blocks, each with its length before it, ended by one of length 0.
fn after_blocks(mut rest: &[u8]) -> Option<&[u8]> {
    loop {
        let (length, after) = rest.split_first()?;
        if *length == 0 {
            return Some(after);
        }
        rest = after.get(usize::from(*length)..)?;
    }
}

fn broken(error: &DecodingError) -> PixelsError {
    PixelsError::broken("GIF", error)
}
