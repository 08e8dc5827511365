//! What a clip shows when, in the order in which it is played.

use lucky_reel_core::{Clip, EventKind, Player, Reel, Speed, Ticks};

/// The holds of one cycle of an endless clip, or of all of a finite one, as a player enters them.
#[derive(Clone, Debug, PartialEq, Eq)]
pub(crate) struct Timeline {
    pub(crate) steps: Vec<TimeStep>,
    pub(crate) total: Ticks,
    /// Whether it is all of the clip: very long ones are cut.
    pub(crate) is_whole: bool,
}

/// A hold and when it is up: from `start` up to `end`.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) struct TimeStep {
    pub(crate) hold: u32,
    pub(crate) start: Ticks,
    pub(crate) end: Ticks,
}

/// At most this many holds are listed.
const MAX_STEPS: usize = 4_000;

impl Timeline {
    pub(crate) fn of(reel: &Reel, clip: &Clip<'_>, backward: bool) -> Timeline {
        if clip.is_still {
            let step = TimeStep { hold: 0, start: Ticks::ZERO, end: Ticks::ZERO };
            return Timeline { steps: vec![step], total: Ticks::ZERO, is_whole: true };
        }
        let mut player = Player::new(reel, clip.id);
        if backward {
            player.set_speed(Speed::BACKWARD);
        }
        let cycles = clip.repeat.map_or(1, |cycles| u64::from(cycles) + 1);
        let enough = Ticks::new(clip.cycle_time.get().saturating_mul(cycles).saturating_add(1));
        let mut steps: Vec<TimeStep> = Vec::new();
        let mut is_whole = false;
        for event in player.advance(reel, enough) {
            // The first hold is reported at the first moment that moves.
            let at = if steps.is_empty() { Ticks::ZERO } else { event.at };
            let ends = match event.kind {
                EventKind::Cycle => clip.repeat.is_none(),
                EventKind::End => true,
                _ => false,
            };
            let enters = matches!(event.kind, EventKind::Enter(_));
            if let (true, Some(last)) = (ends || enters, steps.last_mut()) {
                last.end = at;
            }
            if ends {
                is_whole = true;
                break;
            }
            if enters {
                if steps.len() == MAX_STEPS {
                    break;
                }
                steps.push(TimeStep { hold: event.hold, start: at, end: at });
            }
        }
        let total = steps.last().map_or(Ticks::ZERO, |step| step.end);
        Timeline { steps, total, is_whole }
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
            let found = Timeline::of(&reel, &reel.clip(clip).unwrap(), backward);
            prop_assert!(found.is_whole);
            let time = (found.total.get() as f64 * at) as u64;
            let step = found.steps.iter().find(|s| s.start.get() <= time && time < s.end.get());
            let mut player = Player::new(&reel, clip);
            if backward {
                player.set_speed(Speed::BACKWARD);
            }
            player.advance(&reel, Ticks::new(time));
            prop_assert_eq!(step.map(|step| step.hold), player.hold_index(&reel), "at {} in {:?}", time, found);
        }
    }
}
