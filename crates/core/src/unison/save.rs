//! Unisons that are kept in a file.

use alloc::vec::Vec;

use super::Unison;
use crate::play::SavedState;
use crate::reel::Reel;
use crate::save::{FoundNames, NameWriter, RestoreError, Savable, Saved};
use crate::time::{Speed, Ticks};

impl Unison {
    /// This unison as plain data, its clips by name: see [`Saved`].
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
    pub fn save(&self) -> Saved<Unison> {
        let mut names = NameWriter::new(&self.reel);
        let known = self.players.iter().filter(|player| player.belongs_to(&self.reel));
        let players = known.map(|player| SavedState::of(player, &self.reel, &mut names)).collect();
        let (time, speed) = (self.time.get(), self.speed.to_bits());
        Saved::new(names, SavedClocks { time, speed, players })
    }
}

/// A saved unison within its table of names.
#[derive(Clone, Debug, PartialEq, Eq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
#[cfg_attr(feature = "serde", serde(deny_unknown_fields))]
#[allow(unreachable_pub)] // a sealed trait names it
pub struct SavedClocks {
    /// In ticks.
    time: u64,
    /// In 65,536ths.
    speed: i32,
    players: Vec<SavedState>,
}

impl Savable for Unison {
    type Data = SavedClocks;

    fn load(
        data: &SavedClocks,
        reel: &Reel,
        names: &FoundNames<'_>,
    ) -> Result<Option<Unison>, RestoreError> {
        data.load_clips(reel, names).map(Some)
    }
}

impl SavedClocks {
    fn load_clips(&self, reel: &Reel, names: &FoundNames<'_>) -> Result<Unison, RestoreError> {
        let mut unison = Unison::new(reel);
        unison.set_speed(Speed::from_bits(self.speed).map_err(|_| RestoreError::Damaged)?);
        unison.seek(Ticks::new(self.time));
        for saved in &self.players {
            // Another clip has a clock of its own.
            let Some(mut player) = saved.load(reel, names)? else { continue };
            if saved.is_replaced(names)? {
                continue;
            }
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
