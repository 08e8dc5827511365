//! What a builder refuses: everything, all together, each with its place and its fix.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use lucky_reel_assets::LoadError;
use lucky_reel_core::*;

fn reported(error: BuildError) -> Vec<String> {
    let problems = LoadError::from(error);
    let line =
        |p: &lucky_reel_assets::Problem| format!("{}: {}: {}", p.key(), p.message(), p.fix());
    problems.problems().iter().map(line).collect()
}

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
    let reported = reported(error.clone());
    for (place, problem, fix) in expected {
        let found = reported.iter().any(|fault| {
            fault.starts_with(&format!("{place}: "))
                && fault.contains(problem)
                && fault.contains(fix)
        });
        assert!(found, "{place}: {problem}: {fix}\n{error}");
    }
    assert_eq!(reported.len(), expected.len(), "{error}");
    // The core itself says it in codes, each with its place.
    let short = format!("{error:?}");
    assert_eq!(short.lines().count(), reported.len(), "main prints all of it");
    assert!(short.contains("Clips begin Mark(\"step\")[1]: no-hold (9, 4)"), "{short}");
}

/// The id of a sheet that another builder made.
fn unknown_sheet() -> SheetId {
    let mut other = Reel::builder();
    let ids = (0..9)
        .map(|nth| other.sheet(format!("s{nth}"), NewSheet::grid([8, 8], Grid::cell_size([8, 8]))));
    ids.last().unwrap()
}

#[test]
fn what_makes_no_sense_together_is_refused_all_at_once() {
    let mut builder = builder();
    let short = builder.sheet("short", NewSheet::grid([8, 8], Grid::cell_size([8, 8])));
    let long = builder.sheet("long", NewSheet::grid([16, 8], Grid::cell_size([8, 8])));
    builder.look(
        "dusk",
        NewLook::new().sheet(short, long).clip("slow", "walk-down").clip("slw", "slow"),
    );
    builder.facings(
        "hop",
        NewFacings::new().clip(Facing::Up, "hop").mirror(Facing::Left, Facing::Right),
    );
    builder.facings("none", NewFacings::new());
    builder.fact("inside", false);
    builder.fact("foot", NewFact::choices(["left", "left"]));
    builder.fact("blow", NewFact::pulse_for(Ticks::from_secs(60)));
    builder.fact("lift", f32::NAN);
    builder.fact("hits", 1);
    let rules = Condition::new().fact("hits", "many").below("hit", 3.0).inside("open");
    builder.cue("a", NewCue::play("slow").when(rules).finish().start_at("b", 9).speed_from("hits"));
    builder.cue("a", NewCue::play_facings("wlk").when(Condition::new()).distance_from("lift"));
    builder.bridge("land", NewBridge::play("slow").between(["a"], ["z"]));
    builder.phases("legs", ["run-*"], Align::Start);
    let error = reported(builder.build().unwrap_err()).join("\n");
    let expected = [
        "looks.dusk.clips.slow: `walk-down` has 4 holds, and `slow` has 2",
        "looks.dusk.clips.slw: there is no clip `slw`: did you mean `slow`?",
        "looks.dusk.sheets.short: this sheet has 2 frames, and the base sheet has 1",
        "facings.hop.up: there is no clip `hop`",
        "facings.none: the set has no clip for any facing",
        "facts.inside: this name is reserved",
        "facts.foot.choices: the choices of a fact all differ",
        "facts.blow.pulse: a pulse lasts at most 59 seconds",
        "facts.lift: `lift` is a number, and cannot be `NaN`",
        "cues.a.when.hits: `hits` is a whole number, and cannot be `many`",
        "cues.a.when.hit: there is no fact `hit`: did you mean `hits`?",
        "cues.a.when.inside: there is no span `open`",
        "cues.a.finish: it plays to the end of a clip that never ends",
        "cues.a.start_at.from[0]: there is no cue `b`",
        "cues.a.speed.fact: there is no number `hits` among the facts",
        "cues.a: there are two cues `a`",
        "cues.a.play.facings: there is no facing set `wlk`: did you mean `walk`?",
        "cues.a.when: the last cue does not always match",
        "bridges.land.to[0]: there is no cue `z`",
        "bridges.land.play: a bridge's clip must come to an end",
        "phases.legs.clips[0]: there is no clip `run-*`",
        "phases.legs.align: clips in phase keep their place",
    ];
    for expected in expected {
        assert!(error.contains(expected), "{expected}\nin\n{error}");
    }
    // `lift` is refused itself, and so not once more as a speed.
    assert_eq!(error.lines().count(), expected.len(), "{error}");
}

/// A walk of four holds with a facing set of its own, and a slow clip of two; both are endless.
fn builder() -> ReelBuilder {
    let mut builder = Reel::builder();
    let day = builder.sheet("day", NewSheet::grid([64, 8], Grid::cell_size([8, 8])));
    builder.clip("walk-down", NewClip::of(day).frames(0..4).each(ms(100)));
    builder.clip("slow", NewClip::of(day).frames(0..2).each(ms(350)));
    builder.facings("walk", NewFacings::new().clip(Facing::Down, "walk-down"));
    builder
}

#[test]
fn a_grid_that_does_not_fit_is_told_what_would() {
    let refusal = |grid: Grid, image| {
        let mut builder = Reel::builder();
        builder.sheet("s", NewSheet::grid(image, grid));
        let refused = reported(builder.build().unwrap_err()).join("; ");
        refused.split_once(": ").unwrap().1.to_owned()
    };
    assert_eq!(
        refusal(Grid::cell_size([30, 32]), [384, 64]),
        "an image 384 px wide is not a whole number of cells of 30 px: \
         widths that fit: 16, 24, 32, 48; or give `columns` to leave a rest over"
    );
    assert_eq!(
        refusal(Grid::cell_size([8, 8]).margin([0, 1]).gap([0, 1]), [8, 30]),
        "an image 30 px high, less its start, margin and gaps, is not a whole number of cells of 8 px: \
         for this cell size, use margin 1 with gap 2, or margin 2 with gap 1, or margin 0 with gap 3; or \
         heights that fit: 28; or give `count` to leave a rest over"
    );
    assert!(refusal(Grid::cell_size([0, 4]), [8, 8]).contains("0 pixels"));
    assert!(refusal(Grid::cell_size([1, 1]), [u32::MAX, u32::MAX]).contains("at most 65536"));
    assert!(refusal(Grid::cell_size([4, 4]).columns(3), [8, 8]).contains("at most 2 fit"));
    assert!(refusal(Grid::cell_size([u32::MAX, 1]).gap([u32::MAX, 0]), [8, 8]).contains("fit"));
}

/// Every code has a text of its own, with its values: none is left to be printed as a code.
#[test]
fn reports_of_a_builder_read_as_those_of_a_file() {
    let mut builder = Reel::builder();
    let sheet = builder.sheet("s", NewSheet::grid([8, 8], Grid::cell_size([8, 8])));
    builder.role("bram");
    builder.clip("walk", NewClip::of(sheet).frames([0]).mark("step", [0, 4]).fps(8));
    let error = LoadError::from(builder.build().unwrap_err());
    assert_eq!(error.problems()[0].key(), "clips.bram/walk.marks.step[1]");
    let report = error.to_string();
    // The report names the place, though there is no file.
    assert!(report.contains("> clips.bram/walk.marks.step[1]\n"), "{report}");
    assert!(report.contains("the clip has no hold 4") && report.contains("0 to 0"), "{report}");
}
