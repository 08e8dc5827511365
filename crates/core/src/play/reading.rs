use core::fmt;

use super::Player;
use super::events::PlayerEvents;
use crate::event::{Event, EventMask};

/// The events of one advance of a player, an [`Actor`](crate::Actor) or a [`Crowd`](crate::Crowd), computed as
/// they are read; those of a crowd come with the member.
///
/// It borrows the reel (of a crowd the buffer), so the game's own things may change while it is read. A step may
/// have very many events, after a stall of hours, say: [`Iterator::take`] bounds the reading. Dropping it unread
/// costs nothing.
pub struct Events<'r, Of: HasEvents = Player>(pub(crate) Of::Source<'r>);

/// What has events of its own: players, actors and crowds. The trait is sealed.
pub trait HasEvents {
    #[doc(hidden)]
    type Event: fmt::Debug;
    #[doc(hidden)]
    type Source<'r>: Iterator<Item = Self::Event> + Clone;
    /// Those of these kinds alone.
    #[doc(hidden)]
    fn select<'r>(
        source: Self::Source<'r>,
        wanted: EventMask,
    ) -> impl Iterator<Item = Self::Event> + Clone;
}

impl HasEvents for Player {
    type Event = Event;
    type Source<'r> = PlayerEvents<'r>;

    #[inline]
    fn select<'r>(
        source: Self::Source<'r>,
        wanted: EventMask,
    ) -> impl Iterator<Item = Event> + Clone {
        source.filter(move |event| wanted.wants(event.kind))
    }
}

impl<'r, Of: HasEvents> Events<'r, Of> {
    /// The events of these kinds alone.
    ///
    /// ```
    /// # use lucky_reel_core::{EventMask, Grid, NewClip, NewSheet, Player, Reel, Ticks};
    /// # let mut builder = Reel::builder();
    /// # let sheet = builder.sheet("bram", NewSheet::grid([128, 32], Grid::cell_size([32, 32])));
    /// # let walk = builder.clip("walk", NewClip::of(sheet).frames(0..4).fps(8).mark("step", [1, 3]));
    /// # let reel = builder.build()?;
    /// let mut bram = Player::new(&reel, walk);
    /// let steps = bram.advance(&reel, Ticks::from_secs(1)).select(EventMask::MARKS);
    /// assert_eq!(steps.count(), 4);
    /// # Ok::<(), lucky_reel_core::BuildError>(())
    /// ```
    #[inline]
    pub fn select(self, wanted: EventMask) -> impl Iterator<Item = Of::Event> + Clone {
        Of::select(self.0, wanted)
    }
}

impl<Of: HasEvents> Iterator for Events<'_, Of> {
    type Item = Of::Event;

    #[inline]
    fn next(&mut self) -> Option<Of::Event> {
        self.0.next()
    }
}

impl<Of: HasEvents> core::iter::FusedIterator for Events<'_, Of> {}

impl<Of: HasEvents> Clone for Events<'_, Of> {
    fn clone(&self) -> Self {
        Events(self.0.clone())
    }
}

impl<Of: HasEvents> fmt::Debug for Events<'_, Of> {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.debug_list().entries(self.clone().take(64)).finish()
    }
}
