//! The laws of actors, on random roles and scripts: against a naive actor that is walked tick by
//! tick, and any split of the same time.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

#[allow(dead_code)] // some of it is for players alone
mod model;
#[allow(dead_code)] // some of it is for other tests
mod reference_actor;

use lucky_reel_core::*;
use proptest::collection::vec;
use proptest::prelude::*;
use reference_actor::{CLIPS, Naive, Row, reported, seen, spec};
use std::ops::RangeBounds;

/// A command to an actor.
#[derive(Clone, Debug)]
enum Order {
    A(bool),
    N(i32),
    P,
    Q,
    Face(usize),
    /// In quarters.
    Pace(i32),
    Times(usize, u32),
    Then(usize),
    Yield(usize),
    Return,
    HitStop(u64),
    Pause(bool),
    /// In 65,536ths.
    Speed(i32),
}

fn tell() -> impl Strategy<Value = Order> {
    prop_oneof![
        any::<bool>().prop_map(Order::A),
        (0_i32..4).prop_map(Order::N),
        Just(Order::P),
        Just(Order::Q),
        (0_usize..8).prop_map(Order::Face),
    ]
}

/// Any command.
fn tell_anything() -> impl Strategy<Value = Order> {
    prop_oneof![
        6 => tell(),
        2 => (0..CLIPS, 0_u32..3).prop_map(|(clip, times)| Order::Times(clip, times)),
        1 => (0..CLIPS).prop_map(Order::Then),
        1 => (0_usize..5).prop_map(Order::Yield),
        1 => Just(Order::Return),
        2 => (-6_i32..9).prop_map(Order::Pace),
        1 => (0_u64..9).prop_map(Order::HitStop),
        1 => any::<bool>().prop_map(Order::Pause),
        1 => (-5_i32..9).prop_map(|quarters| Order::Speed(quarters << 14)),
        1 => (-200_000_i32..200_000).prop_map(|bits| Order::Speed(bits & !3)),
    ]
}

fn clip(reel: &Reel, nth: usize) -> ClipId {
    reel.id::<ClipId>(&format!("c{nth}")).unwrap()
}

fn tell_actor(actor: &mut Actor, reel: &Reel, tell: &Order) {
    match *tell {
        Order::A(value) => actor.set(reel.id("a").unwrap(), value).unwrap(),
        Order::N(value) => actor.set(reel.id("n").unwrap(), value).unwrap(),
        Order::P => actor.pulse(reel.id("p").unwrap()).unwrap(),
        Order::Q => actor.pulse(reel.id("q").unwrap()).unwrap(),
        Order::Face(nth) => actor.set_facing(Facing::ALL[nth]),
        Order::HitStop(ticks) => actor.hit_stop(Ticks::new(ticks)),
        Order::Times(nth, times) => _ = actor.play_over_cues(reel, clip(reel, nth), times),
        Order::Then(nth) => _ = actor.then(reel, clip(reel, nth)),
        Order::Yield(nth) => {
            if let Ok(cue) = reel.id::<CueId>(&format!("k{nth}")) {
                let _ = actor.yield_to_cues_above(reel, cue);
            }
        }
        Order::Return => actor.return_to_cues(),
        Order::Pause(true) => actor.set_paused(true),
        Order::Pause(false) => actor.set_paused(false),
        Order::Speed(bits) => actor.set_speed(reel, Speed::from_bits(bits).unwrap()),
        Order::Pace(quarters) => {
            actor.set(reel.id("pace").unwrap(), quarters as f32 / 4.0).unwrap();
        }
    }
}

fn tell_naive(naive: &mut Naive<'_>, tell: &Order) {
    match *tell {
        Order::A(value) => naive.set_a(value),
        Order::N(value) => naive.set_n(value),
        Order::P => naive.pulse(0),
        Order::Q => naive.pulse(1),
        Order::Face(nth) => naive.face(Facing::ALL[nth]),
        Order::Pace(quarters) => naive.set_pace(i64::from(quarters)),
        Order::Times(nth, times) => naive.play_times(nth, i64::from(times)),
        Order::Then(nth) => naive.then(nth),
        Order::Yield(nth) => naive.yield_to_cues_above(nth),
        Order::Return => naive.return_to_cues(),
        Order::HitStop(ticks) => naive.hit_stop(ticks),
        Order::Pause(paused) => naive.pause(paused),
        Order::Speed(bits) => naive.set_speed(i64::from(bits)),
    }
}

/// Commands at ticks, in order.
fn script(tell: impl Strategy<Value = Order>) -> impl Strategy<Value = Vec<(u64, Order)>> {
    vec((1_u64..60, tell), 0..12).prop_map(|mut script| {
        script.sort_by_key(|(at, _)| *at);
        script
    })
}

/// Runs an actor through a script, each stretch in steps of at most `step` ticks.
fn run(reel: &Reel, script: &[(u64, Order)], lasting: u64, step: u64) -> (Actor, Vec<Row>) {
    let mut actor = Actor::new(reel, reel.id("").unwrap());
    let (mut now, mut rows) = (0, Vec::new());
    for (at, tell) in script.iter().map(|(at, tell)| (*at, Some(tell))).chain([(lasting, None)]) {
        while now < at {
            let dt = step.min(at - now);
            let events = actor.advance(reel, Ticks::new(dt));
            rows.extend(events.map(|event| reported(reel, now + event.at.get(), event)));
            now += dt;
        }
        if let Some(tell) = tell {
            tell_actor(&mut actor, reel, tell);
        }
    }
    (actor, rows)
}

proptest! {
    /// Row by row what the laws say: first match, finish, bridges, pulses, spans, marks, phases, facings,
    /// speeds, pauses, and what plays over the cues.
    #[test]
    fn an_actor_does_what_the_naive_one_does(spec in spec(), script in script(tell_anything())) {
        let reel = spec.build();
        let (actor, rows) = run(&reel, &script, 80, 80);
        let mut naive = Naive::new(&spec);
        for tick in 0..80 {
            script.iter().filter(|(at, _)| *at == tick).for_each(|(_, tell)| tell_naive(&mut naive, tell));
            naive.tick();
        }
        let first = rows.iter().zip(&naive.rows).position(|(a, b)| a != b);
        let first = first.unwrap_or(rows.len().min(naive.rows.len()));
        let near = |rows: &[Row]| rows[first.saturating_sub(6)..(first + 4).min(rows.len())].to_vec();
        prop_assert!(rows == naive.rows, "actor {:?}\nnaive {:?}", near(&rows), near(&naive.rows));
        prop_assert_eq!(seen(&reel, &actor), naive.seen());
    }

    /// Any split of the same time gives the same state, bit for bit, and the same events; and what is
    /// saved acts on.
    #[test]
    fn any_split_gives_the_same(
        spec in spec(), script in script(tell_anything()), step in 1_u64..30,
    ) {
        let reel = spec.build();
        let (whole, whole_rows) = run(&reel, &script, 200, 200);
        let (split, split_rows) = run(&reel, &script, 200, step);
        prop_assert_eq!(whole_rows, split_rows);
        prop_assert_eq!(whole, split);
        prop_assert_eq!(whole.save(&reel).load(&reel).unwrap(), whole);
    }

    /// A crowd of actors acts as single ones do, looked after by their handles.
    #[test]
    fn a_crowd_of_actors_is_its_members(
        spec in spec(), scripts in vec(script(tell_anything()), 1..4), step in 1_u64..9,
    ) {
        let reel = spec.build();
        let role: RoleId = reel.id("").unwrap();
        let mut crowd = Crowd::new(&reel);
        let mut actors: Vec<(MemberId, Actor)> = scripts.iter().map(|_| {
            (crowd.spawn(role).unwrap(), Actor::new(&reel, role))
        }).collect();
        let player = crowd.spawn(reel.id::<ClipId>("spare").unwrap()).unwrap();
        for now in (0..60).step_by(step as usize) {
            let due = |at: &u64| (now..now + step).contains(at);
            for (script, (handle, actor)) in scripts.iter().zip(&mut actors) {
                for (_, tell) in script.iter().filter(|(at, _)| due(at)) {
                    tell_actor(actor, &reel, tell);
                    let reached =
                        crowd.with_actor(*handle, |actor, reel| tell_actor(actor, reel, tell));
                    prop_assert_eq!(reached, 1);
                }
            }
            let mut buffer = EventBuffer::new();
            crowd.advance_into(Ticks::new(step), EventMask::ALL, &mut buffer);
            let events: Vec<_> =
                buffer.iter().filter(|(member, _)| *member != player).collect();
            let mut expected = Vec::new();
            for (handle, actor) in &mut actors {
                let reported = actor.advance(&reel, Ticks::new(step));
                expected.extend(reported.map(|event| (*handle, event)));
                prop_assert_eq!(crowd.actor(*handle), Some(*actor));
                let shown = actor.view(&reel).map_or(PackedFrame::NOTHING, |view| PackedFrame::of(view.id, view.flips));
                prop_assert_eq!(crowd.packed_frame(*handle), shown);
            }
            prop_assert_eq!(events, expected);
        }
        let loaded = crowd.save().load(&reel).unwrap();
        prop_assert!(loaded == crowd && loaded.checksum() == crowd.checksum());
        prop_assert!(actors.iter().all(|(handle, actor)| loaded.actor(*handle) == Some(*actor)));
        prop_assert!(crowd.actor(player).is_none());
        prop_assert_eq!(crowd.with_player(Target::All, |_, _| ()), 1);
        prop_assert_eq!(crowd.with_actor(Target::All, |_, _| ()), actors.len());
    }

    /// What is said of cues is true: the tests that fail are those that do, a cue that
    /// covers another holds whenever that does, and the first that fails nowhere is the one that a look
    /// chooses where nothing delays it.
    #[test]
    fn what_is_explained_is_true(spec in spec(), script in script(tell())) {
        let reel = spec.build();
        let role = reel.role(reel.id::<RoleId>("").unwrap()).unwrap();
        let cues: Vec<_> = role.cues().collect();
        let mut actor = Actor::new(&reel, role.id);
        let mut now = 0;
        for (at, tell) in &script {
            actor.advance(&reel, Ticks::new(at - now));
            now = *at;
            tell_actor(&mut actor, &reel, tell);
            let failing: Vec<Vec<Vec<usize>>> = cues.iter().map(|cue| cue.failing(&actor)).collect();
            for (cue, failing) in cues.iter().zip(&failing) {
                let conditions = cue.conditions();
                prop_assert!(failing.is_empty() || failing.len() == conditions.len());
                for (failing, condition) in failing.iter().zip(&conditions) {
                    prop_assert!(!failing.is_empty());
                    for (nth, test) in condition.iter().enumerate() {
                        let holds = holds_naively(&actor, &reel, test);
                        prop_assert!(holds.is_none_or(|holds| holds != failing.contains(&nth)), "{test:?}");
                    }
                }
            }
            for (one, other) in (0..cues.len()).flat_map(|one| (0..cues.len()).map(move |other| (one, other))) {
                let held_alone = failing[other].is_empty() && !failing[one].is_empty();
                prop_assert!(!(cues[one].matches_whenever(&cues[other]) && held_alone), "{one} {other}");
            }
            prop_assert!(failing.last().is_some_and(Vec::is_empty), "the last one always holds");
            // A fresh actor with the same facts delays nothing: what it shows is the winner's.
            let winner = failing.iter().position(Vec::is_empty).unwrap();
            let mut fresh = Actor::new(&reel, role.id);
            tell_actor(&mut fresh, &reel, tell);
            let chosen = cues.iter().position(|cue| cue.failing(&fresh).is_empty()).unwrap();
            let took_over = fresh.advance(&reel, Ticks::new(1)).next();
            let took_over = took_over.map(|event| reported(&reel, 0, event));
            prop_assert_eq!(took_over, Some(Row(0, "cue", chosen, 0, 0)));
            prop_assert!(winner < cues.len());
        }
    }
}

/// Whether a test of a cue holds, by the values that an actor gives by name; `None` for spans and facings.
fn holds_naively(actor: &Actor, reel: &Reel, test: &CueTest<'_>) -> Option<bool> {
    let value = |name: &str| actor.value_by_name(reel, name).unwrap();
    match test {
        CueTest::Is(name, values) => Some(values.contains(&value(name))),
        CueTest::Within(name, ranges) => {
            let number = match value(name) {
                FactValue::Whole(number) => f64::from(number),
                FactValue::Number(number) => f64::from(number),
                other => panic!("{other}"),
            };
            Some(ranges.iter().any(|range| range.contains(&number)))
        }
        CueTest::Facing(facings) => Some(facings.contains(&actor.facing())),
        _ => None,
    }
}
