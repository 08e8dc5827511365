//! A naive model of playback that walks a quarter of a tick at a time, entry by entry. It shares
//! nothing with the library but the words.

mod clips;

pub(crate) use clips::{Ends, ModelClip, any_clip, build};
use lucky_reel_core::*;

/// The model's units in a tick; speeds are whole numbers of quarters.
pub(crate) const QUARTERS: i64 = 4;

impl ModelClip {
    fn cycle(&self) -> Vec<usize> {
        let last = self.ticks.len() - 1;
        match self.mode {
            Mode::PingPong if last > 0 => (0..=last).chain((1..last).rev()).collect(),
            _ => (0..=last).collect(),
        }
    }

    fn turns(&self) -> bool {
        self.mode == Mode::PingPong && self.ticks.len() > 1
    }

    /// How many entries the whole line has.
    fn entries(&self) -> Option<i64> {
        Some(self.cycles()? * self.cycle().len() as i64 + i64::from(self.turns()))
    }

    fn hold(&self, entry: i64, backwards: bool) -> usize {
        let cycle = self.cycle();
        let hold = cycle[entry.rem_euclid(cycle.len() as i64) as usize];
        if backwards { self.ticks.len() - 1 - hold } else { hold }
    }
}

#[derive(Clone, Copy, Debug, PartialEq)]
enum State {
    Fresh,
    Sought,
    Running,
    Ended,
    Finished,
    Stopped,
}

/// What is compared: moment, kind, clip, hold, cycle; for a mark, which.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) struct Told(
    pub(crate) u64,
    pub(crate) &'static str,
    pub(crate) usize,
    pub(crate) u32,
    pub(crate) i64,
    pub(crate) usize,
);

#[derive(Clone, Debug)]
pub(crate) struct Model {
    clips: Vec<ModelClip>,
    clip: usize,
    asked: usize,
    state: State,
    /// Quarters a tick, signed.
    speed: i64,
    heading: i64,
    backwards: bool,
    entry: i64,
    /// Quarters of a tick since the entry's start, along the line.
    into: i64,
    frozen: u64,
    paused: bool,
}

impl Model {
    pub(crate) fn new(clips: Vec<ModelClip>) -> Model {
        Model {
            clips,
            clip: 0,
            asked: 0,
            state: State::Fresh,
            speed: QUARTERS,
            heading: 1,
            backwards: false,
            entry: 0,
            into: 0,
            frozen: 0,
            paused: false,
        }
    }

    fn now(&self) -> &ModelClip {
        &self.clips[self.clip]
    }

    fn length(&self) -> i64 {
        self.now().ticks[self.now().hold(self.entry, self.backwards)] * QUARTERS
    }

    pub(crate) fn play(&mut self, clip: usize) {
        let kept = (self.speed, self.frozen, self.paused);
        *self = Model::new(std::mem::take(&mut self.clips));
        (self.speed, self.frozen, self.paused) = kept;
        (self.clip, self.asked) = (clip, clip);
    }

    pub(crate) fn switch_to(&mut self, clip: usize) {
        if self.asked != clip || self.state == State::Stopped {
            self.play(clip);
        }
    }

    pub(crate) fn restart(&mut self) {
        self.play(self.asked);
    }

    pub(crate) fn stop(&mut self) {
        self.state = State::Stopped;
    }

    pub(crate) fn pause(&mut self, paused: bool) {
        self.paused = paused;
    }

    pub(crate) fn set_speed(&mut self, speed: i64) {
        self.speed = speed;
    }

    pub(crate) fn hit_stop(&mut self, ticks: u64) {
        self.frozen = self.frozen.max(ticks);
    }

    pub(crate) fn seek(&mut self, ticks: i64) {
        self.clip = self.asked;
        self.head_along();
        for _ in 0..ticks * QUARTERS {
            if matches!(self.state, State::Ended | State::Finished) {
                break;
            }
            self.walk(&mut |_, _, _, _, _| {}, 0);
        }
        // Nothing has been reported yet.
        if self.state == State::Running {
            self.state = State::Sought;
        }
    }

    pub(crate) fn seek_hold(&mut self, hold: usize) {
        self.head_along();
        let hold = hold.min(self.now().ticks.len() - 1);
        while self.now().hold(self.entry, self.backwards) != hold {
            self.entry += 1;
        }
        self.state = State::Sought;
    }

    fn head_along(&mut self) {
        self.backwards = self.speed < 0;
        self.heading = 1;
        (self.entry, self.into) = (0, 0);
        self.state = State::Running;
    }

    pub(crate) fn shown(&self) -> Option<u32> {
        let clip = self.now();
        let shown = match self.state {
            State::Fresh if self.speed < 0 => clip.ticks.len() - 1,
            State::Fresh => 0,
            State::Stopped => clip.rest,
            State::Finished if clip.end == Ends::Vanish => return None,
            State::Finished => clip.hold(0, self.backwards),
            _ => clip.hold(self.entry, self.backwards),
        };
        Some(shown as u32)
    }

    pub(crate) fn cycle(&self) -> i64 {
        let clip = self.now();
        let length = clip.cycle().len() as i64;
        match self.state {
            State::Fresh | State::Stopped => 0,
            // At the far end all cycles are done.
            State::Ended | State::Finished if self.into > 0 => clip.cycles().unwrap(),
            _ => self.entry.div_euclid(length),
        }
    }

    pub(crate) fn clip(&self) -> usize {
        self.clip
    }

    pub(crate) fn is_over(&self) -> bool {
        matches!(self.state, State::Ended | State::Finished)
    }

    pub(crate) fn advance(&mut self, dt: u64) -> Vec<Told> {
        if self.paused || dt == 0 {
            return Vec::new();
        }
        let first = dt.min(self.frozen);
        self.frozen -= first;
        if first == dt || self.speed == 0 {
            return Vec::new();
        }
        let mut happened = Vec::new();
        let mut tell = |at, kind, clip, hold, cycle| happened.push((at, kind, clip, hold, cycle));
        if self.depart(&mut tell, first) {
            for tick in first + 1..=dt {
                for _ in 0..self.speed.abs() {
                    self.walk(&mut tell, tick);
                }
            }
        }
        // Marks follow the hold that they are on.
        let with_marks = happened.into_iter().flat_map(|(at, kind, clip, hold, cycle)| {
            let kind_told = if kind == "enter-bare" { "enter" } else { kind };
            let marks = if kind == "enter" { self.clips[clip].marks[hold] } else { 0 };
            let mark = move |nth: usize| Told(at, "mark", clip, hold as u32, cycle, nth);
            let marks = (0..32).filter(move |nth| marks >> nth & 1 == 1).map(mark);
            std::iter::once(Told(at, kind_told, clip, hold as u32, cycle, 0)).chain(marks)
        });
        with_marks.collect()
    }

    /// The first moment of a movement. `false` when it is over.
    fn depart(
        &mut self,
        tell: &mut impl FnMut(u64, &'static str, usize, usize, i64),
        at: u64,
    ) -> bool {
        let before = self.cycle();
        let turned = |model: &Model| {
            let along = if model.backwards { -1 } else { 1 };
            model.speed.signum() * along
        };
        match self.state {
            State::Stopped | State::Finished => return false,
            State::Fresh => {
                self.head_along();
                self.enter(tell, at);
                return true;
            }
            State::Ended if turned(self) == self.heading => return false,
            State::Ended => {
                self.heading = turned(self);
                self.state = State::Running;
                if self.cycle() != before {
                    tell(at, "cycle", self.clip, self.shown().unwrap() as usize, before);
                }
            }
            State::Sought => {
                self.heading = turned(self);
                self.state = State::Running;
                let ahead = if self.heading > 0 { self.length() - self.into } else { self.into };
                let kind = if ahead == self.length() { "enter" } else { "enter-bare" };
                tell(at, kind, self.clip, self.shown().unwrap() as usize, self.cycle());
            }
            State::Running => self.heading = turned(self),
        }
        // A turn that stood on a boundary.
        let ahead = if self.heading > 0 { self.length() - self.into } else { self.into };
        if ahead == 0 {
            self.cross(tell, at);
        }
        true
    }

    /// A quarter of a tick.
    fn walk(&mut self, tell: &mut impl FnMut(u64, &'static str, usize, usize, i64), at: u64) {
        if self.state != State::Running {
            return;
        }
        self.into += self.heading;
        let ahead = if self.heading > 0 { self.length() - self.into } else { self.into };
        if ahead == 0 {
            self.cross(tell, at);
        }
    }

    fn cross(&mut self, tell: &mut impl FnMut(u64, &'static str, usize, usize, i64), at: u64) {
        let clip = self.now().clone();
        let (name, left) = (self.clip, clip.hold(self.entry, self.backwards));
        let length = clip.cycle().len() as i64;
        let to = self.entry + self.heading;
        let boundary = self.entry.max(to);
        let ends_cycle =
            boundary.rem_euclid(length) == 0 && (clip.cycles().is_none() || boundary > 0);
        if ends_cycle {
            tell(at, "cycle", name, left, boundary.div_euclid(length));
        }
        if let Some(entries) = clip.entries() {
            if to < 0 {
                tell(at, "end", name, left, 0);
                self.state = if clip.end == Ends::Vanish { State::Finished } else { State::Ended };
                return;
            }
            if to == entries {
                tell(at, "end", name, left, clip.cycles().unwrap());
                match clip.end {
                    Ends::Stay => self.state = State::Ended,
                    Ends::First | Ends::Vanish => self.state = State::Finished,
                    Ends::Play(next) => {
                        self.clip = next;
                        (self.entry, self.into) = (0, 0);
                        tell(at, "next", next, 0, 0);
                        self.enter(tell, at);
                    }
                }
                return;
            }
        }
        self.entry = to;
        self.into = if self.heading > 0 { 0 } else { self.length() };
        if clip.turns() && to.rem_euclid(length) == clip.ticks.len() as i64 - 1 {
            tell(at, "turn", name, left, to.div_euclid(length));
        }
        self.enter(tell, at);
    }

    fn enter(&self, tell: &mut impl FnMut(u64, &'static str, usize, usize, i64), at: u64) {
        let hold = self.now().hold(self.entry, self.backwards);
        let length = self.now().cycle().len() as i64;
        tell(at, "enter", self.clip, hold, self.entry.div_euclid(length));
    }
}

/// An event in the words of the model.
pub(crate) fn told(reel: &Reel, event: Event) -> Told {
    let (at, mut which) = (event.at().get(), 0);
    let (kind, clip, hold, cycle) = match event {
        Event::Enter { clip, hold, cycle, .. } => ("enter", clip, hold, cycle),
        Event::Cycle { clip, hold, cycle, .. } => ("cycle", clip, hold, cycle),
        Event::Turn { clip, hold, cycle, .. } => ("turn", clip, hold, cycle),
        Event::End { clip, hold, cycle, .. } => ("end", clip, hold, cycle),
        Event::Next { clip, .. } => ("next", clip, 0, 0),
        Event::Mark { mark, clip, hold, cycle, .. } => {
            which = reel.mark_name(mark)[1..].parse().unwrap();
            ("mark", clip, hold, cycle)
        }
        other => panic!("an event the model does not know: {other:?}"),
    };
    Told(at, kind, clip.index(), hold, i64::from(cycle), which)
}
