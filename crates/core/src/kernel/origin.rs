//! Which clip a step is of, and where in it.

use core::fmt;

use crate::ids::NONE;

/// Which clip a step is of, and its place: the hold, and whether on the way back of a ping-pong.
///
/// One word, so that it moves through registers: as two halves, written apart and read together, a
/// boundary that is read at once waits for the processor's store buffer.
#[derive(Clone, Copy)]
pub(crate) struct Origin(u32);

impl Origin {
    pub(crate) const NONE: Origin = Origin::new(NONE, 0);

    #[inline]
    pub(crate) const fn new(clip: u16, place: u16) -> Origin {
        Origin((clip as u32) << 16 | place as u32)
    }

    #[inline]
    pub(crate) const fn clip(self) -> u16 {
        (self.0 >> 16) as u16
    }

    #[inline]
    pub(crate) const fn place(self) -> u16 {
        self.0 as u16
    }
}

impl fmt::Debug for Origin {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.debug_struct("Origin").field("clip", &self.clip()).field("place", &self.place()).finish()
    }
}
