use core::fmt;

use crate::ids::LookId;
use crate::reel::Reel;

/// The looks that one thing wears: at most four, in the order in which they were put on. Later ones
/// win, and dress what the earlier ones have brought, too.
///
/// It is a small `Copy` value (8 bytes) of the game's, to be kept beside a player: looks change what
/// is seen and nothing else.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Worn([u16; Worn::MOST]);

const NONE: u16 = u16::MAX;

impl Worn {
    /// So many looks can be worn at once.
    pub const MOST: usize = 4;
    /// The base's own pictures.
    pub const NOTHING: Worn = Worn([NONE; Worn::MOST]);

    /// Puts a look on, over the others; one that is worn already comes uppermost.
    ///
    /// # Errors
    /// When four are worn already, or the reel has no such look.
    pub fn put_on(&mut self, reel: &Reel, look: LookId) -> Result<(), WearError> {
        if reel.look_data(look).is_none() {
            return Err(WearError::Unknown);
        }
        let mut worn = *self;
        worn.take_off(look);
        let free = worn.0.iter_mut().find(|slot| **slot == NONE).ok_or(WearError::TooMany)?;
        *free = look.0;
        *self = worn;
        Ok(())
    }

    /// Takes a look off; nothing happens when it is not worn.
    pub fn take_off(&mut self, look: LookId) {
        let mut left = [NONE; Worn::MOST];
        let kept = self.0.into_iter().filter(|worn| *worn != look.0);
        left.iter_mut().zip(kept).for_each(|(slot, worn)| *slot = worn);
        self.0 = left;
    }

    /// The looks that are worn, lowest first.
    pub fn looks(&self) -> impl Iterator<Item = LookId> + use<> {
        self.0.into_iter().take_while(|look| *look != NONE).map(LookId)
    }
}

impl Default for Worn {
    fn default() -> Worn {
        Worn::NOTHING
    }
}

/// Why a look can not be put on.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub enum WearError {
    /// Four are worn already.
    TooMany,
    /// The reel has no such look.
    Unknown,
}

impl fmt::Display for WearError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(match self {
            WearError::TooMany => "four looks are worn already: take one off",
            WearError::Unknown => "the reel has no such look: look it up by `Reel::look`",
        })
    }
}

impl core::error::Error for WearError {}
