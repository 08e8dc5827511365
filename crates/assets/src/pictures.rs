//! The pictures that a reel file names, each read once.

use std::collections::{BTreeMap, BTreeSet};
use std::path::PathBuf;

use crate::Pixmap;
use crate::animated::AnimatedImage;
use crate::limits::Limits;
use crate::pixmap::PixmapError;
use crate::problem::{Problem, ProblemSource};
use crate::source::Source;

/// Says in words which grid fits an image by its pixels, if it can tell.
pub type GridAdvice = fn(&Pixmap) -> Option<String>;

/// Pictures by their paths, each read once.
pub(crate) struct Pictures<'s, 'r> {
    source: &'s mut Source<'r>,
    limits: Limits,
    keep_pixels: bool,
    pictures: BTreeMap<String, Pixmap>,
    headers: BTreeMap<String, [u32; 2]>,
    /// What pictures lack that were read all the same.
    missing: BTreeMap<String, String>,
    /// The paths and patterns that were asked for, whether or not there is such a file.
    named: BTreeSet<String>,
    pub(crate) advice: Option<GridAdvice>,
}

impl<'s, 'r> Pictures<'s, 'r> {
    pub(crate) fn new(source: &'s mut Source<'r>, limits: Limits, keep_pixels: bool) -> Self {
        let (pictures, headers, missing) = (BTreeMap::new(), BTreeMap::new(), BTreeMap::new());
        let named = BTreeSet::new();
        Pictures { source, limits, keep_pixels, pictures, headers, missing, named, advice: None }
    }

    /// The file of a picture; `None` where a function reads it, or where it was put together.
    pub(crate) fn path_of(&self, name: &str) -> Option<PathBuf> {
        match &self.source {
            Source::Folder(folder) if !name.starts_with('/') => Some(folder.join(name)),
            _ => None,
        }
    }

    /// The pixels of a picture, where they are kept.
    pub(crate) fn take(&self, name: &str) -> Option<Pixmap> {
        self.pictures.get(name).filter(|_| self.keep_pixels).cloned()
    }

    /// Width and height of a picture, without decoding it if its pixels are not wanted.
    pub(crate) fn size(&mut self, name: &str) -> Result<[u32; 2], Problem> {
        if self.keep_pixels {
            return self.picture(name).map(Pixmap::size);
        }
        if let Some(size) = self.headers.get(name) {
            return Ok(*size);
        }
        let bytes = self.bytes(name)?;
        let size =
            AnimatedImage::size_of(&bytes).map_err(|error| self.bad_picture(name, &error))?;
        self.headers.insert(name.to_owned(), size);
        Ok(size)
    }

    /// The pixels of a picture.
    pub(crate) fn picture(&mut self, name: &str) -> Result<&Pixmap, Problem> {
        if !self.pictures.contains_key(name) {
            let bytes = self.bytes(name)?;
            let still = still(&bytes, self.limits);
            let (picture, missing) = still.map_err(|error| self.bad_picture(name, &error))?;
            self.pictures.insert(name.to_owned(), picture);
            self.missing.extend(missing.map(|missing| (name.to_owned(), missing)));
        }
        Ok(&self.pictures[name])
    }

    /// A picture that carries timing, taken apart.
    pub(crate) fn animated(&mut self, name: &str) -> Result<AnimatedImage, Problem> {
        let bytes = self.bytes(name)?;
        let image = AnimatedImage::from_bytes_within(&bytes, self.limits);
        image.map_err(|error| self.bad_picture(name, &error))
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
    pub(crate) fn put(&mut self, name: &str, picture: Pixmap) {
        self.pictures.insert(name.to_owned(), picture);
    }

    /// The pictures whose names match a pattern, in natural order: 2 before 10.
    pub(crate) fn matching(&mut self, pattern: &str) -> Result<Vec<String>, Problem> {
        self.named.insert(pattern.to_owned());
        self.source.matching(pattern)
    }

    /// How many pixels one picture may have.
    pub(crate) fn most_pixels(&self) -> u64 {
        self.limits.pixels
    }

    /// The paths and patterns that were asked for.
    pub(crate) fn into_named(self) -> BTreeSet<String> {
        self.named
    }

    fn bytes(&mut self, name: &str) -> Result<Vec<u8>, Problem> {
        self.named.insert(name.to_owned());
        self.source.read(name, self.limits.picture_bytes)
    }

    fn bad_picture(&self, name: &str, error: &PixmapError) -> Problem {
        let path = match &self.source {
            Source::Folder(folder) => folder.join(name),
            Source::Function(_) => PathBuf::from(name),
        };
        Problem::new(ProblemSource::Pixmap, &path, error.message(), error.fix())
    }
}

/// A still picture: a PNG, or the first frame of a GIF or WebP, and what it lacks.
fn still(bytes: &[u8], limits: Limits) -> Result<(Pixmap, Option<String>), PixmapError> {
    match bytes {
        [b'G', b'I', b'F', ..] | [b'R', b'I', b'F', b'F', ..] => {
            let image = AnimatedImage::from_bytes_within(bytes, limits)?;
            let first = image.frames.into_iter().next().map(|(picture, _)| picture);
            let none = || PixmapError::new("it has no frames", "export it again");
            Ok((first.ok_or_else(none)?, image.missing))
        }
        _ => Ok((Pixmap::from_png_within(bytes, limits)?, None)),
    }
}
