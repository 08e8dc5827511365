//! The part of the screen on which two pictures are compared.

use super::on_screen::OnScreen;

/// The part of the screen that two pictures both cover.
#[derive(Clone, Copy)]
pub(super) struct Window {
    from: [i64; 2],
    to: [i64; 2],
}

impl Window {
    pub(super) fn of(one: &OnScreen<'_>, other: &OnScreen<'_>) -> Option<Window> {
        let ([from, to], [other_from, other_to]) = (one.bounds(), other.bounds());
        let from = [0, 1].map(|axis| from[axis].max(other_from[axis]));
        let to = [0, 1].map(|axis| to[axis].min(other_to[axis]));
        (from[0] < to[0] && from[1] < to[1]).then_some(Window { from, to })
    }

    /// The left ends of stretches of 64 pixels, row by row.
    #[inline]
    pub(super) fn steps(self) -> impl Iterator<Item = [i64; 2]> {
        let [from, to] = [self.from, self.to];
        let mut at = from;
        core::iter::from_fn(move || {
            let now = at;
            at[0] += 64;
            if at[0] >= to[0] {
                at = [from[0], at[1] + 1];
            }
            (now[1] < to[1]).then_some(now)
        })
    }

    /// What both have set from a step on. Beyond the window one of them ends, and is clear.
    // The one that is not sampled is asked first: what is clear there need not be sampled.
    #[inline]
    pub(super) fn both_at(self, one: &OnScreen<'_>, other: &OnScreen<'_>, at: [i64; 2]) -> u64 {
        match one {
            OnScreen::Whole(_) => other.opaque(at, one.opaque(at, u64::MAX)),
            OnScreen::Sampled(_) => one.opaque(at, other.opaque(at, self.within(at[0]))),
        }
    }

    /// The pixels of a step that lie in the window.
    fn within(self, left: i64) -> u64 {
        u64::MAX >> (64 - (self.to[0] - left).clamp(1, 64))
    }

    /// All steps, with what both have set there.
    pub(super) fn both(
        self,
        one: &OnScreen<'_>,
        other: &OnScreen<'_>,
    ) -> impl Iterator<Item = ([i64; 2], u64)> {
        self.steps().map(move |at| (at, self.both_at(one, other, at)))
    }
}
