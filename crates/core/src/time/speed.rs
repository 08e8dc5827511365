use core::fmt;
use core::ops::Neg;

use crate::command_error::CommandError;
use crate::range::Range;

/// How fast and which way a clip plays: a signed fixed-point factor with 16 fractional bits.
///
/// 1 is normal, 0 stands still, negative plays backward. Every multiple of 1/65,536 is exact, and
/// so is the product of a speed and a time.
///
/// ```
/// use lucky_reel_core::{CommandError, Speed};
///
/// assert_eq!(Speed::from_f64(0.5)?, Speed::from_ratio(1, 2)?);
/// assert_eq!(-Speed::NORMAL, Speed::from_f64(-1.0)?);
/// assert!(Speed::from_f64(f64::NAN).is_err());
/// # Ok::<(), lucky_reel_core::CommandError>(())
/// ```
#[derive(Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
#[cfg_attr(feature = "serde", serde(try_from = "i32", into = "i32"))]
#[repr(transparent)]
pub struct Speed(i32);

const RANGE: Range = Range { name: "a speed", min: -32_767.0, max: 32_767.0 };

impl Speed {
    /// Normal speed.
    pub const NORMAL: Speed = Speed(Self::ONE);
    /// No movement.
    pub const STILL: Speed = Speed(0);
    /// Normal speed backward, from the end to the beginning.
    pub const BACKWARD: Speed = Speed(-Self::ONE);

    pub(crate) const ONE: i32 = 1 << 16;

    /// The nearest speed to a factor.
    ///
    /// # Errors
    /// When the factor is not finite or not within -32,767 to 32,767.
    pub fn from_f64(factor: f64) -> Result<Speed, CommandError> {
        let factor = RANGE.check(factor)? * f64::from(Self::ONE);
        // Rounds half away from zero; `f64::round` is not in `core`.
        Ok(Speed((factor + if factor < 0.0 { -0.5 } else { 0.5 }) as i32))
    }

    /// The nearest speed to a factor: the greatest where it is beyond that, none where it is no number.
    pub(crate) fn nearest(factor: f64) -> Speed {
        Speed::from_f64(factor.clamp(RANGE.min, RANGE.max)).unwrap_or(Speed::STILL)
    }

    /// The nearest speed to `above / below`.
    ///
    /// # Errors
    /// When `below` is 0 or the ratio is not within -32,767 to 32,767.
    pub fn from_ratio(above: i32, below: i32) -> Result<Speed, CommandError> {
        RANGE.check(f64::from(above) / f64::from(below))?;
        let sign = i64::from(below.signum());
        let (above, below) = (sign * i64::from(above), sign * i64::from(below));
        // Twice the value rounded down, plus one, halved: the nearest, halves up.
        let twice = (above << 17).div_euclid(below);
        Ok(Speed(((twice + 1) >> 1) as i32))
    }

    /// From 65,536ths: `from_bits(65_536)` is the normal speed.
    ///
    /// # Errors
    /// When it is not within -32,767 to 32,767 times 65,536.
    pub fn from_bits(bits: i32) -> Result<Speed, CommandError> {
        RANGE.check(f64::from(bits) / f64::from(Self::ONE))?;
        Ok(Speed(bits))
    }

    /// The speed in 65,536ths.
    #[must_use]
    pub const fn to_bits(self) -> i32 {
        self.0
    }

    /// The factor, exactly.
    #[must_use]
    pub fn to_f64(self) -> f64 {
        f64::from(self.0) / f64::from(Self::ONE)
    }

    pub(crate) const fn is_negative(self) -> bool {
        self.0 < 0
    }

    /// The size without the sign, in 65,536ths.
    pub(crate) const fn size(self) -> u32 {
        self.0.unsigned_abs()
    }
}

/// A speed as its size and its sign, of which an advance needs the size at once.
#[derive(Clone, Copy, PartialEq, Eq)]
pub(crate) struct Pace(u32);

impl Pace {
    pub(crate) const NORMAL: Pace = Pace(Speed::ONE as u32);
    const NEGATIVE: u32 = 1 << 31;

    pub(crate) const fn to_bits(self) -> u32 {
        self.0
    }

    /// Every number is a pace.
    pub(crate) const fn from_bits(bits: u32) -> Pace {
        Pace(bits)
    }

    pub(crate) const fn is_negative(self) -> bool {
        self.0 & Self::NEGATIVE != 0
    }

    /// In 65,536ths.
    pub(crate) const fn size(self) -> u32 {
        self.0 & !Self::NEGATIVE
    }
}

impl From<Speed> for Pace {
    fn from(speed: Speed) -> Pace {
        Pace(speed.size() | if speed.is_negative() { Pace::NEGATIVE } else { 0 })
    }
}

impl From<Pace> for Speed {
    fn from(pace: Pace) -> Speed {
        let size = pace.size() as i32;
        Speed(if pace.is_negative() { -size } else { size })
    }
}

/// From 65,536ths, as [`Speed::from_bits`].
impl TryFrom<i32> for Speed {
    type Error = CommandError;
    fn try_from(bits: i32) -> Result<Speed, CommandError> {
        Speed::from_bits(bits)
    }
}

/// In 65,536ths, as [`Speed::to_bits`].
impl From<Speed> for i32 {
    fn from(speed: Speed) -> i32 {
        speed.to_bits()
    }
}

impl Default for Speed {
    fn default() -> Speed {
        Speed::NORMAL
    }
}

impl Neg for Speed {
    type Output = Speed;
    fn neg(self) -> Speed {
        Speed(self.0.saturating_neg())
    }
}

impl fmt::Debug for Speed {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "Speed({})", self.to_f64())
    }
}

impl fmt::Display for Speed {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{}", self.to_f64())
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn speeds_take_the_nearest_step_and_refuse_what_is_none() {
        for (above, below, bits) in
            [(1, 3, 21_845), (-1, 3, -21_845), (2, 3, 43_691), (-2, 3, -43_691), (2, -3, -43_691)]
        {
            assert_eq!(Speed::from_ratio(above, below).unwrap().to_bits(), bits, "{above}/{below}");
        }
        for factor in [0.25, -1.75, 32_767.0, 1.0 / 65_536.0] {
            assert_eq!(Speed::from_f64(factor).unwrap().to_f64(), factor);
        }
        for factor in [f64::NAN, f64::INFINITY, -32_768.0, 1e300] {
            assert!(Speed::from_f64(factor).is_err());
        }
        assert!(Speed::from_ratio(1, 0).is_err() && Speed::from_ratio(0, 0).is_err());
        assert!(Speed::from_bits(i32::MIN).is_err());
    }
}
