//! The images of a reel.

use alloc::sync::Arc;

use super::{Build, Reel, ReelData};
use crate::ids::{FrameId, ImageId};
use crate::sheet::{Frame, Rect};

impl Reel {
    /// All images, those of looks included, with their width and height in pixels.
    pub fn images(&self) -> impl ExactSizeIterator<Item = (ImageId, [u32; 2])> {
        let sizes = self.data.images.iter().enumerate();
        sizes.map(|(number, size)| (ImageId(number as u16), *size))
    }

    /// Width and height of an image, in pixels; nothing for a foreign id.
    pub(crate) fn image_size(&self, image: ImageId) -> [u32; 2] {
        self.data.images.get(image.index()).copied().unwrap_or([0, 0])
    }

    /// All frames with their ids: those of sheets, and copies that clips and looks have on other pivots.
    pub fn frames(&self) -> impl ExactSizeIterator<Item = (FrameId, &Frame)> {
        self.data.frames.iter().enumerate().map(|(id, frame)| (FrameId(id as u32), frame))
    }

    /// The same reel with its frames cut from other images, for art that is put together on a few large
    /// ones: the sizes of the images, and for each frame the image, by its place in that list, and where
    /// its left top pixel is on it. Ids, sizes, offsets, pivots, points and areas stay; it is another
    /// version of the reel. `None` when a frame is outside of its image.
    ///
    /// ```
    /// use lucky_reel_core::{Grid, NewClip, NewSheet, Player, Reel};
    ///
    /// let mut builder = Reel::builder();
    /// let moth = builder.sheet("moth", NewSheet::grid([32, 16], Grid::cell_size([16, 16])));
    /// let lamp = builder.sheet("lamp", NewSheet::grid([16, 16], Grid::cell_size([16, 16])));
    /// let glow = builder.clip("glow", NewClip::of(lamp).frames([0]));
    /// let reel = builder.build()?;
    ///
    /// // All three frames on one image, one below the other.
    /// let reel = reel.with_images(&[[16, 48]], |id, _| (0, [0, 16 * id.index() as u32])).unwrap();
    /// let view = Player::new(&reel, glow).view(&reel).unwrap();
    /// assert_eq!((view.frame.image.index(), view.frame.source.y), (0, 32));
    /// assert!(reel.with_images(&[[16, 40]], |id, _| (0, [0, 16 * id.index() as u32])).is_none());
    /// # Ok::<(), lucky_reel_core::BuildError>(())
    /// ```
    #[must_use]
    pub fn with_images(
        &self,
        images: &[[u32; 2]],
        mut place: impl FnMut(FrameId, &Frame) -> (usize, [u32; 2]),
    ) -> Option<Reel> {
        let mut data = ReelData::clone(&self.data);
        for (id, frame) in data.frames.iter_mut().enumerate() {
            let (image, [x, y]) = place(FrameId(id as u32), frame);
            frame.source = Rect { x, y, ..frame.source };
            frame.image = ImageId(u16::try_from(image).ok()?);
            if !Rect::fits(*images.get(image)?, frame.source) {
                return None;
            }
        }
        data.images = images.to_vec();
        Some(Reel { family: self.family, build: Build::new(), data: Arc::new(data) })
    }
}
