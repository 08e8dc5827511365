use core::fmt;

use super::Ticks;

/// A length of time as an exact fraction of a tick, before it is rounded to whole ticks.
///
/// ```
/// use lucky_reel_core::{ExactTime, Ticks};
///
/// let seventeenth = ExactTime::from_rate(17).unwrap(); // not a whole number of ticks
/// let sum = seventeenth.checked_scale(17, 1).unwrap();
/// assert_eq!(sum.to_ticks(), Ticks::from_secs(1)); // and still 17 of them are a second
/// assert_eq!(seventeenth.to_string(), "72072000/17t");
/// ```
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub struct ExactTime {
    /// Ticks, over `parts`; the fraction is in lowest terms.
    ticks: u128,
    parts: u128,
}

impl ExactTime {
    /// No time at all.
    pub const ZERO: ExactTime = ExactTime { ticks: 0, parts: 1 };

    /// `ticks / parts`; `None` when `parts` is 0.
    #[must_use]
    pub fn from_fraction(ticks: u128, parts: u128) -> Option<ExactTime> {
        if parts == 0 {
            return None;
        }
        let common = greatest_common_divisor(ticks, parts);
        Some(ExactTime { ticks: ticks / common, parts: parts / common })
    }

    /// The time of one frame at `rate` frames a second; `None` for a rate of 0.
    #[must_use]
    pub fn from_rate(rate: u32) -> Option<ExactTime> {
        ExactTime::from_fraction(u128::from(Ticks::PER_SECOND), u128::from(rate))
    }

    /// The nearest whole number of ticks; halves are rounded up.
    #[must_use]
    pub fn to_ticks(self) -> Ticks {
        let whole = self.ticks / self.parts;
        let rest = self.ticks % self.parts;
        let rounded = whole + u128::from(rest >= self.parts - rest);
        Ticks::new(u64::try_from(rounded).unwrap_or(u64::MAX))
    }

    /// The sum; `None` when it cannot be represented exactly (which takes many odd fractions).
    #[must_use]
    pub(crate) fn checked_add(self, other: ExactTime) -> Option<ExactTime> {
        let common = greatest_common_divisor(self.parts, other.parts);
        let mine = self.ticks.checked_mul(other.parts / common)?;
        let theirs = other.ticks.checked_mul(self.parts / common)?;
        let parts = self.parts.checked_mul(other.parts / common)?;
        ExactTime::from_fraction(mine.checked_add(theirs)?, parts)
    }

    /// The difference, `None` when it is below zero or cannot be represented exactly.
    #[must_use]
    pub(crate) fn checked_sub(self, other: ExactTime) -> Option<ExactTime> {
        let common = greatest_common_divisor(self.parts, other.parts);
        let mine = self.ticks.checked_mul(other.parts / common)?;
        let theirs = other.ticks.checked_mul(self.parts / common)?;
        let parts = self.parts.checked_mul(other.parts / common)?;
        ExactTime::from_fraction(mine.checked_sub(theirs)?, parts)
    }

    /// This time times `above / below`; `None` on overflow or when `below` is 0.
    #[must_use]
    pub fn checked_scale(self, above: u64, below: u64) -> Option<ExactTime> {
        ExactTime::from_fraction(
            self.ticks.checked_mul(u128::from(above))?,
            self.parts.checked_mul(u128::from(below))?,
        )
    }
}

impl From<Ticks> for ExactTime {
    fn from(ticks: Ticks) -> ExactTime {
        ExactTime { ticks: u128::from(ticks.get()), parts: 1 }
    }
}

impl From<core::time::Duration> for ExactTime {
    /// Exact, to the nanosecond.
    fn from(duration: core::time::Duration) -> ExactTime {
        let ticks = duration.as_nanos().saturating_mul(u128::from(Ticks::PER_SECOND));
        ExactTime::from_fraction(ticks, 1_000_000_000).unwrap_or(ExactTime::ZERO)
    }
}

/// As a reel file would have it, exactly: `120ms`, else `1201200t`, `72072000/17t`.
impl fmt::Display for ExactTime {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self.parts {
            1 if self.ticks.is_multiple_of(u128::from(Ticks::PER_MILLI)) => {
                write!(f, "{}ms", self.ticks / u128::from(Ticks::PER_MILLI))
            }
            1 => write!(f, "{}t", self.ticks),
            parts => write!(f, "{}/{parts}t", self.ticks),
        }
    }
}

fn greatest_common_divisor(mut a: u128, mut b: u128) -> u128 {
    while b != 0 {
        (a, b) = (b, a % b);
    }
    a.max(1)
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        /// A share of a time, summed up again, is exact.
        #[test]
        fn shares_sum_up(count in 1_u64..100_000, parts in 1_u64..1_000) {
            let millis = ExactTime::from(Ticks::from_millis(count));
            let share = millis.checked_scale(1, parts).unwrap();
            let sum = (0..parts).try_fold(ExactTime::ZERO, |sum, _| sum.checked_add(share));
            prop_assert_eq!(sum, Some(millis));
        }
    }
}
