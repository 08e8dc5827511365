//! Another clip takes the place of the one that plays.

use super::player::{BACKWARDS, Player, State};
use crate::clip::{Line, RETURNING, Spot};
use crate::facing::{Align, Facing};
use crate::ids::{ClipId, FacingsId};
use crate::reel::Reel;

impl Player {
    /// Plays the clip that a facing set has for a facing: to be called each update, harmlessly.
    ///
    /// When it plays another clip of the set already, that clip's place is kept, by what the set says:
    /// the legs go on. Else the clip is played from its start, as by
    /// [`switch_to`](Player::switch_to).
    ///
    /// An example is at [`NewFacings`](crate::NewFacings).
    pub fn face(&mut self, reel: &Reel, set: FacingsId, facing: Facing) {
        let Some(set) = reel.facing_set(set) else { return };
        let asked = self.asked;
        if set.has(asked) && self.fits(reel) && self.state() != State::Stopped {
            self.turn_to(reel, set.clip(facing), facing, set.align);
        } else {
            self.switch_to(reel, set.clip(facing));
        }
    }

    /// Turns from one clip of a facing set to another. Where its chain has gone on to a clip that
    /// another set has, it turns to that set's; else what plays is left alone.
    pub(crate) fn turn_to(&mut self, reel: &Reel, clip: ClipId, facing: Facing, align: Align) {
        if self.asked == clip {
            return;
        }
        let gone_on = self.clip != self.asked;
        if !gone_on {
            self.take_place(reel, clip, align);
        } else if let Some(set) = reel.facing_set_of(self.clip) {
            self.take_place(reel, set.clip(facing), set.align);
        }
        self.asked = clip;
    }

    /// Plays another clip instead, and keeps the place, by the share of the cycle or by the hold. No
    /// marks of the hold that it lands in are reported.
    pub(crate) fn take_place(&mut self, reel: &Reel, clip: ClipId, align: Align) {
        let (Some(old), Some(new)) = (self.settle(reel), reel.clip_data(clip)) else {
            self.asked = clip;
            return;
        };
        if align == Align::Start {
            return self.play(reel, clip);
        }
        let (from, to) = (self.line(old), Line { clip: new, backwards: self.has(BACKWARDS) });
        let state = self.state();
        if state == State::Fresh || state == State::Stopped {
            (self.clip, self.asked) = (clip, clip);
            return;
        }
        let over = matches!(state, State::Ended | State::Finished);
        let spot = self.spot(from);
        let forwards = self.heads_forwards();
        (self.clip, self.asked, self.play) = (clip, clip, self.play.wrapping_add(1));
        if over && to.cycles().is_some() {
            if forwards {
                self.reach_far_end(to);
            } else {
                self.reach_near_end(to);
            }
            return;
        }
        let mut landing = match align {
            Align::Hold => by_hold(from, self.place, spot, to),
            _ => by_share(from, spot, to, forwards),
        };
        landing.cycle = landing.cycle.wrapping_add(spot.cycle);
        if let Some(cycles) = to.cycles() {
            landing.cycle = landing.cycle.clamp(0, cycles - 1);
        }
        self.put(to, landing);
        self.set_state(State::Landed);
    }
}

/// ⌊place × new cycle ÷ old cycle⌋
fn by_share(from: Line<'_>, spot: Spot, to: Line<'_>, forwards: bool) -> Spot {
    let place = u128::from(from.start_of(spot.entry) + spot.into);
    to.spot_at(place * u128::from(to.cycle()) / u128::from(from.cycle()), forwards)
}

/// The same hold, or the last there is, and the share of it.
fn by_hold(from: Line<'_>, place: u16, spot: Spot, to: Line<'_>) -> Spot {
    let (hold, last) = (place & !RETURNING, to.clip.holds.len() as u16 - 1);
    let hold = hold.min(last);
    let on_way_back = place & RETURNING != 0 && to.clip.turns() && 0 < hold && hold < last;
    let entry = to.entry_of(if on_way_back { hold | RETURNING } else { hold });
    let length = u128::from(from.units_of(spot.entry));
    let into = u128::from(spot.into) * u128::from(to.units_of(entry)) / length;
    Spot { cycle: 0, entry, into: into as u64 }
}
