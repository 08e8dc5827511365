//! Numbers by which machines that play the same state tell that they do.

/// A sum over numbers in their order, the same on every machine.
#[derive(Clone, Copy, Default)]
pub(crate) struct Checksum(u64);

impl Checksum {
    #[inline]
    pub(crate) fn add(&mut self, number: u64) {
        // One round of SplitMix64's finisher for each number: quick, and every bit counts.
        let mut z = (self.0 ^ number).wrapping_add(0x9e37_79b9_7f4a_7c15);
        z = (z ^ (z >> 30)).wrapping_mul(0xbf58_476d_1ce4_e5b9);
        z = (z ^ (z >> 27)).wrapping_mul(0x94d0_49bb_1331_11eb);
        self.0 = z ^ (z >> 31);
    }

    #[inline]
    pub(crate) fn add_pair(&mut self, low: u32, high: u32) {
        self.add(u64::from(high) << 32 | u64::from(low));
    }

    pub(crate) const fn get(self) -> u64 {
        self.0
    }
}

/// FNV-1a (Fowler, Noll, Vo) over a name and its role.
pub(crate) fn of_name(role: &str, name: &str) -> u64 {
    let bytes = role.bytes().chain([b'/']).chain(name.bytes());
    bytes.fold(0xcbf2_9ce4_8422_2325, |sum, byte| {
        (sum ^ u64::from(byte)).wrapping_mul(0x0100_0000_01b3)
    })
}
