use super::Ticks;

impl Ticks {
    /// A time below `within` that depends on a seed and an id alone, the same on every machine: so that a
    /// field of the same clip does not march in lockstep. Zero if `within` is zero.
    ///
    /// ```
    /// use lucky_reel_core::Ticks;
    ///
    /// let second = Ticks::from_secs(1);
    /// let offsets = [0, 1, 2].map(|id| Ticks::random(7, id, second));
    /// assert!(offsets[0] != offsets[1] && offsets[1] != offsets[2]);
    /// assert_eq!(Ticks::random(7, 1, second), offsets[1]);
    /// ```
    #[must_use]
    pub fn random(seed: u64, id: u64, within: Ticks) -> Ticks {
        // SplitMix64 (Steele, Lea, Flood: Fast splittable pseudorandom number generators), twice, so that
        // neither seeds nor ids that follow one another show.
        let mix = |number: u64| {
            let mut z = number.wrapping_add(0x9e37_79b9_7f4a_7c15);
            z = (z ^ (z >> 30)).wrapping_mul(0xbf58_476d_1ce4_e5b9);
            z = (z ^ (z >> 27)).wrapping_mul(0x94d0_49bb_1331_11eb);
            z ^ (z >> 31)
        };
        let random = mix(mix(seed) ^ id);
        // The upper half of the product: even over the whole range.
        Ticks::new(((u128::from(random) * u128::from(within.get())) >> 64) as u64)
    }
}
