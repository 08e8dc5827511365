use std::fmt;
use std::io;
use std::ops::Range;
use std::path::{Path, PathBuf};
use std::sync::Arc;

/// Who has to act for a problem to go away.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
#[non_exhaustive]
pub enum Responsible {
    /// The disk or its rights: a file is missing or cannot be read.
    Disk,
    /// Whoever wrote the reel file.
    ReelFile,
    /// Whoever made the picture.
    Picture,
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

/// One thing that is wrong with a file: where, what, and how to mend it.
#[derive(Clone, Debug)]
pub struct Problem {
    pub(crate) severity: Severity,
    pub(crate) responsible: Responsible,
    pub(crate) path: PathBuf,
    pub(crate) place: Option<Box<Place>>,
    pub(crate) key: String,
    pub(crate) what: String,
    pub(crate) remedy: String,
    pub(crate) cause: Option<Arc<io::Error>>,
}

/// A stretch of a text file, within one line.
#[derive(Clone, Debug, PartialEq, Eq)]
pub(crate) struct Place {
    line: usize,
    column: usize,
    length: usize,
    text: String,
}

impl Place {
    /// The place of a range of bytes; lines and columns count from 1, columns in characters.
    pub(crate) fn of(text: &str, span: Range<usize>) -> Place {
        let mut start = span.start.min(text.len());
        while !text.is_char_boundary(start) {
            start -= 1;
        }
        let line_start = text[..start].rfind('\n').map_or(0, |at| at + 1);
        let line_end = text[start..].find('\n').map_or(text.len(), |at| start + at);
        let line_text = text[line_start..line_end].trim_end_matches('\r');
        let column = text[line_start..start].chars().count() + 1;
        let left_in_line = line_text.chars().count().saturating_sub(column - 1);
        let wanted = text.get(start..span.end.max(start)).map_or(1, |part| part.chars().count());
        Place {
            line: text[..line_start].matches('\n').count() + 1,
            column,
            length: wanted.min(left_in_line).max(1),
            text: line_text.to_owned(),
        }
    }
}

impl Problem {
    /// Something is wrong with a whole text file.
    pub fn in_file(path: &Path, what: impl Into<String>, remedy: impl Into<String>) -> Problem {
        Problem::new(Responsible::ReelFile, path, what, remedy)
    }

    /// Something is wrong with a stretch of the text of a file.
    pub fn in_text(
        path: &Path,
        text: &str,
        span: Range<usize>,
        what: impl Into<String>,
        remedy: impl Into<String>,
    ) -> Problem {
        let mut problem = Problem::in_file(path, what, remedy);
        problem.place = Some(Box::new(Place::of(text, span)));
        problem
    }

    pub(crate) fn new(
        responsible: Responsible,
        path: &Path,
        what: impl Into<String>,
        remedy: impl Into<String>,
    ) -> Problem {
        Problem {
            severity: Severity::Error,
            responsible,
            path: path.to_owned(),
            place: None,
            key: String::new(),
            what: what.into(),
            remedy: remedy.into(),
            cause: None,
        }
    }

    /// Whether it tells the same of the same place.
    #[must_use]
    pub fn is_like(&self, other: &Problem) -> bool {
        self.path == other.path && self.place == other.place && self.what == other.what
    }

    /// How bad it is.
    #[must_use]
    pub fn severity(&self) -> Severity {
        self.severity
    }

    /// Who has to act.
    #[must_use]
    pub fn responsible(&self) -> Responsible {
        self.responsible
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
    pub fn what(&self) -> &str {
        &self.what
    }

    /// How to mend it.
    #[must_use]
    pub fn remedy(&self) -> &str {
        &self.remedy
    }
}

/// The whole message: place, key, problem, the line with a caret, and the remedy.
impl fmt::Display for Problem {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{}", self.path.display())?;
        if let Some(place) = &self.place {
            write!(f, ":{}:{}", place.line, place.column)?;
        }
        if !self.key.is_empty() {
            write!(f, ": {}", self.key)?;
        }
        let warning = if self.severity == Severity::Warning { "warning: " } else { "" };
        write!(f, ": {warning}{}", self.what)?;
        if let Some(place) = &self.place {
            draw_line(f, place)?;
        }
        write!(f, "\n  mend it: {}", self.remedy)
    }
}

/// The line of the file with a caret under the place. A very long line is cut around it.
fn draw_line(f: &mut fmt::Formatter<'_>, place: &Place) -> fmt::Result {
    const WIDEST: usize = 100;
    let before = place.column - 1;
    let skipped = if before > WIDEST / 2 { before - WIDEST / 4 } else { 0 };
    let shown: String = place.text.chars().skip(skipped).take(WIDEST).collect();
    // A tab would push the caret out of place.
    let shown = shown.replace('\t', " ");
    let carets = place.length.min(WIDEST.saturating_sub(before - skipped)).max(1);
    let number = place.line.to_string();
    let margin = " ".repeat(number.len());
    let pad = " ".repeat(before - skipped);
    write!(f, "\n  {number} | {shown}\n  {margin} | {pad}{}", "^".repeat(carets))
}

impl std::error::Error for Problem {
    fn source(&self) -> Option<&(dyn std::error::Error + 'static)> {
        self.cause.as_deref().map(|cause| cause as _)
    }
}

/// Everything that kept files from being loaded.
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

/// The same whole message, so that it is seen when `main` returns the error.
impl fmt::Debug for LoadError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
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
        assert_eq!((place.line, place.column, place.length), (2, 9, 3));
        assert_eq!(place.text, "  zwölf = 3");
        // Inside a character, over the end of a line, and beyond the text.
        assert_eq!(Place::of(text, 9..10).column, 5);
        assert_eq!(Place::of(text, at..text.len()).length, 3);
        assert_eq!(Place::of(text, 999..1_000).line, 3);
        assert_eq!(Place::of("", 0..0).column, 1);
    }

    #[test]
    fn the_caret_stands_under_the_place_in_a_long_line_too() {
        let text = format!("{}fps = 0{}", "x".repeat(500), "y".repeat(500));
        let mut problem = Problem::new(Responsible::ReelFile, Path::new("a.toml"), "bad", "mend");
        problem.place = Some(Box::new(Place::of(&text, 500..507)));
        let shown = problem.to_string();
        let lines: Vec<&str> = shown.lines().collect();
        let caret = lines[2].find("^^^^^^^").unwrap();
        assert_eq!(&lines[1][caret..caret + 7], "fps = 0");
        assert!(lines[1].len() < 120);
    }
}
