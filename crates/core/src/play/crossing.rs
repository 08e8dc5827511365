use super::events::{Event, Kind, serial_of};
use super::steps::Steps;
use crate::clip::RETURNING;
use crate::reel::Reel;
use crate::time::Ticks;
use crate::view::Picture;

/// A plain boundary that a member of a store has crossed.
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
        let Crossing { code, cycle, play, at } = self;
        let number = code & Picture::MOST;
        let step = steps.get(number)?;
        if nth < 2 {
            let left = steps.origin(number);
            let (clip, hold) = (left.clip, u32::from(left.place & !RETURNING));
            return Some(match nth {
                0 if step.wraps() => {
                    // On the way back the boundary of the cycle that is left is crossed.
                    let up = step.cycles() > 0;
                    let cycle = if up { cycle } else { cycle.wrapping_sub(step.cycles()) };
                    let serial = serial_of(play, left.place, cycle, Kind::Cycle, 0);
                    Some(Event::Cycle { clip, hold, cycle, at, serial })
                }
                1 if step.turns() => {
                    let serial = serial_of(play, left.place, cycle, Kind::Turn, 0);
                    Some(Event::Turn { clip, hold, cycle, at, serial })
                }
                _ => None,
            });
        }
        let next = step.follow(number);
        let entered = steps.origin(next);
        let (clip, place) = (entered.clip, entered.place);
        let hold = place & !RETURNING;
        if nth == 2 {
            let serial = serial_of(play, place, cycle, Kind::Enter, 0);
            let enter = |frame| Event::Enter { clip, hold: hold.into(), frame, cycle, at, serial };
            return Some(steps.picture(next).frame().map(enter));
        }
        let nth = nth - 3;
        let marks = if step.leads_to_marks() { reel.clip_data(clip)?.marks_of(hold) } else { &[] };
        let (_, mark) = *marks.get(usize::from(nth))?;
        let serial = serial_of(play, place, cycle, Kind::Mark, nth as u8);
        Some(Some(Event::Mark { mark, clip, hold: hold.into(), cycle, at, serial }))
    }
}
