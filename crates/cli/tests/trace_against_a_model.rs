//! What `trace` prints, row by row, against the naive model that the core is tested with.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

#[path = "../../core/tests/model/mod.rs"]
#[allow(dead_code)] // what is commanded there is not commanded here
mod model;

use std::fmt::Write as _;
use std::io::Write as _;
use std::process::{Command, Stdio};

use lucky_reel::ClipId;
use lucky_reel::assets::Pixels;
use model::{Model, ModelClip, Reported, UNITS, any_clip, build, reported};
use proptest::collection::vec;
use proptest::prelude::*;

const CLIPS: usize = 3;

/// The clips as a reel file.
fn write_reel(clips: &[ModelClip]) -> String {
    let mut text = "reel = 1\n[sheets.s]\nimage = \"s.png\"\ngrid = { cell = [8, 8] }\n".to_owned();
    for (index, clip) in clips.iter().enumerate() {
        text += &clip.in_reel_file(&format!("c{index}"));
        let marked = |nth: u32| {
            let holds = clip.marks.iter().enumerate().filter(|(_, marks)| **marks >> nth & 1 == 1);
            holds.map(|(hold, _)| hold).collect::<Vec<_>>()
        };
        let _ = writeln!(
            text,
            "marks = {{ m0 = {:?}, m1 = {:?}, m2 = {:?} }}",
            marked(0),
            marked(1),
            marked(2)
        );
    }
    text
}

/// A few ticks in milliseconds.
fn in_ms(ticks: u64) -> String {
    format!("{:.3}", ticks as f64 / 72_072.0)
}

/// The rows that the model says must be printed; the speed is in quarters.
fn rows(clips: &[ModelClip], speed: i64, from: i64, updates: &[u64]) -> String {
    let mut model = Model::new(clips.to_vec());
    model.set_speed(speed * UNITS / 4);
    if from > 0 {
        model.seek(from);
    }
    let mut text = "update,t,ms,event,hold,frame,cycle,name,why,data\n".to_owned();
    let mut passed = 0;
    for (update, dt) in (1..).zip(updates) {
        for Reported(at, kind, clip, hold, cycle, mark) in model.advance(*dt) {
            let t = passed + at;
            let ms = in_ms(t);
            let _ = match kind {
                "next" => writeln!(text, "{update},{t},{ms},next,,,0,c{clip},,"),
                "mark" => {
                    writeln!(text, "{update},{t},{ms},mark,{hold},{},{cycle},m{mark},,", hold % 8)
                }
                _ => writeln!(text, "{update},{t},{ms},{kind},{hold},{},{cycle},,,", hold % 8),
            };
        }
        passed += dt;
        let (cycle, ms) = (model.cycle(), in_ms(passed));
        let _ = match model.shown() {
            Some(hold) => {
                writeln!(text, "{update},{passed},{ms},show,{hold},{},{cycle},,,", hold % 8)
            }
            None => writeln!(text, "{update},{passed},{ms},show,,,{cycle},,,"),
        };
    }
    text
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(150))]

    #[test]
    fn every_row_is_the_models(
        clips in vec(any_clip(CLIPS), CLIPS), speed in -12_i64..13, from in prop_oneof![Just(0_i64), 0_i64..80],
        updates in vec(0_u64..40, 1..12),
    ) {
        let folder = tempfile::tempdir().unwrap();
        let path = folder.path().join("model.reel.toml");
        std::fs::write(&path, write_reel(&clips)).unwrap();
        std::fs::write(folder.path().join("s.png"), Pixels::new([64, 8]).unwrap().to_png()).unwrap();
        let speed_text = format!("{speed}/4");
        let mut command = Command::new(env!("CARGO_BIN_EXE_lucky-reel"));
        command.arg("trace").arg(&path).args(["c0", "--updates", "-", "--format", "csv"]);
        command.args(["--speed", &speed_text, "--from", &format!("{from}t")]);
        command.stdin(Stdio::piped()).stdout(Stdio::piped()).stderr(Stdio::piped());
        let mut child = command.spawn().unwrap();
        let lines: String = updates.iter().map(|dt| format!("{dt}t\n")).collect();
        child.stdin.take().unwrap().write_all(lines.as_bytes()).unwrap();
        let output = child.wait_with_output().unwrap();
        prop_assert!(output.status.success(), "{}", String::from_utf8_lossy(&output.stderr));
        let printed = String::from_utf8(output.stdout).unwrap();
        prop_assert_eq!(printed, rows(&clips, speed, from, &updates));

        // The file says the same as the builder calls.
        let (reel, ids) = build(&clips);
        let loaded = lucky_reel::assets::load_reel([&path]).unwrap();
        for id in &ids {
            let same: ClipId = loaded.id(reel.name(*id)).unwrap();
            let holds = |reel: &lucky_reel::Reel, id| -> Vec<_> { reel.clip(id).unwrap().holds().collect() };
            prop_assert_eq!(holds(&loaded, same), holds(&reel, *id));
        }
        let mut player = lucky_reel::Player::new(&reel, ids[0]);
        let first = player.advance(&reel, lucky_reel::Ticks::new(1)).next();
        prop_assert_eq!(first.map(|event| reported(&reel, event).1), Some("enter"));
    }
}
