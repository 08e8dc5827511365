//! Groups: members that share a clock of their own.

use crate::range::{OutOfRange, Range};
use crate::time::{Speed, Ticks};

/// The clock of a group.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) struct Group {
    pub(super) scale: Speed,
    /// 65,536ths of a tick of its own that are left over.
    pub(super) carry: u32,
    /// Game ticks left of a hit-stop.
    pub(super) frozen: u64,
    pub(super) paused: bool,
    /// Slots before this block are taken.
    pub(super) room: [u32; 2],
}

const SCALE: Range = Range { name: "a group's time scale", least: 0.0, greatest: 32_767.0 };

impl Group {
    pub(super) const NEW: Group =
        Group { scale: Speed::NORMAL, carry: 0, frozen: 0, paused: false, room: [0; 2] };

    pub(super) fn set_scale(&mut self, factor: f64) -> Result<(), OutOfRange> {
        self.scale = Speed::from_f64(SCALE.check(factor)?)?;
        Ok(())
    }

    /// What game time means for its members. The carry makes any split of a time give the same.
    pub(super) fn pass(&mut self, dt: Ticks) -> Pass {
        let scale = u128::from(self.scale.size());
        if self.paused {
            return Pass { ticks: 0, frozen: 0, scale, carry: 0 };
        }
        let frozen = self.frozen.min(dt.get());
        self.frozen -= frozen;
        let carry = u128::from(self.carry);
        let units = u128::from(dt.get() - frozen) * scale + carry;
        self.carry = (units & 0xffff) as u32;
        Pass { ticks: u64::try_from(units >> 16).unwrap_or(u64::MAX), frozen, scale, carry }
    }
}

/// The time that passes for a group in one advance.
#[derive(Clone, Copy, Debug)]
pub(super) struct Pass {
    /// Its own ticks.
    pub(super) ticks: u64,
    /// Game ticks before its time begins to pass.
    frozen: u64,
    /// 65,536ths of its own ticks to a game tick.
    scale: u128,
    /// 65,536ths of its own tick that had passed before.
    carry: u128,
}

impl Pass {
    /// Whether its ticks are those of the game.
    pub(super) fn is_plain(&self) -> bool {
        self.frozen == 0 && self.scale == 1 << 16 && self.carry == 0
    }

    /// The game tick from the start of the advance at which so many of the group's ticks have passed;
    /// of something that departs then, the last one.
    pub(super) fn game_tick(&self, ticks: Ticks, departs: bool) -> Ticks {
        let ticks = u128::from(ticks.get()) + u128::from(departs);
        let units = (ticks << 16).saturating_sub(self.carry);
        let game = units.div_ceil(self.scale.max(1)) - u128::from(departs);
        Ticks::new(u64::try_from(game).unwrap_or(u64::MAX)) + Ticks::new(self.frozen)
    }
}
