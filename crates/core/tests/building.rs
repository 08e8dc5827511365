//! What a builder refuses: everything, all together, each with its place and its fix.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use lucky_reel_core::*;

fn ms(millis: u64) -> Ticks {
    Ticks::from_millis(millis)
}

#[test]
fn all_problems_are_reported_together() {
    let mut builder = Reel::builder();
    let lamp = builder.sheet("lamp", NewSheet::grid([64, 16], Grid::cell_size([16, 16])));
    builder.sheet("torn", NewSheet::grid([64, 16], Grid::cell_size([15, 16])));
    builder
        .sheet("odd", NewSheet::grid([8, 8], Grid::cell_size([8, 8])).pivot(Pivot::At([0.3, 1.0])));
    let new = || NewClip::of(lamp).frames(0..4);
    let half = ExactTime::from_fraction(1, 3).unwrap();
    builder.clip("empty", NewClip::of(lamp).fps(8));
    builder.clip("untimed", new());
    builder.clip("beyond", new().frames([4]).fps(8));
    builder.clip("zero", new().hold(0, Ticks::ZERO).fps(8));
    builder.clip("rounded-away", new().each(half));
    builder.clip("still", new().fps(0));
    builder.clip("too-many", new().times([ms(1), ms(2), ms(3), ms(4), ms(5)]));
    builder.clip("no-rest", new().hold(0, ms(100)).total(ms(100)));
    builder.clip("long", new().each(Ticks::new(1 << 46)));
    builder.clip("again", new().fps(8).mode(Mode::Once).repeat(2));
    builder.clip("never", new().fps(8).repeat(0));
    builder.clip("endless", new().fps(8).end(ClipEnd::Vanish));
    builder.clip("lost", new().fps(8).repeat(2).end(ClipEnd::Play("bigin".into())));
    builder.clip("begin", new().fps(8).rest(4).mark("step", [1, 9]).span("open", 3..=7));
    builder.clip("begin", new().fps(8));
    builder.clip("0 to 3", new().fps(8));
    builder.clip("all", new().fps(8));
    builder.clip("slippery", new().fps(8).stride(f64::NAN));
    builder.clip("foreign", NewClip::of(unknown_sheet()).frames([0]).fps(8));

    let error = builder.build().unwrap_err();
    let expected = [
        ("clips.begin", "two clips `begin`", "another name"),
        // The problems of the first one of two names are not hidden by the second.
        ("clips.begin.marks.step[1]", "no hold 9", "0 to 3"),
        ("clips.begin.spans.open", "no hold 7", "0 to 3"),
        ("clips.begin.rest", "no hold 4", "0 to 3"),
        ("clips.0 to 3", "does not start with a letter", "letters"),
        ("clips.all", "reserved", "another name"),
        ("sheets.torn.grid.cell", "64 px wide", "8, 16"),
        ("sheets.odd.pivot", "half pixels", "[15.5, 30]"),
        ("clips.empty.frames", "no frames", "at least one"),
        ("clips.untimed", "how long", "`fps`"),
        ("clips.beyond.frames[4]", "no frame 4", "0 to 3"),
        ("clips.zero.frames[4]", "no length", "above 0"),
        ("clips.rounded-away.each", "no length", "one tick"),
        ("clips.still.fps", "0 frames a second", "from 1 up"),
        ("clips.too-many.each", "5 times for 4 frames", "one for all"),
        ("clips.no-rest.total", "nothing of it is left", "longer"),
        ("clips.long.each", "2^47", "shorter"),
        ("clips.again.repeat", "`once` does not repeat", "`loop`"),
        ("clips.never.repeat", "0 times", "from 1"),
        ("clips.endless.end", "endless", "`once`"),
        ("clips.lost.end.play", "no clip `bigin`", "`begin`"),
        ("clips.slippery.stride", "NaN pixels", "above 0"),
        ("clips.foreign.sheet", "not of this reel", "builder returned"),
    ];
    let reported: Vec<String> = error.problems().iter().map(ToString::to_string).collect();
    for (place, problem, fix) in expected {
        let found = reported.iter().any(|fault| {
            fault.starts_with(&format!("{place}: "))
                && fault.contains(problem)
                && fault.contains(fix)
        });
        assert!(found, "{place}: {problem}: {fix}\n{error}");
    }
    assert_eq!(reported.len(), expected.len(), "{error}");
    assert_eq!(format!("{error:?}"), reported.join("\n"), "main prints all of it");
}

/// The id of a sheet that another builder made.
fn unknown_sheet() -> SheetId {
    let mut other = Reel::builder();
    let ids = (0..9)
        .map(|nth| other.sheet(format!("s{nth}"), NewSheet::grid([8, 8], Grid::cell_size([8, 8]))));
    ids.last().unwrap()
}

#[test]
fn rates_that_do_not_divide_are_rounded_on_the_running_total() {
    let mut builder = Reel::builder();
    let sheet = builder.sheet("s", NewSheet::grid([8, 8], Grid::cell_size([8, 8])));
    let frames = |count| NewClip::of(sheet).frames(std::iter::repeat_n(0, count));
    builder.clip("seventeen", frames(17).fps(17));
    builder.clip(
        "movie",
        frames(24_000)
            .each(ExactTime::from_fraction(u128::from(Ticks::PER_SECOND) * 1_000, 23_976).unwrap()),
    );
    builder.clip("shared", frames(3).hold(0, ms(40)).total(ms(140)));
    let reel = builder.build().unwrap();
    let ticks = |name: &str| {
        let clip = reel.clip(reel.id::<ClipId>(name).unwrap()).unwrap();
        (clip.holds().map(|hold| hold.ticks.get()).collect::<Vec<_>>(), clip.total.get())
    };
    let (holds, total) = ticks("seventeen");
    assert_eq!(total, Ticks::PER_SECOND);
    assert_eq!(
        (holds[0], holds.iter().max(), holds.iter().min()),
        (4_239_529, Some(&4_239_530), Some(&4_239_529))
    );
    // 24,000 frames at 23.976 a second, to the nearest tick.
    assert_eq!(
        ticks("movie").1,
        ((2 * 72_072_000_u128 * 24_000_000 + 23_976) / (2 * 23_976)) as u64
    );
    assert_eq!(ticks("shared"), (vec![2_402_400, 2_402_400, 2_402_400, 2_882_880], 10_090_080));
}

#[test]
fn names_are_found_within_their_roles() {
    let mut builder = Reel::builder();
    for role in ["bram", "moth"] {
        builder.role(role);
        let sheet = builder.sheet("body", NewSheet::grid([8, 8], Grid::cell_size([8, 8])));
        builder.clip("idle", NewClip::of(sheet).frames([0]).fps(1).mark("beat", [0]));
        builder.clip(format!("{role}-hop"), NewClip::of(sheet).frames([0]).fps(1));
    }
    let reel = builder.build().unwrap();
    let moth: ClipId = reel.id("moth/idle").unwrap();
    assert_eq!((reel.role_name(moth), reel.name(moth)), ("moth", "idle"));
    assert_eq!(reel.id::<ClipId>("moth-hop"), reel.id::<ClipId>("moth/moth-hop"));
    assert_ne!(reel.id::<MarkId>("bram/beat"), reel.id::<MarkId>("moth/beat"));
    let message = |name: &str| reel.id::<ClipId>(name).unwrap_err().to_string();
    assert_eq!(message("idle"), "several roles have a clip `idle`: say `bram/idle` or `moth/idle`");
    assert_eq!(message("mot-hop"), "there is no clip `mot-hop`: did you mean `moth-hop`?");
    assert!(
        message("bram/walk").contains("did you mean")
            || message("bram/walk").contains("nor a similar")
    );
    assert_eq!(reel.id::<ClipId>("mot-hop").unwrap_err().near(), Some("moth-hop"));
    assert!(reel.id::<SpanId>("open").unwrap_err().to_string().contains("the reel has no span"));
}
