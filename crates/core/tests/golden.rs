//! A long random run gives the same numbers on every machine, in debug and in release.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use lucky_reel_core::*;

/// Numbers that look random (SplitMix64), the same everywhere.
fn random(state: &mut u64) -> u64 {
    *state = state.wrapping_add(0x9e37_79b9_7f4a_7c15);
    let mut z = *state;
    z = (z ^ (z >> 30)).wrapping_mul(0xbf58_476d_1ce4_e5b9);
    z = (z ^ (z >> 27)).wrapping_mul(0x94d0_49bb_1331_11eb);
    z ^ (z >> 31)
}

#[test]
fn a_long_random_run_has_the_golden_hash() {
    let state = &mut 2_026;
    let mut builder = Reel::builder();
    let sheet = builder.sheet("s", NewSheet::grid([64, 8], Grid::cell_size([8, 8])));
    for clip in 0..40 {
        let mut new = NewClip::of(sheet).mark("m", [0]);
        for _ in 0..1 + random(state) % 9 {
            new = new.hold((random(state) % 8) as u32, Ticks::new(1 + random(state) % 9_000_000));
        }
        new = new.mode([Mode::Loop, Mode::PingPong, Mode::Once][(random(state) % 3) as usize]);
        if clip % 4 == 0 {
            new = new.mode(Mode::PingPong).repeat(1 + (random(state) % 3) as u32);
            new = new.end(ClipEnd::Play(format!("c{}", random(state) % 40)));
        }
        builder.clip(format!("c{clip}"), new);
    }
    let reel = builder.build().unwrap();
    let ids: Vec<ClipId> = reel.clips().map(|clip| clip.id).collect();
    let mut player = Player::new(&reel, ids[0]);
    let mut hash = 0;
    let mut mix =
        |number: u64| hash = (hash ^ number).wrapping_mul(0x0100_0000_01b3).rotate_left(7);
    for _ in 0..200_000 {
        match random(state) % 40 {
            0 => assert!(player.play(&reel, ids[(random(state) % 40) as usize])),
            1..4 => {
                let bits = (random(state) % 600_000) as i32 - 300_000;
                player.set_speed(Speed::from_bits(bits).unwrap());
            }
            4 => player.hit_stop(Ticks::new(random(state) % 9_000_000)),
            5 => assert!(player.seek(&reel, Ticks::new(random(state) % 90_000_000))),
            _ => {}
        }
        for event in player.advance(&reel, Ticks::new(random(state) % 6_000_000)) {
            mix(event.at.get());
            mix(event.serial);
        }
        mix(u64::from(player.hold_index(&reel).unwrap_or(99)));
    }
    assert_eq!(hash, GOLDEN, "{hash:#018x}");
}

const GOLDEN: u64 = 0xad23_5ef3_1da3_2300;
