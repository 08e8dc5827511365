//! What can be asked of a player agrees with what it then does; and clocks with the time that passes.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use lucky_reel_core::*;
use proptest::prelude::*;

#[derive(Clone, Debug)]
struct Spec {
    ticks: Vec<u64>,
    mode: Mode,
    repeat: u32,
}

fn spec() -> impl Strategy<Value = Spec> {
    let mode = prop_oneof![Just(Mode::Loop), Just(Mode::PingPong), Just(Mode::Once)];
    (prop::collection::vec(1_u64..90_000_000, 1..6), mode, 1_u32..4)
        .prop_map(|(ticks, mode, repeat)| Spec { ticks, mode, repeat })
}

fn reel(spec: &Spec, endless: bool) -> (Reel, ClipId) {
    let mut builder = Reel::builder();
    let sheet = builder.sheet("s", NewSheet::grid([64, 8], Grid::cell_size([8, 8])));
    let mut clip = NewClip::of(sheet).frames(0..spec.ticks.len() as u32).mode(spec.mode);
    clip = clip.times(spec.ticks.iter().copied().map(Ticks::new));
    if spec.mode != Mode::Once && !endless {
        clip = clip.repeat(spec.repeat);
    }
    let id = builder
        .clip("c", clip.span("late", spec.ticks.len() as u32 - 1..=spec.ticks.len() as u32 - 1));
    (builder.build().unwrap(), id)
}

fn ends(player: &mut Player, reel: &Reel, dt: Ticks) -> Option<Ticks> {
    player.advance(reel, dt).find(|event| event.is_end()).map(|event| event.at)
}

proptest! {
    /// The end comes exactly when `remaining` says, whatever speed, hit-stop and turns came before.
    #[test]
    fn the_end_comes_when_remaining_says(
        spec in spec(), bits in 1_000_i32..300_000, back in any::<bool>(), before in 0_u64..200_000_000,
        freeze in prop_oneof![Just(0_u64), 0_u64..40_000_000], turn in any::<bool>(),
    ) {
        let (reel, clip) = reel(&spec, false);
        let mut player = Player::new(&reel, clip);
        player.set_speed(Speed::from_bits(if back { -bits } else { bits }).unwrap());
        player.advance(&reel, Ticks::new(before));
        player.hit_stop(Ticks::new(freeze));
        if turn {
            player.set_speed(-player.speed());
        }
        let mut copy = player;
        let (was_over, remaining) = (player.has_ended(), player.remaining(&reel).unwrap());
        if was_over && !turn {
            prop_assert_eq!((remaining, ends(&mut copy, &reel, remaining)), (Ticks::ZERO, None));
        } else if remaining == Ticks::ZERO {
            prop_assert_eq!(ends(&mut copy, &reel, Ticks::new(1)), Some(Ticks::ZERO));
        } else {
            prop_assert_eq!(ends(&mut copy, &reel, remaining - Ticks::new(1)), None);
            prop_assert_eq!(ends(&mut player, &reel, remaining), Some(remaining));
            prop_assert!(player.has_ended() && player.remaining(&reel) == Some(Ticks::ZERO));
        }
    }

    /// Progress runs from 0 to 1 and never falls while it plays forward.
    #[test]
    fn progress_rises_from_nothing_to_all(spec in spec(), endless in any::<bool>(), step in 1_u64..70_000_000) {
        let endless = endless && spec.mode != Mode::Once;
        let (reel, clip) = reel(&spec, endless);
        let mut player = Player::new(&reel, clip);
        let late: SpanId = reel.id("late").unwrap();
        let mut last = (0, player.progress(&reel));
        prop_assert_eq!(last.1, 0.0);
        for _ in 0..60 {
            player.advance(&reel, Ticks::new(step));
            let progress = player.progress(&reel);
            prop_assert!((0.0..=1.0).contains(&progress));
            // An endless clip starts anew with each cycle.
            prop_assert!(progress >= last.1 || endless && player.cycle() > last.0);
            last = (player.cycle(), progress);
            let in_last = player.hold_index(&reel) == Some(spec.ticks.len() as u32 - 1);
            prop_assert_eq!(player.in_span(&reel, late), in_last);
            prop_assert_eq!(player.has_ended(), !endless && progress == 1.0);
        }
        prop_assert_eq!(player.remaining(&reel).is_none(), endless);
    }

    /// Fitted to a time it is never late, and early by less than a frame of a 240 Hz display.
    #[test]
    fn a_fitted_clip_takes_its_time(spec in spec(), wanted in 1_u64..3_000_000_000, back in any::<bool>()) {
        let (reel, clip) = reel(&spec, false);
        let mut player = Player::new(&reel, clip);
        if back {
            player.set_speed(Speed::BACKWARD);
        }
        match player.set_duration(&reel, Ticks::new(wanted)) {
            Ok(()) => {
                let took = ends(&mut player, &reel, Ticks::new(wanted)).expect("it is never late");
                prop_assert!(wanted - took.get() < Ticks::from_rate(240).get());
                prop_assert_eq!(player.speed() < Speed::STILL, back);
            }
            Err(error) => {
                // Only what no speed can do so closely is refused, and the speed is left alone.
                let CommandError::OutOfRange { given, min, max, .. } = error else {
                    panic!("{error}")
                };
                prop_assert!(given > max || given < min, "{}", error);
                prop_assert_eq!(player.speed() < Speed::STILL, back);
                prop_assert_eq!(player.speed().to_bits().abs(), 65_536);
            }
        }
    }
}

#[test]
fn what_the_game_says_about_pause_and_hit_stop_holds() {
    let spec = Spec { ticks: vec![100, 100, 100], mode: Mode::Loop, repeat: 1 };
    let (reel, clip) = reel(&spec, true);
    let mut player = Player::new(&reel, clip);
    player.hit_stop(Ticks::new(50));
    player.hit_stop(Ticks::new(20));
    assert_eq!(player.hit_stop_left(), Ticks::new(50), "of two the longer counts");
    player.set_paused(true);
    player.advance(&reel, Ticks::new(1_000));
    assert_eq!(player.advance_by_distance(&reel, 1.0, Ticks::new(10)).count(), 0);
    assert_eq!(player.hit_stop_left(), Ticks::new(50), "not while paused");
    player.set_paused(false);
    player.set_speed(Speed::STILL);
    player.advance(&reel, Ticks::new(30));
    assert_eq!(player.hit_stop_left(), Ticks::new(20), "also at speed 0");
    player.play(&reel, clip);
    assert_eq!(player.hit_stop_left(), Ticks::new(20), "it survives a play");
    player.hit_stop(Ticks::MAX);
    assert_eq!(player.hit_stop_left(), Ticks::new(u64::from(u32::MAX)));
}

#[test]
fn distance_that_is_none_moves_nothing() {
    let mut builder = Reel::builder();
    let sheet = builder.sheet("s", NewSheet::grid([32, 8], Grid::cell_size([8, 8])));
    let new = || NewClip::of(sheet).frames(0..4).fps(8);
    let (walk, idle) = (builder.clip("walk", new().stride(24.0)), builder.clip("idle", new()));
    let reel = builder.build().unwrap();
    let mut player = Player::new(&reel, walk);
    let dt = Ticks::new(60);
    for nothing in [0.0, f32::NAN, f32::INFINITY, f32::NEG_INFINITY, 1e-9] {
        assert_eq!(player.advance_by_distance(&reel, nothing, dt).count(), 0, "{nothing}");
    }
    // 24 pixels are a cycle: four holds, and the first again.
    let events = player.advance_by_distance(&reel, 24.0, dt);
    let at: Vec<u64> = events.map(|event| event.at.get()).collect();
    assert_eq!(at, [0, 15, 30, 45, 60, 60], "evenly over the time, the cycle before its hold");
    assert_eq!((player.hold_index(&reel), player.cycle()), (Some(0), 1));
    player.hit_stop(Ticks::new(65));
    assert_eq!(player.advance_by_distance(&reel, 24.0, dt).count(), 0, "frozen to its end");
    let first = player.advance_by_distance(&reel, -5.0, dt).next().unwrap();
    assert_eq!(first.at, Ticks::new(5), "what is left of the hit-stop passes first");
    assert_eq!(
        (player.hold_index(&reel), player.cycle()),
        (Some(3), 0),
        "and back over the boundary"
    );
    player.play(&reel, idle);
    assert_eq!(player.advance_by_distance(&reel, 24.0, dt).count(), 0);
}
