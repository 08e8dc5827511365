//! `explain --script` on random roles and scripts, row by row against a naive actor: what a reel file
//! and a script say is what happens.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

#[allow(dead_code)] // some of it is for the core's own tests
#[path = "../../core/tests/model/mod.rs"]
mod model;
#[allow(dead_code)]
#[path = "../../core/tests/reference_actor/mod.rs"]
mod reference_actor;

use std::fmt::Write as _;
use std::fs;
use std::path::Path;
use std::process::Command;

use lucky_reel_core::Facing;
use proptest::collection::vec;
use proptest::prelude::*;
use reference_actor::{Cond, MARKS, Naive, Row, Spec, spec};

/// The role as a designer would write it.
fn as_toml(spec: &Spec) -> String {
    let mut text = String::from(
        "reel = 1\n[sheets.s]\nimage = \"s.png\"\ngrid = { cell = [8, 8] }\n\
         [facts]\na = false\nn = 0\npace = 1.0\np = { pulse = true }\nq = { pulse = \"3t\" }\n\
         [clips.spare]\nframes = 0\nfps = 1\nspans = { s = 0 }\n\
         [facings.f]\ndown = \"c2\"\nright = \"c3\"\nleft = { mirror = \"right\" }\n",
    );
    writeln!(text, "align = \"{}\"", spec.facings).unwrap();
    if let Some(align) = spec.phases {
        writeln!(text, "[phases.legs]\nclips = [\"c0\", \"c1\"]\nalign = \"{align}\"").unwrap();
    }
    for (nth, clip) in spec.clips.iter().enumerate() {
        text += &clip.in_reel_file(&format!("c{nth}"));
        if let Some((from, to)) = spec.spans[nth] {
            writeln!(text, "spans = {{ s = \"{from} to {to}\" }}").unwrap();
        }
        for (nth, mark) in MARKS.iter().enumerate() {
            let marked = |hold: &usize| clip.marks[*hold] >> nth & 1 == 1;
            let holds: Vec<String> =
                (0..clip.ticks.len()).filter(marked).map(|hold| hold.to_string()).collect();
            let set = [
                "a = false",
                "a = true",
                "n = 1",
                "n = 2",
                "p = true",
                "pace = -1.0",
                "pace = 0.0",
                "pace = 2.0",
                "pace = -0.0",
            ][nth];
            writeln!(
                text,
                "marks.{mark} = {{ holds = [{}], set = {{ {set} }} }}",
                holds.join(", ")
            )
            .unwrap();
        }
    }
    for (nth, cue) in spec.cues.iter().enumerate() {
        writeln!(text, "[[cues]]\nname = \"k{nth}\"").unwrap();
        match cue.plays {
            Ok(clip) => writeln!(text, "play = \"c{clip}\"").unwrap(),
            Err(turns) => {
                writeln!(text, "play = {{ facings = \"f\" }}\nkeep_facing = {}", !turns).unwrap();
            }
        }
        if !cue.when.is_empty() {
            let any: Vec<String> = cue.when.iter().map(|all| as_condition(all)).collect();
            writeln!(text, "when = [{}]", any.join(", ")).unwrap();
        }
        writeln!(text, "finish = {}\nrestart = {}", cue.finish, cue.again).unwrap();
        if let Some(from) = cue.begin {
            writeln!(text, "start_at = {{ from = \"k{from}\", hold = 0 }}").unwrap();
        }
        if cue.paced {
            writeln!(text, "speed = {{ fact = \"pace\" }}").unwrap();
        }
    }
    for (nth, (from, to, clip)) in spec.bridges.iter().enumerate() {
        let cues = |bits: u8| -> String {
            let named = (0..spec.cues.len()).filter(|nth| bits >> nth & 1 == 1);
            named.map(|nth| format!("\"k{nth}\"")).collect::<Vec<_>>().join(", ")
        };
        let (from, to) = (cues(*from), cues(*to));
        writeln!(
            text,
            "[[bridges]]\nname = \"b{nth}\"\nfrom = [{from}]\nto = [{to}]\nplay = \"c{clip}\""
        )
        .unwrap();
    }
    text
}

/// One table; what is said twice of a number becomes a range.
fn as_condition(all: &[Cond]) -> String {
    let mut parts: Vec<String> = Vec::new();
    let above =
        all.iter().filter_map(|c| if let Cond::Above(n) = c { Some(*n) } else { None }).max();
    let below =
        all.iter().filter_map(|c| if let Cond::Below(n) = c { Some(*n) } else { None }).min();
    match (above, below) {
        (Some(above), Some(below)) => parts.push(format!("n = \"{} to {}\"", above + 1, below - 1)),
        (Some(above), None) => parts.push(format!("n = \"> {above}\"")),
        (None, Some(below)) => parts.push(format!("n = \"< {below}\"")),
        (None, None) => {}
    }
    for cond in all {
        let part = match cond {
            Cond::A(value) => format!("a = {value}"),
            Cond::P => "p = true".to_owned(),
            Cond::Q => "q = true".to_owned(),
            Cond::Inside => "inside = \"s\"".to_owned(),
            Cond::Facing(facing) => format!("facing = \"{}\"", facing.name()),
            Cond::Above(_) | Cond::Below(_) => continue,
        };
        if !parts.contains(&part) {
            parts.push(part);
        }
    }
    format!("{{ {} }}", parts.join(", "))
}

/// Whether a condition can be written as one table: no key twice with other values, no empty range.
fn can_be_written(all: &[Cond]) -> bool {
    let reported = as_condition(all);
    let keys: Vec<&str> = reported
        .trim_matches(['{', '}', ' '])
        .split(", ")
        .map(|part| part.split(' ').next().unwrap())
        .collect();
    let twice = keys.iter().enumerate().any(|(nth, key)| keys[..nth].contains(key));
    let range = reported.split("n = \"").nth(1).and_then(|rest| rest.split_once(" to "));
    let empty = range.is_some_and(|(from, rest)| {
        let to = rest.split('"').next().unwrap();
        from.parse::<i32>().unwrap() > to.parse::<i32>().unwrap()
    });
    !twice && !empty
}

#[derive(Clone, Debug)]
enum Order {
    A(bool),
    N(i32),
    Pulse(&'static str),
    Face(usize),
}

impl Order {
    fn line(&self, at: u64) -> String {
        match self {
            Order::A(value) => format!("at {at}t set a={value}"),
            Order::N(value) => format!("at {at}t set n={value}"),
            Order::Pulse(name) => format!("at {at}t pulse {name}"),
            Order::Face(nth) => format!("at {at}t face {}", Facing::ALL[*nth].name()),
        }
    }

    fn tell(&self, naive: &mut Naive<'_>) {
        match self {
            Order::A(value) => naive.set_a(*value),
            Order::N(value) => naive.set_n(*value),
            Order::Pulse(name) => naive.pulse(usize::from(*name == "q")),
            Order::Face(nth) => naive.face(Facing::ALL[*nth]),
        }
    }
}

fn explained(folder: &Path, every: u64) -> Vec<String> {
    let every = format!("{every}t");
    let arguments = [
        "explain",
        "r.reel.toml",
        "--script",
        "s.txt",
        "--duration",
        "60t",
        "--every",
        &every,
        "--format",
        "csv",
    ];
    let mut command = Command::new(env!("CARGO_BIN_EXE_lucky-reel"));
    let output = command.args(arguments).current_dir(folder).output().unwrap();
    assert!(output.status.success(), "{}", String::from_utf8_lossy(&output.stderr));
    let text = String::from_utf8(output.stdout).unwrap();
    let rows = text.lines().skip(1).map(|row| row.split(',').collect::<Vec<_>>());
    let happened = rows.filter(|row| row[3] != "show");
    happened
        .map(|row| match row[3] {
            "enter" => format!("{} enter {}", row[1], row[4]),
            "mark" => format!("{} mark {} {}", row[1], row[7], row[4]),
            "cycle" | "turn" | "end" => format!("{} {}", row[1], row[3]),
            "cue-loop" => format!("{} cut off", row[1]),
            _ => format!("{} {} {}", row[1], row[3], row[7]),
        })
        .collect()
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(60))]

    #[test]
    fn scripts_are_played_as_the_laws_say(
        spec in spec(), every in 1_u64..70,
        script in vec((0_u64..60, prop_oneof![
            any::<bool>().prop_map(Order::A), (0_i32..4).prop_map(Order::N), Just(Order::Pulse("p")),
            Just(Order::Pulse("q")), (0_usize..8).prop_map(Order::Face),
        ]), 0..12),
    ) {
        prop_assume!(spec.cues.iter().flat_map(|cue| &cue.when).all(|all| can_be_written(all)));
        let folder = tempfile::tempdir().unwrap();
        let lines: Vec<String> = script.iter().map(|(at, tell)| tell.line(*at)).collect();
        fs::write(folder.path().join("r.reel.toml"), as_toml(&spec)).unwrap();
        fs::write(folder.path().join("s.txt"), lines.join("\n")).unwrap();
        let picture = lucky_reel::assets::Pixels::new([64, 8]).unwrap();
        fs::write(folder.path().join("s.png"), picture.to_png()).unwrap();

        let mut naive = Naive::new(&spec);
        for tick in 0..60 {
            let due = script.iter().filter(|(at, _)| *at == tick);
            due.for_each(|(_, tell)| tell.tell(&mut naive));
            naive.tick();
        }
        let expected: Vec<String> = naive.rows.iter().map(|Row(at, kind, which, hold, _)| match *kind {
            "enter" => format!("{at} enter {hold}"),
            "mark" => format!("{at} mark {} {hold}", MARKS[*which]),
            "cue" => format!("{at} cue k{which}"),
            "bridge" => format!("{at} bridge b{which}"),
            "next" if *which == reference_actor::MIRRORED => format!("{at} next f-left"),
            "next" => format!("{at} next c{which}"),
            kind => format!("{at} {kind}"),
        }).collect();
        prop_assert_eq!(explained(folder.path(), every), expected);
    }
}
