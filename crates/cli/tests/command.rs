//! The command as its users meet it: what it prints, what it writes, how it fails.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use lucky_reel::ClipId;
use lucky_reel::assets::Pixels;
use lucky_reel::id::SheetId;
use std::fs;
use std::path::{Path, PathBuf};
use std::process::{Command, Output, Stdio};

use serde_json::Value;

const GREENHOUSE: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/greenhouse");

fn reel(name: &str) -> String {
    format!("{GREENHOUSE}/{name}.reel.toml")
}

fn run_in(folder: &Path, arguments: &[&str]) -> Output {
    let mut command = Command::new(env!("CARGO_BIN_EXE_lucky-reel"));
    command.args(arguments).current_dir(folder).stdin(Stdio::null()).output().unwrap()
}

fn run(arguments: &[&str]) -> Output {
    run_in(Path::new("."), arguments)
}

fn text(bytes: &[u8]) -> String {
    String::from_utf8(bytes.to_vec()).unwrap()
}

fn printed(arguments: &[&str]) -> String {
    let output = run(arguments);
    assert!(output.status.success(), "{}", text(&output.stderr));
    assert!(output.stderr.is_empty());
    text(&output.stdout)
}

#[test]
fn clips_are_listed_for_people_and_for_programs() {
    let table = printed(&["clips", &reel("puff")]);
    assert_eq!(
        table,
        "clip  frames  milliseconds              total ms  mode  marks    end\n\
         puff  0 to 7  40, 60, 90 x 4, 120, 160       740  once  burst 1  vanish\n"
    );
    let clips: Value =
        serde_json::from_str(&printed(&["clips", &reel("tiles"), "--format", "json"])).unwrap();
    let glow = clips.as_array().unwrap().iter().find(|clip| clip["name"] == "glow").unwrap();
    assert_eq!(
        (&glow["mode"], &glow["repeat"], &glow["end"]),
        (&"ping-pong".into(), &Value::Null, &Value::Null)
    );
    assert_eq!(glow["total_ticks"], 980 * 72_072);
    assert_eq!(glow["holds"][2], serde_json::json!({ "frame": 8, "ticks": 120 * 72_072 }));
    let bram: Value =
        serde_json::from_str(&printed(&["clips", &reel("bram"), "--format", "json"])).unwrap();
    let marks = serde_json::json!({ "step": [1, 3], "step-left": [1], "step-right": [3] });
    assert_eq!((&bram[0]["marks"], &bram[0]["name"]), (&marks, &"walk-down".into()));
}

#[test]
fn a_trace_keeps_its_promise() {
    let puff = reel("puff");
    let arguments = ["trace", &puff, "puff", "--every", "400ms", "--duration", "1s", "--format"];
    let with = |format: &str| printed(&[&arguments[..], &[format]].concat());
    let ms = |millis: u64| millis * 72_072;
    let csv = with("csv");
    let mut lines = csv.lines();
    assert_eq!(lines.next(), Some("update,t,ms,event,hold,frame,cycle,name,why,data"));
    let expected = [
        "1,0,0.000,enter,0,0,0,,,".to_owned(),
        format!("1,{},40.000,enter,1,1,0,,,", ms(40)),
        format!("1,{},40.000,mark,1,1,0,burst,,", ms(40)),
        format!("1,{},100.000,enter,2,2,0,,,", ms(100)),
    ];
    assert!(lines.by_ref().take(4).eq(expected.iter().map(String::as_str)), "{csv}");
    let tail: Vec<&str> = csv.lines().rev().take(3).collect();
    let ends = [
        format!("3,{},1000.000,show,,,1,,,", ms(1_000)), // the last update is shorter
        format!("2,{},800.000,show,,,1,,,", ms(800)),
        format!("2,{},740.000,end,7,7,1,,,", ms(740)),
    ];
    assert_eq!(tail, ends, "{csv}");

    // The three formats say the same.
    let json = with("json");
    for (row, object) in csv.lines().skip(1).zip(json.lines()) {
        let object: Value = serde_json::from_str(object).unwrap();
        let cell = |key: &str| match &object[key] {
            Value::Null => String::new(),
            Value::Object(data) => {
                let text = |value: &Value| value.as_str().map_or(value.to_string(), str::to_owned);
                let words = data.iter().map(|(key, value)| format!("{key}={}", text(value)));
                words.collect::<Vec<_>>().join(" ")
            }
            Value::String(text) => text.clone(),
            Value::Number(ms) if key == "ms" => format!("{:.3}", ms.as_f64().unwrap()),
            other => other.to_string(),
        };
        let keys = ["update", "t", "ms", "event", "hold", "frame", "cycle", "name", "why", "data"];
        assert_eq!(row, keys.map(cell).join(","));
    }
    assert_eq!(json.lines().count() + 1, csv.lines().count());
    assert_eq!(with("table").lines().count(), csv.lines().count());
}

#[test]
fn what_marks_carry_is_listed_traced_and_drawn() {
    let bram = reel("bram");
    let row = "1,0,0.000,mark,0,2,0,thud,,loud=0.8 sound=thud";
    assert!(printed(&["trace", &bram, "land-down", "--format", "csv"]).contains(row));
    assert!(printed(&["clips", &bram]).contains("thud 0 (loud 0.8, sound thud)"));
    let clips = printed(&["clips", &bram, "--format", "json"]);
    assert!(
        clips.contains("\"sound\":\"thud\"") || clips.contains("\"sound\": \"thud\""),
        "{clips}"
    );
    let folder = tempfile::tempdir().unwrap();
    let drawn = run_in(folder.path(), &["chart", &bram, "land-down", "--to", "land.svg"]);
    assert!(drawn.status.success(), "{}", text(&drawn.stderr));
    let svg = fs::read_to_string(folder.path().join("land.svg")).unwrap();
    assert!(svg.contains("thud (loud 0.8, sound thud)"));
}

#[test]
fn pictures_are_drawn_and_never_over_others() {
    let folder = tempfile::tempdir().unwrap();
    let drawn = run_in(folder.path(), &["chart", &reel("bram"), "walk-right"]);
    assert!(drawn.status.success() && drawn.stdout.is_empty());
    let path = folder.path().join("walk-right-chart.png");
    let picture = lucky_reel::assets::Pixels::from_png(&fs::read(&path).unwrap()).unwrap();
    assert_eq!(picture.size()[0], 1280);
    let lit = |color: [u8; 3]| picture.rgba().chunks(4).filter(|pixel| pixel[..3] == color).count();
    assert!(lit([0xff, 0xc8, 0x57]) > 100, "marks are drawn");
    assert!(lit([0xff, 0xf4, 0xc4]) >= 4 * 36, "the lantern burns in each of four pictures");

    fs::write(&path, "mine").unwrap();
    let refused = run_in(folder.path(), &["chart", &reel("bram"), "walk-right"]);
    assert_eq!(refused.status.code(), Some(1));
    assert!(text(&refused.stderr).contains("--force"), "{}", text(&refused.stderr));
    assert_eq!(fs::read(&path).unwrap(), b"mine");
    assert!(
        run_in(folder.path(), &["chart", &reel("bram"), "walk-right", "--force"]).status.success()
    );
    assert_ne!(fs::read(&path).unwrap(), b"mine");

    // The other charts, and the page: each under its own name, as pixels or as SVG.
    let after = fs::read_to_string(reel("bram")).unwrap().replace("\"80ms\"", "\"90ms\"");
    fs::create_dir(folder.path().join("after")).unwrap();
    for image in ["bram.png", "bram-air.png", "bram-dusk.png", "bram-air-dusk.png"] {
        let to = folder.path().join("after").join(image);
        fs::copy(format!("{GREENHOUSE}/{image}"), to).unwrap();
    }
    fs::write(folder.path().join("after/bram.reel.toml"), after).unwrap();
    let bram = reel("bram");
    for (arguments, written, begins) in [
        (&["--theme", "light"][..], "bram-chart.png", "\u{fffd}PNG"),
        (&["walk-up", "--display", "60"], "walk-up-60hz-chart.png", "\u{fffd}PNG"),
        (&["walk-up", "--against", "walk-down"], "walk-up-compared-chart.png", "\u{fffd}PNG"),
        (&["--against", "after/bram.reel.toml"], "bram-compared-chart.png", "\u{fffd}PNG"),
        (&["walk-up", "--against", "after/bram.reel.toml", "--to", "x.svg"], "x.svg", "<svg"),
        (&["--page", "bram.html"], "bram.html", "<!doctype html>"),
    ] {
        let all: Vec<&str> = ["chart", &bram].iter().chain(arguments).copied().collect();
        let drawn = run_in(folder.path(), &all);
        assert!(drawn.status.success(), "{arguments:?}: {}", text(&drawn.stderr));
        let bytes = fs::read(folder.path().join(written)).unwrap();
        assert!(String::from_utf8_lossy(&bytes).starts_with(begins), "{written}");
        assert!(!run_in(folder.path(), &all).status.success(), "not over {written}");
    }
}

#[test]
fn cues_are_explained_scripted_and_drawn() {
    let bram = reel("bram");
    let reported = printed(&["explain", &bram, "--facts", "moving=true pace=90", "--facing", "up"]);
    let lines: Vec<&str> = reported.lines().collect();
    assert_eq!(lines.len(), 6);
    assert!(lines[0].starts_with("  tripping   skipped: needs hurt, not pulsed now"), "{reported}");
    assert!(
        lines[2].starts_with("  hovering   skipped: needs airborne = true (now: false)"),
        "{reported}"
    );
    assert_eq!(lines[3], "> hurrying   wins because moving = true, pace > 60: plays hurry-up");
    assert_eq!(lines[5], "  resting    not checked");
    let json = printed(&["explain", &bram, "--facts", "hurt=true foot=left", "--format", "json"]);
    let first: Value = serde_json::from_str(json.lines().next().unwrap()).unwrap();
    assert_eq!(
        (&first["cue"], &first["wins"], &first["plays"]),
        (&"tripping".into(), &true.into(), &"trip-down".into())
    );

    // The rows are those of a trace, and the same whatever the updates are.
    let folder = tempfile::tempdir().unwrap();
    let night = format!("{GREENHOUSE}/night.txt");
    let rows = |every: &str| -> Vec<String> {
        let script = ["explain", &bram, "--script", &night, "--every", every, "--format", "csv"];
        let rows = printed(&script);
        assert!(rows.starts_with("update,t,ms,event,hold,frame,cycle,name,why,data\n"));
        let happened = rows.lines().filter(|row| !row.contains(",show,"));
        happened.map(|row| row.split_once(',').unwrap().1.to_owned()).collect()
    };
    let (coarse, fine) = (rows("1s"), rows("1/144s"));
    assert_eq!(coarse, fine);
    let at = |millis: u64| (millis * 72_072).to_string();
    for row in [
        format!("{},2400.000,cue,,,0,hovering,facts,", at(2_400)),
        format!("{},3400.000,bridge,,,0,landing,facts,", at(3_400)),
        format!("{},3570.000,cue,,,0,walking,end,", at(3_570)),
        format!("{},4200.000,cue,,,0,tripping,facts,", at(4_200)),
    ] {
        assert!(coarse.contains(&row), "{row}");
    }
    let output = run_in(folder.path(), &["chart", &bram, "--script", &night]);
    assert_eq!(text(&output.stderr), "written: night-chart.png\n");
    assert!(folder.path().join("night-chart.png").exists());
}

#[test]
fn reel_files_are_converted_and_their_schema_is_printed() {
    let folder = tempfile::tempdir().unwrap();
    let bram = reel("bram");
    let convert = |from: &str, to: &str| run_in(folder.path(), &["convert", from, "--to", to]);
    // In another folder its paths would lead elsewhere.
    let moved = convert(&bram, "bram.reel.json");
    assert!(text(&moved.stderr).contains("another folder"), "{}", text(&moved.stderr));
    fs::copy(&bram, folder.path().join("bram.reel.toml")).unwrap();
    assert!(convert("bram.reel.toml", "bram.reel.json").status.success());
    fs::remove_file(folder.path().join("bram.reel.toml")).unwrap();
    assert!(convert("bram.reel.json", "bram.reel.toml").status.success());
    let refused = convert("bram.reel.toml", "bram.reel.json");
    assert!(text(&refused.stderr).contains("add --force"), "{}", text(&refused.stderr));
    for name in ["bram", "bram-dusk", "bram-air", "bram-air-dusk"] {
        fs::copy(format!("{GREENHOUSE}/{name}.png"), folder.path().join(format!("{name}.png")))
            .unwrap();
    }
    let clips = |path: &str| text(&run_in(folder.path(), &["clips", path]).stdout);
    let listed = clips(&bram);
    assert_eq!([clips("bram.reel.json"), clips("bram.reel.toml")], [listed.clone(), listed]);
    let schema: Value = serde_json::from_str(&printed(&["schema"])).unwrap();
    assert_eq!(schema["properties"]["reel"]["const"], 1);
}

#[test]
fn sheets_are_measured_drawn_and_drafted() {
    let folder = tempfile::tempdir().unwrap();
    fs::copy(format!("{GREENHOUSE}/bram.png"), folder.path().join("bram.png")).unwrap();
    let measure = |more: &[&str]| run_in(folder.path(), &[&["measure", "bram.png"], more].concat());
    let reported = text(&measure(&[]).stdout);
    assert!(reported.contains("cells of 32 x 32: 8 columns, 4 rows ("), "{reported}");
    assert!(reported.contains("filled cells by row: 7, 7, 7, 7"), "{reported}");
    let json: Value = serde_json::from_str(&text(&measure(&["--format", "json"]).stdout)).unwrap();
    assert_eq!((&json["width"], &json["height"]), (&256.into(), &128.into()));
    let best = &json["guesses"][0];
    assert_eq!(
        (&best["cell"], &best["columns"], &best["rows"]),
        (&serde_json::json!([32, 32]), &8.into(), &4.into())
    );

    let made = measure(&["--cell", "16x32", "--to", "cells.png", "--draft", "bram.reel.toml"]);
    assert!(made.status.success(), "{}", text(&made.stderr));
    let ruled = fs::read(folder.path().join("cells.png")).unwrap();
    assert!(lucky_reel::assets::Pixels::from_png(&ruled).unwrap().size()[0] > 1_000);
    let checked = run_in(folder.path(), &["check", "bram.reel.toml"]);
    assert!(
        checked.status.success(),
        "a wrong size is warned of, and loads: {}",
        text(&checked.stdout)
    );
    assert!(text(&checked.stdout).contains("cuts through a figure"), "{}", text(&checked.stdout));
    for (more, status, words) in [
        (&["--cell", "300x32"][..], 1, "not a whole number of cells"),
        (&["--columns", "3000"], 1, "leave one of --cell"),
        (&["--guess", "9"], 1, "a number from 1 to 5"),
        (&["--gap", "two"], 2, "2x4"),
        (&["--to", "cells.png"], 1, "--force"),
        (&["--draft", "elsewhere/bram.reel.toml"], 1, "the image's folder"),
        (&["--cell", "big"], 2, "32x32"),
    ] {
        let output = measure(more);
        assert_eq!(output.status.code(), Some(status), "{}", text(&output.stderr));
        assert!(text(&output.stderr).contains(words), "{}", text(&output.stderr));
    }
    // What is left over, and where the grid begins, is drafted so that it loads.
    let rest = ["--cell", "30x32", "--gap", "0", "--draft", "rest.reel.toml"];
    let reported = text(&measure(&rest).stdout);
    assert!(reported.contains("16 pixels left over on the right"), "{reported}");
    let later = ["--start", "32x32", "--guess", "2", "--draft", "later.reel.toml"];
    assert!(text(&measure(&later).stdout).contains("start 32"));
    for draft in ["rest.reel.toml", "later.reel.toml"] {
        let listed = run_in(folder.path(), &["clips", draft]);
        assert!(listed.status.success(), "{}", text(&listed.stderr));
    }
    // The sheet is named after its image, and a background color is left out of the frames.
    let mut key = lucky_reel::assets::Pixels::new([128, 32]).unwrap();
    key.rgba_mut().chunks_mut(4).for_each(|pixel| pixel.copy_from_slice(&[255, 0, 255, 255]));
    for nth in 0..1_536 {
        let at = [nth / 384 * 32 + 8 + nth % 16, 6 + nth % 384 / 16];
        key.set_pixel(at, [nth as u8, 60, 90, 255]);
    }
    fs::write(folder.path().join("Night Key.png"), key.to_png()).unwrap();
    let drafted = ["measure", "Night Key.png", "--draft", "key.reel.toml"];
    assert!(run_in(folder.path(), &drafted).status.success());
    let art = lucky_reel::assets::load(folder.path().join("key.reel.toml")).unwrap();
    assert!(art.reel.id::<SheetId>("night-key").is_ok());
    assert_eq!([art.images[0].pixel([0, 0])[3], art.images[0].pixel([9, 9])[3]], [0, 255]);
    // An animated image is drafted as what it is.
    let moving = concat!(env!("CARGO_MANIFEST_DIR"), "/../../fuzz/seeds/images/moving.gif");
    fs::copy(moving, folder.path().join("spark.gif")).unwrap();
    let drafted = ["measure", "spark.gif", "--draft", "spark.reel.toml"];
    let reported = text(&run_in(folder.path(), &drafted).stdout);
    assert!(reported.starts_with("animated 3 frames of 9 x 7 pixels, 240 ms, played forever"));
    let art = lucky_reel::assets::load(folder.path().join("spark.reel.toml")).unwrap();
    let spark = art.reel.clip(art.reel.id::<ClipId>("spark").unwrap()).unwrap();
    assert_eq!(spark.total, lucky_reel::Ticks::from_millis(240));
    let grid = run_in(folder.path(), &["measure", "spark.gif", "--cell", "3x7"]);
    assert!(text(&grid.stderr).contains("has no grid"), "{}", text(&grid.stderr));

    let missing = run_in(folder.path(), &["measure", "none.png"]);
    assert!(missing.status.code() == Some(1) && text(&missing.stderr).contains("check the path"));
}

/// What is warned of is seen in pictures, which are not written over unasked.
#[test]
fn warnings_have_pictures() {
    let folder = tempfile::tempdir().unwrap();
    fs::copy(format!("{GREENHOUSE}/bram.png"), folder.path().join("bram.png")).unwrap();
    let text_of = "reel = 1\n[sheets.s]\nimage = \"bram.png\"\ngrid = { cell = [32, 30], count = 32 }\n\
                   [clips.c]\nrow = 1\ntake = \"0 to 3\"\neach = \"17ms\"\n";
    fs::write(folder.path().join("c.reel.toml"), text_of).unwrap();
    let check = |more: &[&str]| {
        run_in(folder.path(), &[&["check", "c.reel.toml", "--to", "seen"], more].concat())
    };
    let reported = text(&check(&[]).stdout);
    for name in ["01-sheets-s", "02-clips-c-take", "03-clips-c-each"] {
        assert!(reported.contains(&format!("picture: seen/{name}.png")), "{reported}");
        let bytes = fs::read(folder.path().join(format!("seen/{name}.png"))).unwrap();
        assert!(lucky_reel::assets::Pixels::from_png(&bytes).unwrap().size()[0] > 400);
    }
    let refused = check(&[]);
    assert!(text(&refused.stderr).contains("--force") && refused.status.code() == Some(1));
    let json: Value =
        serde_json::from_str(&text(&check(&["--force", "--format", "json"]).stdout)).unwrap();
    assert_eq!(json[0]["picture"], "seen/01-sheets-s.png");
}

#[test]
fn what_is_rendered_is_packed_again() {
    let folder = tempfile::tempdir().unwrap();
    let run = |arguments: &[&str]| {
        let output = run_in(folder.path(), arguments);
        assert!(output.status.success(), "{}", text(&output.stderr));
        text(&output.stdout)
    };
    run(&["render", &reel("tiles"), "glow", "--to", "lamp.png"]);
    run(&["pack", "lamp.png", "--to", "lit", "--extrude", "1", "--power-of-two"]);
    let clips: Value =
        serde_json::from_str(&run(&["clips", "lit.reel.toml", "--format", "json"])).unwrap();
    // There and back: eight holds of five pictures.
    let frames: Vec<_> =
        clips[0]["holds"].as_array().unwrap().iter().map(|hold| &hold["frame"]).collect();
    assert_eq!(serde_json::json!(frames), serde_json::json!([0, 1, 2, 3, 4, 3, 2, 1]));
    assert_eq!(
        (&clips[0]["total_ticks"], &clips[0]["repeat"]),
        (&(1_380 * 72_072).into(), &Value::Null)
    );
    let sheet =
        lucky_reel::assets::Pixels::from_png(&fs::read(folder.path().join("lit.png")).unwrap());
    assert!(sheet.unwrap().size().iter().all(|side| side.is_power_of_two()));

    // The same pictures come out again.
    run(&["render", "lit.reel.toml", "lit", "--to", "again.png"]);
    let image = |name: &str| {
        let bytes = fs::read(folder.path().join(name)).unwrap();
        lucky_reel::assets::animated::AnimatedImage::from_bytes(&bytes).unwrap().frames
    };
    assert!(image("lamp.png") == image("again.png"));

    // Reel files on one image say the same.
    let demo = ["bram", "moth", "net", "tiles"].map(reel);
    let demo: Vec<&str> = demo.iter().map(String::as_str).collect();
    run(&[&["pack", "--to", "packed/night"], &demo[..]].concat());
    let packed = ["bram", "moth", "net", "tiles"].map(|role| format!("packed/{role}.reel.toml"));
    let packed: Vec<&str> = packed.iter().map(String::as_str).collect();
    let clips = |files: &[&str]| run(&[&["clips", "--format", "json"], files].concat());
    assert_eq!(clips(&packed), clips(&demo));
    run(&[&["check", "--strict"], &packed[..]].concat());
    for (arguments, words) in [
        (&["pack", "lamp.png", "--to", "lit"][..], "--force"),
        (&["pack", "lamp.png", "lit.reel.toml", "--to", "x"], "one after the other"),
        (
            &["pack", "lit.reel.toml", "--to", "lit", "--force"],
            "has read this file, and never writes over it",
        ),
        (
            &["pack", "lit.reel.toml", "--to", "p/lit", "--size", "3"],
            "does not fit onto 3 x 3 pixels",
        ),
        (&["pack", "none.png", "--to", "x"], "check the path"),
        (&["pack", "lamp.png", "--to", "9"], "not a valid sheet name"),
        (&["pack", "lamp.png", "--to", "all"], "not a valid sheet name"),
    ] {
        let refused = run_in(folder.path(), arguments);
        assert_eq!(refused.status.code(), Some(1));
        assert!(text(&refused.stderr).contains(words), "{}", text(&refused.stderr));
    }
}

/// Near misses, each with what to do about it.
#[test]
fn messages_lead_to_what_was_meant() {
    let bram = reel("bram");
    for (arguments, words) in [
        (
            &["trace", &bram, "walk"][..],
            "`walk` is a facing set, not a clip: name one of its clips",
        ),
        (&["render", &bram, "walk", "--to", "x.gif"], "`walk-down`, `walk-up`"),
        (&["trace", &bram, "id"], "`idle-down`"),
        (&["explain", &bram, "--facts", "moving=yes"], "write moving=true or moving=false"),
        (&["explain", &bram, "--facts", "pace=fast"], "write a number, such as pace=0.5"),
        (&["explain", &bram, "--facts", "foot=lft"], "did you mean `left`?"),
        (&["chart", &bram, "--display", "60"], "name one: chart REEL CLIP --display 60"),
        (&["chart", &bram, "walk-up", "--against", "walk-lft"], "did you mean `walk-left`?"),
        (&["chart", &bram, "--against", "walk-up"], "name two clips"),
        (&["chart", &bram, "--to", "x.gif"], "end it in .png or .svg"),
    ] {
        let reported = text(&run(arguments).stderr);
        assert!(reported.contains(words), "{arguments:?}: {reported}");
    }
    let folder = tempfile::tempdir().unwrap();
    fs::copy(format!("{GREENHOUSE}/bram.png"), folder.path().join("knight.png")).unwrap();
    let check = |text_of_sheet: &str, text_of_clip: &str| {
        let reel = format!("reel = 1\n[sheets.k]\n{text_of_sheet}\n[clips.c]\n{text_of_clip}\n");
        fs::write(folder.path().join("k.reel.toml"), reel).unwrap();
        let checked = run_in(folder.path(), &["check", "k.reel.toml"]);
        text(&checked.stdout) + &text(&checked.stderr)
    };
    let sheet = "image = \"knight.png\"\ngrid = { cell = [32, 32] }";
    for (sheet, clip, words) in [
        ("image = \"knigth.png\"", "frames = 0", "did you mean `knight.png`"),
        (sheet, "row = 0\nframe_rate = 8", "use `fps`, such as fps = 8"),
        (sheet, "row = 0\nduration = \"1s\"", "use `each`"),
        (sheet, "row = 0\nspeed = 8", "use `fps`"),
        (sheet, "row = 0\nfps = 8\nloop = true", "use `mode`, such as mode = \"loop\""),
        (sheet, "row = 0\nfps = 8\npingpong = true", "mode = \"ping-pong\""),
        (
            "image = \"knight.png\"\ngrid = { cell = [31, 31], gap = [2, 2] }",
            "row = 0",
            "for this cell size, use margin",
        ),
    ] {
        let reported = check(sheet, clip);
        assert!(reported.contains(words), "{words}: {reported}");
        assert!(reported.chars().all(|c| c == '\n' || !c.is_control()), "{reported:?}");
    }
    let help = text(&run(&["explain", "--help"]).stdout);
    assert!(!help.contains('\\'), "{help}");
}

#[test]
fn files_are_checked_together_and_strictly() {
    let sound = run(&["check", &reel("bram"), &reel("tiles"), &reel("puff"), "--strict"]);
    assert!(sound.status.success() && sound.stdout.is_empty(), "{}", text(&sound.stdout));
    assert_eq!(text(&sound.stderr), "checked: no errors, no warnings\n");

    let folder = tempfile::tempdir().unwrap();
    for name in ["puff.png", "puff.reel.toml"] {
        fs::copy(format!("{GREENHOUSE}/{name}"), folder.path().join(name)).unwrap();
    }
    let file = folder.path().join("puff.reel.toml");
    let original = fs::read_to_string(&file).unwrap();
    fs::write(&file, original.replace("\"90ms\"", "\"1/17s\"")).unwrap();
    let warned = run_in(folder.path(), &["check", "puff.reel.toml"]);
    assert!(warned.status.success() && text(&warned.stdout).contains("warning: no common display"));
    let strict =
        run_in(folder.path(), &["check", "puff.reel.toml", "--strict", "--format", "json"]);
    assert_eq!(strict.status.code(), Some(1));
    let reported: Value = serde_json::from_str(&text(&strict.stdout)).unwrap();
    assert_eq!((&reported[0]["severity"], &reported[0]["line"]), (&"warning".into(), &11.into()));

    fs::write(&file, original.replace("once", "ones").replace("0 for 40ms", "9 for 40ms")).unwrap();
    let wrong = run_in(folder.path(), &["check", "puff.reel.toml"]);
    assert_eq!((wrong.status.code(), text(&wrong.stdout).matches("fix: ").count()), (Some(1), 2));
    assert_eq!(text(&wrong.stderr), "lucky-reel: 2 errors, no warnings\n");
}

#[test]
fn clips_are_rendered_by_the_name_of_their_file() {
    let folder = tempfile::tempdir().unwrap();
    let render = |name: &str, clip: &str, more: &[&str]| {
        let reel = reel(name);
        run_in(folder.path(), &[&["render", &reel, clip, "--to"], more].concat())
    };
    let reported = text(&render("tiles", "fan", &["fan.gif"]).stderr);
    assert!(
        reported.contains("4 pictures in 250 ms") && reported.contains("their total is right"),
        "{reported}"
    );
    assert!(render("bram", "walk-up", &["walk.png", "--scale", "3"]).status.success());
    let starts = |name: &str| fs::read(folder.path().join(name)).unwrap()[..6].to_vec();
    assert_eq!(
        (starts("fan.gif"), starts("walk.png")),
        (b"GIF89a".to_vec(), b"\x89PNG\r\n".to_vec())
    );
    // A look has other pixels in as large a picture.
    let bare = ["--scale", "3", "--force"];
    assert!(
        render("bram", "walk-up", &[&["dusk.png", "--look", "dusk"], &bare[..]].concat())
            .status
            .success()
    );
    let pictures = ["walk.png", "dusk.png"].map(|name| fs::read(folder.path().join(name)).unwrap());
    let [plain, dusk] = pictures.map(|bytes| Pixels::from_png(&bytes).unwrap());
    assert!(plain.size() == dusk.size() && plain.rgba() != dusk.rgba());
    let unknown = text(&render("bram", "walk-up", &["w.png", "--look", "dawn"]).stderr);
    assert!(unknown.contains("there is no look `dawn`"), "{unknown}");

    assert!(render("puff", "puff", &["puff/"]).status.success());
    let mut series: Vec<_> = fs::read_dir(folder.path().join("puff"))
        .unwrap()
        .map(|entry| entry.unwrap().file_name())
        .collect();
    series.sort();
    assert_eq!((series.len(), series[7].to_str()), (8, Some("0007.png")));

    fs::remove_file(folder.path().join("puff/0000.png")).unwrap();
    for (more, words) in [
        (&["fan.gif"][..], "--force"),
        (&["puff/"], "0001.png: file already exists"),
        (&["x.webp"], "FILE.gif, FILE.png or FOLDER/"),
        (&["y.png", "--speed", "0"], "speed other than 0"),
    ] {
        let refused = render("puff", "puff", more);
        assert_eq!(refused.status.code(), Some(1));
        assert!(text(&refused.stderr).contains(words), "{}", text(&refused.stderr));
    }
    assert!(!folder.path().join("puff/0000.png").exists(), "all of a series or nothing");
    assert_eq!(render("puff", "puff", &["z.gif", "--background", "red"]).status.code(), Some(2));
}

/// An archive has what its reel files name, plays the same, and is never written over by what was read from it.
#[test]
fn an_archive_has_the_same_clips_and_the_same_bytes_each_time() {
    let folder = tempfile::tempdir().unwrap();
    let run = |arguments: &[&str]| run_in(folder.path(), arguments);
    let [bram, moth, puff] = ["bram", "moth", "puff"].map(reel);
    let archived = run(&["archive", &bram, &moth, &puff, "--to", "night.zip"]);
    assert!(text(&archived.stderr).starts_with("written: night.zip, 9 files in"), "{archived:?}");
    assert!(run(&["archive", &puff, &moth, &bram, "--to", "again.zip"]).status.success());
    let bytes = |name: &str| fs::read(folder.path().join(name)).unwrap();
    assert_eq!(bytes("night.zip"), bytes("again.zip"));
    let clips = |files: &[&str]| {
        let listed = text(&run(&[&["clips"], files].concat()).stdout);
        let mut lines: Vec<String> = listed.lines().map(str::to_owned).collect();
        lines.sort();
        lines
    };
    assert_eq!(clips(&["night.zip"]), clips(&[&bram, &moth, &puff]));
    let strip = run(&["render", "night.zip", "puff", "--to", "puff.png"]);
    assert!(strip.status.success(), "{}", text(&strip.stderr));
    #[cfg(unix)]
    {
        let [link, zip] = ["link.png", "night.zip"].map(|name| folder.path().join(name));
        std::os::unix::fs::symlink(zip, link).unwrap();
        let refused = run(&["render", "night.zip", "puff", "--to", "link.png", "--force"]);
        let refused = text(&refused.stderr);
        assert!(refused.contains("never writes over it"), "{refused}");
    }
    fs::write(folder.path().join("cut.zip"), &bytes("night.zip")[..12_000]).unwrap();
    let cut = text(&run(&["clips", "cut.zip"]).stderr);
    assert!(cut.contains("cut.zip: ") && cut.contains("cut short in or after `bram-air"), "{cut}");
    assert!(text(&run(&["check", "nowhere.zip"]).stderr).contains("nowhere.zip: "));
}

#[test]
fn the_demo_tells_what_happened_and_writes_what_it_says() {
    let folder = tempfile::tempdir().unwrap();
    let output = run_in(folder.path(), &["demo"]);
    let reported = text(&output.stdout);
    assert!(output.status.success(), "{}", text(&output.stderr));
    let line =
        |word: &str| reported.lines().find(|line| line.starts_with(word)).unwrap().to_owned();
    // Two steps in 22 pixels of walking, and in 30 of hurrying; none in the air.
    assert!(line("steps").contains("24 heard"), "{reported}");
    assert_eq!(line("puffs"), "puffs    24 shown, 24 gone");
    assert!(line("cycles").contains("fan 48"), "{reported}");
    let path = |word: &str| -> PathBuf {
        folder.path().join(line(word).split_whitespace().nth(1).unwrap())
    };
    let still = lucky_reel::assets::Pixels::from_png(&fs::read(path("still")).unwrap()).unwrap();
    assert_eq!(still.size(), [1280, 800]);
    let moving = fs::read(path("moving")).unwrap();
    let chunks = |name: &[u8]| moving.windows(4).filter(|bytes| *bytes == name).count();
    assert_eq!((chunks(b"acTL"), chunks(b"IEND")), (1, 1));
    assert!(chunks(b"fcTL") >= 200);

    // Again: a folder of its own, or a refusal where one is named.
    let again = text(&run_in(folder.path(), &["demo"]).stdout);
    assert!(again.contains("greenhouse-night-2"), "{again}");
    let refused = run_in(folder.path(), &["demo", "--to", "greenhouse-night"]);
    assert_eq!(refused.status.code(), Some(1));
    assert!(run_in(folder.path(), &["demo", "--terminal"]).status.code() == Some(1));
}

#[test]
fn failures_and_wrong_usage_differ_in_their_status() {
    let folder = tempfile::tempdir().unwrap();
    let updates = folder.path().join("updates.txt");
    fs::write(&updates, "16ms\n\n  1/60s\n16\n").unwrap();
    let (puff, bram, moth) = (reel("puff"), reel("bram"), reel("moth"));
    let updates = updates.to_str().unwrap();
    let folder_path = folder.path().to_str().unwrap();
    let cases: &[(&[&str], i32, &str)] = &[
        (&["clips", "none.reel.toml"], 1, "no such file"),
        (&["clips", folder_path], 1, "a folder"),
        (&["trace", &puff, "pufff"], 1, "did you mean `puff`"),
        (
            &["trace", &puff, "puff", "--updates", updates],
            1,
            "updates.txt:4: `16` is not a duration",
        ),
        (&["trace", &puff, "puff", "--updates", "none.txt"], 1, "check the path"),
        (&["chart", &puff, "puff", "--to", "no/folder/x.png"], 1, "folder does not exist"),
        (&["trace", &puff, "puff", "--speed", "nan"], 2, "out of range"),
        (&["trace", &puff, "puff", "--speed", "1/0"], 2, "out of range"),
        (&["trace", &puff, "puff", "--speed", "99999"], 2, "32767"),
        (&["trace", &puff, "puff", "--every", "0ms"], 2, "one tick at least"),
        (&["trace", &puff, "puff", "--every", "16"], 2, "needs its unit"),
        (&["trace", &puff, "puff", "--every", "1s", "--updates", "-"], 2, "cannot be used with"),
        (&["clips", &puff, "--format", "xml"], 2, "possible values"),
        (&["explain", &puff], 1, "no role of this reel has cues"),
        (&["explain", &bram, "--facts", "movin=true"], 1, "did you mean `moving`?"),
        (&["explain", &bram, "--facing", "north"], 2, "down-right"),
        (&["explain", &bram, "--role", "brm"], 1, "did you mean `bram`?"),
        (&["explain", &bram, "--script", updates], 1, "the line does not say when"),
        (&["explain", &bram, &moth], 1, "add --role with one of bram, moth"),
        (&["chart", &bram, "--page", "x.html", "--to", "x.png"], 2, "cannot be used with"),
        (&["chart", &bram, "walk-up", "--against", "none.reel.toml"], 1, "no such file"),
        (&["chart", &bram, "walk-up", "--display", "0"], 2, "not in 1..=1000"),
        (&["chart", &bram, "--page", "no/folder/x.html"], 1, "folder does not exist"),
        (&["watch", &bram, "--step", "0ms"], 2, "one tick at least"),
        (&["watch", "bram"], 1, "no reel file is named"),
        (&["watch", &bram, "walk-up", "walk-down"], 1, "is a second clip"),
        (&["watch", "none.reel.toml"], 1, "no such file"),
        (&["convert", "none.json", "--to", "x.toml"], 1, "check the path"),
        (&["chart", &bram, "walk-up", "--max-pixels", "9"], 1, "raise the limit"),
        (&["measure", &bram, "--max-bytes", "9"], 1, "larger than 9 bytes"),
        (&["dmeo"], 2, "demo"),
        (&[], 2, "Usage"),
    ];
    for (arguments, status, words) in cases {
        let output = run(arguments);
        let reported = text(&output.stderr);
        assert_eq!(output.status.code(), Some(*status), "{arguments:?}: {reported}");
        assert!(reported.contains(words), "{arguments:?}: {reported}");
        assert!(!reported.contains("panicked"), "{reported}");
        // Of a list of updates, those before the mistake have been played.
        assert!(output.stdout.is_empty() || reported.contains("updates.txt:4"), "{reported}");
    }
    let commands = [
        "demo", "clips", "trace", "explain", "chart", "render", "check", "measure", "pack",
        "convert", "watch",
    ];
    for command in commands {
        assert!(printed(&[command, "--help"]).contains("Example"), "{command}");
    }
}
