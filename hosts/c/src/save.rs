//! Players, actors and crowds as bytes, to be loaded by another build of the game.

use lucky_reel::reel::NameError;
use lucky_reel::save::{RestoreError, Savable, Saved};
use lucky_reel::{Actor, ClipId, Crowd, Player, Reel};
use serde::Serialize;
use serde::de::DeserializeOwned;

use crate::actor::LuckyActor;
use crate::art::LuckyArt;
use crate::crowd::LuckyCrowd;
use crate::from_c::{self, given, list, out};
use crate::player::{self, LuckyPlayer};
use crate::status::{LuckyStatus, Problem, call, done};

/// Writes bytes as far as there is room, and how many there are in all to `size`.
unsafe fn write(
    saved: &impl Serialize,
    to: *mut u8,
    room: usize,
    size: *mut usize,
) -> Result<LuckyStatus, Problem> {
    let (size, to) = (out(size)?, from_c::room(to, room)?);
    let bytes = postcard::to_allocvec(saved);
    let bytes = bytes.map_err(|error| Problem(LuckyStatus::Bug, error.to_string()))?;
    size.write(bytes.len());
    if to.len() < bytes.len() {
        let what = format!("there is room for {} of {} bytes: give more", to.len(), bytes.len());
        return Err(Problem(LuckyStatus::Full, what));
    }
    for (to, byte) in to.iter_mut().zip(bytes) {
        to.write(byte);
    }
    Ok(LuckyStatus::Ok)
}

/// Restores what was saved. What the reel has lost is an error, or left out.
fn read<T: Savable>(bytes: &[u8], reel: &Reel, is_strict: bool) -> Result<T, Problem>
where
    Saved<T>: DeserializeOwned,
{
    let not_saved = |_| Problem(LuckyStatus::Load, "these are not the bytes of a save".into());
    let saved: Saved<T> = postcard::from_bytes(bytes).map_err(not_saved)?;
    let nothing = |_: &NameError| None::<ClipId>;
    let restored = match is_strict {
        true => saved.load(reel),
        false => saved.restore(reel, nothing).map(|(restored, _)| restored),
    };
    restored.map_err(|error| match error {
        RestoreError::Missing(_) => Problem::unknown(error),
        _ => Problem(LuckyStatus::Load, error.to_string()),
    })
}

/// Writes a player as at most `room` bytes to `bytes`, and how many they are to `size`. Where there is no room for all,
/// `LUCKY_STATUS_FULL`: nothing is written but the size, so that null and no room ask for it.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_player_save(
    art: *const LuckyArt,
    player: *const LuckyPlayer,
    bytes: *mut u8,
    room: usize,
    size: *mut usize,
) -> LuckyStatus {
    call(|| {
        let (reel, player) = player::of(art, player)?;
        write(&player.save(reel), bytes, room, size)
    })
}

/// Makes a player of what `lucky_player_save` has written. Names that the reel has lost are `LUCKY_STATUS_UNKNOWN`;
/// where `is_strict` is false, only the clip itself is.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_player_load(
    art: *const LuckyArt,
    bytes: *const u8,
    size: usize,
    is_strict: bool,
    out: *mut LuckyPlayer,
) -> LuckyStatus {
    done(|| {
        let player: Player = read(list(bytes, size)?, given(art)?.reel(), is_strict)?;
        from_c::out(out)?.write(player.into());
        Ok(())
    })
}

/// Writes an actor, as `lucky_player_save` writes a player.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_actor_save(
    actor: *const LuckyActor,
    bytes: *mut u8,
    room: usize,
    size: *mut usize,
) -> LuckyStatus {
    call(|| {
        let LuckyActor { actor, reel } = given(actor)?;
        write(&actor.save(reel), bytes, room, size)
    })
}

/// Makes an actor of what `lucky_actor_save` has written. Names that the reel has lost are `LUCKY_STATUS_UNKNOWN`;
/// where `is_strict` is false, only its role and its clip are: facts, cues and looks that are gone are left out.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_actor_load(
    art: *const LuckyArt,
    bytes: *const u8,
    size: usize,
    is_strict: bool,
    out: *mut *mut LuckyActor,
) -> LuckyStatus {
    done(|| {
        let reel = given(art)?.reel();
        let actor: Actor = read(list(bytes, size)?, reel, is_strict)?;
        from_c::out(out)?.give(LuckyActor { actor, reel: reel.clone() });
        Ok(())
    })
}

/// Writes a crowd, as `lucky_player_save` writes a player. Members keep their ids.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_crowd_save(
    crowd: *const LuckyCrowd,
    bytes: *mut u8,
    room: usize,
    size: *mut usize,
) -> LuckyStatus {
    call(|| write(&given(crowd)?.crowd.save(), bytes, room, size))
}

/// Makes a crowd of what `lucky_crowd_save` has written. Names that the reel has lost are `LUCKY_STATUS_UNKNOWN`;
/// where `is_strict` is false, members whose clip or role is gone are left out.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_crowd_load(
    art: *const LuckyArt,
    bytes: *const u8,
    size: usize,
    is_strict: bool,
    out: *mut *mut LuckyCrowd,
) -> LuckyStatus {
    done(|| {
        let crowd: Crowd = read(list(bytes, size)?, given(art)?.reel(), is_strict)?;
        from_c::out(out)?.give(LuckyCrowd::of(crowd));
        Ok(())
    })
}
