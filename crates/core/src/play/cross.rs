//! What happens at the first moment of a movement, and at each boundary: the laws of playback, one
//! boundary at a time. [`advance`](super::advance) does the same for many boundaries at once.

use super::player::{BACKWARDS, NEGATIVE, Player, State};
use crate::clip::End;
use crate::clip::Line;
use crate::reel::Reel;

/// What is to be reported for one instant, in the order of the law: cycle, turn, end, next, enter,
/// marks by name.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub(super) struct Happened(u8);

impl Happened {
    pub(super) const NOTHING: Happened = Happened(0);
    pub(super) const CYCLE: Happened = Happened(1);
    pub(super) const TURN: Happened = Happened(1 << 1);
    pub(super) const END: Happened = Happened(1 << 2);
    pub(super) const NEXT: Happened = Happened(1 << 3);
    pub(super) const ENTER: Happened = Happened(1 << 4);
    pub(super) const MARKS: Happened = Happened(1 << 5);

    pub(super) const fn and(self, other: Happened) -> Happened {
        Happened(self.0 | other.0)
    }

    pub(super) const fn has(self, one: Happened) -> bool {
        self.0 & one.0 != 0
    }

    /// Whether this happened; it then counts as reported.
    pub(super) fn take(&mut self, one: Happened) -> bool {
        let had = self.0 & one.0 != 0;
        self.0 &= !one.0;
        had
    }
}

const ENTERED: Happened = Happened::ENTER.and(Happened::MARKS);

impl Player {
    /// The first moment of a movement: a start, a turn, or going on from an end. `None` when it is
    /// over or stopped, so that nothing moves.
    pub(super) fn depart(&mut self, line: Line<'_>, negative: bool) -> Option<Happened> {
        let turned = self.has(NEGATIVE) != negative;
        match self.state() {
            State::Stopped | State::Finished => None,
            State::Ended if !turned => None,
            State::Ended => {
                let at_far_end = self.heads_forwards();
                self.turn(line, negative);
                self.set_state(State::Running);
                // The end of a last cycle is a boundary like any other on the way back.
                let leaves_cycle = at_far_end && !line.clip.turns();
                if leaves_cycle {
                    self.cycle -= 1;
                }
                Some(if leaves_cycle { Happened::CYCLE } else { Happened::NOTHING })
            }
            State::Fresh => {
                self.set(BACKWARDS | NEGATIVE, negative);
                self.set_state(State::Running);
                self.begin(Line { backwards: negative, ..line });
                Some(ENTERED)
            }
            State::Sought => {
                if turned {
                    self.turn(line, negative);
                }
                self.set_state(State::Running);
                let whole = self.remain == line.units_of(line.entry_of(self.place));
                Some(if whole { ENTERED } else { Happened::ENTER })
            }
            State::Running | State::Landed => {
                if turned {
                    self.turn(line, negative);
                }
                let landed = self.state() == State::Landed;
                self.set_state(State::Running);
                Some(if landed { Happened::ENTER } else { Happened::NOTHING })
            }
        }
    }

    /// The frame stays; what was behind now lies ahead.
    fn turn(&mut self, line: Line<'_>, negative: bool) {
        let length = line.units_of(line.entry_of(self.place));
        self.remain = length.saturating_sub(self.remain);
        self.set(NEGATIVE, negative);
    }

    /// The start of cycle 0, all of it ahead.
    pub(super) fn begin(&mut self, line: Line<'_>) {
        self.cycle = 0;
        self.place = line.place_of(0);
        self.remain = line.units_of(0);
    }

    /// Crosses the boundary that lies ahead; what was left of the present entry is used up.
    pub(super) fn cross(&mut self, line: Line<'_>) -> Happened {
        let entry = line.entry_of(self.place);
        if self.heads_forwards() {
            self.cross_forwards(line, entry)
        } else {
            self.cross_back(line, entry)
        }
    }

    fn cross_forwards(&mut self, line: Line<'_>, entry: u32) -> Happened {
        let closing = line.cycles() == Some(self.cycle);
        if closing {
            return self.reach_far_end(line);
        }
        let next = entry + 1;
        if next < line.entries() {
            return self.enter(line, next);
        }
        self.cycle = self.cycle.wrapping_add(1);
        if line.cycles() == Some(self.cycle) && !line.clip.turns() {
            return Happened::CYCLE.and(self.reach_far_end(line));
        }
        Happened::CYCLE.and(self.enter(line, 0))
    }

    fn cross_back(&mut self, line: Line<'_>, entry: u32) -> Happened {
        if entry > 0 {
            return self.enter(line, entry - 1);
        }
        if line.cycles().is_some() && self.cycle == 0 {
            return self.reach_near_end(line);
        }
        self.cycle = self.cycle.wrapping_sub(1);
        Happened::CYCLE.and(self.enter(line, line.entries() - 1))
    }

    fn enter(&mut self, line: Line<'_>, entry: u32) -> Happened {
        self.place = line.place_of(entry);
        self.remain = line.units_of(entry);
        if line.turning_entry() == Some(entry) { Happened::TURN.and(ENTERED) } else { ENTERED }
    }

    /// The last hold's time is up. Going on to another clip is left to the caller.
    pub(super) fn reach_far_end(&mut self, line: Line<'_>) -> Happened {
        self.put(line, line.far_end());
        match line.clip.end {
            End::Stay => self.set_state(State::Ended),
            End::First => {
                self.place = line.place_of(0);
                self.set_state(State::Finished);
            }
            End::Vanish => self.set_state(State::Finished),
            End::Play(_) => return Happened::END.and(Happened::NEXT).and(ENTERED),
        }
        Happened::END
    }

    /// It came back to its beginning: `first` and going on act at the far end only.
    pub(super) fn reach_near_end(&mut self, line: Line<'_>) -> Happened {
        self.cycle = 0;
        self.place = line.place_of(0);
        self.remain = 0;
        self.set_state(if line.clip.end == End::Vanish { State::Finished } else { State::Ended });
        Happened::END
    }

    /// The clip that its own goes on to begins.
    pub(super) fn begin_next(&mut self, reel: &Reel, line: Line<'_>) {
        let End::Play(next) = line.clip.end else { return };
        let Some(clip) = reel.clip_data(next) else { return };
        self.clip = next;
        self.play = self.play.wrapping_add(1);
        self.begin(Line { clip, ..line });
    }
}
