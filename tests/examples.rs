//! Every example runs, and does what it says.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use std::path::{Path, PathBuf};
use std::process::Command;

use lucky_reel::assets::Pixels;
use lucky_reel::assets::animated::AnimatedImage;

/// Runs an example that `cargo test` has built beside this test.
fn run(name: &str, arguments: &[&Path]) -> String {
    let here = std::env::current_exe().unwrap();
    let target = here.ancestors().nth(2).unwrap();
    let path: PathBuf = target.join("examples").join(name);
    assert!(path.exists(), "build it first: cargo build --example {name}");
    let output = Command::new(path).args(arguments).output().unwrap();
    assert!(output.status.success(), "{}", String::from_utf8_lossy(&output.stderr));
    String::from_utf8(output.stdout).unwrap()
}

#[test]
fn first_clip_hears_two_steps_in_ten_updates() {
    let printed = run("01_first_clip", &[]);
    let columns: Vec<u32> = printed
        .lines()
        .map(|line| line.split("x = ").nth(1).unwrap()[..3].trim().parse().unwrap())
        .collect();
    assert_eq!(columns, [0, 0, 32, 32, 64, 64, 64, 96, 96, 0]);
    assert_eq!(printed.matches("step!").count(), 2);
}

#[test]
fn load_a_reel_hands_out_images_and_corners() {
    let printed = run("02_load_a_reel", &[]);
    assert_eq!(printed.matches("upload").count(), 7);
    assert!(printed.contains("there is no clip `walk-donw`: did you mean `walk-down`?"));
    assert!(printed.contains("corner [96.0, 0.0], texture coordinates [0.125, 0.0]"));
}

#[test]
fn follow_the_game_is_the_same_in_code_and_from_a_file() {
    let printed = run("04_follow_the_game", &[]);
    let cues: Vec<&str> = printed.lines().take(3).map(str::trim).collect();
    // 0 ms, closer than 24 pixels in update 37, and after two seconds.
    let expected = ["0.0 ms  drawn", "616.7 ms  circling", "2000.0 ms  resting"];
    assert_eq!(cues, expected, "{printed}");
    assert!(printed.contains("from the file: the same"));
    let prints = printed.lines().last().unwrap().split_once(": ").unwrap().1.trim();
    let (code, file) = prints.split_once(" and ").unwrap();
    assert_eq!(code, file);
}

#[test]
fn walk_and_flip_draws_eight_pictures_in_three_rows() {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("strip.png");
    run("03_walk_and_flip", &[&path]);
    let picture = Pixels::from_png(&std::fs::read(path).unwrap()).unwrap();
    // The heart of each lantern's flame is one pixel of the art: 4 x 4 here.
    let [width, height] = picture.size();
    let flame = |row: u32| {
        let rows = row * height / 3..(row + 1) * height / 3;
        let all = rows.flat_map(|y| (0..width).map(move |x| [x, y]));
        all.filter(|at| picture.pixel(*at) == [0xff, 0xf4, 0xc4, 255]).count()
    };
    assert_eq!([0, 1, 2].map(flame), [8 * 16; 3]);
}

#[test]
fn a_crowd_of_moths_is_around_every_lamp_and_moves() {
    let folder = tempfile::tempdir().unwrap();
    let [still, moving] = ["still.png", "moving.png"].map(|name| folder.path().join(name));
    let printed = run("05_crowd", &[&still, &moving]);
    assert!(printed.starts_with("10000 moths"), "{printed}");
    let picture = Pixels::from_png(&std::fs::read(still).unwrap()).unwrap();
    // The palest color of the wings is in no other picture.
    let wings = |left: u32| {
        let all = (0..800).flat_map(|y| (left..left + 426).map(move |x| [x, y]));
        all.filter(|at| picture.pixel(*at) == [217, 199, 154, 255]).count()
    };
    assert!(
        [0, 427, 854].map(wings).iter().all(|count| *count > 5_000),
        "{:?}",
        [0, 427, 854].map(wings)
    );
    let image = AnimatedImage::from_bytes(&std::fs::read(moving).unwrap()).unwrap();
    assert_eq!(image.frames.len(), 16);
    assert!(image.frames.windows(2).all(|pair| pair[0].0 != pair[1].0));
}

#[test]
fn tiles_upload_what_has_changed_alone() {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("tiles.png");
    let printed = run("06_tiles", &[&path]);
    // 75 fans change 32 times in two seconds, 75 lamps 11 times, 75 drips 7 times.
    assert!(printed.contains("225 tiles"), "{printed}");
    assert!(printed.contains("uploaded: 3750 of 27000"), "{printed}");
    // In unison: every bay looks like the first.
    let picture = Pixels::from_png(&std::fs::read(path).unwrap()).unwrap();
    assert_eq!(picture.size(), [1280, 800]);
    for [x, y] in (0..800).flat_map(|y| (0..1280).map(move |x| [x, y])) {
        assert_eq!(picture.pixel([x, y]), picture.pixel([x % 256, y % 160]), "at {x}, {y}");
    }
}

#[test]
fn effects_are_gone_by_themselves() {
    let folder = tempfile::tempdir().unwrap();
    let printed = run("07_effects", &[&folder.path().join("strip.png")]);
    // Three seconds of four steps each.
    assert!(printed.contains("12 puffs burst, 12 are over, at most 3 at a time"), "{printed}");
    assert!(printed.contains("left when all is over: 0"), "{printed}");
}

#[test]
fn players_are_components_of_an_ecs() {
    let printed = run("08_with_an_ecs", &[]);
    // 40 + 60 + 4 × 90 + 120 + 160 ms are 740 ms: the 45th update of 60 Hz.
    assert!(printed.contains("update 44: the puff is over"), "{printed}");
    assert_eq!(printed.matches("of the sheet").count(), 5);
}

#[test]
fn a_swing_hits_what_it_passes_at_its_exact_moments() {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("hits.png");
    let printed = run("10_hits_and_colors", &[&path]);
    let hits = [
        "update 1, 40ms in: 1 hit by 3, swish",
        "update 2, 40ms in: 2 hit by 5, whoosh",
        "update 3, 40ms in: 2 hit by 5, whoosh",
        "3 of 10 moths are hurt",
    ];
    assert!(printed.starts_with(&hits.join("\n")), "{printed}");
    let picture = Pixels::from_png(&std::fs::read(path).unwrap()).unwrap();
    // White moths, brown ones, and those in other colors, of which the sheet has none.
    for color in [[255, 255, 255], [0x6b, 0x5a, 0x4c], [0x7f, 0xa6, 0xc9]] {
        assert!(picture.count_color(color) > 50, "{color:?}");
    }
}

#[test]
fn the_net_catches_what_its_pixels_touch() {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("net.png");
    let printed = run("09_net_and_moths", &[&path]);
    let numbers = |line: &str| -> Vec<u32> {
        line.split(|c: char| !c.is_ascii_digit()).filter_map(|n| n.parse().ok()).collect()
    };
    let frames: Vec<Vec<u32>> = printed.lines().take(4).map(numbers).collect();
    let caught: u32 = frames.iter().map(|frame| frame[2]).sum();
    // In one frame a moth is in a corner of the hoop's area, where there is no thread.
    assert!(frames.iter().all(|frame| frame[2] <= frame[1]), "{printed}");
    assert!(frames.iter().any(|frame| frame[2] < frame[1]), "{printed}");
    assert!(printed.contains(&format!("{} of 25 moths are still free", 25 - caught)));
    let picture = Pixels::from_png(&std::fs::read(path).unwrap()).unwrap();
    let lit = picture.rgba().chunks(4).filter(|pixel| *pixel == [255, 72, 88, 255]).count();
    assert!(lit > 16 * 20 && lit.is_multiple_of(16), "{lit}");
}
