//! The files that a reel was loaded from, for what is told of them afterwards.

use std::path::PathBuf;

use super::origins::Origins;
use crate::problem::{Problem, Severity};

/// The reel files that a reel was loaded from: they know where each sheet, clip and cue is written.
#[derive(Debug)]
pub struct Sources {
    pub(crate) files: Vec<SourceFile>,
}

impl Sources {
    /// The file of a role.
    #[must_use]
    pub fn of_role(&self, role: &str) -> Option<&SourceFile> {
        self.files.iter().find(|file| file.role == role)
    }
}

/// One reel file that was loaded.
#[derive(Debug)]
pub struct SourceFile {
    pub(super) role: String,
    pub(super) path: PathBuf,
    pub(super) text: String,
    pub(super) origins: Origins,
}

impl SourceFile {
    /// A warning at a key of an entry of a table, or at one of its values:
    /// `("clips", "walk", "frames", Some(2))`. `None` where the file has no such entry.
    pub fn warning(
        &self,
        (table, name, key, index): (&str, &str, &str, Option<usize>),
        what: impl Into<String>,
        remedy: &str,
    ) -> Option<Problem> {
        let origin = self.origins.at(table, name, key, index)?;
        let mut problem = Problem::in_text(&self.path, &self.text, origin.span, what, remedy);
        problem.severity = Severity::Warning;
        problem.key = origin.key;
        Some(problem)
    }
}
