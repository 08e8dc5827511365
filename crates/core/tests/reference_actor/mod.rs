//! A naive actor that is walked tick by tick with everything by its name, and random roles for it.

mod spec;

use std::collections::BTreeMap;

use lucky_reel_core::*;

pub(crate) use spec::*;

/// What happened, when, in words.
pub(crate) type Row = (u64, String);

pub(crate) fn reported(reel: &Reel, at: u64, event: Event) -> Row {
    let clip = |clip| reel.clip_name(clip).to_owned();
    let hold = event.hold;
    let words = match event.kind {
        EventKind::Enter(_) => format!("enter {} {hold}", clip(event.clip)),
        EventKind::Mark(mark) => format!("mark {} {hold}", reel.mark_name(mark)),
        EventKind::Cycle => format!("cycle {}", clip(event.clip)),
        EventKind::End => format!("end {}", clip(event.clip)),
        EventKind::Next => format!("next {}", clip(event.clip)),
        EventKind::Cue(cue, _) => format!("cue {}", reel.cue_name(cue)),
        EventKind::Bridge(bridge, _) => format!("bridge {}", reel.bridge_name(bridge)),
        EventKind::CueLoop => "cut off".to_owned(),
        other => format!("{other:?}"),
    };
    (at, words)
}

/// What plays over the cues.
#[derive(Clone, Copy, Default)]
struct Over {
    /// The game has named a clip that follows.
    has_then: bool,
    /// Cues above this one break in.
    yields_to: Option<usize>,
}

/// An actor as the laws tell it, and nothing clever.
pub(crate) struct Naive<'s> {
    reel: &'s Reel,
    spec: &'s Spec,
    player: Option<Player>,
    facts: BTreeMap<&'static str, i32>,
    /// Pulses: up to which tick, and whether anew.
    up_to: BTreeMap<&'static str, u64>,
    fresh: Vec<&'static str>,
    facing: Facing,
    begun_facing: Facing,
    inside: bool,
    changed: bool,
    cue: Option<usize>,
    bridge: Option<(usize, usize)>,
    over: Option<Over>,
    done: bool,
    /// No marks are reported of the hold that it has landed in.
    landed: bool,
    /// Nor that it has entered it.
    goes_on: bool,
    now: u64,
    changes: usize,
    cut: bool,
    pub(crate) rows: Vec<Row>,
}

impl<'s> Naive<'s> {
    pub(crate) fn new(reel: &'s Reel, spec: &'s Spec) -> Naive<'s> {
        Naive {
            reel,
            spec,
            player: None,
            facts: [("a", 0), ("n", 0)].into(),
            up_to: BTreeMap::new(),
            fresh: Vec::new(),
            facing: Facing::Down,
            begun_facing: Facing::Down,
            inside: false,
            changed: true,
            cue: None,
            bridge: None,
            over: None,
            done: false,
            landed: false,
            goes_on: false,
            now: 0,
            changes: 0,
            cut: false,
            rows: Vec::new(),
        }
    }

    pub(crate) fn set(&mut self, fact: &'static str, value: i32) {
        self.changed |= self.facts.insert(fact, value) != Some(value);
    }

    pub(crate) fn pulse(&mut self, fact: &'static str) {
        self.up_to.insert(fact, self.now + if fact == "p" { 1 } else { 3 });
        self.fresh.push(fact);
        self.changed = true;
    }

    pub(crate) fn face(&mut self, facing: Facing) {
        self.changed |= facing != self.facing;
        self.facing = facing;
    }

    /// Plays a clip once over the cues.
    pub(crate) fn play_once(&mut self, clip: usize) {
        let clip = self.clip(clip);
        if let Some(player) = &mut self.player {
            player.play_times(self.reel, clip, 1);
            (self.over, self.bridge) = (Some(Over::default()), None);
            (self.done, self.landed, self.changed) = (false, false, true);
            self.goes_on = false;
        }
    }

    /// Names the clip that follows what plays.
    pub(crate) fn then(&mut self, clip: usize) {
        let clip = self.clip(clip);
        let named = self.player.as_mut().is_some_and(|player| player.then(self.reel, clip));
        if let (Some(over), true) = (&mut self.over, named) {
            over.has_then = true;
        }
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

    fn clip(&self, nth: usize) -> ClipId {
        self.reel.clip_id(&format!("c{nth}")).unwrap()
    }

    fn is_up(&self, pulse: &str) -> bool {
        self.up_to.get(pulse).is_some_and(|end| self.now < *end)
    }

    fn holds(&self, cond: &Cond) -> bool {
        match *cond {
            Cond::A(value) => (self.facts["a"] == 1) == value,
            Cond::Above(number) => self.facts["n"] > number,
            Cond::Below(number) => self.facts["n"] < number,
            Cond::P => self.is_up("p"),
            Cond::Q => self.is_up("q"),
            Cond::Inside => self.inside,
            Cond::Facing(facing) => self.facing == facing,
        }
    }

    fn names(&self, cue: usize, pulse: &str) -> bool {
        let conds = self.spec.cues[cue].when.iter().flatten();
        conds.into_iter().any(|cond| matches!((cond, pulse), (Cond::P, "p") | (Cond::Q, "q")))
    }

    fn inside_now(&self) -> bool {
        let span = self.reel.span_id("s").unwrap();
        let named = self.spec.cues.iter().flat_map(|cue| cue.when.iter().flatten());
        let named = named.into_iter().any(|cond| matches!(cond, Cond::Inside));
        named && self.player.is_some_and(|player| player.in_span(self.reel, span))
    }

    /// One tick: its first moment, and its end.
    pub(crate) fn tick(&mut self) {
        if self.changed {
            // What the game tells is looked at in any case.
            (self.changes, self.cut) = (0, false);
        }
        self.look_while_owed(false);
        loop {
            let before = self.player.unwrap();
            let mut after = before;
            let events: Vec<Event> = after.advance(self.reel, Ticks::new(1)).collect();
            let (mut first, last): (Vec<Event>, _) =
                events.iter().partition(|event| event.at.is_zero());
            if std::mem::take(&mut self.landed) {
                first.retain(|event| event.mark().is_none());
            }
            if std::mem::take(&mut self.goes_on) {
                first.retain(|event| !event.is_enter());
            }
            let mut departed = before;
            if is_fresh(before) {
                departed.seek_hold(self.reel, 0);
            }
            if self.take_in_all(&first, departed) {
                continue; // what has taken over plays the tick
            }
            self.now += 1;
            (self.changes, self.cut) = (0, false);
            self.take_in_all(&last, after);
            return;
        }
    }

    /// The events of one moment, after which the player stands so; `true` when something took over.
    fn take_in_all(&mut self, events: &[Event], player: Player) -> bool {
        for (nth, event) in events.iter().enumerate() {
            self.player = Some(player);
            let is_mark = event.mark().is_some();
            self.rows.push(reported(self.reel, self.now, *event));
            self.take_in(*event);
            let next = events.get(nth + 1);
            if event.is_end() && self.over.is_some() && !self.done {
                // What the game has named to follow belongs to it.
                continue;
            }
            if event.is_end() {
                // At its end it still stands in its own clip.
                if next.is_some_and(|next| next.kind == EventKind::Next) {
                    let mut ended = Player::new(self.reel, event.clip);
                    ended.seek_hold(self.reel, event.hold);
                    self.player = Some(ended);
                }
                if self.look_while_owed(true) {
                    return true;
                }
            } else if is_mark || event.is_enter() {
                if next.is_some_and(|next| next.mark().is_some()) {
                    continue;
                }
                if self.look_while_owed(false) {
                    return true;
                }
            }
        }
        self.player = Some(player);
        false
    }

    fn take_in(&mut self, event: Event) {
        match event.kind {
            EventKind::Mark(mark) => match self.reel.mark_name(mark) {
                "a-on" => self.set("a", 1),
                "a-off" => self.set("a", 0),
                "n-one" => self.set("n", 1),
                "n-two" => self.set("n", 2),
                _ => self.pulse("p"),
            },
            EventKind::End => match &mut self.over {
                Some(over) => self.done |= !std::mem::take(&mut over.has_then),
                None => self.done |= self.player.unwrap().requested_clip() == event.clip,
            },
            _ => {}
        }
    }

    /// Looks as often as something calls for it; `true` when what plays has changed.
    fn look_while_owed(&mut self, mut owed: bool) -> bool {
        let before = self.player;
        owed |= self.changed || self.inside_now() != self.inside;
        while owed && !self.cut {
            self.inside = self.inside_now();
            self.changed = false;
            self.look();
            self.fresh.clear();
            owed = self.inside_now() != self.inside;
        }
        if self.cut {
            // No look is owed any more.
            (self.changed, self.inside) = (false, self.inside_now());
            self.fresh.clear();
        }
        self.player != before
    }

    fn look(&mut self) {
        let cues = &self.spec.cues;
        let wins = |cue: &CueSpec| {
            cue.when.is_empty() || cue.when.iter().any(|all| all.iter().all(|c| self.holds(c)))
        };
        let winner = cues.iter().position(wins).unwrap();
        let bridge = |from: usize, to: usize| {
            let leads = |b: &&(u8, u8, usize)| b.0 >> from & 1 == 1 && b.1 >> to & 1 == 1;
            self.spec.bridges.iter().position(|b| leads(&b))
        };
        if let Some(over) = self.over {
            if self.done || over.yields_to.is_some_and(|cue| winner < cue) {
                self.begin(winner);
            }
            return;
        }
        match (self.cue, self.bridge) {
            (None, _) => self.begin(winner),
            (Some(origin), Some((plays, target))) => {
                let next = if cues[target].finish && winner >= target { target } else { winner };
                if self.done {
                    self.begin(next);
                } else if next == target {
                    self.turn();
                } else if bridge(origin, next) == Some(plays) {
                    self.bridge = Some((plays, next));
                    self.turn();
                } else {
                    self.begin(next);
                }
            }
            (Some(cue), None) if winner == cue => {
                let fresh = self.fresh.iter().any(|pulse| self.names(cue, pulse));
                if cues[cue].again && fresh { self.begin(cue) } else { self.turn() }
            }
            (Some(cue), None) => {
                if cues[cue].finish && !self.done && winner > cue {
                    self.turn();
                } else if let Some(nth) = bridge(cue, winner) {
                    if self.count() {
                        self.rows.push((self.now, format!("bridge b{nth}")));
                        self.bridge = Some((nth, winner));
                        self.start(Ok(self.spec.bridges[nth].2), false, false, false);
                    }
                } else {
                    self.begin(winner);
                }
            }
        }
    }

    /// One more change in this instant, if there may be one.
    fn count(&mut self) -> bool {
        if self.changes == self.spec.cues.len() {
            self.cut = true;
            self.rows.push((self.now, "cut off".to_owned()));
            return false;
        }
        self.changes += 1;
        true
    }

    fn begin(&mut self, cue: usize) {
        if !self.count() {
            return;
        }
        self.rows.push((self.now, format!("cue k{cue}")));
        for pulse in ["p", "q"] {
            if self.names(cue, pulse) {
                self.up_to.remove(pulse);
            }
        }
        let (new, again) = (&self.spec.cues[cue], self.cue == Some(cue));
        // What has played over the cues is no cue that one follows.
        let was_over = self.over.is_some();
        let at_hold = new.begin.is_some() && new.begin == self.cue && self.over.is_none();
        (self.cue, self.bridge, self.over) = (Some(cue), None, None);
        self.start(new.plays, at_hold, again, was_over);
    }

    fn start(&mut self, plays: Result<usize, bool>, at_hold: bool, again: bool, was_over: bool) {
        self.done = false;
        self.begun_facing = self.facing;
        let clip = plays.map_or_else(|_| self.clip_facing(self.facing), |clip| self.clip(clip));
        let legs = [self.clip(0), self.clip(1)];
        let mut player = self.player.unwrap_or_else(|| Player::new(self.reel, clip));
        let in_step = legs.contains(&player.clip()) && legs.contains(&clip);
        if in_step && !at_hold && !again && self.player.is_some() && !player.has_ended() {
            let goes_on = player.requested_clip() == clip && player.clip() == clip;
            if !goes_on || was_over {
                // Also what goes on in the same clip is not played once any more.
                self.land(clip);
                self.goes_on = goes_on && !is_fresh(player);
            }
            return;
        }
        player.play(self.reel, clip);
        (self.landed, self.goes_on) = (false, false);
        if at_hold {
            player.seek_hold(self.reel, 0);
        }
        self.player = Some(player);
    }

    fn clip_facing(&self, facing: Facing) -> ClipId {
        let near = match facing {
            Facing::Down => SET[0],
            Facing::DownRight | Facing::Right | Facing::UpRight | Facing::Up => SET[1],
            Facing::DownLeft | Facing::Left | Facing::UpLeft => SET[2],
        };
        let name = match near {
            Facing::Down => "c2",
            Facing::Right => "c3",
            _ => "f-left",
        };
        self.reel.clip_id(name).unwrap()
    }

    /// What plays goes on in its facing.
    fn turn(&mut self) {
        let plays = match self.bridge {
            Some((nth, _)) => Ok(self.spec.bridges[nth].2),
            None => self.spec.cues[self.cue.unwrap()].plays,
        };
        if let Err(turns) = plays {
            let clip = self.clip_facing(if turns { self.facing } else { self.begun_facing });
            if self.player.unwrap().requested_clip() != clip {
                self.land(clip);
            }
        }
    }

    /// In the same place of another clip, as long as the one that plays.
    fn land(&mut self, clip: ClipId) {
        let mut player = self.player.unwrap();
        let fresh = is_fresh(player);
        let place = (player.progress(self.reel) * 8.0).round() as u64;
        player.play(self.reel, clip);
        if !fresh {
            player.seek(self.reel, Ticks::new(place));
            self.landed = true;
        }
        self.player = Some(player);
    }
}

/// Asked to play, and not begun.
fn is_fresh(player: Player) -> bool {
    format!("{player:?}").contains("Pending")
}
