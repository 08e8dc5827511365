//! Durations that were changed by hand and are not in the file yet.

use std::collections::BTreeMap;
use std::path::{Path, PathBuf};

use lucky_reel_assets::document::Form;
use lucky_reel_assets::{Art, Limits, LoadError, Loader};
use lucky_reel_core::{Reel, Ticks};

use crate::atomic_write;
use crate::edit::set_hold;

/// The reel files as they are on the disk, and the changes on top of them.
#[derive(Debug)]
pub(super) struct Edits {
    limits: Limits,
    /// The files as they were read.
    base: BTreeMap<PathBuf, String>,
    /// The same with all changes.
    edited: BTreeMap<PathBuf, String>,
    changes: Vec<Change>,
}

#[derive(Clone, Debug, PartialEq)]
struct Change {
    file: PathBuf,
    role: String,
    clip: String,
    hold: usize,
    duration: Ticks,
}

impl Edits {
    pub(super) fn new(limits: Limits) -> Edits {
        let (base, edited) = (BTreeMap::new(), BTreeMap::new());
        Edits { limits, base, edited, changes: Vec::new() }
    }

    pub(super) fn count(&self) -> usize {
        self.changes.len()
    }

    /// Takes the files as they are on the disk now, and lays the changes on them again. Those that no
    /// longer fit are dropped; how many is returned.
    pub(super) fn rebase(&mut self, files: &[PathBuf], reel: &Reel) -> usize {
        self.base.clear();
        for file in files {
            if let Ok(text) = std::fs::read_to_string(file) {
                self.base.insert(file.clone(), text);
            }
        }
        self.edited = self.base.clone();
        let changes = std::mem::take(&mut self.changes);
        let wanted = changes.len();
        let mut reel = reel.clone();
        for change in changes {
            if let Ok(art) = self.apply(change, &reel) {
                reel = art.reel;
            }
        }
        wanted - self.changes.len()
    }

    /// Changes the duration of a hold, and builds the reel that comes of it.
    pub(super) fn set(
        &mut self,
        (role, clip, hold): (&str, &str, usize),
        duration: Ticks,
        reel: &Reel,
    ) -> Result<Art, String> {
        let file = self.file_of(role).ok_or("this clip is not in a reel file")?;
        let change = Change { file, role: role.to_owned(), clip: clip.to_owned(), hold, duration };
        self.apply(change, reel)
    }

    fn file_of(&self, role: &str) -> Option<PathBuf> {
        let is_of_role = |path: &&PathBuf| {
            let name = path.file_name().and_then(|name| name.to_str()).unwrap_or_default();
            name.split('.').next() == Some(role)
        };
        self.base.keys().find(is_of_role).cloned()
    }

    fn apply(&mut self, change: Change, reel: &Reel) -> Result<Art, String> {
        let name = format!("{}/{}", change.role, change.clip);
        let clip = reel.id(&name).ok().and_then(|id| reel.clip(id));
        let clip = clip.ok_or_else(|| format!("there is no clip `{name}` any more"))?;
        let holds: Vec<Ticks> = clip.holds().map(|hold| hold.ticks).collect();
        let before = self.edited.get(&change.file).ok_or("the reel file cannot be read")?.clone();
        let form = Form::of(&change.file);
        let place = (&*change.clip, change.hold);
        let after = set_hold(&before, form, place, change.duration, &holds)
            .map_err(|error| format!("{}; {}", error.message, error.fix))?;
        let file = change.file.clone();
        self.edited.insert(file.clone(), after);
        match self.build(reel) {
            Ok(art) => {
                // Of several changes of one hold, undoing takes back all.
                let same = |other: &Change| {
                    Change { duration: other.duration, ..change.clone() } == *other
                };
                self.changes.retain(|other| !same(other));
                self.changes.push(change);
                Ok(art)
            }
            Err(error) => {
                self.edited.insert(file, before);
                Err(error.problems().first().map_or(String::new(), |it| it.message().to_owned()))
            }
        }
    }

    /// Takes the last change back, and builds what is left.
    pub(super) fn undo(
        &mut self,
        files: &[PathBuf],
        reel: &Reel,
    ) -> Option<Result<Art, LoadError>> {
        self.changes.pop()?;
        let kept = std::mem::take(&mut self.changes);
        self.edited = self.base.clone();
        // The holds of the files as they are, on which changes are laid anew.
        let plain = match self.build_of(files, reel) {
            Ok(art) => art,
            Err(error) => return Some(Err(error)),
        };
        let mut art = plain;
        for change in kept {
            if let Ok(next) = self.apply(change, &art.reel) {
                art = next;
            }
        }
        Some(Ok(art))
    }

    /// The next version of the reel, with all changes.
    pub(super) fn build(&self, reel: &Reel) -> Result<Art, LoadError> {
        let files: Vec<PathBuf> = self.edited.keys().cloned().collect();
        self.build_of(&files, reel)
    }

    fn build_of(&self, files: &[PathBuf], reel: &Reel) -> Result<Art, LoadError> {
        let loader = Loader::new().limits(self.limits);
        let loader = files.iter().fold(loader, |loader, file| match self.edited.get(file) {
            Some(text) => loader.file_with_text(file, text),
            None => loader.file(file),
        });
        loader.reload(reel)
    }

    /// Writes every changed file, whole or not at all, and not over one that was changed meanwhile. What
    /// was done, in words.
    pub(super) fn write(&mut self) -> Result<String, String> {
        let files: Vec<PathBuf> = self
            .edited
            .iter()
            .filter(|(file, text)| self.base.get(*file) != Some(*text))
            .map(|(file, _)| file.clone())
            .collect();
        if files.is_empty() {
            self.changes.clear();
            return Ok("nothing to write: no duration has changed".to_owned());
        }
        for file in &files {
            let (base, edited) = (&self.base[file], &self.edited[file]);
            write_over(file, base, edited)?;
            self.base.insert(file.clone(), edited.clone());
            self.changes.retain(|change| change.file != *file);
        }
        let names: Vec<String> = files.iter().map(|file| file.display().to_string()).collect();
        Ok(format!("written: {}", names.join(", ")))
    }
}

fn write_over(file: &Path, base: &str, text: &str) -> Result<(), String> {
    let done = atomic_write::replace(file, base.as_bytes(), text.as_bytes());
    done.map_err(|error| match error.has_changed() {
        true => format!("{error}; it will be read again, then press w once more"),
        false => error.to_string(),
    })
}
