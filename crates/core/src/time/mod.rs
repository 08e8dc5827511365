//! Time as whole ticks: lengths, speeds and clocks.
//!
//! # The law of time
//!
//! Time is an integer count of [`Ticks`], 72,072,000 a second. Milliseconds, hundredths and every
//! usual frame rate (1 to 16, 18, 20, 24, 25, 30, 48, 50, 60, 72, 75, 90, 100, 120, 144, 165, 240)
//! are whole numbers of ticks, so nothing is rounded, summed up wrongly or lost. What is not whole
//! is kept as an exact fraction ([`ExactTime`]) and rounded on the running total only.

mod clock;
mod exact;
mod fixed;
mod manual;
mod speed;
mod ticks;

pub use clock::{Clock, Lap};
pub use exact::{ExactTime, ParseTimeError};
pub use fixed::FixedSteps;
pub use manual::ManualClock;
pub(crate) use speed::Pace;
pub use speed::Speed;
pub use ticks::Ticks;
