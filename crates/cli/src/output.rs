//! Files out: whole or not at all, over others only with --force, and never over what is somebody's work: a
//! file that the command has read, or one that a reel file names.

use std::fs::{self, File};
use std::io::{self, BufWriter};
use std::path::{Component, Path, PathBuf};

use lucky_reel_tools::atomic_write;

use crate::failure::Failure;
use crate::files::has_reel_name;

/// Where a command may write.
pub(crate) struct Output {
    force: bool,
    /// What it has read, as the system calls it.
    read: Vec<PathBuf>,
    /// What it is about to write.
    mine: Vec<PathBuf>,
}

impl Output {
    pub(crate) fn new(force: bool) -> Output {
        Output { force, read: Vec::new(), mine: Vec::new() }
    }

    /// Says which files were read.
    pub(crate) fn having_read<P: AsRef<Path>>(
        mut self,
        files: impl IntoIterator<Item = P>,
    ) -> Output {
        let known = files.into_iter().filter_map(|file| file.as_ref().canonicalize().ok());
        self.read.extend(known);
        self
    }

    /// Refuses to begin when one of several files that belong together may not be written.
    pub(crate) fn reserve<P: AsRef<Path>>(
        &mut self,
        files: impl IntoIterator<Item = P>,
    ) -> Result<(), Failure> {
        self.mine = files.into_iter().map(|file| file.as_ref().to_owned()).collect();
        self.mine.iter().try_for_each(|file| self.allow(file))
    }

    /// Writes a file by way of a temporary one beside it.
    pub(crate) fn write(
        &self,
        path: &Path,
        fill: impl FnOnce(&mut BufWriter<&File>) -> io::Result<()>,
    ) -> Result<(), Failure> {
        self.allow(path)?;
        Ok(atomic_write::write(path, self.force, fill)?)
    }

    fn allow(&self, path: &Path) -> Result<(), Failure> {
        let Ok(real) = path.canonicalize() else { return Ok(()) };
        let shown = path.display();
        let fix = "name another file: --to FILE";
        if self.read.contains(&real) {
            let what = format!("{shown}: the command has read this file, and never writes over it");
            return Err(Failure::with_fix(what, fix));
        }
        if let Some(reel) = self.named_by(&real) {
            let what =
                format!("{shown}: {} names this file, so it is not written over", reel.display());
            return Err(Failure::with_fix(what, fix));
        }
        if !self.force {
            let what = format!("{shown}: file already exists");
            return Err(Failure::with_fix(what, "add --force to overwrite it"));
        }
        Ok(())
    }

    /// The reel file that names a file, if there is one, in its folder or a folder above; but for those that
    /// are written anew themselves.
    fn named_by(&self, real: &Path) -> Option<PathBuf> {
        let mine: Vec<PathBuf> =
            self.mine.iter().filter_map(|path| path.canonicalize().ok()).collect();
        real.ancestors().skip(1).take(8).find_map(|folder| {
            let relative = name_within(real.strip_prefix(folder).ok()?)?;
            let entries = fs::read_dir(folder).ok()?.filter_map(Result::ok);
            let mut reels: Vec<PathBuf> =
                entries.map(|entry| entry.path()).filter(|path| has_reel_name(path)).collect();
            reels.sort();
            reels.into_iter().filter(|reel| !mine.contains(reel)).find(|reel| {
                let text = fs::read_to_string(reel).unwrap_or_default();
                quoted(&text).any(|text| matches(text, &relative))
            })
        })
    }
}

/// A relative path as a reel file writes it.
fn name_within(path: &Path) -> Option<String> {
    let parts = path.components().map(|part| match part {
        Component::Normal(part) => part.to_str(),
        _ => None,
    });
    Some(parts.collect::<Option<Vec<_>>>()?.join("/"))
}

/// What stands between quotes, by line.
fn quoted(text: &str) -> impl Iterator<Item = &str> {
    text.lines().flat_map(|line| {
        ['"', '\''].into_iter().flat_map(move |quote| line.split(quote).skip(1).step_by(2))
    })
}

/// Whether a name in a reel file, which may be a pattern such as `puff-*.png`, is that of a path.
fn matches(pattern: &str, path: &str) -> bool {
    let pattern = pattern.strip_prefix("./").unwrap_or(pattern);
    match pattern.split_once('*') {
        None => pattern == path,
        Some((start, end)) => {
            path.len() >= start.len() + end.len() && path.starts_with(start) && path.ends_with(end)
        }
    }
}
