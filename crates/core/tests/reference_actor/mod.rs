//! A naive actor on the naive player: walked tick by tick, boundary by boundary, as the laws tell it and
//! nothing clever; and random roles for it.

mod spec;

use std::rc::Rc;

use lucky_reel_core::*;

use crate::model::{Happened, Model, ModelClip, Reported, UNITS};
pub(crate) use spec::*;

/// What happened: when, its kind, which clip, mark, cue or bridge, and of an entered hold its number and cycle.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) struct Row(
    pub(crate) u64,
    pub(crate) &'static str,
    pub(crate) usize,
    pub(crate) u32,
    pub(crate) i64,
);

/// An event of the library as a row.
pub(crate) fn reported(reel: &Reel, at: u64, event: Event) -> Row {
    let (clip, hold) = (event.clip.index(), event.hold);
    // Between the clips of a role and their mirrored copy stands the spare one.
    let clip = if reel.name(event.clip) == "f-left" { MIRRORED } else { clip };
    match event.kind {
        EventKind::Enter(_) => Row(at, "enter", clip, hold, i64::from(event.cycle)),
        EventKind::Mark(mark) => {
            let name = reel.name(mark);
            let which = MARKS.iter().position(|known| *known == name).unwrap();
            Row(at, "mark", which, hold, i64::from(event.cycle))
        }
        EventKind::Cycle => Row(at, "cycle", clip, hold, i64::from(event.cycle)),
        EventKind::Turn => Row(at, "turn", clip, hold, i64::from(event.cycle)),
        EventKind::End => Row(at, "end", clip, hold, i64::from(event.cycle)),
        EventKind::Next => Row(at, "next", clip, 0, 0),
        EventKind::Cue(cue, _) => Row(at, "cue", cue.index(), 0, 0),
        EventKind::Bridge(bridge, _) => Row(at, "bridge", bridge.index(), 0, 0),
        EventKind::CueLoop => Row(at, "cut off", 0, 0, 0),
        other => panic!("an event the naive actor does not know: {other:?}"),
    }
}

/// What can be seen of an actor: clip, hold, cycle, cue, bridge, over the cues, ended, ticks left.
pub(crate) type Seen =
    (usize, Option<u32>, i64, Option<usize>, Option<usize>, bool, bool, Option<u64>);

pub(crate) fn seen(reel: &Reel, actor: &Actor) -> Seen {
    let player = actor.player();
    (
        if reel.name(player.clip()) == "f-left" { MIRRORED } else { player.clip().index() },
        player.hold_index(reel),
        i64::from(player.cycle()),
        actor.cue().map(|cue| cue.index()),
        actor.bridge().map(|bridge| bridge.index()),
        actor.plays_over_cues(),
        player.has_ended(),
        player.remaining(reel).map(Ticks::get),
    )
}

/// What plays over the cues.
#[derive(Clone, Copy, Default, Debug, PartialEq)]
struct Over {
    /// Cues above this one break in.
    yields_to: Option<usize>,
}

/// An actor as the laws tell it.
#[derive(Clone)]
pub(crate) struct Naive<'s> {
    spec: &'s Spec,
    player: Model,
    a: bool,
    n: i32,
    /// In quarters.
    pace: i64,
    /// The game's speed, in units a tick.
    speed: i64,
    /// Pulses: up to which tick, and whether anew.
    up_to: [u64; 2],
    fresh: [bool; 2],
    facing: Facing,
    begun_facing: Facing,
    inside: bool,
    changed: bool,
    cue: Option<usize>,
    bridge: Option<(usize, usize)>,
    over: Option<Over>,
    done: bool,
    now: u64,
    /// Of this instant: changes, whether there were too many, whether what plays was turned.
    changes: usize,
    cut: bool,
    turned: bool,
    pub(crate) rows: Vec<Row>,
}

impl<'s> Naive<'s> {
    pub(crate) fn new(spec: &'s Spec) -> Naive<'s> {
        let mirrored = spec.clips.get(3).cloned();
        let clips: Rc<[ModelClip]> = spec.clips.iter().cloned().chain(mirrored).collect();
        let mut naive = Naive {
            spec,
            player: Model::new(clips),
            a: false,
            n: 0,
            pace: 4,
            speed: UNITS,
            up_to: [0; 2],
            fresh: [false; 2],
            facing: Facing::Down,
            begun_facing: Facing::Down,
            inside: false,
            changed: true,
            cue: None,
            bridge: None,
            over: None,
            done: false,
            now: 0,
            changes: 0,
            cut: false,
            turned: false,
            rows: Vec::new(),
        };
        let first = naive.clip_of(spec.cues[naive.winner()].plays, Facing::Down);
        naive.player.play(first);
        naive
    }

    pub(crate) fn seen(&self) -> Seen {
        let player = &self.player;
        (
            player.clip(),
            player.shown(),
            player.cycle(),
            self.cue,
            self.bridge.map(|(nth, _)| nth),
            self.over.is_some(),
            player.has_ended(),
            player.remaining(),
        )
    }

    /// All that says what it does from now on, as numbers; no moment of it.
    pub(crate) fn state(&self) -> impl Eq + std::hash::Hash + use<> {
        let up_for = self.up_to.map(|end| end.saturating_sub(self.now));
        let flags = [self.inside, self.changed, self.done, self.cut, self.turned, self.a];
        let facts = (self.n, self.pace, self.speed, up_for, self.fresh, self.changes);
        let over = self.over.map(|over| over.yields_to);
        let plays = (self.cue, self.bridge, over, self.facing as u8, self.begun_facing as u8);
        (self.player.state(), flags, facts, plays)
    }

    pub(crate) fn set_a(&mut self, value: bool) {
        self.changed |= std::mem::replace(&mut self.a, value) != value;
    }

    pub(crate) fn set_n(&mut self, value: i32) {
        self.changed |= std::mem::replace(&mut self.n, value) != value;
    }

    pub(crate) fn now(&self) -> u64 {
        self.now
    }

    /// In quarters.
    pub(crate) fn set_pace(&mut self, value: i64) {
        self.changed |= std::mem::replace(&mut self.pace, value) != value;
    }

    /// Pulse 0 is `p`, pulse 1 is `q`.
    pub(crate) fn pulse(&mut self, pulse: usize) {
        self.up_to[pulse] = self.now + self.spec.pulses[pulse];
        self.fresh[pulse] = true;
        self.changed = true;
    }

    pub(crate) fn face(&mut self, facing: Facing) {
        self.changed |= facing != self.facing;
        self.facing = facing;
    }

    /// In units a tick.
    pub(crate) fn set_speed(&mut self, speed: i64) {
        self.speed = speed;
        self.turned = false;
        self.apply_speed();
        // What has not begun shows its other end when it is turned.
        self.changed |= self.inside_now() != self.inside;
    }

    pub(crate) fn pause(&mut self, paused: bool) {
        self.player.pause(paused);
    }

    pub(crate) fn hit_stop(&mut self, ticks: u64) {
        self.player.hit_stop(ticks);
    }

    /// Another version of the reel, with the same in it.
    pub(crate) fn reload(&mut self) {
        self.changed = true;
    }

    /// Plays a clip so often over the cues.
    pub(crate) fn play_times(&mut self, clip: usize, times: i64) {
        self.player.play_times(clip, times);
        (self.over, self.bridge) = (Some(Over::default()), None);
        (self.done, self.changed, self.turned) = (false, true, false);
        self.apply_speed();
    }

    /// Names the clip that follows what plays.
    pub(crate) fn then(&mut self, clip: usize) {
        self.player.then(clip);
    }

    pub(crate) fn yield_to_cues_above(&mut self, cue: usize) {
        if let (Some(over), true) = (&mut self.over, cue < self.spec.cues.len()) {
            over.yields_to = Some(cue);
            self.changed = true;
        }
    }

    pub(crate) fn return_to_cues(&mut self) {
        if self.over.is_some() {
            (self.done, self.changed) = (true, true);
        }
    }

    fn is_up(&self, pulse: usize) -> bool {
        self.now < self.up_to[pulse]
    }

    fn holds(&self, cond: &Cond) -> bool {
        match *cond {
            Cond::A(value) => self.a == value,
            Cond::Above(number) => self.n > number,
            Cond::Below(number) => self.n < number,
            Cond::P => self.is_up(0),
            Cond::Q => self.is_up(1),
            Cond::Inside => self.inside,
            Cond::Facing(facing) => self.facing == facing,
        }
    }

    fn names(&self, cue: usize, pulse: usize) -> bool {
        let mut conds = self.spec.cues[cue].when.iter().flatten();
        conds.any(|cond| matches!((cond, pulse), (Cond::P, 0) | (Cond::Q, 1)))
    }

    fn winner(&self) -> usize {
        let wins = |cue: &CueSpec| {
            cue.when.is_empty() || cue.when.iter().any(|all| all.iter().all(|c| self.holds(c)))
        };
        self.spec.cues.iter().position(wins).unwrap()
    }

    /// Whether it is inside the span now, if a cue asks for it. Before the first cue nothing plays.
    fn inside_now(&self) -> bool {
        let mut named = self.spec.cues.iter().flat_map(|cue| cue.when.iter().flatten());
        let plays = self.cue.is_some() || self.over.is_some();
        plays && named.any(|cond| matches!(cond, Cond::Inside)) && self.is_in_span()
    }

    fn is_in_span(&self) -> bool {
        let clip = if self.player.clip() == MIRRORED { 3 } else { self.player.clip() };
        let span = self.spec.spans[clip].zip(self.player.shown());
        span.is_some_and(|((from, to), hold)| (from..=to).contains(&hold))
    }

    fn begin_instant(&mut self) {
        (self.changes, self.cut, self.turned) = (0, false, false);
    }

    /// One tick: its first moment, then boundary by boundary, each at the end of the tick.
    pub(crate) fn tick(&mut self) {
        if self.changed {
            // What the game tells is looked at in any case.
            self.begin_instant();
        }
        self.look_while_owed(false);
        let end = self.now + 1;
        // What has taken over, or was turned, at the first moment plays the whole tick.
        while self.player.pass(1).is_some() {
            let speed = self.player.speed();
            let mut happened = Vec::new();
            if !self.player.depart(&mut |row| happened.push(row), 0) {
                break;
            }
            if self.take_in(&happened) {
                continue;
            }
            happened.clear();
            self.player.stride(0, &mut |row| happened.push(row), 0);
            if self.take_in(&happened) || self.player.speed() != speed {
                continue;
            }
            self.walk(speed.abs(), end);
            break;
        }
        self.arrive(end);
    }

    /// Walks so many units, which take up to a moment; what was left when something else took over is
    /// dropped.
    fn walk(&mut self, units: i64, moment: u64) {
        let mut left = units;
        while left > 0 {
            let mut happened = Vec::new();
            left -= self.player.stride(left, &mut |row| happened.push(row), 0);
            if happened.is_empty() {
                continue;
            }
            self.arrive(moment);
            if self.take_in(&happened) {
                return;
            }
        }
    }

    /// Time passes up to a moment.
    fn arrive(&mut self, moment: u64) {
        if self.now < moment {
            self.now = moment;
            self.begin_instant();
        }
    }

    /// What happened at one boundary, and what the cues make of it; `true` when something took over.
    fn take_in(&mut self, happened: &[Happened]) -> bool {
        if happened.is_empty() {
            return false;
        }
        for Reported(_, kind, clip, hold, cycle, mark) in
            happened.iter().flat_map(|happened| self.player.reported(*happened)).collect::<Vec<_>>()
        {
            let which = if kind == "mark" { mark } else { clip };
            self.rows.push(Row(self.now, kind, which, hold, cycle));
            if kind == "mark" {
                self.take_in_mark(MARKS[mark]);
            }
        }
        let ended = happened.iter().find(|happened| happened.1 == "end").map(|happened| happened.2);
        self.apply_speed();
        if self.cut {
            // No look is owed any more.
            (self.changed, self.inside) = (false, self.inside_now());
            self.fresh = [false; 2];
        }
        let Some(ended) = ended else { return self.look_while_owed(false) };
        // What the game has named to follow belongs to what is played over the cues.
        let goes_on = self.over.is_some() && self.player.has_then();
        self.done |= if self.over.is_some() { !goes_on } else { ended == self.player.asked() };
        if !self.cut && !goes_on && self.look_while_owed(true) {
            return true;
        }
        let mut happened = Vec::new();
        self.player.follow(&mut |row| happened.push(row), 0);
        self.take_in(&happened)
    }

    fn take_in_mark(&mut self, mark: &str) {
        match mark {
            "a-on" => self.set_a(true),
            "a-off" => self.set_a(false),
            "n-one" => self.set_n(1),
            "n-two" => self.set_n(2),
            "p-set" => self.pulse(0),
            "pace-back" => self.set_pace(-4),
            "pace-twice" => self.set_pace(8),
            _ => self.set_pace(0),
        }
    }

    /// Looks as often as something calls for it; `true` when something took over.
    fn look_while_owed(&mut self, forced: bool) -> bool {
        let mut owed = forced || self.changed || self.inside_now() != self.inside;
        let mut taken_over = false;
        while owed && !self.cut {
            self.inside = self.inside_now();
            self.changed = false;
            taken_over |= self.look();
            self.fresh = [false; 2];
            owed = self.inside_now() != self.inside;
            if self.cut {
                self.inside = self.inside_now();
            }
        }
        taken_over
    }

    /// One look; `true` when something took over.
    fn look(&mut self) -> bool {
        let (cues, winner) = (&self.spec.cues, self.winner());
        let bridge = |from: usize, to: usize| {
            let leads = |b: &&(u8, u8, usize)| b.0 >> from & 1 == 1 && b.1 >> to & 1 == 1;
            self.spec.bridges.iter().position(|b| leads(&b))
        };
        if let Some(over) = self.over {
            let breaks_in = over.yields_to.is_some_and(|cue| winner < cue);
            return if self.done || breaks_in { self.begin(winner) } else { self.go_on() };
        }
        match (self.cue, self.bridge) {
            (None, _) => self.begin(winner),
            (Some(origin), Some((plays, target))) => {
                let next = if cues[target].finish && winner >= target { target } else { winner };
                if self.done {
                    self.begin(next)
                } else if next == target || bridge(origin, next) == Some(plays) {
                    self.bridge = Some((plays, next));
                    self.go_on()
                } else {
                    self.begin(next)
                }
            }
            (Some(cue), None) if winner == cue => {
                let is_fresh = (0..2).any(|pulse| self.fresh[pulse] && self.names(cue, pulse));
                if cues[cue].again && is_fresh { self.begin(cue) } else { self.go_on() }
            }
            (Some(cue), None) if cues[cue].finish && !self.done && winner > cue => self.go_on(),
            (Some(cue), None) => match bridge(cue, winner) {
                None => self.begin(winner),
                Some(nth) => {
                    if self.count() {
                        self.rows.push(Row(self.now, "bridge", nth, 0, 0));
                        self.bridge = Some((nth, winner));
                        self.start(Ok(self.spec.bridges[nth].2), false, false);
                    }
                    true
                }
            },
        }
    }

    /// One more change in this instant, if there may be one.
    fn count(&mut self) -> bool {
        if self.changes == self.spec.cues.len() {
            self.cut = true;
            self.rows.push(Row(self.now, "cut off", 0, 0, 0));
            return false;
        }
        self.changes += 1;
        true
    }

    /// A cue begins, if there may be one more; `true` when it does.
    fn begin(&mut self, cue: usize) -> bool {
        if !self.count() {
            return false;
        }
        self.rows.push(Row(self.now, "cue", cue, 0, 0));
        for pulse in 0..2 {
            if self.names(cue, pulse) {
                self.up_to[pulse] = 0;
            }
        }
        let (new, again) = (&self.spec.cues[cue], self.cue == Some(cue));
        // What has played over the cues is no cue that one follows.
        let at_hold = new.begin.is_some() && new.begin == self.cue && self.over.is_none();
        (self.cue, self.bridge, self.over) = (Some(cue), None, None);
        self.start(new.plays, at_hold, again);
        true
    }

    /// What plays from now on begins.
    fn start(&mut self, plays: Result<usize, bool>, at_hold: bool, again: bool) {
        self.done = false;
        self.begun_facing = self.facing;
        let clip = self.clip_of(plays, self.facing);
        self.player.forget_plan();
        let in_step = self.spec.phases.filter(|_| self.player.clip() < 2 && clip < 2);
        match in_step.filter(|_| !at_hold && !again && !self.player.has_ended()) {
            Some(_) if self.player.clip() == clip && self.player.asked() == clip => {}
            Some(align) => self.player.take_place(clip, align == Align::Hold),
            None => self.player.play(clip),
        }
        // What begins has no turn behind it.
        self.turned = false;
        self.apply_speed();
        self.turned = false;
        if at_hold {
            self.player.seek_hold(0);
        }
    }

    fn clip_of(&self, plays: Result<usize, bool>, facing: Facing) -> usize {
        let near = match facing {
            Facing::Down => SET[0],
            Facing::DownRight | Facing::Right | Facing::UpRight | Facing::Up => SET[1],
            Facing::DownLeft | Facing::Left | Facing::UpLeft => SET[2],
        };
        plays.unwrap_or(near.1)
    }

    /// What plays goes on in its facing and at its speed; `true` when that is another clip.
    fn go_on(&mut self) -> bool {
        let plays = match self.bridge {
            _ if self.over.is_some() => None,
            Some((nth, _)) => Some(Ok(self.spec.bridges[nth].2)),
            None => self.cue.map(|cue| self.spec.cues[cue].plays),
        };
        let before = self.player.clip();
        if let Some(Err(turns)) = plays {
            let facing = if turns { self.facing } else { self.begun_facing };
            let clip = self.clip_of(Err(turns), facing);
            let (playing, asked) = (self.player.clip(), self.player.asked());
            if asked != clip {
                // A chain of it may have gone on to another clip, of the set or not.
                let is_in_set = SET.iter().any(|(_, of_set)| *of_set == playing);
                if playing == asked || is_in_set && playing != clip {
                    self.player.take_place(clip, self.spec.facings == Align::Hold);
                }
                self.player.ask_for(clip);
            }
        }
        self.apply_speed();
        self.player.clip() != before
    }

    /// As fast as the game and the cue's fact say; of two turns in one instant the second waits.
    fn apply_speed(&mut self) {
        let paced = self.cue.filter(|_| self.over.is_none() && self.bridge.is_none());
        let paced = paced.is_some_and(|cue| self.spec.cues[cue].paced);
        let wanted = if paced { self.pace * self.speed / 4 } else { self.speed };
        let turns = (wanted < 0) != (self.player.speed() < 0);
        if turns && self.turned {
            return;
        }
        self.turned |= turns;
        self.player.set_speed(wanted);
    }
}
