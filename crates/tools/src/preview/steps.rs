//! The time bar as data: what is up when, and where playing is.

use super::Preview;
use crate::chart::marks_of;

/// A hold on the time bar.
#[derive(Clone, Debug, PartialEq)]
pub struct BarStep {
    /// Its index in the clip.
    pub hold: u32,
    /// Where it begins and ends, from 0 to 1.
    pub span: [f32; 2],
    /// Its duration in words; empty for a still.
    pub duration: String,
    /// The names of its marks.
    pub marks: Vec<String>,
}

/// Where playing is.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Place {
    /// The step of the bar that is up.
    pub step: Option<usize>,
    /// On the bar, from 0 to 1.
    pub at: f32,
}

impl Preview {
    /// The holds in the order in which they are played: a cycle, or all of a finite clip.
    #[must_use]
    pub fn bar(&self) -> Vec<BarStep> {
        let reel = &self.art.reel;
        let Some((clip, timeline)) = reel.clip(self.playing().clip()).zip(self.timeline()) else {
            return Vec::new();
        };
        let total = timeline.total.get().max(1) as f64;
        let share = |at: lucky_reel_core::Ticks| (at.get() as f64 / total) as f32;
        let steps = timeline.steps.iter().map(|step| BarStep {
            hold: step.hold,
            span: if clip.is_still { [0.0, 1.0] } else { [share(step.start), share(step.end)] },
            duration: match clip.is_still {
                true => String::new(),
                false => crate::words::milliseconds(step.end - step.start),
            },
            marks: marks_of(reel, &clip, step.hold).map(str::to_owned).collect(),
        });
        steps.collect()
    }

    /// Where playing is on the bar.
    #[must_use]
    pub fn place(&self, bar: &[BarStep]) -> Place {
        let player = self.playing();
        let at = player.progress(&self.art.reel).clamp(0.0, 1.0);
        let hold = player.hold_index(&self.art.reel);
        // At a boundary rounding must not show the neighbor: what is up decides.
        let near = |step: &BarStep| {
            let [from, to] = step.span;
            if at < from { from - at } else { (at - to).max(0.0) }
        };
        let up = bar.iter().enumerate().filter(|(_, step)| Some(step.hold) == hold);
        let step = up.min_by(|(_, a), (_, b)| near(a).total_cmp(&near(b))).map(|(nth, _)| nth);
        Place { step, at }
    }
}
