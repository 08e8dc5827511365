//! Groups: members that share a clock of their own.

use alloc::vec::Vec;

use crate::checksum::Checksum;
use crate::command_error::CommandError;
use crate::range::Range;
use crate::time::{Speed, Ticks};

/// A group of members.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub(super) struct Group {
    pub(super) clock: GroupClock,
    pub(super) is_asleep: bool,
    /// What has passed while it slept, in parts between which its clock was changed.
    pub(super) slept: Vec<Slept>,
}

/// Game time that passed for a clock while its group slept.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) struct Slept {
    /// As it was before.
    pub(super) clock: GroupClock,
    pub(super) dt: Ticks,
}

/// The clock of a group.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) struct GroupClock {
    pub(super) scale: Speed,
    /// 65,536ths of a tick of its own that are left over.
    pub(super) carry: u32,
}

/// The last hour: of a longer sleep the events before are not listed, so that their number has a bound.
pub(super) const HEARD: Ticks = Ticks::from_secs(3_600);

impl Slept {
    fn clock_after(mut self) -> GroupClock {
        self.clock.advance(self.dt);
        self.clock
    }
}

const SCALE: Range = Range { name: "a group's time scale", min: 0.0, max: 32_767.0 };

impl Default for GroupClock {
    fn default() -> GroupClock {
        GroupClock { scale: Speed::NORMAL, carry: 0 }
    }
}

impl GroupClock {
    pub(super) fn set_scale(&mut self, factor: f64) -> Result<(), CommandError> {
        self.scale = Speed::from_f64(SCALE.check(factor)?)?;
        Ok(())
    }

    /// What game time means for its members. The carry makes any split of a time give the same.
    pub(super) fn advance(&mut self, dt: Ticks) -> GroupAdvance {
        let scale = u128::from(self.scale.size());
        let carry = u128::from(self.carry);
        let units = u128::from(dt.get()) * scale + carry;
        self.carry = (units & 0xffff) as u32;
        let ticks = u64::try_from(units >> 16).unwrap_or(u64::MAX);
        GroupAdvance { ticks, first: 0, scale, carry }
    }
}

impl Group {
    pub(super) fn add_to(&self, sum: &mut Checksum) {
        let mut add = |GroupClock { scale, carry }: GroupClock| {
            sum.add_pair(scale.to_bits() as u32, carry);
        };
        add(self.clock);
        self.slept.iter().for_each(|slept| add(slept.clock));
        sum.add(u64::from(self.is_asleep));
        self.slept.iter().for_each(|slept| sum.add(slept.dt.get()));
    }

    /// What game time means for its members now: nothing while it sleeps.
    pub(super) fn advance(&mut self, dt: Ticks) -> GroupAdvance {
        if !self.is_asleep {
            return self.clock.advance(dt);
        }
        let goes_on = |slept: &&mut Slept| slept.clock_after() == self.clock;
        let longer = self.slept.last_mut().filter(goes_on);
        let longer = longer.and_then(|slept| Some((slept.dt.get().checked_add(dt.get())?, slept)));
        match longer {
            Some((sum, slept)) => slept.dt = Ticks::new(sum),
            None if dt == Ticks::ZERO => {}
            None => self.slept.push(Slept { clock: self.clock, dt }),
        }
        self.clock.advance(dt);
        GroupAdvance::NONE
    }

    /// What it has slept through, part by part, each with the game ticks that had passed before, and whether
    /// it belongs to the last [`HEARD`] ticks.
    pub(super) fn wake_up(&mut self) -> impl Iterator<Item = (GroupAdvance, bool)> + use<> {
        let parts = core::mem::take(&mut self.slept);
        // Summed in full: a damaged save may say of many parts that each lasted for ages.
        let all: u128 = parts.iter().map(|part| u128::from(part.dt.get())).sum();
        let mut unheard = all.saturating_sub(u128::from(HEARD.get()));
        let mut before = Ticks::ZERO;
        parts.into_iter().flat_map(move |Slept { mut clock, dt }| {
            let first = Ticks::new(u64::try_from(unheard).unwrap_or(u64::MAX)).min(dt);
            unheard -= u128::from(first.get());
            [(first, false), (dt - first, true)].map(|(dt, is_heard)| {
                let mut advance = clock.advance(dt);
                advance.first = advance.first.saturating_add(before.get());
                before += dt;
                (advance, is_heard)
            })
        })
    }
}

/// The time that passes for a group in one advance.
#[derive(Clone, Copy, Debug)]
pub(super) struct GroupAdvance {
    /// Its own ticks that pass for its members.
    pub(super) ticks: u64,
    /// Game ticks before its time begins to pass.
    first: u64,
    /// 65,536ths of its own ticks to a game tick.
    scale: u128,
    /// 65,536ths of its own tick that had passed before.
    carry: u128,
}

impl GroupAdvance {
    /// No time passes.
    pub(super) const NONE: GroupAdvance =
        GroupAdvance { ticks: 0, first: 0, scale: 1 << 16, carry: 0 };

    /// Whether its ticks are those of the game.
    #[inline]
    pub(super) fn is_plain(&self) -> bool {
        self.first == 0 && self.scale == 1 << 16 && self.carry == 0
    }

    /// The game tick from the start of the advance at which so many of the group's ticks have passed;
    /// of a first moment, the last one.
    #[inline]
    pub(super) fn game_tick(&self, ticks: Ticks, is_first_moment: bool) -> Ticks {
        if self.is_plain() {
            return ticks;
        }
        let ticks = u128::from(ticks.get()) + u128::from(is_first_moment);
        let units = (ticks << 16).saturating_sub(self.carry);
        let game = units.div_ceil(self.scale.max(1)) - u128::from(is_first_moment);
        Ticks::new(u64::try_from(game).unwrap_or(u64::MAX)) + Ticks::new(self.first)
    }
}
