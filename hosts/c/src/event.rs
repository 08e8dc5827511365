//! What happened in an advance.

use std::ffi::c_char;

use lucky_reel::id::{DataKey, DataType, MarkId};
use lucky_reel::{Event, EventKind};

use crate::art::LuckyArt;
use crate::from_c::{self, given};
use crate::names::{LuckyClip, LuckyKey, write_text};
use crate::status::{LuckyStatus, Problem, call};

/// What happened, and when.
#[repr(C)]
#[derive(Clone, Copy)]
pub struct LuckyEvent {
    /// Ticks from the start of the advance.
    pub at: u64,
    /// The clip.
    pub clip: LuckyClip,
    /// The hold, from 0.
    pub hold: u32,
    /// Cycles that are complete.
    pub cycle: i32,
    /// The same for the same event of a second run after a rollback.
    pub serial: u64,
    /// What happened.
    pub kind: LuckyEventKind,
    /// The frame that came up, for `LUCKY_EVENT_KIND_ENTER`.
    pub frame: u32,
    /// The bits of the mark, the cue or the bridge, where it is one; else 0.
    pub id: u64,
    /// The member's bits, in a crowd; else 0.
    pub member: u64,
}

/// The kinds of events.
#[repr(C)]
#[derive(Clone, Copy)]
pub enum LuckyEventKind {
    /// A hold came up.
    Enter,
    /// A hold with a mark came up.
    Mark,
    /// The boundary of a cycle was crossed.
    Cycle,
    /// A ping-pong turns.
    Turn,
    /// The time of the last hold is up.
    End,
    /// Another clip goes on.
    Next,
    /// A cue takes over, or starts over.
    Cue,
    /// A bridge begins.
    Bridge,
    /// Cues would change forever in this instant, and are not evaluated again before something else happens.
    CueLoop,
    /// Of a newer version of the library.
    Other,
}

impl LuckyEvent {
    pub(crate) fn new(event: &Event, member: u64) -> LuckyEvent {
        use LuckyEventKind as Kind;
        let (kind, frame, id) = match event.kind {
            EventKind::Enter(frame) => (Kind::Enter, frame.index() as u32, 0),
            EventKind::Mark(mark) => (Kind::Mark, 0, mark.to_bits()),
            EventKind::Cycle => (Kind::Cycle, 0, 0),
            EventKind::Turn => (Kind::Turn, 0, 0),
            EventKind::End => (Kind::End, 0, 0),
            EventKind::Next => (Kind::Next, 0, 0),
            EventKind::Cue(cue, _) => (Kind::Cue, 0, cue.to_bits()),
            EventKind::Bridge(bridge, _) => (Kind::Bridge, 0, bridge.to_bits()),
            EventKind::CueLoop => (Kind::CueLoop, 0, 0),
            _ => (Kind::Other, 0, 0),
        };
        LuckyEvent {
            at: event.at.get(),
            clip: event.clip.into(),
            hold: event.hold,
            cycle: event.cycle,
            serial: event.serial,
            kind,
            frame,
            id,
            member,
        }
    }
}

/// What the mark of an event carries under a key, if it is of this type.
fn datum<'r, T: DataType + ?Sized>(
    art: &'r LuckyArt,
    event: &LuckyEvent,
    key: LuckyKey,
) -> Option<T::Value<'r>> {
    let clip = art.reel().clip(event.clip.into())?;
    clip.datum(MarkId::from_bits(event.id), event.hold, DataKey::<T>::from_bits(key.bits))
}

/// The number that the mark of an event carries under a key; yes is 1 and no is 0. `LUCKY_STATUS_NOTHING` where it carries
/// no number of this key, or the event is no mark.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_event_number(
    art: *const LuckyArt,
    event: *const LuckyEvent,
    key: LuckyKey,
    out: *mut f64,
) -> LuckyStatus {
    call(|| {
        let (art, event, out) = (given(art)?, given(event)?, from_c::out(out)?);
        let number = datum::<i32>(art, event, key).map(f64::from);
        let number = number.or_else(|| datum::<f32>(art, event, key).map(f64::from));
        let number = number.or_else(|| datum::<bool>(art, event, key).map(f64::from));
        Ok(number.map_or(LuckyStatus::Nothing, |number| {
            out.write(number);
            LuckyStatus::Ok
        }))
    })
}

/// Writes the text that the mark of an event carries under a key, as `lucky_art_name` writes a name.
/// `LUCKY_STATUS_NOTHING` where it carries no text of this key, or the event is no mark.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_event_text(
    art: *const LuckyArt,
    event: *const LuckyEvent,
    key: LuckyKey,
    out: *mut c_char,
    size: usize,
) -> LuckyStatus {
    call(|| {
        let text = datum::<str>(given(art)?, given(event)?, key);
        let Some(text) = text else { return Ok(LuckyStatus::Nothing) };
        write_text(text, out, size)?;
        Ok::<_, Problem>(LuckyStatus::Ok)
    })
}
