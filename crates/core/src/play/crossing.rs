//! What happens to a member of a store at a boundary that was crossed beforehand, as events.

use super::events::{Event, Kind, serial_of};
use super::steps::{Step, Steps};
use crate::clip::RETURNING;
use crate::reel::Reel;
use crate::time::Ticks;
use crate::view::Shown;

/// A boundary at the end of a step.
#[derive(Clone, Copy)]
pub(crate) struct Crossing {
    /// The step that was left; bits above those of a picture's frame are not looked at.
    pub(crate) code: u32,
    /// The cycle that it has come to.
    pub(crate) cycle: i32,
    pub(crate) play: u8,
    pub(crate) at: Ticks,
}

impl Crossing {
    /// The events of it, in the order of the law: cycle, turn, enter, marks by name.
    #[inline]
    pub(crate) fn tell(self, reel: &Reel, steps: &Steps, mut told: impl FnMut(Event)) {
        for nth in 0.. {
            match self.event(reel, steps, nth) {
                Some(Some(event)) => told(event),
                Some(None) => {}
                None => return,
            }
        }
    }

    /// Its nth event, counted as if there were a cycle, a turn, and an enter: none where there is not.
    #[inline]
    pub(crate) fn event(self, reel: &Reel, steps: &Steps, nth: u16) -> Option<Option<Event>> {
        let number = self.code & Shown::MOST;
        let step = steps.get(number)?;
        match nth {
            0 => Some(step.wraps().then(|| self.cycle(steps, step))),
            1 => Some(step.turns().then(|| self.turn(steps))),
            2 => Some(self.enter(steps, step.follow(number))),
            _ if !step.leads_to_marks() => None,
            _ => self.mark(reel, steps, step.follow(number), nth - 3).map(Some),
        }
    }

    fn cycle(self, steps: &Steps, step: Step) -> Event {
        let left = steps.origin(self.code & Shown::MOST);
        // On the way back the boundary of the cycle that is left is crossed.
        let back = step.cycles() < 0;
        let cycle = if back { self.cycle.wrapping_add(1) } else { self.cycle };
        let (hold, at) = (u32::from(left.place & !RETURNING), self.at);
        let serial = serial_of(self.play, left.place, cycle, Kind::Cycle, 0);
        Event::Cycle { clip: left.clip, hold, cycle, at, serial }
    }

    fn turn(self, steps: &Steps) -> Event {
        let left = steps.origin(self.code & Shown::MOST);
        let (hold, cycle, at) = (u32::from(left.place & !RETURNING), self.cycle, self.at);
        let serial = serial_of(self.play, left.place, cycle, Kind::Turn, 0);
        Event::Turn { clip: left.clip, hold, cycle, at, serial }
    }

    fn enter(self, steps: &Steps, entered: u32) -> Option<Event> {
        let (now, cycle, at) = (steps.origin(entered), self.cycle, self.at);
        let (frame, hold) = (steps.shown(entered).frame()?, u32::from(now.place & !RETURNING));
        let serial = serial_of(self.play, now.place, cycle, Kind::Enter, 0);
        Some(Event::Enter { clip: now.clip, hold, frame, cycle, at, serial })
    }

    fn mark(self, reel: &Reel, steps: &Steps, entered: u32, nth: u16) -> Option<Event> {
        let (now, cycle, at) = (steps.origin(entered), self.cycle, self.at);
        let hold = now.place & !RETURNING;
        let (_, mark) = *reel.clip_data(now.clip)?.marks_of(hold).get(usize::from(nth))?;
        let serial = serial_of(self.play, now.place, cycle, Kind::Mark, nth as u8);
        Some(Event::Mark { mark, clip: now.clip, hold: hold.into(), cycle, at, serial })
    }

    /// The events of a start at a step, in the order of the law: marks only where all of the hold lies
    /// ahead, of which so many units are left.
    pub(crate) fn tell_start(
        self,
        reel: &Reel,
        steps: &Steps,
        left: u64,
        mut told: impl FnMut(Event),
    ) {
        let number = self.code & Shown::MOST;
        self.enter(steps, number).into_iter().for_each(&mut told);
        let now = steps.origin(number);
        let hold = reel
            .clip_data(now.clip)
            .and_then(|clip| clip.holds.get(usize::from(now.place & !RETURNING)));
        if hold.is_some_and(|hold| hold.ticks << 16 == left) {
            (0..).map_while(|nth| self.mark(reel, steps, number, nth)).for_each(told);
        }
    }

    /// The events of the end of a clip that is played once.
    pub(crate) fn tell_end(self, steps: &Steps, mut told: impl FnMut(Event)) {
        let left = steps.origin(self.code & Shown::MOST);
        let (clip, cycle, at) = (left.clip, self.cycle, self.at);
        let hold = u32::from(left.place & !RETURNING);
        let serial = |kind| serial_of(self.play, left.place, cycle, kind, 0);
        told(Event::Cycle { clip, hold, cycle, at, serial: serial(Kind::Cycle) });
        told(Event::End { clip, hold, cycle, at, serial: serial(Kind::End) });
    }
}
