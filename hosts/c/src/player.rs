//! Players: plain structs that belong to the game.

use std::mem::MaybeUninit;

use lucky_reel::{CommandError, Event, Flips, Player, Reel, Speed, Ticks};

use crate::art::LuckyArt;
use crate::event::LuckyEvent;
use crate::from_c::{self, given, given_mut};
use crate::names::{LuckyClip, LuckySpan};
use crate::picture::LuckyFrame;
use crate::status::{LuckyStatus, Problem, call, done};

/// The state of one thing that plays: keep it in the game's own structs, and copy it to roll back later. It
/// means nothing in another run of the program. A zeroed struct is not a player, and is refused.
#[repr(C)]
#[derive(Clone, Copy)]
pub struct LuckyPlayer {
    /// To be kept; not to be changed.
    pub bits: [u64; 6],
}

impl From<Player> for LuckyPlayer {
    fn from(player: Player) -> LuckyPlayer {
        LuckyPlayer { bits: player.to_bits() }
    }
}

pub(crate) unsafe fn of<'a>(
    art: *const LuckyArt,
    player: *const LuckyPlayer,
) -> Result<(&'a Reel, Player), Problem> {
    let reel = given(art)?.reel();
    let player = Player::from_bits(reel, given(player)?.bits);
    Ok((reel, player.ok_or_else(|| Problem::unknown("this is not a player of the reel"))?))
}

unsafe fn change(
    art: *const LuckyArt,
    player: *mut LuckyPlayer,
    work: impl FnOnce(&Reel, &mut Player) -> Result<(), Problem>,
) -> LuckyStatus {
    done(|| {
        let (reel, mut changed) = of(art, player)?;
        work(reel, &mut changed)?;
        *given_mut(player)? = changed.into();
        Ok(())
    })
}

pub(crate) fn known(known: bool) -> Result<(), Problem> {
    if known { Ok(()) } else { Err(CommandError::UnknownId.into()) }
}

/// A player of a clip. It stands at its start, and begins to play with the first advance.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_player_new(
    art: *const LuckyArt,
    clip: LuckyClip,
    out: *mut LuckyPlayer,
) -> LuckyStatus {
    done(|| {
        let reel = given(art)?.reel();
        let player = Player::new(reel, clip.into());
        known(player.belongs_to(reel))?;
        from_c::out(out)?.write(player.into());
        Ok(())
    })
}

/// Plays a clip from its start.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_player_play(
    art: *const LuckyArt,
    player: *mut LuckyPlayer,
    clip: LuckyClip,
) -> LuckyStatus {
    change(art, player, |reel, player| known(player.play(reel, clip.into())))
}

/// Plays a clip, if it is not the one last asked for: call it every frame.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_player_switch_to(
    art: *const LuckyArt,
    player: *mut LuckyPlayer,
    clip: LuckyClip,
) -> LuckyStatus {
    change(art, player, |reel, player| known(player.switch_to(reel, clip.into())))
}

/// Names the clip that follows the present one, instead of what that says itself.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_player_then(
    art: *const LuckyArt,
    player: *mut LuckyPlayer,
    clip: LuckyClip,
) -> LuckyStatus {
    change(art, player, |reel, player| Ok(player.then(reel, clip.into())?))
}

/// Starts the clip last asked for again.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_player_restart(
    art: *const LuckyArt,
    player: *mut LuckyPlayer,
) -> LuckyStatus {
    change(art, player, |reel, player| known(player.restart(reel)))
}

/// Stands on the rest hold of the clip.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_player_stop(
    art: *const LuckyArt,
    player: *mut LuckyPlayer,
) -> LuckyStatus {
    change(art, player, |_, player| {
        player.stop();
        Ok(())
    })
}

/// Pauses or resumes.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_player_set_paused(
    art: *const LuckyArt,
    player: *mut LuckyPlayer,
    paused: bool,
) -> LuckyStatus {
    change(art, player, |_, player| {
        player.set_paused(paused);
        Ok(())
    })
}

/// Sets the speed: 1 is normal, 0 stands still, below 0 plays backward; from -32,767 to 32,767.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_player_set_speed(
    art: *const LuckyArt,
    player: *mut LuckyPlayer,
    speed: f64,
) -> LuckyStatus {
    change(art, player, |_, player| {
        player.set_speed(Speed::from_f64(speed).map_err(Problem::range)?);
        Ok(())
    })
}

/// Mirrors it about its pivot, left to right and top to bottom.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_player_set_flips(
    art: *const LuckyArt,
    player: *mut LuckyPlayer,
    x: bool,
    y: bool,
) -> LuckyStatus {
    change(art, player, |_, player| {
        player.set_flips(Flips { x, y });
        Ok(())
    })
}

/// Goes to a time from the start of the clip, in ticks.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_player_seek(
    art: *const LuckyArt,
    player: *mut LuckyPlayer,
    ticks: u64,
) -> LuckyStatus {
    change(art, player, |reel, player| known(player.seek(reel, Ticks::new(ticks))))
}

/// Advances by so many ticks. The first `room` events are written to `events`, and how many these are to
/// `count`; where there are more, `LUCKY_STATUS_FULL`: the player has advanced, and the others are lost. With no
/// room and null for both pointers, events cost nothing.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_player_advance(
    art: *const LuckyArt,
    player: *mut LuckyPlayer,
    ticks: u64,
    events: *mut LuckyEvent,
    room: usize,
    count: *mut usize,
) -> LuckyStatus {
    call(|| {
        let out = from_c::room(events, room)?;
        let (reel, mut advanced) = of(art, player)?;
        let happened = advanced.advance(reel, Ticks::new(ticks));
        *given_mut(player)? = advanced.into();
        write(happened, out, count)
    })
}

/// Writes events as far as there is room.
pub(crate) unsafe fn write(
    mut events: impl Iterator<Item = Event>,
    out: &mut [MaybeUninit<LuckyEvent>],
    count: *mut usize,
) -> Result<LuckyStatus, Problem> {
    let has_room = !out.is_empty();
    let mut written = 0;
    for (out, event) in out.iter_mut().zip(events.by_ref()) {
        out.write(LuckyEvent::new(&event, 0));
        written += 1;
    }
    if !count.is_null() {
        from_c::out(count)?.write(written);
    }
    if has_room && events.next().is_some() {
        let what = format!("more than {written} events: give more room, or shorter steps");
        return Err(Problem(LuckyStatus::Full, what));
    }
    Ok(LuckyStatus::Ok)
}

/// What it shows; `LUCKY_STATUS_NOTHING` where it has vanished.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_player_frame(
    art: *const LuckyArt,
    player: *const LuckyPlayer,
    out: *mut LuckyFrame,
) -> LuckyStatus {
    call(|| {
        let (reel, player) = of(art, player)?;
        LuckyFrame::write(player.packed_frame(reel), out)
    })
}

/// The clip, hold and cycle of a player, and whether it goes on.
#[repr(C)]
#[derive(Clone, Copy)]
pub struct LuckyPlayerState {
    /// The clip that plays.
    pub clip: LuckyClip,
    /// The hold that is up, from 0.
    pub hold: u32,
    /// Cycles that are complete.
    pub cycle: i32,
    /// Whether it has come to its end.
    pub has_ended: bool,
    /// Whether it is paused.
    pub is_paused: bool,
}

/// The state of a player.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_player_state(
    art: *const LuckyArt,
    player: *const LuckyPlayer,
    out: *mut LuckyPlayerState,
) -> LuckyStatus {
    done(|| {
        let (reel, player) = of(art, player)?;
        from_c::out(out)?.write(LuckyPlayerState {
            clip: player.clip().into(),
            hold: player.hold_index(reel).unwrap_or(0),
            cycle: player.cycle(),
            has_ended: player.has_ended(),
            is_paused: player.is_paused(),
        });
        Ok(())
    })
}

/// Whether a player stands within a span of its clip.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_player_in_span(
    art: *const LuckyArt,
    player: *const LuckyPlayer,
    span: LuckySpan,
    out: *mut bool,
) -> LuckyStatus {
    done(|| {
        let (reel, player) = of(art, player)?;
        from_c::out(out)?.write(player.in_span(reel, span.into()));
        Ok(())
    })
}
