//! Delays as each format stores them. What a format cannot store exactly is rounded on the running total, so
//! that errors do not add up and the total is right.

use lucky_reel_core::Ticks;

use super::shots::Shot;

/// A delay for each shot, and what is not exact about them.
pub(super) struct Delays<D> {
    pub(super) delays: Vec<D>,
    pub(super) remark: Option<String>,
}

const SECOND: u128 = Ticks::PER_SECOND as u128;

/// Whole parts of a second for each shot: the total is right to half a part.
fn rounded(shots: &[Shot], parts: u128) -> impl Iterator<Item = u128> {
    let (mut passed, mut written) = (0, 0);
    shots.iter().map(move |shot| {
        passed += u128::from(shot.ticks.get());
        let end = (2 * passed * parts + SECOND) / (2 * SECOND);
        let delay = end - written;
        written = end;
        delay
    })
}

/// GIF: hundredths of a second.
pub(super) fn hundredths(shots: &[Shot]) -> Delays<u16> {
    let exact = |shot: &Shot| u128::from(shot.ticks.get()) * 100 % SECOND == 0;
    let delays: Vec<u128> = rounded(shots, 100).collect();
    let inexact = shots.iter().filter(|shot| !exact(shot)).count();
    let fast = delays.iter().filter(|delay| **delay < 2).count();
    let long = delays.iter().filter(|delay| **delay > u128::from(u16::MAX)).count();
    let mut remarks = Vec::new();
    if inexact > 0 {
        remarks.push(format!(
            "GIF stores hundredths of a second: {inexact} of {} times are rounded, their total is right",
            shots.len()
        ));
    }
    if fast > 0 {
        remarks
            .push(format!("{fast} of them are under 2 hundredths, which many viewers slow down"));
    }
    if long > 0 {
        remarks.push(format!("{long} of them are over 655.35 s, and are cut to that"));
    }
    let delays = delays.into_iter().map(|delay| u16::try_from(delay).unwrap_or(u16::MAX)).collect();
    Delays { delays, remark: (!remarks.is_empty()).then(|| remarks.join("; ")) }
}

/// APNG: a fraction of a second, both parts below 65,536.
pub(super) fn fractions(shots: &[Shot]) -> Delays<(u16, u16)> {
    let exact: Option<Vec<(u16, u16)>> = shots.iter().map(|shot| fraction(shot.ticks)).collect();
    if let Some(delays) = exact {
        return Delays { delays, remark: None };
    }
    // The finest unit in which the longest time fits.
    let longest = shots.iter().map(|shot| shot.ticks.get()).max().unwrap_or(0);
    let seconds = longest / Ticks::PER_SECOND + 1;
    let parts = (u64::from(u16::MAX) / seconds).clamp(1, 10_000) as u16;
    let fit = |delay: u128| (u16::try_from(delay).unwrap_or(u16::MAX), parts);
    let delays = rounded(shots, u128::from(parts)).map(fit).collect();
    let remark = format!(
        "some times are no fractions that APNG can tell: they are rounded to 1/{parts} s, their total is right"
    );
    Delays { delays, remark: Some(remark) }
}

/// A time as an exact fraction of a second, where there is one.
fn fraction(time: Ticks) -> Option<(u16, u16)> {
    let (mut a, mut b) = (time.get(), Ticks::PER_SECOND);
    while b > 0 {
        (a, b) = (b, a % b);
    }
    let above = u16::try_from(time.get() / a).ok()?;
    let below = u16::try_from(Ticks::PER_SECOND / a).ok()?;
    Some((above, below))
}
