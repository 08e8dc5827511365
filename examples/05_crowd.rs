//! Ten thousand moths around the lamps, in one crowd: each at its own place of its clip, advanced in
//! one call, drawn back to front.
//!
//! `cargo run --release --example 05_crowd [PICTURE.png] [MOVING.png]`

use std::io::Write;
use std::path::Path;

use lucky_reel::assets::Pixels;
use lucky_reel::prelude::*;
use lucky_reel::{
    EventBuffer, EventMask, InstanceWriter, NewMember, Unison,
    crowd::{MemberId, Target},
};
use lucky_reel_canvas::Canvas;
use lucky_reel_tools::AnimatedPng;
use lucky_reel_tools::atomic_write;

const MOTHS: usize = 10_000;
const LAMPS: [[f32; 2]; 3] = [[192.0, 360.0], [640.0, 360.0], [1136.0, 360.0]];
/// The animated image shows this part, at so many pictures a second, for a second.
const PART: [[u32; 2]; 2] = [[400, 200], [480, 320]];
const RATE: u32 = 16;

/// A number from 0 to 1 that depends on what it is for and whose it is alone.
fn random(what: u64, id: usize) -> f32 {
    Ticks::random(what, id as u64, Ticks::new(1 << 20)).get() as f32 / (1 << 20) as f32
}

/// Where a moth is: it circles its lamp, the farther out the slower.
fn position(id: usize, seconds: f32) -> [f32; 2] {
    let lamp = LAMPS[id % LAMPS.len()];
    let far = 16.0 + 420.0 * random(1, id).powi(3);
    let angle = (random(2, id) + seconds * 12.0 / far) * std::f32::consts::TAU;
    [lamp[0] + far * angle.cos(), lamp[1] + 0.62 * far * angle.sin()]
}

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("demo/greenhouse");
    let art =
        assets::load_all(["moth", "tiles"].map(|role| folder.join(format!("{role}.reel.toml"))))?;
    let reel = &art.reel;
    let (flutter, circle) = (reel.id::<ClipId>("flutter")?, reel.id::<ClipId>("circle")?);
    let (glow, shine) = (reel.id::<ClipId>("glow")?, reel.id::<ClipId>("shine")?);

    let mut crowd = Crowd::new(reel);
    for id in 0..MOTHS {
        let close = random(1, id) < 0.3;
        let moth = NewMember::playing(if close { circle } else { flutter });
        let speed = Speed::from_f64(0.7 + 0.6 * f64::from(random(3, id)))?;
        crowd.spawn(moth.speed(speed).random_start(2_026, id as u64))?; // not in lockstep
    }
    // The moths never leave, so the order of their slots is that in which they were spawned.
    let mut back_to_front: Vec<MemberId> = crowd.ids(Target::All).collect();
    let writer = InstanceWriter::new(reel);
    let (mut lamps, mut blits) = (Unison::new(reel), Vec::new());
    let night = Pixels::from_png(&std::fs::read(folder.join("greenhouse.png"))?)?;
    let mut canvas = Canvas::new([1280, 800]).ok_or("the canvas is too large")?;
    let mut moving = Vec::new();
    let mut image = AnimatedPng::new(&mut moving, PART[1], RATE)?;
    let (mut events, mut entered) = (EventBuffer::new(), 0);

    for picture in 0..RATE {
        let seconds = picture as f32 / RATE as f32;
        canvas.draw_picture(&night, [0, 0], 4);
        for lamp in LAMPS.map(|lamp| lamp.map(|side| side as i32)) {
            for clip in [shine, glow] {
                if let Some(view) = lamps.view(clip) {
                    canvas.draw(&view, &art.images, lamp, 4);
                }
            }
        }
        back_to_front.sort_by(|a, b| {
            let height = |moth: &MemberId| position(moth.index(), seconds)[1];
            height(a).total_cmp(&height(b))
        });
        blits.clear();
        crowd
            .instances(&writer)
            .in_order(&back_to_front)
            .write(&mut blits, |moth| (position(moth.index(), seconds).map(|side| side as i32), 1));
        blits.iter().for_each(|blit| canvas.copy(blit, &art.images));
        image.frame(&part(canvas.picture())?, (1, RATE as u16))?;

        lamps.advance(Ticks::from_rate(RATE));
        crowd.advance_into(Ticks::from_rate(RATE), EventMask::ENTERS, &mut events);
        entered += events.iter().select(EventMask::ENTERS).count();
    }
    image.finish()?;

    let argument =
        |nth: usize, default: &str| std::env::args().nth(nth).unwrap_or(default.to_owned());
    let (still, animated) = (argument(1, "crowd.png"), argument(2, "crowd-moving.png"));
    atomic_write::write(&still, true, |file| file.write_all(&canvas.picture().to_png()))?;
    atomic_write::write(&animated, true, |file| file.write_all(&moving))?;
    println!("{} moths, {entered} frames came up in one second", crowd.len());
    println!("written: {still}, {animated}");
    Ok(())
}

/// The part that moves, small enough for a page.
fn part(picture: &Pixels) -> Result<Pixels, &'static str> {
    let [[left, top], size] = PART;
    let mut part = Pixels::new(size).ok_or("the picture is too large")?;
    for [x, y] in (0..size[1]).flat_map(|y| (0..size[0]).map(move |x| [x, y])) {
        part.set_pixel([x, y], picture.pixel([left + x, top + y]));
    }
    Ok(part)
}
