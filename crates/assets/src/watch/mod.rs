//! Files that are edited while the game runs.
//!
//! The worker thread (`worker.rs`) waits for events of the system (`events.rs`), lets a save come to
//! rest, builds the next version of the reel, and leaves it in a slot. The game takes it from there.

mod events;
mod stamps;
mod worker;

use std::path::PathBuf;
use std::sync::mpsc::{Sender, channel};
use std::sync::{Arc, Mutex};
use std::time::Duration;

use lucky_reel_core::{ImageId, Reel};

use crate::atlas::Atlas;
use crate::limits::Limits;
use crate::pictures::GridAdvice;
use crate::problem::{LoadError, Problem, ProblemSource};
use crate::{Art, Loader, Pixels};
use events::Signal;
use worker::Worker;

/// Reloads reel files and images when they change on the disk.
///
/// It watches the reel files, every image that they name, images that are still missing, and folders
/// that patterns look into; also editors that save by renaming a second file over the first. A thread of
/// its own builds the next version of the reel, so no frame of the game waits for it. A file that is
/// broken leaves the game with the reel it has, until the file is fixed.
///
/// It keeps a copy of all pixels, to tell which images have changed.
///
/// ```
/// use lucky_reel_assets::Loader;
///
/// # let folder = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/greenhouse");
/// let (art, mut watcher) = Loader::new().file(format!("{folder}/bram.reel.toml")).watch()?;
/// let mut reel = art.reel;
/// // once a frame:
/// match watcher.poll() {
///     None => {} // nothing has changed
///     Some(Ok(reload)) => {
///         for (image, pixels) in reload.changed_images() {
///             println!("upload image {} again: {:?}", image.index(), pixels.size());
///         }
///         reel = reload.art.reel; // players and actors go on; crowds and unisons: crowd.reload(&reel)
///     }
///     Some(Err(error)) => eprintln!("{error}"), // the old reel plays on
/// }
/// # Ok::<(), lucky_reel_assets::LoadError>(())
/// ```
#[derive(Debug)]
pub struct Watcher {
    signals: Sender<Signal>,
    slot: Arc<Slot>,
    /// What is wrong with the files at the moment.
    error: Option<LoadError>,
    reported: bool,
}

/// The next version of a reel, and which of its images are new.
#[derive(Clone, Debug)]
pub struct Reload {
    /// The reel and all of its pixels.
    pub art: Art,
    changed: Vec<ImageId>,
}

impl Reload {
    /// The images that have to be uploaded again, with their pixels. An image is its id: if a sheet is
    /// added before others, those have new ids, and are among the changed ones.
    pub fn changed_images(&self) -> impl Iterator<Item = (ImageId, &Pixels)> {
        self.changed.iter().filter_map(|image| Some((*image, self.art.image(*image)?)))
    }
}

/// What the worker thread has made since the game last looked.
#[derive(Debug, Default)]
struct Made {
    reload: Option<Reload>,
    /// What is wrong since then.
    error: Option<LoadError>,
}

type Slot = Mutex<Made>;

/// What to load: the loader's settings, which can be used again and again.
#[derive(Clone, Debug)]
pub(crate) struct Recipe {
    pub(crate) files: Vec<PathBuf>,
    pub(crate) limits: Limits,
    pub(crate) advice: Option<GridAdvice>,
    pub(crate) atlas: Option<Atlas>,
}

impl Recipe {
    fn loader(&mut self) -> Loader<'_> {
        let loader = Loader::new().limits(self.limits);
        let loader = self.advice.into_iter().fold(loader, Loader::advise_grids);
        let loader = self.files.iter().fold(loader, |loader, path| loader.file(path));
        self.atlas.iter_mut().fold(loader, Loader::into_atlas)
    }
}

impl Watcher {
    /// Loads, and watches from then on; by polling alone where an interval is given.
    pub(crate) fn start(
        recipe: Recipe,
        polling: Option<Duration>,
    ) -> Result<(Art, Watcher), LoadError> {
        let (signals, received) = channel();
        let slot = Arc::new(Slot::default());
        let worker = Worker::new(recipe, polling, (signals.clone(), received), Arc::clone(&slot));
        let (worker, art) = worker.load_first()?;
        let thread = std::thread::Builder::new().name("reel watcher".to_owned());
        thread.spawn(move || worker.run()).map_err(|error| {
            let what = format!("the thread that watches the files does not start: {error}");
            let path = art.files.first().map(PathBuf::as_path).unwrap_or(std::path::Path::new(""));
            Problem::new(ProblemSource::Disk, path, what, "load without watching")
        })?;
        Ok((art, Watcher { signals, slot, error: None, reported: true }))
    }

    /// What is new since the last call: the next version of the reel, or what is wrong with the files.
    /// `None` when nothing has changed. It never waits: call it every frame.
    ///
    /// # Errors
    /// Everything that is wrong with the files, once for each time that they were saved.
    pub fn poll(&mut self) -> Option<Result<Reload, LoadError>> {
        // The worker holds the lock only to put a thing into the slot.
        if let Ok(mut made) = self.slot.try_lock() {
            if let Some(error) = made.error.take() {
                (self.error, self.reported) = (Some(error), false);
            }
            if let Some(reload) = made.reload.take() {
                // An error beside it is newer than it, and is reported by the next call.
                if self.reported {
                    self.error = None;
                }
                return Some(Ok(reload));
            }
        }
        if self.reported {
            return None;
        }
        self.reported = true;
        self.error.clone().map(Err)
    }

    /// What is wrong with the files at the moment, as far as it was polled: empty when the reel that
    /// plays is what the files say.
    #[must_use]
    pub fn problems(&self) -> &[Problem] {
        self.error.as_ref().map_or(&[], LoadError::problems)
    }
}

impl Drop for Watcher {
    fn drop(&mut self) {
        // The thread may have ended already.
        let _ = self.signals.send(Signal::Stop);
    }
}

/// The images of a new version whose pixels are not those of the version before.
fn changed_images(reel: &Reel, before: &[Pixels], now: &[Pixels]) -> Vec<ImageId> {
    let ids = reel.images().map(|(image, _)| image);
    ids.filter(|image| before.get(image.index()) != now.get(image.index())).collect()
}
