//! Saving, replaying and reloading: players outlive the program and the reel.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use lucky_reel_core::*;
use proptest::prelude::*;

fn reel_of(clips: &[(&str, u32, u32)]) -> Reel {
    fill(Reel::builder(), clips)
}

/// Clips by name, number of frames and frames a second.
fn fill(mut builder: ReelBuilder, clips: &[(&str, u32, u32)]) -> Reel {
    let sheet = builder.sheet("s", NewSheet::grid([64, 8], Grid::cell_size([8, 8])));
    for (name, frames, fps) in clips {
        let clip = NewClip::of(sheet).frames(0..*frames).fps(*fps).mode(Mode::PingPong);
        builder.clip(name, clip.mark("step", [1]));
    }
    builder.build().unwrap()
}

const CLIPS: [(&str, u32, u32); 3] = [("walk", 4, 8), ("idle", 2, 3), ("puff", 8, 20)];

proptest! {
    /// Whatever a player has been through, it is the same after being written and read; and it plays
    /// on the same, also in a reel that lists its clips in another order.
    #[test]
    fn a_saved_player_plays_on(
        clip in 0_usize..3, bits in -200_000_i32..200_000, steps in prop::collection::vec(0_u64..90_000_000, 0..6),
        flags in any::<[bool; 4]>(),
    ) {
        let reel = reel_of(&CLIPS);
        let mut player = Player::new(&reel, reel.id(CLIPS[clip].0).unwrap());
        player.set_speed(Speed::from_bits(bits).unwrap());
        for step in steps {
            player.advance(&reel, Ticks::new(step));
        }
        if flags[0] { player.set_paused(true) }
        if flags[1] { player.hit_stop(Ticks::new(5_000_000)) }
        if flags[2] { player.stop() }
        player.set_flips(Flips { x: flags[3], y: false });

        if flags[2] { player.play_times(&reel, player.clip(), 9); }
        if flags[0] { _ = player.then(&reel, reel.id("puff").unwrap()); }
        let saved = player.save(&reel);
        prop_assert_eq!(saved.load(&reel), Ok(player));

        let shuffled = reel_of(&[CLIPS[2], CLIPS[0], CLIPS[1]]);
        prop_assert_eq!(reel.fingerprint(), shuffled.fingerprint());
        let mut there = saved.load(&shuffled).unwrap();
        prop_assert_eq!(there.hold_index(&shuffled), player.hold_index(&reel));
        let mut here = player;
        let moments = |player: &mut Player, reel: &Reel| -> Vec<Ticks> {
            player.advance(reel, Ticks::from_secs(2)).map(|event| event.at).collect()
        };
        prop_assert_eq!(moments(&mut there, &shuffled), moments(&mut here, &reel));
    }
}

/// One role, its parts added in one order or another, one of them changed or none.
fn role(turned: bool, change: usize) -> Reel {
    let mut builder = Reel::builder();
    let sheet = builder.sheet("s", NewSheet::grid([64, 8], Grid::cell_size([8, 8])));
    let clip = |fps| NewClip::of(sheet).frames(0..4).fps(fps).mark("hit", [1]);
    let clips: [(&str, NewClip); 3] = [
        ("walk", clip(8).mark_sets("hit", "foot", "left").mark_sets("hit", "lift", 2)),
        ("run", clip(if change == 1 { 12 } else { 11 }).span("open", 0..=change as u32 % 3)),
        ("leap", clip(9).mode(Mode::Once).end(ClipEnd::Play("run".into()))),
    ];
    let facts = [
        (
            "foot",
            NewFact::choices(if turned {
                ["none", "left", "right"]
            } else {
                ["none", "right", "left"]
            }),
        ),
        ("lift", NewFact::from(i32::from(change == 3))),
        ("blow", NewFact::pulse_for(Ticks::new(if change == 4 { 8 } else { 9 }))),
    ];
    let order = if turned { [2, 0, 1] } else { [0, 1, 2] };
    for nth in order {
        builder.clip(clips[nth].0, clips[nth].1.clone());
        builder.fact(facts[nth].0, facts[nth].1.clone());
    }
    let foot = if change == 5 { "right" } else { "left" };
    let leaping = Condition::new().fact("blow", true).fact("foot", foot).above("lift", 1.0);
    builder.cue("leaping", NewCue::play("leap").when(leaping));
    builder.cue("walking", NewCue::play("walk").when(Condition::new().inside("open")));
    builder.cue("running", NewCue::play(if change == 6 { "walk" } else { "run" }));
    builder.phases("legs", if turned { ["walk", "run"] } else { ["run", "walk"] }, Align::Time);
    builder.build().unwrap()
}

#[test]
fn a_fingerprint_tells_every_change_but_no_order() {
    let prints: Vec<u64> = (0..7).map(|change| role(false, change).fingerprint()).collect();
    for change in 0..7 {
        assert_eq!(role(true, change).fingerprint(), prints[change], "{change}");
        assert!(!prints[..change].contains(&prints[change]), "{change}");
    }
}

#[test]
fn a_lost_clip_is_an_error_and_not_a_wrong_picture() {
    let reel = reel_of(&CLIPS);
    let player = Player::new(&reel, reel.id("puff").unwrap());
    let without = reel_of(&CLIPS[..2]);
    let error = player.save(&reel).load(&without).unwrap_err();
    let RestoreError::Missing(missing) = &error else { panic!("{error}") };
    assert_eq!((missing.len(), missing[0].kind, &*missing[0].name), (1, "clip", "puff"));
    assert!(error.to_string().contains("the clip `puff`"));
    let idle: ClipId = without.id("idle").unwrap();
    let restored = player.save(&reel).restore(&without, |_| Some(idle)).unwrap();
    assert_eq!(restored, (Player::new(&without, idle), missing.clone()));
    assert_eq!(player.save(&reel).restore(&without, |_| None), Err(error));
    // Where only the clip that was to follow is lost, the clip's own end follows.
    let mut player = Player::new(&reel, reel.id("walk").unwrap());
    player.then(&reel, reel.id("puff").unwrap()).unwrap();
    assert!(player.save(&reel).load(&without).is_err());
    let (restored, missing) = player.save(&reel).restore(&without, |_| None).unwrap();
    assert_eq!(restored, Player::new(&without, without.id("walk").unwrap()));
    assert_eq!(missing.len(), 1);
}

#[test]
fn the_next_version_of_a_reel_keeps_ids_and_players() {
    let old = reel_of(&CLIPS);
    let [walk, idle, puff] = ["walk", "idle", "puff"].map(|name| old.id::<ClipId>(name).unwrap());
    let mut walking = Player::new(&old, walk);
    walking.advance(&old, Ticks::from_millis(700)); // on the way back, in hold 1
    assert_eq!(walking.hold_index(&old), Some(1));
    let mut puffing = Player::new(&old, puff);

    // `puff` is gone, `walk` has fewer and shorter holds, a new clip stands first.
    let new = fill(old.reload(), &[("hover", 3, 10), ("walk", 2, 40), ("idle", 2, 3)]);
    assert_eq!((new.id::<ClipId>("walk"), new.id::<ClipId>("idle")), (Ok(walk), Ok(idle)));
    assert!(new.id::<ClipId>("puff").is_err() && new.id::<ClipId>("hover").unwrap() != puff);
    assert_eq!(walking.hold_index(&new), Some(1));
    // It has at most the new length of its hold ahead: 25 ms.
    let first = walking.advance(&new, Ticks::from_secs(1)).next().unwrap();
    assert!(first.at <= Ticks::from_millis(25), "{first:?}");

    assert!(!puffing.belongs_to(&new) && puffing.view(&new).is_none());
    let before = puffing;
    assert_eq!(puffing.advance(&new, Ticks::from_secs(1)).count(), 0);
    assert_eq!(puffing, before, "it waits for its clip");
    let back = fill(new.reload(), &CLIPS);
    assert_eq!(back.id::<ClipId>("puff"), Ok(puff));
    assert!(puffing.advance(&back, Ticks::from_millis(60)).count() > 0);
}

#[test]
fn with_a_foreign_reel_nothing_moves_and_nothing_is_shown() {
    let reel = reel_of(&CLIPS);
    let foreign = reel_of(&[("walk", 8, 3), ("idle", 2, 1), ("puff", 2, 2)]);
    let mut player = Player::new(&reel, reel.id("puff").unwrap());
    player.advance(&reel, Ticks::from_millis(500));
    let before = player;
    assert!(player.belongs_to(&reel) && !player.belongs_to(&foreign));
    assert_eq!(player.advance(&foreign, Ticks::from_secs(9)).count(), 0);
    player.seek(&foreign, Ticks::from_secs(1));
    player.seek_hold(&foreign, 1);
    assert!(!player.step_forward(&foreign));
    assert_eq!(player, before);
    assert!(player.view(&foreign).is_none() && player.hold_index(&foreign).is_none());
    // Reported to play a clip of the other reel, it plays from that one.
    assert!(player.switch_to(&foreign, foreign.id::<ClipId>("puff").unwrap()));
    assert!(player.belongs_to(&foreign) && player.view(&foreign).is_some());
}

#[test]
fn after_a_rollback_events_are_recognized() {
    let reel = reel_of(&CLIPS);
    let mut player = Player::new(&reel, reel.id("walk").unwrap());
    let frame = Ticks::from_rate(60);
    let run = |player: &mut Player, updates: u32| -> Vec<u64> {
        (0..updates).flat_map(|_| player.advance(&reel, frame).map(|event| event.serial)).collect()
    };
    run(&mut player, 50);
    let saved = player; // a copy is a save
    let first = run(&mut player, 120);
    player = saved;
    assert_eq!(run(&mut player, 120), first);
    // Within a play, and from one play to the next, they all differ.
    player.restart(&reel);
    let mut all = first;
    all.extend(run(&mut player, 120));
    let count = all.len();
    all.sort_unstable();
    all.dedup();
    assert_eq!(all.len(), count);
}

/// Siblings, made from one base, and builds far apart in time differ: a player finds its place
/// again in any of them, and never plays another clip than its own.
#[test]
fn siblings_and_a_thousand_reloads_are_reported_apart() {
    let base = reel_of(&CLIPS);
    let walk: ClipId = base.id("walk").unwrap();
    let long = fill(base.reload(), &[("walk", 4, 1), ("run", 4, 2)]);
    let short = fill(base.reload(), &[("walk", 2, 60), ("dive", 2, 60)]);
    let mut player = Player::new(&long, walk);
    player.advance(&long, Ticks::from_millis(3_900)); // hold 3 of 4
    assert_eq!((player.hold_index(&long), player.hold_index(&short)), (Some(3), Some(1)));
    assert!(player.advance(&short, Ticks::from_rate(60)).count() > 0, "at most 1/60 s was left");
    // Names that one sibling alone has are no others in the other one.
    let (run, dive) = (long.id::<ClipId>("run").unwrap(), short.id::<ClipId>("dive").unwrap());
    assert!(run != dive && short.clip(run).is_none() && long.clip(dive).is_none());
    let running = Player::new(&long, run);
    assert!(
        running.belongs_to(&long) && !running.belongs_to(&short) && running.view(&short).is_none()
    );
    assert!(!player.play(&short, run) && player.clip() == walk);

    let mut reel = base;
    let mut player = Player::new(&reel, walk);
    player.advance(&reel, Ticks::from_millis(500));
    let first = player;
    for nth in 0..1_000_u32 {
        let fps = 1 + nth % 50;
        reel = fill(reel.reload(), &[("walk", 3 + nth % 5, fps), ("idle", 2, 3)]);
        assert_eq!(reel.id::<ClipId>("walk"), Ok(walk));
        // The one that was left behind a thousand builds ago, and the one that came along.
        for mut player in [first, player] {
            let shown = player.hold_index(&reel).unwrap();
            assert!(shown < 3 + nth % 5);
            let next = player.advance(&reel, Ticks::from_secs(1)).next().unwrap();
            assert!(next.at <= Ticks::from_secs(1), "{next:?}");
        }
        player.advance(&reel, Ticks::from_millis(7));
        let saved = player.save(&reel);
        assert_eq!(saved.load(&reel), Ok(player));
    }
}

/// An id of another reel is refused wherever it is given, and never read as another name.
#[test]
fn ids_of_another_reel_are_refused() {
    let fill = |names: [&str; 2]| {
        let mut builder = Reel::builder();
        let sheet = builder.sheet(names[0], NewSheet::grid([64, 8], Grid::cell_size([8, 8])));
        for name in names {
            let clip = NewClip::of(sheet).frames(0..4).fps(8).mark(name, [1]).span(name, 0..=1);
            builder.clip(name, clip);
        }
        builder.facings(names[0], NewFacings::new().clip(Facing::Down, names[0]));
        builder.look(names[0], NewLook::new().clip(names[0], names[1]));
        builder.fact("moving", false);
        builder.cue(names[0], NewCue::play(names[0]));
        builder.build().unwrap()
    };
    let (reel, other) = (fill(["walk", "idle"]), fill(["fan", "lamp"]));
    let [walk, fan] = [reel.id::<ClipId>("walk").unwrap(), other.id::<ClipId>("fan").unwrap()];
    assert_eq!(walk.index(), fan.index());
    let mut player = Player::new(&reel, fan);
    assert!(!player.belongs_to(&reel) && player.view(&reel).is_none());
    assert_eq!(player.advance(&reel, Ticks::from_secs(1)).count(), 0);
    assert!(player.play(&reel, walk));
    let before = player;
    assert!(!player.play(&reel, fan) && !player.switch_to(&reel, fan));
    assert_eq!(player.then(&reel, fan), Err(CommandError::UnknownId));
    assert!(!player.play_times(&reel, fan, 2));
    let facings: FacingSetId = other.id("fan").unwrap();
    assert!(!player.face(&reel, facings, Facing::Down));
    assert!(!player.in_span(&reel, other.id::<SpanId>("fan").unwrap()));
    assert_eq!(player, before);
    let (mark, look) = (other.id::<MarkId>("fan").unwrap(), other.id::<LookId>("fan").unwrap());
    assert!(player.advance(&reel, Ticks::from_secs(1)).all(|event| !event.is_mark(mark)));
    assert_eq!(LookSet::NOTHING.clone().wear(&reel, look), Err(CommandError::UnknownId));
    assert!(reel.clip(fan).is_none() && reel.name(fan).is_empty());
    assert!(reel.frames_of(other.id::<SheetId>("fan").unwrap()).next().is_none());

    let mut actor = Actor::new(&reel, reel.id("").unwrap());
    assert_eq!(actor.set(other.id("moving").unwrap(), true), Err(CommandError::UnknownId));
    assert!(!actor.play_over_cues(&reel, fan, 1) && actor.wear(&reel, look).is_err());
    let foreign = Actor::new(&reel, other.id("").unwrap());
    assert!(foreign.view(&reel).is_none());
    let mut unison = Unison::new(&reel);
    assert!(
        unison.packed_frame(walk).frame().is_some() && unison.packed_frame(fan).frame().is_none()
    );
    assert!(!unison.set_clip_speed(fan, Speed::STILL) && !unison.reload(&other));
    let mut crowd = Crowd::new(&reel);
    let unknown = Err(CommandError::UnknownId);
    assert_eq!(crowd.spawn(fan), unknown);
    assert_eq!(crowd.spawn(other.id::<RoleId>("").unwrap()), unknown);
    let member = crowd.spawn(walk).unwrap();
    assert_eq!((crowd.play(member, fan), crowd.switch_to(member, fan)), (0, 0));
    assert!(crowd.wear(member, look).is_err());
}

/// Everything that can be saved goes through text and binary formats alike.
#[cfg(feature = "serde")]
#[test]
fn everything_goes_through_any_serde_format() {
    fn through<T: serde::Serialize + serde::de::DeserializeOwned + PartialEq + core::fmt::Debug>(
        saved: &T,
    ) {
        let text = serde_json::to_string(saved).unwrap();
        assert_eq!(&serde_json::from_str::<T>(&text).unwrap(), saved, "{text}");
        let bytes = postcard::to_allocvec(saved).unwrap();
        assert_eq!(&postcard::from_bytes::<T>(&bytes).unwrap(), saved);
    }
    let mut builder = Reel::builder();
    let sheet = builder.sheet("s", NewSheet::grid([64, 8], Grid::cell_size([8, 8])));
    let walk = builder.clip("walk", NewClip::of(sheet).frames(0..4).fps(7));
    let puff = builder.clip("puff", NewClip::of(sheet).frames(4..8).fps(20).mode(Mode::Once));
    builder.fact("moving", false);
    builder.fact("lift", 0.5);
    builder.fact("steps", 3);
    builder.fact("foot", NewFact::choices(["none", "left"]));
    builder.fact("blow", NewFact::pulse_for(Ticks::from_millis(500)));
    builder.cue("walking", NewCue::play("walk"));
    let reel = builder.build().unwrap();

    let mut player = Player::new(&reel, walk);
    player.advance(&reel, Ticks::from_millis(777));
    player.then(&reel, puff).unwrap();
    through(&player.save(&reel));
    let text = serde_json::to_string(&player.save(&reel)).unwrap();
    assert!(text.starts_with(r#"{"version":3,"names":{"clips":["walk","puff"]"#), "{text}");
    // Another version of the format is refused, whatever follows.
    let other = text.replace(r#""version":3"#, r#""version":2"#);
    let other: Saved<Player> = serde_json::from_str(&other).unwrap();
    assert_eq!(other.load(&reel), Err(RestoreError::Version { found: 2 }));
    assert_eq!(other.restore(&reel, |_| None), Err(RestoreError::Version { found: 2 }));
    assert!(serde_json::from_str::<Saved<Player>>(&text.replace("hold", "hodl")).is_err());

    let mut actor = Actor::new(&reel, reel.id("").unwrap());
    actor.set(reel.id("moving").unwrap(), true).unwrap();
    actor.set(reel.id("lift").unwrap(), -1.25_f32).unwrap();
    actor.pulse(reel.id("blow").unwrap()).unwrap();
    actor.advance(&reel, Ticks::from_millis(100));
    through(&actor.save(&reel));
    let bytes = postcard::to_allocvec(&actor.save(&reel)).unwrap();
    let read: Saved<Actor> = postcard::from_bytes(&bytes).unwrap();
    assert_eq!(read.load(&reel), Ok(actor));

    let mut crowd = Crowd::new(&reel);
    let group = crowd.add_group().unwrap();
    let member = crowd.spawn(NewMember::playing(walk).in_group(group)).unwrap();
    crowd.spawn(actor).unwrap();
    crowd.sleep_group(group);
    crowd.advance(Ticks::from_millis(50));
    through(&crowd.save());
    let mut unison = Unison::new(&reel);
    unison.advance(Ticks::from_millis(123));
    through(&unison.save());
    through(&(member, group, Ticks::from_millis(3), Speed::BACKWARD, Facing::UpLeft));
    assert!(serde_json::from_str::<Speed>("2147483647").is_err(), "no speed is so large");
}

/// A reload gives an ended clip more holds: it stands at the new last one, and cues see it there at once.
#[test]
fn after_a_reload_cues_see_the_hold_that_an_ended_clip_stands_at() {
    let build = |mut builder: ReelBuilder, holds: u32| {
        let sheet = builder.sheet("bram", NewSheet::grid([128, 32], Grid::cell_size([32, 32])));
        builder.clip("idle", NewClip::of(sheet).frames(0..2).fps(8));
        let wave = NewClip::of(sheet).frames(0..holds).fps(8).mode(Mode::Once);
        builder.clip("wave", wave.span("early", 0..=0));
        if holds == 1 {
            builder.cue("waving", NewCue::play("wave"));
        } else {
            let early = Condition::new().inside("early");
            builder.cue("waving", NewCue::play("wave").when(early));
            builder.cue("resting", NewCue::play("idle"));
        }
        builder.build().unwrap()
    };
    let before = build(Reel::builder(), 1);
    let after = build(before.reload(), 3);
    let mut bram = Actor::new(&before, before.id("").unwrap());
    bram.advance(&before, Ticks::from_secs(1));
    assert!(bram.player().has_ended());
    assert_eq!(bram.player().hold_index(&after), Some(2));
    let mut saved = bram.save(&after).load(&after).unwrap();
    for actor in [&mut bram, &mut saved] {
        actor.advance(&after, Ticks::from_millis(1));
        assert_eq!(actor.cue(), Some(after.id::<CueId>("resting").unwrap()));
    }
}
