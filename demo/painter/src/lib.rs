//! Paints the pictures of the demo's night greenhouse, so that they can be changed and made again:
//! `cargo run -p greenhouse-painter --example paint`.

mod bram;
mod brush;
mod greenhouse;
mod moth;
mod net;
mod puff;
mod tiles;

use lucky_reel_assets::Pixels;

/// Every picture with the name of its file.
#[must_use]
pub fn pictures() -> Vec<(&'static str, Pixels)> {
    vec![
        ("bram.png", bram::sheet()),
        ("bram-dusk.png", bram::at_dusk(bram::sheet())),
        ("bram-air.png", bram::air()),
        ("bram-air-dusk.png", bram::at_dusk(bram::air())),
        ("moth.png", moth::sheet()),
        ("net.png", net::sheet()),
        ("tiles.png", tiles::sheet()),
        ("halo.png", tiles::halos()),
        ("puff.png", puff::sheet()),
        ("greenhouse.png", greenhouse::background()),
    ]
}
