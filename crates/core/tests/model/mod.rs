//! A naive model of playback that walks a tick at a time, entry by entry. It shares nothing with the
//! library but the words.
//!
//! It has no running sums, no tables and no fast path: where it stands is the number of an entry and how far
//! it has come into it.

mod clips;

use std::rc::Rc;

#[allow(unused_imports)] // each test takes what it needs
pub(crate) use clips::{Ends, ModelClip, any_clip, any_clip_marked, build, build_into};
use lucky_reel_core::*;

/// The model's units in a tick: the steps of a speed.
pub(crate) const UNITS: i64 = 65_536;

impl ModelClip {
    /// The holds of a cycle, in the order in which they are shown.
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

    fn hold(&self, entry: i64, backward: bool) -> usize {
        let cycle = self.cycle();
        let hold = cycle[entry.rem_euclid(cycle.len() as i64) as usize];
        if backward { self.ticks.len() - 1 - hold } else { hold }
    }

    /// How long an entry is shown, in units.
    fn length(&self, entry: i64, backward: bool) -> i64 {
        self.ticks[self.hold(entry, backward)] * UNITS
    }
}

#[derive(Clone, Copy, Debug, PartialEq)]
enum State {
    Fresh,
    Sought,
    /// Another clip took the place of its own.
    Swapped,
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

/// Moment, kind, clip, hold, cycle; `enter` stands for the hold and its marks, `enter-bare` for the hold.
pub(crate) type Happened = (u64, &'static str, usize, usize, i64);

#[derive(Clone, Debug)]
pub(crate) struct Model {
    clips: Rc<[ModelClip]>,
    clip: usize,
    asked: usize,
    state: State,
    /// Units a tick, signed.
    speed: i64,
    heading: i64,
    backward: bool,
    entry: i64,
    /// Units since the entry's start, along the line.
    into: i64,
    frozen: u64,
    paused: bool,
    /// What the game wants of this play instead of what the clip says.
    times: Option<i64>,
    then: Option<usize>,
    /// It stands at its end, and this clip is about to begin.
    next: Option<usize>,
}

impl Model {
    pub(crate) fn new(clips: impl Into<Rc<[ModelClip]>>) -> Model {
        Model {
            clips: clips.into(),
            clip: 0,
            asked: 0,
            state: State::Fresh,
            speed: UNITS,
            heading: 1,
            backward: false,
            entry: 0,
            into: 0,
            frozen: 0,
            paused: false,
            times: None,
            then: None,
            next: None,
        }
    }

    /// All that says what it does from now on, as numbers.
    pub(crate) fn state(&self) -> impl Eq + std::hash::Hash + use<> {
        let place = (self.clip, self.asked, self.state as u8, self.entry, self.into);
        let way = (self.speed, self.heading, self.backward, self.frozen, self.paused);
        (place, way, self.times, self.then, self.next)
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

    pub(crate) fn then(&mut self, clip: usize) -> bool {
        let plays = !self.has_ended() && self.state != State::Stopped;
        if plays {
            self.then = Some(clip);
        }
        plays
    }

    /// The present play goes on as its clip says.
    pub(crate) fn forget_plan(&mut self) {
        if (self.times.take(), self.then.take()) != (None, None)
            && let Some(cycles) = self.cycles()
        {
            let length = self.now().cycle().len() as i64;
            let over = (self.entry.div_euclid(length) - (cycles - 1)).max(0);
            self.entry -= over * length;
        }
    }

    fn now(&self) -> &ModelClip {
        &self.clips[self.clip]
    }

    fn length(&self) -> i64 {
        self.now().length(self.entry, self.backward)
    }

    pub(crate) fn play(&mut self, clip: usize) {
        let kept = (self.speed, self.frozen, self.paused);
        *self = Model::new(self.clips.clone());
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

    /// Units a tick, signed.
    pub(crate) fn set_speed(&mut self, speed: i64) {
        self.speed = speed;
    }

    pub(crate) fn speed(&self) -> i64 {
        self.speed
    }

    pub(crate) fn hit_stop(&mut self, ticks: u64) {
        self.frozen = self.frozen.max(ticks);
    }

    pub(crate) fn seek(&mut self, ticks: i64) {
        self.clip = self.asked;
        self.head_along();
        let mut left = ticks * UNITS;
        while left > 0 && self.state == State::Running && !self.now().is_still() {
            left -= self.stride(left, &mut |_| {}, 0);
            self.follow(&mut |_| {}, 0);
        }
        // Nothing has been reported yet.
        if matches!(self.state, State::Running | State::Still) {
            self.state = State::Sought;
        }
    }

    pub(crate) fn seek_hold(&mut self, hold: usize) {
        self.head_along();
        let hold = hold.min(self.now().ticks.len() - 1);
        while self.now().hold(self.entry, self.backward) != hold {
            self.entry += 1;
        }
        self.state = State::Sought;
    }

    fn head_along(&mut self) {
        self.backward = self.speed < 0;
        self.heading = 1;
        (self.entry, self.into) = (0, 0);
        self.state = State::Running;
    }

    /// Another clip takes the place of the one that plays: by the share of the cycle, or by the hold.
    pub(crate) fn take_place(&mut self, clip: usize, by_hold: bool) {
        let clips = self.clips.clone();
        let (old, new) = (&clips[self.clip], &clips[clip]);
        if old.is_still() != new.is_still() {
            return self.play(clip);
        }
        (self.clip, self.asked, self.next) = (clip, clip, None);
        if matches!(self.state, State::Fresh | State::Stopped) {
            return;
        }
        if new.is_still() {
            (self.entry, self.into, self.state) = (0, 0, State::Swapped);
            return;
        }
        let length = |clip: &ModelClip| clip.cycle().len() as i64;
        if let (true, Some(entries)) = (self.has_ended(), self.entries()) {
            // It stands at the same end; what would follow there does not.
            let vanishes = self.end() == Ends::Vanish;
            self.state = State::Ended;
            if self.heading > 0 {
                self.then = None;
                self.entry = entries - 1;
                self.into = self.length();
                if matches!(self.end(), Ends::First | Ends::Vanish) {
                    self.state = State::Finished;
                }
            } else {
                (self.entry, self.into) = (0, 0);
                if vanishes {
                    self.state = State::Finished;
                }
            }
            return;
        }
        let (mut cycle, within) =
            (self.entry.div_euclid(length(old)), self.entry.rem_euclid(length(old)));
        let (entry, into) = if by_hold {
            let hold = old.hold(within, self.backward);
            let returns = within >= old.ticks.len() as i64;
            let last = new.ticks.len() - 1;
            let shows = |entry: &i64| new.hold(*entry, self.backward) == hold.min(last);
            let mut entries = (0..length(new)).filter(shows);
            let first = entries.next().unwrap();
            let entry =
                if returns && hold < last { entries.next().unwrap_or(first) } else { first };
            let share = self.into * new.length(entry, self.backward);
            (entry, share / old.length(within, self.backward))
        } else {
            let whole = |clip: &ModelClip| -> i64 {
                (0..length(clip)).map(|entry| clip.length(entry, self.backward)).sum()
            };
            let before: i64 = (0..within).map(|entry| old.length(entry, self.backward)).sum();
            let mut left = ((before + self.into) as i128 * i128::from(whole(new))
                / i128::from(whole(old))) as i64;
            let mut entry = 0;
            let is_behind =
                |left: i64, length: i64| left > length || left == length && self.heading > 0;
            while is_behind(left, new.length(entry, self.backward)) {
                left -= new.length(entry, self.backward);
                entry += 1;
            }
            (entry, left)
        };
        cycle += entry.div_euclid(length(new));
        if let Some(cycles) = self.cycles() {
            cycle = cycle.clamp(0, cycles - 1);
        }
        self.entry = cycle * length(new) + entry.rem_euclid(length(new));
        (self.into, self.state) = (into, State::Swapped);
    }

    /// Asked for another clip, while what plays stays.
    pub(crate) fn ask_for(&mut self, clip: usize) {
        self.asked = clip;
    }

    pub(crate) fn asked(&self) -> usize {
        self.asked
    }

    pub(crate) fn shown(&self) -> Option<u32> {
        let clip = self.now();
        let shown = match self.state {
            State::Fresh if self.speed < 0 => clip.ticks.len() - 1,
            State::Fresh => 0,
            State::Stopped => clip.rest,
            State::Finished if self.end() == Ends::Vanish => return None,
            State::Finished => clip.hold(0, self.backward),
            _ => clip.hold(self.entry, self.backward),
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

    pub(crate) fn has_then(&self) -> bool {
        self.then.is_some()
    }

    /// Ticks until the present clip ends at the present speed, hit-stop included, as if it were not paused.
    pub(crate) fn remaining(&self) -> Option<u64> {
        let mut ahead = self.clone();
        if self.state == State::Stopped {
            return None;
        }
        let moves = self.speed != 0 && ahead.depart(&mut |_| {}, 0);
        if self.has_ended() && !moves {
            return Some(0);
        }
        if !moves || self.cycles().is_none() {
            return None;
        }
        let mut units = 0;
        while !ahead.has_ended() {
            units += ahead.stride(i64::MAX, &mut |_| {}, 0);
        }
        Some(self.frozen + units.unsigned_abs().div_ceil(self.speed.unsigned_abs()))
    }

    pub(crate) fn advance(&mut self, dt: u64) -> Vec<Reported> {
        let mut happened = Vec::new();
        let Some(first) = self.pass(dt) else { return happened };
        let mut model = self.clone();
        let mut tell = |one| happened.extend(self.reported(one));
        if model.depart(&mut tell, first) {
            model.stride(0, &mut tell, first);
            model.follow(&mut tell, first);
            for tick in first + 1..=dt {
                let mut left = model.speed.abs();
                while left > 0 && model.state == State::Running {
                    left -= model.stride(left, &mut tell, tick);
                    model.follow(&mut tell, tick);
                }
            }
        }
        *self = model;
        happened
    }

    /// Lets time pass for what holds it back: the tick at which it begins to move, if it does.
    pub(crate) fn pass(&mut self, dt: u64) -> Option<u64> {
        if self.paused {
            return None;
        }
        let first = dt.min(self.frozen);
        self.frozen -= first;
        (first < dt && self.speed != 0).then_some(first)
    }

    /// What happened, as the rows that are compared: marks follow the hold that they are on.
    pub(crate) fn reported(&self, happened: Happened) -> impl Iterator<Item = Reported> + use<> {
        let (at, kind, clip, hold, cycle) = happened;
        let kind_reported = if kind == "enter-bare" { "enter" } else { kind };
        let marks = if kind == "enter" { self.clips[clip].marks[hold] } else { 0 };
        let mark = move |nth: usize| Reported(at, "mark", clip, hold as u32, cycle, nth);
        let marks = (0..32).filter(move |nth| marks >> nth & 1 == 1).map(mark);
        std::iter::once(Reported(at, kind_reported, clip, hold as u32, cycle, 0)).chain(marks)
    }

    /// The first moment of a movement; a turn that stood on a boundary crosses it in the first stride, of 0
    /// units. `false` when it is over.
    pub(crate) fn depart(&mut self, tell: &mut impl FnMut(Happened), at: u64) -> bool {
        let before = self.cycle();
        let turned = |model: &Model| {
            let along = if model.backward { -1 } else { 1 };
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
                    tell((at, "cycle", self.clip, self.shown().unwrap() as usize, before));
                }
            }
            State::Sought | State::Swapped => {
                self.heading = turned(self);
                let is_whole = self.state == State::Sought && self.ahead() == self.length();
                let kind = if is_whole { "enter" } else { "enter-bare" };
                self.state = State::Running;
                tell((at, kind, self.clip, self.shown().unwrap() as usize, self.cycle()));
            }
            State::Running => self.heading = turned(self),
        }
        self.stand_if_still();
        true
    }

    /// Units left of the entry in the direction of travel.
    fn ahead(&self) -> i64 {
        if self.heading > 0 { self.length() - self.into } else { self.into }
    }

    /// A still has come up, and stands.
    fn stand_if_still(&mut self) -> bool {
        if self.now().is_still() {
            self.state = State::Still;
        }
        self.now().is_still()
    }

    /// Goes so many units, or to the next boundary if that is nearer; gives the units that it took.
    pub(crate) fn stride(&mut self, units: i64, tell: &mut impl FnMut(Happened), at: u64) -> i64 {
        if self.state != State::Running {
            return units;
        }
        let went = units.min(self.ahead());
        self.into += self.heading * went;
        if self.ahead() == 0 {
            self.cross(tell, at);
        }
        went
    }

    fn cross(&mut self, tell: &mut impl FnMut(Happened), at: u64) {
        let clips = self.clips.clone();
        let clip = &clips[self.clip];
        let (name, left) = (self.clip, clip.hold(self.entry, self.backward));
        let length = clip.cycle().len() as i64;
        let to = self.entry + self.heading;
        let boundary = self.entry.max(to);
        let ends_cycle =
            boundary.rem_euclid(length) == 0 && (self.cycles().is_none() || boundary > 0);
        if ends_cycle {
            tell((at, "cycle", name, left, boundary.div_euclid(length)));
        }
        if let Some(entries) = self.entries() {
            if to < 0 {
                tell((at, "end", name, left, 0));
                self.state =
                    if self.end() == Ends::Vanish { State::Finished } else { State::Ended };
                return;
            }
            if to == entries {
                tell((at, "end", name, left, self.cycles().unwrap()));
                self.state = State::Ended;
                match self.end() {
                    Ends::Stay => {}
                    Ends::First | Ends::Vanish => self.state = State::Finished,
                    Ends::Play(next) => self.next = Some(next),
                }
                return;
            }
        }
        self.entry = to;
        self.into = if self.heading > 0 { 0 } else { self.length() };
        if clip.turns() && to.rem_euclid(length) == clip.ticks.len() as i64 - 1 {
            tell((at, "turn", name, left, to.div_euclid(length)));
        }
        self.enter(tell, at);
    }

    /// Begins the clip that follows what has ended, if one does.
    pub(crate) fn follow(&mut self, tell: &mut impl FnMut(Happened), at: u64) {
        let Some(next) = self.next.take() else { return };
        self.clip = next;
        (self.times, self.then) = (None, None);
        (self.entry, self.into, self.state) = (0, 0, State::Running);
        tell((at, "next", next, 0, 0));
        self.enter(tell, at);
        self.stand_if_still();
    }

    fn enter(&self, tell: &mut impl FnMut(Happened), at: u64) {
        let hold = self.now().hold(self.entry, self.backward);
        let length = self.now().cycle().len() as i64;
        tell((at, "enter", self.clip, hold, self.entry.div_euclid(length)));
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
            which = reel.name(mark)[1..].parse().unwrap();
            "mark"
        }
        other => panic!("an event the model does not know: {other:?}"),
    };
    let Event { at, clip, hold, cycle, .. } = event;
    Reported(at.get(), kind, clip.index(), hold, i64::from(cycle), which)
}
