use super::events::{Event, Kind, serial_of};
use super::steps::{Step, Steps};
use crate::clip::RETURNING;
use crate::reel::Reel;
use crate::time::Ticks;
use crate::view::Picture;

/// A plain boundary that a member of a store has crossed.
#[derive(Clone, Copy)]
pub(crate) struct Crossing {
    /// What was left.
    pub(crate) step: Step,
    /// The number of the step that was left, and how it is mirrored.
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
        let Crossing { step, code, cycle, play, at } = self;
        let left = steps.origin(code & Picture::MOST);
        let left_hold = u32::from(left.place & !RETURNING);
        if step.wraps() {
            // On the way back the boundary of the cycle that is left is crossed.
            let crossed = if step.cycles() > 0 { cycle } else { cycle.wrapping_sub(step.cycles()) };
            let serial = serial_of(play, left.place, crossed, Kind::Cycle, 0);
            told(Event::Cycle { clip: left.clip, hold: left_hold, cycle: crossed, at, serial });
        }
        if step.turns() {
            let serial = serial_of(play, left.place, cycle, Kind::Turn, 0);
            told(Event::Turn { clip: left.clip, hold: left_hold, cycle, at, serial });
        }
        let (now, entered) = (steps.get(step.next), steps.origin(step.next));
        let (clip, place) = (entered.clip, entered.place);
        let hold = place & !RETURNING;
        if let Some(frame) = now.picture.frame() {
            let serial = serial_of(play, place, cycle, Kind::Enter, 0);
            told(Event::Enter { clip, hold: u32::from(hold), frame, cycle, at, serial });
        }
        if now.is_marked() {
            let marks = reel.clip_data(clip).map_or(&[][..], |clip| clip.marks_of(hold));
            for (nth, (_, mark)) in (0_u8..=u8::MAX).zip(marks) {
                let serial = serial_of(play, place, cycle, Kind::Mark, nth);
                let mark = *mark;
                told(Event::Mark { mark, clip, hold: u32::from(hold), cycle, at, serial });
            }
        }
    }
}
