//! What actors do, one thing at a time.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use lucky_reel_core::*;
use proptest::prelude::*;

fn millis(millis: u64) -> Ticks {
    Ticks::from_millis(millis)
}

/// Walking and hurrying in step, hovering, landing, a blow with a window, a stumble.
fn builder() -> ReelBuilder {
    let mut builder = Reel::builder();
    let sheet = builder.sheet("s", NewSheet::grid([64, 64], Grid::cell_size([8, 8])));
    let new = |from: u32, count: u32, each: u64| {
        NewClip::of(sheet).frames(from..from + count).each(millis(each))
    };
    let once = |from, count, each| new(from, count, each).mode(Mode::Once);
    for (nth, facing) in ["down", "right"].into_iter().enumerate() {
        let from = 8 * nth as u32;
        builder.clip(format!("walk-{facing}"), new(from, 4, 100).stride(40.0).mark("step", [1, 3]));
        builder.clip(format!("land-{facing}"), once(from + 4, 2, 50));
    }
    builder.clip("hurry", new(16, 4, 60).stride(60.0).mark("step", [1, 3]));
    builder.clip("hover", new(24, 2, 50));
    builder.clip("idle", new(32, 2, 500));
    builder.clip("blow", once(40, 4, 100).span("open", 2..=3).end(ClipEnd::Play("recover".into())));
    builder.clip("blow-2", once(44, 4, 100));
    builder.clip("recover", once(36, 2, 100).end(ClipEnd::Play("idle".into())));
    builder.clip("puff", once(48, 2, 100).end(ClipEnd::Vanish));
    for set in ["walk", "land"] {
        let facings = NewFacings::new().clip(Facing::Down, format!("{set}-down"));
        let facings = facings.clip(Facing::Right, format!("{set}-right"));
        builder.facings(set, facings.mirror(Facing::Left, Facing::Right));
    }
    builder.fact("moving", false);
    builder.fact("airborne", false);
    builder.fact("pace", 1.0);
    builder.fact("gone", false);
    builder.fact("blow", NewFact::pulse_for(millis(100)));
    builder
}

/// The rest of the role; `landing` also leads to what is named.
fn reel(landing: &[&str]) -> Reel {
    let mut builder = builder();
    let flag = |name: &str| Condition::new().fact(name, true);
    builder.cue("gone", NewCue::play("puff").when(flag("gone")));
    builder.cue("second", NewCue::play("blow-2").when(flag("blow").inside("open")).finish());
    builder.cue("blow", NewCue::play("blow").when(flag("blow")).finish().restart());
    builder.cue("hovering", NewCue::play("hover").when(flag("airborne")));
    let quick = flag("moving").above("pace", 2.0);
    builder.cue("hurrying", NewCue::play("hurry").when(quick).start_at("hovering", 2));
    builder.cue("walking", NewCue::play_facings("walk").when(flag("moving")).speed_from("pace"));
    builder.cue("resting", NewCue::play("idle"));
    builder
        .bridge("landing", NewBridge::play_facings("land").between(["hovering"], landing.to_vec()));
    builder.phases("legs", ["walk-*", "hurry"], Align::Time);
    builder.build().unwrap()
}

struct Game<'r> {
    reel: &'r Reel,
    bram: Actor,
    now: Ticks,
}

impl<'r> Game<'r> {
    fn new(reel: &'r Reel) -> Game<'r> {
        Game { reel, bram: Actor::new(reel, reel.id("").unwrap()), now: Ticks::ZERO }
    }

    fn is(&mut self, fact: &str, value: bool) {
        self.bram.set(self.reel.id(fact).unwrap(), value).unwrap();
    }

    fn pulse(&mut self) {
        self.bram.pulse(self.reel.id("blow").unwrap()).unwrap();
    }

    /// Lets time pass; what took over, and when.
    fn pass(&mut self, time: u64) -> Vec<(f64, &'r str)> {
        let (reel, now) = (self.reel, self.now);
        self.now += millis(time);
        let reported = self.bram.advance(reel, millis(time)).filter_map(|event| {
            let at = (now + event.at).as_millis_f64();
            match event.kind {
                EventKind::Cue(cue, _) => Some((at, reel.name(cue))),
                EventKind::Bridge(bridge, _) => Some((at, reel.name(bridge))),
                _ => None,
            }
        });
        reported.collect()
    }

    fn clip(&self) -> &'r str {
        self.reel.name(self.bram.player().clip())
    }
}

#[test]
fn a_bridge_delays_the_winner_and_plays_on_where_it_also_leads() {
    let reel = reel(&["resting", "walking"]);
    let mut game = Game::new(&reel);
    game.is("airborne", true);
    assert_eq!(game.pass(120), [(0.0, "hovering")]);
    game.is("airborne", false);
    assert_eq!(game.pass(30), [(120.0, "landing")]);
    assert_eq!((game.clip(), game.bram.cue()), ("land-down", reel.id::<CueId>("hovering").ok()));
    // The same bridge leads to walking, too: it plays on, in the facing of now.
    game.is("moving", true);
    game.bram.set_facing(Facing::Left);
    assert_eq!(game.pass(30), []);
    assert_eq!((game.clip(), game.bram.player().hold_index(&reel)), ("land-left", Some(1)));
    assert_eq!(game.pass(100), [(220.0, "walking")]);
    assert_eq!(game.clip(), "walk-left");

    // Where the bridge does not lead, the winner begins at once; and so does the one that it left.
    let mut game = Game::new(&reel);
    game.is("airborne", true);
    game.pass(120);
    game.is("airborne", false);
    game.pass(30);
    game.pulse();
    assert_eq!(game.pass(10), [(150.0, "blow")]);
    let mut game = Game::new(&reel);
    game.is("airborne", true);
    game.pass(120);
    game.is("airborne", false);
    game.pass(30);
    game.is("airborne", true);
    assert_eq!(game.pass(10), [(150.0, "hovering")]);
}

#[test]
fn a_pulse_counts_just_before_its_window_and_is_used_up() {
    let reel = reel(&["resting"]);
    let mut game = Game::new(&reel);
    game.pulse();
    assert_eq!(game.pass(150), [(0.0, "blow")]);
    // 50 ms before the window: it is still up when the span begins, and finish does not hold back the
    // cue above.
    game.pulse();
    assert_eq!(game.pass(30), [(150.0, "blow")], "again: a fresh pulse starts it over");
    assert_eq!(game.pass(170), []);
    game.pulse();
    assert_eq!(game.pass(10), [(350.0, "second")], "inside the window at once");
    assert_eq!(game.pass(1_000), [(750.0, "resting")]);

    // Pressed too early, it falls, and its fall is no change.
    let mut game = Game::new(&reel);
    game.is("airborne", true);
    game.pass(10);
    game.is("gone", true);
    assert_eq!(game.pass(50), [(10.0, "gone")]);
    game.pulse();
    assert_eq!(game.pass(120), []);
    game.is("gone", false);
    assert_eq!(game.pass(10), [(180.0, "hovering")]);
}

#[test]
fn finish_ends_with_its_clip_and_not_with_its_chain() {
    let reel = reel(&["resting"]);
    let mut game = Game::new(&reel);
    game.pulse();
    game.pass(100);
    game.is("moving", true);
    assert_eq!(game.pass(299), []);
    assert_eq!(game.pass(2), [(400.0, "walking")], "it does not wait for `recover`");
    // Alone at its end, the winner below takes over at that moment.
    let mut game = Game::new(&reel);
    game.pulse();
    assert_eq!(game.pass(1_000), [(0.0, "blow"), (400.0, "resting")]);
}

#[test]
fn steps_are_kept_between_clips_of_a_phase_group() {
    let reel = reel(&["resting"]);
    let mut game = Game::new(&reel);
    game.is("moving", true);
    game.pass(250);
    assert_eq!(game.bram.player().hold_index(&reel), Some(2));
    game.bram.set(reel.id("pace").unwrap(), 3.0).unwrap();
    assert_eq!(game.pass(5), [(250.0, "hurrying")]);
    // 250 of 400 ms is 150 of 240, and 5 ms more: hold 2, of which 25 ms are left.
    assert_eq!((game.clip(), game.bram.player().hold_index(&reel)), ("hurry", Some(2)));
    let step =
        game.bram.advance(&reel, millis(60)).find(|event| matches!(event.kind, EventKind::Mark(_)));
    assert_eq!(step.unwrap().at, millis(25));

    // After hovering it begins at hold 2 instead, all of which lies ahead.
    game.is("airborne", true);
    game.pass(10);
    game.is("airborne", false);
    game.pass(1);
    assert_eq!(game.bram.player().hold_index(&reel), Some(2));
    assert_eq!(game.bram.advance(&reel, millis(59)).map(|event| event.at).next(), Some(millis(59)));
}

#[test]
fn what_is_played_once_over_the_cues_is_not_played_once_by_them() {
    let reel = reel(&["resting"]);
    let walk: ClipId = reel.id("walk-down").unwrap();
    let mut bram = Actor::new(&reel, reel.id("").unwrap());
    bram.set(reel.id("moving").unwrap(), true).unwrap();
    bram.advance(&reel, millis(50));
    for clip in [walk, reel.id::<ClipId>("hurry").unwrap()] {
        bram.play_over_cues(&reel, clip, 1);
        bram.advance(&reel, millis(120));
        bram.return_to_cues(); // in phase with the cue's own clip, which is endless
        bram.advance(&reel, millis(4_000));
        assert!(bram.player().clip() == walk && !bram.player().has_ended());
    }
}

#[test]
fn speed_follows_its_fact_and_the_games_own() {
    let reel = reel(&["resting"]);
    let mut game = Game::new(&reel);
    game.is("moving", true);
    game.bram.set(reel.id("pace").unwrap(), 0.5).unwrap();
    game.bram.set_speed(&reel, Speed::from_f64(2.0).unwrap());
    game.pass(150);
    assert_eq!(
        (game.bram.player().speed(), game.bram.player().hold_index(&reel)),
        (Speed::NORMAL, Some(1))
    );
    game.bram.set(reel.id("pace").unwrap(), -0.5).unwrap();
    game.pass(60); // back the way it came
    assert_eq!(game.bram.player().hold_index(&reel), Some(0));
    game.bram.set(reel.id("pace").unwrap(), 1e30).unwrap_or(());
    game.pass(1);
    assert!(game.bram.player().speed() <= Speed::from_f64(32_767.0).unwrap());
    game.is("moving", false);
    game.pass(1);
    assert_eq!(game.bram.player().speed(), Speed::from_f64(2.0).unwrap());

    // By distance: 40 pixels in 400 ms at normal speed, so 50 pixels a second are half of it.
    let mut builder = builder();
    builder.cue("walking", NewCue::play_facings("walk").distance_from("pace"));
    let reel = builder.build().unwrap();
    let mut bram = Actor::new(&reel, reel.id("").unwrap());
    bram.set(reel.id("pace").unwrap(), 50.0).unwrap();
    let steps = bram
        .advance(&reel, Ticks::from_secs(4))
        .filter(|event| matches!(event.kind, EventKind::Mark(_)));
    assert_eq!(steps.count(), 10, "200 pixels, two steps in 40");
}

#[test]
fn a_pause_and_a_hit_stop_hold_the_clip_and_not_the_cues() {
    let reel = reel(&["resting"]);
    let mut game = Game::new(&reel);
    game.pass(100);
    game.bram.set_paused(true);
    game.is("moving", true);
    assert_eq!(game.pass(1_000), [(100.0, "walking")]);
    assert_eq!(game.bram.player().hold_index(&reel), Some(0));
    game.bram.set_paused(false);
    game.bram.hit_stop(millis(80));
    let first = game.bram.advance(&reel, millis(100)).next().unwrap();
    assert!(matches!(first.kind, EventKind::Enter(_)) && (first.hold, first.at) == (0, millis(80)));

    game.is("gone", true);
    game.pass(300);
    assert!(game.bram.view(&reel).is_none(), "it has vanished");
    game.is("gone", false);
    game.pass(1);
    assert!(game.bram.view(&reel).is_some(), "and comes back with another cue");
}

#[test]
fn cues_that_call_one_another_are_cut_off_in_each_instant() {
    let mut builder = builder();
    builder.cue("in", NewCue::play("idle").when(Condition::new().inside("open")));
    let out = NewCue::play("blow").when(Condition::new().fact("moving", true));
    builder.cue("out", out);
    builder.cue("resting", NewCue::play("idle"));
    let reel = builder.build().unwrap();
    let mut bram = Actor::new(&reel, reel.id("").unwrap());
    bram.set(reel.id("moving").unwrap(), true).unwrap();
    let events: Vec<Event> = bram.advance(&reel, Ticks::from_secs(1)).collect();
    let changes = events.iter().filter(|event| matches!(event.kind, EventKind::Cue(..))).count();
    assert!((2..20).contains(&changes), "{events:?}");

    let mut builder = Reel::builder();
    let sheet = builder.sheet("s", NewSheet::grid([8, 8], Grid::cell_size([8, 8])));
    builder.clip("a", NewClip::of(sheet).frames([0]).fps(1).span("s", 0..=0));
    builder.clip("b", NewClip::of(sheet).frames([0]).fps(1));
    builder.cue("b", NewCue::play("b").when(Condition::new().inside("s")));
    builder.cue("a", NewCue::play("a"));
    let reel = builder.build().unwrap();
    let mut bram = Actor::new(&reel, reel.id("").unwrap());
    let events: Vec<Event> = bram.advance(&reel, Ticks::new(1)).collect();
    let cut = events.iter().position(|event| event.kind == EventKind::CueLoop).unwrap();
    assert_eq!(cut, 2, "two cues, two changes: {events:?}");
    assert!(
        bram.advance(&reel, Ticks::from_secs(100)).all(|event| event.kind != EventKind::CueLoop)
    );
}

proptest! {
    /// Clothes change what is seen and nothing else; and an event is the same one after a rollback.
    #[test]
    fn looks_never_change_the_game(wear in prop::collection::vec(any::<bool>(), 20), moving in prop::collection::vec(any::<bool>(), 20)) {
        let mut builder = builder();
        let other = builder.sheet("other", NewSheet::grid([64, 64], Grid::cell_size([8, 8])));
        let sheet = builder.sheet("third", NewSheet::grid([64, 64], Grid::cell_size([8, 8])));
        builder.look("dusk", NewLook::new().sheet(sheet, other).clip("idle", "recover"));
        builder.cue("walking", NewCue::play_facings("walk").when(Condition::new().fact("moving", true)));
        builder.cue("resting", NewCue::play("idle"));
        let reel = builder.build().unwrap();
        let (dusk, fact) = (reel.id::<LookId>("dusk").unwrap(), reel.id("moving").unwrap());
        let role: RoleId = reel.id("").unwrap();
        let (mut plain, mut dressed) = (Actor::new(&reel, role), Actor::new(&reel, role));
        for (wear, moving) in wear.into_iter().zip(moving) {
            if wear { dressed.wear(&reel, dusk).unwrap() } else { _ = dressed.take_off(dusk) }
            for actor in [&mut plain, &mut dressed] {
                actor.set(fact, moving).unwrap();
            }
            let saved = dressed;
            let events: Vec<Event> = plain.advance(&reel, millis(77)).collect();
            prop_assert_eq!(&events, &dressed.advance(&reel, millis(77)).collect::<Vec<_>>());
            let mut again = saved;
            prop_assert_eq!(&events, &again.advance(&reel, millis(77)).collect::<Vec<_>>());
            prop_assert_eq!(plain.player(), dressed.player());
            let serials: Vec<u64> = events.iter().map(|event| event.serial).collect();
            let mut unlike = serials.clone();
            unlike.sort_unstable();
            unlike.dedup();
            prop_assert_eq!(unlike.len(), serials.len(), "every event has a serial of its own");
        }
    }
}

/// A bound is the number of the fact's kind that is written so: a fact of 0.1 is neither above nor below
/// 0.1.
#[test]
fn a_number_is_compared_as_it_is_written() {
    let mut builder = builder();
    let below = Condition::new().below("pace", 0.1);
    let exactly = Condition::new().within("pace", 0.1..=0.1);
    let above = Condition::new().above("pace", 0.1);
    builder.cue("below", NewCue::play("puff").when(below));
    builder.cue("exactly", NewCue::play("puff").when(exactly));
    builder.cue("above", NewCue::play("puff").when(above));
    builder.cue("resting", NewCue::play("idle"));
    let reel = builder.build().unwrap();
    let (role, pace) = (reel.id::<RoleId>("").unwrap(), reel.id::<FactId<f32>>("pace").unwrap());
    let mut bram = Actor::new(&reel, role);
    let failing = |bram: &Actor| -> Vec<Vec<Vec<usize>>> {
        reel.role(role).unwrap().cues().map(|cue| cue.failing(bram)).collect()
    };
    bram.set(pace, 0.1).unwrap();
    assert_eq!(failing(&bram), [vec![vec![0]], vec![], vec![vec![0]], vec![]]);
    bram.set(pace, 0.100_000_01).unwrap();
    assert!(failing(&bram)[2].is_empty() && !failing(&bram)[1].is_empty());
}

#[cfg(feature = "serde")]
#[test]
fn a_saved_actor_is_written_by_serde() {
    let reel = reel(&["resting"]);
    let mut game = Game::new(&reel);
    game.is("moving", true);
    game.pulse();
    game.pass(123);
    let text = serde_json::to_string(&game.bram.save(&reel)).unwrap();
    let read: Saved<Actor> = serde_json::from_str(&text).unwrap();
    assert_eq!(read.load(&reel).unwrap(), game.bram);
    let wrong = text.replace("\"version\":3", "\"version\":9");
    let read: Saved<Actor> = serde_json::from_str(&wrong).unwrap();
    assert!(read.load(&reel).unwrap_err().to_string().contains("version 9"));
}

/// A clip of one hold that goes on to one whose first hold, by a mark, sets how fast the cue plays. With
/// `chained` false the cue plays the second clip itself.
fn paced_by_a_mark(pace: f32, chained: bool) -> Reel {
    let mut builder = Reel::builder();
    let sheet = builder.sheet("s", NewSheet::grid([64, 8], Grid::cell_size([8, 8])));
    let each = Ticks::new(10);
    let first =
        NewClip::of(sheet).frames([0]).each(each).mode(Mode::Once).end(ClipEnd::Play("b".into()));
    builder.clip("a", first);
    let second = NewClip::of(sheet).frames(1..5).each(each).mark("set", [0]);
    builder.clip("b", second.mark_sets("set", "pace", pace));
    builder.fact("pace", 1.0);
    builder.cue("only", NewCue::play(if chained { "a" } else { "b" }).speed_from("pace"));
    builder.build().unwrap()
}

/// The speed that the mark sets, whether the clip is chained, and the holds entered: tick and number.
type Paced<'c> = (f32, bool, &'c [(u64, u32)]);

#[test]
fn a_speed_that_a_mark_sets_holds_from_its_exact_moment() {
    let entered = |reel: &Reel, step: u64| {
        let mut actor = Actor::new(reel, reel.id("").unwrap());
        let mut entered = Vec::new();
        for now in (0..60).step_by(step as usize) {
            let events = actor
                .advance(reel, Ticks::new(step))
                .filter(|event| matches!(event.kind, EventKind::Enter(_)));
            entered.extend(events.map(|event| (now + event.at.get(), event.hold)));
        }
        (actor, entered)
    };
    let cases: [Paced<'_>; 4] = [
        (
            2.0,
            true,
            &[
                (0, 0),
                (10, 0),
                (15, 1),
                (20, 2),
                (25, 3),
                (30, 0),
                (35, 1),
                (40, 2),
                (45, 3),
                (50, 0),
                (55, 1),
                (60, 2),
            ],
        ),
        (
            2.0,
            false,
            &[
                (0, 0),
                (5, 1),
                (10, 2),
                (15, 3),
                (20, 0),
                (25, 1),
                (30, 2),
                (35, 3),
                (40, 0),
                (45, 1),
                (50, 2),
                (55, 3),
                (60, 0),
            ],
        ),
        (0.0, true, &[(0, 0), (10, 0)]),
        (-0.0, true, &[(0, 0), (10, 0)]),
    ];
    for (pace, chained, expected) in cases {
        let reel = paced_by_a_mark(pace, chained);
        for step in [60, 20, 1] {
            let (actor, got) = entered(&reel, step);
            assert_eq!(got, expected, "at {pace}, in steps of {step}");
            assert_eq!(actor, entered(&reel, 60).0, "at {pace}, in steps of {step}");
        }
    }
}

/// Two marks that turn a clip to and fro over one boundary let time pass all the same.
#[test]
fn marks_that_turn_a_clip_to_and_fro_do_not_hang_it() {
    let mut builder = Reel::builder();
    let sheet = builder.sheet("s", NewSheet::grid([64, 8], Grid::cell_size([8, 8])));
    let clip = NewClip::of(sheet).frames(0..3).each(Ticks::new(2)).mark("back", [0]);
    let clip = clip.mark("on", [2]).mark_sets("back", "pace", -1.0).mark_sets("on", "pace", 1.0);
    builder.clip("a", clip);
    builder.fact("pace", 1.0);
    builder.cue("only", NewCue::play("a").speed_from("pace"));
    let reel = builder.build().unwrap();
    let mut whole = Actor::new(&reel, reel.id("").unwrap());
    let mut split = whole;
    let events = whole.advance(&reel, Ticks::from_secs(86_400));
    assert!(events.take(1_000).last().unwrap().at > Ticks::ZERO, "time passes");
    for parts in [1_u64, 3, 5, 7] {
        split.advance(&reel, Ticks::new(parts));
    }
    split.advance(&reel, Ticks::from_secs(86_400) - Ticks::new(16));
    assert_eq!(whole, split);
}

/// Hand-overs and marks over holds of one tick: a year costs no more than until the state repeats.
#[test]
fn a_year_of_tiny_holds_is_skipped() {
    let mut builder = Reel::builder();
    let sheet = builder.sheet("s", NewSheet::grid([64, 8], Grid::cell_size([8, 8])));
    for (name, value) in [("a", true), ("b", false)] {
        let clip = NewClip::of(sheet).frames(0..3).each(Ticks::new(1)).mark(name, [2]);
        builder.clip(name, clip.mark_sets(name, "other", value));
    }
    builder.fact("other", false);
    builder.cue("other", NewCue::play("b").when(Condition::new().fact("other", true)));
    builder.cue("one", NewCue::play("a"));
    let reel = builder.build().unwrap();
    let (mut whole, day) = (Actor::new(&reel, reel.id("").unwrap()), Ticks::from_secs(86_400));
    let mut split = whole;
    whole.advance(&reel, day * 365);
    for _ in 0..365 {
        split.advance(&reel, day);
    }
    assert_eq!(whole, split);
}
