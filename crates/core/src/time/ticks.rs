use core::fmt;
use core::iter::Sum;
use core::ops::{Add, AddAssign, Sub, SubAssign};

/// A length of time, or a moment, in ticks: 72,072,000 of them are one second.
///
/// Arithmetic saturates: it never wraps and never panics. The longest time is some 8,000 years.
///
/// ```
/// use lucky_reel_core::Ticks;
///
/// assert_eq!(Ticks::from_millis(1_000).get(), Ticks::PER_SECOND);
/// assert_eq!(Ticks::per_second_of(60).get(), 1_201_200); // one frame of a 60 Hz display, exactly
/// assert_eq!(Ticks::from_millis(120).to_string(), "120ms");
/// ```
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, PartialOrd, Ord, Hash)]
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
    pub const fn per_second_of(rate: u32) -> Ticks {
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

    /// Seconds, to the nearest `f64`. For showing, not for reckoning.
    #[must_use]
    pub fn as_secs_f64(self) -> f64 {
        self.0 as f64 / Self::PER_SECOND as f64
    }

    /// Milliseconds, to the nearest `f64`. For showing, not for reckoning.
    #[must_use]
    pub fn as_millis_f64(self) -> f64 {
        self.0 as f64 / Self::PER_MILLI as f64
    }

    /// Whether this is no time at all.
    #[must_use]
    pub const fn is_zero(self) -> bool {
        self.0 == 0
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

/// Written as a reel file would: `120ms` where that is exact, else `1201200t`.
impl fmt::Display for Ticks {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        if self.0 % Self::PER_MILLI == 0 {
            write!(f, "{}ms", self.0 / Self::PER_MILLI)
        } else {
            write!(f, "{}t", self.0)
        }
    }
}
