//! The demo's art, kept in the program so that it plays from any folder.

use std::io;

use lucky_reel::assets::{Art, LoadError, Loader, Pixels};

const BRAM: &[u8] = include_bytes!("../../../../demo/greenhouse/bram.reel.toml");
const MOTH: &[u8] = include_bytes!("../../../../demo/greenhouse/moth.reel.toml");
const TILES: &[u8] = include_bytes!("../../../../demo/greenhouse/tiles.reel.toml");
const PUFF: &[u8] = include_bytes!("../../../../demo/greenhouse/puff.reel.toml");
const GREENHOUSE: &[u8] = include_bytes!("../../../../demo/greenhouse/greenhouse.png");

fn read(path: &str) -> io::Result<Vec<u8>> {
    let bytes: &[u8] = match path {
        "bram.png" => include_bytes!("../../../../demo/greenhouse/bram.png"),
        "bram-dusk.png" => include_bytes!("../../../../demo/greenhouse/bram-dusk.png"),
        "bram-air.png" => include_bytes!("../../../../demo/greenhouse/bram-air.png"),
        "bram-air-dusk.png" => include_bytes!("../../../../demo/greenhouse/bram-air-dusk.png"),
        "moth.png" => include_bytes!("../../../../demo/greenhouse/moth.png"),
        "tiles.png" => include_bytes!("../../../../demo/greenhouse/tiles.png"),
        "halo.png" => include_bytes!("../../../../demo/greenhouse/halo.png"),
        "puff.png" => include_bytes!("../../../../demo/greenhouse/puff.png"),
        _ => return Err(io::ErrorKind::NotFound.into()),
    };
    Ok(bytes.to_vec())
}

pub(super) fn load() -> Result<Art, LoadError> {
    Loader::new()
        .bytes("bram.reel.toml", BRAM, read)
        .bytes("moth.reel.toml", MOTH, read)
        .bytes("tiles.reel.toml", TILES, read)
        .bytes("puff.reel.toml", PUFF, read)
        .load()
}

/// What stands behind everything: 320 x 200.
pub(super) fn background() -> Option<Pixels> {
    Pixels::from_png(GREENHOUSE).ok()
}
