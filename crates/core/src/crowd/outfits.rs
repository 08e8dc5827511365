use alloc::vec::Vec;

use crate::order::NumberMap;
use crate::view::LookSet;

/// The looks that members wear, each combination once and counted. Number 0 is no looks at all.
#[derive(Clone, Debug, Default)]
pub(super) struct OutfitTable {
    outfits: Vec<(LookSet, u32)>,
    /// By the looks as numbers.
    numbers: NumberMap,
    free: Vec<u16>,
}

impl OutfitTable {
    /// The number of an outfit that one more member wears; `None` where all 65,535 numbers are taken.
    pub(super) fn add(&mut self, looks: LookSet) -> Option<u16> {
        if looks.is_empty() {
            return Some(0);
        }
        if let Some(number) = self.numbers.get(looks.as_numbers()) {
            let number = number as u16;
            self.outfits[usize::from(number) - 1].1 += 1;
            return Some(number);
        }
        let number = match self.free.pop() {
            Some(number) => number,
            None => u16::try_from(self.outfits.len() + 1).ok()?,
        };
        let at = usize::from(number) - 1;
        self.outfits.resize(self.outfits.len().max(at + 1), (LookSet::NOTHING, 0));
        self.outfits[at] = (looks, 1);
        self.numbers.insert(looks.as_numbers(), u32::from(number));
        Some(number)
    }

    /// Whether one more member can wear these looks.
    pub(super) fn has_room_for(&self, looks: &LookSet) -> bool {
        let is_known = looks.is_empty() || self.numbers.get(looks.as_numbers()).is_some();
        is_known || !self.free.is_empty() || self.outfits.len() < usize::from(u16::MAX)
    }

    /// One member no longer wears it.
    pub(super) fn remove(&mut self, number: u16) {
        let at = usize::from(number).checked_sub(1);
        let Some((looks, count)) = at.and_then(|at| self.outfits.get_mut(at)) else { return };
        *count = count.saturating_sub(1);
        if *count == 0 && self.numbers.remove(looks.as_numbers()).is_some() {
            self.free.push(number);
        }
    }

    #[inline]
    pub(super) fn get(&self, number: u16) -> LookSet {
        let at = usize::from(number).checked_sub(1);
        at.and_then(|at| self.outfits.get(at)).map_or(LookSet::NOTHING, |(looks, _)| *looks)
    }
}
