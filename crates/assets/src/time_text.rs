//! Durations and frame rates as people write them, read exactly.

use std::fmt;

use lucky_reel_core::{ExactTime, Ticks};

/// The largest number that may stand above or below the line of a written duration.
const LARGEST_PART: u128 = 1_000_000_000_000_000;

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

impl std::error::Error for ParseTimeError {}

/// The units a duration may be written in, and how many of each make one second.
const UNITS: [(&str, u128); 5] =
    [("ms", 1_000), ("us", 1_000_000), ("cs", 100), ("s", 1), ("t", Ticks::PER_SECOND as u128)];

/// Reads a duration: `120ms`, `0.12s`, `12cs`, `1/12s`, `10/60s`, `500us` or `1201200t` (ticks).
///
/// ```
/// use lucky_reel_assets::parse_time;
/// use lucky_reel_core::Ticks;
///
/// assert_eq!(parse_time("1/12s")?.to_ticks(), Ticks::from_rate(12));
/// assert_eq!(parse_time("0.12s")?, parse_time("120ms")?);
/// assert!(parse_time("12").is_err()); // 12 what?
/// # Ok::<(), lucky_reel_assets::ParseTimeError>(())
/// ```
///
/// # Errors
/// When the unit is missing, or the number is not a plain decimal one or a fraction of two, or has more than
/// 15 digits.
pub fn parse_time(text: &str) -> Result<ExactTime, ParseTimeError> {
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
    let parts =
        below.checked_mul(per_second).ok_or(ParseTimeError("this duration has too many digits"))?;
    ExactTime::from_fraction(ticks, parts)
        .ok_or(ParseTimeError("a duration cannot be divided by 0"))
}

/// Reads a frame rate, such as `12` or `29.97`, as the exact time of one frame.
///
/// # Errors
/// When the text is not a plain decimal number, is 0, or has more than 15 digits.
pub fn parse_rate(text: &str) -> Result<ExactTime, ParseTimeError> {
    const ZERO: ParseTimeError = ParseTimeError("a frame rate of 0 shows nothing");
    let (above, below) = decimal(text.trim())?;
    ExactTime::from_fraction(u128::from(Ticks::PER_SECOND) * below, above).ok_or(ZERO)
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

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        /// A duration is the same however it is written.
        #[test]
        fn durations_are_what_they_say(count in 1_u64..100_000) {
            let millis = parse_time(&format!("{count}ms")).unwrap();
            for same in [
                format!("{}us", count * 1_000),
                format!("{count}/1000s"),
                format!("{}.{:03}s", count / 1_000, count % 1_000),
                millis.to_ticks().to_string(),
            ] {
                prop_assert_eq!(parse_time(&same).unwrap(), millis);
            }
            prop_assert_eq!(millis.to_ticks(), Ticks::from_millis(count));
        }
    }

    #[test]
    fn durations_are_read_exactly_or_refused() {
        let ticks = |text: &str| parse_time(text).map(|time| time.to_ticks().get());
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
        assert!(parse_rate("0").is_err());
        assert_eq!(parse_time("1/7s").unwrap().to_string(), "10296000t");
        assert_eq!(parse_time("1/17s").unwrap().to_string(), "72072000/17t");
    }
}
