//! The line along which a clip is played: its entries, one after another, and where each starts.
//!
//! A *cycle* of a loop is its holds in the order in which they are read; of a ping-pong it is
//! 0 1 2 3 2 1. A finite clip is a line of so many cycles (and the closing hold of a ping-pong), an
//! endless one is a ring. Lengths are in units, 65,536ths of a tick.

use super::ClipData;

/// One bit above the hold: it is on the way back of a ping-pong.
pub(crate) const RETURNING: u16 = 1 << 15;

/// A clip as it is read: forwards, or with its holds listed in reverse order.
#[derive(Clone, Copy)]
pub(crate) struct Line<'r> {
    pub(crate) clip: &'r ClipData,
    pub(crate) backwards: bool,
}

/// A place on a line: `into` units after the start of an entry of a cycle.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) struct Spot {
    pub(crate) cycle: i32,
    pub(crate) entry: u32,
    pub(crate) into: u64,
}

impl Line<'_> {
    fn holds(&self) -> u32 {
        self.clip.holds.len() as u32
    }

    /// How many entries a cycle has.
    pub(crate) fn entries(&self) -> u32 {
        if self.clip.turns() { 2 * self.holds() - 2 } else { self.holds() }
    }

    /// The entry at which a ping-pong turns.
    pub(crate) fn turning_entry(&self) -> Option<u32> {
        self.clip.turns().then(|| self.holds() - 1)
    }

    /// The hold shown at an entry, and whether it is on the way back.
    pub(crate) fn place_of(&self, entry: u32) -> u16 {
        let last = self.holds() - 1;
        let (nth, returning) =
            if entry <= last { (entry, 0) } else { (2 * last - entry, RETURNING) };
        let hold = if self.backwards { last - nth } else { nth };
        hold as u16 | returning
    }

    /// The entry at which a hold is shown.
    pub(crate) fn entry_of(&self, place: u16) -> u32 {
        let last = self.holds() - 1;
        let hold = u32::from(place & !RETURNING);
        let nth = if self.backwards { last - hold } else { hold };
        if place & RETURNING == 0 { nth } else { 2 * last - nth }
    }

    /// How long an entry stays up, in units.
    pub(crate) fn units_of(&self, entry: u32) -> u64 {
        self.clip.holds[usize::from(self.place_of(entry) & !RETURNING)].ticks << 16
    }

    /// Ticks from the start of the cycle to the nth hold of a pass in reading order.
    fn pass(&self, nth: u32) -> u64 {
        let (starts, count) = (&self.clip.starts, self.holds());
        if self.backwards {
            starts[count as usize] - starts[(count - nth) as usize]
        } else {
            starts[nth as usize]
        }
    }

    /// Units from the start of the cycle to the start of an entry.
    pub(crate) fn start_of(&self, entry: u32) -> u64 {
        let count = self.holds();
        let ticks = if entry < count {
            self.pass(entry)
        } else {
            let nth = 2 * (count - 1) - entry;
            self.pass(count) + self.pass(count - 1) - self.pass(nth + 1)
        };
        ticks << 16
    }

    /// Units of one cycle.
    pub(crate) fn cycle(&self) -> u64 {
        self.clip.cycle_ticks() << 16
    }

    /// How many cycles a finite line has.
    pub(crate) fn cycles(&self) -> Option<i32> {
        (self.clip.repeat > 0).then_some(self.clip.repeat as i32)
    }

    /// Units of the whole line, the closing hold of a ping-pong included; `None` for a ring.
    pub(crate) fn length(&self) -> Option<u128> {
        let cycles = self.cycles()? as u128;
        let closing = if self.clip.turns() { self.units_of(0) } else { 0 };
        Some(cycles * u128::from(self.cycle()) + u128::from(closing))
    }

    /// The last spot of a finite line, at the end of its last entry.
    pub(crate) fn far_end(&self) -> Spot {
        let entry = if self.clip.turns() { 0 } else { self.entries() - 1 };
        Spot { cycle: self.clip.repeat as i32, entry, into: self.units_of(entry) }
    }

    /// Units from the start of cycle 0, on a finite line.
    pub(crate) fn units_at(&self, spot: Spot) -> u128 {
        let cycles = u128::from(spot.cycle.max(0).unsigned_abs());
        cycles * u128::from(self.cycle()) + u128::from(self.start_of(spot.entry) + spot.into)
    }

    /// The spot so many units from the start of cycle 0, each hold being up for [start, end) when
    /// `forwards`, else for (start, end]. On a finite line it must lie within the line.
    pub(crate) fn spot_at(&self, units: u128, forwards: bool) -> Spot {
        let cycle = u128::from(self.cycle());
        let behind = u128::from(!forwards);
        let nth = units.saturating_sub(behind) / cycle;
        let within = (units - nth * cycle) as u64;
        let entry = self.entry_at(within, forwards);
        Spot { cycle: nth as i32, entry, into: within - self.start_of(entry) }
    }

    /// The spot `units` farther on a ring.
    pub(crate) fn spot_after(&self, spot: Spot, units: u128, forwards: bool) -> Spot {
        let from = u128::from(self.start_of(spot.entry) + spot.into);
        if forwards {
            let found = self.spot_at(from + units, true);
            return Spot { cycle: spot.cycle.wrapping_add(found.cycle), ..found };
        }
        let cycle = u128::from(self.cycle());
        // Enough whole cycles are added to stay above zero, and taken off the count again.
        let added = if units < from { 0 } else { (units - from) / cycle + 1 };
        let found = self.spot_at(from + added * cycle - units, false);
        let back = found.cycle.wrapping_sub(added as i32);
        Spot { cycle: spot.cycle.wrapping_add(back), ..found }
    }

    /// The entry that is up `within` units after the start of a cycle.
    fn entry_at(&self, within: u64, forwards: bool) -> u32 {
        let begun = |entry| {
            let start = self.start_of(entry);
            if forwards { start <= within } else { start < within }
        };
        let (mut low, mut high) = (0, self.entries());
        while high - low > 1 {
            let middle = low + (high - low) / 2;
            if begun(middle) {
                low = middle;
            } else {
                high = middle;
            }
        }
        low
    }
}
