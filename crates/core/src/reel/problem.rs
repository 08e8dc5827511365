//! What is wrong with what a builder was given: codes and data. Their texts stand with the loader of reel files.

use alloc::string::String;
use alloc::vec::Vec;
use core::fmt;

use super::problem_kind::ProblemKind;
use super::problem_site::{Key, Section};

/// One thing that is wrong with what a builder was given: where, and what.
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub struct Problem {
    /// The kind of thing that it is about.
    pub section: Section,
    /// The role of that thing; empty where none was named.
    pub role: String,
    /// Its name.
    pub name: String,
    /// Which one it is: how many of its section, of all roles, the builder was given before it. This
    /// tells two things of one name apart.
    pub nth: usize,
    /// The part of it that is wrong; `None` for the whole.
    pub key: Option<Key>,
    /// Which of several values of the key, counted from 0.
    pub index: Option<usize>,
    pub(super) kind: ProblemKind,
}

impl Problem {
    /// What is wrong, as a word that does not change from version to version: `unknown`, `no-frame`.
    #[must_use]
    pub fn code(&self) -> &'static str {
        self.kind.code()
    }

    /// The names and numbers that belong to the code, each always at the same place: of `no-frame` the sheet,
    /// the frame and how many frames there are.
    #[must_use]
    pub fn values(&self) -> Vec<String> {
        self.kind.values()
    }
}

/// In short: `clips bram/walk Frames[2]: no-frame (body, 9, 4)`. The crate `lucky-reel-assets` says it in sentences.
impl fmt::Display for Problem {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let Problem { section, role, name, key, index, .. } = self;
        write!(f, "{section:?} ")?;
        if !role.is_empty() && *section != Section::Role {
            write!(f, "{role}/")?;
        }
        write!(f, "{name}")?;
        if let Some(key) = key {
            write!(f, " {key:?}")?;
        }
        if let Some(index) = index {
            write!(f, "[{index}]")?;
        }
        write!(f, ": {}", self.code())?;
        match &*self.values() {
            [] => Ok(()),
            values => write!(f, " ({})", values.join(", ")),
        }
    }
}

/// What a problem is about.
#[derive(Clone, Debug)]
pub(super) struct Site {
    pub(super) section: Section,
    pub(super) role: String,
    pub(super) name: String,
    pub(super) nth: usize,
}

impl Site {
    pub(super) fn problem(
        &self,
        key: Option<Key>,
        index: Option<usize>,
        kind: ProblemKind,
    ) -> Problem {
        let Site { section, role, name, nth } = self.clone();
        Problem { section, role, name, nth, key, index, kind }
    }
}

/// Everything that is wrong with what a builder was given.
///
/// It prints codes and names. As a `LoadError` of the crate `lucky-reel-assets` it prints sentences, with how to fix
/// each.
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
