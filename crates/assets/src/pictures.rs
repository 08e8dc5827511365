//! The pictures that a reel file names, each read once, and how much of them is taken in.

use std::collections::BTreeMap;
use std::path::PathBuf;

use crate::Picture;
use crate::picture::{MOST_PIXELS, PictureError, PngHeader};
use crate::problem::{Problem, Responsible};
use crate::source::Source;

/// How much a loader takes in before it refuses. Everything is checked before memory is taken.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub struct Limits {
    /// Bytes of one reel file: 4 MiB.
    pub reel_bytes: u64,
    /// Bytes of one picture file: 256 MiB.
    pub picture_bytes: u64,
    /// Pixels of one picture: 67,108,864, which take 256 MiB.
    pub pixels: u64,
}

impl Default for Limits {
    fn default() -> Limits {
        Limits { reel_bytes: 4 << 20, picture_bytes: 256 << 20, pixels: MOST_PIXELS }
    }
}

/// Pictures by their paths, each read once.
pub(crate) struct Pictures<'s, 'r> {
    source: &'s mut Source<'r>,
    limits: Limits,
    keep_pixels: bool,
    pictures: BTreeMap<String, Picture>,
    headers: BTreeMap<String, [u32; 2]>,
}

impl<'s, 'r> Pictures<'s, 'r> {
    pub(crate) fn new(source: &'s mut Source<'r>, limits: Limits, keep_pixels: bool) -> Self {
        let (pictures, headers) = (BTreeMap::new(), BTreeMap::new());
        Pictures { source, limits, keep_pixels, pictures, headers }
    }

    /// The pixels of a picture, where they are kept.
    pub(crate) fn take(&self, name: &str) -> Option<Picture> {
        self.pictures.get(name).filter(|_| self.keep_pixels).cloned()
    }

    /// Width and height of a picture, without decoding it if its pixels are not wanted.
    pub(crate) fn size(&mut self, name: &str) -> Result<[u32; 2], Problem> {
        if self.keep_pixels {
            return self.picture(name).map(Picture::size);
        }
        if let Some(size) = self.headers.get(name) {
            return Ok(*size);
        }
        let bytes = self.source.read(name, self.limits.picture_bytes)?;
        let size = PngHeader::read(&bytes).map_err(|error| self.bad_picture(name, &error))?.size;
        self.headers.insert(name.to_owned(), size);
        Ok(size)
    }

    /// The pixels of a picture.
    pub(crate) fn picture(&mut self, name: &str) -> Result<&Picture, Problem> {
        if !self.pictures.contains_key(name) {
            let bytes = self.source.read(name, self.limits.picture_bytes)?;
            let picture = Picture::from_png_within(&bytes, self.limits.pixels)
                .map_err(|error| self.bad_picture(name, &error))?;
            self.pictures.insert(name.to_owned(), picture);
        }
        Ok(&self.pictures[name])
    }

    fn bad_picture(&self, name: &str, error: &PictureError) -> Problem {
        let path = match &self.source {
            Source::Folder(folder) => folder.join(name),
            Source::Function(_) => PathBuf::from(name),
        };
        Problem::new(Responsible::Picture, &path, error.what(), error.remedy())
    }
}
