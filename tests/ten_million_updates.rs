//! A session of two days at a jittering 60 Hz ends on the exact tick.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use std::time::Duration;

use lucky_reel::*;

#[test]
fn ten_million_jittering_updates_end_on_the_exact_tick() {
    let mut builder = Reel::builder();
    let sheet = builder.sheet("s", NewSheet::grid([64, 8], Grid::cell_size([8, 8])));
    let clip = NewClip::of(sheet).frames(0..7).times([7, 11, 13, 17, 19, 23, 29].map(Ticks::new));
    let clip = builder.clip("walk", clip.mode(Mode::PingPong));
    let reel = builder.build().unwrap();
    let (mut clock, mut player) = (Clock::new(), Player::new(&reel, clip));
    player.set_speed(Speed::from_ratio(7, 3).unwrap());

    let (mut nanoseconds, mut jitter) = (0_u128, 1_u64);
    for _ in 0..10_000_000 {
        jitter = jitter.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1);
        let step = 16_666_667 + (jitter >> 44) * 3; // up to 3 ms late
        nanoseconds += u128::from(step);
        player.advance(&reel, clock.step(Duration::from_nanos(step)));
    }
    // A nanosecond is 9,009/125,000 of a tick.
    let ticks = Ticks::new((nanoseconds * 9_009 / 125_000) as u64);
    assert!(ticks > Ticks::from_secs(46 * 3_600));
    let mut at_once = Player::new(&reel, clip);
    at_once.set_speed(player.speed());
    at_once.advance(&reel, ticks);
    assert_eq!(player, at_once);
}
