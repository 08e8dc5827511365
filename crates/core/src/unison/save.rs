//! Unisons that are kept in a file.

use alloc::vec::Vec;

use super::Unison;
use crate::play::{RestoreError, SavedPlayer};
use crate::reel::Reel;
use crate::time::{Speed, Ticks};

impl Unison {
    /// This unison as plain data, its clips by name.
    ///
    /// ```
    /// # use lucky_reel_core::{Grid, NewClip, NewSheet, Reel, Ticks, Unison};
    /// # let mut builder = Reel::builder();
    /// # let tiles = builder.sheet("tiles", NewSheet::grid([64, 32], Grid::cell_size([16, 16])));
    /// # let fan = builder.clip("fan", NewClip::of(tiles).frames(0..4).fps(16));
    /// # let reel = builder.build()?;
    /// let mut unison = Unison::new(&reel);
    /// unison.advance(Ticks::from_millis(70));
    /// assert_eq!(unison.save().load(&reel).unwrap(), unison);
    /// # Ok::<(), lucky_reel_core::BuildError>(())
    /// ```
    #[must_use]
    pub fn save(&self) -> SavedUnison {
        let known = self.players.iter().filter(|player| player.belongs_to(&self.reel));
        SavedUnison {
            version: VERSION,
            time: self.time.get(),
            speed: self.speed.to_bits(),
            players: known.map(|player| player.save(&self.reel)).collect(),
        }
    }
}

const VERSION: u32 = 1;

/// A unison as plain data, with names instead of clip ids, so that another build of the game can load
/// it. With the feature `serde` it can be written and read by any serde format, text or binary.
#[derive(Clone, Debug, PartialEq, Eq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
#[cfg_attr(feature = "serde", serde(deny_unknown_fields))]
pub struct SavedUnison {
    version: u32,
    /// In ticks.
    time: u64,
    /// In 65,536ths.
    speed: i32,
    players: Vec<SavedPlayer>,
}

impl SavedUnison {
    /// Restores the unison, playing from this reel. Clips that the reel has lost are left out; those
    /// that it has besides join as if they had been played from the start.
    ///
    /// # Errors
    /// When the data are not those of a unison.
    pub fn load(&self, reel: &Reel) -> Result<Unison, RestoreError> {
        if self.version != VERSION {
            return Err(RestoreError::Version { found: self.version });
        }
        let mut unison = Unison::new(reel);
        unison.set_speed(Speed::from_bits(self.speed).map_err(|_| RestoreError::Damaged)?);
        unison.seek(Ticks::new(self.time));
        for saved in &self.players {
            let mut player = match saved.load(reel) {
                Err(RestoreError::ClipGone { .. }) => continue,
                loaded => loaded?,
            };
            player.update_ready(reel);
            let at = usize::from(player.requested);
            if let Some(place) = unison.players.get_mut(at) {
                *place = player;
                unison.refresh(at);
            }
        }
        Ok(unison)
    }
}
