//! The events of an advance: the boundaries between the state before and the state after.

use core::fmt;
use core::marker::PhantomData;

use super::advance::Movement;
use super::player::{Player, State};
use crate::distance::Distance;
use crate::event::Event;
use crate::kernel::{Boundary, Happened};
use crate::reel::Reel;
use crate::time::{Pace, Ticks, divide_units};

/// The events of one advance, worked out as they are read.
///
/// It borrows the reel alone, so the game's own things may change while it is read. A step may have
/// very many events, after a stall of hours, say: [`Iterator::take`] bounds the reading. Dropping
/// it unread costs nothing.
#[derive(Clone)]
pub struct Events<'r, At = Ticks> {
    reel: &'r Reel,
    list: List,
    unit: PhantomData<At>,
}

#[derive(Clone)]
#[allow(clippy::large_enum_variant)] // nothing is allocated
enum List {
    None,
    /// One plain boundary, a movement of which so many units are left over.
    One {
        boundary: Boundary,
        dt: u64,
        over: u64,
        rate: u32,
    },
    Many(Walk),
}

impl<'r, At> Events<'r, At> {
    #[inline]
    pub(crate) fn none(reel: &'r Reel) -> Events<'r, At> {
        Events { reel, list: List::None, unit: PhantomData }
    }

    #[inline]
    pub(crate) fn one(
        reel: &'r Reel,
        boundary: Boundary,
        dt: Ticks,
        over: u64,
        pace: Pace,
    ) -> Events<'r, At> {
        let list = List::One { boundary, dt: dt.get(), over, rate: pace.size() };
        Events { reel, list, unit: PhantomData }
    }

    #[inline]
    pub(crate) fn of(reel: &'r Reel, walk: Option<Walk>) -> Events<'r, At> {
        Events { reel, list: walk.map_or(List::None, List::Many), unit: PhantomData }
    }
}

/// A movement on its way from boundary to boundary, by [`Player::cross`].
#[derive(Clone, Copy)]
pub(crate) struct Walk {
    pub(crate) player: Player,
    /// What happened at the last boundary and has not been reported yet.
    pub(crate) boundary: Boundary,
    /// When, in steps from the start of the advance.
    pub(crate) at: u64,
    /// What of the last step was not used up to there, in units.
    slack: u64,
    /// The end of the movement.
    end: u64,
    rate: u64,
    by_ground: bool,
    /// No time has been used up since the first moment.
    is_at_first_moment: bool,
}

impl Walk {
    /// A movement whose first moment has come.
    pub(super) fn new(player: Player, boundary: Boundary, movement: Movement) -> Walk {
        Walk {
            player,
            boundary,
            at: movement.first,
            slack: 0,
            end: movement.first + movement.steps,
            rate: movement.rate,
            by_ground: movement.by_ground,
            is_at_first_moment: true,
        }
    }

    /// When the next boundary is crossed; `None` when the movement ends before it.
    pub(crate) fn next_at(&self) -> Option<u64> {
        let to_boundary = self.player.left;
        if self.player.state() != State::Running {
            return None;
        }
        // A step that is not used up before the end takes it there or beyond.
        let at = self.at.checked_add(self.steps_to(to_boundary))?;
        (at <= self.end).then_some(at)
    }

    /// So many steps until units have passed, rounded up.
    fn steps_to(&self, units: u64) -> u64 {
        match units.checked_sub(self.slack) {
            None | Some(0) => 0,
            Some(units) => divide_units(units - 1, self.rate) + 1,
        }
    }

    /// Goes to the next boundary; `None` when the movement ends before it.
    pub(crate) fn cross(&mut self, reel: &Reel) -> Option<()> {
        let at = self.next_at()?;
        let clip = reel.clip_at(self.player.clip)?;
        let units = self.player.left;
        self.is_at_first_moment &= at == self.at;
        // What is not used up of the steps that have passed.
        self.slack = ((at - self.at) as u128 * u128::from(self.rate) + u128::from(self.slack)
            - u128::from(units)) as u64;
        self.at = at;
        self.boundary = self.player.cross(reel, clip);
        if self.by_ground && self.boundary.happened.has(Happened::NEXT) {
            // Each clip has its own rate, so it starts on a whole step.
            let rate = reel.clip_at(self.player.clip)?.units_for_ground;
            self.slack = 0;
            // Without a stride there is no more to cross: it stands on its first hold.
            self.rate = rate.max(1);
            self.end = if rate == 0 { at } else { self.end };
        }
        Some(())
    }

    /// Whether no time has been used up since the first moment.
    pub(crate) fn is_at_first_moment(&self) -> bool {
        self.is_at_first_moment
    }

    /// Whether the last boundary lies on a whole step.
    pub(crate) fn is_on_step(&self) -> bool {
        self.slack == 0
    }

    /// The player at the end of the play that the last boundary has left, before another clip goes on.
    pub(crate) fn player_at_end(&self, reel: &Reel) -> Player {
        let Boundary { left, left_plays, happened, .. } = self.boundary;
        let mut player = self.player;
        if let (true, Some(clip)) = (happened.has(Happened::NEXT), reel.clip_at(left.clip)) {
            (player.clip, player.plays) = (left.clip, left_plays);
            player.reach_far_end(clip);
            player.set_state(State::Ended);
        }
        player
    }

    /// The next event, and the walk after it. By value, so that [`Events`] has no address and stays in
    /// registers while nothing happens: the everyday loop is three times faster.
    #[inline(never)]
    fn next(mut self, reel: &Reel) -> (Walk, Option<(u64, Event<()>)>) {
        while self.boundary.is_done() {
            if self.cross(reel).is_none() {
                return (self, None);
            }
        }
        let event = self.boundary.next(reel.clip_list());
        (self, event.map(|event| (self.at, event)))
    }
}

/// What an event's `at` counts.
pub trait EventUnit: sealed::Sealed {
    #[doc(hidden)]
    fn from_steps(steps: u64) -> Self;
}

mod sealed {
    pub trait Sealed {}
    impl Sealed for super::Ticks {}
    impl Sealed for super::Distance {}
}

impl EventUnit for Ticks {
    #[inline]
    fn from_steps(steps: u64) -> Ticks {
        Ticks::new(steps)
    }
}

impl EventUnit for Distance {
    fn from_steps(steps: u64) -> Distance {
        Distance::from_bits(i64::try_from(steps).unwrap_or(i64::MAX))
    }
}

impl<At: EventUnit> Iterator for Events<'_, At> {
    type Item = Event<At>;

    #[inline]
    fn next(&mut self) -> Option<Event<At>> {
        let (at, event) = match &mut self.list {
            List::None => return None,
            List::One { boundary, dt, over, rate } => {
                if boundary.is_done() {
                    return None;
                }
                let after = divide_units(*over, u64::from(*rate));
                (*dt - after, boundary.next(self.reel.clip_list())?)
            }
            List::Many(walk) => {
                let (after, next) = walk.next(self.reel);
                *walk = after;
                next?
            }
        };
        Some(event.with_at(At::from_steps(at)))
    }
}

impl<At: EventUnit> core::iter::FusedIterator for Events<'_, At> {}

impl<At: EventUnit + fmt::Debug + Clone> fmt::Debug for Events<'_, At> {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.debug_list().entries(self.clone().take(64)).finish()
    }
}
