use std::fmt;

/// What is wrong, and how to fix it: why a tool refuses something.
///
/// ```
/// let fault = lucky_reel_assets::Fault::new("the clip does not move", "give a speed other than 0");
/// assert_eq!(fault.to_string(), "the clip does not move\n  fix: give a speed other than 0");
/// ```
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Fault {
    /// What is wrong.
    pub message: String,
    /// How to fix it.
    pub fix: String,
}

impl Fault {
    /// A message and the fix for it.
    #[must_use]
    pub fn new(message: impl Into<String>, fix: impl Into<String>) -> Fault {
        Fault { message: message.into(), fix: fix.into() }
    }
}

impl fmt::Display for Fault {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{}\n  fix: {}", self.message, self.fix)
    }
}

impl std::error::Error for Fault {}
