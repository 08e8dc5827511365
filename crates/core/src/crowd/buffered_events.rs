//! The events of an advance, worked out as they are read.

use super::Crowd;
use super::block::STEP;
use super::event_buffer::{EventBuffer, RunKind};
use super::group_clock::GroupAdvance;
use super::member_id::MemberId;
use super::sink::{CrossingRecord, SlowEvents, in_game_time};
use crate::event::{Event, EventMask};
use crate::kernel::{Boundary, Happened};
use crate::play::{Events, HasEvents};
use crate::reel::Reel;
use crate::time::Ticks;

impl EventBuffer {
    /// All events that the advance was asked for, each with its member.
    pub fn iter(&self) -> Events<'_, Crowd> {
        Events(BufferedEvents::of(self))
    }
}

impl<'b> IntoIterator for &'b EventBuffer {
    type Item = (MemberId, Event);
    type IntoIter = Events<'b, Crowd>;

    fn into_iter(self) -> Events<'b, Crowd> {
        self.iter()
    }
}

impl HasEvents for Crowd {
    type Event = (MemberId, Event);
    type Source<'b> = BufferedEvents<'b>;

    /// What nobody wants is skipped, many records at a time.
    #[inline]
    fn select<'b>(
        source: Self::Source<'b>,
        wanted: EventMask,
    ) -> impl Iterator<Item = (MemberId, Event)> + Clone {
        BufferedEvents { wanted: source.wanted & wanted, ..source }
    }
}

/// The events of an [`EventBuffer`], computed as they are read.
#[derive(Clone)]
#[allow(unreachable_pub)] // a sealed trait names it
pub struct BufferedEvents<'b> {
    buffer: &'b EventBuffer,
    wanted: EventMask,
    run: usize,
    /// The next record.
    at: usize,
    current: Current<'b>,
}

/// What is being read, and whose.
#[derive(Clone)]
#[allow(clippy::large_enum_variant)] // it lives while it is read
enum Current<'b> {
    None,
    Boundary(MemberId, Boundary, Ticks),
    Slow(MemberId, SlowEvents<'b>, Ticks, &'b GroupAdvance),
}

impl<'b> BufferedEvents<'b> {
    pub(super) fn of(buffer: &'b EventBuffer) -> BufferedEvents<'b> {
        BufferedEvents { buffer, wanted: buffer.mask, run: 0, at: 0, current: Current::None }
    }

    /// Goes to the next record of which something is wanted; `None` when there is no other.
    fn next_record(&mut self, reel: &'b Reel) -> Option<Current<'b>> {
        let (buffer, happened) = (self.buffer, Happened::wanted_by(self.wanted));
        loop {
            let run = buffer.runs.get(self.run)?;
            let records = buffer.records.get(self.at..run.until).unwrap_or_default();
            let is_wanted = |record: &CrossingRecord| match run.kind {
                RunKind::Crossings(_) => {
                    reel.steps().get(record.code & STEP).happened().has(happened)
                }
                RunKind::Moments | RunKind::Slow(_) => true,
            };
            let found = run.happened.has(happened).then(|| records.iter().position(is_wanted));
            let Some(found) = found.flatten() else {
                (self.at, self.run) = (run.until, self.run + 1);
                continue;
            };
            self.at += found + 1;
            let record = records.get(found)?;
            return Some(match run.kind {
                RunKind::Crossings(group) => {
                    let advance = buffer.advances.get(group)?;
                    let (boundary, at) = record.boundary(reel.steps(), advance, happened);
                    Current::Boundary(record.id(), boundary, at)
                }
                RunKind::Moments => {
                    let (mut boundary, at) = *buffer.moments.get(record.code as usize)?;
                    boundary.report(boundary.happened().only(happened));
                    Current::Boundary(record.id(), boundary, at)
                }
                RunKind::Slow(group) => {
                    let advance = buffer.advances.get(group)?;
                    let before = buffer.slow.get(record.code as usize)?;
                    let events = before.events(reel, advance.ticks);
                    Current::Slow(record.id(), events, before.first(), advance)
                }
            });
        }
    }
}

impl Iterator for BufferedEvents<'_> {
    type Item = (MemberId, Event);

    #[inline]
    fn next(&mut self) -> Option<(MemberId, Event)> {
        let reel = self.buffer.reel.as_ref()?;
        loop {
            match &mut self.current {
                Current::None => {}
                Current::Boundary(member, boundary, at) => {
                    if let Some(event) = boundary.next(reel.clip_list(), *at) {
                        return Some((*member, event));
                    }
                }
                Current::Slow(member, events, first, advance) => {
                    let wanted = self.wanted;
                    if let Some(event) = events.find(|event| wanted.wants(event.kind)) {
                        return Some((*member, in_game_time(event, *first, advance)));
                    }
                }
            }
            self.current = self.next_record(reel)?;
        }
    }
}
