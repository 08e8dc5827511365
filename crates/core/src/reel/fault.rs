use alloc::string::String;
use alloc::vec::Vec;
use core::fmt;

/// One thing that is wrong with what a builder was given, and how to mend it.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Fault {
    pub(crate) table: &'static str,
    pub(crate) role: String,
    pub(crate) name: String,
    pub(crate) key: String,
    pub(crate) index: Option<usize>,
    pub(crate) problem: String,
    pub(crate) remedy: String,
}

impl Fault {
    /// `sheets`, `clips`, `facings`, `looks`, `facts`, `cues`, `bridges` or `phases`.
    #[must_use]
    pub fn table(&self) -> &str {
        self.table
    }

    /// The role, empty where none was named.
    #[must_use]
    pub fn role(&self) -> &str {
        &self.role
    }

    /// The name of the sheet, clip and so on.
    #[must_use]
    pub fn name(&self) -> &str {
        &self.name
    }

    /// The word at fault, such as `repeat` or `marks.step`; empty for the whole.
    #[must_use]
    pub fn key(&self) -> &str {
        &self.key
    }

    /// Which of several values, from 0.
    #[must_use]
    pub fn index(&self) -> Option<usize> {
        self.index
    }

    /// What is wrong.
    #[must_use]
    pub fn problem(&self) -> &str {
        &self.problem
    }

    /// How to mend it.
    #[must_use]
    pub fn remedy(&self) -> &str {
        &self.remedy
    }
}

impl fmt::Display for Fault {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{}.", self.table)?;
        if !self.role.is_empty() {
            write!(f, "{}/", self.role)?;
        }
        write!(f, "{}", self.name)?;
        if !self.key.is_empty() {
            write!(f, ".{}", self.key)?;
        }
        if let Some(index) = self.index {
            write!(f, "[{index}]")?;
        }
        write!(f, ": {}: {}", self.problem, self.remedy)
    }
}

/// Everything that is wrong with what a builder was given.
#[derive(Clone, PartialEq, Eq)]
pub struct BuildError {
    pub(crate) faults: Vec<Fault>,
}

impl BuildError {
    /// The faults, in the order in which they were met.
    #[must_use]
    pub fn faults(&self) -> &[Fault] {
        &self.faults
    }
}

impl fmt::Display for BuildError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        for (index, fault) in self.faults.iter().enumerate() {
            let line = if index == 0 { "" } else { "\n" };
            write!(f, "{line}{fault}")?;
        }
        Ok(())
    }
}

/// The same whole message, so that it is seen when `main` returns the error.
impl fmt::Debug for BuildError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        fmt::Display::fmt(self, f)
    }
}

impl core::error::Error for BuildError {}
