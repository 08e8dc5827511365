//! The shortest way to a moving figure: a sheet in memory, a clip, ten updates. No files.
//!
//! `cargo run --example 01_first_clip`

use lucky_reel::prelude::*;

fn main() -> Result<(), Box<dyn std::error::Error>> {
    // A strip of four frames, each 32 pixels wide and high: 128 x 32 in all.
    let mut builder = Reel::builder();
    let strip = builder.sheet("bram", NewSheet::grid([128, 32], Grid::cell_size([32, 32])));
    let walk = NewClip::of(strip).frames(0..4).fps(8).mark("step", [1, 3]);
    let walk = builder.clip("walk", walk);
    let reel = builder.build()?; // everything is checked here; from now on nothing can fail

    let mut bram = Player::new(&reel, walk);
    let step: MarkId = reel.id("step")?;
    for update in 1..=10 {
        // A game would ask its clock: `clock.lap()`. Here an update takes 50 ms.
        let dt = Ticks::from_millis(50);
        let mut steps = 0;
        for event in bram.advance(&reel, dt) {
            if event.is_mark(step) {
                steps += 1;
            }
        }
        let view = bram.view(&reel).ok_or("a loop always shows something")?;
        let source = view.frame.source;
        let sound = if steps > 0 { "  step!" } else { "" };
        println!("update {update:2}: draw the pixels from x = {:3}{sound}", source.x);
    }
    Ok(())
}
