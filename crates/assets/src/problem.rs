use std::fmt;
use std::io;
use std::ops::Range;
use std::path::{Path, PathBuf};
use std::sync::Arc;

use crate::printable::printable;

/// Who has to act for a problem to go away.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
#[non_exhaustive]
pub enum ProblemSource {
    /// The disk or its rights: a file is missing or cannot be read.
    Disk,
    /// Whoever wrote the reel file.
    ReelFile,
    /// Whoever made the picture.
    Pixels,
    /// A limit of the loader, which may be raised.
    Limit,
}

/// How bad a problem is.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum Severity {
    /// Nothing can be loaded.
    Error,
    /// It loads, but is perhaps not what was meant. Loading does not tell.
    Warning,
}

/// One thing that is wrong with a file: where, what, and how to fix it.
#[derive(Clone, Debug)]
pub struct Problem {
    pub(crate) severity: Severity,
    pub(crate) origin: ProblemSource,
    pub(crate) path: PathBuf,
    pub(crate) place: Option<Box<Place>>,
    pub(crate) key: String,
    pub(crate) message: String,
    pub(crate) fix: String,
    pub(crate) cause: Option<Arc<io::Error>>,
}

/// A stretch of a text file, within one line.
#[derive(Clone, Debug, PartialEq, Eq)]
pub(crate) struct Place {
    pub(crate) line: usize,
    column: usize,
    /// Bytes of the line.
    pub(crate) span: Range<usize>,
    pub(crate) text: String,
}

impl Place {
    /// The place of a range of bytes; lines and columns count from 1, columns in characters.
    pub(crate) fn of(text: &str, span: Range<usize>) -> Place {
        let at_boundary = |mut at: usize| {
            while !text.is_char_boundary(at) {
                at -= 1;
            }
            at
        };
        let start = at_boundary(span.start.min(text.len()));
        let line_start = text[..start].rfind('\n').map_or(0, |at| at + 1);
        let line_end = text[start..].find('\n').map_or(text.len(), |at| start + at);
        let line_text = text[line_start..line_end].trim_end_matches('\r');
        let column = text[line_start..start].chars().count() + 1;
        let start = (start - line_start).min(line_text.len());
        let end = at_boundary(span.end.min(text.len())).saturating_sub(line_start);
        Place {
            line: text[..line_start].matches('\n').count() + 1,
            column,
            span: start..end.clamp(start, line_text.len()),
            text: line_text.to_owned(),
        }
    }
}

impl Problem {
    /// A problem of a whole text file.
    pub fn in_file(path: &Path, message: impl Into<String>, fix: impl Into<String>) -> Problem {
        Problem::new(ProblemSource::ReelFile, path, message, fix)
    }

    /// A problem at a range of the text of a file.
    pub fn in_text(
        path: &Path,
        text: &str,
        span: Range<usize>,
        message: impl Into<String>,
        fix: impl Into<String>,
    ) -> Problem {
        let mut problem = Problem::in_file(path, message, fix);
        problem.place = Some(Box::new(Place::of(text, span)));
        problem
    }

    pub(crate) fn new(
        origin: ProblemSource,
        path: &Path,
        message: impl Into<String>,
        fix: impl Into<String>,
    ) -> Problem {
        Problem {
            severity: Severity::Error,
            origin,
            path: path.to_owned(),
            place: None,
            key: String::new(),
            message: message.into(),
            fix: fix.into(),
            cause: None,
        }
    }

    /// The path; where there is none, as for a reel built in code, the key.
    pub(crate) fn place_without_line(&self) -> String {
        let path = printable(&self.path.display().to_string());
        match &self.place {
            None if path.is_empty() => printable(&self.key),
            _ => path,
        }
    }

    /// Whether it says the same about the same place.
    #[must_use]
    pub fn is_like(&self, other: &Problem) -> bool {
        self.path == other.path && self.place == other.place && self.message == other.message
    }

    /// How bad it is.
    #[must_use]
    pub fn severity(&self) -> Severity {
        self.severity
    }

    /// Who has to act.
    #[must_use]
    pub fn origin(&self) -> ProblemSource {
        self.origin
    }

    /// The file.
    #[must_use]
    pub fn path(&self) -> &Path {
        &self.path
    }

    /// The line, from 1, where the problem is in a text file.
    #[must_use]
    pub fn line(&self) -> Option<usize> {
        self.place.as_ref().map(|place| place.line)
    }

    /// The column in characters, from 1.
    #[must_use]
    pub fn column(&self) -> Option<usize> {
        self.place.as_ref().map(|place| place.column)
    }

    /// The whole line of the file.
    #[must_use]
    pub fn line_text(&self) -> Option<&str> {
        self.place.as_ref().map(|place| &*place.text)
    }

    /// The key in the reel file, such as `clips.walk.fps`; empty where there is none.
    #[must_use]
    pub fn key(&self) -> &str {
        &self.key
    }

    /// What is wrong.
    #[must_use]
    pub fn message(&self) -> &str {
        &self.message
    }

    /// What to do about it.
    #[must_use]
    pub fn fix(&self) -> &str {
        &self.fix
    }
}

impl std::error::Error for Problem {
    fn source(&self) -> Option<&(dyn std::error::Error + 'static)> {
        self.cause.as_deref().map(|cause| cause as _)
    }
}

/// Everything that prevented files from being loaded.
#[derive(Clone)]
pub struct LoadError {
    problems: Vec<Problem>,
}

impl LoadError {
    /// These problems; there must be at least one.
    #[must_use]
    pub fn new(problems: Vec<Problem>) -> LoadError {
        LoadError { problems }
    }

    /// The problems, by file and in the order of the file; at least one.
    #[must_use]
    pub fn problems(&self) -> &[Problem] {
        &self.problems
    }
}

impl From<Problem> for LoadError {
    fn from(problem: Problem) -> LoadError {
        LoadError::new(vec![problem])
    }
}

impl fmt::Display for LoadError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        for (index, problem) in self.problems.iter().enumerate() {
            let gap = if index == 0 { "" } else { "\n\n" };
            write!(f, "{gap}{problem}")?;
        }
        Ok(())
    }
}

/// The whole message, as `main` prints it; `{:#?}` shows the structure.
impl fmt::Debug for LoadError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        if f.alternate() {
            return f.debug_struct("LoadError").field("problems", &self.problems).finish();
        }
        fmt::Display::fmt(self, f)
    }
}

impl std::error::Error for LoadError {
    fn source(&self) -> Option<&(dyn std::error::Error + 'static)> {
        self.problems.first().and_then(std::error::Error::source)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_place_is_found_in_any_text() {
        let text = "one\n  zwölf = 3\r\nlast";
        let at = text.find("= 3").unwrap();
        let place = Place::of(text, at..at + 3);
        assert_eq!((place.line, place.column, &place.text[place.span.clone()]), (2, 9, "= 3"));
        assert_eq!(place.text, "  zwölf = 3");
        // Inside a character, over the end of a line, and beyond the text.
        assert_eq!(Place::of(text, 9..10).column, 5);
        assert_eq!(Place::of(text, at..text.len()).span, 9..12);
        assert_eq!(Place::of(text, 999..1_000).line, 3);
        assert_eq!(Place::of("", 0..0).column, 1);
    }
}
