//! How long each hold of a clip stays up, in whole ticks.

use alloc::format;
use alloc::string::{String, ToString};
use alloc::vec::Vec;

use crate::clip::{NewClip, Times};
use crate::time::ExactTime;

/// Why the times of a clip can not be used.
pub(super) struct TimesFault {
    pub(super) key: &'static str,
    pub(super) index: Option<usize>,
    pub(super) problem: String,
    pub(super) remedy: String,
}

/// The longest cycle, in ticks: some 22 days.
pub(super) const LONGEST: u64 = 1 << 47;

/// The ticks of each hold. Every boundary is rounded on the running total, so that a whole pass is
/// exact to one tick.
pub(super) fn ticks_of_holds(clip: &NewClip) -> Result<Vec<u64>, TimesFault> {
    let exact = exact_times(clip)?;
    let mut ticks = Vec::with_capacity(exact.len());
    let (mut total, mut reached) = (ExactTime::ZERO, 0);
    for (index, (time, fault_at)) in exact.into_iter().enumerate() {
        let fault = |problem: String, remedy: &str| TimesFault {
            key: fault_at.0,
            index: fault_at.1,
            problem,
            remedy: remedy.to_string(),
        };
        total = total.checked_add(time).ok_or_else(|| {
            fault(
                "these times have no common fraction small enough to add them exactly".to_string(),
                "write them in milliseconds",
            )
        })?;
        let end = total.to_ticks().get();
        if end <= reached {
            return Err(fault(
                format!("hold {index} has no length"),
                "give every hold a time above 0, at least one tick (1/72072000s)",
            ));
        }
        if end > LONGEST {
            return Err(fault(
                "the clip is longer than 2^47 ticks (22 days)".to_string(),
                "make it shorter",
            ));
        }
        ticks.push(end - reached);
        reached = end;
    }
    Ok(ticks)
}

/// Where a time was said: the key, and which of its values.
type Said = (&'static str, Option<usize>);

fn exact_times(clip: &NewClip) -> Result<Vec<(ExactTime, Said)>, TimesFault> {
    let fault = |key, problem: String, remedy: &str| TimesFault {
        key,
        index: None,
        problem,
        remedy: remedy.to_string(),
    };
    let own = |index: usize, time| (time, ("frames", Some(index)));
    let open = clip.holds.iter().filter(|(_, time)| time.is_none()).count();
    let shared: (ExactTime, &'static str) = match &clip.times {
        Times::Unsaid if open == 0 => (ExactTime::ZERO, "frames"),
        Times::Unsaid => {
            let problem = "it is not said how long the frames stay up".to_string();
            return Err(fault("", problem, "give `fps`, `each` or `total`"));
        }
        Times::Fps(rate) => match ExactTime::from_rate(*rate) {
            Some(time) => (time, "fps"),
            None => {
                let problem = "a frame rate of 0 shows nothing".to_string();
                return Err(fault("fps", problem, "give a number from 1 up"));
            }
        },
        Times::Each(time) => (*time, "each"),
        Times::List(list) => {
            if list.len() != open {
                let problem = format!("{} times for {open} frames", list.len());
                let remedy = "give each frame without a time of its own one time, or one for all";
                return Err(fault("each", problem, remedy));
            }
            let mut list = list.iter().enumerate();
            let holds = clip.holds.iter().enumerate();
            return Ok(holds
                .filter_map(|(index, (_, time))| match time {
                    Some(time) => Some(own(index, *time)),
                    None => list.next().map(|(nth, time)| (*time, ("each", Some(nth)))),
                })
                .collect());
        }
        Times::Total(total) => {
            let mut said = clip.holds.iter().filter_map(|(_, time)| *time);
            let sum = said.try_fold(ExactTime::ZERO, ExactTime::checked_add);
            let rest = sum.and_then(|sum| total.checked_sub(sum)).filter(|rest| !rest.is_zero());
            let share = rest.and_then(|rest| rest.checked_scale(1, open as u64));
            match share {
                Some(share) => (share, "total"),
                None if open == 0 => {
                    let problem = "every frame has a time of its own already".to_string();
                    return Err(fault("total", problem, "leave out `total`, or the frames' times"));
                }
                None => {
                    let problem = "nothing is left of it for the frames without a time".to_string();
                    return Err(fault("total", problem, "give a longer `total`"));
                }
            }
        }
    };
    let holds = clip.holds.iter().enumerate();
    Ok(holds
        .map(|(index, (_, time))| match time {
            Some(time) => own(index, *time),
            None => (shared.0, (shared.1, None)),
        })
        .collect())
}
