//! All boundaries of a reel's clips, crossed beforehand: so that a store of many players crosses one
//! with one look-up.

use alloc::vec::Vec;

use super::cross::Happened;
use super::parts::{Parts, WAYS, flags_of};
use super::player::State;
use crate::clip::{ClipData, End, Line, RETURNING};
use crate::ids::ClipId;
use crate::reel::Reel;
use crate::time::Speed;
use crate::view::Shown;

/// An entry of a clip's line, read one way, and what the boundary at its end leads to: 16 bytes.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Step {
    /// How long the next one stays up, in units of clip time. That is a whole number of ticks, so the
    /// lowest 16 bits are free for flags, and for what crossing the boundary is asked for by.
    next_units_and_flags: u64,
    /// How far on the step that follows stands; it may be before this one, all wraps.
    ahead: u32,
    /// What it shows, unflipped.
    picture: Shown,
}

/// What comes after the boundary depends on the cycle.
const DEPENDS: u64 = 1;
/// Boundaries within its clip can change what an actor plays.
const LOUD: u64 = 1 << 1;
/// The boundary leads to the same picture.
const SAME: u64 = 1 << 2;
/// At the boundary a cycle begins, or ends on the way back.
const WRAPS_UP: u64 = 1 << 3;
const WRAPS_DOWN: u64 = 1 << 4;
/// At the boundary a ping-pong turns.
const TURNS: u64 = 1 << 5;
/// The boundary is the end of a clip that is played once, and stays, or vanishes.
const STAYS: u64 = 1 << 6;
const VANISHES: u64 = 1 << 7;
/// From here on: what crossing the boundary is asked for by.
const KINDS_SHIFT: u32 = 8;
const ENTERS: u64 = 1 << KINDS_SHIFT;
const MARKED: u64 = 1 << (KINDS_SHIFT + 1);
const CYCLE_OR_TURN: u64 = 1 << (KINDS_SHIFT + 2);
const FLAGS: u64 = 0xffff;

impl Step {
    /// Where anything but the clock, the step and the picture changes, or not even that.
    pub(crate) const UNUSUAL: u64 = SAME | WRAPS_UP | WRAPS_DOWN;

    /// The flags of boundaries that can not be crossed by these numbers alone.
    pub(crate) const fn stops(for_actor: bool) -> u64 {
        if for_actor { DEPENDS | LOUD } else { DEPENDS }
    }

    #[inline]
    pub(crate) fn has(self, flags: u64) -> bool {
        self.next_units_and_flags & flags != 0
    }

    /// How long the next one stays up, in units of clip time.
    #[inline]
    pub(crate) fn next_units(self) -> u64 {
        self.next_units_and_flags & !FLAGS
    }

    /// The number of the step that follows this one; what lies above the number is kept.
    #[inline]
    pub(crate) fn follow(self, number: u32) -> u32 {
        number.wrapping_add(self.ahead)
    }

    /// Whether the boundary leads to another picture.
    #[inline]
    pub(crate) fn changes(self) -> bool {
        !self.has(SAME)
    }

    /// By how much the count of cycles changes at its end.
    #[inline]
    pub(crate) fn cycles(self) -> i32 {
        i32::from(self.has(WRAPS_UP)) - i32::from(self.has(WRAPS_DOWN))
    }

    /// Whether the boundary is one of a cycle.
    #[inline]
    pub(crate) fn wraps(self) -> bool {
        self.has(WRAPS_UP | WRAPS_DOWN)
    }

    /// Whether a ping-pong turns at the boundary.
    #[inline]
    pub(crate) fn turns(self) -> bool {
        self.has(TURNS)
    }

    /// Whether the boundary is the end of a clip that is played once, and stays or vanishes there; and
    /// whether it vanishes.
    #[inline]
    pub(crate) fn ends(self) -> Option<bool> {
        self.has(STAYS | VANISHES).then_some(self.has(VANISHES))
    }

    /// Whether the hold that it leads to has marks.
    #[inline]
    pub(crate) fn leads_to_marks(self) -> bool {
        self.has(MARKED)
    }

    /// What happens at the boundary: a hold is entered, has marks, a cycle or a turn; by a bit for each.
    #[inline]
    pub(crate) fn kinds(self) -> u8 {
        (self.next_units_and_flags >> KINDS_SHIFT) as u8
    }

    /// The flags that [`kinds`](Step::kinds) gives by these bits.
    pub(crate) const fn flags_of_kinds(kinds: u8) -> u64 {
        (kinds as u64) << KINDS_SHIFT
    }
}

/// Which clip a step is of, and its hold with its way.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Origin {
    pub(crate) clip: ClipId,
    pub(crate) place: u16,
}

/// The steps of all clips of a reel, four times: for each way of reading and heading.
#[derive(Clone, Debug, Default)]
pub(crate) struct Steps {
    steps: Vec<Step>,
    origins: Vec<Origin>,
    /// By way, by clip: where its steps begin.
    firsts: Vec<u32>,
    clips: usize,
}

impl Steps {
    /// The step that shows nothing and lasts for ever.
    pub(crate) const NOTHING: u32 = 0;
    const NOTHING_STEP: Step =
        Step { next_units_and_flags: DEPENDS, ahead: 0, picture: Shown::NOTHING };
    const NO_ORIGIN: Origin = Origin { clip: ClipId(u16::MAX), place: 0 };

    pub(crate) fn of(reel: &Reel) -> Steps {
        let clips = reel.data.clips.len();
        let mut steps = Steps { clips, ..Steps::default() };
        steps.steps.push(Steps::NOTHING_STEP);
        steps.origins.push(Steps::NO_ORIGIN);
        for way in 0..WAYS {
            for (id, clip) in (0_u16..).zip(&reel.data.clips) {
                let fits = steps.steps.len() < Shown::MOST as usize / 2;
                match clip.as_ref().filter(|_| fits) {
                    Some(clip) => steps.add(reel, ClipId(id), clip, way),
                    None => steps.firsts.push(Steps::NOTHING),
                }
            }
        }
        steps
    }

    fn add(&mut self, reel: &Reel, id: ClipId, clip: &ClipData, way: usize) {
        let first = self.steps.len() as u32;
        self.firsts.push(first);
        let line = Line { clip, backwards: way & 1 != 0 };
        for entry in 0..line.entries() {
            self.steps.push(step(reel, id, line, way, entry));
            self.origins.push(Origin { clip: id, place: line.place_of(entry) });
        }
        // Where it has vanished it is still a player of this clip, at either end of its line.
        let (reading, heading) = (way & 1, way >> 1);
        let last = if reading == heading { line.far_end().entry } else { 0 };
        self.steps.push(Steps::NOTHING_STEP);
        self.origins.push(Origin { clip: id, place: line.place_of(last) });
    }

    #[inline]
    pub(crate) fn all(&self) -> &[Step] {
        &self.steps
    }

    #[inline]
    pub(crate) fn get(&self, step: u32) -> Option<Step> {
        self.steps.get(step as usize).copied()
    }

    /// What a step shows, unflipped.
    #[inline]
    pub(crate) fn shown(&self, step: u32) -> Shown {
        self.steps.get(step as usize).map_or(Shown::NOTHING, |step| step.picture)
    }

    #[inline]
    pub(crate) fn origin(&self, step: u32) -> Origin {
        self.origins.get(step as usize).copied().unwrap_or(Steps::NO_ORIGIN)
    }

    /// The step at which a place of a clip is up, or at which it shows nothing; 0 for a clip that is
    /// not there.
    pub(crate) fn find(&self, clip: &ClipData, id: ClipId, place: Option<u16>, way: usize) -> u32 {
        let line = Line { clip, backwards: way & 1 != 0 };
        match self.firsts.get(way * self.clips + id.index()) {
            Some(&first) if first != Steps::NOTHING => {
                first + place.map_or(line.entries(), |place| line.entry_of(place))
            }
            _ => Steps::NOTHING,
        }
    }
}

/// Has a player cross the boundary of an entry, and writes down where it came to.
fn step(reel: &Reel, id: ClipId, line: Line<'_>, way: usize, entry: u32) -> Step {
    let clip = line.clip;
    let place = line.place_of(entry);
    let parts = Parts {
        remain: 0,
        pace: Speed::NORMAL.into(),
        frozen: 0,
        cycle: 0,
        place,
        clip: id,
        asked: id,
        flags: flags_of(way) | State::Running as u8,
        play: 0,
    };
    let mut player = parts.into_player(reel);
    let edge = if player.heads_forwards() { line.entries() - 1 } else { 0 };
    let counts = entry == edge || clip.turns() && entry == 0;
    // On a finite line what comes next depends on the cycle.
    let is_plain = line.cycles().is_none() || !counts;
    let happened = if is_plain { player.cross(line) } else { Happened::NOTHING };
    let picture = |place: u16| {
        let hold = &clip.holds[usize::from(place & !RETURNING)];
        Shown::of_clip(hold.frame, clip.mirrored)
    };
    let turns = happened.has(Happened::TURN);
    let once = line.cycles() == Some(1) && !clip.turns();
    let ends = once && entry == edge && player.heads_forwards();
    let flags = [
        (ends && clip.end == End::Stay, STAYS),
        (ends && clip.end == End::Vanish, VANISHES),
        (!is_plain, DEPENDS),
        (!clip.is_quiet(), LOUD),
        (picture(place) == picture(player.place), SAME),
        (player.cycle > 0, WRAPS_UP),
        (player.cycle < 0, WRAPS_DOWN),
        (turns, TURNS),
        (true, ENTERS),
        (!clip.marks_of(player.place & !RETURNING).is_empty(), MARKED),
        (player.cycle != 0 || turns, CYCLE_OR_TURN),
    ];
    let flags = flags.into_iter().filter(|(on, _)| *on).fold(0, |all, (_, flag)| all | flag);
    let next = line.entry_of(player.place);
    Step {
        next_units_and_flags: line.units_of(next) | flags,
        ahead: next.wrapping_sub(entry),
        picture: picture(place),
    }
}
