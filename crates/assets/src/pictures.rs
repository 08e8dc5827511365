//! The pictures that a reel file names, each read once.

use std::path::{Path, PathBuf};

use lucky_reel_core::SheetId;

use crate::Pixels;
use crate::animated::AnimatedImage;
use crate::file_bytes::Source;
use crate::index::{Index, path_name};
use crate::limits::Limits;
use crate::pixels::PixelsError;
use crate::problem::{Problem, ProblemSource};

/// Says in words which grid fits an image by its pixels, if it can tell.
pub type GridAdvice = fn(&Pixels) -> Option<String>;

/// The pictures of a load that sheets show, and how many pixels it holds.
#[derive(Default)]
pub(crate) struct Held {
    /// By path; those that were put together are named after their reel file and sheet.
    images: Index<(SheetId, Pixels)>,
    /// Pixels of these, and of those that are needed on the way.
    pixels: u64,
}

impl Held {
    /// The pictures, each with a sheet that shows it.
    pub(crate) fn into_images(self) -> impl Iterator<Item = (SheetId, Pixels)> {
        self.images.into_values().into_iter()
    }
}

/// The pictures of one reel file by their paths, each decoded once and held once.
pub(crate) struct Pictures<'s, 'r> {
    source: &'s mut Source<'r>,
    limits: Limits,
    keep_pixels: bool,
    /// The reel file.
    file: &'s Path,
    held: &'s mut Held,
    /// `None` for those that were dropped.
    pictures: Index<Option<Pixels>>,
    sizes: Index<[u32; 2]>,
    /// How often sheets name a picture, as far as that is known.
    uses: Index<usize>,
    /// What pictures lack that were read all the same.
    missing: Index<String>,
    /// The paths and patterns that were asked for, whether or not there is such a file.
    named: Index<()>,
    pub(crate) advice: Option<GridAdvice>,
}

impl<'s, 'r> Pictures<'s, 'r> {
    pub(crate) fn new(
        source: &'s mut Source<'r>,
        (limits, keep_pixels): (Limits, bool),
        file: &'s Path,
        held: &'s mut Held,
    ) -> Self {
        Pictures {
            source,
            limits,
            keep_pixels,
            file,
            held,
            pictures: Index::default(),
            sizes: Index::default(),
            uses: Index::default(),
            missing: Index::default(),
            named: Index::default(),
            advice: None,
        }
    }

    /// Where a picture is from; `None` where a function reads it, or where it was put together.
    fn path_of(&self, name: &str) -> Option<PathBuf> {
        match &self.source {
            Source::Folder(folder) if !name.starts_with('/') => Some(folder.join(name)),
            // Two archives may have a picture of one name: no path on a disk begins so.
            Source::Files { folder, number, .. } if !name.starts_with('/') => {
                Some(Path::new(&format!("{number}\0")).join(folder).join(name))
            }
            _ => None,
        }
    }

    /// Under which path a picture is held for the whole load.
    pub(crate) fn held_as(&self, name: &str) -> PathBuf {
        let own = || self.file.join(name.trim_start_matches('/'));
        self.path_of(name).unwrap_or_else(own)
    }

    /// Hands what sheets show over to the load, and drops the rest; gives the paths and patterns that were
    /// asked for.
    pub(crate) fn finish<'i>(
        mut self,
        shown: impl Iterator<Item = (SheetId, &'i str)>,
    ) -> Index<()> {
        for (sheet, name) in shown {
            let path = self.held_as(name);
            if let Some(picture) = self.take(name).filter(|_| self.keep_pixels) {
                self.held.images.insert_new(path_name(&path), (sheet, picture));
            }
        }
        self.held.pixels =
            self.held.images.values().iter().map(|(_, picture)| picture.pixels()).sum();
        self.named
    }

    /// Says that a sheet names a picture.
    pub(crate) fn expect(&mut self, name: &str) {
        match self.uses.get_mut(name) {
            Some(uses) => *uses += 1,
            None => self.uses.insert(name.to_owned(), 1),
        }
    }

    /// Width and height of a picture, without decoding it if its pixels are not wanted.
    pub(crate) fn size(&mut self, name: &str) -> Result<[u32; 2], Problem> {
        if let Some(size) = self.sizes.get(name) {
            return Ok(*size);
        }
        if self.keep_pixels {
            return self.picture(name).map(Pixels::size);
        }
        let bytes = self.bytes(name)?;
        let size =
            AnimatedImage::size_of(&bytes).map_err(|error| self.bad_picture(name, &error))?;
        self.sizes.insert(name.to_owned(), size);
        Ok(size)
    }

    /// The pixels of a picture.
    pub(crate) fn picture(&mut self, name: &str) -> Result<&Pixels, Problem> {
        let path = self.held_as(name);
        if !self.held.images.has(&path_name(&path)) && self.decoded(name).is_none() {
            let bytes = self.bytes(name)?;
            let size = AnimatedImage::size_of(&bytes);
            let size = size.map_err(|error| self.bad_picture(name, &error))?;
            let picture = match u64::from(size[0]) * u64::from(size[1]) {
                // Too large by itself, whatever was before it.
                pixels if pixels > self.limits.pixels => still(&bytes, self.limits),
                pixels => self.within_total(pixels).and_then(|()| still(&bytes, self.limits_now())),
            };
            let (picture, missing) = picture.map_err(|error| self.bad_picture(name, &error))?;
            self.sizes.insert(name.to_owned(), picture.size());
            if let Some(missing) = missing {
                self.missing.insert(name.to_owned(), missing);
            }
            self.put(name, picture);
        }
        let held = self.held.images.get(&path_name(&path)).map(|(_, picture)| picture);
        let missing =
            || self.bad_picture(name, &PixelsError::new("it is not held", "load it again"));
        held.or_else(|| self.decoded(name)).ok_or_else(missing)
    }

    fn decoded(&self, name: &str) -> Option<&Pixels> {
        self.pictures.get(name)?.as_ref()
    }

    fn take(&mut self, name: &str) -> Option<Pixels> {
        self.pictures.get_mut(name)?.take()
    }

    /// Whether a picture is held under a name.
    pub(crate) fn has(&self, name: &str) -> bool {
        self.decoded(name).is_some()
    }

    /// A copy of a picture, to change.
    pub(crate) fn copy_of(&mut self, name: &str) -> Result<Pixels, Problem> {
        let pixels = self.picture(name)?.pixels();
        self.within_total(pixels).map_err(|error| self.bad_picture(name, &error))?;
        self.picture(name).cloned()
    }

    /// A picture to change: the one that was read, where nothing else names it, or a copy.
    pub(crate) fn own_picture(&mut self, name: &str) -> Result<Pixels, Problem> {
        let pixels = self.picture(name)?.pixels();
        let is_alone = name.starts_with('/') || self.uses.get(name) == Some(&1);
        if is_alone && let Some(picture) = self.take(name) {
            self.held.pixels -= pixels;
            return Ok(picture);
        }
        self.within_total(pixels).map_err(|error| self.bad_picture(name, &error))?;
        if let Some(uses) = self.uses.get_mut(name) {
            *uses = uses.saturating_sub(1);
        }
        self.picture(name).cloned()
    }

    /// Several pictures that have been read.
    pub(crate) fn all_of(&self, names: &[String]) -> Vec<&Pixels> {
        let one = |name: &String| match self.held.images.get(&path_name(&self.held_as(name))) {
            Some((_, picture)) => Some(picture),
            None => self.decoded(name),
        };
        names.iter().filter_map(one).collect()
    }

    /// Drops pictures that stand on a sheet now, where nothing else names them.
    pub(crate) fn drop_used(&mut self, names: &[String]) {
        for name in names {
            let Some(uses) = self.uses.get_mut(name) else { continue };
            *uses = uses.saturating_sub(1);
            if *uses == 0
                && let Some(picture) = self.take(name)
            {
                self.held.pixels -= picture.pixels();
            }
        }
    }

    /// A picture that carries timing, taken apart; its frames are to be given back by
    /// [`drop_frames`](Pictures::drop_frames).
    pub(crate) fn animated(&mut self, name: &str) -> Result<AnimatedImage, Problem> {
        let bytes = self.bytes(name)?;
        let (limits, total) = (self.limits_now(), self.limits.total_pixels);
        let image = AnimatedImage::from_bytes_within(&bytes, limits).map_err(|error| {
            // It may be the pictures before it that leave no room.
            let is_full = error.is_too_large() && limits.pixels < self.limits.pixels;
            if is_full { PixelsError::too_many_in_all(total) } else { error }
        });
        let image = image.map_err(|error| self.bad_picture(name, &error))?;
        self.held.pixels += image.frames.iter().map(|(frame, _)| frame.pixels()).sum::<u64>();
        Ok(image)
    }

    pub(crate) fn drop_frames(&mut self, frames: Vec<Pixels>) {
        self.held.pixels -= frames.iter().map(Pixels::pixels).sum::<u64>();
    }

    /// Refuses pixels that the load as a whole does not take.
    fn within_total(&self, pixels: u64) -> Result<(), PixelsError> {
        if self.held.pixels.saturating_add(pixels) > self.limits.total_pixels {
            return Err(PixelsError::too_many_in_all(self.limits.total_pixels));
        }
        Ok(())
    }

    /// The limits for what is read next.
    fn limits_now(&self) -> Limits {
        let left = self.limits.total_pixels.saturating_sub(self.held.pixels);
        Limits { pixels: self.limits.pixels.min(left), ..self.limits }
    }

    /// What a picture lacks that was read all the same.
    pub(crate) fn missing(&self, name: &str) -> Option<&str> {
        self.missing.get(name).map(String::as_str)
    }

    /// Which grid fits a picture, in words.
    pub(crate) fn grid_advice(&mut self, name: &str) -> Option<String> {
        let advice = self.advice?;
        self.picture(name).ok().and_then(advice)
    }

    /// Keeps a picture that was put together, under a name that no path has.
    pub(crate) fn put(&mut self, name: &str, picture: Pixels) {
        self.held.pixels += picture.pixels();
        let before = self.take(name);
        self.held.pixels -= before.map_or(0, |before| before.pixels());
        self.pictures.insert(name.to_owned(), Some(picture));
    }

    /// The pictures whose names match a pattern, in natural order: 2 before 10.
    pub(crate) fn matching(&mut self, pattern: &str) -> Result<Vec<String>, Problem> {
        self.named.insert(pattern.to_owned(), ());
        let found = self.source.matching(pattern)?;
        found.iter().for_each(|name| self.expect(name));
        Ok(found)
    }

    /// How many pixels a picture that is put together may have.
    pub(crate) fn most_pixels(&self) -> u64 {
        self.limits_now().pixels
    }

    fn bytes(&mut self, name: &str) -> Result<Vec<u8>, Problem> {
        self.named.insert(name.to_owned(), ());
        self.source.read(name, self.limits.picture_bytes)
    }

    fn bad_picture(&self, name: &str, error: &PixelsError) -> Problem {
        Problem::new(ProblemSource::Pixels, &self.source.shown(name), error.message(), error.fix())
    }
}

/// A still picture: a PNG, or the first frame of a GIF or WebP, and what it lacks.
fn still(bytes: &[u8], limits: Limits) -> Result<(Pixels, Option<String>), PixelsError> {
    match bytes {
        [b'G', b'I', b'F', ..] | [b'R', b'I', b'F', b'F', ..] => {
            let image = AnimatedImage::from_bytes_within(bytes, limits)?;
            let first = image.frames.into_iter().next().map(|(picture, _)| picture);
            let none = || PixelsError::new("it has no frames", "export it again");
            Ok((first.ok_or_else(none)?, image.missing))
        }
        _ => Ok((Pixels::from_png_within(bytes, limits)?, None)),
    }
}
