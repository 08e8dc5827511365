//! What the system reports, as signals for the worker.

use std::collections::BTreeSet;
use std::path::{Path, PathBuf};
use std::sync::mpsc::Sender;

use notify::event::{AccessKind, AccessMode, EventKind};
use notify::{Event, RecommendedWatcher, RecursiveMode, Watcher as _};

use crate::file_names::matches;

/// What wakes the worker.
#[derive(Debug)]
pub(super) enum Signal {
    /// Something happened to these paths; none: to any.
    Paths(Vec<PathBuf>),
    Stop,
}

/// The system's watches on the folders in which named files are, or should be.
pub(super) struct Folders {
    /// `None` where the system offers no events.
    system: Option<RecommendedWatcher>,
}

impl Folders {
    pub(super) fn new(signals: Sender<Signal>) -> Folders {
        let system = notify::recommended_watcher(move |event: notify::Result<Event>| {
            let signal = match event {
                Ok(event) if event.need_rescan() => Signal::Paths(Vec::new()),
                Ok(event) if is_change(event.kind) => Signal::Paths(event.paths),
                Ok(_) => return,
                Err(_) => Signal::Paths(Vec::new()),
            };
            // Nobody listens when the worker has ended.
            let _ = signals.send(signal);
        });
        Folders { system: system.ok() }
    }

    /// No events at all.
    pub(super) fn none() -> Folders {
        Folders { system: None }
    }

    /// Watches the folders of all named files, and the folders that lead there. Those that are watched
    /// already are watched again, as one may have been deleted and made anew. Returns whether the
    /// system reports what happens in all of them.
    pub(super) fn watch(&mut self, named: &[PathBuf]) -> bool {
        let Some(system) = &mut self.system else { return false };
        let mut folders: BTreeSet<&Path> = BTreeSet::new();
        for path in named {
            // The folder itself, and one above it, in which it would be made anew.
            folders.extend(path.ancestors().skip(1).take(2));
        }
        let watched = |folder: &Path| system.watch(folder, RecursiveMode::NonRecursive).is_ok();
        folders.into_iter().filter(|folder| folder.is_dir()).map(watched).fold(true, |a, b| a & b)
    }
}

/// Whether what happened may have changed a file. That somebody reads it is reported as well, and the
/// worker itself reads them all.
fn is_change(kind: EventKind) -> bool {
    match kind {
        EventKind::Access(AccessKind::Close(AccessMode::Write)) => true,
        EventKind::Access(_) => false,
        _ => true,
    }
}

/// Whether what happened at a path concerns a named file: it is the file, a folder that it is in, or a
/// file that its pattern matches.
pub(super) fn concerns(path: &Path, named: &[PathBuf]) -> bool {
    named.iter().any(|named| {
        let by_pattern = || {
            let names = (named.file_name()?.to_str()?, path.file_name()?.to_str()?);
            Some(named.parent() == path.parent() && matches(names.0, names.1))
        };
        named.starts_with(path) || by_pattern().unwrap_or(false)
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_path_concerns_what_is_named_there() {
        let named = ["/art/a.reel.toml", "/art/puff/puff-*.png", "/art/a.png"].map(PathBuf::from);
        for path in ["/art/a.png", "/art", "/art/puff", "/art/puff/puff-12.png", "/"] {
            assert!(concerns(Path::new(path), &named), "{path}");
        }
        for path in ["/art/b.png", "/art/puff-1.png", "/art/puff/moth-1.png", "/art/a.png.tmp"] {
            assert!(!concerns(Path::new(path), &named), "{path}");
        }
    }
}
