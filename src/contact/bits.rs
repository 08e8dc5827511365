//! Rows of bits, read 64 at a time from any place and in either direction.

use alloc::vec::Vec;

use lucky_reel_core::Flips;

/// A row takes so many words.
pub(super) fn words_of(width: u32) -> usize {
    width.div_ceil(64) as usize
}

/// Adds a row, its first pixel in the lowest bit.
pub(super) fn push_row(words: &mut Vec<u64>, row: impl Iterator<Item = bool>) {
    let start = words.len();
    for (x, is_set) in row.enumerate() {
        if x % 64 == 0 {
            words.push(0);
        }
        words[start + x / 64] |= u64::from(is_set) << (x % 64);
    }
}

/// The opaque pixels of a frame on the screen.
#[derive(Clone, Copy)]
pub(super) struct Bits<'m> {
    pub(super) rows: &'m [u64],
    /// Its top left, as it is seen.
    pub(super) at: [i64; 2],
    pub(super) size: [u32; 2],
    pub(super) flips: Flips,
}

impl Bits<'_> {
    pub(super) fn is_set(&self, point: [i64; 2]) -> bool {
        let inside =
            |axis: usize| (0..i64::from(self.size[axis])).contains(&(point[axis] - self.at[axis]));
        inside(0) && inside(1) && self.window(point) & 1 != 0
    }

    /// The 64 pixels to the right from a point of the screen that lies inside; beyond the right edge
    /// they are clear.
    #[inline]
    pub(super) fn window(&self, point: [i64; 2]) -> u64 {
        let [column, row] = [0, 1].map(|axis| (point[axis] - self.at[axis]) as usize);
        let [width, height] = self.size.map(|side| side as usize);
        let row = if self.flips.y { height - 1 - row } else { row };
        if width <= 64 {
            // Most sprites: a row is a word.
            let word = self.rows[row];
            let seen = if self.flips.x { (word << (64 - width)).reverse_bits() } else { word };
            return seen >> column;
        }
        let per_row = width.div_ceil(64);
        let row = &self.rows[row * per_row..][..per_row];
        if !self.flips.x {
            return from(row, column);
        }
        // Seen from the right: the pixels that end where the mirrored column is.
        let end = width - column;
        // Of the last stretch some lie beyond the left end of the row.
        match end.checked_sub(64) {
            Some(start) => from(row, start).reverse_bits(),
            None => (row[0] << (64 - end)).reverse_bits(),
        }
    }
}

/// 64 bits of a row from a place on.
#[inline]
fn from(row: &[u64], place: usize) -> u64 {
    let (word, shift) = (place / 64, place % 64);
    let low = row[word] >> shift;
    match row.get(word + 1) {
        Some(next) if shift > 0 => low | next << (64 - shift),
        _ => low,
    }
}
