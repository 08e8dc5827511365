use super::run::ActorRun;
use super::state::Actor;
use crate::event::{Event, EventMask};
use crate::play::{HasEvents, PlayerEvents};

impl HasEvents for Actor {
    type Event = Event;
    type Source<'r> = ActorEvents<'r>;

    #[inline]
    fn select<'r>(
        source: Self::Source<'r>,
        wanted: EventMask,
    ) -> impl Iterator<Item = Event> + Clone {
        source.filter(move |event| wanted.wants(event.kind))
    }
}

/// The events of one advance of an actor, computed as they are read.
#[derive(Clone)]
#[allow(unreachable_pub)] // a sealed trait names it
pub struct ActorEvents<'r>(pub(super) Source<'r>);

#[derive(Clone)]
#[allow(clippy::large_enum_variant)] // the small one is the common one, and nothing is allocated
pub(super) enum Source<'r> {
    /// No cue was evaluated.
    Player(PlayerEvents<'r>),
    Run(Option<ActorRun<'r>>),
}

impl Iterator for ActorEvents<'_> {
    type Item = Event;

    #[inline]
    fn next(&mut self) -> Option<Event> {
        match &mut self.0 {
            Source::Player(events) => events.next(),
            Source::Run(run) => run.as_mut()?.next(),
        }
    }
}
