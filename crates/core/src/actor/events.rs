use core::fmt;

use super::course::Course;
use super::look::Looked;
use crate::play::{Event, Events, Player, serial_of_change};
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

/// The events of one advance of an actor, worked out as they are read. It borrows the reel alone.
#[derive(Clone)]
pub struct ActorEvents<'r>(Inner<'r>);

#[derive(Clone)]
#[allow(clippy::large_enum_variant)] // the small one is the common one, and nothing is allocated
enum Inner<'r> {
    /// No cue was looked at.
    Player(Events<'r>),
    Course(Option<Course<'r>>),
}

impl<'r> ActorEvents<'r> {
    #[inline]
    pub(super) fn of_player(events: Events<'r>) -> ActorEvents<'r> {
        ActorEvents(Inner::Player(events))
    }

    pub(super) fn of_course(course: Option<Course<'r>>) -> ActorEvents<'r> {
        ActorEvents(Inner::Course(course))
    }
}

impl Iterator for ActorEvents<'_> {
    type Item = Event;

    fn next(&mut self) -> Option<Event> {
        match &mut self.0 {
            Inner::Player(events) => events.next(),
            Inner::Course(course) => course.as_mut()?.next(),
        }
    }
}

impl core::iter::FusedIterator for ActorEvents<'_> {}

impl fmt::Debug for ActorEvents<'_> {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.debug_list().entries(self.clone().take(64)).finish()
    }
}
