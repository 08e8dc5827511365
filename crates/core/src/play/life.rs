//! What a player's state lets it do: whether it moves, is ready for the fast path, or is over.

use super::player::{NextOr, Player};
use super::state::{PAUSED, State, way_of, with_way};
use crate::clip::ClipEnd;
use crate::kernel::{StepTable, Way};
use crate::reel::Reel;

impl Player {
    #[inline]
    pub(crate) fn state(&self) -> State {
        State::of(self.flags)
    }

    #[inline]
    pub(crate) fn set_state(&mut self, state: State) {
        self.clear_ready();
        self.flags = state.put(self.flags);
    }

    /// How its line is read, and which way it heads.
    #[inline]
    pub(crate) fn way(&self) -> Way {
        way_of(self.flags)
    }

    #[inline]
    pub(super) fn set_way(&mut self, way: Way) {
        self.flags = with_way(self.flags, way);
    }

    /// Whether it heads along the line, and not back.
    #[inline]
    pub(super) fn heads_along(&self) -> bool {
        self.way().is_along()
    }

    #[inline]
    pub(super) fn has(&self, flag: u8) -> bool {
        self.flags & flag != 0
    }

    #[inline]
    pub(super) fn set(&mut self, flag: u8, on: bool) {
        if on {
            self.flags |= flag;
        } else {
            self.flags &= !flag;
        }
    }

    /// Whether a movement of this sign goes against the last one.
    #[inline]
    pub(super) fn turns(&self, negative: bool) -> bool {
        self.way().is_negative() != negative
    }

    /// Whether a movement of this sign moves it at all.
    #[inline]
    pub(super) fn can_move(&self, negative: bool) -> bool {
        self.state().moves(self.turns(negative))
    }

    /// Whether no time that passes can change it.
    #[inline]
    pub(crate) fn stands(&self) -> bool {
        let free = self.can_move(self.pace.is_negative()) && self.pace.size() > 0;
        self.has(PAUSED) || self.hit_stop == 0 && !free
    }

    /// Whether it goes on as it did, without a second look, until its hold is over: running within a
    /// hold, not paused, in no hit-stop, its speed points where the last movement went (or is 0), and
    /// its clip plays as often as it says itself.
    #[inline]
    pub(crate) fn is_ready(&self) -> bool {
        let free = self.state() == State::Running && !self.has(PAUSED) && self.hit_stop == 0;
        free && !self.turns(self.pace.is_negative()) && self.left > 0 && self.plan.times == 0
    }

    /// After a movement: whether the next one may take the fast path.
    pub(crate) fn update_ready(&mut self, reel: &Reel) {
        let ready = self.is_ready() && self.is_of_build(reel);
        if ready {
            self.step = reel.steps().find(self.clip, self.place, self.way());
        }
        self.build = self.build.with_ready(ready && self.step != StepTable::NOTHING);
    }

    /// Something may stand in the way from now on.
    #[inline]
    pub(super) fn clear_ready(&mut self) {
        self.build = self.build.with_ready(false);
    }

    /// Whether it has begun and is neither over nor put somewhere.
    #[inline]
    pub(crate) fn is_under_way(&self) -> bool {
        matches!(self.state(), State::Running | State::Swapped)
    }

    /// Whether it was stopped.
    #[inline]
    pub(crate) fn is_stopped(&self) -> bool {
        self.state() == State::Stopped
    }

    /// Whether it has come to the end of a clip that vanishes, for good.
    pub(crate) fn has_vanished(&self, reel: &Reel) -> bool {
        self.state() == State::Finished
            && self.clip_in(reel).is_some_and(|clip| self.end(clip) == NextOr::End(ClipEnd::Vanish))
    }

    /// What becomes of it at the first moment at which it moves, where it is asked to play, or was put
    /// somewhere, and nothing holds it back.
    #[inline]
    pub(crate) fn begun(&self, reel: &Reel) -> Option<Player> {
        let held = self.has(PAUSED) || self.hit_stop > 0 || self.pace.size() == 0;
        let negative = self.pace.is_negative();
        let starts = match self.state() {
            State::Pending => true,
            State::Seeked => !self.turns(negative) && self.left > 0,
            _ => false,
        };
        let clip = self.clip_in(reel).filter(|clip| starts && !held && !clip.is_still)?;
        let mut player = *self;
        player.begin_movement(reel, clip, negative)?;
        player.is_ready().then_some(player)
    }
}
