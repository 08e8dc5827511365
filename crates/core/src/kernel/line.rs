//! The line along which a clip is played: its places, one after another, and where each starts.
//!
//! A *cycle* of a loop is its holds in the order in which they are read; of a ping-pong it is
//! 0 1 2 3 2 1. A finite clip is a line of so many cycles (and the closing hold of a ping-pong), an
//! endless one is a ring. Lengths are in units, 65,536ths of a tick.
//!
//! A position has three names: a *hold* is one of the clip's list, as the game counts it; a *place* is a hold and
//! whether it is passed on the way back of a ping-pong; a *step* is the row of the table for a place and a way
//! of reading.

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

/// A time along a line: `into` units after the start of a place of a cycle.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) struct LineTime {
    pub(crate) cycle: i32,
    pub(crate) place: u16,
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

    /// How many places a cycle has.
    pub(crate) fn places(&self) -> u32 {
        if self.clip.turns() { 2 * self.holds() - 2 } else { self.holds() }
    }

    /// The place with this index in the cycle.
    pub(super) fn place_at(&self, index: u32) -> u16 {
        let last = self.holds() - 1;
        let (nth, returning) =
            if index <= last { (index, 0) } else { (2 * last - index, RETURNING) };
        let hold = if self.backward { last - nth } else { nth };
        hold as u16 | returning
    }

    /// The index of a place in the cycle.
    pub(super) fn index_of(&self, place: u16) -> u32 {
        let last = self.holds() - 1;
        let hold = u32::from(place & !RETURNING);
        let nth = if self.backward { last - hold } else { hold };
        if place & RETURNING == 0 { nth } else { 2 * last - nth }
    }

    /// Whether a place is the first of a cycle, on which a finite ping-pong closes.
    pub(crate) fn is_first(&self, place: u16) -> bool {
        self.index_of(place) == 0
    }

    /// Whether a ping-pong turns on entering a place.
    pub(super) fn turns_at(&self, place: u16) -> bool {
        self.clip.turns() && self.index_of(place) == self.holds() - 1
    }

    /// How long a place stays up, in units.
    pub(crate) fn units_of(&self, place: u16) -> u64 {
        self.clip.holds[usize::from(place & !RETURNING)].ticks << 16
    }

    /// The start of cycle 0.
    pub(crate) fn start(&self) -> LineTime {
        LineTime { cycle: 0, place: self.place_at(0), into: 0 }
    }

    /// Ticks from the start of the cycle to the nth hold of a pass in reading order.
    fn pass(&self, nth: u32) -> u64 {
        let (starts, count) = (&self.clip.starts, self.holds());
        // Running sums from the front serve from the back, too: what is not behind lies ahead.
        if self.backward {
            starts[count as usize] - starts[(count - nth) as usize]
        } else {
            starts[nth as usize]
        }
    }

    /// Units from the start of the cycle to the start of a place.
    pub(crate) fn start_of(&self, place: u16) -> u64 {
        self.start_at(self.index_of(place))
    }

    fn start_at(&self, index: u32) -> u64 {
        let count = self.holds();
        let ticks = if index < count {
            self.pass(index)
        } else {
            // All of the way out, and on the way back all but the last hold, less what is yet to come.
            let nth = 2 * (count - 1) - index;
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
        let closing = if self.clip.turns() { self.units_of(self.place_at(0)) } else { 0 };
        Some(cycles * u128::from(self.cycle()) + u128::from(closing))
    }

    /// The end of a finite line, where its last place has been up for all of its time.
    pub(crate) fn far_end(&self) -> LineTime {
        let place = self.place_at(if self.clip.turns() { 0 } else { self.places() - 1 });
        LineTime { cycle: self.repeat as i32, place, into: self.units_of(place) }
    }

    /// Units from the start of cycle 0, on a finite line.
    pub(crate) fn units_at(&self, time: LineTime) -> u128 {
        let cycles = u128::from(time.cycle.max(0).unsigned_abs());
        cycles * u128::from(self.cycle()) + u128::from(self.units_in_cycle(time))
    }

    /// Units from the start of its cycle.
    pub(crate) fn units_in_cycle(&self, time: LineTime) -> u64 {
        self.start_of(time.place) + time.into
    }

    /// The time so many units from the start of cycle 0, each hold being up for [start, end) when
    /// `forward`, else for (start, end]. On a finite line it must lie within the line.
    pub(crate) fn time_at(&self, units: u128, forward: bool) -> LineTime {
        let cycle = self.cycle();
        // Toward the beginning the end of a cycle belongs to it, so that one unit less is divided.
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
        let index = self.index_at(within, forward);
        let (place, into) = (self.place_at(index), within - self.start_at(index));
        LineTime { cycle: nth as i32, place, into }
    }

    /// The time `units` farther on a ring.
    pub(crate) fn time_after(&self, time: LineTime, units: u128, forward: bool) -> LineTime {
        let from = u128::from(self.units_in_cycle(time));
        if forward {
            let found = self.time_at(from + units, true);
            return LineTime { cycle: time.cycle.wrapping_add(found.cycle), ..found };
        }
        let cycle = u128::from(self.cycle());
        // Enough whole cycles are added to stay above zero, and taken off the count again.
        let added = if units < from { 0 } else { (units - from) / cycle + 1 };
        let found = self.time_at(from + added * cycle - units, false);
        let back = found.cycle.wrapping_sub(added as i32);
        LineTime { cycle: time.cycle.wrapping_add(back), ..found }
    }

    /// The index of the place that is up `within` units after the start of a cycle.
    fn index_at(&self, within: u64, forward: bool) -> u32 {
        let begun = |index| {
            let start = self.start_at(index);
            if forward { start <= within } else { start < within }
        };
        let (mut low, mut high) = (0, self.places());
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
            data: Default::default(),
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
        /// Places, their indexes and their starts are those of the cycle written down; and every
        /// unit of it is found in its place, from either side.
        #[test]
        fn a_line_is_its_cycle_written_down(
            ticks in prop::collection::vec(1_u64..5, 1..7), ping_pong in any::<bool>(),
            backward in any::<bool>(), cycle in 0_u64..3,
        ) {
            let mode = if ping_pong { Mode::PingPong } else { Mode::Loop };
            let clip = clip(&ticks, mode, 3);
            let line = Line::of(&clip, backward);
            let cycle_of_holds = written_down(ticks.len(), mode, backward);
            prop_assert_eq!(line.places() as usize, cycle_of_holds.len());
            let mut start = 0;
            for (index, hold) in (0..).zip(&cycle_of_holds) {
                let place = line.place_at(index);
                prop_assert_eq!(usize::from(place & !RETURNING), *hold);
                prop_assert_eq!(line.index_of(place), index);
                prop_assert_eq!((line.start_of(place), line.units_of(place)), (start, ticks[*hold] << 16));
                let end = start + line.units_of(place);
                let before = u128::from(cycle * line.cycle());
                for units in [start, start + 1, end - 1] {
                    let time = LineTime { cycle: cycle as i32, place, into: units - start };
                    prop_assert_eq!(line.time_at(before + u128::from(units), true), time);
                    prop_assert_eq!(line.units_at(time), before + u128::from(units));
                }
                for units in [start + 1, end] {
                    let time = LineTime { cycle: cycle as i32, place, into: units - start };
                    prop_assert_eq!(line.time_at(before + u128::from(units), false), time);
                }
                start = end;
            }
            prop_assert_eq!(line.cycle(), start);
            let closing = if clip.turns() { line.units_of(line.place_at(0)) } else { 0 };
            prop_assert_eq!(line.length(), Some(u128::from(3 * start + closing)));
            prop_assert_eq!(line.units_at(LineTime { cycle: 3, ..line.far_end() }) >= u128::from(3 * start), true);
        }

        /// On a ring, so far on and as far back comes to the same place, cycles counted.
        #[test]
        fn a_ring_leads_back(
            ticks in prop::collection::vec(1_u64..5, 1..6), units in 0_u128..1 << 90, index in 0_u32..5,
            into in 1_u64..65_536,
        ) {
            let clip = clip(&ticks, Mode::Loop, 0);
            let line = Line::of(&clip, false);
            let place = line.place_at(index % line.places());
            let from = LineTime { cycle: -7, place, into };
            let there = line.time_after(from, units, true);
            prop_assert_eq!(line.time_after(there, units, false), from);
            let cycles = units / u128::from(line.cycle());
            let passed = there.cycle.wrapping_sub(from.cycle);
            prop_assert!(passed == cycles as i32 || passed == (cycles + 1) as i32);
        }
    }
}
