//! Every example runs, and does what it says.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use std::path::{Path, PathBuf};
use std::process::Command;

use lucky_reel::assets::Picture;

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
    let picture = Picture::from_png(&std::fs::read(path).unwrap()).unwrap();
    // The heart of each lantern's flame is one pixel of the art: 4 x 4 here.
    let [width, height] = picture.size();
    let flame = |row: u32| {
        let rows = row * height / 3..(row + 1) * height / 3;
        let all = rows.flat_map(|y| (0..width).map(move |x| [x, y]));
        all.filter(|at| picture.pixel(*at) == [0xff, 0xf4, 0xc4, 255]).count()
    };
    assert_eq!([0, 1, 2].map(flame), [8 * 16; 3]);
}
