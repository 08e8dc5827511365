//! No command writes over what it has read, nor over what a reel file names: with every command on every file
//! of the demo, with its default output and with outputs that are asked for, forced or not.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use std::collections::BTreeMap;
use std::fs;
use std::path::{Path, PathBuf};
use std::process::{Command, Output, Stdio};

fn run(folder: &Path, arguments: &[&str]) -> Output {
    let mut command = Command::new(env!("CARGO_BIN_EXE_lucky-reel"));
    command.args(arguments).current_dir(folder).stdin(Stdio::null()).output().unwrap()
}

/// All files of a folder, and what is in them.
type Contents = BTreeMap<PathBuf, Vec<u8>>;

fn contents(folder: &Path) -> Contents {
    let files = fs::read_dir(folder).unwrap().map(|entry| entry.unwrap().path());
    files
        .filter(|path| path.is_file())
        .map(|path| (path.clone(), fs::read(path).unwrap()))
        .collect()
}

/// The demo's art in a folder of its own, each reel's clips, and all of it.
fn greenhouse() -> (tempfile::TempDir, Vec<(String, String)>, Contents) {
    let folder = tempfile::tempdir().unwrap();
    let demo = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo/greenhouse");
    let mut reels = Vec::new();
    for path in contents(&demo).into_keys() {
        let name = path.file_name().unwrap().to_str().unwrap().to_owned();
        if name.ends_with(".reel.toml") {
            let listed = lucky_reel::assets::load_reel([&path]).unwrap();
            reels.push((name.clone(), listed.clips().next().unwrap().name.to_owned()));
        }
        fs::copy(&path, folder.path().join(name)).unwrap();
    }
    let before = contents(folder.path());
    (folder, reels, before)
}

#[test]
fn no_command_changes_a_file_of_the_demo() {
    let (folder, reels, before) = greenhouse();
    let images: Vec<String> = before
        .keys()
        .map(|path| path.file_name().unwrap().to_str().unwrap().to_owned())
        .filter(|name| name.ends_with(".png"))
        .collect();
    let mut commands: Vec<Vec<&str>> = vec![
        vec!["demo", "--to", "."],
        vec!["chart", "bram.reel.toml", "--script", "night.txt"],
        vec!["chart", "bram.reel.toml", "--script", "night.txt", "--to", "bram.png"],
        vec!["pack", "puff.png", "moth.png", "--to", "puff"],
        vec!["pack", "bram.reel.toml", "moth.reel.toml", "--to", "moth"],
        vec!["pack", "bram.reel.toml", "moth.reel.toml", "--to", "packed/night"],
    ];
    for (reel, clip) in &reels {
        commands.extend([
            vec!["clips", reel],
            vec!["check", reel],
            vec!["check", reel, "--to", "."],
            vec!["trace", reel, clip],
            vec!["chart", reel],
            vec!["chart", reel, clip],
            vec!["chart", reel, clip, "--display", "60"],
            vec!["chart", reel, "--against", reel],
            vec!["chart", reel, "--page", reel],
            vec!["chart", reel, "--to", "bram-dusk.png"],
            vec!["convert", reel, "--to", reel],
            vec!["convert", reel, "--to", "./tiles.png"],
            vec!["render", reel, clip, "--to", "net.png"],
            vec!["render", reel, clip, "--strip", "--to", "puff.png"],
            vec!["render", reel, clip, "--to", "frames/"],
        ]);
    }
    for image in &images {
        commands.push(vec!["measure", image, "--to", image]);
    }
    commands.extend([
        vec!["measure", "moth.png"],
        vec!["measure", "moth.png", "--to", "greenhouse.png"],
        vec!["measure", "moth.png", "--to", "cells.png", "--draft", "cells.reel.toml"],
    ]);
    let (mut refused, mut written) = (0, 0);
    for command in &commands {
        for force in [&[][..], &["--force"]] {
            if !force.is_empty() && ["clips", "trace"].contains(&command[0]) {
                continue; // these write nothing
            }
            let output = run(folder.path(), &[command, force].concat());
            let message = String::from_utf8_lossy(&output.stderr);
            refused += u32::from(
                message.contains("never writes over") || message.contains("not written over"),
            );
            written += u32::from(output.status.success());
            // What is protected is never to be forced.
            assert!(!(message.contains("writes over") && message.contains("--force")), "{message}");
            let now = contents(folder.path());
            for (path, bytes) in &before {
                assert!(now[path] == *bytes, "{command:?} {force:?} changed {path:?}: {message}");
            }
        }
    }
    assert!(refused > 60 && written > 80, "{refused} were refused, {written} succeeded");
}

#[test]
fn what_a_pattern_names_is_kept_and_what_was_packed_is_packed_again() {
    let folder = tempfile::tempdir().unwrap();
    let at = |name: &str| folder.path().join(name);
    fs::create_dir_all(at("puffs")).unwrap();
    let (_demo, _, art) = greenhouse();
    let moth = art.iter().find(|(path, _)| path.ends_with("moth.png")).unwrap().1;
    fs::write(at("puffs/puff-1.png"), moth).unwrap();
    fs::write(at("moth.png"), moth).unwrap();
    let text = "reel = 1\n[sheets.puff]\nimages = 'puffs/puff-*.png'\n[clips.puff]\nframes = 0\n";
    fs::write(at("puff.reel.toml"), text).unwrap();
    let to = ["measure", "moth.png", "--to", "puffs/puff-1.png", "--force"];
    let message = String::from_utf8(run(folder.path(), &to).stderr).unwrap();
    assert!(message.contains("puff.reel.toml names this file"), "{message}");
    assert_eq!(&fs::read(at("puffs/puff-1.png")).unwrap(), moth);
    // What a command wrote itself, the same command writes again, with --force.
    let pack = ["pack", "puffs/puff-1.png", "moth.png", "--to", "packed/dusk"];
    assert!(run(folder.path(), &pack).status.success());
    assert!(!run(folder.path(), &pack).status.success());
    let again = run(folder.path(), &[&pack[..], &["--force"]].concat());
    assert!(again.status.success(), "{}", String::from_utf8_lossy(&again.stderr));
}
