use std::path::PathBuf;

use lucky_reel_core::{ImageId, Reel};

use crate::Pixmap;

/// A reel and its pixels.
#[derive(Clone, Debug)]
pub struct Art {
    /// What players play from; cheap to clone.
    pub reel: Reel,
    /// The pixels for the renderer, in the order of the image ids.
    pub images: Vec<Pixmap>,
    /// The files it came from: reel files, each followed by the images that it names. What was read by
    /// a function of the game's is not among them.
    pub files: Vec<PathBuf>,
}

impl Art {
    /// The pixels of one image; `None` for the id of another reel.
    #[must_use]
    pub fn image(&self, image: ImageId) -> Option<&Pixmap> {
        self.images.get(image.index())
    }
}
