use std::path::PathBuf;

use lucky_reel_core::{ImageId, Reel};

use crate::Pixels;

/// A reel and its pixels.
#[derive(Clone, Debug)]
pub struct Art {
    /// What players play from; cheap to clone.
    pub reel: Reel,
    /// The pixels for the renderer, in the order of the image ids: sRGB, straight alpha.
    pub images: Vec<Pixels>,
    /// The files it came from: reel files, each followed by the images that it names. What was read by
    /// a function of the game's is not among them.
    pub files: Vec<PathBuf>,
}

impl Art {
    /// The pixels of one image; `None` for the id of another reel.
    #[must_use]
    pub fn image(&self, image: ImageId) -> Option<&Pixels> {
        self.images.get(image.index())
    }

    /// All images, made equally wide and high with transparent pixels at the right and below, for one
    /// texture array with a layer an image. Sources, in pixels, stay what they are. `None` when a layer
    /// would have more than 67,108,864 pixels.
    ///
    /// ```
    /// # let path = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/greenhouse/bram.reel.toml");
    /// let art = lucky_reel_assets::load(path)?;
    /// let layers = art.layers().unwrap();
    /// assert!(layers.len() == art.images.len() && layers.iter().all(|layer| layer.size() == layers[0].size()));
    /// # Ok::<(), lucky_reel_assets::LoadError>(())
    /// ```
    #[must_use]
    pub fn layers(&self) -> Option<Vec<Pixels>> {
        let sizes = self.images.iter().map(Pixels::size);
        let size = sizes.reduce(|a, b| [a[0].max(b[0]), a[1].max(b[1])]).unwrap_or([0, 0]);
        self.images.iter().map(|image| image.extended(size)).collect()
    }
}
