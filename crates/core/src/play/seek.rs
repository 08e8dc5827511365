//! Going to a place instead of moving there.

use super::cross::Happened;
use super::player::{BACKWARDS, NEGATIVE, Player, State};
use crate::clip::End;
use crate::clip::{Line, Spot};
use crate::reel::Reel;
use crate::time::Ticks;

impl Player {
    /// Goes to a time of the clip last asked for, along its line from its beginning, in the
    /// direction of the speed at this moment. Past a finite end it is over, or inside the clip that
    /// goes on. It plays on from there, also when it was stopped.
    ///
    /// The next moving advance reports the hold it stands on at its first moment, and its marks
    /// only when all of that hold still lies ahead.
    ///
    /// ```
    /// # use lucky_reel_core::{Event, Grid, NewClip, NewSheet, Player, Reel, Ticks};
    /// # let mut builder = Reel::builder();
    /// # let sheet = builder.sheet("fan", NewSheet::grid([64, 16], Grid::cells([16, 16])));
    /// # let turn = builder.clip("turn", NewClip::of(sheet).frames(0..4).each(Ticks::from_millis(100)));
    /// # let reel = builder.build()?;
    /// let mut fan = Player::new(&reel, turn);
    /// fan.seek(&reel, Ticks::from_millis(650));
    /// assert_eq!((fan.cycle(), fan.hold(&reel)), (1, Some(2)));
    /// # Ok::<(), lucky_reel_core::BuildError>(())
    /// ```
    pub fn seek(&mut self, reel: &Reel, time: Ticks) {
        self.clip = self.asked;
        let Some(line) = self.head_along(reel) else { return };
        let units = u128::from(time.get()) << 16;
        match (line.length(), line.clip.end) {
            (Some(length), End::Play(next)) if units >= length => {
                self.go_on(reel, next, units - length, false);
            }
            (Some(length), _) if units >= length => {
                self.reach_far_end(line);
            }
            _ => self.put(line, line.spot_at(units, true)),
        }
    }

    /// Goes to the first showing of a hold of the clip that it plays, in the direction of the speed
    /// at this moment: to the moment at which that hold comes up. A hold beyond the last counts as
    /// the last in the list.
    pub fn seek_hold(&mut self, reel: &Reel, hold: u32) {
        let Some(line) = self.head_along(reel) else { return };
        let last = line.clip.holds.len() as u32 - 1;
        let entry = line.entry_of(hold.min(last) as u16);
        self.put(line, Spot { cycle: 0, entry, into: 0 });
    }

    /// Steps to the start of the next entry of its line, for tools. `false` where there is none:
    /// at the end of a clip that goes on to no other, and when nothing is up.
    pub fn step_forwards(&mut self, reel: &Reel) -> bool {
        self.step(reel, true)
    }

    /// Steps to the start of the entry before, for tools. `false` at the beginning of a clip, where
    /// it is not a ring, and when nothing is up.
    pub fn step_back(&mut self, reel: &Reel) -> bool {
        self.step(reel, false)
    }

    fn step(&mut self, reel: &Reel, forwards: bool) -> bool {
        let mut stepped = *self;
        let Some(clip) = stepped.settle(reel) else { return false };
        match stepped.state() {
            // It stands before its first entry, or on another hold.
            State::Fresh | State::Stopped => {
                stepped.head_along(reel);
                let line = stepped.line(clip);
                stepped.begin(line);
            }
            State::Finished => return false,
            State::Ended if forwards == stepped.heads_forwards() => return false,
            _ => {}
        }
        let line = stepped.line(clip);
        if stepped.state() == State::Ended && stepped.heads_forwards() && !clip.turns() {
            stepped.cycle -= 1;
        }
        stepped.set(NEGATIVE, forwards == stepped.has(BACKWARDS));
        stepped.set_state(State::Running);
        let happened = stepped.cross(line);
        if happened.has(Happened::NEXT) {
            stepped.begin_next(reel, line);
        } else if happened.has(Happened::END) {
            return false;
        }
        // All of the hold lies ahead, along the line.
        stepped.set(NEGATIVE, stepped.has(BACKWARDS));
        let Some(clip) = stepped.clip_in(reel) else { return false };
        let line = stepped.line(clip);
        stepped.remain = line.units_of(line.entry_of(stepped.place));
        stepped.set_state(State::Sought);
        *self = stepped;
        true
    }

    /// Reads the clip in the direction of the speed at this moment, heading along its line; the
    /// place is yet to be set.
    fn head_along<'r>(&mut self, reel: &'r Reel) -> Option<Line<'r>> {
        let clip = self.clip_in(reel)?;
        self.stamp = reel.stamp.with_ready(false);
        self.set(BACKWARDS | NEGATIVE, self.pace.is_negative());
        self.set_state(State::Sought);
        Some(self.line(clip))
    }
}
