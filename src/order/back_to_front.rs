//! The order of a [`DrawList`](super::DrawList): a stable sort of numbers that have moved a little since
//! the last time.

use alloc::vec::Vec;

/// Numbers are first sorted by a whole number of so many bits, in two passes of half as many.
const BITS: u32 = 22;
const HALF: usize = 1 << (BITS / 2);
/// Fewer than this are sorted without the passes.
const FEW: usize = 256;
/// Equal whole numbers in a row: so many are sorted by insertion.
const SHORT: usize = 16;
/// From here to twice as much, an `f32` has no fractions.
const WHOLE: f32 = (1 << (BITS + 1)) as f32;

/// Sorts keys from least to greatest, without allocating once its buffers have grown.
///
/// A key becomes its place in the range of the last sort's keys, as a whole number; two counting passes
/// sort these, and what falls on the same number, a few keys in a scene that moves steadily, is compared.
/// In the range are all keys but a 64th at either end, so that one thing far away leaves the others their
/// resolution. A range that no longer fits costs comparisons, never the order.
#[derive(Clone, Debug, Default)]
pub(super) struct BackToFront {
    /// The range of the keys in the last sort.
    low: f32,
    high: f32,
    whole: Vec<u32>,
    /// Index and whole number of each key, before and after the second pass.
    half_sorted: Vec<[u32; 2]>,
    sorted: Vec<[u32; 2]>,
    /// How many keys there are with a lower half, and an upper half, of the whole number.
    counts: Vec<[u32; 2]>,
}

impl BackToFront {
    /// The indices of the keys in order, each in the first place; equal keys in the order of their indices.
    pub(super) fn sort(&mut self, keys: &[f32]) -> &[[u32; 2]] {
        if keys.len() < FEW {
            self.sorted.clear();
            self.sorted.extend((0..keys.len() as u32).map(|index| [index, 0]));
        } else {
            self.sort_by_whole_numbers(keys);
        }
        sort_equals(&mut self.sorted, keys);
        let rank =
            |place: usize| self.sorted.get(place).map_or(0.0, |[index, _]| keys[*index as usize]);
        let apart = keys.len() / 64;
        (self.low, self.high) = (rank(apart), rank((keys.len() - apart).saturating_sub(1)));
        &self.sorted
    }

    fn sort_by_whole_numbers(&mut self, keys: &[f32]) {
        let (low, scale) = (self.low, (WHOLE / 2.0 - 1.0) / (self.high - self.low));
        // Steady for infinite ends and for a range of one number, too: the order may be coarse, not wrong.
        #[allow(clippy::manual_clamp)] // what is no number becomes 0, which `clamp` would leave
        let whole = |key: &f32| ((key - low) * scale).max(0.0).min(WHOLE / 2.0 - 1.0) + WHOLE;
        self.whole.clear();
        self.whole.extend(keys.iter().map(|key| whole(key).to_bits() & ((1 << BITS) - 1)));
        let halves = |whole: u32| [whole as usize % HALF, whole as usize / HALF % HALF];

        self.counts.clear();
        self.counts.resize(HALF, [0; 2]);
        for whole in &self.whole {
            let [lower, upper] = halves(*whole);
            self.counts[lower][0] += 1;
            self.counts[upper][1] += 1;
        }
        let mut before = [0; 2];
        for count in &mut self.counts {
            for half in 0..2 {
                let next = before[half] + count[half];
                count[half] = core::mem::replace(&mut before[half], next);
            }
        }
        let counts = &mut self.counts[..HALF];
        let mut place = |out: &mut [[u32; 2]], half: usize, [index, whole]: [u32; 2]| {
            let at = &mut counts[halves(whole)[half]][half];
            if let Some(slot) = out.get_mut(*at as usize) {
                *slot = [index, whole];
            }
            *at += 1;
        };
        self.half_sorted.resize(keys.len(), [0; 2]);
        self.sorted.resize(keys.len(), [0; 2]);
        (0..)
            .zip(&self.whole)
            .for_each(|(at, whole)| place(&mut self.half_sorted, 0, [at, *whole]));
        self.half_sorted.iter().for_each(|key| place(&mut self.sorted, 1, *key));
    }
}

/// Puts keys in order that share a whole number, and lie side by side.
fn sort_equals(sorted: &mut [[u32; 2]], keys: &[f32]) {
    let key = |at: &[u32; 2]| keys[at[0] as usize];
    let mut at = 1;
    while let Some([one, two]) = sorted.get(at - 1..).and_then(|rest| rest.first_chunk()) {
        at += 1;
        if one[1] != two[1] {
            continue;
        }
        let (start, whole) = (at - 2, one[1]);
        at += sorted[at..].iter().take_while(|next| next[1] == whole).count();
        let equals = &mut sorted[start..at];
        if equals.len() > SHORT {
            equals.sort_unstable_by(|a, b| key(a).total_cmp(&key(b)).then(a[0].cmp(&b[0])));
            continue;
        }
        for at in 1..equals.len() {
            let (moved, mut to) = (equals[at], at);
            while to > 0 && key(&equals[to - 1]) > key(&moved) {
                equals[to] = equals[to - 1];
                to -= 1;
            }
            equals[to] = moved;
        }
    }
}
