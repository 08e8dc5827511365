use lucky_reel_core::{ImageId, Reel};

use crate::Pixmap;

/// A reel and its pixels.
#[derive(Clone, Debug)]
pub struct Art {
    /// What players play from; cheap to clone.
    pub reel: Reel,
    /// The pixels for the renderer, in the order of the image ids.
    pub images: Vec<Pixmap>,
}

impl Art {
    /// The pixels of one image; `None` for the id of another reel.
    #[must_use]
    pub fn image(&self, image: ImageId) -> Option<&Pixmap> {
        self.images.get(image.index())
    }
}
