//! What marks carry, and names that several roles share.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use lucky_reel_core::{
    AreaId, BuildError, ClipId, DataKey, DataType, Event, Facing, FactValue, Grid, MarkId, Mode,
    NewClip, NewFacings, NewSheet, Player, Reel, ReelBuilder, Ticks,
};
use proptest::prelude::*;

const MARKS: [&str; 3] = ["hit", "step-left", "step-right"];
/// Each key with a value of its kind, made of a number.
#[allow(clippy::type_complexity)] // a table
const KEYS: [(&str, fn(i32) -> FactValue); 4] = [
    ("damage", |number| number.into()),
    ("loud", |number| (number as f32 / 4.0).into()),
    ("deep", |number| (number % 2 == 0).into()),
    ("sound", |number| format!("thud {}", number % 3).as_str().into()),
];

type Entry = (usize, Option<u32>, usize, i32);

fn sheet(builder: &mut ReelBuilder) -> lucky_reel_core::SheetId {
    builder.sheet("s", NewSheet::grid([64, 8], Grid::cell_size([8, 8])))
}

fn swing(sheet: lucky_reel_core::SheetId, holds: &[Vec<u32>; 3], entries: &[Entry]) -> NewClip {
    let clip = NewClip::of(sheet).frames(0..6).each(Ticks::from_millis(10));
    let clip =
        MARKS.iter().zip(holds).fold(clip, |clip, (name, holds)| clip.mark(*name, holds.clone()));
    entries.iter().fold(clip, |clip, (mark, hold, key, number)| {
        let ((key, value), mark) = (KEYS[*key], MARKS[*mark]);
        match hold {
            None => clip.mark_data(mark, key, value(*number)),
            Some(hold) => clip.mark_data_at(mark, *hold, key, value(*number)),
        }
    })
}

fn value_of(reel: &Reel, event: &Event, key: usize) -> Option<FactValue> {
    fn get<'r, T: DataType + ?Sized>(
        reel: &'r Reel,
        event: &Event,
        name: &str,
    ) -> Option<T::Value<'r>> {
        event.get(reel, reel.id::<DataKey<T>>(name).ok()?)
    }
    let name = KEYS[key].0;
    match key {
        0 => get::<i32>(reel, event, name).map(FactValue::from),
        1 => get::<f32>(reel, event, name).map(FactValue::from),
        2 => get::<bool>(reel, event, name).map(FactValue::from),
        _ => get::<str>(reel, event, name).map(FactValue::from),
    }
}

/// What the entries say, the last of them first; one for a hold before those for all.
fn naive(
    entries: &[Entry],
    mark: &str,
    at: Option<usize>,
    hold: u32,
    key: usize,
) -> Option<FactValue> {
    let last = |wanted: Option<u32>, name: Option<usize>| {
        let is_it =
            |(of, hold, of_key, _): &&Entry| Some(*of) == name && *hold == wanted && *of_key == key;
        entries.iter().rev().find(is_it).map(|(.., number)| KEYS[key].1(*number))
    };
    let general = MARKS.iter().position(|known| *known == mark);
    last(Some(hold), at).or_else(|| last(None, general))
}

proptest! {
    /// An event reads what was said of its mark; in a mirror what a mark carries goes with its name, and what it carries
    /// on one hold stays on that hold.
    #[test]
    fn an_event_reads_what_its_mark_carries(
        holds in prop::array::uniform3(prop::collection::vec(0_u32..6, 0..4)),
        entries in prop::collection::vec((0_usize..3, prop::option::of(0_u32..6), 0_usize..4, -9_i32..9), 0..14),
        backward in any::<bool>(),
    ) {
        // Of a mark that is on no such hold nothing is said there.
        let entries: Vec<Entry> = entries.into_iter().filter(|(mark, hold, ..)| hold.is_none_or(|hold| holds[*mark].contains(&hold))).collect();
        let mut builder = Reel::builder();
        let sheet = sheet(&mut builder);
        builder.clip("swing-right", swing(sheet, &holds, &entries).mode(Mode::PingPong));
        builder.facings("swing", NewFacings::new().clip(Facing::Right, "swing-right").mirror_swapping(
            Facing::Left, Facing::Right, [("step-left", "step-right")],
        ));
        let reel = builder.build().unwrap();
        for (clip, mirrored) in [("swing-right", false), ("swing-left", true)] {
            let clip: ClipId = reel.id(clip).unwrap();
            let mut player = Player::new(&reel, clip);
            if backward {
                player.set_speed(lucky_reel_core::Speed::BACKWARD);
            }
            for event in player.advance(&reel, Ticks::from_millis(300)) {
                let Some(mark) = event.mark() else {
                    prop_assert_eq!(value_of(&reel, &event, 0), None);
                    continue;
                };
                let mark = reel.name(mark);
                let original = match mark {
                    "step-left" if mirrored => 2,
                    "step-right" if mirrored => 1,
                    other => MARKS.iter().position(|known| *known == other).unwrap(),
                };
                for key in 0..4 {
                    let wanted = naive(&entries, mark, Some(original), event.hold, key);
                    prop_assert_eq!(value_of(&reel, &event, key), wanted, "{} at {}", mark, event.hold);
                }
            }
            let listed = reel.clip(clip).unwrap().mark_data();
            prop_assert!(listed.count() <= entries.len());
        }
    }
}

fn codes(error: BuildError) -> Vec<String> {
    error
        .problems()
        .iter()
        .map(|problem| format!("{} {}", problem.code(), problem.values().join(" | ")))
        .collect()
}

#[test]
fn a_key_has_one_type_in_a_reel_and_a_value_its_mark() {
    let mut builder = Reel::builder();
    builder.role("bram");
    let of_bram = sheet(&mut builder);
    let clip = || NewClip::of(of_bram).frames(0..4).fps(8).mark("hit", [1, 2]);
    builder.clip("a", clip().mark_data("hit", "damage", 5));
    builder.clip("b", clip().mark_data("hti", "damage", 5).mark_data_at("hit", 3, "damage", 5));
    builder.clip("c", clip().mark_data("hit", "loud", f32::NAN).mark_data("hit", "a key", 1));
    builder.role("moth");
    let of_moth = sheet(&mut builder);
    let other = NewClip::of(of_moth).frames(0..4).fps(8).mark("hit", [1]);
    builder.clip("d", other.mark_data("hit", "damage", "much"));
    let wanted = [
        "unknown mark | hti | hit",
        "not-on-hold hit | 3 | 1, 2",
        "data-kind loud | NaN | a number",
        "name-character ",
        "data-kind damage | much | a whole number",
    ];
    assert_eq!(codes(builder.build().unwrap_err()), wanted);
}

#[test]
fn keys_are_of_their_type_their_reel_and_all_versions_of_it() {
    let build = |mut builder: ReelBuilder, damage: i32| {
        let sheet = sheet(&mut builder);
        let clip = NewClip::of(sheet).frames(0..4).fps(8).mark("hit", [0]);
        builder.clip("swing", clip.mark_data("hit", "damage", damage));
        builder.build().unwrap()
    };
    let reel = build(Reel::builder(), 5);
    let damage: DataKey<i32> = reel.id("damage").unwrap();
    let error = reel.id::<DataKey<str>>("damage").unwrap_err().to_string();
    assert_eq!(
        error,
        "the data key `damage` is a whole number, not a text: ask for it as what it is"
    );
    let near = reel.id::<DataKey<i32>>("damge").unwrap_err().to_string();
    assert_eq!(near, "there is no data key `damge`: did you mean `damage`?");
    assert_eq!(DataKey::<i32>::from_bits(damage.to_bits()), damage);
    assert_eq!(reel.name(damage), "damage");
    assert_eq!(reel.ids::<DataKey<i32>>().collect::<Vec<_>>(), [damage]);

    let mut player = Player::new(&reel, reel.id("swing").unwrap());
    let hit =
        player.advance(&reel, Ticks::new(1)).find_map(|event| event.mark().map(|_| event)).unwrap();
    assert_eq!(hit.get(&reel, damage), Some(5));
    // Reloaded with another number: the same key, the new value.
    assert_eq!(hit.get(&build(reel.reload(), 9), damage), Some(9));
    let foreign = build(Reel::builder(), 7);
    assert_eq!(hit.get(&foreign, damage), None);
    assert_eq!(hit.get(&reel, foreign.id::<DataKey<i32>>("damage").unwrap()), None);
    let wrong = DataKey::<f32>::from_bits(damage.to_bits());
    assert_eq!((hit.get(&reel, wrong), reel.name(wrong)), (None, ""));
    assert_eq!(size_of::<Event>(), 48, "an event carries no data");
}

/// A hit box is asked for by one id, whoever it is.
#[test]
fn areas_and_points_of_one_name_have_one_id_in_all_roles() {
    let mut builder = Reel::builder();
    for role in ["bram", "moth"] {
        builder.role(role);
        let cells = NewSheet::grid([64, 8], Grid::cell_size([8, 8]));
        let cells = cells.area("body", 0..8, [1.0, 1.0, 4.0, 4.0]).point("hand", 0, [2.0, 2.0]);
        let sheet = builder.sheet("s", cells);
        builder.clip("idle", NewClip::of(sheet).frames([0]).mark("still", [0]));
    }
    let reel = builder.build().unwrap();
    let body: AreaId = reel.id("body").unwrap();
    for role in ["bram/idle", "moth/idle"] {
        let view = Player::new(&reel, reel.id(role).unwrap()).view(&reel).unwrap();
        assert_eq!(view.areas().map(|(area, _)| area).collect::<Vec<_>>(), [body]);
        assert!(view.point(reel.id("hand").unwrap()).is_some());
    }
    // Marks are of their role: what a step means differs.
    assert!(reel.id::<MarkId>("still").is_err() && reel.id::<MarkId>("moth/still").is_ok());
}
