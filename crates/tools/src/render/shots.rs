use lucky_reel_assets::Fault;
use lucky_reel_core::{Clip, Reel, Speed, Ticks};

use crate::timeline::{Playing, TimeStep, Timeline};

/// A hold, and how long it is seen.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) struct Shot {
    pub(super) hold: u32,
    pub(super) ticks: Ticks,
}

const MAX_SHOTS: usize = 100_000;

/// What a player shows while it plays the clip: to its end, or so many cycles of an endless one.
pub(super) fn shots_of(
    reel: &Reel,
    clip: &Clip<'_>,
    speed: Speed,
    cycles: u32,
) -> Result<Vec<Shot>, Fault> {
    if clip.is_still {
        // It stands: one picture, for as long as a cycle of a second.
        return Ok(vec![Shot { hold: 0, ticks: Ticks::from_secs(1) }]);
    }
    let line = Timeline::of(reel, clip, Playing { speed, cycles, most: MAX_SHOTS });
    if line.steps.is_empty() {
        return Err(Fault::new("the clip does not move", "give a speed other than 0"));
    }
    if !line.is_whole {
        let what = format!("the clip takes more than {MAX_SHOTS} pictures");
        return Err(Fault::new(what, "render fewer cycles"));
    }
    let shot = |step: &TimeStep| Shot { hold: step.hold, ticks: step.end - step.start };
    Ok(line.steps.iter().map(shot).collect())
}
