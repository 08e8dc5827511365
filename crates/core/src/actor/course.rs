//! The course of one advance, from moment to moment.

use super::look::Looked;
use super::state::{Actor, CUT, DONE, NO, OWED};
use super::why::{Why, why_of};
use crate::cue::{FactKind, MOST_FACTS, RoleData};
use crate::ids::{ClipId, MarkId};
use crate::play::{Drive, Event, Events, Player};
use crate::reel::Reel;
use crate::time::Ticks;

/// An advance of an actor on its way. It is walked once to learn the new state, and once more to tell
/// what happened, when that is read.
#[derive(Clone)]
pub(super) struct Course<'r> {
    reel: &'r Reel,
    role: &'r RoleData,
    actor: Actor,
    dt: u64,
    /// The moment that has been reached.
    now: u64,
    /// What plays, since it last began or changed its speed.
    stretch: Option<Stretch<'r>>,
    /// What calls for a look at this moment.
    look: Option<Why>,
    /// The stretch ends at this moment: the speed changes.
    ends_at: Option<u64>,
    /// Only the state at the end is wanted.
    silent: bool,
    /// The facts at the last cycle that was complete on a whole tick, and which it was.
    last_cycle: Option<([u32; MOST_FACTS], i32)>,
    over: bool,
}

#[derive(Clone)]
struct Stretch<'r> {
    from: u64,
    start: Player,
    events: Events<'r>,
}

impl<'r> Course<'r> {
    /// `None` where nothing happens: no time passes, or the reel is a foreign one.
    pub(super) fn new(reel: &'r Reel, mut actor: Actor, dt: Ticks) -> Option<Course<'r>> {
        let role = actor.settle(reel).filter(|_| !dt.is_zero())?;
        for slot in 0..MOST_FACTS {
            if actor.fresh & 1 << slot != 0 {
                actor.facts[slot] = lasts(role, slot);
            }
        }
        if actor.has(OWED) {
            // What the game tells is looked at in any case.
            actor.changes = 0;
            actor.set_flag(CUT, false);
        }
        let first = if actor.cue.0 == NO { Why::Start } else { Why::Told };
        let look = actor.owes_look(reel).then_some(first);
        let (dt, now, stretch, ends_at) = (dt.get(), 0, None, None);
        let (silent, last_cycle, over) = (false, None, false);
        Some(Course {
            reel,
            role,
            actor,
            dt,
            now,
            stretch,
            look,
            ends_at,
            silent,
            last_cycle,
            over,
        })
    }

    /// The actor at the end of the advance.
    pub(super) fn into_end(mut self) -> Actor {
        self.silent = true;
        while self.next().is_some() {}
        self.actor
    }

    pub(super) fn next(&mut self) -> Option<Event> {
        while !self.over {
            if let Some(why) = self.look.take() {
                if let Some(event) = self.look_at_cues(why) {
                    return Some(event);
                }
            } else if let Some(event) = self.play_on() {
                return Some(event);
            }
        }
        None
    }

    /// Looks once; a change may call for another look in the same instant.
    fn look_at_cues(&mut self, why: Why) -> Option<Event> {
        let before = self.actor.player;
        let looked = self.actor.look(self.reel, self.role);
        let event = why_of(looked, why, &self.actor.player, Ticks::new(self.now));
        if looked == Looked::CutOff {
            self.last_cycle = None;
            return event;
        }
        let player = &mut self.actor.player;
        if looked != Looked::Nothing || player.clip() != before.clip() {
            // What was left of this tick is dropped.
            (self.stretch, self.ends_at, self.last_cycle) = (None, None, None);
        } else if player.speed() != before.speed() && self.stretch.is_some() {
            self.ends_at = Some(self.now);
        }
        if self.actor.owes_look(self.reel) {
            self.look = Some(Why::Span);
        }
        event
    }

    /// The next thing that what plays does; `None` when a look is due first, or it is over.
    fn play_on(&mut self) -> Option<Event> {
        let stretch = match &mut self.stretch {
            Some(stretch) => stretch,
            None => self.begin_stretch(),
        };
        let from = stretch.from;
        let mut ahead = stretch.events.clone();
        let next = ahead.next();
        let at = next.map(|event| from + event.at().get());
        if let Some(end) = self.ends_at.filter(|end| at.is_none_or(|at| at > *end)) {
            self.end_stretch(end);
            return None;
        }
        let (Some(event), Some(at)) = (next, at) else {
            self.finish();
            return None;
        };
        self.stretch.as_mut()?.events = ahead;
        self.pass(at);
        self.take_in(event);
        let shift = Ticks::new(from);
        Some(event.later(shift))
    }

    fn begin_stretch(&mut self) -> &mut Stretch<'r> {
        if self.silent {
            self.skip_quiet_time();
        }
        let (from, start) = (self.now, self.actor.player);
        let left = Drive::Time(Ticks::new(self.dt - from));
        let events = Events::new(self.reel, start, left);
        self.stretch.insert(Stretch { from, start, events })
    }

    /// Where nothing can happen before the clip ends, time passes at once.
    fn skip_quiet_time(&mut self) {
        let player = &self.actor.player;
        let quiet = self.reel.clip_data(player.clip()).is_some_and(|clip| clip.is_quiet());
        if !quiet || player.is_paused() {
            return;
        }
        let left = self.dt - self.now;
        let to_end = player.remaining(self.reel).filter(|_| !player.is_over());
        let time = to_end.map_or(left, |end| end.get().saturating_sub(1).min(left));
        if time > 0 {
            self.actor.player.travel(self.reel, Drive::Time(Ticks::new(time)));
            self.pass(self.now + time);
        }
    }

    /// Ends the stretch at a moment at which the speed changes: all that the tick holds is played.
    fn end_stretch(&mut self, end: u64) {
        self.ends_at = None;
        self.last_cycle = None;
        if let Some(stretch) = self.stretch.take() {
            let mut player = stretch.start;
            match stretch.events.at_first_moment() {
                Some(departed) => player = departed,
                None => player.travel(self.reel, Drive::Time(Ticks::new(end - stretch.from))),
            }
            self.actor.player = player;
            self.actor.apply_speed_of(self.reel, self.role);
        }
    }

    fn finish(&mut self) {
        if let Some(stretch) = self.stretch.take() {
            let left = Ticks::new(self.dt - stretch.from);
            self.actor.player = stretch.start;
            // A movement of no time would only look twice the next time.
            if !left.is_zero() {
                self.actor.player.travel(self.reel, Drive::Time(left));
            }
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
        actor.changes = 0;
        actor.set_flag(CUT, false);
        let mut up = actor.pulses;
        while up != 0 {
            let slot = up.trailing_zeros() as usize;
            up &= up - 1;
            let left = u64::from(actor.facts[slot]).saturating_sub(time);
            actor.facts[slot] = left as u32;
            if left == 0 {
                actor.pulses &= !(1 << slot);
            }
        }
    }

    /// What an event means for the cues.
    fn take_in(&mut self, event: Event) {
        match event {
            Event::Mark { mark, clip, .. } => self.take_in_mark(clip, mark),
            Event::Cycle { clip, .. } if self.silent => self.skip_cycles(clip),
            _ => {}
        }
        let Some(stretch) = &self.stretch else { return };
        let ended = match event {
            Event::End { clip, .. } => Some(clip),
            _ => None,
        };
        if ended.is_none() && !stretch.events.has_told_all() {
            return;
        }
        self.actor.player = stretch.events.player_at_end(ended.is_some());
        self.actor.apply_speed_of(self.reel, self.role);
        if let Some(clip) = ended {
            if clip == stretch.start.asked() {
                self.actor.set_flag(DONE, true);
            }
            if self.silent {
                self.ends_at = Some(self.now);
            }
            self.look = (!self.actor.has(CUT)).then_some(Why::Ended);
        } else if self.actor.has(CUT) {
            self.actor.owe_nothing(self.reel);
        } else if self.actor.owes_look(self.reel) {
            let by_mark = self.actor.has(OWED);
            self.look = Some(if by_mark { Why::Mark } else { Why::Span });
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
                    self.actor.facts[at] = lasts(self.role, at);
                }
                Some(FactKind::Pulse) | None => {}
                Some(_) => self.actor.set_bits(slot, bits),
            }
        }
    }

    /// When some cycles have changed nothing, those that follow will not, either: counted from one that
    /// began on a whole tick to the next that does, so that all meet the ticks alike.
    fn skip_cycles(&mut self, of: ClipId) {
        let Some(stretch) = &mut self.stretch else { return };
        let Some(cycle) = stretch.events.cycle_on_tick(of).filter(|_| !self.actor.has(CUT)) else {
            return;
        };
        let facts = self.actor.facts;
        if let (Some((same, before)), 0) = (self.last_cycle, self.actor.pulses) {
            if same == facts {
                stretch.events.skip_cycles(cycle.wrapping_sub(before).unsigned_abs());
            }
        }
        self.last_cycle = Some((facts, cycle));
    }
}

/// How long a pulse is up, in ticks.
fn lasts(role: &RoleData, slot: usize) -> u32 {
    role.facts.get(slot).and_then(Option::as_ref).map_or(1, |fact| fact.lasts)
}
