//! Names to ids, and back.

use std::ffi::c_char;

use lucky_reel::Reel;
use lucky_reel::id::{
    AreaId, BridgeId, ChoiceId, ClipId, CueId, DataKey, FactId, LookId, MarkId, PointId, RoleId,
    SpanId,
};
use lucky_reel::reel::NameError;

use crate::art::LuckyArt;
use crate::from_c::{self, given, out, room, text};
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
    LuckySpan = SpanId;
    LuckyPoint = PointId;
    LuckyArea = AreaId;
    LuckyRole = RoleId;
    LuckyCue = CueId;
    LuckyLook = LookId;
}

/// A clip.
#[repr(C)]
#[derive(Clone, Copy)]
pub struct LuckyClip {
    /// To be kept and compared; it means nothing in another run.
    pub bits: u64,
}

/// A span of clips.
#[repr(C)]
#[derive(Clone, Copy)]
pub struct LuckySpan {
    /// To be kept and compared; it means nothing in another run.
    pub bits: u64,
}

/// A point of frames.
#[repr(C)]
#[derive(Clone, Copy)]
pub struct LuckyPoint {
    /// To be kept and compared; it means nothing in another run.
    pub bits: u64,
}

/// An area of frames.
#[repr(C)]
#[derive(Clone, Copy)]
pub struct LuckyArea {
    /// To be kept and compared; it means nothing in another run.
    pub bits: u64,
}

/// A key of the data on marks.
#[repr(C)]
#[derive(Clone, Copy)]
pub struct LuckyKey {
    /// To be kept and compared; it means nothing in another run.
    pub bits: u64,
}

/// A role with cues.
#[repr(C)]
#[derive(Clone, Copy)]
pub struct LuckyRole {
    /// To be kept and compared; it means nothing in another run.
    pub bits: u64,
}

/// A cue.
#[repr(C)]
#[derive(Clone, Copy)]
pub struct LuckyCue {
    /// To be kept and compared; it means nothing in another run.
    pub bits: u64,
}

/// A look.
#[repr(C)]
#[derive(Clone, Copy)]
pub struct LuckyLook {
    /// To be kept and compared; it means nothing in another run.
    pub bits: u64,
}

/// A fact of a role.
#[repr(C)]
#[derive(Clone, Copy)]
pub struct LuckyFact {
    /// To be kept and compared; it means nothing in another run.
    pub bits: u64,
}

/// What an id is of.
#[repr(C)]
#[derive(Clone, Copy)]
pub enum LuckyKind {
    /// The bits of a LuckyClip.
    Clip,
    /// The id of an event that is a mark.
    Mark,
    /// The bits of a LuckySpan.
    Span,
    /// The bits of a LuckyPoint.
    Point,
    /// The bits of a LuckyRole.
    Role,
    /// The bits of a LuckyCue.
    Cue,
    /// The id of an event that is a bridge.
    Bridge,
    /// The bits of a LuckyLook.
    Look,
    /// The bits of a LuckyFact.
    Fact,
    /// The bits of a LuckyArea.
    Area,
    /// The bits of a LuckyKey.
    Data,
}

impl LuckyKind {
    /// Kinds are numbers here, as C may pass any.
    fn of(number: u32) -> Result<LuckyKind, Problem> {
        use LuckyKind::{Area, Bridge, Clip, Cue, Data, Fact, Look, Mark, Point, Role, Span};
        let all = [Clip, Mark, Span, Point, Role, Cue, Bridge, Look, Fact, Area, Data];
        let kind = all.get(number as usize).copied();
        kind.ok_or_else(|| Problem::range("a kind is a LuckyKind"))
    }

    fn find(self, reel: &Reel, name: &str) -> Result<u64, NameError> {
        match self {
            LuckyKind::Clip => reel.id(name).map(ClipId::to_bits),
            LuckyKind::Mark => reel.id(name).map(MarkId::to_bits),
            LuckyKind::Span => reel.id(name).map(SpanId::to_bits),
            LuckyKind::Point => reel.id(name).map(PointId::to_bits),
            LuckyKind::Area => reel.id(name).map(AreaId::to_bits),
            LuckyKind::Data => reel
                .id(name)
                .map(DataKey::<i32>::to_bits)
                .or_else(|_| reel.id(name).map(DataKey::<f32>::to_bits))
                .or_else(|_| reel.id(name).map(DataKey::<bool>::to_bits))
                .or_else(|_| reel.id(name).map(DataKey::<str>::to_bits)),
            LuckyKind::Role => reel.id(name).map(RoleId::to_bits),
            LuckyKind::Cue => reel.id(name).map(CueId::to_bits),
            LuckyKind::Bridge => reel.id(name).map(BridgeId::to_bits),
            LuckyKind::Look => reel.id(name).map(LookId::to_bits),
            LuckyKind::Fact => reel
                .id(name)
                .map(FactId::<bool>::to_bits)
                .or_else(|_| reel.id(name).map(FactId::<i32>::to_bits))
                .or_else(|_| reel.id(name).map(FactId::<f32>::to_bits))
                .or_else(|_| reel.id(name).map(FactId::<ChoiceId>::to_bits))
                .or_else(|_| reel.id(name).map(FactId::<()>::to_bits)),
        }
    }

    fn name(self, reel: &Reel, bits: u64) -> &str {
        match self {
            LuckyKind::Clip => reel.name(ClipId::from_bits(bits)),
            LuckyKind::Mark => reel.name(MarkId::from_bits(bits)),
            LuckyKind::Span => reel.name(SpanId::from_bits(bits)),
            LuckyKind::Point => reel.name(PointId::from_bits(bits)),
            LuckyKind::Area => reel.name(AreaId::from_bits(bits)),
            LuckyKind::Data => {
                let names = [
                    reel.name(DataKey::<i32>::from_bits(bits)),
                    reel.name(DataKey::<f32>::from_bits(bits)),
                    reel.name(DataKey::<bool>::from_bits(bits)),
                    reel.name(DataKey::<str>::from_bits(bits)),
                ];
                names.into_iter().find(|name| !name.is_empty()).unwrap_or_default()
            }
            LuckyKind::Role => reel.name(RoleId::from_bits(bits)),
            LuckyKind::Cue => reel.name(CueId::from_bits(bits)),
            LuckyKind::Bridge => reel.name(BridgeId::from_bits(bits)),
            LuckyKind::Look => reel.name(LookId::from_bits(bits)),
            LuckyKind::Fact => {
                let names = [
                    reel.name(FactId::<bool>::from_bits(bits)),
                    reel.name(FactId::<i32>::from_bits(bits)),
                    reel.name(FactId::<f32>::from_bits(bits)),
                    reel.name(FactId::<ChoiceId>::from_bits(bits)),
                    reel.name(FactId::<()>::from_bits(bits)),
                ];
                names.into_iter().find(|name| !name.is_empty()).unwrap_or_default()
            }
        }
    }
}

/// Looks an id up by its kind and its name, `role/name`, or `name` where only one role has it:
/// `lucky_art_id(art, LUCKY_KIND_CLIP, "walk", &walk.bits)` with a LuckyClip `walk`.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_art_id(
    art: *const LuckyArt,
    kind: u32,
    name: *const c_char,
    bits: *mut u64,
) -> LuckyStatus {
    done(|| {
        let (reel, name) = (given(art)?.reel(), text(name)?);
        let found = LuckyKind::of(kind)?.find(reel, name).map_err(Problem::unknown)?;
        out(bits)?.write(found);
        Ok(())
    })
}

/// Writes the name of an id of this kind, without its role, as a text of at most `size` bytes with its zero; cut
/// off where it is longer.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_art_name(
    art: *const LuckyArt,
    kind: u32,
    bits: u64,
    out: *mut c_char,
    size: usize,
) -> LuckyStatus {
    done(|| {
        let name = LuckyKind::of(kind)?.name(given(art)?.reel(), bits);
        if name.is_empty() {
            return Err(Problem::unknown("the reel does not know the id"));
        }
        write_text(name, out, size)
    })
}

/// The number by which a fact is set to one of its choices.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_art_choice(
    art: *const LuckyArt,
    fact: LuckyFact,
    word: *const c_char,
    out: *mut f64,
) -> LuckyStatus {
    done(|| {
        let (reel, word) = (given(art)?.reel(), text(word)?);
        let fact = FactId::<ChoiceId>::from_bits(fact.bits);
        let name = match (reel.role_name(fact), reel.name(fact)) {
            (_, "") => return Err(Problem::unknown("the reel has no such fact with choices")),
            ("", name) => format!("{name} = {word}"),
            (role, name) => format!("{role}/{name} = {word}"),
        };
        let choice = reel.id(&name).map_err(Problem::unknown)?;
        from_c::out(out)?.write(ChoiceId::index(choice) as f64);
        Ok(())
    })
}

pub(crate) unsafe fn write_text(text: &str, out: *mut c_char, size: usize) -> Result<(), Problem> {
    let out = room(out, size)?;
    let mut kept = text.len().min(out.len().saturating_sub(1));
    while !text.is_char_boundary(kept) {
        kept -= 1;
    }
    let bytes = text.as_bytes()[..kept].iter().copied().chain([0]);
    for (out, byte) in out.iter_mut().zip(bytes) {
        out.write(byte as c_char);
    }
    Ok(())
}
