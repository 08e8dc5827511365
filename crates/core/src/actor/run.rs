//! One advance of an actor, from moment to moment.

use super::evaluate::Evaluation;
use super::repeat::Repeat;
use super::state::{Actor, DIRTY, LOOPED};
use crate::cue::{MAX_FACTS, RoleData};
use crate::event::{CueCause, Event, EventKind, serial};
use crate::ids::NONE;
use crate::play::{Drive, Plan, Player, Walk};
use crate::reel::Reel;
use crate::time::Ticks;

/// An advance of an actor on its way. It is walked once to learn the new state, and once more to list
/// what happened, when that is read.
#[derive(Clone)]
pub(super) struct ActorRun<'r> {
    pub(super) reel: &'r Reel,
    pub(super) role: &'r RoleData,
    pub(super) actor: Actor,
    dt: u64,
    /// The moment that has been reached.
    pub(super) now: u64,
    pub(super) segment: Option<Segment>,
    /// The spans that cues name in which the last evaluation has seen it, by their bits.
    pub(super) watched: u32,
    /// What calls for an evaluation at this moment.
    pub(super) evaluate: Option<CueCause>,
    /// The segment ends at this moment: the speed changes.
    pub(super) ends_at: Option<u64>,
    /// A pulse has fallen, or nearly, since that was asked last.
    pulse_fell: bool,
    over: bool,
}

/// What plays, since it last began or changed its speed.
#[derive(Clone)]
pub(super) struct Segment {
    from: u64,
    pub(super) start: Player,
    /// `None` where it does not move.
    pub(super) walk: Option<Walk>,
    /// What the game wanted of the play that the last boundary has left.
    pub(super) left_plan: Plan,
}

impl<'r> ActorRun<'r> {
    /// `None` where nothing happens: no time passes, or the reel is a foreign one.
    pub(super) fn new(reel: &'r Reel, mut actor: Actor, dt: Ticks) -> Option<ActorRun<'r>> {
        let role = actor.rebind(reel).filter(|_| dt != Ticks::ZERO)?;
        for slot in 0..MAX_FACTS {
            if actor.fresh & 1 << slot != 0 {
                actor.facts[slot] =
                    role.facts.get(slot).and_then(Option::as_ref).map_or(1, |fact| fact.duration);
            }
        }
        if actor.has(DIRTY) {
            // What the game sets is evaluated in any case.
            actor.begin_instant();
        }
        let first = if actor.cue == NONE { CueCause::Start } else { CueCause::Facts };
        let evaluate = (actor.has(DIRTY) && !actor.has(LOOPED)).then_some(first);
        let (dt, now, over, segment, ends_at) = (dt.get(), 0, false, None, None);
        // Whatever the game does that leads into a span or out of one is a change.
        let watched = actor.inside(reel);
        let pulse_fell = false;
        Some(ActorRun {
            reel,
            role,
            actor,
            dt,
            now,
            segment,
            watched,
            evaluate,
            ends_at,
            pulse_fell,
            over,
        })
    }

    /// Whether something has changed since the last evaluation.
    pub(super) fn needs_evaluation(&self) -> bool {
        let actor = &self.actor;
        !actor.has(LOOPED) && (actor.has(DIRTY) || actor.inside(self.reel) != self.watched)
    }

    /// Whatever has changed calls for no evaluation.
    pub(super) fn settle(&mut self) {
        self.actor.set_flag(DIRTY, false);
        self.actor.fresh = 0;
        self.watched = self.actor.inside(self.reel);
    }

    /// The actor at the end of the advance. The work is bounded by what happens until it repeats, however
    /// long the advance is.
    pub(super) fn into_end(mut self) -> Actor {
        let mut repeat = Some(Repeat::default());
        while self.step(&mut repeat).is_some() {}
        self.actor
    }

    pub(super) fn next(&mut self) -> Option<Event> {
        self.step(&mut None)
    }

    /// The next event; with a `repeat` only the state at the end is wanted, and what repeats is skipped.
    fn step(&mut self, repeat: &mut Option<Repeat>) -> Option<Event> {
        while !self.over {
            let event = match self.evaluate.take() {
                Some(cause) => self.evaluate(cause, repeat),
                None => self.play_on(repeat),
            };
            if event.is_some() {
                return event;
            }
        }
        None
    }

    /// Evaluates once; a change may call for another evaluation in the same instant.
    fn evaluate(&mut self, cause: CueCause, repeat: &mut Option<Repeat>) -> Option<Event> {
        self.watched = self.actor.inside(self.reel);
        let before = self.actor;
        let evaluation = self.actor.evaluate(self.reel, self.role);
        if evaluation == Evaluation::CueLoop {
            self.settle();
            return self.event_of(evaluation, cause);
        }
        let player = &self.actor.player;
        if evaluation != Evaluation::Nothing || player.clip != before.player.clip {
            // What was left of this tick is dropped.
            (self.segment, self.ends_at) = (None, None);
            // Of one endless play in the place of another the count goes on.
            let goes_on = before.goes_round(self.reel) && self.actor.goes_round(self.reel);
            if let (Some(repeat), false) = (repeat, goes_on) {
                repeat.count_anew();
            }
        } else {
            if let Some(segment) = &mut self.segment {
                // A facing may have turned what was asked for, while its chain plays on.
                segment.start.requested = player.requested;
            }
            self.end_segment_if_speed_changed();
        }
        if self.needs_evaluation() {
            self.evaluate = Some(CueCause::Span);
        }
        self.event_of(evaluation, cause)
    }

    fn event_of(&self, evaluation: Evaluation, cause: CueCause) -> Option<Event> {
        let (kind, id, number) = match evaluation {
            Evaluation::Nothing => return None,
            Evaluation::Cue(cue) => (EventKind::Cue(cue, cause), cue.number, 0),
            Evaluation::Bridge(bridge) => (EventKind::Bridge(bridge, cause), bridge.number, 1),
            Evaluation::CueLoop => (EventKind::CueLoop, 0, 2),
        };
        let player = &self.actor.player;
        let serial = serial(player.plays, i32::from(id), 0, 6, number);
        let (at, clip) = (Ticks::new(self.now), player.clip());
        Some(Event { at, clip, hold: 0, cycle: 0, serial, kind })
    }

    /// The next thing that what plays does; `None` when there is more to look at first.
    fn play_on(&mut self, repeat: &mut Option<Repeat>) -> Option<Event> {
        if let Some(repeat) = repeat {
            self.skip(repeat);
        }
        if self.segment.is_none() {
            self.begin_segment(repeat);
        }
        let segment = self.segment.as_mut()?;
        let from = segment.from;
        let at = segment.walk.as_ref().and_then(|walk| match walk.boundary.is_done() {
            true => walk.next_at(),
            false => Some(walk.at),
        });
        let at = at.map(|at| from + at);
        if let Some(end) = self.ends_at.filter(|end| at.is_none_or(|at| at > *end)) {
            self.end_segment(end);
            return None;
        }
        let (Some(at), Some(walk)) = (at, &mut segment.walk) else {
            self.finish();
            return None;
        };
        if walk.boundary.is_done() {
            segment.left_plan = walk.plan();
            walk.cross(self.reel)?;
        }
        let event = walk.boundary.next(self.reel.clip_list(), Ticks::new(at));
        self.pass(at);
        if let Some(event) = event {
            self.take_in(event.kind, event.clip, repeat);
        }
        event
    }

    /// Begins what plays from now on.
    fn begin_segment(&mut self, repeat: &mut Option<Repeat>) {
        if let Some(repeat) = repeat {
            repeat.begin_segment();
        }
        let (from, start) = (self.now, self.actor.player);
        let left = Drive::Time(Ticks::new(self.dt - from));
        let mut begun = start;
        let walk = begun.begin_walk(self.reel, left).map(|(walk, ..)| walk);
        self.segment = Some(Segment { from, start, walk, left_plan: Plan::NONE });
    }

    /// Where the actor is as it was before, all that happened since happens again: that is skipped, as often
    /// as it fits before the end. The last tick is played: what begins at its end belongs to the next advance.
    fn skip(&mut self, repeat: &mut Repeat) {
        let Some(segment) = &mut self.segment else {
            let Some(again) = repeat.round(self.reel, &self.actor, self.now) else { return };
            let ticks = (self.now - again.at).max(1);
            let times = ((self.dt - self.now).saturating_sub(1) / ticks).min(again.most);
            self.now += times * ticks;
            return self.actor.count(again, times);
        };
        let Some(walk) = segment.walk.as_mut().filter(|walk| walk.boundary.is_done()) else {
            return;
        };
        if core::mem::take(&mut self.pulse_fell) {
            // When a pulse falls depends on where ticks begin, so what repeats is looked for on a whole one.
            repeat.begin_segment();
            self.ends_at = Some(self.now);
        }
        // A pulse that never falls, as it is set anew in time, is up as long as it is anywhere.
        let just_set = |slot: usize, left: u32| {
            let fact = self.role.facts.get(slot).and_then(Option::as_ref);
            fact.is_some_and(|fact| fact.duration == left)
        };
        if self.ends_at.is_some() || !self.actor.is_at_rest_but_for(just_set) {
            return;
        }
        let slack = walk.slack();
        let Some(again) = repeat.lap(self.reel, &self.actor, self.now, slack) else { return };
        let times = walk.skip([again.at - segment.from, u64::from(again.slack)], again.most);
        self.now = segment.from + walk.at;
        self.actor.count(again, times);
        walk.count(&self.actor.player);
    }

    pub(super) fn end_segment_if_speed_changed(&mut self) {
        let start = self.segment.as_ref().map(|segment| segment.start.speed());
        if start.is_some_and(|speed| speed != self.actor.player.speed()) {
            self.ends_at = Some(self.now);
        }
    }

    /// Ends the segment at a moment at which the speed changes: all that the tick holds is played.
    fn end_segment(&mut self, end: u64) {
        self.ends_at = None;
        let Some(segment) = self.segment.take() else { return };
        let speed = self.actor.player.speed();
        self.actor.player = match segment.walk.filter(Walk::is_at_first_moment) {
            Some(walk) => walk.player(&segment.start),
            None => {
                let mut player = segment.start;
                player.advance_by(self.reel, Drive::Time(Ticks::new(end - segment.from)));
                player
            }
        };
        self.actor.player.set_speed(speed);
    }

    fn finish(&mut self) {
        if let Some(segment) = self.segment.take() {
            let left = Ticks::new(self.dt - segment.from);
            self.actor.player = segment.start;
            self.actor.player.advance_by(self.reel, Drive::Time(left));
        }
        self.pass(self.dt);
        self.over = true;
    }

    /// Time passes up to a moment: pulses fall, and a new instant begins.
    fn pass(&mut self, moment: u64) {
        let time = moment - self.now;
        if time == 0 {
            return;
        }
        self.now = moment;
        let actor = &mut self.actor;
        actor.begin_instant();
        let mut up = actor.pulses;
        while up != 0 {
            let slot = up.trailing_zeros() as usize;
            up &= up - 1;
            actor.facts[slot] = u64::from(actor.facts[slot]).saturating_sub(time) as u32;
            // One tick more or less is a matter of rounding.
            self.pulse_fell |= actor.facts[slot] < 2;
            if actor.facts[slot] == 0 {
                actor.pulses &= !(1 << slot);
            }
        }
    }
}
