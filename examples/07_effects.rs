//! Puffs of dust under Bram's boots: spawned when a mark is passed, gone by themselves when their clip
//! is over.
//!
//! `cargo run --example 07_effects [STRIP.png]`

use std::io::Write;
use std::path::Path;

use lucky_reel::EventBuffer;
use lucky_reel::prelude::*;
use lucky_reel::{EventMask, InstanceWriter, NewMember, view::Blit};
use lucky_reel_canvas::Canvas;
use lucky_reel_tools::atomic_write;

const PATH: i32 = 60;
const PIXELS_A_SECOND: f32 = 90.0;

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("demo/greenhouse");
    let art =
        assets::load_all(["bram", "puff"].map(|role| folder.join(format!("{role}.reel.toml"))))?;
    let reel = &art.reel;
    let (puff, step, burst) =
        (reel.id::<ClipId>("puff")?, reel.id::<MarkId>("step")?, reel.id::<MarkId>("burst")?);

    let mut bram = Player::new(reel, reel.id("walk-right")?);
    let mut puffs = Crowd::new(reel);
    let mut places: Vec<[f32; 2]> = Vec::new(); // by the slots of the crowd
    let writer = InstanceWriter::new(reel);
    let mut canvas = Canvas::new([1280, 400]).ok_or("the canvas is too large")?;
    canvas.clear([24, 34, 48, 255]);

    let (mut x, mut most, mut seen) = (30.0_f32, 0, [0, 0]);
    let (dt, mut events) = (Ticks::from_rate(60), EventBuffer::new());
    for update in 0_u32.. {
        let is_there = update < 180;
        x += PIXELS_A_SECOND / 60.0;
        for event in bram.advance(reel, dt).filter(|_| is_there) {
            if event.is_mark(step) {
                let new = NewMember::playing(puff).flipped(flip(x));
                let new = puffs.spawn(new)?;
                places.resize(puffs.slots(), [0.0; 2]);
                places[new.index()] = [x - 6.0, PATH as f32];
            }
        }
        // What is not asked for is not worked out; who vanishes is freed.
        puffs.advance_into(dt, EventMask::MARKS | EventMask::ENDS, &mut events);
        for (_, event) in &events {
            seen[0] += u32::from(event.is_mark(burst));
            seen[1] += u32::from(event.is_end());
        }
        most = most.max(puffs.len());

        if !is_there && puffs.is_empty() {
            break;
        }
        if is_there && update % 30 == 29 {
            let below = update as i32 / 30 % 3 * 64;
            let ground = |at: [f32; 2]| [at[0] as i32 * 4, (at[1] as i32 + below) * 2];
            let mut blits = Vec::new();
            puffs.instances(&writer).write(&mut blits, |puff| (ground(places[puff.index()]), 2));
            if let Some(view) = bram.view(reel) {
                canvas.draw(&view, &art.images, ground([x, PATH as f32]), 2);
            }
            blits.iter().for_each(|blit: &Blit| canvas.copy(blit, &art.images));
        }
    }
    println!("{} puffs burst, {} are over, at most {most} at a time", seen[0], seen[1]);
    println!("left when all is over: {}", puffs.len());
    let path = std::env::args().nth(1).unwrap_or_else(|| "effects.png".to_owned());
    atomic_write::write(&path, true, |file| file.write_all(&canvas.picture().to_png()))?;
    println!("written: {path}");
    Ok(())
}

/// Every other puff is mirrored, so that they do not look alike.
fn flip(x: f32) -> Flips {
    Flips { x: x as i32 % 2 == 0, y: false }
}
