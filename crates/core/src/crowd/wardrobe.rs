use alloc::vec::Vec;

use crate::look::Worn;

/// The looks that members wear, each combination once; the first is none.
#[derive(Clone, Debug)]
pub(super) struct Wardrobe(Vec<Worn>);

impl Wardrobe {
    pub(super) fn new() -> Wardrobe {
        Wardrobe(Vec::new())
    }

    /// The number of an outfit; `None` where there are too many.
    pub(super) fn number(&mut self, worn: Worn) -> Option<u16> {
        if worn == Worn::NOTHING {
            return Some(0);
        }
        let known = self.0.iter().position(|other| *other == worn);
        let number = u16::try_from(known.unwrap_or(self.0.len()) + 1).ok()?;
        if known.is_none() {
            self.0.push(worn);
        }
        Some(number)
    }

    pub(super) fn outfit(&self, number: u16) -> Worn {
        let at = usize::from(number).checked_sub(1);
        at.and_then(|at| self.0.get(at)).copied().unwrap_or(Worn::NOTHING)
    }
}
