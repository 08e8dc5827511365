//! Actors: they pick their own clip from facts.

use lucky_reel::{
    Actor, CommandError, Directions, Facing, Reel, Ticks,
    cue::FactType,
    id::{ChoiceId, FactId},
};

use crate::art::LuckyArt;
use crate::event::LuckyEvent;
use crate::from_c::{self, free, given, given_mut};
use crate::names::{LuckyCue, LuckyFact, LuckyLook, LuckyRole};
use crate::picture::LuckyFrame;
use crate::player::{LuckyPlayer, write};
use crate::status::{LuckyStatus, Problem, call, done};

/// An actor, with the reel that it plays from.
pub struct LuckyActor {
    pub(crate) actor: Actor,
    pub(crate) reel: Reel,
}

/// Which way a thing faces on the screen.
#[repr(C)]
#[derive(Clone, Copy)]
#[allow(missing_docs)] // their names say it
pub enum LuckyFacing {
    Down,
    DownRight,
    Right,
    UpRight,
    Up,
    UpLeft,
    Left,
    DownLeft,
}

/// Facings are numbers here, as C may pass any.
pub(crate) fn facing(number: u32) -> Result<Facing, Problem> {
    let facing = Facing::ALL.get(number as usize).copied();
    facing.ok_or_else(|| Problem::range("a facing is a number from 0 to 7"))
}

/// The facing of a stick or a velocity, y down, that faced `before`: one of 4 or 8 `directions`.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_facing_of(
    x: f32,
    y: f32,
    before: u32,
    directions: u32,
    out: *mut u32,
) -> LuckyStatus {
    done(|| {
        let directions = match directions {
            4 => Directions::FOUR,
            8 => Directions::EIGHT,
            _ => return Err(Problem::range("there are 4 or 8 directions")),
        };
        from_c::out(out)?.write(Facing::from_vector([x, y], facing(before)?, directions) as u32);
        Ok(())
    })
}

/// What sets a fact of any type: [`set_fact`] finds out which.
pub(crate) trait SetFact {
    fn set<T: FactType>(&mut self, fact: FactId<T>, value: T) -> Result<(), CommandError>;
}

impl SetFact for Actor {
    fn set<T: FactType>(&mut self, fact: FactId<T>, value: T) -> Result<(), CommandError> {
        Actor::set(self, fact, value)
    }
}

/// Sets a fact to a number, as the kind of the fact reads it.
pub(crate) fn set_fact(
    reel: &Reel,
    fact: LuckyFact,
    value: f64,
    to: &mut impl SetFact,
) -> Result<(), Problem> {
    let bits = fact.bits;
    let is_flag = (value == 0.0 || value == 1.0).then_some(value == 1.0);
    let whole = (value == f64::from(value as i32)).then_some(value as i32);
    let not_this = |what: &str| Problem::range(format!("{value} is not {what}"));
    /// The fact, where it is of this type.
    fn known<T: FactType>(reel: &Reel, bits: u64) -> Option<FactId<T>> {
        Some(FactId::from_bits(bits)).filter(|fact| !reel.name(*fact).is_empty())
    }
    if let Some(fact) = known::<f32>(reel, bits) {
        to.set(fact, value as f32)?;
    } else if let Some(fact) = known::<i32>(reel, bits) {
        to.set(fact, whole.ok_or_else(|| not_this("a whole number of 32 bits"))?)?;
    } else if let Some(fact) = known::<ChoiceId>(reel, bits) {
        let index = whole.and_then(|index| u8::try_from(index).ok());
        let choice = index.map(|index| ChoiceId::at(fact, index));
        let choice = choice.filter(|choice| !reel.name(*choice).is_empty());
        to.set(fact, choice.ok_or_else(|| not_this("what lucky_art_choice gave"))?)?;
    } else if let Some(fact) = known::<bool>(reel, bits) {
        to.set(fact, is_flag.ok_or_else(|| not_this("0 or 1, as a yes/no fact is"))?)?;
    } else if let Some(fact) = known::<()>(reel, bits) {
        if is_flag.ok_or_else(|| not_this("0 or 1, as a pulse is"))? {
            to.set(fact, ())?;
        }
    } else {
        return Err(CommandError::UnknownId.into());
    }
    Ok(())
}

/// Makes an actor of a role.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_actor_new(
    art: *const LuckyArt,
    role: LuckyRole,
    out: *mut *mut LuckyActor,
) -> LuckyStatus {
    done(|| {
        let (reel, role) = (given(art)?.reel(), role.into());
        reel.role(role).ok_or_else(|| Problem::unknown("the reel has no such role"))?;
        let actor = LuckyActor { actor: Actor::new(reel, role), reel: reel.clone() };
        from_c::out(out)?.give(actor);
        Ok(())
    })
}

/// Ends an actor.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_actor_free(actor: *mut LuckyActor) -> LuckyStatus {
    done(|| free(actor))
}

/// Goes on with another version of its reel; another reel is refused.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_actor_reload(
    actor: *mut LuckyActor,
    art: *const LuckyArt,
) -> LuckyStatus {
    done(|| {
        let (actor, reel) = (given_mut(actor)?, given(art)?.reel());
        if !actor.actor.player().belongs_to(reel) {
            return Err(Problem::unknown("this is not another version of the actor's reel"));
        }
        actor.reel = reel.clone();
        Ok(())
    })
}

/// Sets a fact: a yes/no fact to 0 or 1, a number to a number, a choice to what `lucky_art_choice` gave; 1 sets off a
/// pulse. Set facts as they are, every frame.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_actor_set(
    actor: *mut LuckyActor,
    fact: LuckyFact,
    value: f64,
) -> LuckyStatus {
    done(|| {
        let LuckyActor { actor, reel } = given_mut(actor)?;
        set_fact(reel, fact, value, actor)
    })
}

/// Sets which way it faces: a LuckyFacing.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_actor_set_facing(
    actor: *mut LuckyActor,
    facing: u32,
) -> LuckyStatus {
    done(|| {
        given_mut(actor)?.actor.set_facing(self::facing(facing)?);
        Ok(())
    })
}

/// Puts a look on, over the others, or takes it off.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_actor_wear(
    actor: *mut LuckyActor,
    look: LuckyLook,
    is_on: bool,
) -> LuckyStatus {
    done(|| {
        let LuckyActor { actor, reel } = given_mut(actor)?;
        if is_on {
            return Ok(actor.wear(reel, look.into())?);
        }
        actor.take_off(look.into());
        Ok(())
    })
}

/// Advances by so many ticks, with events as `lucky_player_advance` writes them.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_actor_advance(
    actor: *mut LuckyActor,
    ticks: u64,
    events: *mut LuckyEvent,
    room: usize,
    count: *mut usize,
) -> LuckyStatus {
    call(|| {
        let LuckyActor { actor, reel } = given_mut(actor)?;
        let out = from_c::room(events, room)?;
        write(actor.advance(reel, Ticks::new(ticks)), out, count)
    })
}

/// What it shows; `LUCKY_STATUS_NOTHING` where it has vanished.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_actor_frame(
    actor: *const LuckyActor,
    out: *mut LuckyFrame,
) -> LuckyStatus {
    call(|| {
        let LuckyActor { actor, reel } = given(actor)?;
        LuckyFrame::write(actor.packed_frame(reel), out)
    })
}

/// A copy of the player within, to be asked.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_actor_player(
    actor: *const LuckyActor,
    out: *mut LuckyPlayer,
) -> LuckyStatus {
    done(|| {
        from_c::out(out)?.write((*given(actor)?.actor.player()).into());
        Ok(())
    })
}

/// The cue that it follows; `LUCKY_STATUS_NOTHING` before its first advance, and where none matches.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_actor_cue(
    actor: *const LuckyActor,
    out: *mut LuckyCue,
) -> LuckyStatus {
    call(|| {
        let (actor, out) = (given(actor)?, from_c::out(out)?);
        Ok(actor.actor.cue().map_or(LuckyStatus::Nothing, |cue| {
            out.write(cue.into());
            LuckyStatus::Ok
        }))
    })
}
