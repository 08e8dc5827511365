//! What happened in an advance, kept to be read.

use alloc::sync::Arc;
use alloc::vec::Vec;
use core::fmt;

use super::block::BLOCK;
use super::group::Pass;
use super::handle::Handle;
use super::listener::{Listener, Member, Passed};
use super::tell::Tell;
use crate::play::{Crossing, Event, Steps};
use crate::reel::Reel;

/// What happened in an advance of a crowd, in its order: a buffer to be used again and again, of 32
/// bytes for each member to which something happened. Events are worked out when they are read.
///
/// ```
/// # use lucky_reel_core::{Crowd, Event, Grid, NewClip, NewSheet, Reel, Tell, Ticks, Told};
/// # let mut builder = Reel::builder();
/// # let sheet = builder.sheet("moth", NewSheet::grid([64, 16], Grid::cells([16, 16])));
/// # let flutter = builder.clip("flutter", NewClip::of(sheet).frames(0..4).fps(12));
/// # let reel = builder.build()?;
/// let mut crowd = Crowd::new(&reel);
/// crowd.spawn(&reel, flutter);
/// let mut told = Told::new();
/// for _ in 0..60 {
///     crowd.advance_into(&reel, Ticks::per_second_of(60), Tell::ALL, &mut told);
///     for (moth, event) in told.events(&reel, Tell::CYCLES) {
///         if let Event::Cycle { cycle: 2, .. } = event {
///             crowd.despawn(moth);
///         }
///     }
/// }
/// assert!(crowd.is_empty());
/// # Ok::<(), lucky_reel_core::BuildError>(())
/// ```
#[derive(Clone, Default)]
pub struct Told {
    /// In blocks, as many as there ever were; those of the last advance come first.
    passed: Vec<Passed>,
    count: usize,
    runs: Vec<Run>,
    /// Those that had to be worked out.
    events: Vec<Event>,
    passes: Vec<Pass>,
    steps: Option<Arc<Steps>>,
    tell: Tell,
    /// What each thread told.
    #[cfg(feature = "rayon")]
    pub(super) parts: Vec<Part>,
}

/// What the members that one thread looked after told, and who of them leaves.
#[cfg(feature = "rayon")]
#[derive(Clone, Default)]
pub(super) struct Part {
    pub(super) told: Told,
    pub(super) leaving: Vec<u32>,
}

/// Entries of one kind that follow one another, up to this one.
#[derive(Clone, Copy)]
struct Run {
    until: usize,
    what: What,
}

#[derive(Clone, Copy, PartialEq)]
enum What {
    /// Boundaries that members of this group have crossed.
    Passed(u8),
    /// Events that were worked out.
    Events,
}

impl Told {
    /// A buffer of nothing yet.
    #[must_use]
    pub fn new() -> Told {
        Told::default()
    }

    /// Those events of the last advance that are wanted, of those that it was asked to tell, each with
    /// its member. The reel must be the one that was played from.
    pub fn events<'t>(
        &'t self,
        reel: &'t Reel,
        wanted: Tell,
    ) -> impl Iterator<Item = (Handle, Event)> + 't {
        let wanted = wanted & self.tell;
        ToldEvents { told: self, reel, wanted, run: 0, at: 0, crossed: None }
    }

    /// Whether nothing was told.
    #[must_use]
    pub fn is_empty(&self) -> bool {
        self.count == 0
    }

    pub(super) fn begin(&mut self, tell: Tell, steps: &Arc<Steps>, passes: &[Pass]) {
        self.count = 0;
        self.runs.clear();
        self.events.clear();
        self.passes.clear();
        self.passes.extend_from_slice(passes);
        self.tell = tell;
        if !self.steps.as_ref().is_some_and(|known| Arc::ptr_eq(known, steps)) {
            self.steps = Some(steps.clone());
        }
    }
}

impl Told {
    /// Adds what another one heard in the same advance.
    #[cfg(feature = "rayon")]
    pub(super) fn append(&mut self, other: &Told) {
        let (before, events) = (self.count, self.events.len() as u32);
        self.events.extend_from_slice(&other.events);
        self.passed.truncate(before);
        self.passed.extend_from_slice(other.passed.get(..other.count).unwrap_or_default());
        let mut from = before;
        for run in &other.runs {
            let until = before + run.until;
            if run.what == What::Events {
                self.passed[from..until].iter_mut().for_each(|passed| passed.code += events);
            }
            self.extend_run(until - from, run.what);
            from = until;
        }
    }

    fn extend_run(&mut self, count: usize, what: What) {
        self.count += count;
        match self.runs.last_mut() {
            Some(run) if run.what == what => run.until = self.count,
            _ => self.runs.push(Run { until: self.count, what }),
        }
    }
}

impl Listener for Told {
    #[inline]
    fn room(&mut self) -> &mut [Passed] {
        let enough = self.count + BLOCK;
        if self.passed.len() < enough {
            self.passed.resize(enough.next_power_of_two(), Passed::NOTHING);
        }
        &mut self.passed[self.count..]
    }

    #[inline]
    fn passed(&mut self, count: usize, group: u8, _: &Pass, _: &mut Vec<u32>) {
        if count > 0 {
            self.extend_run(count, What::Passed(group));
        }
    }

    fn event(&mut self, event: Event, member: &mut Member) {
        let code = self.events.len() as u32;
        self.events.push(event);
        let Handle { slot, generation } = member.handle;
        let mut passed = Passed { slot, code, ..Passed::NOTHING };
        passed.row.generation = generation;
        if let Some(place) = self.room().first_mut() {
            *place = passed;
            self.extend_run(1, What::Events);
        }
    }
}

/// Events that are worked out as they are read.
struct ToldEvents<'t> {
    told: &'t Told,
    reel: &'t Reel,
    wanted: Tell,
    run: usize,
    /// The next entry.
    at: usize,
    /// What is being read: whose, and how many of its events have been looked at.
    crossed: Option<(Handle, Crossing, u16)>,
}

impl ToldEvents<'_> {
    /// The next wanted event of the boundary that is being read.
    #[inline]
    fn next_of_crossing(&mut self) -> Option<(Handle, Event)> {
        let steps = self.told.steps.as_deref()?;
        let (handle, crossing, nth) = self.crossed.as_mut()?;
        loop {
            let Some(event) = crossing.event(self.reel, steps, *nth) else {
                self.crossed = None;
                return None;
            };
            *nth += 1;
            if let Some(event) = event.filter(|event| self.wanted.wants(event)) {
                return Some((*handle, event));
            }
        }
    }

    /// Goes to the next entry of which something is wanted; gives its event if it is worked out.
    fn next_entry(&mut self) -> Option<Option<(Handle, Event)>> {
        let told = self.told;
        loop {
            let run = told.runs.get(self.run)?;
            let entries = told.passed.get(self.at..run.until).unwrap_or_default();
            let found = match run.what {
                What::Events => entries.iter().position(|_| true),
                What::Passed(_) if !self.wanted.has(Tell::IN_STEP) => None,
                What::Passed(_) => {
                    let steps = told.steps.as_deref()?;
                    let wanted = |code| Tell::of_step(steps, code).has(self.wanted);
                    entries.iter().position(|passed| wanted(passed.code))
                }
            };
            let Some(passed) = found.and_then(|found| entries.get(found)) else {
                (self.at, self.run) = (run.until, self.run + 1);
                continue;
            };
            self.at += found.unwrap_or(0) + 1;
            match run.what {
                What::Events => {
                    let event = told.events.get(passed.code as usize).copied();
                    let wanted = event.filter(|event| self.wanted.wants(event));
                    return Some(wanted.map(|event| (passed.handle(), event)));
                }
                What::Passed(group) => {
                    let pass = told.passes.get(usize::from(group))?;
                    self.crossed = Some((passed.handle(), passed.crossing(pass), 0));
                    return Some(None);
                }
            }
        }
    }
}

impl Iterator for ToldEvents<'_> {
    type Item = (Handle, Event);

    #[inline]
    fn next(&mut self) -> Option<(Handle, Event)> {
        loop {
            if let Some(event) = self.next_of_crossing() {
                return Some(event);
            }
            if let Some(event) = self.next_entry()? {
                return Some(event);
            }
        }
    }
}

impl fmt::Debug for Told {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.debug_struct("Told").field("passed", &self.count).finish_non_exhaustive()
    }
}
