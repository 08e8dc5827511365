use lucky_reel_core::Ticks;

/// Cuts uneven delta times into even steps and keeps what is left over.
///
/// For games that update at a fixed rate and draw at whatever rate the display has.
///
/// ```
/// use lucky_reel::{Ticks, time::FixedSteps};
///
/// let mut steps = FixedSteps::of(Ticks::from_rate(60));
/// assert_eq!(steps.advance(Ticks::from_millis(40)).count(), 2);
/// assert!((steps.alpha() - 0.4).abs() < 1e-6); // of a step: for drawing in between
/// for dt in steps.advance(Ticks::from_millis(10)) {
///     assert_eq!(dt, Ticks::from_rate(60)); // one update of the game
/// }
/// assert_eq!(steps.alpha(), 0.0);
/// ```
#[derive(Clone, Debug)]
pub struct FixedSteps {
    step: Ticks,
    left: Ticks,
}

impl FixedSteps {
    /// Steps of this length; a step of no time counts as one tick.
    #[must_use]
    pub fn of(step: Ticks) -> FixedSteps {
        FixedSteps { step: step.max(Ticks::new(1)), left: Ticks::ZERO }
    }

    /// Adds `passed` and returns an iterator over the whole steps now due, each as its length.
    ///
    /// The steps count as taken even if the iterator is not read to its end.
    pub fn advance(&mut self, passed: Ticks) -> impl ExactSizeIterator<Item = Ticks> + use<> {
        let due = self.left + passed;
        let (count, left) = (due.get() / self.step.get(), due.get() % self.step.get());
        self.left = Ticks::new(left);
        // A usize is enough for every clock that clamps; more steps than that would never end.
        core::iter::repeat_n(self.step, usize::try_from(count).unwrap_or(usize::MAX))
    }

    /// What is left over, as a share of one step: 0 up to but not including 1.
    #[must_use]
    pub fn alpha(&self) -> f32 {
        let share = self.left.get() as f64 / self.step.get() as f64;
        (share as f32).min(1.0 - f32::EPSILON / 2.0)
    }
}
