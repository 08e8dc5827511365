//! What the game tells a crowd.

use super::handle::{Handle, Members};
use super::seat::BlockMut;
use super::{Crowd, Lanes};
use crate::actor::{Actor, FactError};
use crate::cue::{FactId, OfFact};
use crate::facing::Facing;
use crate::ids::{ClipId, LookId};
use crate::look::{WearError, Worn};
use crate::play::{Player, Steps};
use crate::reel::Reel;
use crate::time::{Speed, Ticks};
use crate::view::Flips;

/// What members are told, and how many it reached. Actors choose their clips themselves.
impl Crowd {
    /// Plays a clip from its start, as [`Player::play`].
    pub fn play(&mut self, reel: &Reel, whom: impl Into<Members>, clip: ClipId) -> usize {
        self.tell_players(reel, whom, |player| player.play(reel, clip))
    }

    /// Plays a clip unless it is the one last asked for, as [`Player::switch_to`].
    pub fn switch_to(&mut self, reel: &Reel, whom: impl Into<Members>, clip: ClipId) -> usize {
        self.tell_players(reel, whom, |player| player.switch_to(reel, clip))
    }

    /// Starts the clip last asked for again, as [`Player::restart`].
    pub fn restart(&mut self, reel: &Reel, whom: impl Into<Members>) -> usize {
        self.tell_players(reel, whom, |player| player.restart(reel))
    }

    /// Stands on the rest hold, as [`Player::stop`].
    pub fn stop(&mut self, reel: &Reel, whom: impl Into<Members>) -> usize {
        self.tell_players(reel, whom, Player::stop)
    }

    /// Goes to a time of the clip last asked for, as [`Player::seek`].
    pub fn seek(&mut self, reel: &Reel, whom: impl Into<Members>, time: Ticks) -> usize {
        self.tell_players(reel, whom, |player| player.seek(reel, time))
    }

    /// Stands still until [`resume`](Crowd::resume), as [`Player::pause`]. To halt the time of a whole
    /// group, and leave alone who is paused in it, see [`pause_group`](Crowd::pause_group).
    pub fn pause(&mut self, reel: &Reel, whom: impl Into<Members>) -> usize {
        self.tell_all(reel, whom, Player::pause, |actor| actor.pause())
    }

    /// Goes on after a pause.
    pub fn resume(&mut self, reel: &Reel, whom: impl Into<Members>) -> usize {
        self.tell_all(reel, whom, Player::resume, |actor| actor.resume())
    }

    /// Sets how fast and which way members play, as [`Player::set_speed`].
    pub fn set_speed(&mut self, reel: &Reel, whom: impl Into<Members>, speed: Speed) -> usize {
        let tell_actor = |actor: &mut Actor| actor.set_speed(reel, speed);
        self.tell_all(reel, whom, |player| player.set_speed(speed), tell_actor)
    }

    /// Freezes members for so much time of their group, as [`Player::hit_stop`].
    pub fn hit_stop(&mut self, reel: &Reel, whom: impl Into<Members>, time: Ticks) -> usize {
        self.tell_all(reel, whom, |player| player.hit_stop(time), |actor| actor.hit_stop(time))
    }

    /// Mirrors members about their pivots.
    pub fn set_flips(&mut self, reel: &Reel, whom: impl Into<Members>, flips: Flips) -> usize {
        let tell_player = |player: &mut Player| {
            player.set_flip_x(flips.x);
            player.set_flip_y(flips.y);
        };
        self.tell_all(reel, whom, tell_player, |actor| {
            actor.set_flip_x(flips.x);
            actor.set_flip_y(flips.y);
        })
    }

    /// Tells a fact to an actor, as [`Actor::set`]. Nothing happens where it has gone.
    ///
    /// # Errors
    /// When it is no actor, or one of another role; when a number is not finite.
    pub fn set_fact<T: OfFact>(
        &mut self,
        reel: &Reel,
        actor: Handle,
        fact: FactId<T>,
        value: T,
    ) -> Result<(), FactError> {
        let there = self.contains(actor);
        let told = self.with_actor(reel, actor, |actor| actor.set(fact, value));
        told.unwrap_or(if there { Err(FactError::OtherRole) } else { Ok(()) })
    }

    /// Tells an actor which way it faces; `false` where it has gone, or is none.
    pub fn set_facing(&mut self, reel: &Reel, actor: Handle, facing: Facing) -> bool {
        self.with_actor(reel, actor, |actor| actor.set_facing(facing)).is_some()
    }

    /// Puts a look on a member, over the others.
    ///
    /// # Errors
    /// When four are worn already, or the reel has no such look.
    pub fn wear(&mut self, reel: &Reel, member: Handle, look: LookId) -> Result<(), WearError> {
        let mut worn = self.worn(member);
        worn.put_on(reel, look)?;
        self.dress(member, worn)
    }

    /// Takes a look off a member.
    pub fn take_off(&mut self, member: Handle, look: LookId) {
        let mut worn = self.worn(member);
        worn.take_off(look);
        // There is always room for less.
        let _ = self.dress(member, worn);
    }

    /// Hands a member to `tell` as the player that it is, and gives what comes back: for all that a
    /// player can be told. `None` where it has gone, is an actor, or plays from another reel.
    ///
    /// ```
    /// # use lucky_reel_core::{Crowd, Grid, NewClip, NewSheet, Reel, Ticks};
    /// # let mut builder = Reel::builder();
    /// # let sheet = builder.sheet("moth", NewSheet::grid([64, 16], Grid::cells([16, 16])));
    /// # let flutter = builder.clip("flutter", NewClip::of(sheet).frames(0..4).fps(12));
    /// # let reel = builder.build()?;
    /// let mut crowd = Crowd::new(&reel);
    /// let moth = crowd.spawn(&reel, flutter);
    /// crowd.with_player(&reel, moth, |player| player.seek_hold(&reel, 2));
    /// assert_eq!(crowd.frame(&reel, moth).unwrap().index(), 2);
    /// # Ok::<(), lucky_reel_core::BuildError>(())
    /// ```
    pub fn with_player<T>(
        &mut self,
        reel: &Reel,
        member: Handle,
        tell: impl FnOnce(&mut Player) -> T,
    ) -> Option<T> {
        let (mut seat, steps) = self.seat_mut(reel, member)?;
        if seat.block.is_of_actors() {
            return None;
        }
        Some(tell_player(&mut seat, reel, steps, member.lane(), tell))
    }

    /// Hands a member to `tell` as the actor that it is, and gives what comes back: for all that an
    /// actor can be told. `None` where it has gone, is none, or acts from another reel.
    pub fn with_actor<T>(
        &mut self,
        reel: &Reel,
        member: Handle,
        tell: impl FnOnce(&mut Actor) -> T,
    ) -> Option<T> {
        let (mut seat, steps) = self.seat_mut(reel, member)?;
        tell_actor(&mut seat, reel, steps, member.lane(), tell)
    }

    /// Gives a member its outfit; of one that has gone nothing is changed.
    pub(super) fn dress(&mut self, member: Handle, worn: Worn) -> Result<(), WearError> {
        let Some((seat, lane)) = self.seat(member) else { return Ok(()) };
        let (at, is_bare) = (member.block(), seat.block.outfits.is_empty());
        if !seat.block.is_of_actors() && is_bare && worn == Worn::NOTHING {
            return Ok(());
        }
        let number = match seat.block.actors.get(lane) {
            Some(_) => 0,
            None => self.wardrobe.number(worn).ok_or(WearError::TooMany)?,
        };
        let Some(mut seat) = self.block_mut(at) else { return Ok(()) };
        if let Some(actor) = seat.block.actors.get_mut(lane) {
            actor.set_worn(worn);
        } else {
            seat.block.outfits.resize(super::BLOCK, 0);
            seat.block.outfits[lane] = number;
        }
        seat.tell_changed(lane);
        Ok(())
    }

    fn seat_mut(&mut self, reel: &Reel, member: Handle) -> Option<(BlockMut<'_>, &Steps)> {
        if !self.fit(reel) || !self.contains(member) {
            return None;
        }
        self.block_and_steps(member.block())
    }

    fn tell_players(
        &mut self,
        reel: &Reel,
        whom: impl Into<Members>,
        tell: impl Fn(&mut Player),
    ) -> usize {
        self.tell_each(reel, whom.into(), |seat, steps, lane| {
            let is_player = !seat.block.is_of_actors();
            if is_player {
                tell_player(seat, reel, steps, lane, &tell);
            }
            usize::from(is_player)
        })
    }

    fn tell_all(
        &mut self,
        reel: &Reel,
        whom: impl Into<Members>,
        to_player: impl Fn(&mut Player),
        to_actor: impl Fn(&mut Actor),
    ) -> usize {
        self.tell_each(reel, whom.into(), |seat, steps, lane| {
            if tell_actor(seat, reel, steps, lane, &to_actor).is_none() {
                tell_player(seat, reel, steps, lane, &to_player);
            }
            1
        })
    }

    /// Tells all whom it is for; gives the sum of what `tell` gives.
    fn tell_each(
        &mut self,
        reel: &Reel,
        whom: Members,
        tell: impl Fn(&mut BlockMut<'_>, &Steps, usize) -> usize,
    ) -> usize {
        if let Members::One(member) = whom {
            let seat = self.seat_mut(reel, member);
            return seat.map_or(0, |(mut seat, steps)| tell(&mut seat, steps, member.lane()));
        }
        if !self.fit(reel) {
            return 0;
        }
        let mut reached = 0;
        for at in 0..self.blocks.len() {
            let Some((mut seat, steps)) = self.block_and_steps(at) else { continue };
            if matches!(whom, Members::Group(group) if seat.block.group != group.0) {
                continue;
            }
            for lane in Lanes(seat.block.alive) {
                reached += tell(&mut seat, steps, lane);
            }
        }
        reached
    }
}

fn tell_player<T>(
    seat: &mut BlockMut<'_>,
    reel: &Reel,
    steps: &Steps,
    lane: usize,
    tell: impl FnOnce(&mut Player) -> T,
) -> T {
    let mut player = seat.as_ref().player(reel, steps, lane);
    let answer = tell(&mut player);
    player.refit(reel);
    if seat.put_player(reel, steps, lane, &player) {
        seat.tell_changed(lane);
    }
    answer
}

fn tell_actor<T>(
    seat: &mut BlockMut<'_>,
    reel: &Reel,
    steps: &Steps,
    lane: usize,
    tell: impl FnOnce(&mut Actor) -> T,
) -> Option<T> {
    let mut actor = seat.as_ref().actor(reel, steps, lane)?;
    let worn = actor.worn();
    let answer = tell(&mut actor);
    actor.refit(reel);
    let dressed = actor.worn() != worn;
    if seat.put_actor(reel, steps, lane, actor) || dressed {
        seat.tell_changed(lane);
    }
    Some(answer)
}
