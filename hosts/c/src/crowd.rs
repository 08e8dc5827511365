//! Crowds: many players and actors, advanced in one call.

use lucky_reel::{
    CommandError, Crowd, EventBuffer, EventMask, Flips, InstanceWriter, NewMember, Speed, Ticks,
    crowd::MemberId, cue::FactType, id::FactId, view::Instance,
};

use crate::actor::{SetFact, facing, set_fact};
use crate::art::LuckyArt;
use crate::event::LuckyEvent;
use crate::from_c::{self, free, given, given_mut, out};
use crate::group::LuckyGroup;
use crate::names::{LuckyClip, LuckyFact, LuckyLook, LuckyRole};
use crate::picture::LuckyFrame;
use crate::status::{LuckyStatus, Problem, call, done};

/// A crowd, with the reel that it plays from.
pub struct LuckyCrowd {
    pub(crate) crowd: Crowd,
    pub(crate) writer: InstanceWriter,
    pub(crate) happened: EventBuffer,
    /// What happened, for C to read.
    pub(crate) events: Vec<LuckyEvent>,
    pub(crate) instances: Vec<Instance>,
}

impl LuckyCrowd {
    pub(crate) fn of(crowd: Crowd) -> LuckyCrowd {
        LuckyCrowd {
            writer: InstanceWriter::new(crowd.reel()),
            happened: EventBuffer::new(),
            events: Vec::new(),
            instances: Vec::new(),
            crowd,
        }
    }

    /// Makes a list for C of what the buffer has.
    pub(crate) fn list_events(&mut self) {
        self.events.clear();
        let events = self.happened.iter();
        self.events.extend(events.map(|(member, event)| LuckyEvent::new(&event, member.to_bits())));
    }
}

/// A member of a crowd. When it is gone, its id is refused; it never reaches another member.
#[repr(C)]
#[derive(Clone, Copy)]
pub struct LuckyMember {
    /// The slot in the upper 32 bits, its generation in the lower. Slots are used again, so that they stay
    /// dense: for the game's own lists.
    pub bits: u64,
}

impl From<MemberId> for LuckyMember {
    fn from(member: MemberId) -> LuckyMember {
        LuckyMember { bits: member.to_bits() }
    }
}

impl From<LuckyMember> for MemberId {
    fn from(member: LuckyMember) -> MemberId {
        MemberId::from_bits(member.bits)
    }
}

/// Which events are wanted: add them up.
#[repr(C)]
#[derive(Clone, Copy)]
pub enum LuckyEventMask {
    /// No events: they cost nothing then.
    None = 0,
    /// Holds that came up.
    Enters = 1,
    /// Marks.
    Marks = 2,
    /// Cycles and turns.
    Cycles = 4,
    /// Ends, and clips that go on.
    Ends = 8,
    /// Cues and bridges.
    Cues = 16,
    /// All events.
    All = 31,
}

/// Makes a crowd without members.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_crowd_new(
    art: *const LuckyArt,
    out: *mut *mut LuckyCrowd,
) -> LuckyStatus {
    done(|| {
        let crowd = LuckyCrowd::of(Crowd::new(given(art)?.reel()));
        from_c::out(out)?.give(crowd);
        Ok(())
    })
}

/// Ends a crowd.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_crowd_free(crowd: *mut LuckyCrowd) -> LuckyStatus {
    done(|| free(crowd))
}

/// Goes on with another version of its reel; another reel is refused.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_crowd_reload(
    crowd: *mut LuckyCrowd,
    art: *const LuckyArt,
) -> LuckyStatus {
    done(|| {
        let (crowd, reel) = (given_mut(crowd)?, given(art)?.reel());
        if !crowd.crowd.reload(reel) {
            return Err(Problem::unknown("this is not another version of the crowd's reel"));
        }
        crowd.writer.reload(reel);
        crowd.happened = EventBuffer::new();
        crowd.events.clear();
        Ok(())
    })
}

/// What a new member is and how it begins. Begin with `lucky_new_player` or `lucky_new_actor`.
#[repr(C)]
#[derive(Clone, Copy)]
pub struct LuckyNewMember {
    /// The clip of a player; for an actor it is not read.
    pub clip: LuckyClip,
    /// The role of an actor; for a player it is not read.
    pub role: LuckyRole,
    /// Whether it is an actor.
    pub is_actor: bool,
    /// Whether it is mirrored left to right.
    pub flip_x: bool,
    /// Whether it is mirrored top to bottom.
    pub flip_y: bool,
    /// Whether a player begins at a random place of its clip, which depends on `seed` and `number` alone.
    pub is_random: bool,
    /// Whether an actor is freed once it has vanished, as players are.
    pub is_freed: bool,
    /// The group that it is in for as long as it lives.
    pub group: LuckyGroup,
    /// See `is_random`.
    pub seed: u64,
    /// See `is_random`.
    pub number: u64,
    /// 1 is normal.
    pub speed: f64,
}

/// A new player of a clip, at its start, in the first group, at normal speed.
#[unsafe(no_mangle)]
pub extern "C" fn lucky_new_player(clip: LuckyClip) -> LuckyNewMember {
    LuckyNewMember {
        clip,
        role: LuckyRole { bits: 0 },
        is_actor: false,
        flip_x: false,
        flip_y: false,
        is_random: false,
        is_freed: false,
        group: LuckyGroup { number: 0 },
        seed: 0,
        number: 0,
        speed: 1.0,
    }
}

/// A new actor of a role, in the first group, at normal speed.
#[unsafe(no_mangle)]
pub extern "C" fn lucky_new_actor(role: LuckyRole) -> LuckyNewMember {
    LuckyNewMember { role, is_actor: true, ..lucky_new_player(LuckyClip { bits: 0 }) }
}

impl LuckyNewMember {
    fn read(&self) -> Result<NewMember, Problem> {
        let new = match self.is_actor {
            true => NewMember::acting(self.role.into()),
            false => NewMember::playing(self.clip.into()),
        };
        let new = new.flipped(Flips { x: self.flip_x, y: self.flip_y }).in_group(self.group.into());
        let new = match self.speed {
            1.0 => new,
            speed => new.speed(Speed::from_f64(speed).map_err(Problem::range)?),
        };
        let new = if self.is_random { new.random_start(self.seed, self.number) } else { new };
        Ok(if self.is_freed { new.freed_when_vanished() } else { new })
    }
}

/// Adds a member.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_crowd_spawn(
    crowd: *mut LuckyCrowd,
    about: *const LuckyNewMember,
    out: *mut LuckyMember,
) -> LuckyStatus {
    done(|| {
        let (crowd, new, out) = (given_mut(crowd)?, given(about)?.read()?, from_c::out(out)?);
        out.write(crowd.crowd.spawn(new)?.into());
        Ok(())
    })
}

/// Does something to a member; `LUCKY_STATUS_NOTHING` where it is gone.
unsafe fn command(
    crowd: *mut LuckyCrowd,
    member: LuckyMember,
    work: impl FnOnce(&mut Crowd, MemberId) -> Result<(), Problem>,
) -> LuckyStatus {
    call(|| {
        let (crowd, member) = (&mut given_mut(crowd)?.crowd, member.into());
        if !crowd.contains(member) {
            return Ok(LuckyStatus::Nothing);
        }
        work(crowd, member).map(|()| LuckyStatus::Ok)
    })
}

/// A clip that the reel does not know, or a member that chooses its clips itself, is not reached.
fn reached(members: usize) -> Result<(), Problem> {
    if members > 0 { Ok(()) } else { Err(CommandError::UnknownId.into()) }
}

/// Removes a member.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_crowd_remove(
    crowd: *mut LuckyCrowd,
    member: LuckyMember,
) -> LuckyStatus {
    command(crowd, member, |crowd, member| reached(crowd.remove(member)))
}

/// Plays a clip from its start.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_crowd_play(
    crowd: *mut LuckyCrowd,
    member: LuckyMember,
    clip: LuckyClip,
) -> LuckyStatus {
    command(crowd, member, |crowd, member| reached(crowd.play(member, clip.into())))
}

/// Plays a clip, if it is not the one last asked for.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_crowd_switch_to(
    crowd: *mut LuckyCrowd,
    member: LuckyMember,
    clip: LuckyClip,
) -> LuckyStatus {
    command(crowd, member, |crowd, member| reached(crowd.switch_to(member, clip.into())))
}

/// Pauses or resumes.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_crowd_set_paused(
    crowd: *mut LuckyCrowd,
    member: LuckyMember,
    paused: bool,
) -> LuckyStatus {
    command(crowd, member, |crowd, member| reached(crowd.set_paused(member, paused)))
}

/// Sets the speed, as `lucky_player_set_speed`.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_crowd_set_speed(
    crowd: *mut LuckyCrowd,
    member: LuckyMember,
    speed: f64,
) -> LuckyStatus {
    command(crowd, member, |crowd, member| {
        reached(crowd.set_speed(member, Speed::from_f64(speed).map_err(Problem::range)?))
    })
}

/// Holds it for so many ticks of the game, as on a blow that lands.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_crowd_hit_stop(
    crowd: *mut LuckyCrowd,
    member: LuckyMember,
    ticks: u64,
) -> LuckyStatus {
    command(crowd, member, |crowd, member| reached(crowd.hit_stop(member, Ticks::new(ticks))))
}

/// Mirrors it, as `lucky_player_set_flips`.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_crowd_set_flips(
    crowd: *mut LuckyCrowd,
    member: LuckyMember,
    x: bool,
    y: bool,
) -> LuckyStatus {
    command(crowd, member, |crowd, member| reached(crowd.set_flips(member, Flips { x, y })))
}

/// Puts a look on, over the others, or takes it off.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_crowd_wear(
    crowd: *mut LuckyCrowd,
    member: LuckyMember,
    look: LuckyLook,
    is_on: bool,
) -> LuckyStatus {
    command(crowd, member, |crowd, member| {
        if is_on {
            return Ok(crowd.wear(member, look.into())?);
        }
        crowd.take_off(member, look.into());
        Ok(())
    })
}

struct MemberFacts<'c>(&'c mut Crowd, MemberId);

impl SetFact for MemberFacts<'_> {
    fn set<T: FactType>(&mut self, fact: FactId<T>, value: T) -> Result<(), CommandError> {
        self.0.set_fact(self.1, fact, value)
    }
}

/// Sets a fact of an actor, as `lucky_actor_set`.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_crowd_set(
    crowd: *mut LuckyCrowd,
    member: LuckyMember,
    fact: LuckyFact,
    value: f64,
) -> LuckyStatus {
    command(crowd, member, |crowd, member| {
        let reel = crowd.reel().clone();
        set_fact(&reel, fact, value, &mut MemberFacts(crowd, member))
    })
}

/// Sets which way an actor faces: a LuckyFacing.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_crowd_set_facing(
    crowd: *mut LuckyCrowd,
    member: LuckyMember,
    facing: u32,
) -> LuckyStatus {
    command(crowd, member, |crowd, member| match crowd.set_facing(member, self::facing(facing)?) {
        0 => Err(CommandError::NotAnActor.into()),
        _ => Ok(()),
    })
}

/// Advances all members by so many ticks, and keeps the events of this LuckyEventMask for
/// `lucky_crowd_events`.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_crowd_advance(
    crowd: *mut LuckyCrowd,
    ticks: u64,
    mask: u32,
) -> LuckyStatus {
    done(|| {
        let (crowd, ticks) = (given_mut(crowd)?, Ticks::new(ticks));
        match EventMask::from_bits(mask as u8) {
            EventMask::NONE => {
                crowd.events.clear();
                crowd.crowd.advance(ticks);
            }
            mask => {
                crowd.crowd.advance_into(ticks, mask, &mut crowd.happened);
                crowd.list_events();
            }
        }
        Ok(())
    })
}

/// The events of the last advance, or of the group that was woken last, member by member in the order of their slots.
/// The list belongs to the crowd: it is there until the next advance, wake, reload or free. The crowd may be changed
/// while it is read.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_crowd_events(
    crowd: *const LuckyCrowd,
    events: *mut *const LuckyEvent,
    count: *mut usize,
) -> LuckyStatus {
    done(|| {
        let (list, events, count) = (&given(crowd)?.events, out(events)?, out(count)?);
        events.write(list.as_ptr());
        count.write(list.len());
        Ok(())
    })
}

/// How many members there are, and below which number their slots are.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_crowd_count(
    crowd: *const LuckyCrowd,
    members: *mut usize,
    slots: *mut usize,
) -> LuckyStatus {
    done(|| {
        let (crowd, members, slots) = (&given(crowd)?.crowd, out(members)?, out(slots)?);
        members.write(crowd.len());
        slots.write(crowd.slots());
        Ok(())
    })
}

/// What a member shows; `LUCKY_STATUS_NOTHING` where it is gone.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_crowd_frame(
    crowd: *const LuckyCrowd,
    member: LuckyMember,
    out: *mut LuckyFrame,
) -> LuckyStatus {
    call(|| LuckyFrame::write(given(crowd)?.crowd.packed_frame(member.into()), out))
}
