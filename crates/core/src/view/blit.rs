use super::{Flips, View};
use crate::axes::both;
use crate::ids::ImageId;
use crate::sheet::Rect;

/// A whole-pixel copy from an image to a screen.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Blit {
    /// The image to copy from.
    pub image: ImageId,
    /// What to copy, in the image's pixels.
    pub source: Rect,
    /// Where its top left goes, in the screen's pixels.
    pub at: [i32; 2],
    /// How large it gets, in the screen's pixels.
    pub size: [u32; 2],
    /// How the source is mirrored within that.
    pub flips: Flips,
}

impl View<'_> {
    /// This picture with its pivot on `position`, each of its pixels `scale` pixels wide and high.
    /// Where a half pixel is left over, it goes left and up, after flipping.
    #[must_use]
    pub fn blit(&self, position: [i32; 2], scale: u32) -> Blit {
        let source = self.frame.source;
        let at = both(|axis| {
            let offset = (i128::from(self.edges(axis)[0]) * i128::from(scale)).div_euclid(2);
            let at = i128::from(position[axis]) + offset;
            at.clamp(i128::from(i32::MIN), i128::from(i32::MAX)) as i32
        });
        let size = [source.width, source.height].map(|side| side.saturating_mul(scale));
        Blit { image: self.frame.image, source, at, size, flips: self.flips }
    }
}
