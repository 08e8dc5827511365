use core::fmt;
use core::iter::Sum;
use core::ops::{Add, AddAssign, Div, Mul, Rem, Sub, SubAssign};
use core::time::Duration;

use super::ExactTime;

/// A length of time, or a moment, in ticks: 72,072,000 of them are one second.
///
/// Milliseconds, hundredths of a second and all usual frame rates (1 to 16, 18, 20, 24, 25, 30, 48, 50,
/// 60, 72, 75, 90, 100, 120, 144, 165, 240) are whole numbers of ticks, so adding times up never
/// rounds. Times that are not whole are kept as [`ExactTime`].
///
/// Arithmetic saturates: it never wraps and never panics. The longest time is some 8,000 years.
///
/// ```
/// use core::time::Duration;
/// use lucky_reel_core::Ticks;
///
/// assert_eq!(Ticks::from_millis(1_000).get(), Ticks::PER_SECOND);
/// assert_eq!(Ticks::from_rate(60).get(), 1_201_200); // one frame of a 60 Hz display, exactly
/// assert_eq!(Ticks::from(Duration::from_millis(120)), Ticks::from_millis(120));
/// assert_eq!(Ticks::from_millis(120) * 3 / 4, Ticks::from_millis(90));
/// assert_eq!(Ticks::from_millis(120).to_string(), "120ms");
/// assert_eq!(Ticks::from_rate(60).to_string(), "16.667ms"); // rounded; `{:?}` has the exact ticks
/// assert_eq!(format!("{:?}", Ticks::from_rate(60)), "Ticks(1201200)");
/// ```
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, PartialOrd, Ord, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
#[cfg_attr(feature = "serde", serde(transparent))]
#[repr(transparent)]
pub struct Ticks(u64);

impl Ticks {
    /// How many ticks one second has.
    pub const PER_SECOND: u64 = 72_072_000;
    /// How many ticks one millisecond has.
    pub const PER_MILLI: u64 = Self::PER_SECOND / 1_000;
    /// No time at all.
    pub const ZERO: Ticks = Ticks(0);
    /// The longest time.
    pub const MAX: Ticks = Ticks(u64::MAX);

    /// A number of ticks.
    #[must_use]
    pub const fn new(ticks: u64) -> Ticks {
        Ticks(ticks)
    }

    /// Whole milliseconds; exact.
    #[must_use]
    pub const fn from_millis(millis: u64) -> Ticks {
        Ticks(millis.saturating_mul(Self::PER_MILLI))
    }

    /// Whole seconds; exact.
    #[must_use]
    pub const fn from_secs(secs: u64) -> Ticks {
        Ticks(secs.saturating_mul(Self::PER_SECOND))
    }

    /// The time of one frame at `rate` frames a second, rounded down where the rate does not divide
    /// [`Ticks::PER_SECOND`]. A rate of 0 gives no time.
    #[must_use]
    pub const fn from_rate(rate: u32) -> Ticks {
        match Self::PER_SECOND.checked_div(rate as u64) {
            Some(ticks) => Ticks(ticks),
            None => Ticks(0),
        }
    }

    /// The number of ticks.
    #[must_use]
    pub const fn get(self) -> u64 {
        self.0
    }

    /// Seconds, to the nearest `f64`. For display only; not exact.
    #[must_use]
    pub fn as_secs_f64(self) -> f64 {
        self.0 as f64 / Self::PER_SECOND as f64
    }

    /// Milliseconds, to the nearest `f64`. For display only; not exact.
    #[must_use]
    pub fn as_millis_f64(self) -> f64 {
        self.0 as f64 / Self::PER_MILLI as f64
    }
}

/// The nearest number of ticks; a tick is some 14 ns.
impl From<Duration> for Ticks {
    fn from(duration: Duration) -> Ticks {
        ExactTime::from(duration).to_ticks()
    }
}

/// The nearest number of nanoseconds.
impl From<Ticks> for Duration {
    fn from(ticks: Ticks) -> Duration {
        let (secs, rest) = (ticks.0 / Ticks::PER_SECOND, ticks.0 % Ticks::PER_SECOND);
        let nanos = (rest * 1_000_000_000 + Ticks::PER_SECOND / 2) / Ticks::PER_SECOND;
        Duration::from_secs(secs) + Duration::from_nanos(nanos)
    }
}

impl Add for Ticks {
    type Output = Ticks;
    fn add(self, other: Ticks) -> Ticks {
        Ticks(self.0.saturating_add(other.0))
    }
}

impl Sub for Ticks {
    type Output = Ticks;
    fn sub(self, other: Ticks) -> Ticks {
        Ticks(self.0.saturating_sub(other.0))
    }
}

impl Mul<u64> for Ticks {
    type Output = Ticks;
    fn mul(self, times: u64) -> Ticks {
        Ticks(self.0.saturating_mul(times))
    }
}

/// Rounded down; by 0 it is the longest time.
impl Div<u64> for Ticks {
    type Output = Ticks;
    fn div(self, parts: u64) -> Ticks {
        Ticks(self.0.checked_div(parts).unwrap_or(u64::MAX))
    }
}

/// How many whole times the other fits in; by zero as often as can be counted.
impl Div for Ticks {
    type Output = u64;
    fn div(self, other: Ticks) -> u64 {
        self.0.checked_div(other.0).unwrap_or(u64::MAX)
    }
}

/// What is left when the other has been taken off as often as it fits in; all of it by zero.
impl Rem for Ticks {
    type Output = Ticks;
    fn rem(self, other: Ticks) -> Ticks {
        Ticks(self.0.checked_rem(other.0).unwrap_or(self.0))
    }
}

impl AddAssign for Ticks {
    fn add_assign(&mut self, other: Ticks) {
        *self = *self + other;
    }
}

impl SubAssign for Ticks {
    fn sub_assign(&mut self, other: Ticks) {
        *self = *self - other;
    }
}

impl Sum for Ticks {
    fn sum<I: Iterator<Item = Ticks>>(iter: I) -> Ticks {
        iter.fold(Ticks::ZERO, Add::add)
    }
}

impl<'t> Sum<&'t Ticks> for Ticks {
    fn sum<I: Iterator<Item = &'t Ticks>>(iter: I) -> Ticks {
        iter.copied().sum()
    }
}

/// Milliseconds with at most three digits after the point: `120ms`, `16.667ms`.
impl fmt::Display for Ticks {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let micros = (u128::from(self.0) * 1_000 + u128::from(Self::PER_MILLI / 2))
            / u128::from(Self::PER_MILLI);
        let (millis, part) = (micros / 1_000, micros % 1_000);
        match part {
            0 => write!(f, "{millis}ms"),
            _ if part % 100 == 0 => write!(f, "{millis}.{}ms", part / 100),
            _ if part % 10 == 0 => write!(f, "{millis}.{:02}ms", part / 10),
            _ => write!(f, "{millis}.{part:03}ms"),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        /// Durations of whole nanoseconds go there and back within half a tick, and nothing panics.
        #[test]
        fn durations_go_there_and_back(nanos in 0_u64..1 << 60, any in any::<u64>()) {
            let duration = Duration::from_nanos(nanos);
            let back = Duration::from(Ticks::from(duration));
            prop_assert!(back.abs_diff(duration) <= Duration::from_nanos(7));
            let ticks = Ticks::new(any);
            prop_assert_eq!(ticks / 7 * 7 + ticks % Ticks::new(7), ticks);
            let _ = (Duration::from(ticks), ticks / 0, ticks / Ticks::ZERO, ticks % Ticks::ZERO);
        }
    }
}
