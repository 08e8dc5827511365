use core::time::Duration;

use super::{Clock, Ticks, TimeSource};

/// A clock that is moved by hand, for the tests of games.
///
/// ```
/// use core::time::Duration;
/// use lucky_reel_core::{TimeSource, ManualClock, Ticks};
///
/// fn update(clock: &mut impl TimeSource) -> Ticks {
///     clock.lap()
/// }
/// let mut clock = ManualClock::new();
/// clock.pass(Duration::from_millis(16));
/// assert_eq!(update(&mut clock), Ticks::from_millis(16));
/// assert_eq!(update(&mut clock), Ticks::ZERO);
/// ```
#[derive(Clone, Debug, Default)]
pub struct ManualClock {
    clock: Clock,
    passed: Duration,
}

impl ManualClock {
    /// A clock on which no time has passed yet, with the scale and the clamp of [`Clock::new`].
    #[must_use]
    pub fn new() -> ManualClock {
        ManualClock::default()
    }

    /// Lets time pass; the next lap gives it.
    pub fn pass(&mut self, time: Duration) {
        self.passed = self.passed.saturating_add(time);
    }

    /// The clock behind it, for its scale, pause and clamp.
    pub fn settings(&mut self) -> &mut Clock {
        &mut self.clock
    }
}

impl TimeSource for ManualClock {
    fn lap(&mut self) -> Ticks {
        let passed = core::mem::take(&mut self.passed);
        self.clock.step(passed)
    }
}
