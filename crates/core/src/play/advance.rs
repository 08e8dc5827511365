//! Moving by any amount in constant time: first the fast path, then a jump along the line, then rounds
//! of chained clips.

use super::events::{PlayerEvents, Walk};
use super::movement::{Drive, Movement};
use super::player::{NextOr, Player};
use super::reading::Events;
use super::state::{PAUSED, State};
use crate::clip::ClipData;
use crate::distance::Distance;
use crate::event::Event;
use crate::kernel::{Boundary, Step, length_by};
use crate::reel::Reel;
use crate::time::{Ticks, divide_units};

/// What the fast path has done.
pub(crate) enum Fast {
    /// It stays within its hold: nothing happens.
    Within,
    /// It crossed a plain boundary, and so many units were left over.
    Crossed(Boundary, u64),
    /// It left the player as it was.
    Refused,
}

impl Player {
    /// Advances by game time and returns the events.
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
    /// # use lucky_reel_core::{MarkId, Event, Grid, NewClip, NewSheet, Player, Reel, Ticks};
    /// # let mut builder = Reel::builder();
    /// # let sheet = builder.sheet("bram", NewSheet::grid([128, 32], Grid::cell_size([32, 32])));
    /// # let walk = builder.clip("walk", NewClip::of(sheet).frames(0..4).fps(8).mark("step", [1, 3]));
    /// # let reel = builder.build()?;
    /// let step: MarkId = reel.id("step").unwrap();
    /// let (mut smooth, mut stuttering) = (Player::new(&reel, walk), Player::new(&reel, walk));
    /// let mut heard = [0, 0];
    /// let mut count = |index: usize, event: Event| heard[index] += u32::from(event.is_mark(step));
    /// for _ in 0..60 {
    ///     smooth.advance(&reel, Ticks::from_rate(60)).for_each(|event| count(0, event));
    /// }
    /// stuttering.advance(&reel, Ticks::from_secs(1)).for_each(|event| count(1, event));
    /// assert_eq!(heard, [4, 4]);
    /// assert_eq!(smooth, stuttering);
    /// # Ok::<(), lucky_reel_core::BuildError>(())
    /// ```
    #[inline(always)] // so that what is not read is not made: a third of the time of a silent update
    pub fn advance<'r>(&mut self, reel: &'r Reel, dt: Ticks) -> Events<'r> {
        match self.advance_fast(reel, dt, Step::stops(false)) {
            Fast::Within => Events(PlayerEvents::none(reel)),
            Fast::Crossed(boundary, over) => {
                let after = divide_units(over, u64::from(self.pace.size()));
                Events(PlayerEvents::one(reel, boundary, dt - Ticks::new(after)))
            }
            Fast::Refused => Events(PlayerEvents::of_walk(reel, self.advance_slow(reel, dt))),
        }
    }

    /// Advances a clip with a stride by the distance covered in `dt`, in pixels, so that feet do not
    /// slide; negative distances play backward. Speed is not applied.
    ///
    /// Any split of the same distance gives the same. The distance counts as covered evenly, so that the
    /// `at` of the events is a time, as in [`advance`](Player::advance). A hit-stop passes first: what is
    /// left of `dt` after it is the time in which the sprite moves. A clip without a stride stands still.
    ///
    /// ```
    /// # use lucky_reel_core::{Grid, NewClip, NewSheet, Player, Reel, Ticks};
    /// # let mut builder = Reel::builder();
    /// # let sheet = builder.sheet("bram", NewSheet::grid([128, 32], Grid::cell_size([32, 32])));
    /// let walk = builder.clip("walk", NewClip::of(sheet).frames(0..4).fps(8).stride(24.0));
    /// # let reel = builder.build()?;
    /// let mut bram = Player::new(&reel, walk);
    /// let dt = Ticks::from_millis(130);
    /// let second = bram.advance_by_distance(&reel, 6.5, dt).last().unwrap(); // a frame every six pixels
    /// assert_eq!((second.hold, second.at), (1, Ticks::from_millis(120)));
    /// # Ok::<(), lucky_reel_core::BuildError>(())
    /// ```
    pub fn advance_by_distance<'r>(
        &mut self,
        reel: &'r Reel,
        pixels: f32,
        dt: Ticks,
    ) -> impl Iterator<Item = Event> + Clone + use<'r> {
        let distance = Distance::from_pixels(pixels);
        let moving = if self.is_paused() { Ticks::ZERO } else { self.pass_hit_stop(dt) };
        let moves = moving != Ticks::ZERO || dt == Ticks::ZERO;
        let walk = if moves { self.advance_by(reel, Drive::Distance(distance)) } else { None };
        // The events count steps of distance; they are spread evenly over the time in which it moved.
        let steps = u128::from(distance.to_bits().unsigned_abs());
        PlayerEvents::of_walk(reel, walk).map(move |event| {
            let time = u128::from(moving.get()) * u128::from(event.at.get());
            let at = time.div_ceil(steps.max(1)) as u64; // at most `moving`
            Event { at: dt - moving + Ticks::new(at), ..event }
        })
    }

    /// A movement that goes on as before and stays within its hold touches no reel, and one that
    /// crosses a single boundary that is none of these stays in 64 bits.
    #[inline(always)]
    pub(crate) fn advance_fast(&mut self, reel: &Reel, dt: Ticks, stops: u64) -> Fast {
        // One comparison for three questions: a build that is not ready is no build of a reel. And up to a minute,
        // 32 bits of ticks times 32 of speed fit into 64.
        if self.build != reel.build || dt.get() > u64::from(u32::MAX) {
            return Fast::Refused;
        }
        let units = dt.get() * u64::from(self.pace.size());
        // Less, not at most: a hold whose time is used up is over, and the next one is up.
        if units < self.left {
            self.left -= units;
            return Fast::Within;
        }
        let (over, number, cycle) = (units - self.left, self.step, self.cycle);
        let step = reel.steps().get(number);
        // Past a second boundary it would have to look again, and a loop here costs every member that crosses one.
        if step.has(stops) || over >= step.next_units() {
            return Fast::Refused;
        }
        self.enter_next(reel, step, over);
        Fast::Crossed(reel.steps().boundary(number, step, cycle, self.plays), over)
    }

    #[cold]
    #[inline(never)]
    fn advance_slow(&mut self, reel: &Reel, dt: Ticks) -> Option<Walk> {
        self.advance_by(reel, Drive::Time(dt))
    }

    /// Any movement, in constant time; gives what is needed to list its events, if it moves.
    #[inline(never)]
    pub(crate) fn advance_by(&mut self, reel: &Reel, drive: Drive) -> Option<Walk> {
        let (walk, clip, movement) = self.begin_walk(reel, drive)?;
        self.jump(reel, clip, movement);
        self.update_ready(reel);
        Some(walk)
    }

    /// The first moment of a movement, from which its boundaries are listed.
    pub(crate) fn begin_walk<'r>(
        &mut self,
        reel: &'r Reel,
        drive: Drive,
    ) -> Option<(Walk, &'r ClipData, Movement)> {
        let clip = self.rebind(reel)?;
        let movement = self.movement(clip, drive)?;
        let boundary = self.begin_movement(reel, clip, movement.negative)?;
        Some((Walk::new(self, boundary, movement), clip, movement))
    }

    /// What the present movement is, once pause and hit-stop have had their share; `None` when it
    /// does not move.
    fn movement(&mut self, clip: &ClipData, drive: Drive) -> Option<Movement> {
        if self.has(PAUSED) {
            return None;
        }
        let movement = match drive {
            Drive::Time(dt) => {
                let moving = self.pass_hit_stop(dt);
                Movement {
                    first: (dt - moving).get(),
                    steps: moving.get(),
                    rate: u64::from(self.pace.size()),
                    negative: self.pace.is_negative(),
                    by_distance: false,
                }
            }
            Drive::Distance(_) if self.hit_stop > 0 => return None,
            Drive::Distance(distance) => Movement {
                first: 0,
                steps: distance.to_bits().unsigned_abs(),
                rate: clip.units_for_ground,
                negative: distance < Distance::ZERO,
                by_distance: true,
            },
        };
        (movement.units() > 0).then_some(movement)
    }

    /// Goes all the way of a movement that has begun: what crossing each boundary would come to.
    fn jump(&mut self, reel: &Reel, clip: &ClipData, movement: Movement) {
        let (line, units) = (self.line(clip), movement.units());
        if self.state() == State::Still {
            return;
        }
        if units < u128::from(self.left) {
            self.left -= units as u64;
            return;
        }
        let (time, along) = (self.line_time(line), self.heads_along());
        let Some(length) = line.length() else {
            return self.put(line, line.time_after(time, units, along));
        };
        let from = line.units_at(time);
        // Toward the beginning a hold is up for (start, end], so that exactly at 0 it is over.
        if !along && units >= from {
            self.reach_near_end(clip);
        } else if !along {
            self.put(line, line.time_at(from - units, false));
        } else if from + units < length {
            self.put(line, line.time_at(from + units, true));
        } else if let Some(next) = self.reach_far_end(clip) {
            let to_end = length - from;
            let left = if movement.by_distance {
                // Each clip has its own rate, so it starts on a whole step.
                u128::from(movement.steps) - to_end.div_ceil(u128::from(movement.rate))
            } else {
                units - to_end
            };
            self.follow_chain(reel, next, left, movement.by_distance);
        }
    }

    /// Goes on to another clip with so much left over: units of clip time, or steps of distance. Whole
    /// rounds of a ring of clips are skipped at once.
    pub(super) fn follow_chain(&mut self, reel: &Reel, next: u16, left: u128, by_distance: bool) {
        let (mut next, mut left, mut skipped) = (next, left, false);
        // Once whole rounds are taken off, less than a round is left: each clip of a ring is met once more at most,
        // and those before a ring once, so that the loop ends however long the step was.
        loop {
            if !self.begin_next(reel, next) {
                return;
            }
            let Some(clip) = reel.clip_at(next) else { return };
            if clip.is_still || by_distance && clip.units_for_ground == 0 {
                return;
            }
            let line = self.line(clip);
            let rings = reel.steps().rings.get(usize::from(next));
            let rings =
                rings.map(|rings| if by_distance { &rings.by_distance } else { &rings.by_time });
            let ring = rings.and_then(|rings| rings[usize::from(line.backward)]);
            if let (Some(ring), false) = (ring, skipped) {
                let rounds = left / ring.length;
                left -= rounds * ring.length;
                // As if each clip had been begun: equal states must count equal plays, which wrap at 8 bits.
                let plays = (rounds as u8).wrapping_mul(ring.clips as u8);
                self.plays = self.plays.wrapping_add(plays);
                skipped = true;
            }
            match (length_by(line, by_distance), self.end(clip)) {
                (Some(length), NextOr::Next(after)) if left >= length => {
                    left -= length;
                    next = after;
                }
                (Some(length), _) if left >= length => {
                    self.reach_far_end(clip);
                    return;
                }
                _ => {
                    let rate = if by_distance { u128::from(clip.units_for_ground) } else { 1 };
                    return self.put(line, line.time_at(left * rate, true));
                }
            }
        }
    }
}
