use core::fmt;

use super::run::ActorRun;
use crate::event::Event;
use crate::play::Events;

/// The events of one advance of an actor, computed as they are read. It borrows only the reel.
#[derive(Clone)]
pub struct ActorEvents<'r>(Inner<'r>);

#[derive(Clone)]
#[allow(clippy::large_enum_variant)] // the small one is the common one, and nothing is allocated
enum Inner<'r> {
    /// No cue was evaluated.
    Player(Events<'r>),
    Run(Option<ActorRun<'r>>),
}

impl<'r> ActorEvents<'r> {
    #[inline]
    pub(super) fn of_player(events: Events<'r>) -> ActorEvents<'r> {
        ActorEvents(Inner::Player(events))
    }

    pub(super) fn of_run(run: Option<ActorRun<'r>>) -> ActorEvents<'r> {
        ActorEvents(Inner::Run(run))
    }
}

impl Iterator for ActorEvents<'_> {
    type Item = Event;

    #[inline]
    fn next(&mut self) -> Option<Event> {
        match &mut self.0 {
            Inner::Player(events) => events.next(),
            Inner::Run(run) => run.as_mut()?.next(),
        }
    }
}

impl core::iter::FusedIterator for ActorEvents<'_> {}

impl fmt::Debug for ActorEvents<'_> {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.debug_list().entries(self.clone().take(64)).finish()
    }
}
