//! Going to a place instead of moving there: a time, a hold, the same place of another clip or of another
//! version of the reel.

use super::player::Player;
use super::state::State;
use crate::clip::ClipData;
use crate::facing::{Align, Facing};
use crate::ids::{ClipId, FacingSetId, NONE};
use crate::kernel::{Happened, Line, LineTime, RETURNING, Way};
use crate::reel::Reel;
use crate::time::Ticks;

impl Player {
    /// Finds its place again in another version of its reel, by clip and hold: its hold, or the
    /// last one there is; what was left of it, at most the hold's new length. Gives the clip that it
    /// plays, if there is one.
    pub(crate) fn rebind<'r>(&mut self, reel: &'r Reel) -> Option<&'r ClipData> {
        let clip = self.clip_in(reel)?;
        if !self.is_of_build(reel) {
            self.build = reel.build.with_ready(false);
            self.fit(reel, clip);
        }
        Some(clip)
    }

    /// Brings every number within the bounds of its clip.
    pub(super) fn fit(&mut self, reel: &Reel, clip: &ClipData) {
        if reel.clip_at(self.plan.then).is_none() {
            self.plan.then = NONE;
        }
        let line = self.line(clip);
        let last = clip.holds.len() as u16 - 1;
        let hold = self.place & !RETURNING;
        if hold > last {
            self.place = last;
            // All of it, whatever that is: it is cut to the hold's length below.
            self.left = u64::MAX;
        } else if self.place != hold && !(clip.turns() && 0 < hold && hold < last) {
            self.place = hold;
        }
        self.left = self.left.min(line.units_of(self.place));
        match (line.cycles(), self.state()) {
            // What stood goes on where there is time now, and stands where there is none.
            (_, State::Still) if clip.is_still => {}
            (_, State::Still) => {
                self.left = line.units_of(self.place);
                self.cycle = 0;
                self.set_state(State::Running);
            }
            (None, State::Running | State::Ended) if clip.is_still => self.set_state(State::Still),
            (None, State::Ended) => self.set_state(State::Running),
            (Some(_), State::Ended) if self.heads_along() => self.put(line, line.far_end()),
            (Some(_), State::Ended) => self.put(line, line.start()),
            (Some(cycles), State::Running | State::Seeked | State::Swapped) => {
                let closing = clip.turns() && line.is_first(self.place);
                self.cycle = self.cycle.clamp(0, if closing { cycles } else { cycles - 1 });
            }
            _ => {}
        }
    }

    /// Goes to a time of the clip last asked for, along its line from its beginning, in the
    /// direction of the speed at this moment. Past a finite end it is over, or inside the clip that
    /// goes on. It plays on from there, also when it was stopped. `false`, and nothing is changed, where the
    /// reel does not know the clip.
    ///
    /// The next moving advance reports the hold it stands on at its first moment, and its marks
    /// only when all of that hold still lies ahead.
    ///
    /// ```
    /// # use lucky_reel_core::{Event, Grid, NewClip, NewSheet, Player, Reel, Ticks};
    /// # let mut builder = Reel::builder();
    /// # let sheet = builder.sheet("fan", NewSheet::grid([64, 16], Grid::cell_size([16, 16])));
    /// # let turn = builder.clip("turn", NewClip::of(sheet).frames(0..4).each(Ticks::from_millis(100)));
    /// # let reel = builder.build()?;
    /// let mut fan = Player::new(&reel, turn);
    /// fan.seek(&reel, Ticks::from_millis(650));
    /// assert_eq!((fan.cycle(), fan.hold_index(&reel)), (1, Some(2)));
    /// # Ok::<(), lucky_reel_core::BuildError>(())
    /// ```
    pub fn seek(&mut self, reel: &Reel, time: Ticks) -> bool {
        if reel.number_of(self.requested_clip()).is_none() {
            return false;
        }
        self.clip = self.requested;
        let Some(line) = self.head_along(reel) else { return false };
        let units = u128::from(time.get()) << 16;
        match line.length() {
            _ if line.clip.is_still => self.begin(line),
            Some(length) if units >= length => {
                if let Some(next) = self.reach_far_end(line.clip) {
                    self.follow_chain(reel, next, units - length, false);
                    if matches!(self.state(), State::Running | State::Still) {
                        self.set_state(State::Seeked);
                    }
                }
            }
            _ => self.put(line, line.time_at(units, true)),
        }
        true
    }

    /// Goes to the first showing of a hold of the clip that it plays, in the direction of the speed
    /// at this moment: to the moment at which that hold comes up. A hold beyond the last counts as
    /// the last in the list. `false`, and nothing is changed, where the reel does not know the clip.
    pub fn seek_hold(&mut self, reel: &Reel, hold: u32) -> bool {
        let Some(line) = self.head_along(reel) else { return false };
        let last = line.clip.holds.len() as u32 - 1;
        let place = hold.min(last) as u16;
        self.put(line, LineTime { cycle: 0, place, into: 0 });
        true
    }

    /// Steps to the start of the next place of its line, for tools. `false` where there is none:
    /// at the end of a clip that goes on to no other, and when nothing is up.
    pub fn step_forward(&mut self, reel: &Reel) -> bool {
        self.step_by_hand(reel, true)
    }

    /// Steps to the start of the place before, for tools. `false` at the beginning of a clip, where
    /// it is not a ring, and when nothing is up.
    pub fn step_back(&mut self, reel: &Reel) -> bool {
        self.step_by_hand(reel, false)
    }

    fn step_by_hand(&mut self, reel: &Reel, forward: bool) -> bool {
        let mut stepped = *self;
        let clip = stepped.rebind(reel).filter(|clip| !clip.is_still);
        let Some(clip) = clip else { return false };
        match stepped.state() {
            // It stands before its first place, or on another hold.
            state if !state.means().holds => {
                stepped.head_along(reel);
                let line = stepped.line(clip);
                stepped.begin(line);
            }
            State::Finished | State::Still => return false,
            State::Ended if forward == stepped.heads_along() => return false,
            _ => {}
        }
        if stepped.state() == State::Ended && stepped.heads_along() && !clip.turns() {
            stepped.cycle -= 1;
        }
        stepped.set_way(stepped.way().heading(forward));
        stepped.set_state(State::Running);
        let happened = stepped.cross(reel, clip).happened();
        if happened.has(Happened::END) && !happened.has(Happened::NEXT) {
            return false;
        }
        // All of the hold lies ahead, along the line: the next advance reports its marks, as after a seek.
        stepped.set_way(stepped.way().heading(true));
        let Some(clip) = stepped.clip_in(reel) else { return false };
        let line = stepped.line(clip);
        stepped.left = line.units_of(stepped.place);
        stepped.set_state(State::Seeked);
        *self = stepped;
        true
    }

    /// Reads the clip in the direction of the speed at this moment, heading along its line; the
    /// place is yet to be set.
    fn head_along<'r>(&mut self, reel: &'r Reel) -> Option<Line<'r>> {
        let clip = self.rebind(reel)?;
        self.set_way(Way::begun(self.pace.is_negative()));
        self.set_state(State::Seeked);
        Some(self.line(clip))
    }

    /// Plays the clip that a facing set has for a facing. It is idempotent: call it every frame.
    ///
    /// When it plays another clip of the set already, that clip's place is kept, by what the set says:
    /// the legs go on. Else the clip is played from its start, as by
    /// [`switch_to`](Player::switch_to). `false`, and nothing is changed, where the reel does not know the
    /// set.
    ///
    /// An example is at [`NewFacings`](crate::NewFacings).
    pub fn face(&mut self, reel: &Reel, set: FacingSetId, facing: Facing) -> bool {
        let Some(set) = reel.facing_data(set) else { return false };
        let in_set = set.has(self.requested_clip());
        if in_set && self.belongs_to(reel) && self.state() != State::Stopped {
            self.turn_to(reel, set.clip(facing), facing, set.align);
            true
        } else {
            self.switch_to(reel, set.clip(facing))
        }
    }

    /// Turns to a facing's clip: the clip asked for is another one from now on, and what plays is
    /// replaced in place, also where a chain has gone on to a clip of another facing set.
    pub(crate) fn turn_to(&mut self, reel: &Reel, clip: ClipId, facing: Facing, align: Align) {
        let Some(number) = reel.number_of(clip).filter(|number| self.requested != *number) else {
            return;
        };
        // Where a chain has gone on, what follows is replaced in its own set, and the set that was asked for is kept
        // for the next `switch_to`.
        if self.clip == self.requested {
            self.take_place(reel, number, align);
        } else if let Some(set) = reel.facing_set_of(self.clip())
            && let Some(other) =
                reel.number_of(set.clip(facing)).filter(|other| *other != self.clip)
        {
            self.take_place(reel, other, set.align);
        }
        self.requested = number;
    }

    /// Another clip takes the place of the one that plays.
    pub(crate) fn take_place(&mut self, reel: &Reel, clip: u16, align: Align) {
        let (Some(old), Some(new)) = (self.rebind(reel), reel.clip_at(clip)) else {
            self.requested = clip;
            return;
        };
        let state = self.state();
        if align == Align::Start || old.is_still != new.is_still {
            self.play(reel, ClipId::new(reel.family, clip));
            return;
        }
        let from = self.line(old);
        (self.clip, self.requested) = (clip, clip);
        if !state.means().holds {
            return;
        }
        if new.is_still {
            self.plays = self.plays.wrapping_add(1);
            self.begin(self.line(new));
            return self.set_state(State::Swapped);
        }
        let over = state.means().ends;
        let (along, to) = (self.heads_along(), self.line(new));
        let mut time = self.line_time(from);
        if over && along {
            // All cycles are done there, but it stands in the last; where it shows its first hold, too.
            time = from.far_end();
            time.cycle -= i32::from(!old.turns());
        }
        self.plays = self.plays.wrapping_add(1);
        if over && to.cycles().is_some() {
            if along {
                // It has ended already: what would follow does not.
                self.plan.then = NONE;
                self.reach_far_end(new);
            } else {
                self.reach_near_end(new);
            }
            return;
        }
        let mut landing = match align {
            Align::Hold => by_hold(from, time, to),
            _ => by_share(from, time, to, along),
        };
        landing.cycle = landing.cycle.wrapping_add(time.cycle);
        if let Some(cycles) = to.cycles() {
            landing.cycle = landing.cycle.clamp(0, cycles - 1);
        }
        self.put(to, landing);
        self.set_state(State::Swapped);
    }

    /// Goes to a place within the first cycle of the clip last asked for that depends on a seed and an
    /// id alone: a moth's number, or a place.
    ///
    /// ```
    /// # use lucky_reel_core::{Grid, NewClip, NewSheet, Player, Reel, Ticks};
    /// # let mut builder = Reel::builder();
    /// # let sheet = builder.sheet("moth", NewSheet::grid([64, 16], Grid::cell_size([16, 16])));
    /// # let flutter = builder.clip("flutter", NewClip::of(sheet).frames(0..4).fps(12));
    /// # let reel = builder.build()?;
    /// let swarm: Vec<Player> = (0..100)
    ///     .map(|id| {
    ///         let mut moth = Player::new(&reel, flutter);
    ///         moth.random_start(&reel, 2_026, id);
    ///         moth
    ///     })
    ///     .collect();
    /// let on_first = swarm.iter().filter(|moth| moth.hold_index(&reel) == Some(0)).count();
    /// assert!((10..40).contains(&on_first));
    /// # Ok::<(), lucky_reel_core::BuildError>(())
    /// ```
    pub fn random_start(&mut self, reel: &Reel, seed: u64, id: u64) -> bool {
        let cycle = reel.clip_at(self.requested).map_or(0, ClipData::cycle_ticks);
        self.seek(reel, Ticks::random(seed, id, Ticks::new(cycle)))
    }
}

/// ⌊place × new cycle ÷ old cycle⌋
fn by_share(from: Line<'_>, time: LineTime, to: Line<'_>, forward: bool) -> LineTime {
    let done = u128::from(from.units_in_cycle(time));
    to.time_at(done * u128::from(to.cycle()) / u128::from(from.cycle()), forward)
}

/// The same hold, or the last there is, and the share of it.
fn by_hold(from: Line<'_>, time: LineTime, to: Line<'_>) -> LineTime {
    let (hold, last) = (time.place & !RETURNING, to.clip.holds.len() as u16 - 1);
    let hold = hold.min(last);
    let on_way_back = time.place & RETURNING != 0 && to.clip.turns() && 0 < hold && hold < last;
    let place = if on_way_back { hold | RETURNING } else { hold };
    let length = u128::from(from.units_of(time.place));
    let into = u128::from(time.into) * u128::from(to.units_of(place)) / length;
    LineTime { cycle: 0, place, into: into as u64 }
}
