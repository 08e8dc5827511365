//! Mistakes in reel files, as people make them: each is reported with its place and its fix, and
//! nothing panics.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use std::io;
use std::path::Path;

use lucky_reel_assets::{LoadError, Loader, Pixels, ProblemSource, load, load_bytes};
use proptest::prelude::*;

const SOUND: &str = r#"reel = 1

[sheets.bram]
image = "bram.png"
grid  = { cell = [32, 32] }
pivot = [16, 30]

[clips.walk]
rows  = { down = 0, up = 1 }
take  = "0 to 3"
fps   = 8
marks = { step = [1, 3] }

[clips.blink]
frames = [4, "5 for 80ms", "4 to 2"]
each   = "120ms"
mode   = "once"
end    = { play = "walk-down" }
"#;

/// Pictures of 256 x 64 pixels: 8 columns, 2 rows; the last two cells of row 1 are empty.
fn read(path: &str) -> io::Result<Vec<u8>> {
    match path {
        "bram.png" => {
            let mut picture = Pixels::new([256, 64]).unwrap();
            for cell in 0..14 {
                let (column, row) = (cell % 8, cell / 8);
                picture.set_pixel([column * 32 + 16, row * 32 + 16], [9, 9, 9, 255]);
            }
            Ok(picture.to_png())
        }
        "broken.png" => read("bram.png").map(|mut bytes| {
            bytes.truncate(60);
            bytes
        }),
        "text.png" => Ok(b"this is not a picture".to_vec()),
        "photo.png" => Ok(vec![0xff, 0xd8, 0xff, 0xe0]),
        "empty.png" => Ok(Vec::new()),
        _ => Err(io::ErrorKind::NotFound.into()),
    }
}

fn load_text(text: &str) -> Result<lucky_reel_assets::Art, LoadError> {
    load_bytes("bram.reel.toml", text.as_bytes(), read)
}

/// What is put in place of what, and what the report must say: line and column, key, words.
type Case<'c> = (&'c str, &'c str, (usize, usize), &'c str, &'c [&'c str]);

#[test]
fn each_mistake_is_reported_with_place_and_fix() {
    let image = "image = \"bram.png\"";
    let cases: &[Case<'_>] = &[
        (
            "fps   = 8",
            "fsp   = 8",
            (11, 1),
            "clips.walk.fsp",
            &["no key `fsp`", "did you mean `fps`"],
        ),
        ("fps   = 8", "fps   = 0", (11, 9), "clips.walk.fps", &["0 frames a second", "above 0"]),
        ("fps   = 8", "fps   = nan", (11, 9), "clips.walk.fps", &["nan frames", "12 or 23.976"]),
        ("fps   = 8", "fps   = -8", (11, 9), "clips.walk.fps", &["-8 frames", "above 0"]),
        (
            "fps   = 8",
            "fps   = \"8\"",
            (11, 9),
            "clips.walk.fps",
            &["unexpected a text", "frames a second"],
        ),
        ("fps   = 8", "each  = 120", (11, 9), "clips.walk.each", &["unexpected 120", "\"120ms\""]),
        ("fps   = 8", "each  = \"0ms\"", (11, 9), "clips.walk.each", &["no length", "above 0"]),
        (
            "fps   = 8",
            "each  = \"12\"",
            (11, 9),
            "clips.walk.each",
            &["not a duration", "needs its unit"],
        ),
        (
            "fps   = 8",
            "fps = 8\ntotal = \"1s\"",
            (12, 1),
            "clips.walk.total",
            &["both `fps` and `total`", "keep one"],
        ),
        ("fps   = 8", "", (8, 8), "clips.walk", &["how long its frames stay up", "`fps`"]),
        (
            "fps   = 8",
            "each = [\"1ms\", \"2ms\", \"3ms\", \"4ms\", \"5ms\"]",
            (11, 8),
            "clips.walk.each",
            &["5 times for 4 frames"],
        ),
        (
            "[4, \"5 for 80ms\", \"4 to 2\"]",
            "[4, 16]",
            (15, 14),
            "clips.blink.frames",
            &["no frame 16", "0 to 15"],
        ),
        (
            "[4, \"5 for 80ms\", \"4 to 2\"]",
            "[4, \"5 for 80\"]",
            (15, 14),
            "clips.blink.frames",
            &["`80` is not a duration"],
        ),
        (
            "[4, \"5 for 80ms\", \"4 to 2\"]",
            "[4, \"5 fro 80ms\"]",
            (15, 14),
            "clips.blink.frames",
            &["names no frames", "5 for 80ms"],
        ),
        ("[4, \"5 for 80ms\", \"4 to 2\"]", "[]", (15, 10), "clips.blink.frames", &["no frames"]),
        (
            "frames = [4, \"5 for 80ms\", \"4 to 2\"]",
            "row = 2",
            (15, 7),
            "clips.blink.row",
            &["no row 2", "0 to 1"],
        ),
        (
            "frames = [4, \"5 for 80ms\", \"4 to 2\"]",
            "row = -1",
            (15, 7),
            "clips.blink.row",
            &["whole number"],
        ),
        (
            "take  = \"0 to 3\"",
            "take  = \"0 to 8\"",
            (10, 9),
            "clips.walk.take",
            &["no column 8", "0 to 7"],
        ),
        (
            "{ down = 0, up = 1 }",
            "{ down = 0, up = 7 }",
            (9, 26),
            "clips.walk.rows.up",
            &["no row 7"],
        ),
        (
            "step = [1, 3]",
            "step = [1, 4]",
            (12, 22),
            "clips.walk.marks.step",
            &["no hold 4", "0 to 3"],
        ),
        (
            "\"once\"",
            "\"ones\"",
            (17, 10),
            "clips.blink.mode",
            &["no such mode", "did you mean `once`"],
        ),
        ("\"once\"", "\"loop\"", (18, 10), "clips.blink.end", &["endless", "`once`"]),
        (
            "\"walk-down\"",
            "\"walk-donw\"",
            (18, 19),
            "clips.blink.end.play",
            &["no clip `walk-donw`", "`walk-down`"],
        ),
        (
            "{ play = \"walk-down\" }",
            "\"gone\"",
            (18, 10),
            "clips.blink.end",
            &["no such end", "vanish"],
        ),
        ("[clips.blink]", "[clips.all]", (14, 8), "clips.all", &["reserved"]),
        (
            "cell = [32, 32]",
            "cell = [30, 32]",
            (5, 18),
            "sheets.bram.grid.cell",
            &["256 px wide", "widths that fit"],
        ),
        ("cell = [32, 32]", "cell = [0, 32]", (5, 18), "sheets.bram.grid.cell", &["0 pixels"]),
        (
            "cell = [32, 32]",
            "cell = 32",
            (5, 18),
            "sheets.bram.grid.cell",
            &["expected a pair", "[32, 32]"],
        ),
        (
            "cell = [32, 32]",
            "cell = [99999999999, 32]",
            (5, 18),
            "sheets.bram.grid.cell",
            &["expected a pair"],
        ),
        (
            "pivot = [16, 30]",
            "pivot = \"botom\"",
            (6, 9),
            "sheets.bram.pivot",
            &["did you mean `bottom`"],
        ),
        ("pivot = [16, 30]", "pivot = [16.3, 30]", (6, 9), "sheets.bram.pivot", &["half pixels"]),
        ("pivot = [16, 30]", "pivot = [nan, 30]", (6, 9), "sheets.bram.pivot", &["unknown pivot"]),
        (
            image,
            "image = \"brom.png\"",
            (4, 9),
            "sheets.bram.image",
            &["no such file", "check the path"],
        ),
        (image, "image = \"../bram.png\"", (4, 9), "sheets.bram.image", &["leaves", "folder"]),
        (image, "image = \"/etc/bram.png\"", (4, 9), "sheets.bram.image", &["not relative"]),
        (image, "image = \"broken.png\"", (4, 9), "sheets.bram.image", &["cut short", "again"]),
        (image, "image = \"text.png\"", (4, 9), "sheets.bram.image", &["not a PNG"]),
        (image, "image = \"photo.png\"", (4, 9), "sheets.bram.image", &["JPEG"]),
        (image, "image = \"empty.png\"", (4, 9), "sheets.bram.image", &["empty"]),
        (image, "", (3, 1), "sheets.bram.image", &["no image"]),
        ("reel = 1", "reel = 2", (1, 8), "reel", &["version", "`reel = 1`"]),
        ("reel = 1", "", (1, 1), "reel", &["not said", "first line"]),
        ("reel = 1", "reel = one", (1, 8), "", &["invalid TOML"]),
        ("[clips.walk]", "[clips.walk", (8, 12), "", &["invalid TOML"]),
        (
            "[clips.blink]",
            "[clips.blink]\nlike = \"wakl\"",
            (15, 8),
            "clips.blink.like",
            &["did you mean `walk`"],
        ),
        (
            "[clips.blink]",
            "[clips.blink]\nsheet = \"bran\"",
            (15, 9),
            "clips.blink.sheet",
            &["did you mean `bram`"],
        ),
    ];
    assert!(load_text(SOUND).is_ok());
    let mut wrong = Vec::new();
    for (from, to, (line, column), key, words) in cases {
        assert!(SOUND.contains(from), "{from}");
        let error = load_text(&SOUND.replacen(from, to, 1)).expect_err(to);
        let problem = &error.problems()[0];
        let reported = error.to_string();
        let place = (problem.line(), problem.column()) == (Some(*line), Some(*column));
        let worded = words.iter().all(|word| reported.contains(word)) && reported.contains('^');
        let once = error.problems().len() == 1 && !problem.fix().is_empty();
        if !(place && worded && once && problem.key() == *key) {
            wrong.push(format!("{to}: wanted {line}:{column} {key} {words:?}\n{reported}\n"));
        }
    }
    assert!(wrong.is_empty(), "{}", wrong.join("\n"));
}

/// One mistake hides no other, and what follows from one is not reported.
#[test]
fn no_problem_hides_another() {
    let text = r#"reel = 1
[sheet.bram]
image = "bram.png"
grid = { cell = [32, 32] }
[clip.walk]
frames = "0 to 3"
fsp = 0
rest = 4
[clips.walk.spans]
stride = "0 to 1"
[clips.blink]
frames = [4, 99]
end = { play = "wakl" }
[clips.blink]
frames = 4
mode = "onec"
end = { play = "walk" }
repeat = 0
repeat = 2
[facts]
moving = maybe
lift = 0.0
[[cues]]
name = "idle"
play = "walk"
when = { moving = true, lift = "> x" }
[[cues]]
name = "idle"
play = "wlk"
start_at = [{ from = ["idle", "falling"], hold = 1 }]
[[cues]]
play = { facings = "turn" }
when = { left = true }
[[cues]]
name = "last"
play = "blink"
when = { moving = true }
[phases.legs]
clips = ["walk", "fly-*"]
"#
    .replace("maybe", "[true]");
    let error = load_text(&text).unwrap_err();
    let reported: Vec<String> = error
        .problems()
        .iter()
        .map(|p| format!("{} {} {}: {}", p.line().unwrap(), p.key(), p.message(), p.fix()))
        .collect();
    let expected = [
        "2 sheet there is no key `sheet` here: did you mean `sheets`?",
        "5 clip there is no key `clip` here: did you mean `clips`?",
        "7 clips.walk.fsp there is no key `fsp` here: did you mean `fps`?",
        "7 clips.walk.fps 0 frames a second",
        "8 clips.walk.rest there is no hold 4: the holds are 0 to 3",
        "12 clips.blink.frames there is no frame 99",
        "13 clips.blink.end an endless clip never comes to its end",
        "13 clips.blink.end.play there is no clip `wakl`: did you mean `walk`?",
        "14 clips.blink there are two clips `blink`, the first at line 11",
        "14 clips.blink the clip does not say how long its frames stay up",
        "16 clips.blink.mode there is no such mode: did you mean `once`?",
        "18 clips.blink.repeat a clip that plays `once` does not repeat",
        "19 clips.blink.repeat there are two keys `repeat`, the first at line 18",
        "21 facts.moving unexpected a list",
        "26 cues.idle.when.lift `> x` compares with no number",
        "28 cues.idle there are two cues `idle`, the first at line 24",
        "29 cues.idle.play there is no clip `wlk`: did you mean `walk`?",
        "30 cues.idle.start_at.from there is no cue `falling`",
        "32 cues.name it has no name",
        "39 phases.legs.clips there is no clip `fly-*`",
    ];
    for (nth, expected) in expected.iter().enumerate() {
        assert!(
            reported.get(nth).is_some_and(|reported| reported.starts_with(expected)),
            "{expected}\n{error}"
        );
    }
    assert_eq!(reported.len(), expected.len(), "{error}");
}

#[test]
fn all_mistakes_of_all_files_are_reported_together() {
    let one = SOUND.replace("fps   = 8", "fps = 0").replace("\"once\"", "\"twice\"");
    let other = SOUND.replace("pivot", "pivto");
    let loader = Loader::new()
        .bytes("bram.reel.toml", one.as_bytes(), read)
        .bytes("moth.reel.toml", other.as_bytes(), read)
        .bytes("bram.reel.toml", one.as_bytes(), read);
    let error = loader.load().unwrap_err();
    let reported: Vec<_> =
        error.problems().iter().map(|p| (p.path().to_owned(), p.line())).collect();
    let path = |name: &str| Path::new(name).to_owned();
    let expected = [
        (path("bram.reel.toml"), None),
        (path("bram.reel.toml"), Some(11)),
        (path("bram.reel.toml"), Some(17)),
        (path("moth.reel.toml"), Some(6)),
    ];
    assert_eq!(reported, expected, "{error}");
    assert_eq!(format!("{error:?}"), error.to_string(), "main prints all of it");
}

#[test]
fn files_that_are_none_are_reported_by_who_must_act() {
    let folder = tempfile::tempdir().unwrap();
    let file = |name: &str| folder.path().join(name);
    std::fs::write(file("odd.reel.toml"), [0xff, 0xfe, 0x00]).unwrap();
    std::fs::write(file("9.reel.toml"), SOUND).unwrap();
    std::fs::write(file("bram.reel.toml"), SOUND).unwrap();
    std::fs::create_dir(file("folder.reel.toml")).unwrap();
    let outside = tempfile::tempdir().unwrap();
    std::fs::write(outside.path().join("real.png"), read("bram.png").unwrap()).unwrap();
    let cases = [
        ("none.reel.toml", ProblemSource::Disk, "no such file"),
        ("folder.reel.toml", ProblemSource::Disk, "a folder"),
        ("odd.reel.toml", ProblemSource::ReelFile, "UTF-8"),
        ("9.reel.toml", ProblemSource::ReelFile, "not a valid role name"),
        ("bram.reel.toml", ProblemSource::Disk, "no such file"),
    ];
    for (name, origin, words) in cases {
        let error = load(file(name)).unwrap_err();
        assert_eq!(error.problems()[0].origin(), origin, "{error}");
        assert!(error.to_string().contains(words), "{error}");
    }
    let missing = load(file("none.reel.toml")).unwrap_err();
    assert!(std::error::Error::source(&missing).unwrap().is::<io::Error>());

    #[cfg(unix)]
    {
        std::os::unix::fs::symlink(outside.path().join("real.png"), file("bram.png")).unwrap();
        let error = load(file("bram.reel.toml")).unwrap_err().to_string();
        assert!(error.contains("a link that leaves"), "{error}");
        std::fs::remove_file(file("bram.png")).unwrap();
    }
    std::fs::write(file("bram.png"), read("bram.png").unwrap()).unwrap();
    assert!(load(file("bram.reel.toml")).is_ok());
}

#[test]
fn limits_are_checked_before_memory_is_taken() {
    // A PNG that says it has 60,000 x 60,000 pixels, and nothing more.
    let mut huge = Pixels::new([1, 1]).unwrap().to_png();
    huge[16..24].copy_from_slice(&[0, 0, 0xea, 0x60, 0, 0, 0xea, 0x60]);
    let mut crc = 0xffff_ffff_u32;
    for byte in &huge[12..29] {
        crc ^= u32::from(*byte);
        for _ in 0..8 {
            crc = if crc & 1 == 1 { crc >> 1 ^ 0xedb8_8320 } else { crc >> 1 };
        }
    }
    huge[29..33].copy_from_slice(&(!crc).to_be_bytes());
    let error = load_bytes("bram.reel.toml", SOUND.as_bytes(), |_| Ok(huge.clone())).unwrap_err();
    assert!(error.to_string().contains("60000 x 60000 pixels are more than"), "{error}");
    let deep = format!("reel = 1\nx = {}1{}", "[".repeat(50_000), "]".repeat(50_000));
    assert!(load_text(&deep).is_err());
    // Small files that would list billions of frames, or tell of millions of mistakes.
    let head =
        "reel = 1\n[sheets.s]\nimage = \"bram.png\"\ngrid = { cell = [1, 1], count = 16000 }\n";
    let items = vec!["\"0 to 15999\""; 20_000].join(", ");
    let rows: Vec<String> = (0..30_000).map(|nth| format!("r{nth} = 0")).collect();
    let likes: Vec<String> = (0..20_000)
        .map(|nth| format!("[clips.c{nth}]\nlike = \"c{}\"\nend = {{ play = \"c\" }}", nth + 1))
        .collect();
    let keys: Vec<String> = (0..60_000).map(|nth| format!("wrong{nth} = 0")).collect();
    for body in [
        format!("[clips.c]\nframes = [{items}]\nfps = 1\n"),
        format!("[clips.c]\nframes = 0\nfps = 1\nmarks = {{ m = [{items}] }}\n"),
        format!("[clips.c]\nrows = {{ {} }}\ntake = \"all\"\nfps = 1\n", rows.join(", ")),
        likes.join("\n"),
        format!("[clips.c]\nframes = 0\nfps = 1\n{}", keys.join("\n")),
    ] {
        let problems = load_text(&format!("{head}{body}")).unwrap_err().problems().len();
        assert!((1..=100).contains(&problems), "{problems}");
    }
    let wide = SOUND.replace("[4, \"5 for 80ms\", \"4 to 2\"]", "\"0 to 4294967295\"");
    assert!(load_text(&wide).unwrap_err().to_string().contains("no frame 4294967295"));
}

proptest! {
    /// Whatever is cut out of a sound file, doubled or changed: an answer, never a panic.
    #[test]
    fn no_text_makes_it_panic(cut in 0_usize..400, length in 0_usize..60, put in "[ -~\n]{0,12}") {
        let (start, end) = (cut.min(SOUND.len()), (cut + length).min(SOUND.len()));
        let text = format!("{}{put}{}", &SOUND[..start], &SOUND[end..]);
        if let Err(error) = load_text(&text) {
            prop_assert!(!error.problems().is_empty());
            prop_assert!(error.problems().iter().all(|problem| !problem.fix().is_empty()));
        }
    }
}
