//! The line along which a clip is played: its entries, one after another, and where each starts.
//!
//! A *cycle* of a loop is its holds in the order in which they are read; of a ping-pong it is
//! 0 1 2 3 2 1. A finite clip is a line of so many cycles (and the closing hold of a ping-pong), an
//! endless one is a ring. Lengths are in units, 65,536ths of a tick.

use crate::clip::ClipData;

/// One bit above the hold: it is on the way back of a ping-pong.
pub(crate) const RETURNING: u16 = 1 << 15;

/// A clip as it is read: forward, or with its holds listed in reverse order; so many times.
#[derive(Clone, Copy)]
pub(crate) struct Line<'r> {
    pub(crate) clip: &'r ClipData,
    pub(crate) backward: bool,
    /// 0 for an endless play.
    pub(crate) repeat: u32,
}

/// A place on a line: `into` units after the start of an entry of a cycle.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) struct Spot {
    pub(crate) cycle: i32,
    pub(crate) entry: u32,
    pub(crate) into: u64,
}

impl<'r> Line<'r> {
    /// A clip played as often as it says itself.
    pub(crate) fn of(clip: &'r ClipData, backward: bool) -> Line<'r> {
        Line { clip, backward, repeat: clip.repeat }
    }

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
        let hold = if self.backward { last - nth } else { nth };
        hold as u16 | returning
    }

    /// The entry at which a hold is shown.
    pub(crate) fn entry_of(&self, place: u16) -> u32 {
        let last = self.holds() - 1;
        let hold = u32::from(place & !RETURNING);
        let nth = if self.backward { last - hold } else { hold };
        if place & RETURNING == 0 { nth } else { 2 * last - nth }
    }

    /// How long an entry stays up, in units.
    pub(crate) fn units_of(&self, entry: u32) -> u64 {
        self.clip.holds[usize::from(self.place_of(entry) & !RETURNING)].ticks << 16
    }

    /// Ticks from the start of the cycle to the nth hold of a pass in reading order.
    fn pass(&self, nth: u32) -> u64 {
        let (starts, count) = (&self.clip.starts, self.holds());
        if self.backward {
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
        (self.repeat > 0).then_some(self.repeat as i32)
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
        Spot { cycle: self.repeat as i32, entry, into: self.units_of(entry) }
    }

    /// Units from the start of cycle 0, on a finite line.
    pub(crate) fn units_at(&self, spot: Spot) -> u128 {
        let cycles = u128::from(spot.cycle.max(0).unsigned_abs());
        cycles * u128::from(self.cycle()) + u128::from(self.start_of(spot.entry) + spot.into)
    }

    /// The spot so many units from the start of cycle 0, each hold being up for [start, end) when
    /// `forward`, else for (start, end]. On a finite line it must lie within the line.
    pub(crate) fn spot_at(&self, units: u128, forward: bool) -> Spot {
        let cycle = self.cycle();
        let behind = u64::from(!forward);
        let (nth, within) = match u64::try_from(units) {
            // Far quicker, and nearly always enough.
            Ok(units) => {
                let nth = units.saturating_sub(behind) / cycle;
                (u128::from(nth), units - nth * cycle)
            }
            Err(_) => {
                let nth = units.saturating_sub(u128::from(behind)) / u128::from(cycle);
                (nth, (units - nth * u128::from(cycle)) as u64)
            }
        };
        let entry = self.entry_at(within, forward);
        Spot { cycle: nth as i32, entry, into: within - self.start_of(entry) }
    }

    /// The spot `units` farther on a ring.
    pub(crate) fn spot_after(&self, spot: Spot, units: u128, forward: bool) -> Spot {
        let from = u128::from(self.start_of(spot.entry) + spot.into);
        if forward {
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
    fn entry_at(&self, within: u64, forward: bool) -> u32 {
        let begun = |entry| {
            let start = self.start_of(entry);
            if forward { start <= within } else { start < within }
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

#[cfg(test)]
mod tests {
    use super::*;
    use crate::clip::{ClipEnd, HoldData, Mode};
    use crate::ids::FrameId;
    use alloc::vec::Vec;
    use proptest::prelude::*;

    fn clip(ticks: &[u64], mode: Mode, repeat: u32) -> ClipData {
        let starts = (0..=ticks.len()).map(|count| ticks[..count].iter().sum());
        ClipData {
            holds: ticks
                .iter()
                .map(|ticks| HoldData { ticks: *ticks, frame: FrameId(0), watched: 0 })
                .collect(),
            starts: starts.collect(),
            mode,
            repeat,
            end: ClipEnd::Stay,
            rest: 0,
            marks: Default::default(),
            spans: Default::default(),
            units_for_ground: 0,
            is_still: false,
            mirrored: false,
            sets: Default::default(),
        }
    }

    /// The holds of a cycle, written down.
    fn written_down(count: usize, mode: Mode, backward: bool) -> Vec<usize> {
        let mut cycle: Vec<usize> = (0..count).collect();
        if mode == Mode::PingPong && count > 1 {
            cycle.extend((1..count - 1).rev());
        }
        cycle.into_iter().map(|hold| if backward { count - 1 - hold } else { hold }).collect()
    }

    proptest! {
        /// Entries, their places and their starts are those of the cycle written down; and every
        /// unit of it is found in its entry, from either side.
        #[test]
        fn a_line_is_its_cycle_written_down(
            ticks in prop::collection::vec(1_u64..5, 1..7), ping_pong in any::<bool>(),
            backward in any::<bool>(), cycle in 0_u64..3,
        ) {
            let mode = if ping_pong { Mode::PingPong } else { Mode::Loop };
            let clip = clip(&ticks, mode, 3);
            let line = Line::of(&clip, backward);
            let entries = written_down(ticks.len(), mode, backward);
            prop_assert_eq!(line.entries() as usize, entries.len());
            let mut start = 0;
            for (entry, hold) in (0..).zip(&entries) {
                let place = line.place_of(entry);
                prop_assert_eq!(usize::from(place & !RETURNING), *hold);
                prop_assert_eq!(line.entry_of(place), entry);
                prop_assert_eq!((line.start_of(entry), line.units_of(entry)), (start, ticks[*hold] << 16));
                let end = start + line.units_of(entry);
                let before = u128::from(cycle * line.cycle());
                for units in [start, start + 1, end - 1] {
                    let spot = Spot { cycle: cycle as i32, entry, into: units - start };
                    prop_assert_eq!(line.spot_at(before + u128::from(units), true), spot);
                    prop_assert_eq!(line.units_at(spot), before + u128::from(units));
                }
                for units in [start + 1, end] {
                    let spot = Spot { cycle: cycle as i32, entry, into: units - start };
                    prop_assert_eq!(line.spot_at(before + u128::from(units), false), spot);
                }
                start = end;
            }
            prop_assert_eq!(line.cycle(), start);
            let closing = if clip.turns() { line.units_of(0) } else { 0 };
            prop_assert_eq!(line.length(), Some(u128::from(3 * start + closing)));
            prop_assert_eq!(line.units_at(Spot { cycle: 3, ..line.far_end() }) >= u128::from(3 * start), true);
        }

        /// On a ring, so far on and as far back comes to the same place, cycles counted.
        #[test]
        fn a_ring_leads_back(
            ticks in prop::collection::vec(1_u64..5, 1..6), units in 0_u128..1 << 90, entry in 0_u32..5,
            into in 1_u64..65_536,
        ) {
            let clip = clip(&ticks, Mode::Loop, 0);
            let line = Line::of(&clip, false);
            let from = Spot { cycle: -7, entry: entry % line.entries(), into };
            let there = line.spot_after(from, units, true);
            prop_assert_eq!(line.spot_after(there, units, false), from);
            let cycles = units / u128::from(line.cycle());
            let passed = there.cycle.wrapping_sub(from.cycle);
            prop_assert!(passed == cycles as i32 || passed == (cycles + 1) as i32);
        }
    }
}
