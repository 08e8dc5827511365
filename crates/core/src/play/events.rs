use core::fmt;

use super::cross::Happened;
use super::movement::{Drive, Movement};
use super::player::{Player, State};
use crate::actor::Why;
use crate::clip::RETURNING;
use crate::ids::{BridgeId, ClipId, CueId, FrameId, MarkId};
use crate::reel::Reel;
use crate::time::Ticks;

/// What an advance reports.
///
/// Each event has `at`, the ticks from the start of the advance to the first tick at which the
/// boundary has been reached (rounded up): arrivals have 0 < `at` ≤ `dt`; a start, and a turn that
/// stood on a boundary, have `at` at the first moving moment. Within one instant the order is:
/// cycle, turn, end, next, enter, marks by name.
///
/// Each has a serial, too, that depends on the play, the cycle, the hold and the kind of event
/// alone: after a rollback and a second run an event is recognised as the same one, so that its
/// sound is not heard twice. (Plays are counted modulo 256.)
///
/// `clip`, `hold` (from 0 in the clip's own list), `frame` and `cycle` (complete so far) say where it
/// happened.
///
/// ```
/// use lucky_reel_core::{Event, Grid, NewClip, NewSheet, Player, Reel, Ticks};
///
/// let mut builder = Reel::builder();
/// let fan = builder.sheet("fan", NewSheet::grid([32, 16], Grid::cells([16, 16])));
/// let turn = NewClip::of(fan).frames(0..2).each(Ticks::from_millis(100)).mark("click", [0]);
/// let turn = builder.clip("turn", turn);
/// let reel = builder.build()?;
/// let mut player = Player::new(&reel, turn);
/// player.advance(&reel, Ticks::from_millis(150));
/// let told = player.advance(&reel, Ticks::from_millis(60)).map(|event| match event {
///     Event::Cycle { cycle, .. } => format!("cycle {cycle} is complete"),
///     Event::Enter { hold, .. } => format!("hold {hold} came up"),
///     Event::Mark { mark, at, .. } => format!("{} after {at}", reel.mark_name(mark)),
///     other => format!("{other:?}"),
/// });
/// let told: Vec<String> = told.collect();
/// assert_eq!(told, ["cycle 1 is complete", "hold 0 came up", "click after 50ms"]);
/// # Ok::<(), lucky_reel_core::BuildError>(())
/// ```
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
#[allow(missing_docs)] // the fields are explained above, once
pub enum Event {
    /// A hold came up.
    Enter { clip: ClipId, hold: u32, frame: FrameId, cycle: i32, at: Ticks, serial: u64 },
    /// A hold with this mark came up.
    Mark { mark: MarkId, clip: ClipId, hold: u32, cycle: i32, at: Ticks, serial: u64 },
    /// The boundary of a cycle was crossed; forwards, `cycle` cycles are now complete. `hold` is
    /// the one that is left.
    Cycle { clip: ClipId, hold: u32, cycle: i32, at: Ticks, serial: u64 },
    /// A ping-pong turns: its far-end hold comes up next. `hold` is the one that is left.
    Turn { clip: ClipId, hold: u32, cycle: i32, at: Ticks, serial: u64 },
    /// The time of the last hold is up.
    End { clip: ClipId, hold: u32, cycle: i32, at: Ticks, serial: u64 },
    /// Another clip goes on.
    Next { clip: ClipId, at: Ticks, serial: u64 },
    /// A cue of an actor takes over, or starts over.
    Cue { cue: CueId, why: Why, at: Ticks, serial: u64 },
    /// A bridge of an actor begins.
    Bridge { bridge: BridgeId, why: Why, at: Ticks, serial: u64 },
    /// In this instant an actor's cues would have changed more often than there are cues; they are
    /// not looked at again before something else happens.
    CutOff { at: Ticks, serial: u64 },
}

impl Event {
    /// Ticks from the start of the advance.
    #[must_use]
    pub fn at(&self) -> Ticks {
        let mut event = *self;
        *event.at_mut()
    }

    /// The same event, so much later.
    pub(crate) fn later(mut self, time: Ticks) -> Event {
        *self.at_mut() += time;
        self
    }

    /// The same event at another moment.
    pub(crate) fn moved_to(mut self, at: Ticks) -> Event {
        *self.at_mut() = at;
        self
    }

    fn at_mut(&mut self) -> &mut Ticks {
        match self {
            Event::Enter { at, .. }
            | Event::Mark { at, .. }
            | Event::Cycle { at, .. }
            | Event::Turn { at, .. }
            | Event::End { at, .. }
            | Event::Next { at, .. }
            | Event::Cue { at, .. }
            | Event::Bridge { at, .. }
            | Event::CutOff { at, .. } => at,
        }
    }

    /// Equal for the same event after a rollback and a second run.
    #[must_use]
    pub fn serial(&self) -> u64 {
        match *self {
            Event::Enter { serial, .. }
            | Event::Mark { serial, .. }
            | Event::Cycle { serial, .. }
            | Event::Turn { serial, .. }
            | Event::End { serial, .. }
            | Event::Next { serial, .. }
            | Event::Cue { serial, .. }
            | Event::Bridge { serial, .. }
            | Event::CutOff { serial, .. } => serial,
        }
    }
}

/// The events of one advance, worked out as they are read.
///
/// It borrows the reel alone, so the game's own things may change while it is read. A step may have
/// very many events, after a stall of hours, say: [`Iterator::take`] bounds the reading. Dropping
/// it unread costs nothing.
#[derive(Clone)]
pub struct Events<'r> {
    reel: &'r Reel,
    /// The player as it was, moved from boundary to boundary.
    player: Player,
    drive: Drive,
    begun: bool,
    reading: Option<Reading>,
}

/// How far the reading has come.
#[derive(Clone)]
struct Reading {
    movement: Movement,
    /// Units of clip time not yet used, and used, since the first moment.
    left: u128,
    spent: u128,
    at: Ticks,
    happened: Happened,
    /// As it was before the last boundary.
    leaving: Player,
    cycle_crossed: i32,
    marks_told: u32,
}

impl Reading {
    /// When all that was spent had been spent, rounded up.
    fn moment(&self) -> Ticks {
        let steps = self.spent.div_ceil(u128::from(self.movement.rate)) as u64;
        Ticks::new(self.movement.first + steps)
    }
}

impl<'r> Events<'r> {
    #[inline]
    pub(crate) fn new(reel: &'r Reel, player: Player, drive: Drive) -> Events<'r> {
        Events { reel, player, drive, begun: false, reading: None }
    }

    /// Whether all has been told that happened at the last boundary.
    pub(crate) fn has_told_all(&self) -> bool {
        let Some(reading) = &self.reading else { return true };
        let marks = || {
            let clip = self.reel.clip_data(self.player.clip);
            clip.map_or(0, |clip| clip.marks_of(self.player.place & !RETURNING).len())
        };
        reading.happened == Happened::NOTHING
            || reading.happened == Happened::MARKS && reading.marks_told as usize >= marks()
    }

    /// The player at the last boundary; `ended` before it goes on to another clip.
    pub(crate) fn player_at_end(&self, ended: bool) -> Player {
        match &self.reading {
            Some(reading) if ended && reading.happened.has(Happened::NEXT) => {
                let mut player = reading.leaving;
                if let Some(clip) = self.reel.clip_data(player.clip) {
                    let line = player.line(clip);
                    player.put(line, line.far_end());
                    player.set_state(State::Ended);
                }
                player
            }
            _ => self.player,
        }
    }

    /// The player once it has departed, where no time has been used up since.
    pub(crate) fn at_first_moment(&self) -> Option<Player> {
        let reading = self.reading.as_ref()?;
        (reading.spent == 0).then_some(self.player)
    }

    /// The cycle that an endless clip has come to, where its boundary lies on a whole tick.
    pub(crate) fn cycle_on_tick(&self, of: ClipId) -> Option<i32> {
        let reading = self.reading.as_ref()?;
        // It may have gone on to another clip at this boundary.
        let clip = self.reel.clip_data(of).filter(|_| self.player.clip == of)?;
        let endless = self.player.line(clip).length().is_none();
        let on_tick = reading.spent % u128::from(reading.movement.rate) == 0;
        (endless && on_tick).then_some(self.player.cycle)
    }

    /// Leaves out so many cycles of an endless clip as often as it can, but for the last time: what
    /// that does may still last at the end.
    pub(crate) fn skip_cycles(&mut self, count: u32) {
        let Some(reading) = &mut self.reading else { return };
        let Some(clip) = self.reel.clip_data(self.player.clip) else { return };
        let round = u128::from(self.player.line(clip).cycle()) * u128::from(count);
        let rounds = (reading.left.checked_div(round).unwrap_or(0)).saturating_sub(1);
        reading.left -= rounds * round;
        reading.spent += rounds * round;
        reading.at = reading.moment();
        let cycles = (rounds as i32).wrapping_mul(count as i32);
        let along = if self.player.heads_forwards() { cycles } else { cycles.wrapping_neg() };
        self.player.cycle = self.player.cycle.wrapping_add(along);
    }

    fn begin(&mut self) -> Option<()> {
        let player = &mut self.player;
        let clip = player.settle(self.reel)?;
        let movement = player.movement(clip, self.drive)?;
        let leaving = *player;
        let happened = player.depart(player.line(clip), movement.negative)?;
        self.reading = Some(Reading {
            movement,
            left: movement.units(),
            spent: 0,
            at: Ticks::new(movement.first),
            happened,
            leaving,
            cycle_crossed: leaving.cycle,
            marks_told: 0,
        });
        Some(())
    }

    /// Goes to the next boundary; `None` when the movement ends before it.
    fn cross(&mut self) -> Option<()> {
        let reading = self.reading.as_mut()?;
        let player = &mut self.player;
        let to_boundary = u128::from(player.remain);
        if player.state() != State::Running || reading.left < to_boundary {
            return None;
        }
        reading.left -= to_boundary;
        reading.spent += to_boundary;
        reading.at = reading.moment();

        let line = player.line(self.reel.clip_data(player.clip)?);
        reading.leaving = *player;
        reading.marks_told = 0;
        reading.happened = player.cross(line);
        let forwards = player.heads_forwards();
        reading.cycle_crossed = if forwards { player.cycle } else { reading.leaving.cycle };
        if reading.happened.has(Happened::NEXT) {
            player.begin_next(self.reel, line);
            let at = reading.at.get();
            let movement = &mut reading.movement;
            if movement.by_ground {
                let steps = at - movement.first;
                // Each clip has its own rate, so it starts on a whole step.
                movement.first += steps;
                movement.steps -= steps;
                movement.rate = self.reel.clip_data(player.clip)?.units_for_ground;
                reading.left = movement.units();
                reading.spent = 0;
                if movement.rate == 0 {
                    // Nothing is left to cross: it stands on its first hold.
                    movement.rate = 1;
                }
            }
        }
        Some(())
    }

    /// The next thing that happened in the present instant.
    fn tell(&mut self) -> Option<Event> {
        let Events { reel, player, reading, .. } = self;
        let reading = reading.as_mut()?;
        let (at, leaving) = (reading.at, reading.leaving);
        let happened = &mut reading.happened;
        let left_hold = u32::from(leaving.place & !RETURNING);
        if happened.take(Happened::CYCLE) {
            let cycle = reading.cycle_crossed;
            let serial = serial(&leaving, cycle, Kind::Cycle, 0);
            return Some(Event::Cycle { clip: leaving.clip, hold: left_hold, cycle, at, serial });
        }
        if happened.take(Happened::TURN) {
            let cycle = player.cycle;
            let serial = serial(&leaving, cycle, Kind::Turn, 0);
            return Some(Event::Turn { clip: leaving.clip, hold: left_hold, cycle, at, serial });
        }
        if happened.take(Happened::END) {
            let cycle = reading.cycle_crossed;
            let serial = serial(&leaving, cycle, Kind::End, 0);
            return Some(Event::End { clip: leaving.clip, hold: left_hold, cycle, at, serial });
        }
        if happened.take(Happened::NEXT) {
            let serial = serial(player, 0, Kind::Next, 0);
            return Some(Event::Next { clip: player.clip, at, serial });
        }
        let (clip, cycle, place) = (player.clip, player.cycle, player.place & !RETURNING);
        let (data, hold) = (reel.clip_data(clip)?, u32::from(place));
        if happened.take(Happened::ENTER) {
            let frame = data.holds.get(usize::from(place))?.frame;
            let serial = serial(player, cycle, Kind::Enter, 0);
            return Some(Event::Enter { clip, hold, frame, cycle, at, serial });
        }
        if happened.has(Happened::MARKS) {
            let nth = reading.marks_told;
            if let Some(&(_, mark)) = data.marks_of(place).get(nth as usize) {
                reading.marks_told += 1;
                let serial = serial(player, cycle, Kind::Mark, nth as u8);
                return Some(Event::Mark { mark, clip, hold, cycle, at, serial });
            }
            happened.take(Happened::MARKS);
        }
        None
    }
}

impl Iterator for Events<'_> {
    type Item = Event;

    fn next(&mut self) -> Option<Event> {
        if !self.begun {
            self.begun = true;
            self.begin()?;
        }
        loop {
            if let Some(event) = self.tell() {
                return Some(event);
            }
            self.cross()?;
        }
    }
}

impl core::iter::FusedIterator for Events<'_> {}

impl fmt::Debug for Events<'_> {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.debug_list().entries(self.clone().take(64)).finish()
    }
}

#[derive(Clone, Copy)]
pub(super) enum Kind {
    Enter,
    Mark,
    Cycle,
    Turn,
    End,
    Next,
}

/// The serial of what an actor's cues did: `kind` is 0 for a cue, 1 for a bridge, 2 for a cut-off.
pub(crate) fn serial_of_change(player: &Player, id: u16, kind: u8) -> u64 {
    u64::from(player.play) << 56 | u64::from(id) << 24 | 6 << 5 | u64::from(kind)
}

/// The play (8 bits), the cycle (32), the hold and its way (16), the kind (3), which mark (5).
fn serial(player: &Player, cycle: i32, kind: Kind, nth: u8) -> u64 {
    serial_of(player.play, player.place, cycle, kind, nth)
}

#[inline]
pub(super) fn serial_of(play: u8, place: u16, cycle: i32, kind: Kind, nth: u8) -> u64 {
    u64::from(play) << 56
        | u64::from(cycle as u32) << 24
        | u64::from(place) << 8
        | (kind as u64) << 5
        | u64::from(nth & 31)
}
