//! Loads reel files and their pictures, and shows what a renderer would be handed.
//!
//! `cargo run --example 02_load_a_reel`

use std::path::Path;

use lucky_reel::prelude::*;

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let greenhouse = Path::new(env!("CARGO_MANIFEST_DIR")).join("demo/greenhouse");
    // Several files make one reel; each is a role, named after its file.
    let art = assets::load_all([
        greenhouse.join("bram.reel.toml"),
        greenhouse.join("tiles.reel.toml"),
        greenhouse.join("puff.reel.toml"),
    ])?;
    let reel = art.reel; // cheap to clone; art.images are the pixels for the renderer
    for (number, image) in art.images.iter().enumerate() {
        let [width, height] = image.size();
        println!("image {number}: upload {width} x {height} pixels, {} bytes", image.rgba().len());
    }

    let walk: ClipId = reel.id("bram/walk-down")?; // or just `walk-down`: only one role has it
    if let Err(error) = reel.id::<ClipId>("walk-donw") {
        println!("{error}");
    }

    let mut bram = Player::new(&reel, walk);
    bram.advance(&reel, Ticks::from_millis(200));
    let view = bram.view(&reel).ok_or("a loop always shows something")?;
    let quad = view.quad(Placement::at([160.0, 120.0]).scaled(4.0));
    println!("draw image {}:", view.frame.image.index());
    for (corner, texture) in quad.corners.iter().zip(quad.uv) {
        println!("  corner {corner:?}, texture coordinates {texture:?}");
    }
    Ok(())
}
