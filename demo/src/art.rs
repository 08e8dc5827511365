//! Reel files and images that are compiled in.

use lucky_reel::assets::{Art, LoadError, Loader};

macro_rules! files {
    ($($name:literal)*) => {
        [$(($name, include_bytes!(concat!("../greenhouse/", $name)).as_slice())),*]
    };
}

const FILES: [(&str, &[u8]); 14] = files![
    "bram.reel.toml" "bram.png" "bram-dusk.png" "bram-air.png" "bram-air-dusk.png"
    "greenhouse.reel.toml" "greenhouse.png"
    "moth.reel.toml" "moth.png"
    "puff.reel.toml" "puff.png"
    "tiles.reel.toml" "tiles.png" "halo.png"
];

/// The art of the scene, from what is compiled in.
///
/// # Errors
/// When a reel file does not fit the library.
pub fn load() -> Result<Art, LoadError> {
    Loader::new().files(&FILES[..]).load()
}

#[cfg(test)]
mod tests {
    /// An edited reel file may name an image that is not in the list.
    #[test]
    fn all_that_the_scene_needs_is_compiled_in() {
        assert!(super::load().is_ok_and(|art| art.images.len() == 10));
    }
}
