//! Reel files and images that are compiled in.

use std::io;

use lucky_reel::assets::{Art, LoadError, Loader};

use crate::ROLES;

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

fn file(name: &str) -> Option<&'static [u8]> {
    FILES.iter().find(|(known, _)| *known == name).map(|(_, bytes)| *bytes)
}

/// The art of the scene, from what is compiled in.
///
/// # Errors
/// When a reel file does not fit the library.
pub fn load() -> Result<Art, LoadError> {
    let read = |name: &str| file(name).map(<[u8]>::to_vec).ok_or(io::ErrorKind::NotFound.into());
    let add = |loader: Loader<'static>, role: &&str| {
        let name = format!("{role}.reel.toml");
        loader.bytes(&name, file(&name).unwrap_or_default(), read)
    };
    ROLES.iter().fold(Loader::new(), add).load()
}

#[cfg(test)]
mod tests {
    /// An edited reel file may name an image that is not in the list.
    #[test]
    fn all_that_the_scene_needs_is_compiled_in() {
        assert!(super::load().is_ok_and(|art| art.images.len() == 9));
    }
}
