//! The live preview: whatever keys are pressed, what it shows and says agrees; what it writes differs in
//! durations alone.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use std::fs;
use std::path::{Path, PathBuf};
use std::time::{Duration, Instant};

use lucky_reel_assets::Limits;
use lucky_reel_core::{ClipId, Ticks};
use lucky_reel_tools::preview::{Action, BarArea, KeyPress, Preview};
use proptest::prelude::*;
use tempfile::TempDir;

/// A copy of the demo that may be edited, and its reel files.
fn demo() -> (TempDir, Vec<PathBuf>) {
    let from = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo/greenhouse");
    let folder = tempfile::tempdir().unwrap();
    for entry in fs::read_dir(from).unwrap().flatten() {
        fs::copy(entry.path(), folder.path().join(entry.file_name())).unwrap();
    }
    let files = ["bram", "moth", "puff", "tiles"];
    let files = files.map(|name| folder.path().join(format!("{name}.reel.toml"))).to_vec();
    (folder, files)
}

fn open(files: &[PathBuf]) -> Preview {
    Preview::open(files, Limits::default(), Some(Ticks::from_millis(10))).unwrap()
}

fn says(preview: &Preview) -> String {
    let lines = preview.text().into_iter().chain(preview.faults());
    lines.map(|line| line.text + "\n").collect()
}

/// Polls until the preview says this.
fn until(preview: &mut Preview, wanted: &str) {
    let begin = Instant::now();
    while !says(preview).contains(wanted) {
        preview.poll();
        assert!(begin.elapsed() < Duration::from_secs(20), "{wanted} in\n{}", says(preview));
        std::thread::sleep(Duration::from_millis(2));
    }
}

fn total(preview: &Preview, clip: &str) -> Ticks {
    let reel = &preview.art().reel;
    reel.clip(reel.id::<ClipId>(clip).unwrap()).unwrap().total
}

fn key() -> impl Strategy<Value = Action> {
    let keys: Vec<KeyPress> = " -+vfgbodDlrhzxu,.[]123456789"
        .chars()
        .map(KeyPress::Char)
        .chain([KeyPress::Left, KeyPress::Right, KeyPress::Up, KeyPress::Down, KeyPress::Tab])
        .collect();
    prop_oneof![
        8 => prop::sample::select(keys).prop_map(|key| Action::of(key).unwrap()),
        1 => (-0.5_f32..1.5).prop_map(Action::Seek),
    ]
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 40, ..ProptestConfig::default() })]

    #[test]
    fn any_keys_leave_a_sound_preview(
        presses in prop::collection::vec((key(), 0_u64..400), 1..40),
        size in (1_u32..500, 1_u32..300),
    ) {
        let (_folder, files) = demo();
        let mut preview = open(&files);
        for (action, millis) in presses {
            prop_assert!(preview.act(action));
            preview.advance(Ticks::from_millis(millis));
            let bar = preview.bar();
            let place = preview.place(&bar);
            // The bar is without gaps from its beginning to its end.
            prop_assert_eq!((bar[0].span[0], bar.last().unwrap().span[1]), (0.0, 1.0));
            prop_assert!(bar.windows(2).all(|pair| pair[0].span[1] == pair[1].span[0]));
            prop_assert!((0.0..=1.0).contains(&place.at));
            // What is said to be up is where playing is.
            if let Some(up) = place.step {
                let said = format!("hold {} (0–", bar[up].hold);
                prop_assert!(says(&preview).contains(&said), "{} in\n{}", said, says(&preview));
                let [from, to] = bar[up].span;
                prop_assert!(
                    (from - 1e-4..=to + 1e-4).contains(&place.at),
                    "{place:?} of {bar:?} after {action:?}\n{}", says(&preview)
                );
            }
        }
        prop_assert_eq!(preview.picture([size.0, size.1]).size(), [size.0, size.1]);
        prop_assert_eq!(preview.layout([size.1, size.0]).size(), [size.1, size.0]);
        // At the second time at the latest, where durations are unsaved.
        prop_assert!(!preview.act(Action::Quit) || !preview.act(Action::Quit));
    }

    #[test]
    fn the_pointer_finds_its_place_on_the_bar(size in (50_u32..3_000, 50_u32..2_000), at in 0.0..1.0_f64) {
        let area = BarArea::of([size.0, size.1]);
        let x = f64::from(area.x) + at * f64::from(area.width);
        let found = area.at([x, f64::from(area.y) + 1.0]).unwrap();
        prop_assert!((f64::from(found) - at).abs() < 1e-5);
        prop_assert_eq!(area.at([x, f64::from(area.y) - 30.0]), None);
    }
}

#[test]
fn durations_are_tuned_by_keys_and_written_back() {
    let (folder, files) = demo();
    let file = folder.path().join("bram.reel.toml");
    let before = fs::read_to_string(&file).unwrap();
    let mut preview = open(&files);
    preview.show("bram/walk-right").unwrap();
    preview.act(Action::Pause);
    preview.act(Action::Hold(1)); // the first hold comes up
    assert!(says(&preview).contains("hold 1 (0–3)"), "{}", says(&preview));
    for _ in 0..3 {
        preview.act(Action::Duration(1));
    }
    assert_eq!(total(&preview, "bram/walk-right"), Ticks::from_millis(530));
    // The clips of the other rows share the entry.
    assert_eq!(total(&preview, "bram/walk-up"), Ticks::from_millis(530));
    assert!(says(&preview).contains("hold 1 (0–3)") && says(&preview).contains("170 ms"));
    assert_eq!(fs::read_to_string(&file).unwrap(), before, "nothing is written unasked");

    // They are not lost by a key.
    assert!(preview.act(Action::Quit) && says(&preview).contains("q again leaves"));

    // One more, and it is taken back.
    preview.act(Action::Hold(1));
    preview.act(Action::Duration(-1));
    assert_eq!(total(&preview, "bram/walk-right"), Ticks::from_millis(520));
    preview.act(Action::Undo);
    assert_eq!(total(&preview, "bram/walk-right"), Ticks::from_millis(530));

    // The file changes on the disk: the edits are laid on it again.
    fs::write(&file, before.replace("rest   = 0", "rest   = 2")).unwrap();
    until(&mut preview, "unsaved durations: 1");
    until(&mut preview, "reloaded");
    assert_eq!(total(&preview, "bram/walk-right"), Ticks::from_millis(530));

    preview.act(Action::Write);
    assert!(says(&preview).contains("written:"), "{}", says(&preview));
    let wanted = before
        .replace("rest   = 0", "rest   = 2")
        .replace("[\"110ms\", \"140ms\"", "[\"110ms\", \"170ms\"");
    assert_eq!(fs::read_to_string(&file).unwrap(), wanted);
    assert!(!says(&preview).contains("unsaved"));

    // Never over a file that somebody else has changed.
    preview.act(Action::Duration(1));
    let other = wanted.replace("# Bram", "# Old Bram");
    fs::write(&file, &other).unwrap();
    preview.act(Action::Write);
    assert!(says(&preview).contains("has changed on the disk"), "{}", says(&preview));
    assert_eq!(fs::read_to_string(&file).unwrap(), other);
    until(&mut preview, "reloaded");
    preview.act(Action::Write);
    assert!(says(&preview).contains("written:"), "{}", says(&preview));
    assert!(fs::read_to_string(&file).unwrap().starts_with("# Old Bram"));
    let beside = fs::read_dir(folder.path()).unwrap().flatten();
    assert!(
        beside
            .map(|entry| entry.file_name())
            .all(|name| !name.to_string_lossy().starts_with(".tmp"))
    );
}

#[test]
fn a_fault_is_shown_with_its_fix_while_the_old_version_plays() {
    let (folder, files) = demo();
    let file = folder.path().join("bram.reel.toml");
    let before = fs::read_to_string(&file).unwrap();
    let mut preview = open(&files);
    preview.show("bram/walk-down").unwrap();
    preview.advance(Ticks::from_millis(120));
    fs::write(&file, before.replace("rest   = 0", "rset   = 0")).unwrap();
    until(&mut preview, "did you mean `rest`?");
    assert!(
        says(&preview).contains("bram.reel.toml:22:1") && says(&preview).contains("rset   = 0")
    );
    assert!(preview.bar().len() == 4 && says(&preview).contains("hold 1 (0–3)"));
    preview.advance(Ticks::from_millis(140));
    assert!(says(&preview).contains("hold 2 (0–3)"), "it plays on");
    fs::write(&file, before.replace("\"110ms\", \"140ms\"]", "\"90ms\", \"140ms\"]")).unwrap();
    until(&mut preview, "480 ms");
    assert!(
        preview.faults().is_empty() && says(&preview).contains("hold 2 (0–3)"),
        "the place is kept"
    );

    // The clip that is shown disappears: another one is.
    fs::write(&file, before.replace("[clips.walk", "[clips.stroll").replace("walk", "stroll"))
        .unwrap();
    until(&mut preview, "bram/hurry-down");
}

#[test]
fn facts_are_switched_by_keys_and_the_winning_cue_says_why() {
    let (_folder, files) = demo();
    let mut preview = open(&files);
    preview.show("bram/idle-down").unwrap();
    let press = |key: char, preview: &mut Preview| {
        preview.act(Action::of(KeyPress::Char(key)).unwrap());
        preview.advance(Ticks::from_millis(20));
        says(preview)
    };
    let said = press('1', &mut preview);
    for line in ["1  moving = true", "> walking: because moving = true", "  resting: not checked"] {
        assert!(said.contains(line), "{line} in\n{said}");
    }
    assert!(said.contains("hurrying: needs pace > 60 (now: 44)"), "{said}");
    let said = press('3', &mut preview) + &press('.', &mut preview) + &press('.', &mut preview);
    assert!(said.contains("pace = 70") && said.contains("> hurrying: because"), "{said}");
    let said = press('4', &mut preview);
    assert!(said.contains("> stumbling: runs to its end"), "{said}");
    let said = press('9', &mut preview);
    assert!(said.contains("there is no fact 9"), "{said}");
    // Marks set facts, too: what the actor knows is shown.
    preview.advance(Ticks::from_secs(2));
    assert!(says(&preview).contains("foot = "));
}
