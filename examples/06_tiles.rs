//! The floor of a greenhouse in unison: a clip for each tile, no players, one clock.
//!
//! `cargo run --example 06_tiles [PICTURE.png]`

use std::io::Write;
use std::path::Path;

use lucky_reel::prelude::*;
use lucky_reel::{
    InstanceWriter, Unison,
    view::{Blit, Instance},
};
use lucky_reel_canvas::Canvas;
use lucky_reel_tools::atomic_write;

/// A bay of the floor: fans, lamps, and drips; it is laid over and over.
const BAY: [&[u8]; 5] = [b"F...D...", "..L...F.".as_bytes(), b".D....L.", b"...F....", b"L....D.."];
const COLUMNS: usize = 40;
const ROWS: usize = 25;
const SIDE: u32 = 32;

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("demo/greenhouse");
    let art = assets::load(folder.join("tiles.reel.toml"))?;
    let reel = &art.reel;
    let (fan, glow, drip) =
        (reel.id::<ClipId>("fan")?, reel.id::<ClipId>("glow")?, reel.id::<ClipId>("drip")?);

    // What the game keeps of its floor: a clip and a place for each tile.
    let (mut tiles, mut places) = (Vec::new(), Vec::new());
    for (row, column) in (0..ROWS).flat_map(|row| (0..COLUMNS).map(move |column| (row, column))) {
        let clip = match BAY[row % BAY.len()][column % 8] {
            b'F' => fan,
            b'L' => glow,
            b'D' => drip,
            _ => continue,
        };
        tiles.push(clip);
        places.push([column, row].map(|cell| (cell as u32 * SIDE + SIDE / 2) as f32));
    }

    let mut unison = Unison::new(reel);
    let writer = InstanceWriter::new(reel);
    let mut instances: Vec<Instance> = Vec::new();
    let (mut uploads, mut most) = (0, 0);
    for _ in 0..120 {
        unison.advance(Ticks::from_rate(60)); // a little for each clip, nothing for a tile
        instances.clear();
        unison.instances(&writer, &tiles).changed().write_at(&mut instances, &places);
        uploads += instances.len();
        most = most.max(instances.len());
    }
    println!("{} tiles of {} clips, two seconds at 60 Hz", tiles.len(), reel.clips().count());
    println!("instances uploaded: {uploads} of {}, at most {most} at once", 120 * tiles.len());

    let mut canvas = Canvas::new([COLUMNS as u32 * SIDE, ROWS as u32 * SIDE]).ok_or("too large")?;
    canvas.clear([20, 29, 41, 255]);
    for (row, column) in (0..ROWS as i32).flat_map(|row| (0..COLUMNS as i32).map(move |c| (row, c)))
    {
        let at = [column, row].map(|cell| cell * SIDE as i32 + 1);
        canvas.fill(at, [SIDE - 2; 2], [26, 38, 52, 255]);
    }
    let mut blits: Vec<Blit> = Vec::new();
    unison
        .instances(&writer, &tiles)
        .write(&mut blits, |tile| (places[tile].map(|side| side as i32), 1));
    blits.iter().for_each(|blit| canvas.copy(blit, &art.images));
    let path = std::env::args().nth(1).unwrap_or_else(|| "tiles.png".to_owned());
    atomic_write::write(&path, true, |file| file.write_all(&canvas.picture().to_png()))?;
    println!("written: {path}");
    Ok(())
}
