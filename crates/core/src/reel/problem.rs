//! What is wrong with what a builder was given: where, what, and how to fix it.

use alloc::string::String;
use alloc::vec::Vec;
use core::fmt;

use super::problem_kind::ProblemKind;
use super::site::Site;

/// One thing that is wrong with what a builder was given.
#[derive(Clone, Debug, PartialEq)]
pub struct Problem {
    pub(super) site: Site,
    pub(super) kind: ProblemKind,
}

impl Problem {
    /// What it is about: which clip, which of its keys, which of several values.
    #[must_use]
    pub fn site(&self) -> &Site {
        &self.site
    }

    /// What is wrong, as a word that does not change from version to version: `unknown`, `no-frame`.
    #[must_use]
    pub fn code(&self) -> &'static str {
        self.kind.code()
    }

    /// Of a name that is given twice, the [`nth`](Site::nth) of the first of its section; else `None`.
    #[must_use]
    pub fn first(&self) -> Option<usize> {
        match self.kind {
            ProblemKind::NameTwice { first, .. } => Some(first),
            _ => None,
        }
    }

    /// What is wrong, in words.
    #[must_use]
    pub fn message(&self) -> String {
        self.kind.message()
    }

    /// What to do about it.
    #[must_use]
    pub fn fix(&self) -> String {
        self.kind.fix()
    }
}

impl fmt::Display for Problem {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{}: {}: {}", self.site, self.message(), self.fix())
    }
}

/// Everything that is wrong with what a builder was given.
#[derive(Clone, PartialEq)]
pub struct BuildError {
    pub(super) problems: Vec<Problem>,
}

impl BuildError {
    /// The problems, at least one, in the order in which they were found.
    #[must_use]
    pub fn problems(&self) -> &[Problem] {
        &self.problems
    }
}

impl fmt::Display for BuildError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        for (index, problem) in self.problems.iter().enumerate() {
            let line = if index == 0 { "" } else { "\n" };
            write!(f, "{line}{problem}")?;
        }
        Ok(())
    }
}

/// The whole message, as `main` prints it; `{:#?}` shows the structure.
impl fmt::Debug for BuildError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        if f.alternate() {
            return f.debug_struct("BuildError").field("problems", &self.problems).finish();
        }
        fmt::Display::fmt(self, f)
    }
}

impl core::error::Error for BuildError {}
