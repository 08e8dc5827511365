//! From a save to a player that plays on the new reel: the demo's five roles, watched and polled 60 times
//! a second and as fast as possible.
//!
//! `cargo bench --features watch --bench reload`

#![allow(clippy::unwrap_used, clippy::expect_used)] // a bench that cannot run fails

use std::path::Path;
use std::time::{Duration, Instant};

use lucky_reel::assets::Loader;
use lucky_reel::{ClipId, Player, Ticks};

const SAVES: usize = 40;

fn main() {
    let demo = Path::new(env!("CARGO_MANIFEST_DIR")).join("demo/greenhouse");
    let folder = tempfile::tempdir().unwrap();
    let mut loader = Loader::new();
    for entry in std::fs::read_dir(demo).unwrap().flatten() {
        let copy = folder.path().join(entry.file_name());
        std::fs::copy(entry.path(), &copy).unwrap();
        if copy.to_string_lossy().ends_with(".reel.toml") {
            loader = loader.file(copy);
        }
    }
    let file = folder.path().join("bram.reel.toml");
    let text = std::fs::read_to_string(&file).unwrap();
    let (art, mut watcher) = loader.watch().unwrap();
    let walk: ClipId = art.reel.id("bram/walk-down").unwrap();
    let mut player = Player::new(&art.reel, walk);
    for (name, frame) in [("60 polls a second", 16), ("a poll each millisecond", 1)] {
        let mut times = Vec::new();
        for save in 0..SAVES {
            let millis = 200 + save * 2 + frame as usize;
            let slower = text.replace("[\"110ms\"", &format!("[\"{millis}ms\""));
            let begin = Instant::now();
            std::fs::write(&file, slower).unwrap();
            let reel = loop {
                match watcher.poll() {
                    Some(reload) => break reload.unwrap().art.reel,
                    None => std::thread::sleep(Duration::from_millis(frame)),
                }
            };
            player.advance(&reel, Ticks::new(1));
            times.push(begin.elapsed());
            let first = reel.clip(walk).unwrap().hold(0).unwrap().ticks;
            assert_eq!(first, Ticks::from_millis(millis as u64));
            std::thread::sleep(Duration::from_millis(100));
        }
        times.sort_unstable();
        println!(
            "{name:24} median {:3} ms, slowest of {SAVES} {:3} ms",
            times[SAVES / 2].as_millis(),
            times[SAVES - 1].as_millis()
        );
    }
}
