//! What moves a player, and how far.

use super::player::{PAUSED, Player};
use crate::clip::ClipData;
use crate::time::Ticks;

/// What moves a player.
#[derive(Clone, Copy, Debug)]
pub(crate) enum Drive {
    /// Game time, by the player's speed.
    Time(Ticks),
    /// Ground, in 65,536ths of a pixel.
    Ground(i64),
}

/// A movement: so many steps from its first moment, each worth `rate` units of clip time.
///
/// A step is a tick of game time or a 65,536th of a pixel.
#[derive(Clone, Copy, Debug)]
pub(super) struct Movement {
    /// The first moment, in steps from the start of the advance.
    pub(super) first: u64,
    pub(super) steps: u64,
    pub(super) rate: u64,
    pub(super) negative: bool,
    pub(super) by_ground: bool,
}

impl Movement {
    pub(super) fn units(&self) -> u128 {
        u128::from(self.steps) * u128::from(self.rate)
    }
}

impl Player {
    /// What the present movement is, once pause and hit-stop have had their share; `None` when it
    /// does not move.
    pub(super) fn movement(&mut self, clip: &ClipData, drive: Drive) -> Option<Movement> {
        if self.has(PAUSED) {
            return None;
        }
        let movement = match drive {
            Drive::Time(dt) => {
                let frozen = dt.get().min(u64::from(self.frozen));
                self.frozen -= frozen as u32;
                Movement {
                    first: frozen,
                    steps: dt.get() - frozen,
                    rate: u64::from(self.pace.size()),
                    negative: self.pace.is_negative(),
                    by_ground: false,
                }
            }
            Drive::Ground(_) if self.frozen > 0 => return None,
            Drive::Ground(steps) => Movement {
                first: 0,
                steps: steps.unsigned_abs(),
                rate: clip.units_for_ground,
                negative: steps < 0,
                by_ground: true,
            },
        };
        (movement.units() > 0).then_some(movement)
    }
}
