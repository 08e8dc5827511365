//! Names to ids, and back.

use std::ffi::c_char;
use std::mem::MaybeUninit;

use lucky_reel::{ClipId, MarkId, Reel, cue::FactType, id::{BridgeId, ChoiceId, CueId, FactId, LookId, PointId, RoleId, SpanId}, reel::NameError};

use crate::art::LuckyArt;
use crate::from_c::{given, room, text};
use crate::status::{LuckyStatus, Problem, done};

/// An id of C is the bits of one of Rust.
macro_rules! ids {
    ($($c:ident = $rust:ident;)*) => {$(
        impl From<$rust> for $c {
            fn from(id: $rust) -> $c {
                $c { bits: id.to_bits() }
            }
        }

        impl From<$c> for $rust {
            fn from(id: $c) -> $rust {
                $rust::from_bits(id.bits)
            }
        }
    )*};
}

ids! {
    LuckyClip = ClipId;
    LuckyMark = MarkId;
    LuckySpan = SpanId;
    LuckyPoint = PointId;
    LuckyRole = RoleId;
    LuckyCue = CueId;
    LuckyBridge = BridgeId;
    LuckyLook = LookId;
}

/// Looks a name up, and writes its id.
///
/// # Safety
/// The name is a text.
unsafe fn look_up<Id, C: From<Id>>(
    art: Option<&LuckyArt>,
    name: *const c_char,
    out: Option<&mut MaybeUninit<C>>,
    find: impl FnOnce(&Reel, &str) -> Result<Id, NameError>,
) -> LuckyStatus {
    done(|| {
        // SAFETY: asked of the caller.
        let name = unsafe { text(name) }?;
        let id = find(given(art)?.reel(), name).map_err(Problem::unknown)?;
        given(out)?.write(id.into());
        Ok(())
    })
}

/// A clip.
#[repr(C)]
#[derive(Clone, Copy)]
pub struct LuckyClip {
    /// To be kept and compared; it means nothing in another run.
    pub bits: u64,
}

/// Looks a clip up by its name, `role/name`, or `name` where only one role has it.
///
/// # Safety
/// As the header says.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_clip(
    art: Option<&LuckyArt>,
    name: *const c_char,
    out: Option<&mut MaybeUninit<LuckyClip>>,
) -> LuckyStatus {
    // SAFETY: the header asks for a text.
    unsafe { look_up(art, name, out, Reel::clip_id) }
}

/// A mark.
#[repr(C)]
#[derive(Clone, Copy)]
pub struct LuckyMark {
    /// To be kept and compared; it means nothing in another run.
    pub bits: u64,
}

/// Looks a mark up by its name, `role/name`, or `name` where only one role has it.
///
/// # Safety
/// As the header says.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_mark(
    art: Option<&LuckyArt>,
    name: *const c_char,
    out: Option<&mut MaybeUninit<LuckyMark>>,
) -> LuckyStatus {
    // SAFETY: the header asks for a text.
    unsafe { look_up(art, name, out, Reel::mark_id) }
}

/// A span of clips.
#[repr(C)]
#[derive(Clone, Copy)]
pub struct LuckySpan {
    /// To be kept and compared; it means nothing in another run.
    pub bits: u64,
}

/// Looks a span up by its name, `role/name`, or `name` where only one role has it.
///
/// # Safety
/// As the header says.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_span(
    art: Option<&LuckyArt>,
    name: *const c_char,
    out: Option<&mut MaybeUninit<LuckySpan>>,
) -> LuckyStatus {
    // SAFETY: the header asks for a text.
    unsafe { look_up(art, name, out, Reel::span_id) }
}

/// A point of frames.
#[repr(C)]
#[derive(Clone, Copy)]
pub struct LuckyPoint {
    /// To be kept and compared; it means nothing in another run.
    pub bits: u64,
}

/// Looks a point up by its name, `role/name`, or `name` where only one role has it.
///
/// # Safety
/// As the header says.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_point(
    art: Option<&LuckyArt>,
    name: *const c_char,
    out: Option<&mut MaybeUninit<LuckyPoint>>,
) -> LuckyStatus {
    // SAFETY: the header asks for a text.
    unsafe { look_up(art, name, out, Reel::point_id) }
}

/// A role with cues.
#[repr(C)]
#[derive(Clone, Copy)]
pub struct LuckyRole {
    /// To be kept and compared; it means nothing in another run.
    pub bits: u64,
}

/// Looks a role up by its name.
///
/// # Safety
/// As the header says.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_role(
    art: Option<&LuckyArt>,
    name: *const c_char,
    out: Option<&mut MaybeUninit<LuckyRole>>,
) -> LuckyStatus {
    // SAFETY: the header asks for a text.
    unsafe { look_up(art, name, out, Reel::role_id) }
}

/// A cue.
#[repr(C)]
#[derive(Clone, Copy)]
pub struct LuckyCue {
    /// To be kept and compared; it means nothing in another run.
    pub bits: u64,
}

/// Looks a cue up by its name, `role/name`, or `name` where only one role has it.
///
/// # Safety
/// As the header says.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_cue(
    art: Option<&LuckyArt>,
    name: *const c_char,
    out: Option<&mut MaybeUninit<LuckyCue>>,
) -> LuckyStatus {
    // SAFETY: the header asks for a text.
    unsafe { look_up(art, name, out, Reel::cue_id) }
}

/// A bridge.
#[repr(C)]
#[derive(Clone, Copy)]
pub struct LuckyBridge {
    /// To be kept and compared; it means nothing in another run.
    pub bits: u64,
}

/// Looks a bridge up by its name, `role/name`, or `name` where only one role has it.
///
/// # Safety
/// As the header says.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_bridge(
    art: Option<&LuckyArt>,
    name: *const c_char,
    out: Option<&mut MaybeUninit<LuckyBridge>>,
) -> LuckyStatus {
    // SAFETY: the header asks for a text.
    unsafe { look_up(art, name, out, Reel::bridge_id) }
}

/// A look.
#[repr(C)]
#[derive(Clone, Copy)]
pub struct LuckyLook {
    /// To be kept and compared; it means nothing in another run.
    pub bits: u64,
}

/// Looks a look up by its name, `role/name`, or `name` where only one role has it.
///
/// # Safety
/// As the header says.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_look(
    art: Option<&LuckyArt>,
    name: *const c_char,
    out: Option<&mut MaybeUninit<LuckyLook>>,
) -> LuckyStatus {
    // SAFETY: the header asks for a text.
    unsafe { look_up(art, name, out, Reel::look_id) }
}

/// A fact of a role, of whatever kind.
#[repr(C)]
#[derive(Clone, Copy)]
pub struct LuckyFact {
    /// To be kept and compared; it means nothing in another run.
    pub bits: u64,
}

/// Looks a fact up by its name, `role/name`, or `name` where only one role has it.
///
/// # Safety
/// As the header says.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_fact(
    art: Option<&LuckyArt>,
    name: *const c_char,
    out: Option<&mut MaybeUninit<LuckyFact>>,
) -> LuckyStatus {
    done(|| {
        // SAFETY: the header asks for a text.
        let (reel, name) = (given(art)?.reel(), unsafe { text(name) }?);
        fn of<T: FactType>(reel: &Reel, name: &str) -> Result<u64, NameError> {
            reel.id::<FactId<T>>(name).map(FactId::to_bits)
        }
        let bits = of::<bool>(reel, name)
            .or_else(|_| of::<i32>(reel, name))
            .or_else(|_| of::<f32>(reel, name))
            .or_else(|_| of::<ChoiceId>(reel, name))
            .or_else(|_| of::<()>(reel, name));
        given(out)?.write(LuckyFact { bits: bits.map_err(Problem::unknown)? });
        Ok(())
    })
}

/// The number by which a fact is set to one of its choices.
///
/// # Safety
/// As the header says.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_choice(
    art: Option<&LuckyArt>,
    fact: LuckyFact,
    word: *const c_char,
    out: Option<&mut MaybeUninit<f64>>,
) -> LuckyStatus {
    done(|| {
        // SAFETY: the header asks for a text.
        let (reel, word) = (given(art)?.reel(), unsafe { text(word) }?);
        let fact = reel.fact_from_bits::<ChoiceId>(fact.bits);
        let fact =
            fact.ok_or_else(|| Problem::unknown("the reel has no such fact with choices"))?;
        let choice = reel.choice_id(fact, word).map_err(Problem::unknown)?;
        given(out)?.write(choice.index() as f64);
        Ok(())
    })
}

/// Writes the name of a clip, without its role, as a text of at most `size` bytes with its zero; cut off
/// where it is longer.
///
/// # Safety
/// As the header says.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_clip_name(
    art: Option<&LuckyArt>,
    clip: LuckyClip,
    out: *mut c_char,
    size: usize,
) -> LuckyStatus {
    // SAFETY: the header asks for room.
    done(|| unsafe { write_name(given(art)?.reel().name(clip.into()), out, size) })
}

/// Writes the name of a mark, as `lucky_clip_name` does.
///
/// # Safety
/// As the header says.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_mark_name(
    art: Option<&LuckyArt>,
    mark: LuckyMark,
    out: *mut c_char,
    size: usize,
) -> LuckyStatus {
    // SAFETY: the header asks for room.
    done(|| unsafe { write_name(given(art)?.reel().name(mark.into()), out, size) })
}

/// # Safety
/// There is so much room.
unsafe fn write_name(name: &str, out: *mut c_char, size: usize) -> Result<(), Problem> {
    if name.is_empty() {
        return Err(Problem::unknown("the reel has no such id"));
    }
    // SAFETY: asked of the caller.
    let out = unsafe { room(out, size) }?;
    let mut kept = name.len().min(out.len().saturating_sub(1));
    while !name.is_char_boundary(kept) {
        kept -= 1;
    }
    let bytes = name.as_bytes()[..kept].iter().copied().chain([0]);
    for (out, byte) in out.iter_mut().zip(bytes) {
        out.write(byte as c_char);
    }
    Ok(())
}
