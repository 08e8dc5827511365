//! A net is swung at moths: first by areas, a rectangle on the hoop and one on each moth, and of those
//! that overlap by the very pixels. A moth whose pixels a thread or the hoop touches is caught.
//!
//! The picture shows each frame of the swing, with the areas and with the touching pixels lit.
//!
//! `cargo run --example 09_net_and_moths [PICTURE.png]`

use std::io::Write;
use std::path::Path;

use lucky_reel::prelude::*;
use lucky_reel::{
    NewMember,
    crowd::{MemberId, Target},
    id::AreaId,
    view::{Area, AreaGrid, Masks, PictureAt},
};
use lucky_reel_canvas::Canvas;
use lucky_reel_tools::atomic_write;

const ZOOM: i32 = 4;
/// A panel of the picture, in pixels of the art.
const PANEL: [i32; 2] = [160, 100];
const HAND: [i32; 2] = [58, 62];
const MOTHS: u64 = 25;
const COLUMNS: u64 = 5;

const NIGHT: [[u8; 4]; 2] = [[24, 34, 48, 255], [28, 39, 54, 255]];
const APART: [u8; 4] = [86, 104, 120, 255];
const OVERLAP: [u8; 4] = [236, 196, 92, 255];
const LIT: [u8; 4] = [255, 72, 88, 255];

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("demo/greenhouse");
    let files = ["moth", "net"].map(|role| folder.join(format!("{role}.reel.toml")));
    let art = assets::load_all(files)?;
    let reel = &art.reel;
    let (body, catch) = (reel.id::<AreaId>("body")?, reel.id::<AreaId>("catch")?);
    let masks = Masks::of(&art, 128); // opaque where alpha is at least 128

    let flutter: ClipId = reel.id("flutter")?;
    let mut moths = Crowd::new(reel);
    for id in 0..MOTHS {
        moths.spawn(NewMember::playing(flutter).random_start(7, id))?;
    }
    let places: Vec<[i32; 2]> = (0..MOTHS).map(place_of).collect();
    let mut net = Player::new(reel, reel.id("swing")?);

    let mut canvas = Canvas::new([1280, 800]).ok_or("the canvas is too large")?;
    let mut bodies: AreaGrid<MemberId> = AreaGrid::new();
    let mut panel = 0;
    let dt = Ticks::from_millis(10);
    while !net.has_ended() {
        moths.advance(dt);
        let entered = net.advance(reel, dt).any(|event| matches!(event.kind, EventKind::Enter(_)));
        let Some(view) = net.view(reel).filter(|_| entered) else { continue };

        // By area: which moths are in the hoop?
        let at_net = Placement::at(HAND.map(|side| side as f32));
        bodies.clear();
        bodies.extend(moths.areas(body, |moth| placement(places[moth.index()])));
        let hoop = view.area(catch, at_net).ok_or("the net has no hoop")?;
        let mut near = Vec::new();
        bodies.overlapping(&hoop, |moth| near.push(moth));

        // By pixel: which of them does it touch?
        let here = PictureAt::new(net.packed_frame(reel), HAND);
        let there = |moth: MemberId| PictureAt::new(moths.packed_frame(moth), places[moth.index()]);
        let caught: Vec<MemberId> = near
            .iter()
            .copied()
            .filter(|moth| masks.first_contact(here, there(*moth)).is_some())
            .collect();
        println!("frame {panel}: {} moths in the hoop, {} caught", near.len(), caught.len());

        let corner = [panel % 2 * PANEL[0], panel / 2 * PANEL[1]];
        let night = NIGHT[((panel + panel / 2) % 2) as usize];
        fill(&mut canvas, corner, PANEL, night);
        let on_canvas = |at: [i32; 2]| [0, 1].map(|axis| (corner[axis] + at[axis]) * ZOOM);
        for moth in moths.ids(Target::All) {
            let Some(view) = moths.view(moth) else { continue };
            canvas.draw(&view, &art.images, on_canvas(places[moth.index()]), ZOOM as u32);
            let color = if near.contains(&moth) { OVERLAP } else { APART };
            if let Some(area) = view.area(body, placement(places[moth.index()])) {
                outline(&mut canvas, corner, &area, color);
            }
        }
        canvas.draw(&view, &art.images, on_canvas(HAND), ZOOM as u32);
        outline(&mut canvas, corner, &hoop, OVERLAP);
        for moth in &caught {
            for [x, y] in masks.contacts(here, there(*moth)) {
                fill(&mut canvas, [corner[0] + x, corner[1] + y], [1, 1], LIT);
            }
        }
        for moth in caught {
            moths.remove(moth);
        }
        panel += 1;
    }
    println!("{} of {MOTHS} moths are still free", moths.len());
    let path = std::env::args().nth(1).unwrap_or_else(|| "net-and-moths.png".to_owned());
    atomic_write::write(&path, true, |file| file.write_all(&canvas.picture().to_png()))?;
    println!("written: {path}");
    Ok(())
}

/// Somewhere in the air, the same in every run: in rows, each moth a little off its place.
fn place_of(id: u64) -> [i32; 2] {
    let off = |seed| Ticks::random(seed, id, Ticks::new(9)).get() as i32;
    let [column, row] = [id % COLUMNS, id / COLUMNS].map(|nth| nth as i32);
    [56 + 17 * column + off(1), 10 + 18 * row + off(2)]
}

fn placement(at: [i32; 2]) -> Placement {
    Placement::at(at.map(|side| side as f32))
}

/// Fills a rectangle, in pixels of the art.
fn fill(canvas: &mut Canvas, at: [i32; 2], size: [i32; 2], color: [u8; 4]) {
    canvas.fill(at.map(|side| side * ZOOM), size.map(|side| (side * ZOOM) as u32), color);
}

/// Draws the edges of an upright area.
fn outline(canvas: &mut Canvas, corner: [i32; 2], area: &Area, color: [u8; 4]) {
    let [from, to] = area
        .bounds()
        .map(|at| [0, 1].map(|axis| (corner[axis] * ZOOM) + (at[axis] * ZOOM as f32) as i32));
    let size = [0, 1].map(|axis| (to[axis] - from[axis]) as u32);
    for at in [from, [from[0], to[1] - 1]] {
        canvas.fill(at, [size[0], 1], color);
    }
    for at in [from, [to[0] - 1, from[1]]] {
        canvas.fill(at, [1, size[1]], color);
    }
}
