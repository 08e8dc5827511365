//! Where the bytes of files come from, and which paths they may have.

use std::fs::File;
use std::io::{self, Read};
use std::path::{Path, PathBuf};
use std::sync::Arc;

use lucky_reel_core::NameError;

use crate::file_names::{matches, natural_order};
use crate::files::Files;
use crate::problem::{Problem, ProblemSource};

/// A user's own way to read a file by its path in the reel file.
pub(crate) type ReadFile<'r> = Box<dyn FnMut(&str) -> io::Result<Vec<u8>> + 'r>;

pub(crate) enum Source<'r> {
    /// The folder of the reel file.
    Folder(PathBuf),
    Function(ReadFile<'r>),
    /// Files that can be listed, and the folder of the reel file among them; others of the load have other numbers.
    Files {
        files: Arc<dyn Files + 'r>,
        folder: PathBuf,
        number: usize,
    },
}

impl Source<'_> {
    /// How a file that the reel file names is called in messages.
    pub(crate) fn shown(&self, name: &str) -> PathBuf {
        match self {
            Source::Folder(folder) | Source::Files { folder, .. } => folder.join(name),
            Source::Function(_) => PathBuf::from(name),
        }
    }

    /// The bytes of a file that a reel file names.
    pub(crate) fn read(&mut self, name: &str, most: u64) -> Result<Vec<u8>, Problem> {
        let shown = self.shown(name);
        if let Some(why) = fault_of_path(name) {
            let fix = "name a file in the reel file's folder or below it, with / between folders";
            return Err(Problem::new(ProblemSource::ReelFile, &shown, why, fix));
        }
        match self {
            Source::Folder(folder) => {
                let bytes = stays_inside(folder, &shown).and_then(|()| read_file(&shown, most));
                bytes.map_err(|problem| suggest_file(problem, &shown))
            }
            Source::Function(read) => {
                read(name).map_err(|cause| unreadable(&shown, cause)).and_then(|bytes| {
                    if bytes.len() as u64 > most { Err(too_large(&shown, most)) } else { Ok(bytes) }
                })
            }
            Source::Files { files, folder, .. } => {
                let path = path_among(folder, name);
                read_among(&**files, &path, most)
            }
        }
    }

    /// The files whose names match a pattern such as `puff-*.png`, in natural order.
    pub(crate) fn matching(&self, pattern: &str) -> Result<Vec<String>, Problem> {
        let shown = self.shown(pattern);
        if let Some(why) = fault_of_path(pattern) {
            let fix = "name pictures in the reel file's folder or below it";
            return Err(Problem::new(ProblemSource::ReelFile, &shown, why, fix));
        }
        let (below, name_pattern) = pattern.rsplit_once('/').unwrap_or(("", pattern));
        let names = match self {
            Source::Function(_) => {
                let what = format!("`{pattern}` cannot be looked up: a function reads the files");
                let fix = "list the pictures, images = [\"puff-0.png\", \"puff-1.png\"], or load from `Files`";
                return Err(Problem::new(ProblemSource::ReelFile, &shown, what, fix));
            }
            Source::Folder(folder) => {
                let listed = std::fs::read_dir(match folder.join(below) {
                    here if here.as_os_str().is_empty() => PathBuf::from("."),
                    folder => folder,
                });
                let listed = listed.map_err(|cause| unreadable(&shown, cause))?;
                listed.filter_map(|entry| entry.ok()?.file_name().into_string().ok()).collect()
            }
            Source::Files { files, folder, .. } => {
                let all = files.list().map_err(|cause| unreadable(&shown, cause))?;
                let start = path_among(&folder.join(below), "");
                let names = all.iter().filter_map(|path| path.strip_prefix(&*start));
                let here = names.filter(|name| !name.contains('/')).map(str::to_owned);
                here.collect::<Vec<String>>()
            }
        };
        let mut found: Vec<String> =
            names.into_iter().filter(|name| matches(name_pattern, name)).collect();
        if found.is_empty() {
            let (what, fix) = ("no picture matches this", "check the pattern; * is any text");
            return Err(Problem::new(ProblemSource::Disk, &shown, what, fix));
        }
        found.sort_by(|a, b| natural_order(a, b));
        if !below.is_empty() {
            found.iter_mut().for_each(|name| *name = format!("{below}/{name}"));
        }
        Ok(found)
    }
}

/// A file of files that can be listed, not larger than `most` bytes.
pub(crate) fn read_among(files: &dyn Files, path: &str, most: u64) -> Result<Vec<u8>, Problem> {
    let shown = Path::new(path);
    let bytes = files.read(path).map_err(|cause| unreadable(shown, cause));
    let bytes = bytes.map_err(|problem| {
        let is_missing = |cause: &Arc<io::Error>| cause.kind() == io::ErrorKind::NotFound;
        let listed =
            || files.list().ok().filter(|_| problem.cause.as_ref().is_some_and(is_missing));
        let names = listed().unwrap_or_default();
        match NameError::nearest(path, names.iter().map(String::as_str)) {
            Some(near) => Problem { fix: format!("did you mean `{near}`?"), ..problem },
            None => problem,
        }
    })?;
    if bytes.len() as u64 > most { Err(too_large(shown, most)) } else { Ok(bytes) }
}

/// The path of a name in a folder among files that can be listed: with / between folders, on every system.
fn path_among(folder: &Path, name: &str) -> String {
    let mut parts: Vec<String> = Vec::new();
    for part in folder.components() {
        parts.push(part.as_os_str().to_string_lossy().into_owned());
    }
    // `./a.png` is `a.png`.
    parts.push(name.trim_start_matches("./").to_owned());
    parts.join("/")
}

/// Names the file that was perhaps meant, where there is none of this name.
fn suggest_file(mut problem: Problem, path: &Path) -> Problem {
    let is_missing = |cause: &Arc<io::Error>| cause.kind() == io::ErrorKind::NotFound;
    if problem.cause.as_ref().is_some_and(is_missing) {
        let folder = path.parent().filter(|folder| !folder.as_os_str().is_empty());
        let listed = std::fs::read_dir(folder.unwrap_or(Path::new("."))).into_iter().flatten();
        let names =
            listed.take(10_000).filter_map(|entry| entry.ok()?.file_name().into_string().ok());
        let names: Vec<String> = names.collect();
        let wanted = path.file_name().map(|name| name.to_string_lossy()).unwrap_or_default();
        if let Some(near) = NameError::nearest(&wanted, names.iter().map(String::as_str)) {
            problem.fix = format!("did you mean `{near}`, which is in the same folder?");
        }
    }
    problem
}

/// Reads a file that is not larger than `most` bytes.
pub(crate) fn read_file(path: &Path, most: u64) -> Result<Vec<u8>, Problem> {
    let bytes = || -> io::Result<Option<Vec<u8>>> {
        // Whatever is no plain file (a folder, a pipe) might never end.
        if !std::fs::metadata(path)?.is_file() {
            return Ok(None);
        }
        let mut bytes = Vec::new();
        File::open(path)?.take(most + 1).read_to_end(&mut bytes)?;
        Ok(Some(bytes))
    };
    match bytes() {
        Ok(Some(bytes)) if bytes.len() as u64 > most => Err(too_large(path, most)),
        Ok(Some(bytes)) => Ok(bytes),
        Ok(None) => {
            let what = if path.is_dir() { "this is a folder" } else { "not a regular file" };
            Err(Problem::new(ProblemSource::Disk, path, what, "give the path of a file"))
        }
        Err(cause) => Err(unreadable(path, cause)),
    }
}

fn unreadable(path: &Path, cause: io::Error) -> Problem {
    let (what, fix) = match cause.kind() {
        io::ErrorKind::NotFound => ("there is no such file".to_owned(), "check the path"),
        io::ErrorKind::PermissionDenied => {
            ("the file may not be read".to_owned(), "check the rights of the file")
        }
        // A source of files says more than a disk does.
        io::ErrorKind::InvalidData => (cause.to_string(), "make the archive again"),
        _ => (format!("the file cannot be read: {cause}"), "check the disk and the path"),
    };
    let mut problem = Problem::new(ProblemSource::Disk, path, what, fix);
    problem.cause = Some(Arc::new(cause));
    problem
}

fn too_large(path: &Path, most: u64) -> Problem {
    let what = format!("the file is larger than {most} bytes");
    Problem::new(
        ProblemSource::Limit,
        path,
        what,
        "use a smaller file, or raise the loader's limit",
    )
}

/// Why a path may not stand in a reel file, if so.
pub(crate) fn fault_of_path(name: &str) -> Option<&'static str> {
    let mut parts = name.split('/');
    if name.is_empty() {
        Some("the path is empty")
    } else if name.starts_with('/') || name.contains(['\\', ':', '\0']) {
        Some("the path is not relative to the reel file, or holds \\ or :")
    } else if parts.any(|part| part == "..") {
        Some("the path leaves the reel file's folder")
    } else {
        None
    }
}

/// Refuses links that lead out of the folder.
fn stays_inside(folder: &Path, file: &Path) -> Result<(), Problem> {
    let folder = if folder.as_os_str().is_empty() { Path::new(".") } else { folder };
    let real = file.canonicalize().map_err(|cause| unreadable(file, cause))?;
    let folder = folder.canonicalize().map_err(|cause| unreadable(folder, cause))?;
    if real.starts_with(&folder) {
        return Ok(());
    }
    let what = "this is a link that leaves the reel file's folder";
    Err(Problem::new(ProblemSource::ReelFile, file, what, "put the picture itself into the folder"))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn paths_stay_below_the_reel_file() {
        for good in ["a.png", "art/a.png", "art/deep/a b.png", "./a.png", "..a.png", "a..png"] {
            assert_eq!(fault_of_path(good), None, "{good}");
        }
        for bad in
            ["", "/a.png", "../a.png", "art/../../a.png", "a/..", "C:a.png", "art\\a.png", "a\0"]
        {
            assert!(fault_of_path(bad).is_some(), "{bad}");
        }
    }

    #[test]
    fn a_reading_function_is_asked_for_sound_paths_alone_and_held_to_the_limit() {
        let mut asked = Vec::new();
        let mut source = Source::Function(Box::new(|path: &str| {
            asked.push(path.to_owned());
            Ok(vec![0; 10])
        }));
        assert_eq!(source.read("a.png", 10).map(|bytes| bytes.len()).ok(), Some(10));
        let problem = source.read("b.png", 9).expect_err("it is too large");
        assert_eq!(problem.origin(), ProblemSource::Limit);
        assert!(source.read("../c.png", 99).is_err());
        drop(source);
        assert_eq!(asked, ["a.png", "b.png"]);
    }
}
