//! Crowds: many players and actors, advanced in one call.

use std::ffi::c_void;
use std::mem::MaybeUninit;

use lucky_reel::{
    CommandError, Crowd, EventBuffer, EventMask, Flips, InstanceWriter, NewMember, Placement,
    Speed, Ticks,
    crowd::{MemberId, Target},
    cue::FactType,
    id::FactId,
};

use crate::actor::{SetFact, facing, set_fact};
use crate::art::LuckyArt;
use crate::event::LuckyEvent;
use crate::from_c::{given, list, room};
use crate::names::{LuckyClip, LuckyFact, LuckyRole};
use crate::picture::{LuckyFrame, LuckyPlacement};
use crate::status::{LuckyStatus, Problem, call, done};

/// A crowd, with the reel that it plays from.
pub struct LuckyCrowd {
    crowd: Crowd,
    writer: InstanceWriter,
    events: EventBuffer,
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
pub extern "C" fn lucky_crowd_new(
    art: Option<&LuckyArt>,
    out: Option<&mut MaybeUninit<Option<Box<LuckyCrowd>>>>,
) -> LuckyStatus {
    done(|| {
        let reel = given(art)?.reel();
        let (crowd, writer) = (Crowd::new(reel), InstanceWriter::new(reel));
        let crowd = LuckyCrowd { crowd, writer, events: EventBuffer::new() };
        given(out)?.write(Some(Box::new(crowd)));
        Ok(())
    })
}

/// Ends a crowd.
#[unsafe(no_mangle)]
pub extern "C" fn lucky_crowd_free(crowd: Option<Box<LuckyCrowd>>) {
    drop(crowd);
}

/// Goes on with another version of its reel; another reel is refused.
#[unsafe(no_mangle)]
pub extern "C" fn lucky_crowd_reload(
    crowd: Option<&mut LuckyCrowd>,
    art: Option<&LuckyArt>,
) -> LuckyStatus {
    done(|| {
        let (crowd, reel) = (given(crowd)?, given(art)?.reel());
        if !crowd.crowd.reload(reel) {
            return Err(Problem::unknown("this is not another version of the crowd's reel"));
        }
        crowd.writer.reload(reel);
        Ok(())
    })
}

fn spawn(
    crowd: &mut LuckyCrowd,
    new: NewMember,
    out: Option<&mut MaybeUninit<LuckyMember>>,
) -> Result<(), Problem> {
    let out = given(out)?;
    out.write(crowd.crowd.spawn(new)?.into());
    Ok(())
}

/// Adds a player of a clip, at its start.
#[unsafe(no_mangle)]
pub extern "C" fn lucky_crowd_spawn(
    crowd: Option<&mut LuckyCrowd>,
    clip: LuckyClip,
    out: Option<&mut MaybeUninit<LuckyMember>>,
) -> LuckyStatus {
    done(|| spawn(given(crowd)?, NewMember::playing(clip.into()), out))
}

/// Adds a player of a clip, at a place within it that depends only on the seed and the member's own number.
#[unsafe(no_mangle)]
pub extern "C" fn lucky_crowd_spawn_random(
    crowd: Option<&mut LuckyCrowd>,
    clip: LuckyClip,
    seed: u64,
    number: u64,
    out: Option<&mut MaybeUninit<LuckyMember>>,
) -> LuckyStatus {
    done(|| spawn(given(crowd)?, NewMember::playing(clip.into()).random_start(seed, number), out))
}

/// Adds an actor of a role.
#[unsafe(no_mangle)]
pub extern "C" fn lucky_crowd_spawn_actor(
    crowd: Option<&mut LuckyCrowd>,
    role: LuckyRole,
    out: Option<&mut MaybeUninit<LuckyMember>>,
) -> LuckyStatus {
    done(|| spawn(given(crowd)?, NewMember::acting(role.into()), out))
}

/// Does something to a member; `LUCKY_STATUS_NOTHING` where it is gone.
fn command(
    crowd: Option<&mut LuckyCrowd>,
    member: LuckyMember,
    work: impl FnOnce(&mut LuckyCrowd, MemberId) -> Result<(), Problem>,
) -> LuckyStatus {
    call(|| {
        let (crowd, member) = (given(crowd)?, member.into());
        if !crowd.crowd.contains(member) {
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
pub extern "C" fn lucky_crowd_remove(
    crowd: Option<&mut LuckyCrowd>,
    member: LuckyMember,
) -> LuckyStatus {
    command(crowd, member, |crowd, member| {
        crowd.crowd.remove(member);
        Ok(())
    })
}

/// Plays a clip from its start.
#[unsafe(no_mangle)]
pub extern "C" fn lucky_crowd_play(
    crowd: Option<&mut LuckyCrowd>,
    member: LuckyMember,
    clip: LuckyClip,
) -> LuckyStatus {
    command(crowd, member, |crowd, member| reached(crowd.crowd.play(member, clip.into())))
}

/// Plays a clip, if it is not the one last asked for.
#[unsafe(no_mangle)]
pub extern "C" fn lucky_crowd_switch_to(
    crowd: Option<&mut LuckyCrowd>,
    member: LuckyMember,
    clip: LuckyClip,
) -> LuckyStatus {
    command(crowd, member, |crowd, member| reached(crowd.crowd.switch_to(member, clip.into())))
}

/// Sets the speed, as `lucky_player_set_speed`.
#[unsafe(no_mangle)]
pub extern "C" fn lucky_crowd_set_speed(
    crowd: Option<&mut LuckyCrowd>,
    member: LuckyMember,
    speed: f64,
) -> LuckyStatus {
    command(crowd, member, |crowd, member| {
        crowd.crowd.set_speed(member, Speed::from_f64(speed).map_err(Problem::range)?);
        Ok(())
    })
}

/// Mirrors it, as `lucky_player_set_flips`.
#[unsafe(no_mangle)]
pub extern "C" fn lucky_crowd_set_flips(
    crowd: Option<&mut LuckyCrowd>,
    member: LuckyMember,
    x: bool,
    y: bool,
) -> LuckyStatus {
    command(crowd, member, |crowd, member| {
        crowd.crowd.set_flips(member, Flips { x, y });
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
pub extern "C" fn lucky_crowd_set(
    crowd: Option<&mut LuckyCrowd>,
    member: LuckyMember,
    fact: LuckyFact,
    value: f64,
) -> LuckyStatus {
    command(crowd, member, |LuckyCrowd { crowd, .. }, member| {
        let reel = crowd.reel().clone();
        set_fact(&reel, fact, value, &mut MemberFacts(crowd, member))
    })
}

/// Sets which way an actor faces: a LuckyFacing.
#[unsafe(no_mangle)]
pub extern "C" fn lucky_crowd_set_facing(
    crowd: Option<&mut LuckyCrowd>,
    member: LuckyMember,
    facing: u32,
) -> LuckyStatus {
    command(crowd, member, |crowd, member| {
        match crowd.crowd.set_facing(member, self::facing(facing)?) {
            0 => Err(CommandError::NotAnActor.into()),
            _ => Ok(()),
        }
    })
}

/// Takes an event; `user` is what was given to `lucky_crowd_advance`. It must not use the crowd, and must
/// return (no `longjmp`).
pub type LuckyTakeEvent = Option<unsafe extern "C" fn(user: *mut c_void, event: *const LuckyEvent)>;

/// Advances all members by so many ticks. Events of this LuckyEventMask are handed to `take`, member by member
/// in the order of their slots; null takes none.
///
/// # Safety
/// As the header says; `take` may be called with `user`.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_crowd_advance(
    crowd: Option<&mut LuckyCrowd>,
    ticks: u64,
    mask: u32,
    take: LuckyTakeEvent,
    user: *mut c_void,
) -> LuckyStatus {
    done(|| {
        let (LuckyCrowd { crowd, events, .. }, ticks) = (given(crowd)?, Ticks::new(ticks));
        let Some(take) = take else {
            crowd.advance(ticks);
            return Ok(());
        };
        crowd.advance_into(ticks, EventMask::from_bits(mask as u8), events);
        for (member, event) in &*events {
            let event = LuckyEvent::new(&event, member.to_bits());
            // SAFETY: the header asks that it may be called.
            unsafe { take(user, &raw const event) }
        }
        Ok(())
    })
}

/// How many members there are, and below which number their slots are.
#[unsafe(no_mangle)]
pub extern "C" fn lucky_crowd_count(
    crowd: Option<&LuckyCrowd>,
    members: Option<&mut MaybeUninit<usize>>,
    slots: Option<&mut MaybeUninit<usize>>,
) -> LuckyStatus {
    done(|| {
        let crowd = &given(crowd)?.crowd;
        given(members)?.write(crowd.len());
        given(slots)?.write(crowd.slots());
        Ok(())
    })
}

/// What a member shows; `LUCKY_STATUS_NOTHING` where it is gone.
#[unsafe(no_mangle)]
pub extern "C" fn lucky_crowd_frame(
    crowd: Option<&LuckyCrowd>,
    member: LuckyMember,
    out: Option<&mut MaybeUninit<LuckyFrame>>,
) -> LuckyStatus {
    call(|| LuckyFrame::write(given(crowd)?.crowd.packed_frame(member.into()), out))
}

/// All that a renderer needs to draw a frame, 48 bytes for an instance buffer. A corner of the unit square, y
/// down, lands on `origin + corner.x * axis_x + corner.y * axis_y`, and shows the texel at
/// `source.xy + corner * source.zw` of the image.
#[repr(C)]
#[derive(Clone, Copy)]
pub struct LuckyInstance {
    /// Where the source's top left corner lands.
    pub origin: [f32; 2],
    /// From there to its top right corner.
    pub axis_x: [f32; 2],
    /// From there to its bottom left corner.
    pub axis_y: [f32; 2],
    /// Left, top, width and height in the image, in pixels.
    pub source: [u16; 4],
    /// The image.
    pub image: u16,
    /// Bit 0: mirrored left to right. Bit 1: top to bottom.
    pub flips: u16,
    /// Red, green, blue and alpha to multiply by.
    pub tint: [u8; 4],
    /// For a depth buffer, or to sort by.
    pub depth: f32,
    /// For the game to use.
    pub user: u32,
}

/// Writes an instance for each member that shows something and whose slot has a place, in the order of slots,
/// and how many these are to `count`. Where there is no room for all, `LUCKY_STATUS_FULL`: the first ones are
/// written.
///
/// # Safety
/// As the header says; there are so many places, and room for so many instances.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_crowd_instances(
    crowd: Option<&LuckyCrowd>,
    places: *const LuckyPlacement,
    place_count: usize,
    out: *mut LuckyInstance,
    room: usize,
    count: Option<&mut MaybeUninit<usize>>,
) -> LuckyStatus {
    call(|| {
        let LuckyCrowd { crowd, writer, .. } = given(crowd)?;
        let count = given(count)?;
        // SAFETY: the header asks for both.
        let (places, out) = unsafe { (list(places, place_count)?, self::room(out, room)?) };
        let placed = crowd.ids(Target::All).filter_map(|member| {
            let place: Placement = (*places.get(member.index())?).into();
            let picture = crowd.packed_frame(member);
            picture.frame()?;
            Some(writer.make(picture, place))
        });
        let mut placed = placed.map(|made: lucky_reel::view::Instance| LuckyInstance {
            origin: made.origin,
            axis_x: made.axis_x,
            axis_y: made.axis_y,
            source: made.source,
            image: made.image,
            flips: made.flips,
            tint: made.tint,
            depth: made.depth,
            user: made.user,
        });
        let mut written = 0;
        for (out, instance) in out.iter_mut().zip(placed.by_ref()) {
            out.write(instance);
            written += 1;
        }
        count.write(written);
        if placed.next().is_some() {
            let what = format!("there is room for {written} instances only: give more");
            return Err(Problem(LuckyStatus::Full, what));
        }
        Ok(LuckyStatus::Ok)
    })
}
