//! A hit at its exact moment: the data of the mark say how hard, the hit box is asked for where it was when the mark was
//! passed, and the one that was hit flashes white. The second row of moths wears the same drawing in other colors.
//!
//! `cargo run --example 10_hits_and_colors [HITS.png]`

use std::io::Write;
use std::path::Path;

use lucky_reel::id::{AreaId, DataKey, LookId};
use lucky_reel::prelude::*;
use lucky_reel::view::{Instance, LookSet, PackedFrame};
use lucky_reel::{Event, InstanceWriter};
use lucky_reel_canvas::Canvas;
use lucky_reel_tools::atomic_write;

const ZOOM: f32 = 2.0;
/// Where the moths are: five of the usual color, then five in that of the moon.
const PLACES: [[f32; 2]; 10] = [
    [36.0, 31.0],
    [53.0, 37.0],
    [66.0, 24.0],
    [92.0, 40.0],
    [14.0, 44.0],
    [62.0, 57.0],
    [52.0, 69.0],
    [84.0, 66.0],
    [108.0, 52.0],
    [26.0, 84.0],
];

/// What the game keeps of a moth.
struct Moth {
    player: Player,
    at: [f32; 2],
    looks: LookSet,
    health: i32,
    /// How long ago it was hit.
    hit: Option<Ticks>,
}

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("demo/greenhouse");
    let art =
        assets::load_all(["net", "moth"].map(|role| folder.join(format!("{role}.reel.toml"))))?;
    let reel = &art.reel;
    let (body, catch) = (reel.id::<AreaId>("body")?, reel.id::<AreaId>("catch")?);
    let frost: LookId = reel.id("frost")?;
    let (damage, sound): (DataKey<i32>, DataKey<str>) = (reel.id("damage")?, reel.id("sound")?);

    let mut cold = LookSet::NOTHING;
    cold.wear(reel, frost)?;
    let flutter: ClipId = reel.id("moth/flutter")?;
    let mut moths: Vec<Moth> = Vec::new();
    for (nth, at) in PLACES.into_iter().enumerate() {
        let mut player = Player::new(reel, flutter);
        player.random_start(reel, 7, nth as u64);
        let looks = if nth < 5 { LookSet::NOTHING } else { cold };
        moths.push(Moth { player, at, looks, health: 10, hit: None });
    }
    let mut net = Player::new(reel, reel.id("swing")?);
    let net_at = Placement::at([30.0, 58.0]);

    let writer = InstanceWriter::new(reel);
    let mut canvas = Canvas::new([1280, 400]).ok_or("the canvas is too large")?;
    canvas.clear([24, 34, 48, 255]);
    let dt = Ticks::from_rate(20); // a game that stutters: the swing is over in a few updates
    for update in 0..8 {
        for moth in &mut moths {
            moth.player.advance(reel, dt);
            moth.hit = moth.hit.map(|since| since + dt);
        }
        let events: Vec<Event> = net.advance(reel, dt).collect();
        for event in events.iter().filter(|event| event.get(reel, damage).is_some()) {
            // Where the hoop was when the mark was passed, and not where it is after the update.
            let hoop = net.view_at(reel, event).and_then(|view| view.area(catch, net_at));
            let (Some(hoop), Some(harm)) = (hoop, event.get(reel, damage)) else { continue };
            let mut struck = 0;
            for moth in &mut moths {
                let place = Placement::at(moth.at);
                let there = moth.player.view(reel).and_then(|view| view.area(body, place));
                if there.is_some_and(|there| there.overlaps(&hoop)) {
                    (moth.health, moth.hit, struck) =
                        (moth.health - harm, Some(Ticks::ZERO), struck + 1);
                }
            }
            let heard = event.get(reel, sound).unwrap_or("nothing");
            println!("update {update}, {} in: {struck} hit by {harm}, {heard}", event.at);
        }
        let left = (update as f32 % 4.0) * 160.0;
        let below = (update / 4) as f32 * 100.0;
        let moved = |at: [f32; 2]| [(at[0] + left) * ZOOM, (at[1] + below) * ZOOM];
        for moth in &moths {
            // White at once, and fading for a fifth of a second.
            let white = moth.hit.map_or(0.0, |since| 1.0 - since.as_secs_f64() as f32 / 0.2);
            let place = Placement::at(moved(moth.at)).scaled(ZOOM).flashed([255; 3], white);
            if let Some(view) = moth.player.view_with(reel, &moth.looks) {
                let instance: Instance = writer.make(PackedFrame::of(view.id, view.flips), place);
                canvas.draw_instance(&instance, &art.images);
            }
        }
        let instance: Instance =
            writer.make(net.packed_frame(reel), Placement::at(moved(net_at.position)).scaled(ZOOM));
        canvas.draw_instance(&instance, &art.images);
    }
    let hurt = moths.iter().filter(|moth| moth.health < 10).count();
    println!("{hurt} of {} moths are hurt", moths.len());
    let path = std::env::args().nth(1).unwrap_or_else(|| "hits.png".to_owned());
    atomic_write::write(&path, true, |file| file.write_all(&canvas.picture().to_png()))?;
    println!("written: {path}");
    Ok(())
}
