//! How a line is read, and which way a player heads on it.

/// How a line is read, and which way it is headed, as two bits.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) struct Way(u8);

/// The line is read from its last hold to its first. Fixed when a play starts.
const BACKWARD: u8 = 1;
/// The last movement was at a negative speed.
const NEGATIVE: u8 = 1 << 1;

impl Way {
    /// How many there are.
    pub(super) const COUNT: u32 = 4;
    pub(crate) const BITS: u8 = BACKWARD | NEGATIVE;

    #[inline]
    pub(crate) const fn of(bits: u8) -> Way {
        Way(bits & Way::BITS)
    }

    #[inline]
    pub(crate) const fn bits(self) -> u8 {
        self.0
    }

    /// Of a play that begins at a speed of this sign: it heads along its line.
    #[inline]
    pub(crate) const fn begun(negative: bool) -> Way {
        Way(if negative { Way::BITS } else { 0 })
    }

    /// The same line, at a speed of this sign.
    #[inline]
    pub(crate) const fn turned(self, negative: bool) -> Way {
        Way(self.0 & BACKWARD | if negative { NEGATIVE } else { 0 })
    }

    /// The same line, headed along it or back.
    #[inline]
    pub(crate) const fn heading(self, along: bool) -> Way {
        self.turned(self.reads_backward() == along)
    }

    /// Whether it heads along the line, and not back.
    #[inline]
    pub(crate) const fn is_along(self) -> bool {
        self.reads_backward() == self.is_negative()
    }

    #[inline]
    pub(crate) const fn reads_backward(self) -> bool {
        self.0 & BACKWARD != 0
    }

    #[inline]
    pub(crate) const fn is_negative(self) -> bool {
        self.0 & NEGATIVE != 0
    }
}
