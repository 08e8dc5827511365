//! Events of players, at another moment.

use lucky_reel_core::*;

pub(crate) fn moved(mut event: Event, to: Ticks) -> Event {
    match &mut event {
        Event::Enter { at, .. }
        | Event::Mark { at, .. }
        | Event::Cycle { at, .. }
        | Event::Turn { at, .. }
        | Event::End { at, .. }
        | Event::Next { at, .. } => *at = to,
        other => panic!("an event the test does not know: {other:?}"),
    }
    event
}
