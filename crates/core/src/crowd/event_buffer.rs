//! What happened in an advance, kept to be read.

use alloc::vec::Vec;
use core::fmt;

use super::block::BLOCK;
use super::group_clock::GroupAdvance;
use super::member_id::MemberId;
use super::sink::{Before, CrossingRecord, EventSink};
use crate::event::EventMask;
use crate::kernel::{Boundary, Happened};
use crate::reel::Reel;
use crate::time::Ticks;

/// The events of one advance of a crowd, in order: a buffer to reuse.
///
/// Events are worked out when they are read, however long the advance was: the buffer takes 32 bytes for
/// each member to which something happened, and some more for those that took more than one boundary.
///
/// ```
/// # use lucky_reel_core::{Crowd, EventBuffer, EventKind, EventMask, Grid, NewClip, NewSheet, Reel, Ticks};
/// # let mut builder = Reel::builder();
/// # let sheet = builder.sheet("moth", NewSheet::grid([64, 16], Grid::cell_size([16, 16])));
/// # let flutter = builder.clip("flutter", NewClip::of(sheet).frames(0..4).fps(12));
/// # let reel = builder.build()?;
/// let mut crowd = Crowd::new(&reel);
/// crowd.spawn(flutter);
/// let mut events = EventBuffer::new();
/// for _ in 0..60 {
///     crowd.advance_into(Ticks::from_rate(60), EventMask::ALL, &mut events);
///     for (moth, event) in &events {
///         if event.kind == EventKind::Cycle && event.cycle == 2 {
///             crowd.remove(moth); // the crowd is free to be changed
///         }
///     }
/// }
/// assert!(crowd.is_empty());
/// # Ok::<(), lucky_reel_core::BuildError>(())
/// ```
#[derive(Clone, Default)]
pub struct EventBuffer {
    /// In blocks, as many as there ever were; those of the last advance come first.
    pub(super) records: Vec<CrossingRecord>,
    count: usize,
    pub(super) runs: Vec<Run>,
    pub(super) moments: Vec<(Boundary, Ticks)>,
    pub(super) slow: Vec<Before>,
    /// What the time meant for each group: once for each part of a sleep.
    pub(super) advances: Vec<GroupAdvance>,
    /// Where the present part begins among them.
    first_group: usize,
    pub(super) reel: Option<Reel>,
    pub(super) mask: EventMask,
    /// What each thread took in.
    #[cfg(feature = "rayon")]
    pub(super) parts: Vec<Part>,
}

/// What the members that one thread looked after did, and who of them leaves.
#[cfg(feature = "rayon")]
#[derive(Clone, Default)]
pub(super) struct Part {
    pub(super) events: EventBuffer,
    pub(super) leaving: Vec<u32>,
}

/// Records of one kind that follow one another, up to this one.
#[derive(Clone, Copy)]
pub(super) struct Run {
    pub(super) until: usize,
    pub(super) kind: RunKind,
    /// What happened in any of them, so that a run with nothing wanted is skipped at once.
    pub(super) happened: Happened,
}

#[derive(Clone, Copy, PartialEq)]
pub(super) enum RunKind {
    /// Plain boundaries that members have crossed, in this of the buffer's advances.
    Crossings(usize),
    /// Their codes are numbers of moments.
    Moments,
    /// Their codes are numbers of members that took the slow path, in this of the buffer's advances.
    Slow(usize),
}

impl EventBuffer {
    /// An empty buffer.
    #[must_use]
    pub fn new() -> EventBuffer {
        EventBuffer::default()
    }

    pub(super) fn begin(&mut self, mask: EventMask, reel: &Reel) {
        self.count = 0;
        self.runs.clear();
        self.moments.clear();
        self.slow.clear();
        self.advances.clear();
        self.mask = mask;
        if self.reel.as_ref().is_none_or(|known| known.build != reel.build) {
            self.reel = Some(reel.clone());
        }
    }

    /// What follows belongs to this advance of the groups.
    pub(super) fn begin_part(&mut self, advances: &[GroupAdvance]) {
        self.first_group = self.advances.len();
        self.advances.extend_from_slice(advances);
    }

    /// Adds what another buffer has taken in of the same advance.
    #[cfg(feature = "rayon")]
    pub(super) fn append(&mut self, other: &EventBuffer) {
        let (before, moments, slow) = (self.count, self.moments.len(), self.slow.len());
        self.moments.extend_from_slice(&other.moments);
        self.slow.extend_from_slice(&other.slow);
        self.records.truncate(before);
        self.records.extend_from_slice(other.records.get(..other.count).unwrap_or_default());
        let mut from = before;
        for run in &other.runs {
            let until = before + run.until;
            let shift = match run.kind {
                RunKind::Crossings(_) => 0,
                RunKind::Moments => moments as u32,
                RunKind::Slow(_) => slow as u32,
            };
            self.records[from..until].iter_mut().for_each(|record| record.code += shift);
            self.extend_run(until - from, run.kind, run.happened);
            from = until;
        }
    }

    fn extend_run(&mut self, count: usize, kind: RunKind, happened: Happened) {
        self.count += count;
        match self.runs.last_mut() {
            Some(run) if run.kind == kind => {
                run.until = self.count;
                run.happened = run.happened.and(happened);
            }
            _ => self.runs.push(Run { until: self.count, kind, happened }),
        }
    }

    fn push(&mut self, member: MemberId, number: usize, kind: RunKind) {
        let mut record = CrossingRecord::NOTHING;
        (record.slot, record.code) = (member.slot, number as u32);
        record.state.generation = member.generation;
        if let Some(place) = self.room().first_mut() {
            *place = record;
            self.extend_run(1, kind, Happened::ANYTHING);
        }
    }
}

impl EventSink for EventBuffer {
    #[inline]
    fn room(&mut self) -> &mut [CrossingRecord] {
        let enough = self.count + BLOCK;
        if self.records.len() < enough {
            self.records.resize(enough.next_power_of_two(), CrossingRecord::NOTHING);
        }
        &mut self.records[self.count..]
    }

    #[inline]
    fn crossed(&mut self, count: usize, happened: Happened, group: u8) {
        if count > 0 {
            self.extend_run(
                count,
                RunKind::Crossings(self.first_group + usize::from(group)),
                happened,
            );
        }
    }

    fn moment(&mut self, member: MemberId, boundary: Boundary, at: Ticks) {
        self.push(member, self.moments.len(), RunKind::Moments);
        self.moments.push((boundary, at));
    }

    fn slow(&mut self, member: MemberId, before: Before, group: u8) {
        let group = self.first_group + usize::from(group);
        self.push(member, self.slow.len(), RunKind::Slow(group));
        self.slow.push(before);
    }
}

impl fmt::Debug for EventBuffer {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.debug_struct("EventBuffer").field("records", &self.count).finish_non_exhaustive()
    }
}
