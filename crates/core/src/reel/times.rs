//! How long each hold of a clip stays up, in whole ticks.

use alloc::boxed::Box;
use alloc::vec::Vec;

use super::problem_kind::ProblemKind;
use super::problem_site::Key;
use crate::clip::{NewClip, Times};
use crate::time::ExactTime;

/// Why the times of a clip cannot be used, and where that was said.
type TimesProblem = Box<(Option<Key>, Option<usize>, ProblemKind)>;

/// The longest cycle, in ticks: some 22 days.
pub(super) const LONGEST: u64 = 1 << 47;

/// The ticks of each hold. Every boundary is rounded on the running total, so that a whole pass is
/// exact to one tick.
pub(super) fn ticks_of_holds(clip: &NewClip) -> Result<Vec<u64>, TimesProblem> {
    let exact = exact_times(clip)?;
    let mut ticks = Vec::with_capacity(exact.len());
    let (mut total, mut reached) = (ExactTime::ZERO, 0);
    for (index, (time, said)) in exact.into_iter().enumerate() {
        let refuse = |kind| Box::new((Some(said.0.clone()), said.1, kind));
        total = total.checked_add(time).ok_or_else(|| refuse(ProblemKind::InexactSum))?;
        let end = total.to_ticks().get();
        if end <= reached {
            return Err(refuse(ProblemKind::EmptyHold(index)));
        }
        if end > LONGEST {
            return Err(refuse(ProblemKind::ClipTooLong));
        }
        ticks.push(end - reached);
        reached = end;
    }
    Ok(ticks)
}

/// Where a time was said: the key, and which of its values.
type Said = (Key, Option<usize>);

fn exact_times(clip: &NewClip) -> Result<Vec<(ExactTime, Said)>, TimesProblem> {
    let refuse = |key, kind| Err(Box::new((Some(key), None, kind)));
    let own = |index: usize, time| (time, (Key::Frames, Some(index)));
    let open = clip.holds.iter().filter(|(_, time)| time.is_none()).count();
    let shared: (ExactTime, Key) = match &clip.times {
        Times::Unsaid if open == 0 => (ExactTime::ZERO, Key::Frames),
        Times::Unsaid => return Err(Box::new((None, None, ProblemKind::NoTimes))),
        Times::Fps(rate) => match ExactTime::from_rate(*rate) {
            Some(time) => (time, Key::Fps),
            None => return refuse(Key::Fps, ProblemKind::ZeroFps),
        },
        Times::Each(time) => (*time, Key::Each),
        Times::List(list) => {
            if list.len() != open {
                return refuse(Key::Each, ProblemKind::TimesCount(list.len(), open));
            }
            let mut list = list.iter().enumerate();
            let holds = clip.holds.iter().enumerate();
            return Ok(holds
                .filter_map(|(index, (_, time))| match time {
                    Some(time) => Some(own(index, *time)),
                    None => list.next().map(|(nth, time)| (*time, (Key::Each, Some(nth)))),
                })
                .collect());
        }
        Times::Total(total) => {
            let mut said = clip.holds.iter().filter_map(|(_, time)| *time);
            let sum = said.try_fold(ExactTime::ZERO, ExactTime::checked_add);
            let rest =
                sum.and_then(|sum| total.checked_sub(sum)).filter(|rest| *rest != ExactTime::ZERO);
            let share = rest.and_then(|rest| rest.checked_scale(1, open as u64));
            match share {
                Some(share) => (share, Key::Total),
                None if open == 0 => return refuse(Key::Total, ProblemKind::TotalUnneeded),
                None => return refuse(Key::Total, ProblemKind::TotalUsedUp),
            }
        }
    };
    let holds = clip.holds.iter().enumerate();
    Ok(holds
        .map(|(index, (_, time))| match time {
            Some(time) => own(index, *time),
            None => (shared.0, (shared.1.clone(), None)),
        })
        .collect())
}
