//! What a clip shows when, in the order in which it is played.

use lucky_reel_core::{Clip, EventKind, FrameId, Player, Reel, Speed, Ticks};

/// The holds of some cycles of an endless clip, or of all of a finite one, as a player enters them.
#[derive(Clone, Debug, PartialEq, Eq)]
pub(crate) struct Timeline {
    pub(crate) steps: Vec<TimeStep>,
    pub(crate) total: Ticks,
    /// Whether all that was asked for is listed.
    pub(crate) is_whole: bool,
}

/// A hold and when it is up: from `start` up to `end`.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) struct TimeStep {
    pub(crate) hold: u32,
    pub(crate) frame: FrameId,
    /// How many cycles were over before.
    pub(crate) cycle: u32,
    pub(crate) start: Ticks,
    pub(crate) end: Ticks,
}

/// How a clip is played for a timeline.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Playing {
    pub(crate) speed: Speed,
    /// So many cycles of an endless clip.
    pub(crate) cycles: u32,
    /// At most so many holds are listed.
    pub(crate) most: usize,
}

impl Playing {
    /// One cycle at the clip's own speed.
    pub(crate) const ONCE: Playing = Playing { speed: Speed::NORMAL, cycles: 1, most: 4_000 };
}

impl Timeline {
    pub(crate) fn of(reel: &Reel, clip: &Clip<'_>, how: Playing) -> Timeline {
        let mut line = Timeline { steps: Vec::new(), total: Ticks::ZERO, is_whole: clip.is_still };
        if let (true, Some(hold)) = (clip.is_still, clip.hold(0)) {
            let (start, end) = (Ticks::ZERO, Ticks::ZERO);
            line.steps.push(TimeStep { hold: 0, frame: hold.frame, cycle: 0, start, end });
            return line;
        }
        let mut player = Player::new(reel, clip.id);
        player.set_speed(how.speed);
        let mut cycle = 0;
        for event in player.advance(reel, Ticks::MAX) {
            // The first hold is reported at the first moment that moves.
            let at = if line.steps.is_empty() { Ticks::ZERO } else { event.at };
            let entered = match event.kind {
                EventKind::Enter(frame) => Some(frame),
                EventKind::Cycle => {
                    cycle += 1;
                    line.is_whole = clip.repeat.is_none() && cycle >= how.cycles.max(1);
                    None
                }
                EventKind::End => {
                    line.is_whole = true;
                    None
                }
                _ => None,
            };
            if let (true, Some(last)) = (line.is_whole || entered.is_some(), line.steps.last_mut())
            {
                last.end = at;
            }
            if line.is_whole || (entered.is_some() && line.steps.len() == how.most) {
                break;
            }
            if let Some(frame) = entered {
                line.steps.push(TimeStep { hold: event.hold, frame, cycle, start: at, end: at });
            }
        }
        line.total = line.steps.last().map_or(Ticks::ZERO, |step| step.end);
        line
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use lucky_reel_core::{Grid, Mode, NewClip, NewSheet, Reel};
    use proptest::prelude::*;

    proptest! {
        /// At every place of the line the player shows what the timeline says.
        #[test]
        fn it_says_what_a_player_shows(
            times in prop::collection::vec(1_u64..40, 1..6), mode in 0..3_usize,
            repeat in prop::option::of(1_u32..4), backward in any::<bool>(), at in 0.0..1.0_f64,
        ) {
            let mode = [Mode::Loop, Mode::PingPong, Mode::Once][mode];
            let mut builder = Reel::builder();
            let sheet = builder.sheet("s", NewSheet::grid([64, 8], Grid::cell_size([8, 8])));
            let holds = times.iter().zip(0..);
            let clip = holds.fold(NewClip::of(sheet).mode(mode), |clip, (time, frame)| {
                clip.hold(frame, Ticks::new(*time))
            });
            let clip = match repeat.filter(|_| mode != Mode::Once) {
                Some(cycles) => clip.repeat(cycles),
                None => clip,
            };
            let clip = builder.clip("c", clip);
            let reel = builder.build().unwrap();
            let speed = if backward { Speed::BACKWARD } else { Speed::NORMAL };
            let how = Playing { speed, ..Playing::ONCE };
            let found = Timeline::of(&reel, &reel.clip(clip).unwrap(), how);
            prop_assert!(found.is_whole);
            let time = (found.total.get() as f64 * at) as u64;
            let step = found.steps.iter().find(|s| s.start.get() <= time && time < s.end.get());
            let mut player = Player::new(&reel, clip);
            player.set_speed(speed);
            player.advance(&reel, Ticks::new(time));
            prop_assert_eq!(step.map(|step| step.hold), player.hold_index(&reel), "at {} in {:?}", time, found);
        }
    }
}
