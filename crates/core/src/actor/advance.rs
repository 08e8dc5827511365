use super::events::{ActorEvents, Source};
use super::run::ActorRun;
use super::state::Actor;
use crate::kernel::Step;
use crate::play::{Events, Fast, PlayerEvents};
use crate::reel::Reel;
use crate::time::{Ticks, divide_units};

impl Actor {
    /// Advances by game time and returns the events: the player's, and which cue took over and why,
    /// which bridge began, and whether the cues of one instant formed a loop.
    ///
    /// Not reading them costs nothing. Reading them, where cues are evaluated in the step, plays the step a
    /// second time: `cargo bench --bench costs` compares the two.
    ///
    /// # When cues are evaluated
    ///
    /// What the game changes between advances is evaluated together at the start of the next advance
    /// of more than zero; within an advance, at the exact moment at which a clip ends, a mark sets a
    /// fact, or a span begins or ends that a cue names. All marks of one hold are applied, then the cues
    /// are evaluated once. Setting an equal value is no change. So any split of the same time gives the same,
    /// bit for bit, as with players.
    ///
    /// # Winner
    ///
    /// The first cue that matches wins. That depends on facts, facing and spans alone: `finish` and
    /// bridges only delay it. The cue that wins again leaves what plays alone. An actor that has
    /// vanished comes back when another cue wins.
    ///
    /// # Hand-over
    ///
    /// One cue hands over to another on a whole tick, the event's `at`; what the old clip had of that
    /// tick is dropped, and the time left over goes to what plays next.
    ///
    /// # No hanging
    ///
    /// In one instant there are at most as many changes as there are cues; after that they are left alone,
    /// and [`EventKind::CueLoop`](crate::EventKind::CueLoop) says so. A long step costs no more than what
    /// happens until the whole state of the actor repeats.
    ///
    /// ```
    /// # use lucky_reel_core::{RoleId, Actor, EventKind, Grid, Mode, NewClip, NewCue, NewSheet, Reel, Ticks, Condition};
    /// # let mut builder = Reel::builder();
    /// # let sheet = builder.sheet("bram", NewSheet::grid([128, 32], Grid::cell_size([32, 32])));
    /// let new = || NewClip::of(sheet).each(Ticks::from_millis(100)).frames(0..2);
    /// builder.clip("first-blow", new().mode(Mode::Once).mark("hit", [1]).mark_sets("hit", "hits", 1));
    /// builder.clip("second-blow", new().mode(Mode::Once));
    /// builder.fact("hits", 0);
    /// builder.cue("again", NewCue::play("second-blow").when(Condition::new().fact("hits", 1)));
    /// builder.cue("begin", NewCue::play("first-blow"));
    /// let reel = builder.build()?;
    /// let mut bram = Actor::new(&reel, reel.id("")?);
    /// let taken = bram.advance(&reel, Ticks::from_secs(1)).filter_map(|event| match event.kind {
    ///     EventKind::Cue(cue, _) => Some((reel.name(cue), event.at)),
    ///     _ => None,
    /// });
    /// let expected = [("begin", Ticks::ZERO), ("again", Ticks::from_millis(100))];
    /// assert_eq!(taken.collect::<Vec<_>>(), expected);
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    #[inline(always)] // as of a player: what is not read is not made
    pub fn advance<'r>(&mut self, reel: &'r Reel, dt: Ticks) -> Events<'r, Actor> {
        if self.is_at_rest() {
            match self.player.advance_fast(reel, dt, Step::stops(true)) {
                Fast::Within => {
                    return Events(ActorEvents(Source::Player(PlayerEvents::none(reel))));
                }
                Fast::Crossed(boundary, over) => {
                    let after = divide_units(over, u64::from(self.player.pace.size()));
                    let events = PlayerEvents::one(reel, boundary, dt - Ticks::new(after));
                    return Events(ActorEvents(Source::Player(events)));
                }
                Fast::Refused => {}
            }
        }
        self.advance_by_cues(reel, dt)
    }

    #[inline(never)]
    fn advance_by_cues<'r>(&mut self, reel: &'r Reel, dt: Ticks) -> Events<'r, Actor> {
        let run = ActorRun::new(reel, *self, dt);
        if let Some(run) = run.clone() {
            *self = run.into_end();
        }
        Events(ActorEvents(Source::Run(run)))
    }
}
