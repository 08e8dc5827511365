//! Mistakes in facings, looks, facts, cues, bridges and phases: each is reported once, with its place and
//! its fix, in TOML and in JSON.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use std::io;

use lucky_reel_assets::{Art, LoadError, Pixels, load_bytes};
use lucky_reel_tools::convert::{Form, convert};

const SOUND: &str = r#"reel = 1

[sheets.bram]
image  = "bram.png"
grid   = { cell = [32, 32] }
points = { lantern = { 0 = [24, 12] } }
areas  = { body = { all = [1, 2, 3, 4], "2 to 5" = [5, 6, 7, 8] } }
[sheets.air]
image = "air.png"
grid  = { cell = [32, 32] }

[defaults]
sheet = "bram"
fps   = 8

[clips.walk]
rows  = { down = 0, right = 1 }
take  = "0 to 3"
marks = { left-foot = { holds = 1, set = { foot = "left" } }, right-foot = 3 }

[clips.land]
frames = [4, 5]
mode   = "once"
pivot  = "bottom"
spans  = { open = "0 to 1" }

[facings.walk]
left  = { mirror = "right", swap = { left-foot = "right-foot" } }
up    = "walk-down"
align = "hold"

[looks.dusk]
sheets = { bram = "dusk.png" }
clips  = { walk-down = "walk-right" }

[facts]
moving = false
hits   = 0
lift   = 0.0
blow   = { pulse = "100ms" }
foot   = { choices = ["none", "left"] }

[[cues]]
name = "rising"
when = [{ lift = "> 0", moving = true }, { foot = ["left", "none"], hits = "2 to 3" }]
play = "land"
finish = true

[[cues]]
name = "second"
when = { blow = true, inside = "open", facing = ["up", "left"] }
play = "land"
start_at = { from = "rising", hold = 1 }

[[cues]]
name = "resting"
play = { facings = "walk" }
keep_facing = true
speed = { fact = "lift" }

[[bridges]]
name = "landing"
from = "rising"
to   = ["resting"]
play = "land"

[phases.legs]
clips = ["walk-*"]
align = "time"
"#;

fn read(path: &str) -> io::Result<Vec<u8>> {
    let size = match path {
        "bram.png" | "air.png" | "dusk.png" => [256, 64],
        "small.png" => [128, 64],
        _ => return Err(io::ErrorKind::NotFound.into()),
    };
    let mut picture = Pixels::new(size).unwrap();
    picture.rgba_mut().fill(200);
    Ok(picture.to_png())
}

fn load_as(form: Form, text: &str) -> Result<Art, LoadError> {
    match form {
        Form::Toml => load_bytes("bram.reel.toml", text.as_bytes(), read),
        Form::Json => {
            let json = convert("bram.reel.toml", text, Form::Json).unwrap();
            load_bytes("bram.reel.json", json.as_bytes(), read)
        }
    }
}

/// What is put in place of what, and what is reported: line, column, key, and words.
type Case<'c> = (&'c str, &'c str, (usize, usize), &'c str, &'c [&'c str]);

const CASES: &[Case<'static>] = &[
    (
        "{ 0 = [24, 12] }",
        "{ 99 = [24, 12] }",
        (6, 29),
        "sheets.bram.points.lantern.99",
        &["no frame 99", "0 to 15"],
    ),
    ("[24, 12]", "[24, 12.3]", (6, 28), "sheets.bram.points.lantern.0", &["whole or half pixels"]),
    (
        "[24, 12]",
        "24",
        (6, 28),
        "sheets.bram.points.lantern.0",
        &["expected a place on a frame", "[24, 12]"],
    ),
    (
        "\"2 to 5\" = [5, 6, 7, 8]",
        "\"2 to 99\" = [5, 6, 7, 8]",
        (7, 41),
        "sheets.bram.areas.body.2 to 99",
        &["no frame 99", "0 to 15"],
    ),
    (
        "[5, 6, 7, 8]",
        "[5, 6, 7.2, 8]",
        (7, 52),
        "sheets.bram.areas.body",
        &["whole or half pixels", "no negative size", "[8, 10, 16, 20.5]"],
    ),
    ("[5, 6, 7, 8]", "[5, 6]", (7, 52), "sheets.bram.areas.body.2 to 5", &["not a rectangle"]),
    (
        "{ 0 = [24, 12] }",
        "{ nose = [24, 12] }",
        (6, 24),
        "sheets.bram.points.lantern.nose",
        &["no frame `nose`"],
    ),
    (
        "pivot  = \"bottom\"",
        "pivot  = \"botom\"",
        (24, 10),
        "clips.land.pivot",
        &["did you mean `bottom`?"],
    ),
    (
        "set = { foot = \"left\" }",
        "set = { foot = \"lft\" }",
        (19, 51),
        "clips.walk.marks.left-foot.set.foot",
        &["no choice `lft`", "did you mean `left`?"],
    ),
    (
        "set = { foot = \"left\" }",
        "set = { fot = \"left\" }",
        (19, 50),
        "clips.walk.marks.left-foot.set.fot",
        &["no fact `fot`", "did you mean `foot`?"],
    ),
    (
        "{ holds = 1, set",
        "{ set",
        (19, 23),
        "clips.walk.marks.left-foot.holds",
        &["the mark does not list its holds"],
    ),
    (
        "mirror = \"right\"",
        "mirror = \"rigth\"",
        (28, 20),
        "facings.walk.left.mirror",
        &["no facing `rigth`", "did you mean `right`?"],
    ),
    (
        "mirror = \"right\"",
        "mirror = \"up-right\"",
        (28, 20),
        "facings.walk.left.mirror",
        &["no clip of its own for `up-right`"],
    ),
    (
        "left-foot = \"right-foot\"",
        "left-foot = \"right-fot\"",
        (28, 36),
        "facings.walk.left.swap",
        &["no mark `right-fot`"],
    ),
    (
        "up    = \"walk-down\"",
        "upp   = \"walk-down\"",
        (29, 1),
        "facings.walk.upp",
        &["no key `upp`", "did you mean `up`?"],
    ),
    (
        "up    = \"walk-down\"",
        "up    = \"walk-dwn\"",
        (29, 9),
        "facings.walk.up",
        &["did you mean `walk-down`?"],
    ),
    (
        "align = \"hold\"",
        "align = \"frame\"",
        (30, 9),
        "facings.walk.align",
        &["\"time\", \"hold\" or \"start\""],
    ),
    ("dusk.png", "dawn.png", (33, 19), "looks.dusk.sheets.bram", &["dawn.png", "no such file"]),
    (
        "dusk.png",
        "small.png",
        (33, 19),
        "looks.dusk.sheets.bram",
        &["128 x 64 px", "256 x 64 px", "layout"],
    ),
    (
        "{ bram = \"dusk",
        "{ brm = \"dusk",
        (33, 12),
        "looks.dusk.sheets.brm",
        &["no sheet `brm`", "did you mean `bram`?"],
    ),
    (
        "walk-down = \"walk-right\"",
        "walk-down = \"land\"",
        (34, 24),
        "looks.dusk.clips.walk-down",
        &["`land` has 2 holds", "has 4"],
    ),
    ("hits   = 0", "hits   = 99999999999", (38, 10), "facts.hits", &["cannot be this number"]),
    ("hits   = 0", "hits   = \"0\"", (38, 10), "facts.hits", &["unexpected a text"]),
    (
        "pulse = \"100ms\"",
        "pulse = \"100\"",
        (40, 20),
        "facts.blow.pulse",
        &["not a duration", "unit"],
    ),
    (
        "pulse = \"100ms\"",
        "plse = \"100ms\"",
        (40, 12),
        "facts.blow.plse",
        &["did you mean `pulse`?"],
    ),
    (
        "[\"none\", \"left\"] }",
        "[\"none\", 3] }",
        (41, 22),
        "facts.foot.choices",
        &["unexpected a list"],
    ),
    (
        "lift = \"> 0\"",
        "lift = \"above 0\"",
        (45, 18),
        "cues.rising.when.lift",
        &["compares with no number", "> 0"],
    ),
    (
        "hits = \"2 to 3\"",
        "hits = \"!= 1.5\"",
        (45, 76),
        "cues.rising.when.hits",
        &["a whole number, and cannot be `1.5`"],
    ),
    (
        "lift = \"> 0\"",
        "lft = \"> 0\"",
        (45, 17),
        "cues.rising.when.lft",
        &["no fact `lft`", "did you mean `lift`?"],
    ),
    (
        "moving = true }",
        "moving = 1 }",
        (45, 34),
        "cues.rising.when.moving",
        &["yes or no", "cannot be `1`"],
    ),
    (
        "\"2 to 3\"",
        "\"3 to 2\"",
        (45, 76),
        "cues.rising.when.hits",
        &["no number lies in this range"],
    ),
    (
        "inside = \"open\"",
        "inside = \"opn\"",
        (51, 32),
        "cues.second.when.inside",
        &["no span `opn`", "did you mean `open`?"],
    ),
    (
        "[\"up\", \"left\"]",
        "[\"up\", \"west\"]",
        (51, 49),
        "cues.second.when.facing",
        &["no facing `west`"],
    ),
    (
        "from = \"rising\", hold",
        "from = \"risin\", hold",
        (53, 21),
        "cues.second.start_at.from",
        &["no cue `risin`", "did you mean `rising`?"],
    ),
    ("hold = 1 }", "hold = 9 }", (53, 38), "cues.second.start_at.hold", &["no hold 9", "0 to 1"]),
    (
        "{ facings = \"walk\" }",
        "{ facings = \"wlk\" }",
        (57, 20),
        "cues.resting.play.facings",
        &["no facing set `wlk`", "did you mean `walk`?"],
    ),
    (
        "{ facings = \"walk\" }",
        "{ facing = \"walk\" }",
        (57, 10),
        "cues.resting.play.facing",
        &["no key `facing`"],
    ),
    (
        "keep_facing = true",
        "keep_facing = \"no\"",
        (58, 15),
        "cues.resting.keep_facing",
        &["true or false"],
    ),
    (
        "{ fact = \"lift\" }",
        "{ fact = \"moving\" }",
        (59, 18),
        "cues.resting.speed.fact",
        &["no number `moving`"],
    ),
    (
        "{ fact = \"lift\" }",
        "{ distance = \"lift\" }",
        (59, 22),
        "cues.resting.speed.distance",
        &["what distance a cycle covers", "`stride`"],
    ),
    (
        "to   = [\"resting\"]",
        "to   = [\"restin\"]",
        (64, 9),
        "bridges.landing.to",
        &["did you mean `resting`?"],
    ),
    (
        "clips = [\"walk-*\"]",
        "clips = [\"run-*\"]",
        (68, 10),
        "phases.legs.clips",
        &["no clip `run-*`"],
    ),
    (
        "name = \"second\"",
        "name = \"rising\"",
        (50, 8),
        "cues.rising",
        &["two cues `rising`, the first at line "],
    ),
];

#[test]
fn each_mistake_is_reported_once_with_place_and_fix() {
    let mut wrong = Vec::new();
    for form in [Form::Toml, Form::Json] {
        if let Err(error) = load_as(form, SOUND) {
            panic!("{error}");
        }
        for (from, to, place, key, words) in CASES {
            assert!(SOUND.contains(from), "{from}");
            let error = load_as(form, &SOUND.replacen(from, to, 1)).expect_err(to);
            let (problem, reported) = (&error.problems()[0], error.to_string());
            let at = (problem.line().unwrap(), problem.column().unwrap());
            // In JSON it stands elsewhere, and is reported there.
            let there = form == Form::Json || at == *place;
            let once = error.problems().len() == 1 && !problem.fix().is_empty();
            let worded = words.iter().all(|word| reported.contains(word)) && reported.contains('^');
            let caret_on_it = problem.line_text().is_some_and(|line| !line.trim().is_empty());
            if !(there && once && worded && caret_on_it && problem.key() == *key) {
                wrong.push(format!(
                    "{form:?} {to}: wanted {place:?} {key} {words:?}, at {at:?}\n{reported}\n"
                ));
            }
        }
    }
    assert!(wrong.is_empty(), "{}", wrong.join("\n"));
}
