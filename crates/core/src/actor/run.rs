//! One advance of an actor, from moment to moment.

use super::evaluate::Evaluation;
use super::repeat::Repeat;
use super::state::{Actor, DIRTY, DONE, LOOPED, OWES_TURN};
use crate::cue::{FactKind, MOST_FACTS, RoleData};
use crate::event::{Cause, Event, EventKind, serial};
use crate::ids::{ClipId, MarkId, NONE};
use crate::play::{Drive, Player, Walk};
use crate::reel::Reel;
use crate::time::Ticks;

/// An advance of an actor on its way. It is walked once to learn the new state, and once more to list
/// what happened, when that is read.
#[derive(Clone)]
pub(super) struct ActorRun<'r> {
    reel: &'r Reel,
    role: &'r RoleData,
    actor: Actor,
    dt: u64,
    /// The moment that has been reached.
    now: u64,
    segment: Option<Segment>,
    /// What calls for an evaluation at this moment.
    evaluate: Option<Cause>,
    /// The segment ends at this moment: the speed changes.
    ends_at: Option<u64>,
    over: bool,
}

/// What plays, since it last began or changed its speed.
#[derive(Clone)]
struct Segment {
    from: u64,
    start: Player,
    /// `None` where it does not move.
    walk: Option<Walk>,
    /// The play that the last boundary has left had been given a clip to follow it.
    had_then: bool,
}

impl<'r> ActorRun<'r> {
    /// `None` where nothing happens: no time passes, or the reel is a foreign one.
    pub(super) fn new(reel: &'r Reel, mut actor: Actor, dt: Ticks) -> Option<ActorRun<'r>> {
        let role = actor.rebind(reel).filter(|_| !dt.is_zero())?;
        for slot in 0..MOST_FACTS {
            if actor.fresh & 1 << slot != 0 {
                actor.facts[slot] =
                    role.facts.get(slot).and_then(Option::as_ref).map_or(1, |fact| fact.duration);
            }
        }
        if actor.has(DIRTY) {
            // What the game sets is evaluated in any case.
            actor.begin_instant();
        }
        let first = if actor.cue == NONE { Cause::Start } else { Cause::Facts };
        let evaluate = actor.needs_evaluation(reel).then_some(first);
        let (dt, now, over, segment, ends_at) = (dt.get(), 0, false, None, None);
        Some(ActorRun { reel, role, actor, dt, now, segment, evaluate, ends_at, over })
    }

    /// The actor at the end of the advance. The work is bounded by what happens until the whole state
    /// of the actor repeats, however long the advance is.
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
                Some(cause) => self.evaluate(cause),
                None => self.play_on(repeat),
            };
            if event.is_some() {
                return event;
            }
        }
        None
    }

    /// Evaluates once; a change may call for another evaluation in the same instant.
    fn evaluate(&mut self, cause: Cause) -> Option<Event> {
        let clip = self.actor.player.clip;
        let evaluation = self.actor.evaluate(self.reel, self.role);
        if evaluation == Evaluation::CueLoop {
            return self.event_of(evaluation, cause);
        }
        if evaluation != Evaluation::Nothing || self.actor.player.clip != clip {
            // What was left of this tick is dropped.
            (self.segment, self.ends_at) = (None, None);
        } else {
            self.end_segment_if_speed_changed();
        }
        if self.actor.needs_evaluation(self.reel) {
            self.evaluate = Some(Cause::Span);
        }
        self.event_of(evaluation, cause)
    }

    fn event_of(&self, evaluation: Evaluation, cause: Cause) -> Option<Event> {
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
        if self.segment.is_none() && self.begin_segment(repeat).is_none() {
            return None;
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
            segment.had_then = walk.has_then();
            walk.cross(self.reel)?;
        }
        let event = walk.boundary.next(self.reel.clip_list());
        self.pass(at);
        if let Some(event) = event {
            self.take_in(event.kind, event.clip, repeat.is_some());
        }
        event.map(|event| event.with_at(Ticks::new(at)))
    }

    /// Begins what plays from now on; `None` where it was skipped instead.
    fn begin_segment(&mut self, repeat: &mut Option<Repeat>) -> Option<()> {
        if let Some(repeat) = repeat
            && (self.skip_repeated(repeat) || self.skip_quiet_time())
        {
            return None;
        }
        let (from, start) = (self.now, self.actor.player);
        let left = Drive::Time(Ticks::new(self.dt - from));
        let mut begun = start;
        let walk = begun.begin_walk(self.reel, left).map(|(walk, ..)| walk);
        self.segment = Some(Segment { from, start, walk, had_then: false });
        Some(())
    }

    /// Where the actor is as it was before, all that happened since happens again and again.
    fn skip_repeated(&mut self, repeat: &mut Repeat) -> bool {
        let skipped = repeat.skip(self.reel, &mut self.actor, self.now, self.dt);
        self.now += skipped;
        skipped > 0
    }

    /// Where nothing can happen before the clip ends, time passes at once.
    fn skip_quiet_time(&mut self) -> bool {
        let player = &self.actor.player;
        let affects = self.reel.clip_at(player.clip).is_none_or(|clip| clip.affects_cues());
        if affects || player.is_paused() || self.actor.has(OWES_TURN) {
            return false;
        }
        let left = self.dt - self.now;
        let to_end = player.remaining(self.reel).filter(|_| !player.has_ended());
        let time = to_end.map_or(left, |end| end.get().saturating_sub(1).min(left));
        if time > 0 {
            self.actor.player.advance_by(self.reel, Drive::Time(Ticks::new(time)));
            self.pass(self.now + time);
        }
        time > 0
    }

    fn end_segment_if_speed_changed(&mut self) {
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
            if actor.facts[slot] == 0 {
                actor.pulses &= !(1 << slot);
            }
        }
    }

    /// What an event means for the cues.
    fn take_in(&mut self, kind: EventKind, clip: ClipId, silent: bool) {
        if let EventKind::Mark(mark) = kind {
            self.take_in_mark(clip, mark);
        }
        let Some(Segment { start, walk: Some(walk), had_then, .. }) = &self.segment else { return };
        let ended = kind == EventKind::End;
        if !ended && !walk.boundary.is_done() {
            return;
        }
        // What the game has named to follow belongs to what is played over the cues.
        let over_cues = self.actor.plays_over_cues();
        let is_done = if over_cues { !*had_then } else { clip == start.requested_clip() };
        let is_on_tick = walk.is_on_step();
        self.actor.player =
            if ended { walk.player_at_end(self.reel, start) } else { walk.player(start) };
        self.actor.apply_speed_of(self.reel, self.role);
        self.end_segment_if_speed_changed();
        if ended {
            if is_done {
                self.actor.set_flag(DONE, true);
            }
            if silent {
                self.ends_at = Some(self.now);
            }
            let waits = over_cues && !is_done;
            self.evaluate = (!self.actor.has(LOOPED) && !waits).then_some(Cause::End);
            return;
        }
        if self.actor.has(LOOPED) {
            self.actor.clear_dirty(self.reel);
        } else if self.actor.needs_evaluation(self.reel) {
            let by_mark = self.actor.has(DIRTY);
            self.evaluate = Some(if by_mark { Cause::Mark } else { Cause::Span });
        }
        if silent && is_on_tick && self.evaluate.is_none() && self.ends_at.is_none() {
            // A whole tick is where it is seen whether the state repeats.
            self.segment = None;
        }
    }

    fn take_in_mark(&mut self, clip: ClipId, mark: MarkId) {
        let Some(clip) = self.reel.clip_data(clip) else { return };
        for &(_, slot, bits) in clip.sets.iter().filter(|(known, ..)| *known == mark) {
            let at = usize::from(slot);
            let fact = self.role.facts.get(at).and_then(Option::as_ref);
            match fact.map(|fact| fact.kind) {
                Some(FactKind::Pulse) if bits != 0 => {
                    self.actor.set_off(slot);
                    self.actor.facts[at] = fact.map_or(1, |fact| fact.duration);
                }
                Some(FactKind::Pulse) | None => {}
                Some(_) => self.actor.set_bits(slot, bits),
            }
        }
    }
}
