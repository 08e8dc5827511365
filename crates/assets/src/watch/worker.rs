//! The thread that waits for changes and builds.

use std::collections::BTreeSet;
use std::path::{Path, PathBuf};
use std::sync::Arc;
use std::sync::mpsc::{Receiver, RecvTimeoutError, Sender};
use std::time::{Duration, Instant};

use lucky_reel_core::Reel;

use super::events::{Folders, Signal, concerns};
use super::stamps::Stamps;
use super::{Recipe, Reload, Slot, changed_images};
use crate::problem::LoadError;
use crate::{Art, Pixels};

/// A save has come to rest when nothing has happened for so long. Editors write in place in several
/// steps; without this wait, every third save was read half written.
const REST: Duration = Duration::from_millis(20);
/// Files that never come to rest are read after so long all the same.
const LONGEST_WAIT: Duration = Duration::from_millis(500);
/// What cannot be loaded may still be being written: it is only reported when nothing happens for so
/// long.
const DOUBT: Duration = Duration::from_millis(120);
/// How often times and sizes are compared beside the system's events, for what it does not report:
/// links that lead elsewhere, network drives.
const BESIDE_EVENTS: Duration = Duration::from_secs(1);
/// The same where the system reports nothing.
const WITHOUT_EVENTS: Duration = Duration::from_millis(100);

pub(super) struct Worker {
    recipe: Recipe,
    polling: Option<Duration>,
    folders: Folders,
    signals: Receiver<Signal>,
    slot: Arc<Slot>,
    /// Every file that may matter, there or not, by absolute path.
    named: Vec<PathBuf>,
    stamps: Stamps,
    interval: Duration,
    /// The last version that could be built.
    reel: Option<Reel>,
    images: Vec<Pixels>,
}

/// How a wait ended.
enum Woken {
    Changed,
    Nothing,
    Stop,
}

impl Worker {
    pub(super) fn new(
        recipe: Recipe,
        polling: Option<Duration>,
        (sender, signals): (Sender<Signal>, Receiver<Signal>),
        slot: Arc<Slot>,
    ) -> Worker {
        let folders = match polling {
            None => Folders::new(sender),
            Some(_) => Folders::none(),
        };
        let named = recipe.files.iter().map(|path| absolute(path)).collect();
        let (stamps, interval) = (Stamps::default(), WITHOUT_EVENTS);
        let (reel, images) = (None, Vec::new());
        Worker { recipe, polling, folders, signals, slot, named, stamps, interval, reel, images }
    }

    /// Builds the first version.
    pub(super) fn load_first(mut self) -> Result<(Worker, Art), LoadError> {
        let art = self.build()?;
        self.images.clone_from(&art.images);
        self.reel = Some(art.reel.clone());
        Ok((self, art))
    }

    pub(super) fn run(mut self) {
        loop {
            let changed = match self.wait(self.interval) {
                Woken::Changed => true,
                Woken::Nothing => Stamps::of(&self.named) != self.stamps,
                Woken::Stop => return,
            };
            if !changed {
                continue;
            }
            let mut built = None;
            while built.is_none() {
                if self.come_to_rest() {
                    return;
                }
                built = match self.build() {
                    Ok(art) => Some(Ok(art)),
                    Err(error) => match self.wait(DOUBT) {
                        Woken::Changed => None,
                        Woken::Nothing => Some(Err(error)),
                        Woken::Stop => return,
                    },
                };
            }
            match built {
                Some(Ok(art)) => self.deliver(art),
                Some(Err(error)) => {
                    if let Ok(mut made) = self.slot.lock() {
                        made.error = Some(error);
                    }
                }
                None => {}
            }
        }
    }

    /// Waits for a change to a file that matters, at most so long.
    fn wait(&self, at_most: Duration) -> Woken {
        let end = Instant::now() + at_most;
        loop {
            let left = end.saturating_duration_since(Instant::now());
            match self.signals.recv_timeout(left) {
                Ok(Signal::Paths(paths)) => {
                    let ours = |path: &PathBuf| concerns(path, &self.named);
                    if paths.is_empty() || paths.iter().any(ours) {
                        return Woken::Changed;
                    }
                }
                Ok(Signal::Stop) | Err(RecvTimeoutError::Disconnected) => return Woken::Stop,
                Err(RecvTimeoutError::Timeout) => return Woken::Nothing,
            }
        }
    }

    /// Waits until nothing happens any more; whether to stop instead.
    fn come_to_rest(&self) -> bool {
        let begin = Instant::now();
        let mut stamps = Stamps::of(&self.named);
        while begin.elapsed() < LONGEST_WAIT {
            match self.wait(REST) {
                Woken::Changed => {}
                Woken::Stop => return true,
                // Without events, that times and sizes stand still says the same.
                Woken::Nothing => match Stamps::of(&self.named) {
                    now if now == stamps => return false,
                    now => stamps = now,
                },
            }
        }
        false
    }

    /// Watches what is named now.
    fn watch(&mut self) {
        let by_events = self.folders.watch(&self.named);
        self.interval = match (self.polling, by_events) {
            (Some(interval), _) => interval,
            (None, true) => BESIDE_EVENTS,
            (None, false) => WITHOUT_EVENTS,
        };
        self.stamps = Stamps::of(&self.named);
    }

    /// Builds the next version from what is on the disk now.
    fn build(&mut self) -> Result<Art, LoadError> {
        // Changes from here on are seen, so that none falls between reading and watching.
        self.watch();
        let builder = self.reel.as_ref().map_or_else(Reel::builder, Reel::reload);
        let filled = self.recipe.loader().fill(builder, true);
        let named: Vec<PathBuf> = filled.named.iter().map(|path| absolute(path)).collect();
        let before: BTreeSet<&PathBuf> = self.named.iter().collect();
        let is_new = |path: &PathBuf| !before.contains(path);
        if filled.art.is_some() || named.iter().any(is_new) {
            // A file that cannot be read names no images; those that it named still matter.
            let now: BTreeSet<&PathBuf> = named.iter().collect();
            let kept = self.named.iter().filter(|path| filled.art.is_none() && !now.contains(path));
            let all: Vec<PathBuf> = kept.cloned().chain(named.iter().cloned()).collect();
            if all != self.named {
                self.named = all;
                self.watch();
            }
        }
        filled.art()
    }

    fn deliver(&mut self, art: Art) {
        let mut changed = changed_images(&art.reel, &self.images, &art.images);
        self.images.clone_from(&art.images);
        self.reel = Some(art.reel.clone());
        let Ok(mut made) = self.slot.lock() else { return };
        // What changed in a version that the game has not taken is new to it still.
        if let Some(missed) = made.reload.take() {
            let there = art.images.len();
            changed.extend(missed.changed.into_iter().filter(|image| image.index() < there));
            changed.sort_unstable();
            changed.dedup();
        }
        *made = super::Made { reload: Some(Reload { art, changed }), error: None };
    }
}

/// A path that does not depend on the current folder, as the system reports it.
fn absolute(path: &Path) -> PathBuf {
    std::path::absolute(path).unwrap_or_else(|_| path.to_owned())
}
