//! A night in the greenhouse, written against the public interface alone: Bram reacts to what happens to
//! him, his cues choose what he plays, and a game at any display rate hears and sees the same.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use std::path::Path;

use lucky_reel::assets::{Art, load_all};
use lucky_reel::prelude::*;
use lucky_reel::{
    Actor, Directions,
    id::{CueId, LookId, RoleId},
};
use lucky_reel_canvas::Canvas;
use proptest::prelude::*;

fn greenhouse() -> Art {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("demo/greenhouse");
    load_all(["bram", "moth", "puff"].map(|role| folder.join(format!("{role}.reel.toml")))).unwrap()
}

/// The facts set for Bram, and when, in milliseconds.
#[derive(Clone, Copy, Debug)]
enum Order {
    Stick(f32, f32),
    Pace(f32),
    Airborne(bool),
    Hurt,
}

fn tell() -> impl Strategy<Value = Order> {
    prop_oneof![
        3 => (-1.0_f32..1.0, -1.0_f32..1.0).prop_map(|(x, y)| Order::Stick(x, y)),
        1 => (0.0_f32..150.0).prop_map(Order::Pace),
        1 => any::<bool>().prop_map(Order::Airborne),
        1 => Just(Order::Hurt),
    ]
}

/// Plays a night at so many updates a second; facts that change in between are set at their own moment, as a
/// game with fixed steps would. What was heard, and when.
fn night(art: &Art, script: &[(u64, Order)], rate: u32) -> (Vec<(Ticks, String)>, Actor) {
    let reel = &art.reel;
    let (moving, airborne) = (reel.id("moving").unwrap(), reel.id("airborne").unwrap());
    let (pace, hurt) = (reel.id("pace").unwrap(), reel.id("hurt").unwrap());
    let aim = Directions::FOUR.dead_zone(0.25).unwrap();
    let mut bram = Actor::new(reel, reel.id("bram").unwrap());
    let (mut heard, mut now) = (Vec::new(), Ticks::ZERO);
    let mut due = script.iter().peekable();
    let end = Ticks::from_secs(5);
    while now < end {
        while let Some((_, tell)) = due.next_if(|(at, _)| Ticks::from_millis(*at) <= now) {
            match *tell {
                Order::Stick(x, y) => {
                    bram.set(moving, x.hypot(y) > 0.25).unwrap();
                    bram.set_facing(Facing::from_vector([x, y], bram.facing(), aim));
                }
                Order::Pace(pixels) => bram.set(pace, pixels).unwrap(),
                Order::Airborne(is) => bram.set(airborne, is).unwrap(),
                Order::Hurt => bram.pulse(hurt).unwrap(),
            }
        }
        let next = due.peek().map_or(end, |(at, _)| Ticks::from_millis(*at));
        let dt = Ticks::from_rate(rate).min(next - now).min(end - now);
        for event in bram.advance(reel, dt) {
            let words = match event.kind {
                EventKind::Cue(cue, cause) => format!("{} ({})", reel.name(cue), cause),
                EventKind::Bridge(bridge, _) => format!("bridge {}", reel.name(bridge)),
                EventKind::Mark(mark) => reel.name(mark).to_owned(),
                EventKind::Enter(_) => format!("{} {}", reel.name(event.clip), event.hold),
                _ => continue,
            };
            heard.push((now + event.at, words));
        }
        now += dt;
    }
    (heard, bram)
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(40))]

    /// 60, 144 and 13 updates a second are the same night; and what is heard makes sense.
    #[test]
    fn a_night_is_the_same_at_any_rate(script in prop::collection::vec((0_u64..5_000, tell()), 0..14)) {
        let art = greenhouse();
        let mut script = script;
        script.sort_by_key(|(at, _)| *at);
        let (heard, bram) = night(&art, &script, 60);
        for rate in [144, 13] {
            let (other, there) = night(&art, &script, rate);
            prop_assert_eq!(&heard, &other);
            prop_assert_eq!(bram, there);
        }
        // He lands whenever he stops hovering, but when he is hurt; and stumbles to the end.
        for (nth, (_, words)) in heard.iter().enumerate().filter(|(_, (_, words))| words.starts_with("hovering")) {
            let after = heard[nth + 1..].iter().find(|(_, words)| words.contains(" (") || words.starts_with("bridge"));
            let lands = |words: &str| ["bridge landing", "tripping", "stumbling"].iter().any(|known| words.starts_with(known));
            prop_assert!(after.is_none_or(|(_, words)| lands(words)), "{words} {after:?}");
        }
        for (nth, (at, words)) in heard.iter().enumerate() {
            if words.starts_with("stumbling") || words.starts_with("tripping") {
                let next = heard[nth + 1..].iter().find(|(_, words)| words.contains(" ("));
                // Only a trip breaks into a stumble before its 380 ms are over.
                let whole = next.is_none_or(|(end, cue)| *end >= *at + Ticks::from_millis(380) || cue.starts_with("tripping"));
                prop_assert!(whole, "{heard:?}");
            }
        }
        // Both feet take turns: of two steps one is the left.
        let left = heard.iter().filter(|(_, words)| words == "step-left").count();
        let right = heard.iter().filter(|(_, words)| words == "step-right").count();
        let steps = heard.iter().filter(|(_, words)| words == "step").count();
        prop_assert_eq!(left + right, steps);
    }
}

/// His lantern hangs from his left hand in every direction and look: its flame is drawn in each, on the
/// side where his left hand is seen.
#[test]
fn the_lantern_is_in_his_left_hand() {
    let art = greenhouse();
    let reel = &art.reel;
    let role: RoleId = reel.id("bram").unwrap();
    let flame = |actor: &Actor| -> f32 {
        let mut canvas = Canvas::new([64, 64]).unwrap();
        canvas.draw(&actor.view(reel).unwrap(), &art.images, [32, 48], 1);
        let picture = canvas.into_picture();
        let lit = (0..64 * 64).map(|nth| [nth % 64, nth / 64]);
        let lit: Vec<u32> = lit
            .filter(|at| picture.pixel(*at) == [0xff, 0xf4, 0xc4, 255])
            .map(|at| at[0])
            .collect();
        assert!(!lit.is_empty(), "no flame is seen");
        lit.iter().sum::<u32>() as f32 / lit.len() as f32 - 32.0
    };
    for (facts, wears) in [(true, false), (false, false), (true, true), (false, true)] {
        let sides = [Facing::Down, Facing::Up, Facing::Right, Facing::Left].map(|facing| {
            let mut bram = Actor::new(reel, role);
            bram.set_facing(facing);
            bram.set(reel.id("airborne").unwrap(), facts).unwrap();
            if wears {
                bram.wear(reel, reel.id::<LookId>("dusk").unwrap()).unwrap();
            }
            bram.advance(reel, Ticks::from_millis(10));
            flame(&bram)
        });
        // Seen from the front it is on our right, from behind on our left; it hangs ahead of him sideways.
        assert!(sides[0] > 4.0 && sides[1] < -4.0, "{sides:?}");
        assert!(sides[2] > 4.0 && sides[3] < -4.0, "{sides:?}");
    }
}

/// A hero, a moth and a puff from one reel, each with its own facts; names of one role need no role.
#[test]
fn several_roles_act_from_one_reel() {
    let art = greenhouse();
    let reel = &art.reel;
    let names: Vec<&str> = reel.ids::<RoleId>().map(|role| reel.name(role)).collect();
    assert_eq!(names, ["bram", "moth"]);
    assert!(reel.id::<RoleId>("puff").unwrap_err().to_string().contains("no role with cues"));
    let error = reel.id::<CueId>("resting").unwrap_err().to_string();
    assert_eq!(error, "several roles have a cue `resting`: say `bram/resting` or `moth/resting`");
    let mut moths = [Actor::new(reel, reel.id("moth").unwrap()); 3];
    let near = reel.id("near").unwrap();
    for (moth, distance) in moths.iter_mut().zip([100.0, 24.0, 10.0]) {
        moth.set(near, distance).unwrap();
        moth.advance(reel, Ticks::from_millis(1));
    }
    let clips = moths.map(|moth| reel.name(moth.player().clip()));
    assert_eq!(clips, ["flutter", "flutter", "circle"]);
    assert!(moths[0].set(reel.id("moving").unwrap(), true).is_err(), "a fact of Bram's");
}
