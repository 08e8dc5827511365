//! Clips: named sequences of holds.

mod new_clip;
mod stored;

pub use new_clip::NewClip;
pub(crate) use new_clip::{NewEnd, Times};
pub use stored::{Clip, Hold};
pub(crate) use stored::{ClipData, HoldData, Ring, Rings};

use crate::reel::ClipId;

/// In which order a clip's holds are shown, and how often.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
pub enum Mode {
    /// 0 1 2 3, then 0 again: for ever, or as often as `repeat` says.
    #[default]
    Loop,
    /// 0 1 2 3 2 1, then 0 again: each end is shown once a turn. For ever, or as often as `repeat`
    /// says; then it closes on its first hold, shown once more: one there-and-back is 0 1 2 3 2 1 0.
    PingPong,
    /// 0 1 2 3, one time.
    Once,
}

impl Mode {
    /// The word for it in reel files: `loop`, `ping-pong` or `once`.
    #[must_use]
    pub const fn name(self) -> &'static str {
        match self {
            Mode::Loop => "loop",
            Mode::PingPong => "ping-pong",
            Mode::Once => "once",
        }
    }
}

/// What happens when the last hold's time is up.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
pub enum End {
    /// The last hold stays up.
    #[default]
    Stay,
    /// The first hold (in the direction the clip was started) comes up and stays.
    First,
    /// There is nothing to draw any more.
    Vanish,
    /// Another clip goes on in the same instant, with the time left over.
    Play(ClipId),
}
