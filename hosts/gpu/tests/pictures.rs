//! What a GPU draws against the canvas, pixel by pixel, on the software driver where there is no other.
//!
//! Needs a Vulkan driver (`apt install mesa-vulkan-drivers libvulkan1`); says so and passes without one.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use greenhouse_gpu::{Batch, Gpu};
use lucky_reel::assets::{Art, Atlas, Loader, Pixels};
use lucky_reel::*;
use lucky_reel::{
    id::FrameId,
    view::{Instance, SmallInstance},
};
use lucky_reel_canvas::Canvas;
use lucky_reel_greenhouse::{ROLES, SIZE, Scene};

fn gpu() -> Option<Gpu> {
    let gpu = Gpu::open();
    if let Err(error) = &gpu {
        eprintln!("skipped: {error}");
    }
    gpu.ok()
}

fn load(atlas: Option<&mut Atlas>) -> Art {
    let folder = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/greenhouse");
    let file = |role| format!("{folder}/{role}.reel.toml");
    let loader = ROLES.iter().fold(Loader::new(), |loader, role| loader.file(file(role)));
    atlas.into_iter().fold(loader, Loader::into_atlas).load().unwrap()
}

/// How many pixels differ by more than this in any channel.
fn differing(one: &Pixels, other: &Pixels, by: u8) -> usize {
    assert_eq!(one.size(), other.size());
    let pairs = one.rgba().chunks(4).zip(other.rgba().chunks(4));
    pairs.filter(|(a, b)| a.iter().zip(*b).any(|(a, b)| a.abs_diff(*b) > by)).count()
}

/// The scene as instances of both sizes, and as the canvas draws it.
fn scene(art: &Art, moths: u32) -> (Vec<Instance>, Vec<SmallInstance>, Pixels, InstanceWriter) {
    let scene = Scene::after(&art.reel, moths, 2.5).unwrap();
    let (writer, mut list) = (InstanceWriter::new(&art.reel), DrawList::by_depth());
    scene.draw(&art.reel, &mut list, &writer);
    let (mut full, mut small) = (Vec::new(), Vec::new());
    list.write(&writer, &mut full).unwrap();
    list.write(&writer, &mut small).unwrap();
    let mut canvas = Canvas::new(SIZE).unwrap();
    canvas.clear([0, 0, 0, 255]);
    full.iter().for_each(|instance| canvas.draw_instance(instance, &art.images));
    (full, small, canvas.into_picture(), writer)
}

/// One frame of the game: from a texture array and from one page, with instances of 48 and 16 bytes, at
/// several zooms. Where art is opaque or empty no pixel differs; blending may round otherwise.
#[test]
fn the_scene_is_what_the_canvas_draws() {
    let Some(mut gpu) = gpu() else { return };
    let mut atlas = Atlas::new();
    for mut art in [load(None), load(Some(&mut atlas))] {
        for is_hard in [false, true] {
            if is_hard {
                for pixel in art.images.iter_mut().flat_map(|image| image.rgba_mut().chunks_mut(4))
                {
                    pixel[3] = if pixel[3] < 128 { 0 } else { 255 };
                }
            }
            let (full, small, canvas, writer) = scene(&art, 60);
            gpu.upload(&art, writer.table()).unwrap();
            for zoom in [1, 2, 4] {
                let (size, wanted) = (SIZE.map(|side| side * zoom), canvas.upscaled(zoom).unwrap());
                let by_full = gpu.picture(Batch::Full(&full), size, zoom as f32).unwrap();
                let by_small = gpu.picture(Batch::Small(&small), size, zoom as f32).unwrap();
                assert_eq!(differing(&by_full, &by_small, 0), 0, "both sizes show the same");
                let most = u8::from(!is_hard);
                assert_eq!(differing(&by_full, &wanted, most), 0, "at zoom {zoom}");
            }
        }
    }
}

/// Ten thousand instances, rotated, scaled, flipped, tinted, flashed and in order of depth.
#[test]
fn turned_and_tinted_instances_are_what_the_canvas_draws() {
    let Some(mut gpu) = gpu() else { return };
    let mut art = load(None);
    for pixel in art.images.iter_mut().flat_map(|image| image.rgba_mut().chunks_mut(4)) {
        pixel[3] = if pixel[3] < 128 { 0 } else { 255 };
    }
    let reel = &art.reel;
    let frames: Vec<FrameId> = reel.frames().map(|(id, _)| id).collect();
    let random = |seed, id, within| Ticks::random(seed, id, Ticks::new(within)).get();
    let writer = InstanceWriter::new(reel);
    let (size, mut list) = ([1_280, 800], DrawList::by_depth());
    for id in 0..10_000 {
        let frame = frames[random(1, id, frames.len() as u64) as usize];
        if reel.frame(frame).unwrap().size[0] > 64 {
            continue; // the halos and the night would cover all
        }
        let angle = random(2, id, 6_283) as f32 / 1_000.0;
        let flips = Flips { x: random(3, id, 2) == 1, y: random(4, id, 2) == 1 };
        let tint = [5, 6, 7].map(|seed| 100 + random(seed, id, 156) as u8);
        let place = Placement::at([random(8, id, 1_280) as f32 + 0.37, random(9, id, 800) as f32])
            .stretched([10, 11].map(|seed| 0.5 + random(seed, id, 100) as f32 / 50.0))
            .rotated(angle)
            .tinted([tint[0], tint[1], tint[2], 255])
            .flashed([255, tint[1], 40], random(13, id, 100) as f32 / 80.0 - 0.25)
            .depth(random(12, id, 500) as f32);
        list.add(View::of(reel, frame, flips), place);
    }
    let mut instances: Vec<Instance> = Vec::new();
    assert!(list.write(&writer, &mut instances).unwrap() > 8_000);
    gpu.upload(&art, writer.table()).unwrap();
    let drawn = gpu.picture(Batch::Full(&instances), size, 1.0).unwrap();
    let mut canvas = Canvas::new(size).unwrap();
    canvas.clear([0, 0, 0, 255]);
    instances.iter().for_each(|instance| canvas.draw_instance(instance, &art.images));
    let off = differing(&drawn, canvas.picture(), 1);
    // Where the middle of a pixel lies on an edge between two texels, rounding decides.
    eprintln!("{off} of {} pixels differ by more than one step", size[0] * size[1]);
    assert!(off < 200, "{off} pixels differ");
}
