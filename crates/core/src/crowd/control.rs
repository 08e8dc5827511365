//! What the game tells a crowd.

use super::member_id::{MemberId, Target};
use super::slot::{BlockMut, tell_actor, tell_player};
use super::{Crowd, Lanes};
use crate::actor::Actor;
use crate::command_error::CommandError;
use crate::cue::{FactId, FactType};
use crate::facing::Facing;
use crate::ids::{ClipId, LookId};
use crate::play::Player;
use crate::reel::Reel;
use crate::sheet::Flips;
use crate::time::{Speed, Ticks};
use crate::view::LookSet;

/// Commands for members; each gives how many members it reached. Actors choose their clips themselves.
impl Crowd {
    /// Plays a clip from its start, as [`Player::play`].
    pub fn play(&mut self, target: impl Into<Target>, clip: ClipId) -> usize {
        self.tell_players(target, |player, reel| player.play(reel, clip))
    }

    /// Plays a clip unless it is the one last asked for, as [`Player::switch_to`].
    pub fn switch_to(&mut self, target: impl Into<Target>, clip: ClipId) -> usize {
        self.tell_players(target, |player, reel| player.switch_to(reel, clip))
    }

    /// Starts the clip last asked for again, as [`Player::restart`].
    pub fn restart(&mut self, target: impl Into<Target>) -> usize {
        self.tell_players(target, |player, reel| player.restart(reel))
    }

    /// Pauses members, or lets them go on, as [`Player::set_paused`]. To pause the time of a whole group
    /// without touching its members' own pauses, [scale](Crowd::set_group_scale) it by 0.
    pub fn set_paused(&mut self, target: impl Into<Target>, paused: bool) -> usize {
        self.set_all(
            target,
            |player, _| player.set_paused(paused),
            |actor, _| actor.set_paused(paused),
        )
    }

    /// Sets how fast and which way members play, as [`Player::set_speed`].
    pub fn set_speed(&mut self, target: impl Into<Target>, speed: Speed) -> usize {
        self.set_all(target, |one, _| one.set_speed(speed), |one, reel| one.set_speed(reel, speed))
    }

    /// Freezes members for this much of their group's time, as [`Player::hit_stop`].
    pub fn hit_stop(&mut self, target: impl Into<Target>, time: Ticks) -> usize {
        self.set_all(target, |player, _| player.hit_stop(time), |actor, _| actor.hit_stop(time))
    }

    /// Mirrors members about their pivots.
    pub fn set_flips(&mut self, target: impl Into<Target>, flips: Flips) -> usize {
        self.set_all(target, |player, _| player.set_flips(flips), |actor, _| actor.set_flips(flips))
    }

    /// Sets a fact of an actor, like [`Actor::set`]. Setting the value that a fact already has costs next to nothing, so
    /// set facts as they are, every frame.
    ///
    /// # Errors
    /// When the member has gone, or is no actor, or one of another role; when a number is not finite.
    #[inline]
    pub fn set_fact<T: FactType>(
        &mut self,
        member: MemberId,
        fact: FactId<T>,
        value: T,
    ) -> Result<(), CommandError> {
        if self.actor_at(member).is_some_and(|actor| actor.is_already(fact, value)) {
            return Ok(());
        }
        self.change_fact(member, fact, value)
    }

    #[inline(never)]
    fn change_fact<T: FactType>(
        &mut self,
        member: MemberId,
        fact: FactId<T>,
        value: T,
    ) -> Result<(), CommandError> {
        let known = self.contains(member);
        let missing = if known { CommandError::NotAnActor } else { CommandError::Gone };
        let mut result = Err(missing);
        self.with_actor(member, |actor, _| result = actor.set(fact, value));
        result
    }

    /// Sets which way actors face; gives how many it has reached, players not among them.
    #[inline]
    pub fn set_facing(&mut self, target: impl Into<Target>, facing: Facing) -> usize {
        let target = target.into();
        let faces = |member| self.actor_at(member).is_some_and(|actor| actor.facing() == facing);
        if matches!(target, Target::One(member) if faces(member)) {
            return 1;
        }
        self.with_actor(target, |actor, _| actor.set_facing(facing))
    }

    /// Puts a look on a member, over the others.
    ///
    /// # Errors
    /// When the member has gone, four are worn already, the reel does not know the look, or there are too
    /// many different sets of looks in the crowd.
    pub fn wear(&mut self, member: MemberId, look: LookId) -> Result<(), CommandError> {
        let mut looks = self.looks(member).ok_or(CommandError::Gone)?;
        looks.wear(&self.reel, look)?;
        self.dress(member, looks)
    }

    /// Takes a look off a member; `false` where it is not worn, or the member has gone.
    pub fn take_off(&mut self, member: MemberId, look: LookId) -> bool {
        let Some(mut looks) = self.looks(member) else { return false };
        looks.take_off(look) && self.dress(member, looks).is_ok()
    }

    /// Calls `change` with each member as its own [`Player`], and with the reel: for everything a player
    /// can do. Gives how many it has reached, actors not among them.
    ///
    /// ```
    /// # use lucky_reel_core::{Crowd, Grid, NewClip, NewSheet, Reel, Ticks};
    /// # let mut builder = Reel::builder();
    /// # let sheet = builder.sheet("moth", NewSheet::grid([64, 16], Grid::cell_size([16, 16])));
    /// # let flutter = builder.clip("flutter", NewClip::of(sheet).frames(0..4).fps(12));
    /// # let reel = builder.build()?;
    /// let mut crowd = Crowd::new(&reel);
    /// let moth = crowd.spawn(flutter).unwrap();
    /// crowd.with_player(moth, |player, reel| {
    ///     player.seek_hold(reel, 2);
    /// });
    /// assert_eq!(crowd.packed_frame(moth).frame().unwrap().index(), 2);
    /// # Ok::<(), lucky_reel_core::BuildError>(())
    /// ```
    pub fn with_player(
        &mut self,
        target: impl Into<Target>,
        mut change: impl FnMut(&mut Player, &Reel),
    ) -> usize {
        self.tell_players(target, |player, reel| {
            change(player, reel);
            true
        })
    }

    /// Calls `change` with each member that is an [`Actor`], and with the reel: for everything an actor can
    /// do. Gives how many it has reached.
    pub fn with_actor(
        &mut self,
        target: impl Into<Target>,
        mut change: impl FnMut(&mut Actor, &Reel),
    ) -> usize {
        self.tell_each(target.into(), |slots, reel, lane| {
            tell_actor(slots, reel, lane, |actor, reel| change(actor, reel)).is_some()
        })
    }

    /// Gives a member its outfit.
    pub(super) fn dress(&mut self, member: MemberId, looks: LookSet) -> Result<(), CommandError> {
        let Some((slots, lane)) = self.slot(member) else { return Err(CommandError::Gone) };
        let (is_actor, at) = (slots.block.is_of_actors(), member.block());
        let before = slots.block.outfits.get(lane).copied().unwrap_or(0);
        let number = if is_actor {
            0
        } else {
            self.outfits.add(looks).ok_or(CommandError::TooManyOutfits)?
        };
        self.outfits.remove(before);
        let Some(mut slots) = self.block_mut(at) else { return Err(CommandError::Gone) };
        if let Some(actor) = slots.block.actors.get_mut(lane) {
            actor.set_looks(looks);
        } else {
            super::slot::put_rare(&mut slots.block.outfits, lane, number, 0);
        }
        slots.mark_changed(lane);
        Ok(())
    }

    /// The block of a member that is still there, at the present time.
    fn member_mut(&mut self, member: MemberId) -> Option<(BlockMut<'_>, &Reel)> {
        if !self.contains(member) {
            return None;
        }
        self.catch_up_for(member.into());
        // It may have left meanwhile.
        if self.contains(member) { self.block_and_reel(member.block()) } else { None }
    }

    fn tell_players(
        &mut self,
        target: impl Into<Target>,
        mut tell: impl FnMut(&mut Player, &Reel) -> bool,
    ) -> usize {
        self.tell_each(target.into(), |slots, reel, lane| {
            !slots.block.is_of_actors() && tell_player(slots, reel, lane, &mut tell)
        })
    }

    fn set_all(
        &mut self,
        target: impl Into<Target>,
        set_player: impl Fn(&mut Player, &Reel),
        set_actor: impl Fn(&mut Actor, &Reel),
    ) -> usize {
        let player = |player: &mut Player, reel: &Reel| {
            set_player(player, reel);
            true
        };
        self.tell_all(target, player, |actor, reel| {
            set_actor(actor, reel);
            true
        })
    }

    fn tell_all(
        &mut self,
        target: impl Into<Target>,
        to_player: impl Fn(&mut Player, &Reel) -> bool,
        to_actor: impl Fn(&mut Actor, &Reel) -> bool,
    ) -> usize {
        self.tell_each(target.into(), |slots, reel, lane| {
            match tell_actor(slots, reel, lane, &to_actor) {
                Some(reached) => reached,
                None => tell_player(slots, reel, lane, &to_player),
            }
        })
    }

    /// Tells all that it is for; gives how many it has reached.
    fn tell_each(
        &mut self,
        target: Target,
        mut tell: impl FnMut(&mut BlockMut<'_>, &Reel, usize) -> bool,
    ) -> usize {
        if let Target::One(member) = target {
            let slots = self.member_mut(member);
            let reached =
                slots.is_some_and(|(mut slots, reel)| tell(&mut slots, reel, member.lane()));
            return usize::from(reached);
        }
        self.catch_up_for(target);
        let mut reached = 0;
        for at in 0..self.blocks.len() {
            let Some((mut slots, reel)) = self.block_and_reel(at) else { continue };
            if matches!(target, Target::Group(group) if slots.block.group != group.0) {
                continue;
            }
            for lane in Lanes(slots.block.alive) {
                reached += usize::from(tell(&mut slots, reel, lane));
            }
        }
        reached
    }
}
