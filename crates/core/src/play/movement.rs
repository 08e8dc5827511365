//! What moves a player, and how far.

use crate::distance::Distance;
use crate::time::Ticks;

/// What moves a player.
#[derive(Clone, Copy, Debug)]
pub(crate) enum Drive {
    /// Game time, by the player's speed.
    Time(Ticks),
    /// A distance, by the clip's stride.
    Distance(Distance),
}

/// A movement: so many steps from its first moment, each worth `rate` units of clip time.
///
/// A step is a tick of game time or a 65,536th of a pixel.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Movement {
    /// The first moment, in steps from the start of the advance.
    pub(super) first: u64,
    pub(super) steps: u64,
    pub(super) rate: u64,
    pub(super) negative: bool,
    pub(super) by_distance: bool,
}

impl Movement {
    pub(super) fn units(&self) -> u128 {
        u128::from(self.steps) * u128::from(self.rate)
    }
}
