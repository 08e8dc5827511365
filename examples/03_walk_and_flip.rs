//! Walks to the right, then mirrored to the left, and writes a strip of what was drawn.
//!
//! Bram's lantern is in his left hand, so his mirrored art is wrong: look where the lantern hangs in
//! the second row. The third row uses art of its own for the left.
//!
//! `cargo run --example 03_walk_and_flip [FILE.png]`

use std::io::Write;
use std::path::Path;

use lucky_reel::prelude::*;
use lucky_reel_canvas::Canvas;
use lucky_reel_tools::atomic_write;

const PICTURES: i32 = 8;
const SCALE: u32 = 4;

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let bram = Path::new(env!("CARGO_MANIFEST_DIR")).join("demo/greenhouse/bram.reel.toml");
    let art = assets::load(bram)?;
    let reel = &art.reel;
    let rows = [
        (reel.id::<ClipId>("walk-right")?, false, 1),
        (reel.id::<ClipId>("walk-right")?, true, -1),
        (reel.id::<ClipId>("walk-left")?, false, -1),
    ];

    let mut canvas = Canvas::new([1280, 480]).ok_or("the canvas is too large")?;
    canvas.clear([24, 34, 48, 255]);
    for (row, (clip, mirrored, direction)) in (0..).zip(rows) {
        let mut player = Player::new(reel, clip);
        player.set_flips(Flips { x: mirrored, y: false }); // about the pivot: he does not jump sideways
        for picture in 0..PICTURES {
            let middle = 640 + direction * (picture * 2 - PICTURES + 1) * 78;
            let view = player.view(reel).ok_or("a loop always shows something")?;
            canvas.draw(&view, &art.images, [middle, 145 + row * 155], SCALE);
            player.advance(reel, Ticks::from_millis(125));
        }
    }

    let path = std::env::args().nth(1).unwrap_or_else(|| "walk-and-flip.png".to_owned());
    atomic_write::write(&path, true, |file| file.write_all(&canvas.picture().to_png()))?;
    println!("written: {path}");
    Ok(())
}
