//! Long steps of actors: what repeats is skipped, so that the work does not grow with the time.
//!
//! Two things repeat. A *lap* is a way along what plays, back to the same boundary, while nothing else takes
//! over: it is measured in units of clip time, so that it is found at any speed. A *round* leads from one
//! whole tick to another at which the whole actor is as it was; cues may have handed over in between.

use super::state::Actor;
use crate::reel::Reel;

/// The laps and rounds of one advance that have been seen so far.
#[derive(Clone, Default)]
pub(super) struct Repeat {
    laps: Searches,
    rounds: Searches,
}

/// What has happened since the actor was as it is now, and so happens again.
#[derive(Clone, Copy)]
pub(super) struct Again {
    /// When it was so before, and what of that tick was not used up, in units.
    pub(super) at: u64,
    pub(super) slack: u32,
    /// By how much the counts have changed since.
    pub(super) cycles: i32,
    pub(super) plays: u8,
    /// How often the cycles can change so before a finite play comes to its end.
    pub(super) most: u64,
}

impl Repeat {
    /// Looks at an actor on a whole tick.
    pub(super) fn round(&mut self, reel: &Reel, actor: &Actor, at: u64) -> Option<Again> {
        self.rounds.look(reel, actor, at, 0)
    }

    /// Looks at an actor at rest at a boundary within what plays.
    pub(super) fn lap(&mut self, reel: &Reel, actor: &Actor, at: u64, slack: u32) -> Option<Again> {
        self.laps.look(reel, actor, at, slack)
    }

    /// Something else plays from now on, or at another speed.
    pub(super) fn begin_segment(&mut self) {
        self.laps = Searches::default();
    }

    /// From now on cycles are counted from elsewhere: another play has begun, or how many there had been has
    /// decided something. A change of the count since before that says nothing of the next round.
    pub(super) fn count_anew(&mut self) {
        self.laps.within_a_play = Search::default();
        self.rounds.within_a_play = Search::default();
    }
}

/// Within a play the count of cycles goes on; across plays it must come back as well.
#[derive(Clone, Default)]
struct Searches {
    looks: u64,
    within_a_play: Search,
    across_plays: Search,
}

impl Searches {
    fn look(&mut self, reel: &Reel, actor: &Actor, at: u64, slack: u32) -> Option<Again> {
        self.looks += 1;
        if self.looks < 8 {
            // An update in which little happens keeps nothing.
            return None;
        }
        let (cycle, plays) = (actor.player.cycle, actor.player.plays);
        let mut seen = Seen { state: *actor, at, slack, cycle, plays };
        seen.state.player.plays = 0;
        let again = self.across_plays.look(&seen, |_| u64::MAX);
        if again.is_some() {
            return again;
        }
        seen.state.player.cycle = 0;
        let all = actor.player.cycles(reel);
        self.within_a_play.look(&seen, |change| most(all, cycle, change))
    }
}

/// Brent's method (An improved Monte Carlo factorization algorithm, 1980, section 7): one state is kept, and
/// replaced after 1, 2, 4, 8 … looks. So a repetition is found after at most some three times the states that
/// it has.
#[derive(Clone, Default)]
struct Search {
    kept: Option<Seen>,
    looks: u64,
}

#[derive(Clone)]
struct Seen {
    /// But for what is only counted.
    state: Actor,
    at: u64,
    slack: u32,
    cycle: i32,
    plays: u8,
}

impl Search {
    /// What has happened since the actor was so, if it can happen again; then the search begins anew.
    fn look(&mut self, seen: &Seen, most: impl Fn(i32) -> u64) -> Option<Again> {
        self.looks += 1;
        if let Some(kept) = self.kept.as_ref().filter(|kept| kept.state == seen.state) {
            let cycles = seen.cycle.wrapping_sub(kept.cycle);
            let plays = seen.plays.wrapping_sub(kept.plays);
            let again = Again { at: kept.at, slack: kept.slack, cycles, plays, most: most(cycles) };
            if again.most > 0 && (kept.at, kept.slack) != (seen.at, seen.slack) {
                *self = Search::default();
                return Some(again);
            }
        }
        if self.looks.is_power_of_two() {
            self.kept = Some(seen.clone());
        }
        None
    }
}

/// How often the count of cycles can change by so much within a play of so many.
fn most(all: Option<i32>, cycle: i32, change: i32) -> u64 {
    let (Some(all), true) = (all, change != 0) else { return u64::MAX };
    let ahead = if change > 0 { i64::from(all) - 1 - i64::from(cycle) } else { i64::from(cycle) };
    ahead.max(0).unsigned_abs() / u64::from(change.unsigned_abs())
}

impl Actor {
    /// Goes on by so many rounds or laps, as far as they are counted.
    pub(super) fn count(&mut self, again: Again, times: u64) {
        let player = &mut self.player;
        player.cycle = player.cycle.wrapping_add(again.cycles.wrapping_mul(times as i32));
        player.plays = player.plays.wrapping_add(again.plays.wrapping_mul(times as u8));
    }

    /// Whether it is in the middle of an endless play.
    pub(super) fn goes_round(&self, reel: &Reel) -> bool {
        self.player.is_under_way() && self.player.cycles(reel).is_none()
    }
}
