//! The steps of all clips of a reel.

use alloc::vec::Vec;

use super::boundary::Boundary;
use super::happened::Happened;
use super::line::{Line, RETURNING};
use super::origin::Origin;
use super::rings::{Rings, find_rings};
use super::step::{Facts, Step};
use super::way::Way;
use crate::clip::{ClipData, ClipEnd};
use crate::sheet::PackedFrame;

/// The steps of all clips, four times: for each way of reading and heading. Step 0 shows nothing and
/// lasts forever.
///
/// Four times 16 bytes for each hold, so that crossing a boundary is one look-up and no choice: what is
/// entered, counted and reported was decided when the reel was built.
#[derive(Clone, Debug, Default)]
pub(crate) struct StepTable {
    steps: Vec<Step>,
    origins: Vec<Origin>,
    segments: Vec<Segment>,
    pub(crate) rings: Vec<Rings>,
}

/// Where the steps of a clip stand: for each way all holds, then those of the way back, then one that
/// shows nothing.
#[derive(Clone, Copy, Debug)]
struct Segment {
    first: u32,
    /// Steps of one way.
    length: u32,
    last_hold: u16,
}

impl Segment {
    const NONE: Segment = Segment { first: StepTable::NOTHING, length: 0, last_hold: 0 };

    /// Where a place stands among the steps of a way.
    #[inline]
    fn offset(self, place: u16) -> u32 {
        let hold = u32::from(place & !RETURNING);
        if place & RETURNING == 0 { hold } else { hold + u32::from(self.last_hold) }
    }
}

impl StepTable {
    pub(crate) const NOTHING: u32 = 0;

    pub(crate) fn new(clips: &[Option<ClipData>]) -> StepTable {
        let mut table = StepTable { rings: find_rings(clips), ..StepTable::default() };
        // Nothing to spare: small chips keep a reel for good.
        let count = 1 + clips.iter().flatten().map(StepTable::steps_of).sum::<u64>() as usize;
        table.steps.reserve_exact(count);
        table.origins.reserve_exact(count);
        table.segments.reserve_exact(clips.len());
        table.steps.push(Step::NOTHING);
        table.origins.push(Origin::NONE);
        for (id, clip) in (0_u16..).zip(clips) {
            let segment = clip.as_ref().map_or(Segment::NONE, |clip| table.add(id, clip));
            table.segments.push(segment);
        }
        table
    }

    /// How many steps a clip takes.
    pub(crate) fn steps_of(clip: &ClipData) -> u64 {
        u64::from(Way::COUNT) * (u64::from(Line::of(clip, false).places()) + 1)
    }

    fn add(&mut self, id: u16, clip: &ClipData) -> Segment {
        let segment = Segment {
            first: self.steps.len() as u32,
            length: Line::of(clip, false).places() + 1,
            last_hold: clip.holds.len() as u16 - 1,
        };
        for way in (0..Way::COUNT as u8).map(Way::of) {
            let line = Line::of(clip, way.reads_backward());
            let outward = 0..=segment.last_hold;
            // Without the first and the last, which are shown once a turn.
            let back = if clip.turns() { 1..segment.last_hold } else { 0..0 };
            for place in outward.chain(back.map(|hold| hold | RETURNING)) {
                self.steps.push(step(line, way, place, segment));
                self.origins.push(Origin::new(id, place));
            }
            // Where it has vanished it is still a player of this clip, at either end of its line.
            let end = if way.is_along() { line.far_end() } else { line.start() };
            self.steps.push(Step::NOTHING);
            self.origins.push(Origin::new(id, end.place));
        }
        segment
    }

    #[inline]
    pub(crate) fn all(&self) -> &[Step] {
        &self.steps
    }

    #[inline]
    pub(crate) fn get(&self, step: u32) -> Step {
        self.steps.get(step as usize).copied().unwrap_or(Step::NOTHING)
    }

    /// The boundary that lies ahead of a step, crossed in this cycle of a play: the law of what is entered there,
    /// which cycle is counted, and what happens. Every way of moving has its boundaries from here.
    #[inline(always)] // so that what is not read of it is not made
    pub(crate) fn boundary(&self, number: u32, step: Step, cycle: i32, plays: u8) -> Boundary {
        let (next, after) = (step.follow(number), step.count(cycle));
        // On the way back the boundary of the cycle that is left is crossed.
        let crossed = if step.cycles() < 0 { cycle } else { after };
        let origins = [self.origin(number), self.origin(next)];
        Boundary::new(step.happened(), origins, [crossed, after], [plays; 2], self.frame(next))
    }

    /// What a step shows, unflipped.
    #[inline]
    pub(crate) fn frame(&self, step: u32) -> PackedFrame {
        self.get(step).frame
    }

    #[inline]
    pub(crate) fn origin(&self, step: u32) -> Origin {
        self.origins.get(step as usize).copied().unwrap_or(Origin::NONE)
    }

    /// The step at which a place of a clip is up; step 0 for a clip that is not there.
    #[inline]
    pub(crate) fn find(&self, clip: u16, place: u16, way: Way) -> u32 {
        match self.segments.get(usize::from(clip)) {
            Some(segment) if segment.first != StepTable::NOTHING => {
                segment.first + u32::from(way.bits()) * segment.length + segment.offset(place)
            }
            _ => StepTable::NOTHING,
        }
    }

    /// The step of a clip that shows nothing.
    pub(crate) fn find_vanished(&self, clip: u16, way: Way) -> u32 {
        match self.segments.get(usize::from(clip)) {
            Some(segment) if segment.first != StepTable::NOTHING => {
                segment.first + (u32::from(way.bits()) + 1) * segment.length - 1
            }
            _ => StepTable::NOTHING,
        }
    }
}

/// One place, and the boundary that lies ahead of it.
fn step(line: Line<'_>, way: Way, place: u16, segment: Segment) -> Step {
    let (clip, index, places) = (line.clip, line.index_of(place), line.places());
    let along = way.is_along();
    let (edge, next) = if along {
        (places - 1, if index + 1 == places { 0 } else { index + 1 })
    } else {
        (0, index.checked_sub(1).unwrap_or(places - 1))
    };
    let wraps = index == edge;
    // A finite ping-pong closes on its first place.
    let is_edge = wraps || clip.turns() && index == 0;
    let next_place = line.place_at(next);
    let (hold, next_hold) = (place & !RETURNING, next_place & !RETURNING);
    let frame =
        |hold: u16| PackedFrame::of_clip(clip.holds[usize::from(hold)].frame, clip.mirrored);
    let watched = |hold: u16| clip.holds[usize::from(hold)].watched;
    // Only these ends are known without the count of cycles; crowds take them without asking the player.
    let ends = clip.repeat == 1 && !clip.turns() && wraps && along;
    let mut happened = Happened::on_entering(clip, next_hold);
    for (happens, what) in [(wraps, Happened::CYCLE), (line.turns_at(next_place), Happened::TURN)] {
        if happens {
            happened = happened.and(what);
        }
    }
    let facts = Facts {
        is_edge,
        // Rather too often than too seldom: where it is set, the count of cycles is asked.
        depends: clip.is_still || clip.repeat > 0 && is_edge,
        affects_cues: watched(hold) != watched(next_hold) || clip.sets_facts_at(next_hold),
        same: frame(hold) == frame(next_hold),
        cycles: if !wraps {
            0
        } else if along {
            1
        } else {
            -1
        },
        stays: ends && clip.end == ClipEnd::Stay,
        vanishes: ends && clip.end == ClipEnd::Vanish,
        happened,
    };
    let ahead = segment.offset(next_place).wrapping_sub(segment.offset(place));
    Step::new(line.units_of(next_place), ahead, frame(hold), facts)
}
