//! The game's time as ticks: from delta times, timestamps or the system's clock, and in even steps.

mod fixed_steps;
// `std` has no clock in a browser: what reads it would panic there.
#[cfg(all(feature = "std", not(all(target_family = "wasm", target_os = "unknown"))))]
mod lap;

use core::time::Duration;

use lucky_reel_core::{CommandError, Speed, Ticks};

pub use fixed_steps::FixedSteps;

/// Turns the game's time into ticks and loses nothing on the way.
///
/// It takes what the game has: a [`Duration`], seconds as `f32` or `f64`, milliseconds, a timestamp
/// ([`lap_at`](Clock::lap_at)), or (`lap`, with `std`) the system's clock. What is less than a tick is
/// carried over to the next step, so a session of any length ends on the exact tick.
///
/// One step is clamped to 250 ms unless set otherwise, so that a stall, a debugger stop or a
/// suspended laptop does not fast-forward the game; [`dropped`](Clock::dropped) says how much was
/// cut off. A step that is negative or not a number counts as no time.
///
/// ```
/// use core::time::Duration;
/// use lucky_reel::{Clock, Ticks};
///
/// let mut clock = Clock::new();
/// let mut sum = Ticks::ZERO;
/// for _ in 0..3_000 {
///     sum += clock.step_secs(1.0 / 3.0 * 0.001); // a third of a millisecond is no whole tick
/// }
/// assert_eq!(sum, Ticks::from_secs(1) - Ticks::new(1)); // the f64 is a little less than a third
///
/// assert_eq!(clock.step(Duration::from_secs(5)), Ticks::from_millis(250));
/// assert_eq!(clock.dropped(), Ticks::from_millis(4_750));
/// ```
#[derive(Clone, Debug)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
#[cfg_attr(feature = "serde", serde(deny_unknown_fields))]
pub struct Clock {
    /// Below one tick, in parts of `WHOLE`.
    carry: u128,
    /// Below one scaled tick, in 65,536ths.
    scaled_carry: u32,
    scale: Speed,
    longest: Ticks,
    dropped: Ticks,
    paused: bool,
    /// The reading at the last lap. A clock that was saved reads anew.
    #[cfg_attr(feature = "serde", serde(skip))]
    last: Option<Duration>,
}

/// A nanosecond is 9,009/125,000 of a tick.
const TICKS_PER_NANO: (u128, u128) = (9_009, 125_000);
/// Parts of a tick that hold both 125,000ths (nanoseconds) and 2^-64ths (floats) exactly.
const WHOLE: u128 = 15_625 << 64;

impl Clock {
    /// A running clock at normal speed that clamps one step to 250 ms.
    #[must_use]
    pub fn new() -> Clock {
        Clock {
            carry: 0,
            scaled_carry: 0,
            scale: Speed::NORMAL,
            longest: Ticks::from_millis(250),
            dropped: Ticks::ZERO,
            paused: false,
            last: None,
        }
    }

    /// With another longest step; `Ticks::MAX` never clamps.
    #[must_use]
    pub fn max_step(mut self, longest: Ticks) -> Clock {
        self.longest = longest;
        self
    }

    /// Slow motion and fast motion: every step is clamped first, then multiplied by `factor`.
    ///
    /// # Errors
    /// When the factor is negative, not finite or above 32,767: a clock does not run backward
    /// (players do, by their speed).
    pub fn set_scale(&mut self, factor: f64) -> Result<(), CommandError> {
        let (min, max) = (0.0, 32_767.0);
        if !(min..=max).contains(&factor) {
            return Err(CommandError::OutOfRange {
                name: "a clock's scale",
                given: factor,
                min,
                max,
            });
        }
        self.scale = Speed::from_f64(factor)?;
        Ok(())
    }

    /// Pauses the clock, so that steps give no time, or lets it go on; the time of the pause is left out.
    pub fn set_paused(&mut self, paused: bool) {
        self.paused = paused;
    }

    /// How much of the last step the clamp cut off, before scaling.
    #[must_use]
    pub fn dropped(&self) -> Ticks {
        self.dropped
    }

    /// A step of the game's own delta time; exact to the nanosecond.
    pub fn step(&mut self, passed: Duration) -> Ticks {
        let (above, below) = TICKS_PER_NANO;
        let ticks = passed.as_nanos().saturating_mul(above);
        self.take(ticks / below, (ticks % below) * (WHOLE / below))
    }

    /// A step in seconds, `f32` or `f64`; exact to the last bit (steps under 8 µs: to 2^-64 of a tick).
    pub fn step_secs(&mut self, secs: impl Into<f64>) -> Ticks {
        let (ticks, part) = ticks_of_secs(secs.into());
        self.take(ticks, u128::from(part) * (WHOLE >> 64))
    }

    /// The time since the last lap by a clock that the game has read itself: the time since any moment
    /// that stays the same. The first lap gives no time, and neither does a reading below the last one.
    /// Use either this or `lap` on one clock, not both: they count from different moments.
    ///
    /// ```
    /// use core::time::Duration;
    /// use lucky_reel::{Clock, Ticks};
    ///
    /// let mut clock = Clock::new();
    /// // What a browser hands to an animation callback: milliseconds since the page was opened.
    /// let laps = [1_000.0, 1_016.0, 1_015.5, 1_033.0].map(|timestamp: f64| {
    ///     clock.lap_at(Duration::from_secs_f64(timestamp / 1_000.0))
    /// });
    /// assert_eq!(laps, [0, 16, 0, 17].map(Ticks::from_millis));
    /// ```
    pub fn lap_at(&mut self, reading: Duration) -> Ticks {
        let last = self.last.unwrap_or(reading);
        self.last = Some(last.max(reading));
        self.step(reading.saturating_sub(last))
    }

    /// Takes whole ticks and parts of `WHOLE`, and gives what of them the game sees.
    fn take(&mut self, ticks: u128, part: u128) -> Ticks {
        self.dropped = Ticks::ZERO;
        if self.paused {
            return Ticks::ZERO;
        }
        self.carry += part;
        let ticks = ticks.saturating_add(self.carry / WHOLE);
        self.carry %= WHOLE;
        let passed = Ticks::new(u64::try_from(ticks).unwrap_or(u64::MAX));
        let kept = passed.min(self.longest);
        self.dropped = passed - kept;
        let scaled = u128::from(kept.get()) * u128::from(self.scale.to_bits().unsigned_abs())
            + u128::from(self.scaled_carry);
        self.scaled_carry = (scaled & 0xffff) as u32;
        Ticks::new(u64::try_from(scaled >> 16).unwrap_or(u64::MAX))
    }
}

impl Default for Clock {
    fn default() -> Clock {
        Clock::new()
    }
}

/// Whole ticks and 2^-64ths of a tick in a number of seconds, without rounding: a float is a whole
/// number times a power of two.
fn ticks_of_secs(secs: f64) -> (u128, u64) {
    if secs.is_nan() || secs <= 0.0 {
        return (0, 0);
    }
    let bits = secs.to_bits();
    let exponent = (bits >> 52) as i32 & 0x7ff;
    let fraction = bits & ((1 << 52) - 1);
    let whole = if exponent == 0 { fraction } else { fraction | 1 << 52 };
    // secs = whole * 2^shift
    let shift = exponent.max(1) - 1_075;
    let ticks = u128::from(whole) * u128::from(Ticks::PER_SECOND); // below 2^80
    match shift {
        47.. => (u128::MAX, 0),
        0..47 => (ticks << shift, 0),
        -63..0 => (ticks >> -shift, (ticks as u64) << (64 + shift)),
        -127..=-64 => {
            let small = ticks >> (-shift - 64);
            (small >> 64, small as u64)
        }
        _ => (0, 0),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn odd_steps_add_up_to_the_exact_tick() {
        let mut clock = Clock::new();
        let sum: Ticks = (0..1_000_000).map(|_| clock.step(Duration::from_nanos(16_666_667))).sum();
        let exact = 16_666_667_u128 * 1_000_000 * 9_009 / 125_000;
        assert_eq!(u128::from(sum.get()), exact);

        // 2^-20 s and its multiples are exact in every float.
        let mut clock = Clock::new();
        let step = 1.0 / 1_048_576.0;
        let sum: Ticks = (0..1_048_576_u32)
            .map(|i| if i % 2 == 0 { clock.step_secs(step) } else { clock.step_secs(step as f32) })
            .sum();
        assert_eq!(sum, Ticks::from_secs(1));
    }

    #[test]
    fn floats_are_taken_apart_without_rounding() {
        assert_eq!(ticks_of_secs(1.0), (72_072_000, 0));
        assert_eq!(ticks_of_secs(1.0 / 128.0), (563_062, 1 << 63));
        let tiny = 2.0_f64.powi(-70); // 72,072,000 * 2^-70 of a tick
        assert_eq!(ticks_of_secs(tiny), (0, 72_072_000 >> 6));
        for nothing in [-1.0, f64::NAN, 0.0, -0.0, f64::MIN_POSITIVE, 5e-324] {
            assert_eq!(ticks_of_secs(nothing), (0, 0), "{nothing}");
        }
        assert_eq!(Clock::new().step_secs(f64::INFINITY), Ticks::from_millis(250));
        assert_eq!(Clock::new().max_step(Ticks::MAX).step_secs(f64::MAX), Ticks::MAX);
    }

    #[test]
    fn a_scaled_or_paused_clock_keeps_its_carry() {
        let mut clock = Clock::new();
        clock.set_scale(0.3).unwrap();
        let sum: Ticks = (0..1_000).map(|_| clock.step(Duration::from_nanos(1_000_003))).sum();
        let unscaled = 1_000_003_u128 * 1_000 * 9_009 / 125_000;
        assert_eq!(u128::from(sum.get()), (unscaled * 19_661) >> 16); // 0.3 is 19,661/65,536
        clock.set_paused(true);
        assert_eq!(clock.step(Duration::from_millis(20)), Ticks::ZERO);
        clock.set_paused(false);
        assert!(clock.step(Duration::from_millis(20)) > Ticks::ZERO);
        assert!(clock.set_scale(-1.0).is_err() && clock.set_scale(f64::NAN).is_err());
    }

    #[test]
    fn a_clock_set_back_does_no_harm() {
        let mut clock = Clock::new();
        let laps = [100, 120, 50, 110, 130, 90_000];
        let laps = laps.map(|millis| clock.lap_at(Duration::from_millis(millis)));
        let millis = [0, 20, 0, 0, 10, 250].map(Ticks::from_millis);
        assert_eq!(laps, millis);
    }
}
