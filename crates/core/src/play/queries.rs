//! What can be asked of a player.

use super::player::Player;
use super::state::{FLIP_X, FLIP_Y, PAUSED, State};
use crate::checksum::Checksum;
use crate::clip::ClipEnd;
use crate::event::Event;
use crate::ids::{ClipId, FrameId, SpanId};
use crate::kernel::RETURNING;
use crate::reel::Reel;
use crate::sheet::{Flips, PackedFrame};
use crate::time::{Speed, Ticks};
use crate::view::{LookSet, View};

impl Player {
    /// The clip that plays now: the one last asked for, or one that followed it.
    #[must_use]
    pub fn clip(&self) -> ClipId {
        ClipId::new(self.family, self.clip)
    }

    /// The clip last asked for.
    #[must_use]
    pub fn requested_clip(&self) -> ClipId {
        ClipId::new(self.family, self.requested)
    }

    /// The hold that is up, from 0 in the clip's own list; `None` when nothing is.
    #[must_use]
    pub fn hold_index(&self, reel: &Reel) -> Option<u32> {
        self.place_shown(reel).map(|place| u32::from(place & !RETURNING))
    }

    /// The frame shown and its flips, in four bytes.
    #[must_use]
    pub fn packed_frame(&self, reel: &Reel) -> PackedFrame {
        self.view(reel).map_or(PackedFrame::NOTHING, |view| PackedFrame::of(view.id, view.flips))
    }

    /// What to draw now; `None` when there is nothing.
    #[must_use]
    pub fn view<'r>(&self, reel: &'r Reel) -> Option<View<'r>> {
        let mirrored = self.clip_in(reel)?.mirrored;
        View::of(reel, self.frame(reel)?, self.flips().mirrored(mirrored))
    }

    /// What to draw now, in these looks; `None` when there is nothing.
    #[must_use]
    pub fn view_with<'r>(&self, reel: &'r Reel, looks: &LookSet) -> Option<View<'r>> {
        let (place, _) = (self.place_shown(reel)?, self.clip_in(reel)?);
        let (frame, mirrored) = reel.dressed(self.clip(), place & !RETURNING, looks)?;
        View::of(reel, frame, self.flips().mirrored(mirrored))
    }

    /// What was shown at the moment of an event of its last advance, by which a hitbox can be asked for at
    /// the exact time of a mark. `None` where the reel does not know the event's clip.
    ///
    /// ```
    /// # use lucky_reel_core::{AreaId, Grid, MarkId, NewClip, NewSheet, Placement, Player, Reel, Ticks};
    /// # let mut builder = Reel::builder();
    /// let sheet = NewSheet::grid([128, 32], Grid::cell_size([32, 32]));
    /// let sheet = builder.sheet("bram", sheet.area("blade", 2..3, [20.0, 10.0, 12.0, 4.0]));
    /// let swing = builder.clip("swing", NewClip::of(sheet).frames(0..4).fps(10).mark("hit", [2]));
    /// # let reel = builder.build()?;
    /// let (blade, hit): (AreaId, MarkId) = (reel.id("blade")?, reel.id("hit")?);
    /// let mut bram = Player::new(&reel, swing);
    /// let mut events = bram.advance(&reel, Ticks::from_millis(350)); // a stutter: hold 3 is shown already
    /// let event = events.find(|event| event.is_mark(hit)).unwrap();
    /// let at_the_hit = bram.view_at(&reel, &event).unwrap();
    /// assert!(at_the_hit.area(blade, Placement::at([0.0, 0.0])).is_some());
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    #[must_use]
    pub fn view_at<'r>(&self, reel: &'r Reel, event: &Event) -> Option<View<'r>> {
        event.view(reel, self.flips(), &LookSet::NOTHING)
    }

    /// The flips that the game has set. A mirrored clip of a facing set adds its own.
    #[must_use]
    pub fn flips(&self) -> Flips {
        Flips { x: self.has(FLIP_X), y: self.has(FLIP_Y) }
    }

    /// How many cycles are complete: a place, not a count of events. On an endless clip that is
    /// turned it may go below zero; it wraps at 32 bits.
    #[must_use]
    pub fn cycle(&self) -> i32 {
        self.cycle
    }

    /// Whether it is paused.
    #[must_use]
    pub fn is_paused(&self) -> bool {
        self.has(PAUSED)
    }

    /// How fast and which way it plays.
    #[must_use]
    pub fn speed(&self) -> Speed {
        self.pace.into()
    }

    /// How much of a hit-stop is left.
    #[must_use]
    pub fn hit_stop_left(&self) -> Ticks {
        Ticks::new(u64::from(self.hit_stop))
    }

    /// Whether it has ended and no clip follows.
    #[must_use]
    pub fn has_ended(&self) -> bool {
        self.state().means().ends
    }

    /// Whether the hold that is up belongs to this span.
    ///
    /// ```
    /// # use lucky_reel_core::{SpanId, Grid, NewClip, NewSheet, Mode, Player, Reel, Ticks};
    /// # let mut builder = Reel::builder();
    /// # let sheet = builder.sheet("bram", NewSheet::grid([128, 32], Grid::cell_size([32, 32])));
    /// let swing = NewClip::of(sheet).frames(0..4).fps(10).mode(Mode::Once).span("open", 2..=3);
    /// let swing = builder.clip("swing", swing);
    /// # let reel = builder.build()?;
    /// let open: SpanId = reel.id("open").unwrap();
    /// let mut bram = Player::new(&reel, swing);
    /// assert!(!bram.in_span(&reel, open));
    /// bram.advance(&reel, Ticks::from_millis(250));
    /// assert!(bram.in_span(&reel, open)); // the next blow may start
    /// # Ok::<(), lucky_reel_core::BuildError>(())
    /// ```
    #[must_use]
    pub fn in_span(&self, reel: &Reel, span: SpanId) -> bool {
        let (Some(place), Some(clip)) = (self.place_shown(reel), self.clip_in(reel)) else {
            return false;
        };
        clip.in_span(place & !RETURNING, span)
    }

    /// Whether it plays from this reel, or another version of it that has its clip. With any other
    /// nothing moves and nothing is shown.
    ///
    /// ```
    /// # use lucky_reel_core::{Event, Grid, NewClip, NewSheet, Player, Reel, Speed, Ticks};
    /// # let mut builder = Reel::builder();
    /// # let sheet = builder.sheet("bram", NewSheet::grid([128, 32], Grid::cell_size([32, 32])));
    /// # let walk = NewClip::of(sheet).frames(0..4).each(Ticks::from_millis(100)).mark("step", [0]);
    /// # let walk = builder.clip("walk", walk);
    /// # let reel = builder.build()?;
    /// let mut other = Reel::builder();
    /// let sheet = other.sheet("moth", NewSheet::grid([16, 16], Grid::cell_size([16, 16])));
    /// other.clip("walk", NewClip::of(sheet).frames([0]).fps(1));
    /// let other = other.build()?;
    /// let mut bram = Player::new(&reel, walk);
    /// assert!(bram.belongs_to(&reel) && !bram.belongs_to(&other));
    /// assert_eq!(bram.advance(&other, Ticks::from_secs(1)).count(), 0);
    /// assert!(bram.view(&other).is_none());
    /// # Ok::<(), lucky_reel_core::BuildError>(())
    /// ```
    #[must_use]
    pub fn belongs_to(&self, reel: &Reel) -> bool {
        self.clip_in(reel).is_some()
    }

    /// Game time until the next [`End`](crate::EventKind::End) at the present speed, hit-stop included: of a
    /// play that is turned back, until it is at its beginning. 0 when it has ended, unless its speed points
    /// inward again; `None` when no end comes: an endless play, a still, speed 0, stopped. A pause does not
    /// count.
    #[must_use]
    pub fn remaining(&self, reel: &Reel) -> Option<Ticks> {
        let mut ahead = *self;
        let clip = ahead.rebind(reel)?;
        let speed = u128::from(self.pace.size());
        // What the first moment makes of it says which way the line is read, and how much lies ahead.
        let moves =
            speed > 0 && ahead.begin_movement(reel, clip, self.pace.is_negative()).is_some();
        if !moves {
            return self.has_ended().then_some(Ticks::ZERO);
        }
        let line = ahead.line(clip);
        let (length, done) = (line.length()?, line.units_at(ahead.line_time(line)));
        let units = if ahead.heads_along() { length - done } else { done };
        let ticks = u64::try_from(units.div_ceil(speed)).unwrap_or(u64::MAX);
        Some(Ticks::new(ticks) + self.hit_stop_left())
    }

    /// How far the present clip has come, from 0 to 1: of all of it, or of the present cycle of an
    /// endless one. 1 when it is over (0 when it came back to its beginning), 0 when stopped.
    #[must_use]
    pub fn progress(&self, reel: &Reel) -> f32 {
        let mut settled = *self;
        let Some(clip) = settled.rebind(reel) else { return 0.0 };
        let line = settled.line(clip);
        let length = line.length();
        let done = match settled.state() {
            State::Pending | State::Stopped | State::Still => 0,
            // `first` shows its first hold, but its position is the end it came to.
            State::Finished if settled.heads_along() || clip.end != ClipEnd::Vanish => {
                length.unwrap_or(0)
            }
            State::Ended if settled.heads_along() => length.unwrap_or(0),
            State::Finished | State::Ended => 0,
            State::Seeked | State::Swapped | State::Running => {
                let time = settled.line_time(line);
                let in_cycle = u128::from(line.units_in_cycle(time));
                length.map_or(in_cycle, |_| line.units_at(time))
            }
        };
        let whole = length.unwrap_or_else(|| u128::from(line.cycle())).max(1);
        (done as f64 / whole as f64) as f32
    }

    /// The frame shown; `None` when nothing is.
    pub(crate) fn frame(&self, reel: &Reel) -> Option<FrameId> {
        let place = self.place_shown(reel)?;
        let clip = self.clip_in(reel)?;
        Some(clip.holds.get(usize::from(place & !RETURNING))?.frame)
    }

    /// A number that is the same on every machine for players that behave identically from here on.
    #[must_use]
    pub fn checksum(&self, reel: &Reel) -> u64 {
        let mut sum = Checksum::default();
        self.add_to(reel, &mut sum);
        sum.get()
    }

    pub(crate) fn add_to(&self, reel: &Reel, sum: &mut Checksum) {
        let mut player = *self;
        // As the next advance would find it: two players that differ only in the build they last met are equal.
        player.rebind(reel);
        let Player { left, pace, hit_stop, cycle, plan, place, flags, plays, .. } = player;
        let clips = &reel.data.names.clips;
        for clip in [player.clip, player.requested, plan.then] {
            sum.add(clips.sum(clip));
        }
        sum.add(left);
        sum.add_pair(pace.to_bits(), hit_stop);
        sum.add_pair(cycle as u32, plan.times);
        sum.add_pair(u32::from(place), u32::from(flags) << 8 | u32::from(plays));
    }
}
