//! Clocks and fixed steps lose no tick.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use std::time::Duration;

use lucky_reel::{Clock, Ticks, time::FixedSteps};
use proptest::prelude::*;

proptest! {
    /// Fixed steps hand out all of the time and keep less than one step.
    #[test]
    fn fixed_steps_lose_nothing(step in 1_u64..9_000_000, passed in prop::collection::vec(0_u64..30_000_000, 1..20)) {
        let mut steps = FixedSteps::of(Ticks::new(step));
        let mut taken = 0;
        for passed in &passed {
            let due = steps.advance(Ticks::new(*passed));
            taken += due.len() as u64;
            prop_assert!(due.take(3).all(|dt| dt.get() == step));
            prop_assert!((0.0..1.0).contains(&steps.alpha()));
        }
        let sum: u64 = passed.iter().sum();
        prop_assert_eq!(taken, sum / step);
        prop_assert!((f64::from(steps.alpha()) - (sum % step) as f64 / step as f64).abs() < 1e-6);
    }

    /// However a time is cut into steps of a clock, and whatever it is given in, no tick is lost.
    #[test]
    fn clocks_lose_nothing(nanos in prop::collection::vec(0_u64..40_000_000, 1..60)) {
        let mut clock = Clock::new();
        let (mut laps, mut reading) = (Clock::new(), Duration::from_secs(7));
        laps.lap_at(reading);
        let (mut ticks, mut by_laps) = (Ticks::ZERO, Ticks::ZERO);
        for nanos in &nanos {
            ticks += clock.step(Duration::from_nanos(*nanos));
            reading += Duration::from_nanos(*nanos);
            by_laps += laps.lap_at(reading);
        }
        let sum: u128 = nanos.iter().map(|nanos| u128::from(*nanos)).sum();
        prop_assert_eq!(u128::from(ticks.get()), sum * 9_009 / 125_000);
        prop_assert_eq!(ticks, by_laps);
        // As floats each step is rounded to a float once, and nothing more is lost.
        let mut floats = Clock::new();
        let as_floats: Ticks = nanos.iter().map(|nanos| floats.step_secs(*nanos as f64 / 1e9)).sum();
        prop_assert!(as_floats.get().abs_diff(ticks.get()) <= 1);
    }
}

#[cfg(feature = "serde")]
#[test]
fn a_clock_that_was_saved_loses_nothing_of_what_it_carries() {
    let mut clock = Clock::new();
    let third = 1.0 / 3_000.0;
    let mut sum: Ticks = (0..1_000).map(|_| clock.step_secs(third)).sum();
    let bytes = postcard::to_allocvec(&clock).unwrap();
    let mut clock: Clock = postcard::from_bytes(&bytes).unwrap();
    sum += (0..2_000).map(|_| clock.step_secs(third)).sum();
    assert_eq!(sum, Ticks::from_secs(1) - Ticks::new(1));
}
