//! Saves that were damaged or made up: they are refused, or what they load into keeps the laws.

#![cfg(feature = "serde")]
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

#[allow(dead_code)] // the naive player is walked elsewhere
mod model;
#[allow(dead_code)] // the naive actor is walked elsewhere
mod reference_actor;

use lucky_reel_core::*;
use proptest::prelude::*;
use reference_actor::{Row, reported, spec};
use serde_json::Value;

/// Which leaf of a document becomes what.
#[derive(Clone, Debug)]
struct Damage {
    leaf: usize,
    to: Value,
}

fn damage() -> impl Strategy<Value = Vec<Damage>> {
    let number = prop_oneof![
        -3_i64..300,
        -100_000_i64..100_000,
        Just(i64::from(u32::MAX)),
        Just(i64::from(i32::MAX)),
        Just(i64::MAX),
    ];
    let to = prop_oneof![
        6 => number.prop_map(Value::from),
        1 => Just(Value::from(u64::MAX)),
        2 => any::<bool>().prop_map(Value::from),
        2 => (0_usize..8).prop_map(|clip| Value::from(format!("c{clip}"))),
        1 => (0_usize..3).prop_map(|cue| Value::from(format!("k{cue}"))),
        1 => prop_oneof![Just("a"), Just("p"), Just("q"), Just("b0"), Just("")].prop_map(Value::from),
    ];
    let damage = (any::<usize>(), to).prop_map(|(leaf, to)| Damage { leaf, to });
    prop::collection::vec(damage, 1..4)
}

/// Changes leaves of a document; most damage keeps the kind of a leaf, as anything else is refused at once.
fn harm(saved: &mut Value, damage: &[Damage]) {
    fn leaves<'v>(value: &'v mut Value, all: &mut Vec<&'v mut Value>) {
        match value {
            Value::Array(items) => items.iter_mut().for_each(|item| leaves(item, all)),
            Value::Object(items) => items.iter_mut().for_each(|(_, item)| leaves(item, all)),
            leaf => all.push(leaf),
        }
    }
    for Damage { leaf, to } in damage {
        let mut all = Vec::new();
        leaves(saved, &mut all);
        let kind = std::mem::discriminant(to);
        all.retain(|leaf| std::mem::discriminant(*leaf as &Value) == kind);
        if !all.is_empty() {
            let at = leaf % all.len();
            *all[at] = to.clone();
        }
    }
}

fn orders() -> impl Strategy<Value = Vec<(u8, u64)>> {
    prop::collection::vec((any::<u8>(), 0_u64..40), 0..8)
}

fn tell(actor: &mut Actor, reel: &Reel, (order, number): (u8, u64)) {
    match order % 6 {
        0 => actor.set(reel.id("a").unwrap(), number % 2 == 0).unwrap(),
        1 => actor.pulse(reel.id(["p", "q"][number as usize % 2]).unwrap()).unwrap(),
        2 => _ = actor.play_over_cues(reel, reel.id(&format!("c{}", number % 8)).unwrap(), 1),
        3 => actor.set(reel.id("pace").unwrap(), number as f32 / 4.0 - 3.0).unwrap(),
        4 => actor.set_facing(Facing::ALL[number as usize % 8]),
        _ => actor.set_speed(reel, Speed::from_ratio(number as i32 - 10, 4).unwrap()),
    }
}

fn advance(actor: &mut Actor, reel: &Reel, steps: impl Iterator<Item = u64>) -> Vec<Row> {
    let (mut now, mut rows) = (0, Vec::new());
    for dt in steps {
        let events = actor.advance(reel, Ticks::new(dt)).take(500);
        rows.extend(events.map(|event| reported(reel, now + event.at.get(), event)));
        now += dt;
    }
    // More are not compared, but the states are.
    rows.truncate(500);
    rows
}

proptest! {
    #[test]
    fn a_damaged_actor_is_refused_or_keeps_the_laws(
        spec in spec(), before in orders(), damage in damage(), after in orders(),
    ) {
        let reel = spec.build();
        let mut actor = Actor::new(&reel, reel.id("").unwrap());
        for order in before {
            tell(&mut actor, &reel, order);
            actor.advance(&reel, Ticks::new(order.1));
        }
        let mut saved = serde_json::to_value(actor.save(&reel)).unwrap();
        harm(&mut saved, &damage);
        let Ok(saved) = serde_json::from_value::<Saved<Actor>>(saved) else { return Ok(()) };
        let Ok(mut whole) = saved.load(&reel) else { return Ok(()) };
        prop_assert_eq!(whole.save(&reel).load(&reel), Ok(whole));
        let mut split = whole;
        for order in [(0, 0)].into_iter().chain(after) {
            if order.1 > 0 {
                tell(&mut whole, &reel, order);
                tell(&mut split, &reel, order);
            }
            let at_once = advance(&mut whole, &reel, std::iter::once(45));
            let bit_by_bit = advance(&mut split, &reel, std::iter::repeat_n(1, 45));
            prop_assert!(at_once == bit_by_bit);
            prop_assert_eq!(whole, split);
        }
        whole.advance(&reel, Ticks::MAX);
    }

    #[test]
    fn a_damaged_crowd_is_refused_or_plays_on(
        spec in spec(), before in orders(), damage in damage(), asleep in any::<bool>(),
    ) {
        let reel = spec.build();
        let role: RoleId = reel.id("").unwrap();
        let mut crowd = Crowd::new(&reel);
        let group = crowd.add_group().unwrap();
        for (order, number) in before {
            let clip: ClipId = reel.id(&format!("c{}", number % 8)).unwrap();
            match order % 3 {
                0 => _ = crowd.spawn(NewMember::playing(clip).in_group(group)),
                1 => _ = crowd.spawn(role),
                _ => crowd.set_group_scale(group, number as f64 / 8.0).unwrap(),
            }
            if asleep {
                crowd.sleep_group(group);
            }
            crowd.advance(Ticks::new(number));
        }
        let mut saved = serde_json::to_value(crowd.save()).unwrap();
        harm(&mut saved, &damage);
        let Ok(saved) = serde_json::from_value::<Saved<Crowd>>(saved) else { return Ok(()) };
        let Ok(mut crowd) = saved.load(&reel) else { return Ok(()) };
        crowd.advance(Ticks::new(30));
        // However long it says that it has slept: it is caught up at once.
        for group in (0..=u8::MAX).map(GroupId::from_bits) {
            crowd.wake_group(group, EventMask::NONE, &mut EventBuffer::new());
        }
        crowd.advance(Ticks::MAX);
        let again = crowd.save().load(&reel);
        prop_assert_eq!(again.map(|again| again.save()), Ok(crowd.save()));
    }
}

/// A save that says that a group has slept for ages: what its members did in the last hour is reported.
#[test]
fn events_of_a_long_sleep_are_those_of_its_last_hour() {
    let mut builder = Reel::builder();
    let sheet = builder.sheet("moth", NewSheet::grid([64, 8], Grid::cell_size([8, 8])));
    let flutter = NewClip::of(sheet).frames(0..4).each(Ticks::from_secs(1)).mark("beat", [2]);
    let flutter = builder.clip("flutter", flutter);
    let reel = builder.build().unwrap();
    let mut crowd = Crowd::new(&reel);
    let group = crowd.add_group().unwrap();
    let member = crowd.spawn(NewMember::playing(flutter).in_group(group)).unwrap();
    crowd.sleep_group(group);
    crowd.advance(Ticks::from_secs(1));
    for [slept, scale] in [[7_200_u64, 65_536], [u64::MAX / Ticks::PER_SECOND, 32_768]] {
        let mut saved = serde_json::to_value(crowd.save()).unwrap();
        let parts = &mut saved["data"]["groups"][1]["slept"];
        parts[0][1] = Value::from(slept * Ticks::PER_SECOND);
        parts[0][0]["scale"] = Value::from(scale);
        // Parts before it that lasted for ages as well are not listed.
        if slept > 7_200 {
            let before = parts[0].clone();
            parts.as_array_mut().unwrap().splice(0..0, [before.clone(), before]);
        }
        let saved: Saved<Crowd> = serde_json::from_value(saved).unwrap();
        let (mut heard, mut silent) = (saved.load(&reel).unwrap(), saved.load(&reel).unwrap());
        let mut events = EventBuffer::new();
        heard.wake_group(group, EventMask::MARKS, &mut events);
        let beats: Vec<Ticks> = events.iter().map(|(_, event)| event.at).collect();
        silent.wake_group(group, EventMask::NONE, &mut EventBuffer::new());
        assert_eq!(heard.player(member), silent.player(member));
        assert_eq!(beats.len() as u64, 3_600 / 4 * scale / 65_536);
        let last = Ticks::from_secs(slept) - *beats.first().unwrap();
        assert!(beats.is_sorted() && last <= Ticks::from_secs(3_600), "{last:?}");
    }
}

/// However long a group sleeps, and whatever happens to its clock meanwhile: woken, it is where it would be.
#[test]
fn a_sleep_may_last_for_ages() {
    let mut builder = Reel::builder();
    let sheet = builder.sheet("moth", NewSheet::grid([64, 8], Grid::cell_size([8, 8])));
    let flutter = builder.clip("flutter", NewClip::of(sheet).frames(0..4).fps(7));
    let reel = builder.build().unwrap();
    let mut crowds = [Crowd::new(&reel), Crowd::new(&reel)];
    let mut shown = Vec::new();
    for (nth, crowd) in crowds.iter_mut().enumerate() {
        let group = crowd.add_group().unwrap();
        let member = crowd.spawn(NewMember::playing(flutter).in_group(group)).unwrap();
        if nth == 0 {
            crowd.sleep_group(group);
        }
        for (dt, scale) in [(u64::MAX, 1.5), (u64::MAX, 3.0), (77, 0.25), (u64::MAX, 32_767.0)] {
            crowd.advance(Ticks::new(dt));
            crowd.set_group_scale(group, scale).unwrap();
        }
        crowd.wake_group(group, EventMask::NONE, &mut EventBuffer::new());
        shown.push(crowd.player(member));
    }
    assert_eq!(shown[0], shown[1]);
}
