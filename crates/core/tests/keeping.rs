//! Saving, replaying and reloading: players outlive the program and the reel.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use lucky_reel_core::*;
use proptest::prelude::*;

fn reel_of(clips: &[(&str, u32, u32)]) -> Reel {
    fill(Reel::builder(), clips)
}

/// Clips by name, number of frames and frames a second.
fn fill(mut builder: ReelBuilder, clips: &[(&str, u32, u32)]) -> Reel {
    let sheet = builder.sheet("s", NewSheet::grid([64, 8], Grid::cells([8, 8])));
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
        let mut player = Player::new(&reel, reel.clip(CLIPS[clip].0).unwrap());
        player.set_speed(Speed::from_bits(bits).unwrap());
        for step in steps {
            player.advance(&reel, Ticks::new(step));
        }
        if flags[0] { player.pause() }
        if flags[1] { player.hit_stop(Ticks::new(5_000_000)) }
        if flags[2] { player.stop() }
        player.set_flip_x(flags[3]);

        let bytes = player.to_bytes(&reel);
        prop_assert_eq!(Player::from_bytes(&reel, &bytes), Ok(player));
        prop_assert_eq!(player.save(&reel).load(&reel), Ok(player));

        let shuffled = reel_of(&[CLIPS[2], CLIPS[0], CLIPS[1]]);
        prop_assert_eq!(reel.fingerprint() == shuffled.fingerprint(), false);
        let mut there = Player::from_bytes(&shuffled, &bytes).unwrap();
        prop_assert_eq!(there.hold(&shuffled), player.hold(&reel));
        let mut here = player;
        let moments = |player: &mut Player, reel: &Reel| -> Vec<Ticks> {
            player.advance(reel, Ticks::from_secs(2)).map(|event| event.at()).collect()
        };
        prop_assert_eq!(moments(&mut there, &shuffled), moments(&mut here, &reel));
    }

    /// Bytes that nobody wrote give an error or a player that does no harm.
    #[test]
    fn damaged_bytes_do_no_harm(at in 20_usize..44, value in any::<u8>(), other in 0_usize..44, dt in any::<u64>()) {
        let reel = reel_of(&CLIPS);
        let mut bytes = Player::new(&reel, reel.clip("puff").unwrap()).to_bytes(&reel);
        bytes[at] = value;
        bytes[other] ^= value;
        if let Ok(mut player) = Player::from_bytes(&reel, &bytes) {
            let events = player.advance(&reel, Ticks::new(dt)).take(100).count();
            prop_assert!(events <= 100);
            prop_assert!(player.hold(&reel).is_none_or(|hold| hold < 8));
            prop_assert!((0.0..=1.0).contains(&player.progress(&reel)));
        }
    }
}

#[test]
fn a_lost_clip_is_an_error_and_not_a_wrong_picture() {
    let reel = reel_of(&CLIPS);
    let player = Player::new(&reel, reel.clip("puff").unwrap());
    let without = reel_of(&CLIPS[..2]);
    let error = player.save(&reel).load(&without).unwrap_err();
    assert_eq!(error, SaveError::ClipGone { clip: "`puff`".to_owned() });
    assert!(error.to_string().contains("`puff`"));
    let bytes = player.to_bytes(&reel);
    assert!(matches!(Player::from_bytes(&without, &bytes), Err(SaveError::ClipGone { .. })));
    assert_eq!(Player::from_bytes(&reel, &bytes[..40]), Err(SaveError::Damaged));
    let mut newer = bytes;
    newer[0] = 9;
    assert_eq!(Player::from_bytes(&reel, &newer), Err(SaveError::Version { found: 9 }));
    // The layout is a promise: little-endian, the version first, the speed at byte 28.
    assert_eq!((&bytes[..4], &bytes[28..32]), (&[1, 0, 0, 0][..], &[0, 0, 1, 0][..]));
}

#[test]
fn the_next_version_of_a_reel_keeps_ids_and_players() {
    let old = reel_of(&CLIPS);
    let [walk, idle, puff] = ["walk", "idle", "puff"].map(|name| old.clip(name).unwrap());
    let mut walking = Player::new(&old, walk);
    walking.advance(&old, Ticks::from_millis(700)); // on the way back, in hold 1
    assert_eq!(walking.hold(&old), Some(1));
    let mut puffing = Player::new(&old, puff);

    // `puff` is gone, `walk` has fewer and shorter holds, a new clip stands first.
    let new = fill(old.next_version(), &[("hover", 3, 10), ("walk", 2, 40), ("idle", 2, 3)]);
    assert_eq!((new.clip("walk"), new.clip("idle")), (Ok(walk), Ok(idle)));
    assert!(new.clip("puff").is_err() && new.clip("hover").unwrap() != puff);
    assert_eq!(walking.hold(&new), Some(1));
    // It has at most the new length of its hold ahead: 25 ms.
    let first = walking.advance(&new, Ticks::from_secs(1)).next().unwrap();
    assert!(first.at() <= Ticks::from_millis(25), "{first:?}");

    assert!(!puffing.fits(&new) && puffing.view(&new).is_none());
    let before = puffing;
    assert_eq!(puffing.advance(&new, Ticks::from_secs(1)).count(), 0);
    assert_eq!(puffing, before, "it waits for its clip");
    let back = fill(new.next_version(), &CLIPS);
    assert_eq!(back.clip("puff"), Ok(puff));
    assert!(puffing.advance(&back, Ticks::from_millis(60)).count() > 0);
}

#[test]
fn with_a_foreign_reel_nothing_moves_and_nothing_is_shown() {
    let reel = reel_of(&CLIPS);
    let foreign = reel_of(&[("walk", 8, 3), ("idle", 2, 1), ("puff", 2, 2)]);
    let mut player = Player::new(&reel, reel.clip("puff").unwrap());
    player.advance(&reel, Ticks::from_millis(500));
    let before = player;
    assert!(player.fits(&reel) && !player.fits(&foreign));
    assert_eq!(player.advance(&foreign, Ticks::from_secs(9)).count(), 0);
    player.seek(&foreign, Ticks::from_secs(1));
    player.seek_hold(&foreign, 1);
    assert!(!player.step_forwards(&foreign));
    assert_eq!(player, before);
    assert!(player.view(&foreign).is_none() && player.hold(&foreign).is_none());
    // Told to play a clip of the other reel, it plays from that one.
    player.switch_to(&foreign, foreign.clip("puff").unwrap());
    assert!(player.fits(&foreign) && player.view(&foreign).is_some());
}

#[test]
fn after_a_rollback_events_are_recognised() {
    let reel = reel_of(&CLIPS);
    let mut player = Player::new(&reel, reel.clip("walk").unwrap());
    let frame = Ticks::per_second_of(60);
    let run = |player: &mut Player, updates: u32| -> Vec<u64> {
        (0..updates)
            .flat_map(|_| player.advance(&reel, frame).map(|event| event.serial()))
            .collect()
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

#[cfg(feature = "serde")]
#[test]
fn saved_players_go_through_any_serde_format() {
    let reel = reel_of(&CLIPS);
    let mut player = Player::new(&reel, reel.clip("walk").unwrap());
    player.advance(&reel, Ticks::from_millis(777));
    let text = serde_json::to_string(&player.save(&reel)).unwrap();
    assert!(text.starts_with(r#"{"version":1,"clip":"walk""#), "{text}");
    let read: SavedPlayer = serde_json::from_str(&text).unwrap();
    assert_eq!(read.load(&reel), Ok(player));
    assert!(serde_json::from_str::<SavedPlayer>(&text.replace("hold", "hodl")).is_err());
}
