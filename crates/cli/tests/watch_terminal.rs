//! `watch` in a terminal, driven through a pseudo-terminal by its keys.
#![cfg(unix)]
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use std::fs;
use std::io::{Read, Write};
use std::path::Path;
use std::sync::{Arc, Mutex};
use std::time::{Duration, Instant};

use portable_pty::{Child, CommandBuilder, MasterPty, PtySize, native_pty_system};
use tempfile::TempDir;

/// A terminal in which the command runs.
struct Terminal {
    child: Box<dyn Child + Send + Sync>,
    master: Box<dyn MasterPty + Send>,
    keyboard: Box<dyn Write + Send>,
    /// The screen, and every byte that was written to it.
    shown: Arc<Mutex<(vt100::Parser, Vec<u8>)>>,
}

const SIZE: PtySize = PtySize { rows: 40, cols: 120, pixel_width: 0, pixel_height: 0 };

impl Terminal {
    fn run(folder: &Path, arguments: &[&str], environment: &[(&str, &str)]) -> Terminal {
        let pair = native_pty_system().openpty(SIZE).unwrap();
        let mut command = CommandBuilder::new(env!("CARGO_BIN_EXE_lucky-reel"));
        command.args(["watch", "--in", "terminal"]);
        command.args(arguments);
        command.cwd(folder);
        command.env("TERM", "xterm-256color");
        for (name, value) in [("COLORTERM", ""), ("NO_COLOR", "")].iter().chain(environment) {
            command.env(name, value);
        }
        let child = pair.slave.spawn_command(command).unwrap();
        let mut output = pair.master.try_clone_reader().unwrap();
        let keyboard = pair.master.take_writer().unwrap();
        let parser = vt100::Parser::new(SIZE.rows, SIZE.cols, 0);
        let shown = Arc::new(Mutex::new((parser, Vec::new())));
        let screen = Arc::clone(&shown);
        std::thread::spawn(move || {
            let mut bytes = [0; 65_536];
            while let Ok(count @ 1..) = output.read(&mut bytes) {
                let mut screen = screen.lock().unwrap();
                screen.0.process(&bytes[..count]);
                screen.1.extend_from_slice(&bytes[..count]);
            }
        });
        Terminal { child, master: pair.master, keyboard, shown }
    }

    fn screen(&self) -> String {
        self.shown.lock().unwrap().0.screen().contents()
    }

    /// Waits until the screen says this.
    fn until(&self, wanted: &str) {
        self.wait(wanted, true);
    }

    /// A frame is drawn piece by piece, so what is to go may be there a moment longer.
    fn until_gone(&self, words: &str) {
        self.wait(words, false);
    }

    fn wait(&self, words: &str, there: bool) {
        let begin = Instant::now();
        while self.screen().contains(words) != there {
            assert!(begin.elapsed() < Duration::from_secs(20), "{words} in\n{}", self.screen());
            std::thread::sleep(Duration::from_millis(5));
        }
    }

    fn press(&mut self, keys: &str) {
        self.keyboard.write_all(keys.as_bytes()).unwrap();
        self.keyboard.flush().unwrap();
    }

    /// Whether the command ended well and left the terminal as it was.
    fn leave(mut self, keys: &str) {
        self.press(keys);
        assert!(self.child.wait().unwrap().success());
        std::thread::sleep(Duration::from_millis(100));
        let shown = self.shown.lock().unwrap();
        let screen = shown.0.screen();
        assert!(!screen.alternate_screen() && !screen.hide_cursor());
        assert_eq!(screen.mouse_protocol_mode(), vt100::MouseProtocolMode::None);
    }
}

/// A copy of the demo that may be edited.
fn demo() -> TempDir {
    let from = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo/greenhouse");
    let folder = tempfile::tempdir().unwrap();
    for entry in fs::read_dir(from).unwrap().flatten() {
        fs::copy(entry.path(), folder.path().join(entry.file_name())).unwrap();
    }
    folder
}

const RIGHT: &str = "\u{1b}[C";

#[test]
fn a_duration_is_tuned_reloaded_and_written() {
    let folder = demo();
    let file = folder.path().join("bram.reel.toml");
    let before = fs::read_to_string(&file).unwrap();
    let arguments = ["bram.reel.toml", "walk-right", "--step", "10ms"];
    let mut terminal = Terminal::run(folder.path(), &arguments, &[("COLORTERM", "truecolor")]);
    terminal.until("hold 2 (0–3)"); // it plays
    terminal.press(" \u{1b}[B\u{1b}[A"); // paused, to the next clip and back: at its start
    terminal.until("paused");
    terminal.until("hold 0 (0–3)");
    terminal.press(RIGHT);
    terminal.until("hold 1 (0–3)");
    terminal.press("]]]");
    terminal.until("unsaved durations: 1");
    terminal.until("170 ms");

    // The file breaks on the disk, and is mended; the edit is laid on it again.
    fs::write(&file, before.replace("rest   = 0", "rset   = 0")).unwrap();
    terminal.until("did you mean `rest`?");
    terminal.until("bram.reel.toml:22:1");
    fs::write(&file, before.replace("rest   = 0", "rest   = 1")).unwrap();
    terminal.until("reloaded");
    terminal.until_gone("did you mean");
    terminal.until("170 ms");

    terminal.press("w");
    terminal.until("written: bram.reel.toml");
    let wanted = before
        .replace("rest   = 0", "rest   = 1")
        .replace("[\"110ms\", \"140ms\"", "[\"110ms\", \"170ms\"");
    assert_eq!(fs::read_to_string(&file).unwrap(), wanted);

    // The mouse on the time bar, in cells: hold 3 is near its end.
    terminal.press("\u{1b}[<0;118;36M");
    terminal.until("hold 3 (0–3)");
    // Another size.
    terminal.master.resize(PtySize { rows: 24, cols: 80, ..SIZE }).unwrap();
    terminal.shown.lock().unwrap().0.screen_mut().set_size(24, 80);
    // Keys that come together with the signal may wait for the next one.
    terminal.until("write, undo");
    terminal.press("\t1 ");
    terminal.until("cue walking: because moving");
    terminal.leave("\u{3}");
}

#[test]
fn colors_are_those_that_the_terminal_has() {
    let folder = demo();
    let written = |environment: &[(&str, &str)]| {
        let terminal = Terminal::run(folder.path(), &["puff.reel.toml"], environment);
        terminal.until("puff");
        terminal.until("q quit");
        let bytes = String::from_utf8_lossy(&terminal.shown.lock().unwrap().1).into_owned();
        terminal.leave("q");
        ["38;2;", "38;5;", "█"].map(|code| bytes.contains(code))
    };
    assert_eq!(written(&[("COLORTERM", "truecolor")])[..2], [true, false]);
    assert_eq!(written(&[])[..2], [false, true]);
    assert_eq!(written(&[("NO_COLOR", "1"), ("COLORTERM", "truecolor")])[..2], [false, false]);
}
