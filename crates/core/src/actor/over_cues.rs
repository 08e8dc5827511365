//! Clips that an actor plays over whatever its cues say.

use super::state::{Actor, DIRTY, DONE, OVER_CUES};
use crate::command_error::CommandError;
use crate::ids::{ClipId, CueId, NONE};
use crate::reel::Reel;

/// # Once, over the cues
///
/// An emote, or what a cut scene wants: it plays once whatever the facts are, then the cues are
/// evaluated. What plays next begins in the same instant, on a whole tick.
impl Actor {
    /// Plays a number of cycles of a clip over the cues: see
    /// [`Player::play_times`](crate::Player::play_times). `false`, and nothing is changed, for an id that
    /// the reel does not know.
    ///
    /// ```
    /// # use lucky_reel_core::{CueId, RoleId, Actor, Grid, NewClip, NewCue, NewSheet, Reel, Ticks, Condition};
    /// # let mut builder = Reel::builder();
    /// # let sheet = builder.sheet("bram", NewSheet::grid([128, 32], Grid::cell_size([32, 32])));
    /// # builder.clip("idle", NewClip::of(sheet).frames([0]));
    /// # builder.clip("fall", NewClip::of(sheet).frames([3]));
    /// let wave = builder.clip("wave", NewClip::of(sheet).frames(0..4).fps(8));
    /// builder.fact("airborne", false);
    /// builder.cue("falling", NewCue::play("fall").when(Condition::new().fact("airborne", true)));
    /// builder.cue("resting", NewCue::play("idle"));
    /// let reel = builder.build()?;
    /// let mut bram = Actor::new(&reel, reel.id("")?);
    /// bram.play_over_cues(&reel, wave, 1);
    /// bram.yield_to_cues_above(&reel, reel.id("resting")?)?; // waving does not help who falls
    /// bram.advance(&reel, Ticks::from_millis(300));
    /// assert_eq!(bram.player().clip(), wave);
    /// bram.set(reel.id("airborne")?, true)?;
    /// bram.advance(&reel, Ticks::from_millis(1));
    /// assert_eq!(bram.cue(), Some(reel.id::<CueId>("falling")?));
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    pub fn play_over_cues(&mut self, reel: &Reel, clip: ClipId, times: u32) -> bool {
        let plays = self.rebind(reel).is_some() && self.player.play_times(reel, clip, times);
        if plays {
            self.set_flag(OVER_CUES, true);
            self.set_flag(DONE, false);
            (self.bridge, self.target, self.yields_to) = (NONE, NONE, NONE);
            self.apply_speed(reel);
            self.set_flag(DIRTY, true);
        }
        plays
    }

    /// Names the clip that follows what plays, instead of that clip's own end: see
    /// [`Player::then`](crate::Player::then). Over the cues it belongs to what is played over them; else
    /// it follows where no other cue has won by then.
    ///
    /// # Errors
    /// When the reel does not know the clip, or the play is over.
    pub fn then(&mut self, reel: &Reel, clip: ClipId) -> Result<(), CommandError> {
        self.player.then(reel, clip)
    }

    /// Lets every cue above this one break into what plays over the cues.
    ///
    /// # Errors
    /// When the role does not have the cue, or nothing plays over the cues.
    pub fn yield_to_cues_above(&mut self, reel: &Reel, cue: CueId) -> Result<(), CommandError> {
        let number = cue.number_in(self.player.family).ok_or(CommandError::UnknownId)?;
        let role = self.role_in(reel).ok_or(CommandError::UnknownId)?;
        role.cue(number).ok_or(CommandError::UnknownId)?;
        if !self.plays_over_cues() {
            return Err(CommandError::Over);
        }
        self.yields_to = number;
        self.set_flag(DIRTY, true);
        Ok(())
    }

    /// Ends what plays over the cues at the start of the next advance; the winning cue begins then.
    pub fn return_to_cues(&mut self) {
        if self.plays_over_cues() {
            self.set_flag(DONE, true);
            self.set_flag(DIRTY, true);
        }
    }

    /// Whether a clip plays over the cues.
    #[must_use]
    pub fn plays_over_cues(&self) -> bool {
        self.has(OVER_CUES)
    }
}
