//! When files were written and how large they are: what changed without an event.

use std::collections::BTreeMap;
use std::path::{Path, PathBuf};
use std::time::SystemTime;

use crate::file_names::matches;

/// Times and sizes of files, by path; files that are not there are not among them.
#[derive(Debug, Default, PartialEq, Eq)]
pub(super) struct Stamps(BTreeMap<PathBuf, (Option<SystemTime>, u64)>);

impl Stamps {
    /// Those of all named files, and of the files that patterns among them match.
    pub(super) fn of(named: &[PathBuf]) -> Stamps {
        let mut stamps = Stamps::default();
        for path in named {
            match path.file_name().and_then(|name| name.to_str()) {
                Some(pattern) if pattern.contains('*') => {
                    let folder = path.parent().unwrap_or(Path::new("."));
                    for entry in std::fs::read_dir(folder).into_iter().flatten().flatten() {
                        let is_match = |name: &str| matches(pattern, name);
                        if entry.file_name().to_str().is_some_and(is_match) {
                            stamps.add(entry.path());
                        }
                    }
                }
                _ => stamps.add(path.clone()),
            }
        }
        stamps
    }

    fn add(&mut self, path: PathBuf) {
        if let Ok(about) = std::fs::metadata(&path) {
            self.0.insert(path, (about.modified().ok(), about.len()));
        }
    }
}
