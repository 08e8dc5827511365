//! All boundaries of a reel's clips, crossed beforehand: so that a store of many players crosses one
//! with two look-ups.

use alloc::vec::Vec;

use super::cross::Happened;
use super::parts::{Parts, WAYS, flags_of};
use super::player::State;
use crate::clip::{ClipData, Line};
use crate::ids::ClipId;
use crate::reel::Reel;
use crate::time::Speed;
use crate::view::Picture;

/// An entry of a clip's line, read one way, and what the boundary at its end leads to.
///
/// A length in units is a whole number of ticks, so its lowest 16 bits are free for flags.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Step {
    units_and_flags: u64,
    /// The step that follows.
    pub(crate) next: u32,
    /// What it shows, unflipped.
    pub(crate) picture: Picture,
}

/// The boundary leads to the next step, whatever the cycle.
const PLAIN: u64 = 1;
/// No boundary within its clip can change what an actor plays.
const QUIET: u64 = 1 << 1;
/// At the boundary a cycle begins, or ends on the way back.
const WRAPS_UP: u64 = 1 << 2;
const WRAPS_DOWN: u64 = 1 << 3;
/// At the boundary a ping-pong turns.
const TURNS: u64 = 1 << 4;
/// Its own hold has marks.
const MARKED: u64 = 1 << 5;
const FLAGS: u64 = 0xffff;

impl Step {
    /// How long it stays up, in units of clip time.
    #[inline]
    pub(crate) fn units(self) -> u64 {
        self.units_and_flags & !FLAGS
    }

    /// Whether the boundary at its end can be crossed by these numbers alone.
    #[inline]
    pub(crate) fn is_plain(self, for_actor: bool) -> bool {
        let wanted = if for_actor { PLAIN | QUIET } else { PLAIN };
        self.units_and_flags & wanted == wanted
    }

    /// By how much the count of cycles changes at its end.
    #[inline]
    pub(crate) fn cycles(self) -> i32 {
        i32::from(self.units_and_flags & WRAPS_UP != 0)
            - i32::from(self.units_and_flags & WRAPS_DOWN != 0)
    }

    #[inline]
    pub(crate) fn wraps(self) -> bool {
        self.units_and_flags & (WRAPS_UP | WRAPS_DOWN) != 0
    }

    #[inline]
    pub(crate) fn turns(self) -> bool {
        self.units_and_flags & TURNS != 0
    }

    #[inline]
    pub(crate) fn is_marked(self) -> bool {
        self.units_and_flags & MARKED != 0
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
    const NOTHING_STEP: Step = Step { units_and_flags: 0, next: 0, picture: Picture::NOTHING };
    const NO_ORIGIN: Origin = Origin { clip: ClipId(u16::MAX), place: 0 };

    pub(crate) fn of(reel: &Reel) -> Steps {
        let clips = reel.data.clips.len();
        let mut steps = Steps { clips, ..Steps::default() };
        steps.steps.push(Steps::NOTHING_STEP);
        steps.origins.push(Steps::NO_ORIGIN);
        for way in 0..WAYS {
            for (id, clip) in (0_u16..).zip(&reel.data.clips) {
                let fits = steps.steps.len() < Picture::MOST as usize / 2;
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
        let flags = flags_of(way) | State::Running as u8;
        let (pace, at_start) = (Speed::NORMAL.into(), (0, 0, 0));
        let (remain, frozen, cycle) = at_start;
        for entry in 0.. {
            let parts = Parts {
                remain,
                pace,
                frozen,
                cycle,
                place: 0,
                clip: id,
                asked: id,
                flags,
                play: 0,
            };
            let mut player = parts.into_player(reel);
            let line = player.line(clip);
            if entry >= line.entries() {
                // Where it has vanished it is still a player of this clip.
                self.steps.push(Steps::NOTHING_STEP);
                self.origins.push(Origin { clip: id, place: line.place_of(0) });
                return;
            }
            let place = line.place_of(entry);
            player.place = place;
            let edge = if player.heads_forwards() { line.entries() - 1 } else { 0 };
            let counts = entry == edge || clip.turns() && entry == 0;
            let is_plain = line.cycles().is_none() || !counts;
            let happened = if is_plain { player.cross(line) } else { Happened::NOTHING };
            let hold = &clip.holds[usize::from(place & !crate::clip::RETURNING)];
            let flags = [
                (is_plain, PLAIN),
                (clip.is_quiet(), QUIET),
                (player.cycle > 0, WRAPS_UP),
                (player.cycle < 0, WRAPS_DOWN),
                (happened.has(Happened::TURN), TURNS),
                (!clip.marks_of(place & !crate::clip::RETURNING).is_empty(), MARKED),
            ];
            let flags =
                flags.into_iter().filter(|(on, _)| *on).fold(0, |all, (_, flag)| all | flag);
            self.steps.push(Step {
                units_and_flags: line.units_of(entry) | flags,
                next: first + line.entry_of(player.place),
                picture: Picture::of_clip(hold.frame, clip.mirrored),
            });
            self.origins.push(Origin { clip: id, place });
        }
    }

    #[inline]
    pub(crate) fn get(&self, step: u32) -> Step {
        self.steps.get(step as usize).copied().unwrap_or(Steps::NOTHING_STEP)
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
