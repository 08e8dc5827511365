//! Clips: named sequences of holds.

mod data_key;
mod mark_data;
mod new_clip;
mod stored;

pub use data_key::{DataKey, DataType};
pub(crate) use mark_data::{Datum, EVERY_HOLD, find as find_datum};
pub use new_clip::NewClip;
pub(crate) use new_clip::Times;
pub(crate) use stored::{ClipData, HoldData};

use core::fmt;

use crate::ids::ClipId;

/// In which order a clip's holds are shown, and how often.
///
/// # Cycles
///
/// A ping-pong of one hold never turns; one-hold clips are legal in every mode. The cycle count is a
/// place: crossing boundary k reports cycle k either way, and leaves k or k − 1 done. On an endless
/// clip it may go below zero; it wraps at 32 bits.
///
/// ```
/// use lucky_reel_core::{EventKind, Grid, Mode, NewClip, NewSheet, Player, Reel, Ticks};
///
/// let mut builder = Reel::builder();
/// let lamp = builder.sheet("lamp", NewSheet::grid([64, 16], Grid::cell_size([16, 16])));
/// let glow = NewClip::of(lamp).frames(0..4).each(Ticks::new(1)).mode(Mode::PingPong).repeat(1);
/// let glow = builder.clip("glow", glow);
/// let reel = builder.build()?;
/// let entered = Player::new(&reel, glow).advance(&reel, Ticks::new(99)).filter(|event| matches!(event.kind, EventKind::Enter(_)));
/// assert_eq!(entered.map(|event| event.hold).collect::<Vec<_>>(), [0, 1, 2, 3, 2, 1, 0]);
/// # Ok::<(), lucky_reel_core::BuildError>(())
/// ```
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
pub enum Mode {
    /// 0 1 2 3, then 0 again: forever, or as often as `repeat` says.
    #[default]
    Loop,
    /// 0 1 2 3 2 1, then 0 again: each end is shown once a turn. Forever, or as often as `repeat`
    /// says; then it closes on its first hold, shown once more: one there-and-back is 0 1 2 3 2 1 0.
    PingPong,
    /// 0 1 2 3, one time.
    Once,
}

/// The word for it in reel files: `loop`, `ping-pong` or `once`.
impl fmt::Display for Mode {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(match self {
            Mode::Loop => "loop",
            Mode::PingPong => "ping-pong",
            Mode::Once => "once",
        })
    }
}

/// What happens after the last hold.
///
/// # End
///
/// It is reported once, as [`EventKind::End`](crate::EventKind::End). Clips that go on to one another may go
/// round in a ring: a day of it is skipped in constant time. A clip to build names the clip that
/// follows, `ClipEnd<String>`; a built one has its id.
///
/// ```
/// use lucky_reel_core::{ClipEnd, Grid, Mode, NewClip, NewSheet, Player, Reel, Ticks};
///
/// let mut builder = Reel::builder();
/// let bram = builder.sheet("bram", NewSheet::grid([64, 16], Grid::cell_size([16, 16])));
/// let new = || NewClip::of(bram).each(Ticks::from_millis(100));
/// let land = builder.clip("land", new().frames([3]).mode(Mode::Once).end(ClipEnd::Play("idle".into())));
/// let idle = builder.clip("idle", new().frames([0, 1]));
/// let reel = builder.build()?;
/// let mut player = Player::new(&reel, land);
/// player.advance(&reel, Ticks::from_millis(250)); // 150 ms are left over for `idle`
/// assert_eq!((player.clip(), player.hold_index(&reel)), (idle, Some(1)));
/// # Ok::<(), lucky_reel_core::BuildError>(())
/// ```
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
pub enum ClipEnd<C = ClipId> {
    /// The last hold stays up.
    #[default]
    Stay,
    /// The first hold (in the direction the clip was started) comes up and stays.
    First,
    /// There is nothing to draw any more.
    Vanish,
    /// Another clip goes on in the same instant, with the time left over.
    Play(C),
}
