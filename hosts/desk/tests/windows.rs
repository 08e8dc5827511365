//! The hosts with a window, each on a display of its own, driven by keys.
//!
//! Needs Xvfb, xdotool and ImageMagick, for `gpu` a Vulkan driver; says so and passes where they are not there.
#![cfg(unix)]
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use std::fs;
use std::io::{BufRead, BufReader};
use std::path::{Path, PathBuf};
use std::process::{Child, Command, Stdio};
use std::time::{Duration, Instant};

use lucky_reel::assets::Pixels;

const DEMO: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/greenhouse");

const HOSTS: [&str; 2] = ["greenhouse-window", "greenhouse-gpu"];

/// A host, built beside this test; `None` where it cannot run here.
fn host(name: &str) -> Option<PathBuf> {
    let here = std::env::current_exe().unwrap();
    let target = here.ancestors().nth(3).unwrap();
    let mut build = Command::new(env!("CARGO"));
    // The whole workspace: alone, a host would want its parts with other features, and built again.
    build.args(["build", "--quiet", "--workspace"]).arg("--target-dir").arg(target);
    assert!(build.status().unwrap().success());
    let path = target.join("debug").join(name);
    let shot = tempfile::tempdir().unwrap();
    let shot = shot.path().join("shot.png");
    let output =
        Command::new(&path).arg("--seconds=0").arg("--headless").arg(shot).output().unwrap();
    let said = String::from_utf8_lossy(&output.stderr).into_owned();
    assert!(output.status.success() || name == "greenhouse-gpu", "{said}");
    if !output.status.success() {
        eprintln!("skipped {name}: {said}");
        return None;
    }
    Some(path)
}

struct Desk {
    server: Child,
    game: Child,
    display: String,
    window: String,
}

impl Desk {
    /// `None` where the programs for it are not there.
    fn open(host: &Path, demo: &Path, shot: &Path, options: &[&str]) -> Option<Desk> {
        for program in ["Xvfb", "xdotool", "import"] {
            let quiet = || Stdio::null();
            if Command::new(program)
                .arg("-version")
                .stdout(quiet())
                .stderr(quiet())
                .status()
                .is_err()
            {
                eprintln!("skipped: there is no {program}");
                return None;
            }
        }
        let mut server = Command::new("Xvfb")
            .args(["-displayfd", "1", "-screen", "0", "1280x800x24", "-nolisten", "tcp"])
            .stdout(Stdio::piped())
            .stderr(Stdio::null())
            .spawn()
            .unwrap();
        let mut number = String::new();
        BufReader::new(server.stdout.take().unwrap()).read_line(&mut number).unwrap();
        let display = format!(":{}", number.trim());
        let game = Command::new(host)
            .arg("--demo")
            .arg(demo)
            .arg("--shot")
            .arg(shot)
            .args(options)
            .env("DISPLAY", &display)
            .spawn()
            .unwrap();
        let mut desk = Desk { server, game, display, window: String::new() };
        desk.window = desk.xdotool(&["search", "--sync", "--onlyvisible", "--name", "greenhouse"]);
        desk.xdotool(&["windowfocus", "--sync", &desk.window.clone()]);
        Some(desk)
    }

    fn xdotool(&self, arguments: &[&str]) -> String {
        let output = Command::new("xdotool").args(arguments).env("DISPLAY", &self.display).output();
        String::from_utf8(output.unwrap().stdout).unwrap().trim().to_owned()
    }

    /// The number after a word of the title.
    fn title(&self) -> (u32, String, i32) {
        let title = self.xdotool(&["getwindowname", &self.window]);
        let words: Vec<&str> =
            title.split([' ', ',', ':']).filter(|word| !word.is_empty()).collect();
        match words[..] {
            [_, steps, _, plays, _, x] => {
                (steps.parse().unwrap(), plays.to_owned(), x.parse().unwrap())
            }
            _ => (0, String::new(), 0),
        }
    }

    /// Does something again and again until the title is as it should be.
    fn until(&self, mut act: impl FnMut(), is_it: impl Fn(&(u32, String, i32)) -> bool) {
        let begin = Instant::now();
        while !is_it(&self.title()) {
            act();
            assert!(begin.elapsed() < Duration::from_secs(20), "{:?}", self.title());
            std::thread::sleep(Duration::from_millis(15));
        }
    }

    fn picture(&self) -> Pixels {
        let output = Command::new("import")
            .args(["-silent", "-window", &self.window, "-depth", "8", "png32:-"])
            .env("DISPLAY", &self.display)
            .output();
        Pixels::from_png(&output.unwrap().stdout).unwrap()
    }

    /// Pauses, and waits until the window shows the picture that was written then.
    fn pause(&self, shot: &Path) -> Pixels {
        let begin = Instant::now();
        _ = fs::remove_file(shot);
        self.xdotool(&["key", "p"]);
        while !shot.exists() {
            assert!(begin.elapsed() < Duration::from_secs(20), "no picture was written");
            std::thread::sleep(Duration::from_millis(10));
        }
        let wanted = Pixels::from_png(&fs::read(shot).unwrap()).unwrap();
        assert_eq!(wanted.size(), [1_280, 800]);
        loop {
            let shown = self.picture();
            let pairs = shown.rgba().chunks(4).zip(wanted.rgba().chunks(4));
            let differing = pairs.filter(|(a, b)| a != b).count();
            if shown.size() == wanted.size() && differing == 0 {
                return shown;
            }
            assert!(begin.elapsed() < Duration::from_secs(20), "{differing} pixels differ");
            std::thread::sleep(Duration::from_millis(30));
        }
    }
}

impl Drop for Desk {
    fn drop(&mut self) {
        _ = (self.game.kill(), self.server.kill());
        _ = (self.game.wait(), self.server.wait());
    }
}

/// A copy of the demo that may be edited.
fn demo() -> (tempfile::TempDir, PathBuf) {
    let folder = tempfile::tempdir().unwrap();
    for entry in fs::read_dir(DEMO).unwrap().flatten() {
        fs::copy(entry.path(), folder.path().join(entry.file_name())).unwrap();
    }
    let shot = folder.path().join("shot.png");
    (folder, shot)
}

#[test]
fn keys_move_bram_and_edits_arrive() {
    let hosts = HOSTS.iter().filter_map(|name| host(name));
    for (host, options) in hosts.zip([&["--fixed"][..], &["--atlas", "--small"]]) {
        let (folder, shot) = demo();
        let Some(desk) = Desk::open(&host, folder.path(), &shot, options) else { return };
        // A server that has just started may lose the first key.
        desk.until(
            || drop(desk.xdotool(&["keydown", "Right"])),
            |(steps, plays, x)| *steps >= 2 && plays == "hurry-right" && *x > 80,
        );
        desk.until(
            || drop(desk.xdotool(&["key", "space"])),
            |(_, plays, _)| plays == "hover-right",
        );
        desk.xdotool(&["keyup", "Right"]);
        desk.until(|| (), |(_, plays, _)| plays == "idle-right");
        desk.until(
            || drop(desk.xdotool(&["key", "s"])),
            |(_, plays, _)| plays.starts_with("stumble") || plays.starts_with("trip"),
        );
        desk.until(|| (), |(_, plays, _)| plays == "idle-right");
        let before = desk.pause(&shot);
        let stays = desk.title();
        std::thread::sleep(Duration::from_millis(200));
        assert_eq!(desk.title(), stays, "it is paused");

        // The night turns green; nothing else is lost.
        let mut green = Pixels::new([320, 200]).unwrap();
        green.rgba_mut().chunks_mut(4).for_each(|pixel| pixel.copy_from_slice(&[0, 90, 40, 255]));
        fs::write(folder.path().join("greenhouse.png"), green.to_png()).unwrap();
        std::thread::sleep(Duration::from_millis(400));
        desk.xdotool(&["key", "p"]);
        desk.until(|| drop(desk.xdotool(&["keydown", "Left"])), |(_, _, x)| *x < stays.2);
        let after = desk.pause(&shot);
        let night = |picture: &Pixels| picture.pixel([8, 790]);
        assert_ne!(night(&before), [0, 90, 40, 255]);
        assert_eq!(night(&after), [0, 90, 40, 255]);
    }
}

#[test]
fn without_a_window_all_write_the_same_picture() {
    let folder = tempfile::tempdir().unwrap();
    // One from the canvas, the other from the GPU, if there is one.
    let hosts: Vec<PathBuf> = HOSTS.iter().filter_map(|name| host(name)).collect();
    let drawn = |nth: usize, options: &[&str]| {
        let path = folder.path().join("drawn.png");
        let mut command = Command::new(&hosts[nth % hosts.len()]);
        let output = command
            .arg("--headless")
            .arg(&path)
            .args(options)
            .env_remove("DISPLAY")
            .output()
            .unwrap();
        assert!(output.status.success(), "{}", String::from_utf8_lossy(&output.stderr));
        assert!(
            String::from_utf8_lossy(&output.stdout)
                .starts_with("6 steps; 72 things from 10 images")
        );
        let picture = Pixels::from_png(&fs::read(&path).unwrap()).unwrap();
        fs::remove_file(path).unwrap();
        picture
    };
    let [one, other] = [0, 1].map(|nth| drawn(nth, &[]));
    assert_eq!((one.size(), other.size()), ([1_280, 800], [1_280, 800]));
    // Where art is seen through, a GPU may round otherwise.
    let by = u8::from(hosts.len() > 1);
    let off = |one: &Pixels, other: &Pixels| {
        one.rgba().iter().zip(other.rgba()).filter(|(a, b)| a.abs_diff(**b) > by).count()
    };
    assert_eq!(off(&one, &other), 0);
    // The overlay is drawn by both, and a line may run beside itself by a pixel.
    let [over_one, over_other] = [0, 1].map(|nth| drawn(nth, &["--overlay"]));
    let lit = off(&one, &over_one);
    assert!(lit > 20_000 && off(&over_one, &over_other) < lit, "{lit}");
}
