//! What the game tells a player to do.

use super::player::{Plan, Player};
use super::state::{FLIP_X, FLIP_Y, PAUSED, State};
use crate::command_error::CommandError;
use crate::ids::{ClipId, NONE};
use crate::kernel::StepTable;
use crate::range::Range;
use crate::reel::Reel;
use crate::sheet::Flips;
use crate::time::{Speed, Ticks};

impl Player {
    /// A player that plays `clip` at normal speed, from its start. With an id that the reel does not know
    /// it plays nothing, and [`belongs_to`](Player::belongs_to) says so.
    #[must_use]
    pub fn new(reel: &Reel, clip: ClipId) -> Player {
        Player::of_number(reel, reel.number_of(clip).unwrap_or(NONE))
    }

    pub(crate) fn of_number(reel: &Reel, clip: u16) -> Player {
        Player {
            left: 0,
            pace: Speed::NORMAL.into(),
            hit_stop: 0,
            cycle: 0,
            family: reel.family,
            build: reel.build.with_ready(false),
            step: StepTable::NOTHING,
            plan: Plan::NONE,
            place: 0,
            clip,
            requested: clip,
            flags: State::Pending as u8,
            plays: 0,
        }
    }

    /// Plays a clip from its start, also when it is the one that plays. Speed, flips, pause and
    /// hit-stop are kept. `false`, and nothing is changed, for an id that the reel does not know.
    ///
    /// # Start
    ///
    /// The first moving advance after it reports the first hold and its marks at that moment, and
    /// fixes the direction in which the clip is read: at a negative speed, from its last hold.
    ///
    /// ```
    /// # use lucky_reel_core::{EventKind, Grid, NewClip, NewSheet, Player, Reel, Speed, Ticks};
    /// # let mut builder = Reel::builder();
    /// # let sheet = builder.sheet("bram", NewSheet::grid([128, 32], Grid::cell_size([32, 32])));
    /// # let walk = builder.clip("walk", NewClip::of(sheet).frames(0..4).fps(10));
    /// # let reel = builder.build()?;
    /// let mut bram = Player::new(&reel, walk);
    /// bram.advance(&reel, Ticks::from_millis(150));
    /// bram.play(&reel, walk);
    /// assert_eq!(bram.hold_index(&reel), Some(0));
    /// let first = bram.advance(&reel, Ticks::from_millis(10)).next().unwrap();
    /// assert!(matches!(first.kind, EventKind::Enter(_)) && (first.hold, first.at) == (0, Ticks::ZERO));
    /// # Ok::<(), lucky_reel_core::BuildError>(())
    /// ```
    pub fn play(&mut self, reel: &Reel, clip: ClipId) -> bool {
        reel.number_of(clip).map(|number| self.start(reel, number)).is_some()
    }

    /// Plays this many cycles of a clip from its start, whatever its own repeat: at least one, at most
    /// 2^31 − 1. Its own end follows, unless [`then`](Player::then) names another clip. A still stands
    /// however often it is played. `false`, and nothing is changed, for an id that the reel does not
    /// know.
    ///
    /// # A number of plays, then another clip
    ///
    /// [`play`](Player::play), [`restart`](Player::restart) and [`stop`](Player::stop) forget both the
    /// number and the clip that follows; saving keeps them.
    ///
    /// ```
    /// # use lucky_reel_core::{Grid, NewClip, NewSheet, Player, Reel, Ticks};
    /// # let mut builder = Reel::builder();
    /// # let sheet = builder.sheet("coin", NewSheet::grid([96, 16], Grid::cell_size([16, 16])));
    /// let turn = builder.clip("turn", NewClip::of(sheet).frames(0..4).each(Ticks::from_millis(50)));
    /// let heads = builder.clip("heads", NewClip::of(sheet).frames([4])); // a still
    /// # let reel = builder.build()?;
    /// let mut coin = Player::new(&reel, turn);
    /// coin.play_times(&reel, turn, 5);
    /// coin.then(&reel, heads)?; // what the game has drawn
    /// coin.advance(&reel, Ticks::from_millis(999));
    /// assert_eq!((coin.clip(), coin.cycle()), (turn, 4));
    /// coin.advance(&reel, Ticks::from_millis(1));
    /// assert_eq!(coin.clip(), heads);
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn play_times(&mut self, reel: &Reel, clip: ClipId, times: u32) -> bool {
        let plays = self.play(reel, clip);
        if plays {
            self.plan.times = times.clamp(1, i32::MAX as u32);
        }
        plays
    }

    /// Names the clip that follows the present play, instead of the clip's own end: in the same instant,
    /// with the time left over. An endless play never comes to it: see
    /// [`play_times`](Player::play_times), which has an example.
    ///
    /// # Errors
    /// When the reel does not know the clip; when the play has ended already or was stopped.
    pub fn then(&mut self, reel: &Reel, clip: ClipId) -> Result<(), CommandError> {
        let next = reel.number_of(clip).filter(|_| self.family == reel.family);
        let next = next.ok_or(CommandError::UnknownId)?;
        if self.has_ended() || self.is_stopped() {
            return Err(CommandError::Over);
        }
        self.plan.then = next;
        Ok(())
    }

    /// Plays a clip unless it is the one last asked for. It is idempotent: call it every frame.
    ///
    /// It does nothing for the clip last asked for, wherever its chain has gone and whether or not
    /// it has ended; only after [`stop`](Player::stop) does it start the same clip again. `false`, and
    /// nothing is changed, for an id that the reel does not know.
    ///
    /// ```
    /// # use lucky_reel_core::{Grid, NewClip, NewSheet, Player, Reel, Ticks};
    /// # let mut builder = Reel::builder();
    /// # let sheet = builder.sheet("bram", NewSheet::grid([128, 32], Grid::cell_size([32, 32])));
    /// # let idle = builder.clip("idle", NewClip::of(sheet).frames([0]).fps(1));
    /// # let walk = builder.clip("walk", NewClip::of(sheet).frames(0..4).fps(8));
    /// # let reel = builder.build()?;
    /// let mut bram = Player::new(&reel, idle);
    /// for update in 0..60 {
    ///     bram.switch_to(&reel, walk); // set each update, started once
    ///     bram.advance(&reel, Ticks::from_rate(60));
    /// }
    /// assert_eq!(bram.cycle(), 2);
    /// # Ok::<(), lucky_reel_core::BuildError>(())
    /// ```
    pub fn switch_to(&mut self, reel: &Reel, clip: ClipId) -> bool {
        let same = self.requested_clip() == clip
            && self.family == reel.family
            && self.state() != State::Stopped;
        same || self.play(reel, clip)
    }

    /// Starts the clip last asked for again. `false`, and nothing is changed, where the reel does not know
    /// that clip.
    pub fn restart(&mut self, reel: &Reel) -> bool {
        self.play(reel, self.requested_clip())
    }

    /// Shows the rest hold of its clip until it plays again.
    pub fn stop(&mut self) {
        (self.cycle, self.place, self.left) = (0, 0, 0);
        self.plan = Plan::NONE;
        self.set_state(State::Stopped);
    }

    /// Pauses it, a hit-stop included, or goes on, without losing or gaining time.
    pub fn set_paused(&mut self, paused: bool) {
        // Resumed, the next movement looks for itself whether it is ready.
        if paused {
            self.clear_ready();
        }
        self.set(PAUSED, paused);
    }

    /// Sets how fast and which way it plays.
    ///
    /// # Backward
    ///
    /// Started at a negative speed, a clip plays as the same clip with its holds listed in reverse
    /// order, reported under their own numbers. Turned in flight, it goes back the way it came: an
    /// endless play is a ring, a finite one a line. Coming back to its beginning reports
    /// [`End`](crate::EventKind::End) and stays there (a clip that vanishes vanishes); `first` and going
    /// on to another clip act at the far end only, and nothing goes back into an earlier clip of a
    /// chain. A play that stayed at either end goes on when its speed turns inward.
    ///
    /// Turning never changes the frame by itself; the next moving advance may, at its first moment.
    ///
    /// ```
    /// # use lucky_reel_core::{Grid, NewClip, NewSheet, Player, Reel, Speed, Ticks};
    /// # let mut builder = Reel::builder();
    /// # let sheet = builder.sheet("bram", NewSheet::grid([128, 32], Grid::cell_size([32, 32])));
    /// # let walk = builder.clip("walk", NewClip::of(sheet).frames(0..4).fps(10));
    /// # let reel = builder.build()?;
    /// let mut bram = Player::new(&reel, walk);
    /// bram.advance(&reel, Ticks::from_millis(250));
    /// bram.set_speed(Speed::BACKWARD); // turned in flight: back the way it came
    /// bram.advance(&reel, Ticks::from_millis(100));
    /// assert_eq!(bram.hold_index(&reel), Some(1));
    ///
    /// bram.play(&reel, walk); // started backward: from its last hold
    /// assert_eq!(bram.hold_index(&reel), Some(3));
    /// # Ok::<(), lucky_reel_core::BuildError>(())
    /// ```
    pub fn set_speed(&mut self, speed: Speed) {
        // Faster or slower, it heads where it headed; only a turn has a first moment of its own.
        if speed.is_negative() != self.pace.is_negative() {
            self.clear_ready();
        }
        self.pace = speed.into();
    }

    /// Sets the speed at which the clip last asked for takes `time` from its start to its end, or
    /// an endless one for a cycle. The direction is kept.
    ///
    /// The speed is rounded up: it is never late, and early by less than a frame of any display
    /// (1/240 s).
    ///
    /// # Errors
    /// When the reel does not know the clip; when that takes a speed above 32,767, or one so slow that it
    /// could not be met so closely. A still takes no time and is left alone.
    ///
    /// ```
    /// # use lucky_reel_core::{Grid, NewClip, NewSheet, Mode, Player, Reel, Ticks};
    /// # let mut builder = Reel::builder();
    /// # let sheet = builder.sheet("bram", NewSheet::grid([128, 32], Grid::cell_size([32, 32])));
    /// let swing = builder.clip("swing", NewClip::of(sheet).frames(0..4).fps(7).mode(Mode::Once));
    /// # let reel = builder.build()?;
    /// let mut bram = Player::new(&reel, swing);
    /// bram.set_duration(&reel, Ticks::from_millis(400)).unwrap();
    /// let end = bram.advance(&reel, Ticks::from_millis(400)).last().unwrap();
    /// assert!(end.is_end());
    /// assert!(Ticks::from_millis(400) - end.at < Ticks::from_rate(240));
    /// # Ok::<(), lucky_reel_core::BuildError>(())
    /// ```
    pub fn set_duration(&mut self, reel: &Reel, time: Ticks) -> Result<(), CommandError> {
        const FRAME: u128 = Ticks::PER_SECOND as u128 / 240;
        let mut whole = *self;
        whole.clip = self.requested;
        let clip = whole.clip_in(reel).ok_or(CommandError::UnknownId)?;
        if clip.is_still {
            return Ok(());
        }
        let mut line = whole.line(clip);
        line.backward = self.pace.is_negative();
        let units = line.length().unwrap_or(u128::from(line.cycle()));
        let wanted = u128::from(time.get());
        // What takes no time takes an endless speed, which the range refuses.
        // Rounded up: the end is never late, and early by less than what one more bit of speed makes.
        let speed = if wanted == 0 { u128::MAX } else { units.div_ceil(wanted) };
        let early = wanted - wanted.min(units.div_ceil(speed));
        let range = Range {
            name: "the speed that this time needs",
            // So slow that the next slower speed would already be late by a frame.
            min: if early < FRAME { 0.0 } else { (wanted as f64 / FRAME as f64) / 65_536.0 },
            max: 32_767.0,
        };
        range.check(speed as f64 / 65_536.0)?;
        let speed = Speed::from_bits(speed as i32)?;
        self.set_speed(if self.pace.is_negative() { -speed } else { speed });
        Ok(())
    }

    /// Freezes this player for this much game time (59 s at most); it then goes on without having lost
    /// or gained any. Of two hit-stops the longer counts. It counts also at speed 0, not while paused,
    /// and survives [`play`](Player::play).
    ///
    /// ```
    /// # use lucky_reel_core::{Grid, NewClip, NewSheet, Player, Reel, Speed, Ticks};
    /// # let mut builder = Reel::builder();
    /// # let sheet = builder.sheet("bram", NewSheet::grid([128, 32], Grid::cell_size([32, 32])));
    /// # let walk = builder.clip("walk", NewClip::of(sheet).frames(0..4).fps(10));
    /// # let reel = builder.build()?;
    /// let mut bram = Player::new(&reel, walk);
    /// bram.advance(&reel, Ticks::from_millis(50));
    /// bram.hit_stop(Ticks::from_millis(80));
    /// let next = bram.advance(&reel, Ticks::from_millis(200)).next().unwrap();
    /// assert_eq!(next.at, Ticks::from_millis(80 + 50)); // late by the hit-stop, and no more
    /// # Ok::<(), lucky_reel_core::BuildError>(())
    /// ```
    pub fn hit_stop(&mut self, time: Ticks) {
        self.clear_ready();
        self.hit_stop = self.hit_stop.max(u32::try_from(time.get()).unwrap_or(u32::MAX));
    }

    /// Mirrors it about its pivot.
    pub fn set_flips(&mut self, flips: Flips) {
        self.set(FLIP_X, flips.x);
        self.set(FLIP_Y, flips.y);
    }

    /// Lets a hit-stop pass; gives what is left of `dt` after it.
    pub(super) fn pass_hit_stop(&mut self, dt: Ticks) -> Ticks {
        let passed = dt.get().min(u64::from(self.hit_stop));
        self.hit_stop -= passed as u32;
        dt - Ticks::new(passed)
    }

    /// Asks the clip last asked for to start at the next movement.
    fn start(&mut self, reel: &Reel, clip: u16) {
        let kept = self.flags & (PAUSED | FLIP_X | FLIP_Y);
        *self = Player {
            flags: kept | State::Pending as u8,
            pace: self.pace,
            hit_stop: self.hit_stop,
            plays: self.plays.wrapping_add(1),
            ..Player::of_number(reel, clip)
        };
    }
}
