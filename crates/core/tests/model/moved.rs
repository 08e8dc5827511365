//! Events of players, at another moment.

use lucky_reel_core::*;

pub(crate) fn moved(event: Event, to: Ticks) -> Event {
    let mut event = event;
    event.at = to;
    event
}

/// What a crowd reports of one advance.
#[allow(dead_code)] // not every test has a crowd
pub(crate) fn heard(crowd: &mut Crowd, dt: Ticks, mask: EventMask) -> Vec<(MemberId, Event)> {
    let mut events = EventBuffer::new();
    crowd.advance_into(dt, mask, &mut events);
    events.iter().collect()
}
