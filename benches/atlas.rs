//! How long it takes to put frames onto atlas, when they are loaded and when one of them is edited.
//!
//! `cargo bench --bench atlas`

#![allow(clippy::unwrap_used)] // a bench that cannot run fails

use std::time::Instant;

use lucky_reel::Ticks;
use lucky_reel::assets::{Art, Atlas, Loader, Pixels};

const SHEETS: u64 = 20;
const ROUNDS: usize = 5;

fn random(seed: u64, id: u64, within: u64) -> u64 {
    Ticks::random(seed, id, Ticks::new(within)).get()
}

/// A sheet of so many frames, whose cells are 16 to 63 pixels wide and high; no two frames are alike.
fn sheet(nth: u64, frames: u64, edit: u8) -> (String, Vec<u8>) {
    let cell = [16 + random(1, nth, 48) as u32, 16 + random(2, nth, 48) as u32];
    let columns = 10;
    let size = [cell[0] * columns, cell[1] * (frames as u32).div_ceil(columns)];
    let mut picture = Pixels::new(size).unwrap();
    for (at, pixel) in picture.rgba_mut().chunks_exact_mut(4).enumerate() {
        pixel.copy_from_slice(&[
            (at / 7) as u8,
            (at >> 8) as u8 ^ nth as u8,
            (at >> 16) as u8,
            255,
        ]);
    }
    picture.set_pixel([1, 1], [edit, 1, 2, 255]);
    let text = format!(
        "reel = 1\n[sheets.s]\nimage = \"s.png\"\ngrid = {{ cell = {cell:?}, count = {frames} }}\n[clips.c]\nframes = 0\n"
    );
    (text, picture.to_png())
}

/// How long it takes to load, in milliseconds.
fn load(sheets: &[(String, Vec<u8>)], atlas: Option<&mut Atlas>) -> (Art, f64) {
    let names: Vec<String> = (0..sheets.len()).map(|nth| format!("s{nth}.reel.toml")).collect();
    let begin = Instant::now();
    let mut loader = Loader::new();
    for (name, (text, png)) in names.iter().zip(sheets) {
        loader = loader.bytes(name, text.as_bytes(), |_| Ok(png.clone()));
    }
    let art = atlas.into_iter().fold(loader, Loader::into_atlas).load().unwrap();
    (art, begin.elapsed().as_secs_f64() * 1e3)
}

fn main() {
    for frames in [200, 2_000, 5_000] {
        let mut sheets: Vec<_> = (0..SHEETS).map(|nth| sheet(nth, frames / SHEETS, 0)).collect();
        let mut times: Vec<[f64; 3]> = Vec::new();
        let mut found = (0, 0.0);
        for round in 0..ROUNDS {
            let mut atlas = Atlas::new();
            let (_, plain) = load(&sheets, None);
            let (art, first) = load(&sheets, Some(&mut atlas));
            sheets[3] = sheet(3, frames / SHEETS, round as u8 + 1);
            let (_, again) = load(&sheets, Some(&mut atlas));
            times.push([plain, first - plain, again - plain]);
            let room: u64 =
                art.images.iter().map(|i| i.size().map(u64::from).iter().product::<u64>()).sum();
            let used: u64 = art
                .reel
                .frames()
                .map(|(_, f)| u64::from(f.source.width) * u64::from(f.source.height))
                .sum();
            found = (art.images.len(), used as f64 / room as f64 * 100.0);
        }
        let median = |part: usize| {
            let mut values: Vec<f64> = times.iter().map(|times| times[part]).collect();
            values.sort_by(f64::total_cmp);
            values[ROUNDS / 2]
        };
        println!(
            "{frames:>5} frames on {} atlas, {:.0} % used: loading takes {:.0} ms, the atlas {:.0} ms, with one frame edited {:.0} ms",
            found.0,
            found.1,
            median(0),
            median(1),
            median(2),
        );
    }
}
