//! Random roles, and a naive actor that is walked tick by tick with everything by its name.

use std::collections::BTreeMap;

use lucky_reel_core::*;
use proptest::collection::vec;
use proptest::prelude::*;

/// What a mark sets: its name says it.
pub(crate) const MARKS: [&str; 9] = [
    "a-on",
    "a-off",
    "n-one",
    "n-two",
    "p-set",
    "pace-back",
    "pace-none",
    "pace-twice",
    "pace-zero",
];
/// The first so many of them set facts that the naive actor has, too.
const PLAIN_MARKS: usize = 5;
/// Down, right, and right in a mirror.
pub(crate) const SET: [Facing; 3] = [Facing::Down, Facing::Right, Facing::Left];

#[derive(Clone, Debug)]
pub(crate) struct ClipSpec {
    pub(crate) ticks: Vec<u64>,
    pub(crate) once: bool,
    pub(crate) next: Option<usize>,
    /// By hold, which of [`MARKS`].
    pub(crate) marks: Vec<Vec<usize>>,
    pub(crate) span: Option<(u32, u32)>,
}

#[derive(Clone, Debug)]
pub(crate) enum Cond {
    A(bool),
    Above(i32),
    Below(i32),
    P,
    Q,
    Inside,
    Facing(Facing),
}

#[derive(Clone, Debug)]
pub(crate) struct CueSpec {
    pub(crate) when: Vec<Vec<Cond>>,
    /// A clip, or the facing set and whether it turns.
    pub(crate) plays: Result<usize, bool>,
    pub(crate) finish: bool,
    pub(crate) again: bool,
    pub(crate) begin: Option<usize>,
    /// As fast as a fact says; the naive actor has no such fact.
    pub(crate) paced: bool,
}

/// Clips 0 and 1 are in step, clips 2 and 3 are the facing set; those four are endless loops of eight
/// ticks. The clips that follow are of any kind.
#[derive(Clone, Debug)]
pub(crate) struct Spec {
    pub(crate) clips: Vec<ClipSpec>,
    pub(crate) cues: Vec<CueSpec>,
    /// Cues from, cues to, by bits, and a finite clip.
    pub(crate) bridges: Vec<(u8, u8, usize)>,
}

pub(crate) const CLIPS: usize = 8;

fn clip(endless: bool, kinds: usize) -> impl Strategy<Value = ClipSpec> {
    let ticks = if endless {
        (1_u64..4, 1_u64..4).prop_map(|(a, b)| vec![a, b, 8 - a - b]).boxed()
    } else {
        vec(1_u64..5, 1..4).boxed()
    };
    let marked = vec(prop_oneof![3 => Just(vec![]), 1 => vec(0..kinds, 1..3)], 3);
    // Some clips can change nothing.
    let marks = prop_oneof![3 => marked, 2 => Just(vec![vec![]; 3])];
    let next = proptest::option::weighted(0.3, 4..CLIPS);
    let span = proptest::option::of((0_u32..3, 0_u32..3));
    (ticks, any::<bool>(), next, marks, span).prop_map(
        move |(ticks, once, next, mut marks, span)| {
            let last = ticks.len() as u32 - 1;
            marks.truncate(ticks.len());
            let span = span.map(|(a, b)| (a.min(b).min(last), a.max(b).min(last)));
            let once = once && !endless;
            ClipSpec { ticks, once, next: next.filter(|_| once), marks, span }
        },
    )
}

fn cond() -> impl Strategy<Value = Cond> {
    prop_oneof![
        any::<bool>().prop_map(Cond::A),
        (0_i32..3).prop_map(Cond::Above),
        (0_i32..3).prop_map(Cond::Below),
        Just(Cond::P),
        Just(Cond::Q),
        Just(Cond::Inside),
        (0_usize..8).prop_map(|nth| Cond::Facing(Facing::ALL[nth])),
    ]
}

/// A role that the naive actor can play.
pub(crate) fn spec() -> impl Strategy<Value = Spec> {
    spec_with_marks(PLAIN_MARKS)
}

/// A role whose marks may also set how fast its cues play.
pub(crate) fn paced_spec() -> impl Strategy<Value = Spec> {
    spec_with_marks(MARKS.len())
}

fn spec_with_marks(kinds: usize) -> impl Strategy<Value = Spec> {
    let clips = (vec(clip(true, kinds), 4), vec(clip(false, kinds), 4));
    let clips = clips.prop_map(|(endless, any)| [endless, any].concat());
    let plays = prop_oneof![3 => (0..CLIPS).prop_map(Ok), 1 => any::<bool>().prop_map(Err)];
    let when = vec(vec(cond(), 1..3), 1..3);
    let begin = proptest::option::weighted(0.3, 0_usize..4);
    let cue = (when, plays, any::<[bool; 3]>(), begin);
    let cue = cue.prop_map(|(when, plays, [finish, again, paced], begin)| CueSpec {
        when,
        plays,
        finish,
        again,
        begin,
        paced,
    });
    let bridge = (1_u8..16, 1_u8..16, 4..CLIPS);
    (clips, vec(cue, 2..5), vec(bridge, 0..3)).prop_map(|(clips, mut cues, mut bridges)| {
        let once = |clip: usize| clips[clip].once;
        let count = cues.len();
        for cue in &mut cues {
            cue.finish &= cue.plays.is_ok_and(once);
            cue.begin = cue.begin.filter(|from| *from < count);
        }
        cues[count - 1].when.clear();
        let known = (1 << count) - 1;
        bridges.retain(|(from, to, clip)| from & known > 0 && to & known > 0 && once(*clip));
        Spec { clips, cues, bridges }
    })
}

impl Spec {
    pub(crate) fn build(&self) -> Reel {
        self.build_into(Reel::builder())
    }

    /// The same as a version of the reel that the builder is for.
    pub(crate) fn build_into(&self, mut builder: ReelBuilder) -> Reel {
        let sheet = builder.sheet("s", NewSheet::grid([64, 8], Grid::cell_size([8, 8])));
        for (nth, clip) in self.clips.iter().enumerate() {
            let mut new = NewClip::of(sheet);
            for (frame, ticks) in clip.ticks.iter().enumerate() {
                new = new.hold(frame as u32, Ticks::new(*ticks));
            }
            for (nth, mark) in MARKS.iter().enumerate() {
                let marked = |hold: &u32| clip.marks[*hold as usize].contains(&nth);
                let holds: Vec<u32> = (0..clip.ticks.len() as u32).filter(marked).collect();
                new = new.mark(*mark, holds);
                new = match *mark {
                    "a-on" => new.mark_sets(*mark, "a", true),
                    "a-off" => new.mark_sets(*mark, "a", false),
                    "n-one" => new.mark_sets(*mark, "n", 1),
                    "n-two" => new.mark_sets(*mark, "n", 2),
                    "pace-back" => new.mark_sets(*mark, "pace", -1.0),
                    "pace-none" => new.mark_sets(*mark, "pace", 0.0),
                    "pace-twice" => new.mark_sets(*mark, "pace", 2.0),
                    "pace-zero" => new.mark_sets(*mark, "pace", -0.0),
                    _ => new.mark_sets(*mark, "p", true),
                };
            }
            if let Some((from, to)) = clip.span {
                new = new.span("s", from..=to);
            }
            if clip.once {
                new = new.mode(Mode::Once);
            }
            if let Some(next) = clip.next {
                new = new.then_play(format!("c{next}"));
            }
            builder.clip(format!("c{nth}"), new);
        }
        // So that the span is known to every role.
        builder.clip("spare", NewClip::of(sheet).frames([0]).fps(1).span("s", 0..=0));
        let set = NewFacings::new().clip(Facing::Down, "c2").clip(Facing::Right, "c3");
        builder.facings("f", set.mirror(Facing::Left, Facing::Right));
        builder.fact("a", false);
        builder.fact("n", 0);
        builder.fact("pace", 1.0);
        builder.fact("p", NewFact::pulse());
        builder.fact("q", NewFact::pulse_for(Ticks::new(3)));
        for (nth, cue) in self.cues.iter().enumerate() {
            let mut new = match cue.plays {
                Ok(clip) => NewCue::play(format!("c{clip}")),
                Err(true) => NewCue::play_facings("f"),
                Err(false) => NewCue::play_facings("f").keep_facing(),
            };
            for all in &cue.when {
                let when = all.iter().fold(Condition::all([]), |when, cond| match *cond {
                    Cond::A(value) => when.and("a", value),
                    Cond::Above(number) => when.and_above("n", f64::from(number)),
                    Cond::Below(number) => when.and_below("n", f64::from(number)),
                    Cond::P => when.and("p", true),
                    Cond::Q => when.and("q", true),
                    Cond::Inside => when.and_inside("s"),
                    Cond::Facing(facing) => when.and_facing([facing]),
                });
                new = new.when(when);
            }
            if cue.finish {
                new = new.finish();
            }
            if cue.paced {
                new = new.speed_from("pace");
            }
            if cue.again {
                new = new.restart();
            }
            if let Some(from) = cue.begin {
                new = new.start_at(format!("k{from}"), 0);
            }
            builder.cue(format!("k{nth}"), new);
        }
        for (nth, (from, to, clip)) in self.bridges.iter().enumerate() {
            let cues = |bits: u8| -> Vec<String> {
                let named = (0..self.cues.len()).filter(|nth| bits >> nth & 1 == 1);
                named.map(|nth| format!("k{nth}")).collect()
            };
            let new = NewBridge::play(format!("c{clip}")).between(cues(*from), cues(*to));
            builder.bridge(format!("b{nth}"), new);
        }
        builder.phases("legs", NewPhases::of(["c0", "c1"]));
        builder.build().unwrap()
    }
}

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
