//! Reading the operating system's clock. Nothing else does.

use std::sync::OnceLock;
use std::time::Instant;

use lucky_reel_core::Ticks;

use super::Clock;

impl Clock {
    /// The time since the last lap by the system's clock; the first lap gives no time.
    ///
    /// In a browser (`wasm32-unknown-unknown`) the standard library has no clock, so this does not
    /// exist there: hand the browser's timestamp to [`lap_at`](Clock::lap_at).
    pub fn lap(&mut self) -> Ticks {
        static START: OnceLock<Instant> = OnceLock::new();
        // The start is read first, so that it is never later than now.
        let start = *START.get_or_init(Instant::now);
        self.lap_at(start.elapsed())
    }
}
