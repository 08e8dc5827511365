//! Actors that come back to the same state: what happened since then happens again and again, so whole
//! rounds of it are skipped.

use super::state::Actor;
use crate::reel::Reel;

/// Looks for a state that was there before, by Brent's method (An improved Monte Carlo factorization
/// algorithm, 1980, section 7): one state is kept, and replaced after 1, 2, 4, 8 … looks. So a repetition
/// is found after at most some three times the states that it has.
#[derive(Clone, Default)]
pub(super) struct Repeat {
    seen: Option<Seen>,
    looks: u64,
    until: u64,
}

#[derive(Clone)]
struct Seen {
    /// But for what is only counted.
    state: Actor,
    at: u64,
    cycle: i32,
    plays: u8,
}

impl Repeat {
    /// Gives the time of all rounds that fit before the end, which the actor then has behind it.
    pub(super) fn skip(&mut self, reel: &Reel, actor: &mut Actor, now: u64, end: u64) -> u64 {
        let player = actor.player;
        let endless = player.plan.times == 0
            && reel.clip_at(player.clip).is_some_and(|clip| clip.repeat == 0);
        let mut state = *actor;
        state.player.plays = 0;
        if endless {
            state.player.cycle = 0;
        }
        if let Some(seen) = self.seen.as_ref().filter(|seen| seen.state == state) {
            // The last tick is played: what begins at its end belongs to the next advance.
            let rounds = (end - now).saturating_sub(1).checked_div(now - seen.at).unwrap_or(0);
            let cycles = player.cycle.wrapping_sub(seen.cycle).wrapping_mul(rounds as i32);
            let plays = player.plays.wrapping_sub(seen.plays).wrapping_mul(rounds as u8);
            actor.player.cycle = player.cycle.wrapping_add(cycles);
            actor.player.plays = player.plays.wrapping_add(plays);
            return rounds * (now - seen.at);
        }
        self.looks += 1;
        if self.looks > self.until {
            self.until = 2 * self.looks;
            self.seen = Some(Seen { state, at: now, cycle: player.cycle, plays: player.plays });
        }
        0
    }
}
