//! Ranges that are declared once, with a name for people.

use core::fmt;

/// A number that a range does not hold.
#[derive(Clone, Copy, PartialEq)]
pub struct OutOfRange {
    /// What the number was given for, such as `a speed`.
    pub name: &'static str,
    /// The number that was refused.
    pub given: f64,
    /// The smallest number that would have been taken.
    pub min: f64,
    /// The largest number that would have been taken.
    pub max: f64,
}

impl fmt::Display for OutOfRange {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let Self { name, given, min, max } = self;
        write!(f, "{name} of {given} is out of range: give a number from {min} to {max}")
    }
}

/// The message, as `main` prints it; `{:#?}` shows the structure.
impl fmt::Debug for OutOfRange {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        if f.alternate() {
            return f
                .debug_struct("OutOfRange")
                .field("name", &self.name)
                .field("given", &self.given)
                .field("min", &self.min)
                .field("max", &self.max)
                .finish();
        }
        fmt::Display::fmt(self, f)
    }
}

impl core::error::Error for OutOfRange {}

/// What a number may be.
pub(crate) struct Range {
    pub(crate) name: &'static str,
    pub(crate) min: f64,
    pub(crate) max: f64,
}

impl Range {
    /// Gives the number back when it is finite and within the range.
    pub(crate) fn check(&self, given: f64) -> Result<f64, OutOfRange> {
        let Range { name, min, max } = *self;
        if given >= min && given <= max {
            Ok(given)
        } else {
            Err(OutOfRange { name, given, min, max })
        }
    }
}
