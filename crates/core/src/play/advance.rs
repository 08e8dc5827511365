//! Moving by any amount in constant time.

use super::events::Events;
use super::movement::{Drive, Movement};
use super::player::{NEGATIVE, Player};
use crate::clip::{ClipData, End, RETURNING, length_by};
use crate::ids::ClipId;
use crate::reel::Reel;
use crate::time::Ticks;

impl Player {
    /// Lets game time pass, and gives the events of it.
    ///
    /// # Partition and constant time
    ///
    /// Any split of the same total time gives the same state, bit for bit, and the same events in
    /// the same order at the same moments: 60 Hz, 144 Hz or one big step. Nothing is skipped,
    /// however long the step. The new state does not wait for the events: they are worked out when
    /// they are read, from a copy of the state before. Not reading them costs nothing, and a step
    /// of a day takes no longer than one of a second, also over rings of clips that go on to one
    /// another.
    ///
    /// After a very long step there may be very many events; [`Iterator::take`] bounds the reading.
    ///
    /// An advance *moves* when `dt` times the speed is not 0, the player is not paused, and the
    /// time reaches beyond a hit-stop. One that does not move changes nothing and reports nothing.
    ///
    /// ```
    /// # use lucky_reel_core::{Event, Grid, NewClip, NewSheet, Player, Reel, Ticks};
    /// # let mut builder = Reel::builder();
    /// # let sheet = builder.sheet("bram", NewSheet::grid([128, 32], Grid::cells([32, 32])));
    /// # let walk = builder.clip("walk", NewClip::of(sheet).frames(0..4).fps(8).mark("step", [1, 3]));
    /// # let reel = builder.build()?;
    /// let step = reel.mark("step").unwrap();
    /// let (mut smooth, mut stuttering) = (Player::new(&reel, walk), Player::new(&reel, walk));
    /// let mut heard = [0, 0];
    /// let mut count = |index: usize, event: Event| {
    ///     if matches!(event, Event::Mark { mark, .. } if mark == step) {
    ///         heard[index] += 1;
    ///     }
    /// };
    /// for _ in 0..60 {
    ///     smooth.advance(&reel, Ticks::per_second_of(60)).for_each(|event| count(0, event));
    /// }
    /// stuttering.advance(&reel, Ticks::from_secs(1)).for_each(|event| count(1, event));
    /// assert_eq!(heard, [4, 4]);
    /// assert_eq!(smooth, stuttering);
    /// # Ok::<(), lucky_reel_core::BuildError>(())
    /// ```
    #[inline]
    pub fn advance<'r>(&mut self, reel: &'r Reel, dt: Ticks) -> Events<'r> {
        let before = *self;
        if !self.glide::<false>(reel, dt) {
            self.travel(reel, Drive::Time(dt));
        }
        Events::new(reel, before, Drive::Time(dt))
    }

    /// Moves a clip that says how much ground a cycle covers by the ground that was covered, in
    /// pixels, so that feet do not slide; negative goes back. Speed is not applied.
    ///
    /// The distance is taken to the nearest 65,536th of a pixel, and any split of the same distance
    /// gives the same. In the events, `at` counts 65,536ths of a pixel instead of ticks. A clip
    /// that covers no ground stands still, so does one in a hit-stop (which
    /// [`pass_hit_stop`](Player::pass_hit_stop) lets pass), and a distance that is not finite is
    /// none.
    ///
    /// ```
    /// # use lucky_reel_core::{Grid, NewClip, NewSheet, Player, Reel, Ticks};
    /// # let mut builder = Reel::builder();
    /// # let sheet = builder.sheet("bram", NewSheet::grid([128, 32], Grid::cells([32, 32])));
    /// let walk = builder.clip("walk", NewClip::of(sheet).frames(0..4).fps(8).covers(24.0));
    /// # let reel = builder.build()?;
    /// let mut bram = Player::new(&reel, walk);
    /// bram.advance_by_distance(&reel, 6.5); // a frame every six pixels
    /// assert_eq!(bram.hold(&reel), Some(1));
    /// # Ok::<(), lucky_reel_core::BuildError>(())
    /// ```
    pub fn advance_by_distance<'r>(&mut self, reel: &'r Reel, pixels: f32) -> Events<'r> {
        let before = *self;
        let steps = f64::from(pixels) * 65_536.0;
        // `as` takes infinities and NaN to bounds and 0; a step is far below any frame.
        let steps = if steps.is_finite() { (steps + 0.5_f64.copysign(steps)) as i64 } else { 0 };
        self.travel(reel, Drive::Ground(steps));
        Events::new(reel, before, Drive::Ground(steps))
    }

    /// As the quick way of [`advance`](Player::advance), where no boundary that is crossed can change
    /// what an actor plays.
    #[inline]
    pub(crate) fn glide_quietly(&mut self, reel: &Reel, dt: Ticks) -> bool {
        self.glide::<true>(reel, dt)
    }

    /// The quick way: a movement that goes on as before and stays within its hold touches no reel,
    /// and one that crosses a single boundary stays in 64 bits. `false` leaves the player as it was.
    #[inline]
    fn glide<const QUIETLY: bool>(&mut self, reel: &Reel, dt: Ticks) -> bool {
        if !self.stamp.is_ready_for(reel.stamp) || dt.get() > u64::from(u32::MAX) {
            return false;
        }
        let units = dt.get() * u64::from(self.pace.size());
        if units < self.remain {
            self.remain -= units;
            return true;
        }
        self.cross_to_neighbour::<QUIETLY>(reel, units - self.remain)
    }

    /// Into the next hold with so many units left over, where a boundary is a plain one: within an
    /// endless loop, or within a way of a ping-pong or a cycle of a finite clip.
    fn cross_to_neighbour<const QUIETLY: bool>(&mut self, reel: &Reel, left: u64) -> bool {
        let tracks = &reel.data.tracks;
        let Some(track) = tracks.of(self.clip) else { return false };
        if QUIETLY && !track.is_quiet {
            return false;
        }
        let (hold, way_back) = (self.place & !RETURNING, self.place & RETURNING);
        let upwards = self.has(NEGATIVE) == (way_back != 0);
        let edge = if upwards { track.last } else { 0 };
        let (mut next, mut cycle) =
            (if upwards { hold + 1 } else { hold.wrapping_sub(1) }, self.cycle);
        if hold == edge {
            if !track.is_ring {
                return false;
            }
            next = track.last - edge;
            cycle = cycle.wrapping_add(if self.heads_forwards() { 1 } else { -1 });
        }
        // The way back of a ping-pong ends beside its first hold; a closing hold is no plain one.
        let way_ends = way_back != 0 && (next == 0 || next == track.last);
        if way_ends || track.repeat > 0 && cycle >= track.repeat as i32 {
            return false;
        }
        match tracks.length(track, next) {
            Some(length) if left < length => {
                self.place = next | way_back;
                self.cycle = cycle;
                self.remain = length - left;
                true
            }
            _ => false,
        }
    }

    /// Any movement, in constant time.
    #[inline(never)]
    pub(crate) fn travel(&mut self, reel: &Reel, drive: Drive) {
        let Some(clip) = self.settle(reel) else { return };
        if let Some(movement) = self.movement(clip, drive) {
            self.travel_by(reel, clip, movement);
            self.glide_if_free();
        }
    }

    fn travel_by(&mut self, reel: &Reel, clip: &ClipData, movement: Movement) {
        if self.depart(self.line(clip), movement.negative).is_none() {
            return;
        }
        let (line, units) = (self.line(clip), movement.units());
        if units < u128::from(self.remain) {
            self.remain -= units as u64;
            return;
        }
        let (spot, forwards) = (self.spot(line), self.heads_forwards());
        let Some(length) = line.length() else {
            return self.put(line, line.spot_after(spot, units, forwards));
        };
        let from = line.units_at(spot);
        if !forwards {
            if units >= from {
                self.reach_near_end(line);
            } else {
                self.put(line, line.spot_at(from - units, false));
            }
        } else if from + units < length {
            self.put(line, line.spot_at(from + units, true));
        } else if let End::Play(next) = clip.end {
            let to_end = length - from;
            let left = if movement.by_ground {
                u128::from(movement.steps) - to_end.div_ceil(u128::from(movement.rate))
            } else {
                units - to_end
            };
            self.go_on(reel, next, left, movement.by_ground);
        } else {
            self.reach_far_end(line);
        }
    }

    /// Goes on to another clip with so much left over: units of clip time, or steps of ground (each
    /// clip has its own rate for those). Whole rounds of a ring of clips are skipped at once.
    pub(super) fn go_on(&mut self, reel: &Reel, next: ClipId, left: u128, by_ground: bool) {
        let (mut next, mut left, mut skipped) = (next, left, false);
        loop {
            let Some(clip) = reel.clip_data(next) else { return };
            let line = self.line(clip);
            self.clip = next;
            self.play = self.play.wrapping_add(1);
            self.begin(line);
            if by_ground && clip.units_for_ground == 0 {
                return;
            }
            let rings = if by_ground { &clip.rings.by_ground } else { &clip.rings.by_time };
            if let (Some(ring), false) = (&rings[usize::from(line.backwards)], skipped) {
                let rounds = left / ring.length;
                left -= rounds * ring.length;
                self.play = self.play.wrapping_add((rounds as u8).wrapping_mul(ring.clips as u8));
                skipped = true;
            }
            match (length_by(line, by_ground), clip.end) {
                (Some(length), End::Play(after)) if left >= length => {
                    left -= length;
                    next = after;
                }
                (Some(length), _) if left >= length => {
                    self.reach_far_end(line);
                    return;
                }
                _ => {
                    let rate = if by_ground { u128::from(clip.units_for_ground) } else { 1 };
                    return self.put(line, line.spot_at(left * rate, true));
                }
            }
        }
    }
}
