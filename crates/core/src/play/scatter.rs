use super::Player;
use crate::reel::Reel;
use crate::time::Ticks;

/// A time below `within` that depends on a seed and an id alone, the same on every machine: so that a
/// field of the same clip does not march in lockstep. None at all where `within` is none.
///
/// ```
/// use lucky_reel_core::{Ticks, scattered};
///
/// let second = Ticks::from_secs(1);
/// let offsets = [0, 1, 2].map(|id| scattered(7, id, second));
/// assert!(offsets[0] != offsets[1] && offsets[1] != offsets[2]);
/// assert_eq!(scattered(7, 1, second), offsets[1]);
/// ```
#[must_use]
pub fn scattered(seed: u64, id: u64, within: Ticks) -> Ticks {
    // SplitMix64 (Steele, Lea, Flood: Fast splittable pseudorandom number generators), twice, so that
    // neither seeds nor ids that follow one another show.
    let mix = |number: u64| {
        let mut z = number.wrapping_add(0x9e37_79b9_7f4a_7c15);
        z = (z ^ (z >> 30)).wrapping_mul(0xbf58_476d_1ce4_e5b9);
        z = (z ^ (z >> 27)).wrapping_mul(0x94d0_49bb_1331_11eb);
        z ^ (z >> 31)
    };
    let thrown = mix(mix(seed) ^ id);
    // The upper half of the product: even over the whole range.
    Ticks::new(((u128::from(thrown) * u128::from(within.get())) >> 64) as u64)
}

impl Player {
    /// Goes to a place within the first cycle of the clip last asked for that depends on a seed and an
    /// id alone: a moth's number, or a place. See [`scattered`].
    ///
    /// ```
    /// # use lucky_reel_core::{Grid, NewClip, NewSheet, Player, Reel, Ticks};
    /// # let mut builder = Reel::builder();
    /// # let sheet = builder.sheet("moth", NewSheet::grid([64, 16], Grid::cells([16, 16])));
    /// # let flutter = builder.clip("flutter", NewClip::of(sheet).frames(0..4).fps(12));
    /// # let reel = builder.build()?;
    /// let swarm: Vec<Player> = (0..100)
    ///     .map(|id| {
    ///         let mut moth = Player::new(&reel, flutter);
    ///         moth.scatter(&reel, 2_026, id);
    ///         moth
    ///     })
    ///     .collect();
    /// let on_first = swarm.iter().filter(|moth| moth.hold(&reel) == Some(0)).count();
    /// assert!((10..40).contains(&on_first));
    /// # Ok::<(), lucky_reel_core::BuildError>(())
    /// ```
    pub fn scatter(&mut self, reel: &Reel, seed: u64, id: u64) {
        let cycle = reel.get_clip(self.asked()).map_or(Ticks::ZERO, |clip| clip.cycle());
        self.seek(reel, scattered(seed, id, cycle));
    }
}
