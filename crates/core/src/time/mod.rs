//! Time as whole ticks: lengths and speeds.
//!
//! # The law of time
//!
//! Time is an integer count of [`Ticks`], 72,072,000 a second. Milliseconds, hundredths and every
//! usual frame rate (1 to 16, 18, 20, 24, 25, 30, 48, 50, 60, 72, 75, 90, 100, 120, 144, 165, 240)
//! are whole numbers of ticks, so nothing is rounded, summed up wrongly or lost. What is not whole
//! is kept as an exact fraction ([`ExactTime`]) and rounded on the running total only.

mod exact;
mod random;
mod speed;
mod ticks;

pub use exact::ExactTime;
pub(crate) use speed::Pace;
pub use speed::Speed;
pub use ticks::Ticks;

/// A number of units of clip time over so many units a step, rounded down; 0 for a rate of 0.
#[inline]
pub(crate) fn divide_units(units: u64, rate: u64) -> u64 {
    if rate == 1 << 16 {
        return units >> 16;
    }
    // Floats divide in a third of the time that whole numbers of 64 bits take. With at most 52 bits the
    // quotient is never too small, and at most one too large.
    if units >> 52 != 0 || rate >> 52 != 0 || rate == 0 {
        return units.checked_div(rate).unwrap_or(0);
    }
    let quotient = (units as i64 as f64 / rate as i64 as f64) as i64 as u64;
    quotient - u64::from(quotient * rate > units)
}
