//! Events of players, at another moment.

use lucky_reel_core::*;

pub(crate) fn moved(event: Event, to: Ticks) -> Event {
    event.with_at(to)
}
