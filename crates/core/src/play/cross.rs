//! The laws of playback, one boundary at a time: the first moment of a movement, a boundary, both ends,
//! and what follows an end. Everything that plays is made of these.

use super::player::{NextOr, Plan, Player};
use super::state::{State, begun_flags};
use crate::clip::{ClipData, ClipEnd};
use crate::kernel::{Boundary, Happened, Line, RETURNING, Step};
use crate::reel::Reel;
use crate::sheet::PackedFrame;

impl Player {
    /// The first moment of a movement: a start, a turn, or going on from an end. `None` when it has
    /// ended or is stopped, so that nothing moves.
    pub(crate) fn begin_movement(
        &mut self,
        reel: &Reel,
        clip: &ClipData,
        negative: bool,
    ) -> Option<Boundary> {
        if !self.can_move(negative) {
            return None;
        }
        let (state, origin, cycle) = (self.state(), self.origin(), self.cycle);
        let turned = self.turns(negative);
        // The end of a last cycle is a boundary like any other on the way back.
        let comes_back = state == State::Ended && self.heads_along() && !clip.turns();
        self.clear_ready();
        // Before the line is asked for: a start fixes how it is read, and a turn which way it heads.
        self.flags = begun_flags(self.flags, negative);
        let line = self.line(clip);
        if state == State::Pending {
            self.begin(line);
        } else if turned {
            // The frame stays; what was behind now lies ahead.
            let length = line.units_of(self.place);
            self.left = length.saturating_sub(self.left);
        }
        let happened = match state {
            State::Swapped => Happened::ENTER,
            state if state.means().starts => {
                Happened::at_first(clip, self.place & !RETURNING, self.left)
            }
            _ if comes_back => {
                self.cycle -= 1;
                Happened::CYCLE
            }
            _ => Happened::NOTHING,
        };
        if clip.is_still {
            self.set_state(State::Still);
        }
        let (origins, cycles) = ([origin, self.origin()], [cycle, self.cycle]);
        let frame = self.frame_of_place(reel);
        Some(Boundary::new(happened, origins, cycles, [self.plays; 2], frame))
    }

    /// The start of cycle 0, all of it ahead.
    pub(super) fn begin(&mut self, line: Line<'_>) {
        self.cycle = 0;
        self.place = line.start().place;
        self.left = line.units_of(self.place);
    }

    /// Goes into the step that follows one, of which so much has passed already.
    #[inline]
    pub(super) fn enter_next(&mut self, reel: &Reel, step: Step, passed: u64) {
        self.step = step.follow(self.step);
        self.place = reel.steps().origin(self.step).place();
        self.left = step.next_units() - passed;
        self.cycle = step.count(self.cycle);
    }

    /// What it shows, by its place.
    pub(super) fn frame_of_place(&self, reel: &Reel) -> PackedFrame {
        let steps = reel.steps();
        steps.frame(steps.find(self.clip, self.place, self.way()))
    }

    /// Crosses the boundary that lies ahead; what was left of the present place is used up. Where the
    /// clip ends there and another follows, that one begins.
    pub(crate) fn cross(&mut self, reel: &Reel, clip: &ClipData) -> Boundary {
        self.step = reel.steps().find(self.clip, self.place, self.way());
        let step = reel.steps().get(self.step);
        let (left, left_plays, mut crossed) = (self.origin(), self.plays, self.cycle);
        let (mut happened, next) = match self.ahead(clip, step) {
            Ahead::Step => {
                let boundary = reel.steps().boundary(self.step, step, self.cycle, self.plays);
                self.enter_next(reel, step, 0);
                return boundary;
            }
            Ahead::FarEnd(happened) => {
                let next = self.reach_far_end(clip);
                crossed = self.cycle;
                (happened.and(Happened::END), next)
            }
            Ahead::NearEnd => {
                self.reach_near_end(clip);
                (Happened::END, None)
            }
        };
        if next.is_some_and(|next| self.begin_next(reel, next)) {
            let entered = reel.clip_at(self.clip).map_or(Happened::ENTER, |clip| {
                Happened::on_entering(clip, self.place & !RETURNING)
            });
            happened = happened.and(Happened::NEXT).and(entered);
        }
        let (origins, cycles) = ([left, self.origin()], [crossed, self.cycle]);
        let frame = self.frame_of_place(reel);
        Boundary::new(happened, origins, cycles, [left_plays, self.plays], frame)
    }

    /// What the boundary ahead leads to.
    fn ahead(&self, clip: &ClipData, step: Step) -> Ahead {
        let Some(cycles) = self.line(clip).cycles().filter(|_| step.is_edge()) else {
            return Ahead::Step;
        };
        match self.heads_along() {
            // The closing hold of a ping-pong. Its cycle was counted on entering it, so nothing else happens.
            true if self.cycle == cycles => Ahead::FarEnd(Happened::NOTHING),
            true if step.cycles() > 0 && self.cycle + 1 == cycles && !clip.turns() => {
                Ahead::FarEnd(Happened::CYCLE)
            }
            false if step.cycles() < 0 && self.cycle == 0 => Ahead::NearEnd,
            _ => Ahead::Step,
        }
    }

    /// The last hold's time is up: gives the clip that follows, or stays, shows its first, or vanishes.
    pub(super) fn reach_far_end(&mut self, clip: &ClipData) -> Option<u16> {
        // Put there, not only set to ended: a play that stayed may turn, and goes back from its very end.
        let line = self.line(clip);
        self.put(line, line.far_end());
        self.set_state(State::Ended);
        match self.end(clip) {
            NextOr::Next(next) => return Some(next),
            NextOr::End(ClipEnd::First) => {
                self.place = line.start().place;
                self.set_state(State::Finished);
            }
            NextOr::End(ClipEnd::Vanish) => self.set_state(State::Finished),
            NextOr::End(_) => {}
        }
        None
    }

    /// It came back to its beginning: `first` and going on act at the far end only.
    pub(super) fn reach_near_end(&mut self, clip: &ClipData) {
        let line = self.line(clip);
        self.put(line, line.start());
        let vanishes = self.end(clip) == NextOr::End(ClipEnd::Vanish);
        self.set_state(if vanishes { State::Finished } else { State::Ended });
    }

    /// The present play goes on as its clip says, whatever the game has said of it.
    pub(crate) fn forget_plan(&mut self, reel: &Reel) {
        if self.plan == Plan::NONE {
            return;
        }
        self.clear_ready();
        self.plan = Plan::NONE;
        // It may be beyond the clip's own last cycle; the cycle that it is in becomes the last.
        if let Some(cycles) = self.clip_in(reel).and_then(|clip| self.line(clip).cycles()) {
            self.cycle = self.cycle.min(cycles - 1);
        }
    }

    /// The clip that follows begins; `false`, and it stays at its end, where the reel has lost it.
    pub(super) fn begin_next(&mut self, reel: &Reel, next: u16) -> bool {
        let Some(clip) = reel.clip_at(next) else { return false };
        self.clip = next;
        self.plays = self.plays.wrapping_add(1);
        self.plan = Plan::NONE;
        self.set_state(if clip.is_still { State::Still } else { State::Running });
        self.begin(self.line(clip));
        true
    }
}

/// What a boundary leads to.
enum Ahead {
    Step,
    /// The end of the last cycle, and what happens there besides.
    FarEnd(Happened),
    /// The beginning, come back to.
    NearEnd,
}
