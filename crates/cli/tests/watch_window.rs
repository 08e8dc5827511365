//! `watch` in a window on a display of its own, driven by keys and mouse.
//!
//! Needs Xvfb, xdotool and ImageMagick (`apt install xvfb xdotool imagemagick libx11-xcb1 libxcursor1
//! libxi6 libxkbcommon-x11-0`); says so and passes where they are not there.
#![cfg(all(unix, feature = "window"))]
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use std::fs;
use std::io::{BufRead, BufReader};
use std::path::{Path, PathBuf};
use std::process::{Child, Command, Stdio};
use std::time::{Duration, Instant};

use lucky_reel::Ticks;
use lucky_reel::assets::Pixels;
use lucky_reel_tools::preview::{Action, BarArea, Preview};

/// A display without a monitor, and the window in it.
struct Desk {
    server: Child,
    command: Option<Child>,
    display: String,
    window: String,
}

impl Desk {
    /// `None` where the programs for it are not there.
    fn open() -> Option<Desk> {
        for program in ["Xvfb", "xdotool", "import"] {
            if Command::new(program)
                .arg("-version")
                .stdout(Stdio::null())
                .stderr(Stdio::null())
                .status()
                .is_err()
            {
                eprintln!("skipped: there is no {program}");
                return None;
            }
        }
        let server = Command::new("Xvfb")
            .args(["-displayfd", "1", "-screen", "0", "1280x800x24", "-nolisten", "tcp"])
            .stdout(Stdio::piped())
            .stderr(Stdio::null())
            .spawn();
        let mut server = server.unwrap();
        let mut number = String::new();
        BufReader::new(server.stdout.take().unwrap()).read_line(&mut number).unwrap();
        let display = format!(":{}", number.trim());
        Some(Desk { server, command: None, display, window: String::new() })
    }

    fn run(&mut self, folder: &Path, arguments: &[&str]) {
        let mut command = Command::new(env!("CARGO_BIN_EXE_lucky-reel"));
        command.arg("watch").args(arguments).current_dir(folder).env("DISPLAY", &self.display);
        self.command = Some(command.spawn().unwrap());
        self.window = self.xdotool(&["search", "--sync", "--onlyvisible", "--name", "lucky-reel"]);
        self.xdotool(&["windowfocus", "--sync", &self.window.clone()]);
    }

    fn xdotool(&self, arguments: &[&str]) -> String {
        let output = Command::new("xdotool").args(arguments).env("DISPLAY", &self.display).output();
        String::from_utf8(output.unwrap().stdout).unwrap().trim().to_owned()
    }

    /// Waits until the window's title says this.
    fn until(&self, wanted: &str) {
        let begin = Instant::now();
        loop {
            let title = self.xdotool(&["getwindowname", &self.window]);
            if title.contains(wanted) {
                return;
            }
            assert!(begin.elapsed() < Duration::from_secs(20), "{wanted} in {title}");
            std::thread::sleep(Duration::from_millis(10));
        }
    }

    fn picture(&self) -> Pixels {
        let output = Command::new("import")
            .args(["-silent", "-window", &self.window, "-depth", "8", "png32:-"])
            .env("DISPLAY", &self.display)
            .output();
        Pixels::from_png(&output.unwrap().stdout).unwrap()
    }

    /// Steps to the next hold, which pauses, until the window stands: a server that has just started
    /// may lose the first key.
    fn pause(&self) {
        let begin = Instant::now();
        loop {
            self.xdotool(&["key", "Right"]);
            std::thread::sleep(Duration::from_millis(100));
            let shown = self.picture();
            std::thread::sleep(Duration::from_millis(300));
            if shown == self.picture() {
                return;
            }
            assert!(begin.elapsed() < Duration::from_secs(20), "it plays on");
        }
    }

    /// Waits until the window shows what a preview draws, pixel by pixel.
    fn until_shown(&self, preview: &Preview) {
        let begin = Instant::now();
        loop {
            let shown = self.picture();
            let expected = preview.picture(shown.size());
            let differing =
                shown.rgba().chunks(4).zip(expected.rgba().chunks(4)).filter(|(a, b)| a != b);
            let count = differing.count();
            if count == 0 {
                return;
            }
            if begin.elapsed() > Duration::from_secs(20) {
                let [one, other] =
                    ["window.png", "expected.png"].map(|name| std::env::temp_dir().join(name));
                fs::write(&one, shown.to_png()).unwrap();
                fs::write(&other, expected.to_png()).unwrap();
                panic!("{count} pixels differ: {} and {}", one.display(), other.display());
            }
            std::thread::sleep(Duration::from_millis(50));
        }
    }
}

impl Drop for Desk {
    fn drop(&mut self) {
        for child in self.command.iter_mut().chain([&mut self.server]) {
            let _ = child.kill();
            let _ = child.wait();
        }
    }
}

#[test]
fn keys_mouse_and_files_change_the_window() {
    let Some(mut desk) = Desk::open() else { return };
    let from = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo/greenhouse");
    let folder = tempfile::tempdir().unwrap();
    for entry in fs::read_dir(from).unwrap().flatten() {
        fs::copy(entry.path(), folder.path().join(entry.file_name())).unwrap();
    }
    let file = folder.path().join("bram.reel.toml");
    let before = fs::read_to_string(&file).unwrap();
    desk.run(folder.path(), &["bram.reel.toml", "walk-right", "--step", "10ms"]);
    desk.until("walk-right: 500 ms");

    // The same keys on a preview of our own show the same picture. Paused, to another clip and back.
    let step = Some(Ticks::from_millis(10));
    let files = [PathBuf::from(&file)];
    let mut preview = Preview::open(&files, Default::default(), step).unwrap();
    preview.show("walk-right").unwrap();
    let mut act = |actions: &[Action]| {
        for action in actions {
            preview.act(*action);
        }
        desk.until_shown(&preview);
    };
    desk.pause();
    desk.xdotool(&["key", "Down", "Up"]);
    act(&[Action::Hold(1), Action::Clip(1), Action::Clip(-1)]);
    desk.xdotool(&["key", "Right", "o", "b", "f"]);
    act(&[Action::Hold(1), Action::Onion, Action::Background, Action::FlipX]);
    let area = BarArea::of([1280, 800]);
    let [x, y] = [area.x + area.width * 9 / 10, area.y + 10].map(|side| side.to_string());
    desk.xdotool(&["mousemove", "--window", &desk.window, &x, &y, "click", "1", "click", "4"]);
    let at = area.at([x.parse().unwrap(), y.parse().unwrap()]).unwrap();
    // A wheel without smooth scrolling is reported when it is pressed and when it is let go.
    act(&[Action::Seek(at), Action::Zoom(1), Action::Zoom(1)]);

    // A longer hold, written back.
    desk.xdotool(&["key", "bracketright", "bracketright"]);
    desk.until("walk-right: 520 ms");
    assert_eq!(fs::read_to_string(&file).unwrap(), before);
    desk.xdotool(&["key", "w"]);
    let wanted = before.replace("\"110ms\", \"140ms\"]", "\"110ms\", \"160ms\"]");
    let begin = Instant::now();
    while fs::read_to_string(&file).unwrap() != wanted {
        assert!(begin.elapsed() < Duration::from_secs(20), "not written");
        std::thread::sleep(Duration::from_millis(10));
    }
    // Reloaded; broken; mended.
    fs::write(&file, before.replace("\"140ms\"]", "\"240ms\"]")).unwrap();
    desk.until("walk-right: 600 ms");
    fs::write(&file, "reel = 2").unwrap();
    std::thread::sleep(Duration::from_millis(400));
    desk.until("walk-right: 600 ms");
    fs::write(&file, &before).unwrap();
    desk.until("walk-right: 500 ms");
    desk.xdotool(&["key", "q"]);
    assert!(desk.command.as_mut().unwrap().wait().unwrap().success());
}

#[test]
fn without_a_display_the_reason_is_given() {
    let demo = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo/greenhouse/puff.reel.toml");
    let run = |arguments: &[&str]| {
        let mut command = Command::new(env!("CARGO_BIN_EXE_lucky-reel"));
        command
            .arg("watch")
            .arg(&demo)
            .args(arguments)
            .env_remove("DISPLAY")
            .env_remove("WAYLAND_DISPLAY");
        let output = command.output().unwrap();
        assert_eq!(output.status.code(), Some(1));
        String::from_utf8(output.stderr).unwrap()
    };
    let said = run(&["--in", "window"]);
    assert!(
        said.contains("no window can be opened") && said.contains("use --in terminal"),
        "{said}"
    );
    let said = run(&[]);
    assert!(said.contains("neither a display nor a terminal"), "{said}");
    let said = run(&["pfuf"]);
    assert!(said.contains("did you mean `puff`?"), "{said}");
}
