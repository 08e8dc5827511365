use std::path::PathBuf;

use lucky_reel_core::{ImageId, Masks, Reel};

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

    /// The opaque pixels of all frames, to test whether drawings touch: those whose alpha is at least
    /// this, 128 for example.
    ///
    /// ```
    /// use lucky_reel_core::Player;
    ///
    /// # let path = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/greenhouse/moth.reel.toml");
    /// let art = lucky_reel_assets::load(path)?;
    /// let masks = art.masks(128);
    /// let clip = art.reel.clips().next().unwrap().id;
    /// let moth = Player::new(&art.reel, clip).packed_frame(&art.reel);
    /// assert!(masks.first_contact(moth.at([50, 40]), moth.at([52, 41])).is_some());
    /// assert!(masks.first_contact(moth.at([50, 40]), moth.at([500, 40])).is_none());
    /// # Ok::<(), lucky_reel_assets::LoadError>(())
    /// ```
    #[must_use]
    pub fn masks(&self, alpha: u8) -> Masks {
        Masks::new(&self.reel, |image, at| {
            self.image(image).is_some_and(|pixels| pixels.pixel(at)[3] >= alpha)
        })
    }
}
