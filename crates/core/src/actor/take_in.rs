//! What the events of an actor's player mean for its cues.

use super::repeat::Repeat;
use super::run::{ActorRun, Segment};
use super::state::{DIRTY, DONE, LOOPED};
use crate::cue::FactKind;
use crate::event::{CueCause, EventKind};
use crate::ids::{ClipId, MarkId, NONE};

impl ActorRun<'_> {
    /// What an event means for the cues.
    pub(super) fn take_in(&mut self, kind: EventKind, clip: ClipId, repeat: &mut Option<Repeat>) {
        if let EventKind::Mark(mark) = kind {
            self.take_in_mark(clip, mark);
        }
        let Some(Segment { start, walk: Some(walk), left_plan, .. }) = &self.segment else {
            return;
        };
        let ended = kind == EventKind::End;
        if !ended && !walk.boundary.is_done() {
            return;
        }
        // What the game has named to follow belongs to what is played over the cues.
        let over_cues = self.actor.plays_over_cues();
        let is_done =
            if over_cues { left_plan.then == NONE } else { clip == start.requested_clip() };
        // It walks at the speed at which it began; what it was given since then counts from the next tick.
        let speed = self.actor.player.speed();
        self.actor.player = match ended {
            true => walk.player_at_end(self.reel, start, *left_plan),
            false => walk.player(start),
        };
        self.actor.player.set_speed(speed);
        self.actor.apply_speed_of(self.reel, self.role);
        self.end_segment_if_speed_changed();
        if ended {
            if let Some(repeat) = repeat {
                repeat.count_anew();
            }
            if is_done {
                self.actor.set_flag(DONE, true);
            }
        }
        if self.actor.has(LOOPED) {
            self.settle();
        } else if ended {
            let waits = over_cues && !is_done;
            self.evaluate = (!waits).then_some(CueCause::End);
        } else if self.needs_evaluation() {
            let by_mark = self.actor.has(DIRTY);
            self.evaluate = Some(if by_mark { CueCause::Mark } else { CueCause::Span });
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
