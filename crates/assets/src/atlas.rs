//! The frames of all files on as few images as fit.

use std::collections::HashMap;
use std::hash::{BuildHasher, RandomState};
use std::path::Path;

use lucky_reel_core::{ImageId, Rect};

use crate::limits::Limits;
use crate::packing::{Layout, Packing};
use crate::pixels::PixelsError;
use crate::problem::{Problem, ProblemSource};
use crate::{Art, Pixels};

/// How frames are put onto pages, and where they are: for [`Loader::into_atlas`](crate::Loader::into_atlas).
///
/// Frames that are alike are stored once. Give the same pages to the next loader: what has not changed stays
/// where it is, an edited frame takes the place of the one before, and pages on which nothing changed
/// are equal to the last ones, pixel by pixel. If there is no room left for a frame, all of them are laid
/// out anew.
#[derive(Clone, Debug)]
pub struct Atlas {
    packing: Packing,
    known: Option<Layout>,
}

/// The largest side of a page, unless said otherwise: what every graphics card takes.
const SIDE: u32 = 2_048;

impl Default for Atlas {
    fn default() -> Atlas {
        Atlas::with(Packing { max_side: SIDE, ..Packing::default() })
    }
}

impl Atlas {
    /// Images of 2,048 x 2,048 pixels at most, with one pixel between frames.
    #[must_use]
    pub fn new() -> Atlas {
        Atlas::default()
    }

    /// Images with these settings: the largest side, padding between frames, edges repeated around them, sides
    /// that are powers of two.
    #[must_use]
    pub fn with(packing: Packing) -> Atlas {
        Atlas { packing, known: None }
    }

    /// Puts all frames of some art onto pages, within limits.
    pub(crate) fn put(&mut self, art: Art, limits: Limits) -> Result<Art, Problem> {
        let refuse = |what: &str, fix: &str| {
            let what = format!("the art does not fit onto pages: {what}");
            Problem::new(ProblemSource::Limit, Path::new(""), what, fix)
        };
        // The art, its frames, the pages that are kept, and those that are handed out.
        let pixels: u64 = art.images.iter().map(Pixels::pixels).sum();
        if pixels.saturating_mul(4) > limits.total_pixels {
            let error = PixelsError::too_many_in_all(limits.total_pixels / 4);
            return Err(refuse(error.message(), error.fix()));
        }
        let contents = Contents::of(&art);
        let pictures: Vec<&Pixels> = contents.pictures.iter().collect();
        let kept = self.known.take().and_then(|known| known.with(&pictures));
        let mut layout = match kept {
            Some(layout) => layout,
            None => Layout::new(&pictures, self.packing, limits.pixels)
                .map_err(|error| refuse(error.message(), error.fix()))?,
        };
        let sizes: Vec<[u32; 2]> = layout.pages.iter().map(Pixels::size).collect();
        let reel = art.reel.with_images(&sizes, |_, frame| {
            let content = contents.of_source(frame.image, frame.source);
            content.and_then(|content| layout.places.get(content).copied()).unwrap_or_default()
        });
        let reel = reel
            .ok_or_else(|| refuse("there are more than 65,536 of them", "choose larger pages"))?;
        let images = layout.pages.clone();
        layout.remember(contents.pictures);
        self.known = Some(layout);
        Ok(Art { reel, images, ..art })
    }
}

/// What frames show: each picture once.
struct Contents {
    pictures: Vec<Pixels>,
    of_source: HashMap<(ImageId, Rect), usize>,
}

impl Contents {
    fn of(art: &Art) -> Contents {
        let mut contents = Contents { pictures: Vec::new(), of_source: HashMap::new() };
        let (hashes, mut known) = (RandomState::new(), HashMap::<u64, Vec<usize>>::new());
        for (_, frame) in art.reel.frames() {
            let key = (frame.image, frame.source);
            let Some(image) = art.image(frame.image) else { continue };
            if contents.of_source.contains_key(&key) {
                continue;
            }
            let Some(pixels) = image.part(frame.source) else { continue };
            let same = known.entry(hashes.hash_one(&pixels)).or_default();
            let content = same.iter().copied().find(|nth| contents.pictures[*nth] == pixels);
            let content = content.unwrap_or_else(|| {
                same.push(contents.pictures.len());
                contents.pictures.push(pixels);
                contents.pictures.len() - 1
            });
            contents.of_source.insert(key, content);
        }
        contents
    }

    fn of_source(&self, image: ImageId, source: Rect) -> Option<usize> {
        self.of_source.get(&(image, source)).copied()
    }
}
