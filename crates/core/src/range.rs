//! Ranges that are declared once, with a name for people.

use core::fmt;

/// A number that a range does not hold.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct OutOfRange {
    name: &'static str,
    given: f64,
    least: f64,
    greatest: f64,
}

impl OutOfRange {
    /// The number that was refused.
    #[must_use]
    pub fn given(&self) -> f64 {
        self.given
    }

    /// The smallest number that would have been taken.
    #[must_use]
    pub fn least(&self) -> f64 {
        self.least
    }

    /// The largest number that would have been taken.
    #[must_use]
    pub fn greatest(&self) -> f64 {
        self.greatest
    }
}

impl fmt::Display for OutOfRange {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let Self { name, given, least, greatest } = self;
        write!(f, "{name} of {given} is out of range: give a number from {least} to {greatest}")
    }
}

impl core::error::Error for OutOfRange {}

/// What a number may be.
pub(crate) struct Range {
    pub(crate) name: &'static str,
    pub(crate) least: f64,
    pub(crate) greatest: f64,
}

impl Range {
    /// Gives the number back when it is finite and within the range.
    pub(crate) fn check(&self, given: f64) -> Result<f64, OutOfRange> {
        let Range { name, least, greatest } = *self;
        if given >= least && given <= greatest {
            Ok(given)
        } else {
            Err(OutOfRange { name, given, least, greatest })
        }
    }
}
