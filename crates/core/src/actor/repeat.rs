//! Long steps of actors: what repeats is skipped, so that the work does not grow with the time.
//!
//! Two things repeat. A *lap* is a way along what plays, back to the same boundary, while nothing else takes
//! over: it is measured in units of clip time, so that it is found at any speed. A *round* leads from one
//! whole tick to another at which the whole actor is as it was; cues may have handed over in between.

use super::state::Actor;
use crate::ids::NONE;
use crate::reel::Reel;

/// The laps and rounds of one advance that have been seen so far.
#[derive(Clone, Default)]
pub(super) struct Repeat {
    laps: Search,
    rounds: Search,
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
        let (again, counts) = self.rounds.look(actor, at, 0)?;
        // Of an endless play no cycle differs from another, unless one has decided something.
        let same = again.cycles == 0 || actor.player.cycles(reel).is_none() && !counts;
        (same && again.at < at).then(|| self.rounds.restart(again))
    }

    /// Looks at an actor at rest at a boundary within what plays.
    pub(super) fn lap(&mut self, reel: &Reel, actor: &Actor, at: u64, slack: u32) -> Option<Again> {
        let (mut again, counts) = self.laps.look(actor, at, slack)?;
        let cycle = i64::from(actor.player.cycle);
        if let (Some(all), true) = (actor.player.cycles(reel), again.cycles != 0) {
            let ahead = if again.cycles > 0 { i64::from(all) - 1 - cycle } else { cycle };
            again.most = ahead.max(0).unsigned_abs() / u64::from(again.cycles.unsigned_abs());
        }
        (again.cycles == 0 || !counts).then(|| self.laps.restart(again))
    }

    /// Something else plays from now on, or at another speed.
    pub(super) fn begin_segment(&mut self) {
        self.laps = Search::default();
    }

    /// A count of cycles has decided something: it was carried into a finite play, or one has ended.
    pub(super) fn cycle_counts(&mut self) {
        for search in [&mut self.laps, &mut self.rounds] {
            search.seen.iter_mut().for_each(|seen| seen.counts = true);
        }
    }
}

/// Brent's method (An improved Monte Carlo factorization algorithm, 1980, section 7): one state is kept, and
/// replaced after 8, 16, 32 … looks. So a repetition is found after at most some three times the states that
/// it has, and an update in which little happens keeps none.
#[derive(Clone, Default)]
struct Search {
    seen: Option<Seen>,
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
    counts: bool,
}

impl Search {
    /// What has happened since the actor was so, and whether a count of cycles decided any of it.
    fn look(&mut self, actor: &Actor, at: u64, slack: u32) -> Option<(Again, bool)> {
        self.looks += 1;
        if self.looks < 8 {
            return None;
        }
        let (mut state, player) = (*actor, actor.player);
        (state.player.plays, state.player.cycle) = (0, 0);
        if let Some(seen) = self.seen.as_ref().filter(|seen| seen.state == state) {
            let again = Again {
                at: seen.at,
                slack: seen.slack,
                cycles: player.cycle.wrapping_sub(seen.cycle),
                plays: player.plays.wrapping_sub(seen.plays),
                most: u64::MAX,
            };
            return Some((again, seen.counts));
        }
        if self.looks.is_power_of_two() {
            let (cycle, plays) = (player.cycle, player.plays);
            self.seen = Some(Seen { state, at, slack, cycle, plays, counts: false });
        }
        None
    }

    /// What repeats is skipped now; another repetition may follow it.
    fn restart(&mut self, again: Again) -> Again {
        *self = Search::default();
        again
    }
}

impl Actor {
    /// Goes on by so many rounds or laps, as far as they are counted.
    pub(super) fn count(&mut self, again: Again, times: u64) {
        let player = &mut self.player;
        player.cycle = player.cycle.wrapping_add(again.cycles.wrapping_mul(times as i32));
        player.plays = player.plays.wrapping_add(again.plays.wrapping_mul(times as u8));
    }

    /// Whether it plays an endless clip.
    pub(super) fn is_endless(&self, reel: &Reel) -> bool {
        self.player.clip != NONE && self.player.cycles(reel).is_none()
    }
}
