use std::io;

use lucky_reel_assets::Pixels;
use png::{BitDepth, BlendOp, ColorType, Compression, DisposeOp, Encoder, EncodingError, Writer};

/// Writes an animated image as APNG, which any browser plays.
///
/// Only the rectangle that changed since the frame before is stored.
///
/// ```
/// use lucky_reel_assets::Pixels;
/// use lucky_reel_tools::AnimatedPng;
///
/// let mut picture = Pixels::new([8, 8]).unwrap();
/// let mut bytes = Vec::new();
/// let mut moving = AnimatedPng::new(&mut bytes, [8, 8], 2)?;
/// moving.frame(&picture, (1, 12))?; // a twelfth of a second
/// picture.set_pixel([3, 3], [255, 255, 255, 255]);
/// moving.frame(&picture, (1, 12))?;
/// moving.finish()?;
/// assert!(bytes.starts_with(b"\x89PNG"));
/// # Ok::<(), std::io::Error>(())
/// ```
pub struct AnimatedPng<W: io::Write> {
    writer: Writer<W>,
    size: [u32; 2],
    last: Option<Pixels>,
}

impl<W: io::Write> AnimatedPng<W> {
    /// Begins an animated image of this size that plays forever; the number of frames must be known.
    ///
    /// # Errors
    /// When the target cannot be written, or the size or the number of frames is 0.
    pub fn new(target: W, size: [u32; 2], frames: u32) -> io::Result<AnimatedPng<W>> {
        AnimatedPng::playing(target, size, frames, 0)
    }

    /// Begins one that plays so many times; 0 is forever.
    ///
    /// # Errors
    /// As [`new`](AnimatedPng::new).
    pub fn playing(
        target: W,
        size: [u32; 2],
        frames: u32,
        plays: u32,
    ) -> io::Result<AnimatedPng<W>> {
        let mut encoder = Encoder::new(target, size[0], size[1]);
        encoder.set_color(ColorType::Rgba);
        encoder.set_depth(BitDepth::Eight);
        encoder.set_compression(Compression::Fast);
        encoder.set_animated(frames, plays).map_err(failed)?;
        encoder.set_dispose_op(DisposeOp::None).map_err(failed)?;
        encoder.set_blend_op(BlendOp::Source).map_err(failed)?;
        let writer = encoder.write_header().map_err(failed)?;
        Ok(AnimatedPng { writer, size, last: None })
    }

    /// Adds a picture that stays up for `(above / below)` of a second.
    ///
    /// # Errors
    /// When it is of another size, there are more than were announced, or it cannot be written.
    pub fn frame(&mut self, picture: &Pixels, (above, below): (u16, u16)) -> io::Result<()> {
        if picture.size() != self.size {
            let what = "all pictures of an animated image must be of one size";
            return Err(io::Error::new(io::ErrorKind::InvalidInput, what));
        }
        let whole = ([0, 0], self.size);
        // The first one must be whole; one without a change still needs a pixel.
        let (at, size) = match &self.last {
            None => whole,
            Some(last) => changed(last, picture).unwrap_or(([0, 0], [1, 1])),
        };
        self.writer.set_frame_delay(above, below).map_err(failed)?;
        if self.last.is_some() {
            // The order matters: a rectangle may never stick out, also not between two calls.
            self.writer.reset_frame_position().map_err(failed)?;
            self.writer.set_frame_dimension(size[0], size[1]).map_err(failed)?;
            self.writer.set_frame_position(at[0], at[1]).map_err(failed)?;
        }
        let mut pixels = Vec::with_capacity(size[0] as usize * size[1] as usize * 4);
        for y in at[1]..at[1] + size[1] {
            let start = (y as usize * self.size[0] as usize + at[0] as usize) * 4;
            pixels.extend_from_slice(&picture.rgba()[start..start + size[0] as usize * 4]);
        }
        self.writer.write_image_data(&pixels).map_err(failed)?;
        self.last = Some(picture.clone());
        Ok(())
    }

    /// Writes the end.
    ///
    /// # Errors
    /// When it cannot be written, or frames are missing.
    pub fn finish(self) -> io::Result<()> {
        self.writer.finish().map_err(failed)
    }
}

/// The smallest rectangle that holds all changes: its corner and its size.
fn changed(before: &Pixels, after: &Pixels) -> Option<([u32; 2], [u32; 2])> {
    let width = after.size()[0] as usize;
    let (mut low, mut high) = ([u32::MAX; 2], [0; 2]);
    let rows = before.rgba().chunks_exact(width * 4).zip(after.rgba().chunks_exact(width * 4));
    for (y, (before, after)) in (0..).zip(rows) {
        let differs = |(a, b): (&[u8], &[u8])| a != b;
        let pixels = || before.chunks_exact(4).zip(after.chunks_exact(4));
        let Some(first) = pixels().position(differs) else { continue };
        let last = pixels().rposition(differs).unwrap_or(first);
        low = [low[0].min(first as u32), low[1].min(y)];
        high = [high[0].max(last as u32), y];
    }
    (low[0] != u32::MAX).then(|| (low, [high[0] - low[0] + 1, high[1] - low[1] + 1]))
}

fn failed(error: EncodingError) -> io::Error {
    match error {
        EncodingError::IoError(error) => error,
        other => io::Error::new(io::ErrorKind::InvalidInput, other.to_string()),
    }
}

impl<W: io::Write> std::fmt::Debug for AnimatedPng<W> {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(f, "AnimatedPng({} x {})", self.size[0], self.size[1])
    }
}
