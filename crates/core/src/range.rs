//! Ranges that are declared once, with a name for people.

use crate::command_error::CommandError;

/// What a number may be.
pub(crate) struct Range {
    pub(crate) name: &'static str,
    pub(crate) min: f64,
    pub(crate) max: f64,
}

impl Range {
    /// Gives the number back when it is finite and within the range.
    pub(crate) fn check(&self, given: f64) -> Result<f64, CommandError> {
        let Range { name, min, max } = *self;
        if given >= min && given <= max {
            Ok(given)
        } else {
            Err(CommandError::OutOfRange { name, given, min, max })
        }
    }
}
