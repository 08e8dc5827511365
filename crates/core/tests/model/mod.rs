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
    Still,
}

/// What is compared: moment, kind, clip, hold, cycle; for a mark, which.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) struct Reported(
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
    /// What the game wants of this play instead of what the clip says.
    times: Option<i64>,
    then: Option<usize>,
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
            times: None,
            then: None,
        }
    }

    /// How many cycles this play has.
    fn cycles(&self) -> Option<i64> {
        if self.now().is_still() { None } else { self.times.or(self.now().cycles()) }
    }

    /// How many entries the whole line has.
    fn entries(&self) -> Option<i64> {
        let clip = self.now();
        Some(self.cycles()? * clip.cycle().len() as i64 + i64::from(clip.turns()))
    }

    fn end(&self) -> Ends {
        // An endless clip says nothing of its end, and so stays.
        let own = if self.now().cycles().is_some() { self.now().end } else { Ends::Stay };
        self.then.map_or(own, Ends::Play)
    }

    pub(crate) fn play_times(&mut self, clip: usize, times: i64) {
        self.play(clip);
        self.times = Some(times.max(1));
    }

    pub(crate) fn then(&mut self, clip: usize) {
        if !self.has_ended() && self.state != State::Stopped {
            self.then = Some(clip);
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
        (self.times, self.then) = (None, None);
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
            if matches!(self.state, State::Ended | State::Finished | State::Still) {
                break;
            }
            self.walk(&mut |_, _, _, _, _| {}, 0);
        }
        // Nothing has been reported yet.
        if matches!(self.state, State::Running | State::Still) {
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
            State::Finished if self.end() == Ends::Vanish => return None,
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
            State::Ended | State::Finished if self.into > 0 => self.cycles().unwrap(),
            _ => self.entry.div_euclid(length),
        }
    }

    pub(crate) fn clip(&self) -> usize {
        self.clip
    }

    pub(crate) fn has_ended(&self) -> bool {
        matches!(self.state, State::Ended | State::Finished)
    }

    pub(crate) fn advance(&mut self, dt: u64) -> Vec<Reported> {
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
            let mark = move |nth: usize| Reported(at, "mark", clip, hold as u32, cycle, nth);
            let marks = (0..32).filter(move |nth| marks >> nth & 1 == 1).map(mark);
            std::iter::once(Reported(at, kind_told, clip, hold as u32, cycle, 0)).chain(marks)
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
            State::Stopped | State::Finished | State::Still => return false,
            State::Fresh => {
                self.head_along();
                self.enter(tell, at);
                self.stand_if_still();
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
        if self.stand_if_still() {
            return true;
        }
        // A turn that stood on a boundary.
        let ahead = if self.heading > 0 { self.length() - self.into } else { self.into };
        if ahead == 0 {
            self.cross(tell, at);
        }
        true
    }

    /// A still has come up, and stands.
    fn stand_if_still(&mut self) -> bool {
        if self.now().is_still() {
            self.state = State::Still;
        }
        self.now().is_still()
    }

    /// A quarter of a tick.
    fn walk(&mut self, tell: &mut impl FnMut(u64, &'static str, usize, usize, i64), at: u64) {
        if self.state != State::Running || self.now().is_still() {
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
            boundary.rem_euclid(length) == 0 && (self.cycles().is_none() || boundary > 0);
        if ends_cycle {
            tell(at, "cycle", name, left, boundary.div_euclid(length));
        }
        if let Some(entries) = self.entries() {
            if to < 0 {
                tell(at, "end", name, left, 0);
                self.state =
                    if self.end() == Ends::Vanish { State::Finished } else { State::Ended };
                return;
            }
            if to == entries {
                tell(at, "end", name, left, self.cycles().unwrap());
                match self.end() {
                    Ends::Stay => self.state = State::Ended,
                    Ends::First | Ends::Vanish => self.state = State::Finished,
                    Ends::Play(next) => {
                        self.clip = next;
                        (self.times, self.then) = (None, None);
                        (self.entry, self.into) = (0, 0);
                        tell(at, "next", next, 0, 0);
                        self.enter(tell, at);
                        self.stand_if_still();
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
pub(crate) fn reported(reel: &Reel, event: Event) -> Reported {
    let mut which = 0;
    let kind = match event.kind {
        EventKind::Enter(frame) => {
            let hold = reel.clip(event.clip).unwrap().hold(event.hold).unwrap();
            assert_eq!(hold.frame, frame);
            "enter"
        }
        EventKind::Cycle => "cycle",
        EventKind::Turn => "turn",
        EventKind::End => "end",
        EventKind::Next => "next",
        EventKind::Mark(mark) => {
            which = reel.mark_name(mark)[1..].parse().unwrap();
            "mark"
        }
        other => panic!("an event the model does not know: {other:?}"),
    };
    let Event { at, clip, hold, cycle, .. } = event;
    Reported(at.get(), kind, clip.index(), hold, i64::from(cycle), which)
}
