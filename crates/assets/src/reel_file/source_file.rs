//! The files that a reel was loaded from, for warnings about them later.

use std::ops::Range;
use std::path::{Path, PathBuf};

use lucky_reel_core::SheetId;
use lucky_reel_core::problem::{Key, Section};

use super::origins::Origins;
use crate::document::Node;
use crate::problem::{Problem, Severity};

/// The reel files that a reel was loaded from: where each sheet, clip and cue is written.
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

    /// All files.
    #[must_use]
    pub fn files(&self) -> &[SourceFile] {
        &self.files
    }

    /// What was loaded although something is missing: images that are cut short, for example.
    pub fn warnings(&self) -> impl Iterator<Item = &Problem> {
        self.files.iter().flat_map(|file| &file.warnings)
    }
}

/// One reel file that was loaded.
#[derive(Debug)]
pub struct SourceFile {
    pub(super) role: String,
    pub(super) warnings: Vec<Problem>,
    pub(super) sheets: Vec<SheetSource>,
    pub(super) path: PathBuf,
    pub(super) text: String,
    pub(super) root: Node,
    pub(super) origins: Origins,
}

/// A sheet of a reel file, as the file says it.
#[derive(Clone, Debug)]
pub struct SheetSource {
    /// Its name in the file.
    pub name: String,
    /// The sheet in the reel.
    pub id: SheetId,
    /// Whether an even grid cuts it.
    pub is_grid: bool,
    /// The color that was made transparent: red, green, blue.
    pub transparent: Option<[u8; 3]>,
}

impl SourceFile {
    /// Its path, or its name where it was in memory.
    #[must_use]
    pub fn path(&self) -> &Path {
        &self.path
    }

    /// The role that it describes.
    #[must_use]
    pub fn role(&self) -> &str {
        &self.role
    }

    /// What it says, as a tree.
    #[must_use]
    pub fn root(&self) -> &Node {
        &self.root
    }

    /// Its sheets.
    #[must_use]
    pub fn sheets(&self) -> &[SheetSource] {
        &self.sheets
    }

    /// A warning about a key of something, or about one of its values:
    /// `(Section::Clips, "walk", Some(Key::Frames), Some(2))`. `None` where the file has no such thing.
    pub fn warning(
        &self,
        (section, name, key, index): (Section, &str, Option<Key>, Option<usize>),
        message: impl Into<String>,
        fix: &str,
    ) -> Option<Problem> {
        let nth = self.origins.find(section, name)?;
        let (span, key) = self.origins.place((section, nth), (key.as_ref(), index), &self.root)?;
        Some(self.warning_at(span, key, message, fix))
    }

    /// A warning about a piece of the text, and the key that is written there.
    pub fn warning_at(
        &self,
        span: Range<usize>,
        key: String,
        message: impl Into<String>,
        fix: impl Into<String>,
    ) -> Problem {
        let mut problem = Problem::in_text(&self.path, &self.text, span, message, fix);
        problem.severity = Severity::Warning;
        problem.key = key;
        problem
    }
}
