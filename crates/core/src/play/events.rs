//! The events of an advance: the boundaries between the state before and the state after.

use super::movement::Movement;
use super::player::{Plan, Player};
use super::state::{State, way_of};
use crate::event::Event;
use crate::kernel::{Boundary, Happened, Step};
use crate::reel::Reel;
use crate::time::{Ticks, divide_units};

/// The events of one advance of a player, computed as they are read.
#[derive(Clone)]
#[allow(unreachable_pub)] // a sealed trait names it
pub struct PlayerEvents<'r> {
    reel: &'r Reel,
    /// The present instant, and when it is: in the everyday loop all that there is.
    instant: Boundary,
    at: u64,
    /// The way to the next instants.
    walk: Option<Walk>,
}

impl<'r> PlayerEvents<'r> {
    #[inline]
    pub(crate) fn none(reel: &'r Reel) -> PlayerEvents<'r> {
        PlayerEvents::one(reel, Boundary::NOTHING, Ticks::ZERO)
    }

    /// One plain boundary, after which no other is crossed.
    #[inline]
    pub(crate) fn one(reel: &'r Reel, instant: Boundary, at: Ticks) -> PlayerEvents<'r> {
        PlayerEvents { reel, instant, at: at.get(), walk: None }
    }

    #[inline]
    pub(crate) fn of_walk(reel: &'r Reel, walk: Option<Walk>) -> PlayerEvents<'r> {
        let (instant, at) = walk.map_or((Boundary::NOTHING, 0), |walk| (walk.boundary, walk.at));
        PlayerEvents { reel, instant, at, walk }
    }
}

/// A movement on its way from boundary to boundary, by [`Player::cross`]: what of a player changes there,
/// and no more, as the everyday loop hands it on in each update.
#[derive(Clone, Copy)]
pub(crate) struct Walk {
    /// Where it has come to, and what happened there and has not been reported yet.
    pub(crate) boundary: Boundary,
    /// Of the play that goes on there.
    plan: Plan,
    flags: u8,
    by_distance: bool,
    /// No time has been used up since the first moment.
    is_at_first_moment: bool,
    /// Units left of the hold.
    left: u64,
    /// When, in steps from the start of the advance, and the end of the movement.
    pub(crate) at: u64,
    end: u64,
    /// What of the last step was not used up to there, in units.
    slack: u32,
    /// Units for a step; 0 where no other boundary is crossed.
    rate: u32,
}

impl Walk {
    /// A movement whose first moment has come.
    pub(super) fn new(player: &Player, boundary: Boundary, movement: Movement) -> Walk {
        Walk {
            boundary,
            plan: player.plan,
            flags: player.flags,
            by_distance: movement.by_distance,
            is_at_first_moment: true,
            left: player.left,
            at: movement.first,
            end: movement.first + movement.steps,
            slack: 0,
            rate: movement.rate as u32,
        }
    }

    /// A player that has come as far.
    pub(crate) fn player(&self, base: &Player) -> Player {
        let Boundary { now, cycle, .. } = self.boundary;
        Player {
            left: self.left,
            cycle,
            plan: self.plan,
            place: now.place(),
            clip: now.clip(),
            flags: self.flags,
            plays: self.boundary.plays(),
            hit_stop: 0,
            build: base.build.with_ready(false),
            ..*base
        }
    }

    /// When the next boundary is crossed; `None` when the movement ends before it.
    pub(crate) fn next_at(&self) -> Option<u64> {
        // Whatever is not running stands at an end: a movement does not turn.
        if State::of(self.flags) != State::Running || self.rate == 0 {
            return None;
        }
        // A step that is not used up before the end takes it there or beyond.
        let at = self.at.checked_add(self.steps_to(self.left))?;
        (at <= self.end).then_some(at)
    }

    /// So many steps until units have passed, rounded up.
    fn steps_to(&self, units: u64) -> u64 {
        match units.checked_sub(u64::from(self.slack)) {
            None | Some(0) => 0,
            Some(units) => divide_units(units - 1, u64::from(self.rate)) + 1,
        }
    }

    /// Goes to the next boundary; `None` when the movement ends before it.
    pub(crate) fn cross(&mut self, reel: &Reel) -> Option<()> {
        let at = self.next_at()?;
        self.is_at_first_moment &= at == self.at;
        // What is not used up of the steps that have passed: they are no more than the units that were
        // left, a clip's 2^63 at most, and one step.
        let passed = (at - self.at) * u64::from(self.rate) + u64::from(self.slack);
        self.slack = (passed - self.left) as u32;
        self.at = at;
        let steps = reel.steps();
        let Boundary { now, cycle, .. } = self.boundary;
        let number = steps.find(now.clip(), now.place(), way_of(self.flags));
        let step = steps.get(number);
        if !step.has(self.stops()) {
            // Fast path: a boundary within a play takes a third of the time of those at its ends.
            self.boundary = steps.boundary(number, step, cycle, self.boundary.plays());
            self.left = step.next_units();
            return Some(());
        }
        let clip = reel.clip_at(now.clip())?;
        let mut player = self.player(&Player::of_number(reel, self.boundary.now.clip()));
        self.boundary = player.cross(reel, clip);
        (self.plan, self.flags, self.left) = (player.plan, player.flags, player.left);
        if self.by_distance && self.boundary.happened().has(Happened::NEXT) {
            // Each clip has its own rate, so it starts on a whole step.
            let rate = reel.clip_at(self.boundary.now.clip())?.units_for_ground;
            self.slack = 0;
            // Without a stride there is no more to cross: it stands on its first hold.
            self.rate = rate as u32;
        }
        Some(())
    }

    /// The flags of boundaries at which the play may end.
    fn stops(&self) -> u64 {
        // With a number of plays from the game, an endless clip ends, too: the table's own flag does not know.
        if self.plan == Plan::NONE { Step::stops(false) } else { Step::EDGE }
    }

    /// What the game wants of the play that it is in.
    pub(crate) fn plan(&self) -> Plan {
        self.plan
    }

    /// Whether no time has been used up since the first moment.
    pub(crate) fn is_at_first_moment(&self) -> bool {
        self.is_at_first_moment
    }

    /// What of the last step was not used up by the last boundary, in units.
    pub(crate) fn slack(&self) -> u32 {
        self.slack
    }

    /// Skips laps that lead back to the present boundary, as often as they fit before the end and at most so
    /// often; gives how many. The last lap began at this step, of which so many units were not used up.
    pub(crate) fn skip(&mut self, [at, slack]: [u64; 2], most: u64) -> u64 {
        let (rate, unused) = (u128::from(self.rate), u128::from(self.slack));
        let lap = u128::from(self.at - at) * rate + u128::from(slack) - unused;
        let left = u128::from(self.end - self.at) * rate + unused;
        let times = (left.saturating_sub(1) / lap.max(1)).min(u128::from(most));
        let units = times * lap;
        let steps = units.saturating_sub(unused).div_ceil(rate.max(1));
        self.slack = (steps * rate + unused - units) as u32;
        self.at += steps as u64;
        times as u64
    }

    /// Takes over what is only counted.
    pub(crate) fn count(&mut self, player: &Player) {
        self.boundary.count(player.cycle, player.plays);
    }

    /// The player at the end of the play that the last boundary has left, of which the game wanted this,
    /// before another clip follows.
    pub(crate) fn player_at_end(&self, reel: &Reel, base: &Player, plan: Plan) -> Player {
        let Boundary { left, .. } = self.boundary;
        let mut player = self.player(base);
        if let (true, Some(clip)) =
            (self.boundary.happened().has(Happened::NEXT), reel.clip_at(left.clip()))
        {
            (player.clip, player.plays) = (left.clip(), self.boundary.left_plays());
            player.plan = plan;
            let line = player.line(clip);
            player.put(line, line.far_end());
            player.set_state(State::Ended);
        }
        player
    }

    /// Goes to the next boundary at which something is reported; `None` without one. By value, so that
    /// [`PlayerEvents`] needs no address and stays in registers while nothing happens.
    #[cold]
    #[inline(never)]
    fn to_next(mut self, reel: &Reel) -> Option<Walk> {
        loop {
            self.cross(reel)?;
            if !self.boundary.is_done() {
                return Some(self);
            }
        }
    }
}

impl Iterator for PlayerEvents<'_> {
    type Item = Event;

    #[inline]
    fn next(&mut self) -> Option<Event> {
        if self.instant.is_done() {
            let walk = self.walk?.to_next(self.reel);
            self.walk = walk;
            let walk = walk?;
            (self.instant, self.at) = (walk.boundary, walk.at);
        }
        self.instant.next(self.reel.clip_list(), Ticks::new(self.at))
    }
}
