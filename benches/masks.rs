//! Do two drawings touch: bits, 64 at a time, against a look at each pixel.
//!
//! `cargo bench --bench masks`

#![allow(clippy::unwrap_used)] // a bench that cannot run fails

use std::hint::black_box;
use std::time::Instant;

use lucky_reel::assets::Pixels;
use lucky_reel::{
    Flips, Grid, NewClip, NewSheet, Reel, View,
    view::{Masks, PackedFrame, PictureAt},
};

const ROUNDS: usize = 15;
const PAIRS: i32 = 400;

/// A disk that fills its frame but for the corners.
fn disk(side: u32) -> (Reel, Pixels) {
    let mut builder = Reel::builder();
    let sheet = builder.sheet("disk", NewSheet::grid([side, side], Grid::cell_size([side, side])));
    builder.clip("disk", NewClip::of(sheet).frames([0]));
    let mut pixels = Pixels::new([side, side]).unwrap();
    let middle = side as f32 / 2.0;
    for y in 0..side {
        for x in 0..side {
            let [dx, dy] = [x, y].map(|at| at as f32 + 0.5 - middle);
            if dx * dx + dy * dy < middle * middle {
                pixels.set_pixel([x, y], [255; 4]);
            }
        }
    }
    (builder.build().unwrap(), pixels)
}

/// Counts the pixels that both show, one by one.
fn by_pixel(one: &View<'_>, other: &View<'_>, at: [[i32; 2]; 2], pixels: &Pixels) -> u64 {
    let blits = [one.blit(at[0], 1), other.blit(at[1], 1)];
    let from = [0, 1].map(|axis| blits[0].at[axis].max(blits[1].at[axis]));
    let to = [0, 1]
        .map(|axis| blits.map(|b| b.at[axis] + b.size[axis] as i32).into_iter().min().unwrap());
    let mut count = 0;
    for y in from[1]..to[1] {
        for x in from[0]..to[0] {
            count += u64::from(blits.iter().all(|blit| {
                let [column, row] = [(x - blit.at[0]) as u32, (y - blit.at[1]) as u32];
                let column = if blit.flips.x { blit.source.width - 1 - column } else { column };
                pixels.pixel([blit.source.x + column, blit.source.y + row])[3] >= 128
            }));
        }
    }
    count
}

fn main() {
    for side in [16, 32, 64, 200] {
        let (reel, pixels) = disk(side);
        let masks = Masks::new(&reel, |_, at| pixels.pixel(at)[3] >= 128);
        let frame = reel.clips().next().unwrap().hold(0).unwrap().frame;
        let views = [false, true].map(|x| View::of(&reel, frame, Flips { x, y: false }).unwrap());
        let up = [false, true].map(|x| PackedFrame::of(frame, Flips { x, y: false }));
        let at = |nth: usize, place: [i32; 2]| PictureAt::new(up[nth], place);
        let place = |nth: i32| [nth % (side as i32), nth / 7 % (side as i32)];
        let mut ratios: Vec<f64> = (0..ROUNDS)
            .map(|_| {
                let begin = Instant::now();
                let bits: u64 = (0..PAIRS)
                    .map(|n| masks.contact_count(at(0, [0, 0]), black_box(at(1, place(n)))))
                    .sum();
                let by_bits = begin.elapsed();
                let begin = Instant::now();
                let pixel: u64 = (0..PAIRS)
                    .map(|n| by_pixel(&views[0], &views[1], black_box([[0, 0], place(n)]), &pixels))
                    .sum();
                let by_pixel = begin.elapsed();
                assert_eq!(bits, pixel);
                by_pixel.as_secs_f64() / by_bits.as_secs_f64()
            })
            .collect();
        ratios.sort_by(f64::total_cmp);
        println!(
            "{side:3} x {side:3} pixels: pixel by pixel takes {:5.1} times as long",
            ratios[ROUNDS / 2]
        );
    }
}
