use super::look::Looked;
use crate::play::{Event, Player, serial_of_change};
use crate::time::Ticks;

/// Why one cue took over from another.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
#[non_exhaustive]
pub enum Why {
    /// It is the first.
    Start,
    /// The game told a fact or a facing.
    Told,
    /// A clip came to its end.
    Ended,
    /// A mark set a fact.
    Mark,
    /// A span began or ended.
    Span,
}

impl Why {
    /// A word for it.
    #[must_use]
    pub const fn name(self) -> &'static str {
        match self {
            Why::Start => "start",
            Why::Told => "told",
            Why::Ended => "ended",
            Why::Mark => "mark",
            Why::Span => "span",
        }
    }
}

/// The event of a look.
pub(super) fn why_of(looked: Looked, why: Why, player: &Player, at: Ticks) -> Option<Event> {
    match looked {
        Looked::Nothing => None,
        Looked::Cue(cue) => {
            let serial = serial_of_change(player, cue.0, 0);
            Some(Event::Cue { cue, why, at, serial })
        }
        Looked::Bridge(bridge) => {
            let serial = serial_of_change(player, bridge.0, 1);
            Some(Event::Bridge { bridge, why, at, serial })
        }
        Looked::CutOff => Some(Event::CutOff { at, serial: serial_of_change(player, 0, 2) }),
    }
}
