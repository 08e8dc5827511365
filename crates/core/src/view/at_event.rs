use super::{LookSet, View};
use crate::event::Event;
use crate::reel::Reel;
use crate::sheet::Flips;

impl Event {
    /// What was shown at that moment, with these flips and looks: the hold that was entered, or the one
    /// that is left. `None` where the reel does not know its clip.
    ///
    /// [`Player::view_at`](crate::Player::view_at), [`Actor::view_at`](crate::Actor::view_at) and
    /// [`Crowd::view_at`](crate::Crowd::view_at) know the flips and the looks.
    #[must_use]
    pub fn view<'r>(&self, reel: &'r Reel, flips: Flips, looks: &LookSet) -> Option<View<'r>> {
        let hold = u16::try_from(self.hold).ok()?;
        let (frame, mirrored) = reel.dressed(self.clip, hold, looks)?;
        View::of(reel, frame, flips.mirrored(mirrored))
    }
}
