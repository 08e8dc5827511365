//! Scripts of facts, and the warnings about likely mistakes in roles.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use lucky_reel_assets::{Art, Loader, Pixels, Severity, load};
use lucky_reel_core::{Actor, CueCause, Event, EventKind, RoleId, Ticks};
use lucky_reel_tools::script::Script;
use lucky_reel_tools::{Theme, chart, check};
use proptest::prelude::*;

fn greenhouse(role: &str) -> Art {
    let folder = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/greenhouse");
    load(format!("{folder}/{role}.reel.toml")).unwrap()
}

const NIGHT: &str = "# Bram's night\n\nat 0s face right\nat 0.4s set moving=true\nat 1.6s set pace=90\n\
    at 2.4s set airborne=true\nat 2.9s wear dusk\nat 3.4s set airborne=false pace=44\nat 4.2s pulse hurt\n\
    at 4.3s hit-stop 80ms\nat 4.9s face left\nat 5s take off dusk\nat 5.6s set moving=false\nat 5.7s speed 0.5\n";

fn played(art: &Art, script: &Script, step: Ticks) -> (Actor, Vec<(Ticks, Event)>) {
    let role: RoleId = art.reel.id("bram").unwrap();
    let (mut actor, mut rows) = (Actor::new(&art.reel, role), Vec::new());
    let (mut now, end) = (Ticks::ZERO, Ticks::from_secs(7));
    while now < end {
        let dt = step.min(end - now);
        let read = script.advance(&art.reel, &mut actor, now, dt, |at, event: Event| {
            // When it happened is what counts, not in which update.
            let mut event = event;
            event.at = Ticks::ZERO;
            rows.push((at, event));
            Ok::<(), ()>(())
        });
        read.unwrap();
        now += dt;
    }
    (actor, rows)
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(30))]

    /// The times of a script are exact, whatever the update.
    #[test]
    fn updates_make_no_difference(step in 100_000_u64..200_000_000) {
        let art = greenhouse("bram");
        let role = art.reel.role(art.reel.id::<RoleId>("bram").unwrap()).unwrap();
        let script = Script::parse("night.txt", NIGHT, role).unwrap();
        let (whole, rows) = played(&art, &script, Ticks::MAX);
        let (split, split_rows) = played(&art, &script, Ticks::new(step));
        prop_assert_eq!(rows, split_rows);
        prop_assert_eq!(whole, split);
    }
}

#[test]
fn a_night_is_reported_and_drawn() {
    let art = greenhouse("bram");
    let reel = &art.reel;
    let role = reel.role(reel.id::<RoleId>("bram").unwrap()).unwrap();
    let script = Script::parse("night.txt", NIGHT, role).unwrap();
    let (_, rows) = played(&art, &script, Ticks::MAX);
    let reported = rows.iter().filter_map(|(at, event)| match event.kind {
        EventKind::Cue(cue, cause) => Some((at.as_millis_f64(), reel.name(cue), cause)),
        EventKind::Bridge(bridge, cause) => Some((at.as_millis_f64(), reel.name(bridge), cause)),
        _ => None,
    });
    let expected = [
        (0.0, "resting", CueCause::Start),
        (400.0, "walking", CueCause::Facts),
        (1600.0, "hurrying", CueCause::Facts),
        (2400.0, "hovering", CueCause::Facts),
        (3400.0, "landing", CueCause::Facts),
        (3570.0, "walking", CueCause::End),
        (4200.0, "tripping", CueCause::Facts), // his left foot came down last
        (4660.0, "walking", CueCause::End),    // 380 ms, and a hit-stop of 80 ms
        (5600.0, "resting", CueCause::Facts),
    ];
    assert_eq!(reported.collect::<Vec<_>>(), expected);
    let chart = chart::script(&art, role, &script, Ticks::from_secs(7), Theme::Dark).unwrap();
    let picture = chart.pixels();
    assert_eq!(picture.size()[0], 1280);
    for text in ["look", "dusk", "speed", "hit-stop", "0.5", "end 7000 ms"] {
        assert!(chart.svg().contains(&format!(">{text}<")), "{text}");
    }
    // Each of the marks that were passed, and the end of the script.
    let yellow = [0xff, 0xc8, 0x57, 255];
    let row = (0..picture.size()[1])
        .map(|y| (0..1280).filter(|x| picture.pixel([*x, y]) == yellow).count());
    let is_step = |event: &Event| event.mark().is_some_and(|mark| reel.name(mark) == "step");
    let steps = rows.iter().filter(|(_, event)| is_step(event));
    let steps = steps.count();
    assert!(
        row.filter(|count| *count == 2 * steps + 2).count() >= 10,
        "{steps} lines two pixels wide"
    );
}

#[test]
fn lines_that_tell_nothing_are_reported_with_their_place() {
    let art = greenhouse("bram");
    let role = art.reel.role(art.reel.id::<RoleId>("bram").unwrap()).unwrap();
    let text = "at 1s set movin=true\n  at soon face left\nface left\nat 1s face lft\nat 1s wear dask\n\
                at 1s set foot=up\nat 1s set pace=fast\nat 1s jump\nat 1s speed 1e9\nat 1s take dusk\n";
    let error = Script::parse("night.txt", text, role).unwrap_err();
    let reported: Vec<(usize, usize, &str, &str)> = error
        .problems()
        .iter()
        .map(|p| (p.line().unwrap(), p.column().unwrap(), p.message(), p.fix()))
        .collect();
    let expected = [
        (1, 1, "there is no fact `movin`", "did you mean `moving`?"),
        (2, 3, "`soon` is not a duration", ""),
        (3, 1, "the line does not say when", "write such as `at 0.5s set moving=true`"),
        (4, 1, "there is no facing `lft`", "did you mean `left`?"),
        (5, 1, "there is no look `dask`", "did you mean `dusk`?"),
        (6, 1, "there is no choice `up`", "its choices are right, left"),
        (7, 1, "`pace` is a number, and cannot be `fast`", "write a number, such as pace=0.5"),
        (8, 1, "there is no command `jump`", "write such as `set moving=true`"),
        (9, 1, "`1e9` is not a speed", "write such as 0.5 or -1"),
        (10, 1, "cannot read `take dusk`", ""),
    ];
    assert_eq!(reported.len(), expected.len());
    for (reported, expected) in reported.iter().zip(expected) {
        assert_eq!((reported.0, reported.1, reported.2), (expected.0, expected.1, expected.2));
        assert!(reported.3.starts_with(expected.3), "{}", reported.3);
    }
}

/// The warnings about a role, as key and words.
fn warned(clips: &str, cues: &str) -> Vec<String> {
    let text = format!(
        "reel = 1\n[sheets.s]\nimage = \"s.png\"\ngrid = {{ cell = [8, 8] }}\n[defaults]\nfps = 8\n{clips}\n{cues}"
    );
    let mut picture = Pixels::new([32, 32]).unwrap();
    for cell in 0..16_u8 {
        let at = [u32::from(cell % 4 * 8 + 3), u32::from(cell / 4 * 8 + 3)];
        picture.set_pixel(at, [cell, 100, 200, 255]);
    }
    let problems =
        check(Loader::new().bytes("s.reel.toml", text.as_bytes(), |_| Ok(picture.to_png())))
            .problems;
    assert!(problems.iter().all(|p| p.severity() == Severity::Warning), "{problems:?}");
    problems.iter().map(|p| format!("{}: {}", p.key(), p.message())).collect()
}

#[test]
fn roles_are_checked_for_what_is_likely_a_mistake() {
    const CLIPS: &str = "[clips.walk]\nrows = { down = 0, up = 1, right = 2, left = 3 }\n\
        [clips.hop]\nframes = \"0 to 2\"\nmode = \"once\"\nspans = { open = \"0 to 1\" }\n";
    const CUES: &str = "[facts]\nmoving = false\nlift = 0.0\nhurt = { pulse = true }\n\
        [[cues]]\nname = \"hurt\"\nwhen = { hurt = true }\nplay = \"hop\"\nfinish = true\n\
        [[cues]]\nname = \"rising\"\nwhen = { lift = \"> 2\", moving = true }\nplay = \"hop\"\n\
        [[cues]]\nname = \"resting\"\nplay = { facings = \"walk\" }\n";
    assert_eq!(warned(CLIPS, CUES), [""; 0]);
    // A still in a set of moving clips is meant: it has no time to compare.
    let with_still =
        CLIPS.to_owned() + "[clips.stand]\nframes = 13\n[facings.walk]\nup-left = \"stand\"\n";
    assert!(!warned(&with_still, CUES).iter().any(|warning| warning.contains("stand")));
    let cases = [
        (", left = 3", "", "clips.walk: the set has nothing for left"),
        ("finish = true\n", "", "cues.hurt.when: once its pulse has fallen"),
        ("lift = \"> 2\", ", "", "facts.lift: no cue asks about this fact"),
        (
            "[[cues]]\nname = \"resting\"",
            "[[cues]]\nname = \"high\"\nwhen = { lift = \"3 to 5\", moving = true }\nplay = \"hop\"\n[[cues]]\nname = \"resting\"",
            "cues.high: it can never win: `rising` above it matches whenever it does",
        ),
        (
            "[clips.hop]",
            "[clips.spare]\nframes = 7\n[clips.hop]",
            "clips.spare: no cue, bridge, set or look",
        ),
        (
            "[facts]",
            "[phases.legs]\nclips = [\"walk-*\", \"hop\"]\nalign = \"hold\"\n[facts]",
            "phases.legs.clips: they cannot keep in step: walk-down has 4 holds and hop 3",
        ),
        (
            "[facts]",
            "[clips.slow]\nlike = \"walk-up\"\nfps = 4\n[facings.walk]\nup = \"slow\"\n[facts]",
            "clips.slow.fps: walk-down takes 500 ms and slow 1000 ms",
        ),
        (
            "[[cues]]\nname = \"resting\"\nplay = { facings = \"walk\" }",
            "[[cues]]\nname = \"in\"\nwhen = { inside = \"open\" }\nplay = { facings = \"walk\" }\n[[cues]]\nname = \"out\"\nplay = \"hop\"",
            "cues.in: cues hand over to one another without end",
        ),
    ];
    for (from, to, expected) in cases {
        let (clips, cues) = (CLIPS.replacen(from, to, 1), CUES.replacen(from, to, 1));
        assert!(clips != CLIPS || cues != CUES, "{from}");
        let warned = warned(&clips, &cues);
        assert!(
            warned.iter().any(|reported| reported.starts_with(expected)),
            "{expected}\nin {warned:?}"
        );
    }
}
