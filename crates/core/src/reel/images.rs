//! The images of a reel.

use super::Reel;
use crate::ids::{FrameId, ImageId};
use crate::sheet::Frame;

impl Reel {
    /// How many images it has.
    #[must_use]
    pub fn image_count(&self) -> usize {
        self.data.images.len()
    }

    /// All images, those of looks included, with their width and height in pixels.
    pub fn images(&self) -> impl ExactSizeIterator<Item = (ImageId, [u32; 2])> {
        let sizes = self.data.images.iter().enumerate();
        sizes.map(|(number, size)| (ImageId(number as u16), *size))
    }

    /// Width and height of an image, in pixels; nothing for a foreign id.
    #[must_use]
    pub fn image_size(&self, image: ImageId) -> [u32; 2] {
        self.data.images.get(image.index()).copied().unwrap_or([0, 0])
    }

    /// All frames with their ids: those of sheets, and copies that clips and looks have on other pivots.
    pub fn frames(&self) -> impl ExactSizeIterator<Item = (FrameId, &Frame)> {
        self.data.frames.iter().enumerate().map(|(id, frame)| (FrameId(id as u32), frame))
    }
}
