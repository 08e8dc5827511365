//! Facings, looks and facts: what they mean, and what is refused.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use lucky_reel_core::*;
use proptest::prelude::*;

/// The facing whose direction lies nearest, by its angle; `None` on a border.
fn by_angle([x, y]: [f32; 2], ways: &[Facing]) -> Option<Facing> {
    let degrees = |facing: Facing| 45.0 * facing as usize as f64;
    // Down is 0 degrees, and right is 90.
    let angle = f64::from(x).atan2(f64::from(y)).to_degrees();
    let apart = |facing: &Facing| {
        let turn = (angle - degrees(*facing)).rem_euclid(360.0);
        turn.min(360.0 - turn)
    };
    let mut sorted = ways.to_vec();
    sorted.sort_by(|a, b| apart(a).total_cmp(&apart(b)));
    (apart(&sorted[1]) - apart(&sorted[0]) > 1e-3).then_some(sorted[0])
}

proptest! {
    #[test]
    fn a_vector_faces_what_is_nearest_and_sticks(
        x in -9.0_f32..9.0, y in -9.0_f32..9.0, before in 0_usize..8, way in 0_usize..3, hysteresis in 0.0_f32..20.0,
    ) {
        use Facing::*;
        let ways: [&[Facing]; 3] = [&[Right, Left], &[Down, Right, Up, Left], &Facing::ALL];
        let aim = [Directions::TWO, Directions::FOUR, Directions::EIGHT][way].hysteresis(hysteresis).unwrap();
        let before = Facing::ALL[before];
        let nearest = by_angle([x, y], ways[way]);
        prop_assume!(nearest.is_some() && x != 0.0);
        let faced = Facing::from_vector([x, y], before, aim);
        // It stays within its own sector and so many degrees beyond, and else is the nearest.
        let angle = f64::from(x).atan2(f64::from(y)).to_degrees();
        let turn = (angle - 45.0 * before as usize as f64).rem_euclid(360.0);
        let turn = turn.min(360.0 - turn);
        let border = [90.0, 45.0, 22.5][way] + f64::from(hysteresis);
        prop_assume!((turn - border).abs() > 1e-2);
        let stays = ways[way].contains(&before) && turn < border;
        prop_assert_eq!(faced, if stays { before } else { nearest.unwrap() });
        // Within the dead zone, and for what is no direction, nothing changes.
        let wide = aim.dead_zone(20.0).unwrap();
        prop_assert_eq!(Facing::from_vector([x, y], before, wide), before);
        for none in [f32::NAN, f32::INFINITY] {
            prop_assert_eq!(Facing::from_vector([none, y], before, aim), before);
        }
    }
}

/// Walk down and right, left as the mirror of right; a run of another length in step.
fn builder() -> ReelBuilder {
    let mut builder = Reel::builder();
    let sheet = builder.sheet(
        "day",
        NewSheet::grid([64, 32], Grid::cell_size([8, 8])).pivot(Pivot::At([3.0, 8.0])),
    );
    let walk = |from: u32| {
        let frames = NewClip::of(sheet).frames(from..from + 4).each(Ticks::new(10));
        frames.mark("left-foot", [1]).mark("right-foot", [3])
    };
    builder.clip("walk-down", walk(0));
    builder.clip("walk-right", walk(8).mark("a", [1]));
    builder.clip("slow", NewClip::of(sheet).frames(0..2).each(Ticks::new(35)));
    builder.clip("lantern", NewClip::of(sheet).frames(16..20).each(Ticks::new(1)));
    let set = NewFacings::new().clip(Facing::Down, "walk-down").clip(Facing::Right, "walk-right");
    let swap = [("left-foot", "right-foot")];
    builder.facings("walk", set.mirror_swapping(Facing::Left, Facing::Right, swap));
    builder
}

#[test]
fn a_mirrored_facing_is_a_clip_with_its_marks_swapped() {
    let reel = builder().build().unwrap();
    let set: FacingSetId = reel.id("walk").unwrap();
    let left = reel.facing_set(set).unwrap().clip(Facing::Left);
    assert_eq!(reel.id::<ClipId>("walk-left"), Ok(left));
    let marks = |clip: ClipId| -> Vec<(u32, String)> {
        let clip = reel.clip(clip).unwrap();
        clip.marks().map(|at| (at.hold, reel.name(at.mark).to_owned())).collect()
    };
    let reported = |list: &[(u32, &str)]| -> Vec<(u32, String)> {
        list.iter().map(|(hold, name)| (*hold, (*name).to_owned())).collect()
    };
    assert_eq!(marks(left), reported(&[(1, "a"), (1, "right-foot"), (3, "left-foot")]));

    // What is missing falls to the nearest: to the side first, then down.
    let falls = |facing| reel.name(reel.facing_set(set).unwrap().clip(facing));
    let all = Facing::ALL.map(falls);
    let (down, right, left_name) = ("walk-down", "walk-right", "walk-left");
    assert_eq!(all, [down, right, right, right, right, left_name, left_name, left_name]);

    // Flipping is about the pivot, and the game's own flip comes on top.
    let mut player = Player::new(&reel, left);
    let view = player.view(&reel).unwrap();
    assert!(view.flips.x && view.blit([0, 0], 1).at == [-5, -8]);
    player.set_flips(Flips::X);
    assert!(!player.view(&reel).unwrap().flips.x);
}

#[test]
fn turning_keeps_the_place_and_reports_no_marks() {
    let reel = builder().build().unwrap();
    let set: FacingSetId = reel.id("walk").unwrap();
    let mut bram = Player::new(&reel, reel.id("slow").unwrap());
    bram.face(&reel, set, Facing::Down); // not of the set: from its start
    let first = bram.advance(&reel, Ticks::new(53)).next().unwrap();
    assert!(matches!(first.kind, EventKind::Enter(_)) && first.hold == 0);
    for _ in 0..3 {
        bram.face(&reel, set, Facing::UpRight);
    }
    let events: Vec<Event> = bram.advance(&reel, Ticks::new(7)).collect();
    let reported =
        events.iter().map(|event| (event.at.get(), matches!(event.kind, EventKind::Mark(_))));
    // It lands 3 ticks into hold 1 of the second cycle, whose mark it does not report; hold 2 follows.
    assert_eq!(reported.collect::<Vec<_>>(), [(0, false), (7, false)], "{events:?}");
    assert_eq!((bram.hold_index(&reel), bram.cycle()), (Some(2), 1));
    // The share of the cycle is rounded down: 60 of 40 is 20 of the second cycle.
    let mut builder = builder();
    let sheet = builder.sheet("other", NewSheet::grid([8, 8], Grid::cell_size([8, 8])));
    builder.clip("odd-right", NewClip::of(sheet).hold(0, Ticks::new(7)).hold(0, Ticks::new(6)));
    let odd = NewFacings::new().clip(Facing::Down, "walk-down").clip(Facing::Right, "odd-right");
    let odd = builder.facings("odd", odd);
    let reel = builder.build().unwrap();
    let mut bram = Player::new(&reel, reel.id("walk-down").unwrap());
    bram.advance(&reel, Ticks::new(21));
    bram.face(&reel, odd, Facing::Right);
    // ⌊21 × 13 ÷ 40⌋ in 65,536ths of a tick is 6.825: hold 0, with 0.175 ticks to go.
    assert_eq!(bram.hold_index(&reel), Some(0));
    let crossed = bram.advance(&reel, Ticks::new(1)).nth(1).unwrap();
    assert!(
        matches!(crossed.kind, EventKind::Enter(_))
            && (crossed.hold, crossed.at) == (1, Ticks::new(1))
    );
}

#[test]
fn looks_change_pictures_and_nothing_else() {
    let mut builder = builder();
    let day = builder.sheet("bare", NewSheet::grid([64, 32], Grid::cell_size([8, 8])));
    let dusk = builder.sheet("bare.dusk", NewSheet::grid([64, 32], Grid::cell_size([8, 8])));
    let own =
        NewClip::of(day).frames([5, 6, 7, 8]).each(Ticks::new(10)).pivot(Pivot::At([1.0, 1.0]));
    let own = builder.clip("own", own);
    let at_dusk = builder.look("dusk", NewLook::new().sheet(day, dusk));
    let lantern = builder
        .look("lantern", NewLook::new().clip("own", "lantern").clip("walk-right", "lantern"));
    let reel = builder.build().unwrap();
    let index = |view: &View<'_>| reel.frame(view.id).unwrap().index;
    let mut player = Player::new(&reel, own);
    player.advance(&reel, Ticks::new(15));

    let mut worn = LookSet::NOTHING;
    let seen = |player: &Player, worn: &LookSet| {
        let view = player.view_with(&reel, worn).unwrap();
        (view.frame.image.index(), index(&view), view.frame.pivot(), view.flips.x)
    };
    assert_eq!(seen(&player, &worn), (1, 6, [1.0, 1.0], false));
    worn.wear(&reel, at_dusk).unwrap();
    assert_eq!(seen(&player, &worn), (2, 6, [1.0, 1.0], false), "the clip's pivot is kept");
    worn.wear(&reel, lantern).unwrap();
    assert_eq!(seen(&player, &worn), (0, 17, [3.0, 8.0], false), "the later one wins");
    // What a look has for a clip it has for its mirror.
    let left = Player::new(&reel, reel.id("walk-left").unwrap());
    assert_eq!(seen(&left, &worn), (0, 16, [3.0, 8.0], true));
    worn.take_off(lantern);
    assert_eq!(worn.iter().collect::<Vec<_>>(), [at_dusk]);
    worn.wear(&reel, lantern).unwrap();
    worn.wear(&reel, at_dusk).unwrap();
    assert_eq!(
        worn.iter().collect::<Vec<_>>(),
        [lantern, at_dusk],
        "worn again, it comes uppermost"
    );

    let mut many = Reel::builder();
    let sheet = many.sheet("s", NewSheet::grid([8, 8], Grid::cell_size([8, 8])));
    many.clip("c", NewClip::of(sheet).frames([0]).fps(1));
    let looks = ["a", "b", "c", "d", "e"].map(|name| many.look(name, NewLook::new()));
    let many = many.build().unwrap();
    let mut worn = LookSet::NOTHING;
    let wear = looks.map(|look| worn.wear(&many, look));
    assert_eq!(wear, [Ok(()), Ok(()), Ok(()), Ok(()), Err(CommandError::TooManyLooks)]);
    worn.take_off(looks[0]);
    assert_eq!(worn.wear(&reel, looks[4]), Err(CommandError::UnknownId));
}

/// A role with one of each fact.
fn reported() -> Reel {
    let mut builder = builder();
    builder.fact("moving", false);
    builder.fact("hits", 3);
    builder.fact("lift", 0.5);
    builder.fact("foot", NewFact::choices(["none", "left"]));
    builder.fact("hurt", NewFact::pulse());
    builder
        .cue("walking", NewCue::play_facings("walk").when(Condition::new().fact("moving", true)));
    builder.cue("resting", NewCue::play("slow"));
    builder.build().unwrap()
}

#[test]
fn facts_are_reported_by_their_kind_and_numbers_must_be_finite() {
    let reel = reported();
    let mut bram = Actor::new(&reel, reel.id("").unwrap());
    let lift: FactId<f32> = reel.id("lift").unwrap();
    assert_eq!(bram.set(lift, f32::NAN), Err(CommandError::Value));
    assert_eq!(bram.set(lift, -2.0), Ok(()));
    let error = reel.id::<FactId<bool>>("lift").unwrap_err().to_string();
    assert_eq!(error, "the fact `lift` is a number, not yes or no: ask for it as what it is");
    assert!(
        reel.id::<FactId<i32>>("hit").unwrap_err().to_string().contains("did you mean `hits`?")
    );
    let foot: FactId<ChoiceId> = reel.id("foot").unwrap();
    bram.set(foot, reel.id("foot = left").unwrap()).unwrap();
    let error = reel.id::<ChoiceId>("foot = lft").unwrap_err().to_string();
    assert!(error.contains("did you mean `left`?"), "{error}");
    assert_eq!(bram.set_by_name(&reel, "foot", &"up".into()), Err(CommandError::Value));
    assert_eq!(bram.set_by_name(&reel, "feet", &true.into()), Err(CommandError::UnknownId));

    // A fact of another role is refused; and with a foreign reel nothing moves.
    let mut other = Reel::builder();
    other.role("moth");
    let sheet = other.sheet("s", NewSheet::grid([8, 8], Grid::cell_size([8, 8])));
    other.clip("c", NewClip::of(sheet).frames([0]).fps(1));
    other.cue("a", NewCue::play("c"));
    other.role("bat");
    other.fact("moving", false);
    other.cue("b", NewCue::play("moth/c"));
    let other = other.build().unwrap();
    let mut moth = Actor::new(&other, other.id("moth").unwrap());
    assert_eq!(moth.set(other.id("moving").unwrap(), true), Err(CommandError::OtherRole));
    assert_eq!(moth.advance(&reel, Ticks::from_secs(1)).count(), 0);
    assert!(moth.view(&reel).is_none() && moth.view(&other).is_some());
}

#[test]
fn an_actor_outlives_a_reload_and_hears_of_new_cues_at_once() {
    let reel = reported();
    let mut bram = Actor::new(&reel, reel.id("").unwrap());
    bram.set(reel.id("moving").unwrap(), true).unwrap();
    bram.advance(&reel, Ticks::new(14));
    let mut next = reel.reload();
    let sheet = next.sheet("day", NewSheet::grid([64, 32], Grid::cell_size([8, 8])));
    next.clip("walk-down", NewClip::of(sheet).frames(0..4).each(Ticks::new(10)));
    next.clip("dance", NewClip::of(sheet).frames(0..4).each(Ticks::new(10)));
    next.facings("walk", NewFacings::new().clip(Facing::Down, "walk-down"));
    next.fact("moving", false);
    next.cue("walking", NewCue::play_facings("walk").when(Condition::new().fact("moving", true)));
    next.cue("resting", NewCue::play("dance"));
    let next = next.build().unwrap();
    let mut goes_on = bram;
    assert_eq!(goes_on.advance(&next, Ticks::new(3)).count(), 0, "it plays on where it was");
    assert_eq!(
        (goes_on.player().hold_index(&next), goes_on.cue()),
        (Some(1), reel.id::<CueId>("walking").ok())
    );
    assert!(bram.save(&reel).load(&next).is_err());
    let (restored, missing) = bram.save(&reel).restore(&next, |_| None).unwrap();
    assert_eq!(restored.cue(), reel.id::<CueId>("walking").ok());
    assert!(
        missing.iter().any(|name| name.to_string().starts_with("there is no fact `hurt`")),
        "{missing:?}"
    );
    #[cfg(feature = "serde")]
    {
        let bytes = postcard::to_allocvec(&bram.save(&reel)).unwrap();
        for at in 0..bytes.len() {
            let mut damaged = bytes.clone();
            damaged[at] ^= 0x55;
            let saved = postcard::from_bytes::<Saved<Actor>>(&damaged);
            if let Some(mut actor) = saved.ok().and_then(|saved| saved.load(&reel).ok()) {
                let _ = actor.advance(&reel, Ticks::from_secs(100)).take(50).count();
            }
        }
    }
}

#[test]
fn facings_have_names_and_mirrors() {
    for facing in Facing::ALL {
        assert_eq!(Facing::from_name(facing.name()), Some(facing));
        assert_eq!(facing.mirrored().mirrored(), facing);
    }
    assert_eq!(Facing::from_name("north"), None);
    for (aim, words) in [
        (Directions::FOUR.dead_zone(-0.1), "the dead zone"),
        (Directions::FOUR.dead_zone(f32::NAN), "the dead zone"),
        (Directions::EIGHT.hysteresis(21.0), "the hysteresis degrees"),
    ] {
        assert!(aim.unwrap_err().to_string().contains(words));
    }
}
