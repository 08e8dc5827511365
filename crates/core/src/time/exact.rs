use core::fmt;
use core::str::FromStr;

use super::Ticks;

/// A length of time as an exact fraction of a tick, before it is rounded to whole ticks.
///
/// Durations are written `120ms`, `0.12s`, `12cs`, `1/12s`, `10/60s`, `500us` or `1201200t`
/// (ticks).
///
/// ```
/// use lucky_reel_core::{ExactTime, Ticks};
///
/// let twelfth: ExactTime = "1/12s".parse()?;
/// assert_eq!(twelfth.to_ticks(), Ticks::from_rate(12));
/// assert_eq!("0.12s".parse::<ExactTime>()?, "120ms".parse()?);
/// assert!("12".parse::<ExactTime>().is_err()); // 12 what?
/// # Ok::<(), lucky_reel_core::ParseTimeError>(())
/// ```
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub struct ExactTime {
    /// Ticks, over `parts`; the fraction is in lowest terms.
    ticks: u128,
    parts: u128,
}

/// The largest number that may stand above or below the line of a written duration.
const LARGEST_PART: u128 = 1_000_000_000_000_000;

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

    /// Reads a frame rate such as `12` or `29.97` and gives the exact time of one frame.
    ///
    /// # Errors
    /// When the text is not a plain decimal number, or is 0, or has too many digits.
    pub fn from_rate_text(text: &str) -> Result<ExactTime, ParseTimeError> {
        let (above, below) = decimal(text.trim())?;
        if above == 0 {
            return Err(ParseTimeError("a frame rate of 0 shows nothing"));
        }
        ExactTime::from_fraction(u128::from(Ticks::PER_SECOND) * below, above)
            .ok_or(ParseTimeError("a frame rate of 0 shows nothing"))
    }

    /// Whether this is no time at all.
    #[must_use]
    pub fn is_zero(self) -> bool {
        self.ticks == 0
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
    pub fn checked_add(self, other: ExactTime) -> Option<ExactTime> {
        let common = greatest_common_divisor(self.parts, other.parts);
        let mine = self.ticks.checked_mul(other.parts / common)?;
        let theirs = other.ticks.checked_mul(self.parts / common)?;
        let parts = self.parts.checked_mul(other.parts / common)?;
        ExactTime::from_fraction(mine.checked_add(theirs)?, parts)
    }

    /// The difference, `None` when it is below zero or cannot be represented exactly.
    #[must_use]
    pub fn checked_sub(self, other: ExactTime) -> Option<ExactTime> {
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

/// Why a text is not a duration; the message says how to write one.
#[derive(Clone, Copy, PartialEq, Eq)]
pub struct ParseTimeError(&'static str);

impl fmt::Display for ParseTimeError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(self.0)
    }
}

/// The message, as `main` prints it; `{:#?}` shows the structure.
impl fmt::Debug for ParseTimeError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        if f.alternate() {
            return f.debug_tuple("ParseTimeError").field(&self.0).finish();
        }
        fmt::Display::fmt(self, f)
    }
}

impl core::error::Error for ParseTimeError {}

/// The units a duration may be written in, and how many of each make one second.
const UNITS: [(&str, u128); 5] =
    [("ms", 1_000), ("us", 1_000_000), ("cs", 100), ("s", 1), ("t", Ticks::PER_SECOND as u128)];

impl FromStr for ExactTime {
    type Err = ParseTimeError;

    fn from_str(text: &str) -> Result<ExactTime, ParseTimeError> {
        let text = text.trim();
        let (number, per_second) = UNITS
            .iter()
            .find_map(|&(unit, per_second)| Some((text.strip_suffix(unit)?, per_second)))
            .ok_or(ParseTimeError(
                "a duration needs its unit: 120ms, 0.12s, 12cs, 1/12s, 500us or 1201200t",
            ))?;
        let (above, below) = match number.trim_end().split_once('/') {
            None => decimal(number.trim_end())?,
            Some((above, below)) => {
                let (above, below) = (decimal(above.trim())?, decimal(below.trim())?);
                if below.0 == 0 {
                    return Err(ParseTimeError("a duration cannot be divided by 0"));
                }
                (above.0 * below.1, above.1 * below.0)
            }
        };
        let ticks = above
            .checked_mul(u128::from(Ticks::PER_SECOND))
            .ok_or(ParseTimeError("this duration is too long to be represented exactly"))?;
        let parts = below
            .checked_mul(per_second)
            .ok_or(ParseTimeError("this duration has too many digits"))?;
        ExactTime::from_fraction(ticks, parts)
            .ok_or(ParseTimeError("a duration cannot be divided by 0"))
    }
}

/// Reads `12` or `0.125` as a fraction.
fn decimal(text: &str) -> Result<(u128, u128), ParseTimeError> {
    const WRITTEN: ParseTimeError =
        ParseTimeError("write a duration as a plain number with a unit: 120ms, 0.12s, 1/12s");
    const DIGITS: ParseTimeError = ParseTimeError("this number has too many digits");
    let (whole, part) = text.split_once('.').unwrap_or((text, ""));
    if whole.is_empty() && part.is_empty() || text.ends_with('.') {
        return Err(WRITTEN);
    }
    let (mut above, mut below) = (0_u128, 1_u128);
    for (index, byte) in whole.bytes().chain(part.bytes()).enumerate() {
        if !byte.is_ascii_digit() {
            return Err(WRITTEN);
        }
        above = above * 10 + u128::from(byte - b'0');
        if index >= whole.len() {
            below *= 10;
        }
        if above > LARGEST_PART || below > LARGEST_PART {
            return Err(DIGITS);
        }
    }
    Ok((above, below))
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
    use alloc::string::ToString;

    #[test]
    fn durations_are_read_exactly_or_refused() {
        let ticks = |text: &str| text.parse::<ExactTime>().map(|time| time.to_ticks().get());
        for (text, expected) in [
            ("120ms", 8_648_640),
            ("0.12s", 8_648_640),
            ("12cs", 8_648_640),
            ("10/60s", 12_012_000),
            ("500us", 36_036),
            ("1201200t", 1_201_200),
            (" 1/12 s ", 6_006_000),
            ("0.5/6s", 6_006_000),
            (".5s", 36_036_000),
            ("0ms", 0),
        ] {
            assert_eq!(ticks(text), Ok(expected), "{text}");
        }
        for text in
            ["", "s", "12", "-1ms", "1e3ms", "1.ms", "1/0s", "nan", "infs", "1/2/3s", "１ms"]
        {
            assert!(ticks(text).is_err(), "{text}");
        }
        assert!(ticks("99999999999999999999s").is_err());
        assert_eq!("1/7s".parse::<ExactTime>().unwrap().to_string(), "10296000t");
        assert_eq!("1/17s".parse::<ExactTime>().unwrap().to_string(), "72072000/17t");
    }
}
