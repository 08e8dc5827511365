//! Reel files in.

use std::ffi::c_char;
use std::mem::MaybeUninit;

use lucky_reel::Reel;
use lucky_reel::assets::{Art, Loader};

use crate::from_c::{given, list, text};
use crate::status::{LuckyStatus, Problem, done};

/// A reel with its images.
pub struct LuckyArt(Art);

impl LuckyArt {
    pub(crate) fn reel(&self) -> &Reel {
        &self.0.reel
    }
}

/// An image: `height` rows of `width` pixels, four bytes each, red, green, blue and alpha; sRGB, and the
/// colors are not multiplied by alpha.
#[repr(C)]
pub struct LuckyImage {
    /// It belongs to the art, and is there as long as that is.
    pub rgba: *const u8,
    /// In pixels.
    pub width: u32,
    /// In pixels.
    pub height: u32,
}

/// Loads reel files and their images into one reel. What is wrong with them is in the problem, with lines.
///
/// # Safety
/// As the header says; there are `count` paths.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_art_load(
    paths: *const *const c_char,
    count: usize,
    out: Option<&mut MaybeUninit<Option<Box<LuckyArt>>>>,
) -> LuckyStatus {
    // SAFETY: the header asks for the same.
    unsafe { load(paths, count, None, out) }
}

/// Loads the next version of a reel: names that survive keep their ids, and players go on where they are.
/// `art` stays as it is.
///
/// # Safety
/// As the header says; there are `count` paths.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_art_reload(
    art: Option<&LuckyArt>,
    paths: *const *const c_char,
    count: usize,
    out: Option<&mut MaybeUninit<Option<Box<LuckyArt>>>>,
) -> LuckyStatus {
    // SAFETY: the header asks for the same.
    unsafe { load(paths, count, Some(art), out) }
}

/// # Safety
/// There are so many paths.
unsafe fn load(
    paths: *const *const c_char,
    count: usize,
    before: Option<Option<&LuckyArt>>,
    out: Option<&mut MaybeUninit<Option<Box<LuckyArt>>>>,
) -> LuckyStatus {
    done(|| {
        let out = given(out)?;
        let mut loader = Loader::new();
        // SAFETY: asked of the caller.
        for path in unsafe { list(paths, count) }? {
            // SAFETY: the header asks for texts.
            loader = loader.file(unsafe { text(*path) }?);
        }
        let loaded = match before {
            Some(before) => loader.reload(given(before)?.reel()),
            None => loader.load(),
        };
        let art = loaded.map_err(|error| Problem(LuckyStatus::Load, error.to_string()))?;
        out.write(Some(Box::new(LuckyArt(art))));
        Ok(())
    })
}

/// Ends art.
#[unsafe(no_mangle)]
pub extern "C" fn lucky_art_free(art: Option<Box<LuckyArt>>) {
    drop(art);
}

/// How many images there are.
#[unsafe(no_mangle)]
pub extern "C" fn lucky_art_image_count(
    art: Option<&LuckyArt>,
    out: Option<&mut MaybeUninit<u32>>,
) -> LuckyStatus {
    done(|| {
        given(out)?.write(given(art)?.0.images.len() as u32);
        Ok(())
    })
}

/// The pixels of an image, by its index from 0.
#[unsafe(no_mangle)]
pub extern "C" fn lucky_art_image(
    art: Option<&LuckyArt>,
    image: u32,
    out: Option<&mut MaybeUninit<LuckyImage>>,
) -> LuckyStatus {
    done(|| {
        let pixels = given(art)?.0.images.get(image as usize);
        let pixels = pixels.ok_or_else(|| Problem::unknown("the reel has no such image"))?;
        let [width, height] = pixels.size();
        given(out)?.write(LuckyImage { rgba: pixels.rgba().as_ptr(), width, height });
        Ok(())
    })
}
