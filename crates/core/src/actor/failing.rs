//! Which tests of a cue fail for an actor.

use alloc::vec::Vec;

use super::Actor;
use crate::reel::Cue;

impl Cue<'_> {
    /// Which tests fail for an actor as it is now: of each of the [conditions](Cue::conditions) their numbers.
    /// Empty when the cue matches.
    #[must_use]
    pub fn failing(&self, actor: &Actor) -> Vec<Vec<usize>> {
        let now = actor.circumstances(actor.inside(self.role.reel));
        if self.data.holds(&now) {
            return Vec::new();
        }
        let mut conditions = Vec::with_capacity(self.data.when.len());
        for condition in &self.data.when {
            let numbered = condition.iter().enumerate();
            let failing = numbered.filter(|(_, test)| !test.holds(&now));
            conditions.push(failing.map(|(nth, _)| nth).collect());
        }
        conditions
    }
}
