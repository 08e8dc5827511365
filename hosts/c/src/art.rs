//! Reel files in.

use std::ffi::c_char;

use lucky_reel::Reel;
use lucky_reel::assets::{Art, Loader};

use crate::from_c::{self, free, given, list, text};
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
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_art_load(
    paths: *const *const c_char,
    count: usize,
    out: *mut *mut LuckyArt,
) -> LuckyStatus {
    load(paths, count, None, out)
}

/// Loads the next version of a reel: names that survive keep their ids, and players go on where they are.
/// `art` stays as it is.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_art_reload(
    art: *const LuckyArt,
    paths: *const *const c_char,
    count: usize,
    out: *mut *mut LuckyArt,
) -> LuckyStatus {
    load(paths, count, Some(art), out)
}

unsafe fn load(
    paths: *const *const c_char,
    count: usize,
    before: Option<*const LuckyArt>,
    out: *mut *mut LuckyArt,
) -> LuckyStatus {
    done(|| {
        let out = from_c::out(out)?;
        let mut loader = Loader::new();
        for path in list(paths, count)? {
            loader = loader.file(text(*path)?);
        }
        let loaded = match before {
            Some(before) => loader.reload(given(before)?.reel()),
            None => loader.load(),
        };
        let art = loaded.map_err(|error| Problem(LuckyStatus::Load, error.to_string()))?;
        out.give(LuckyArt(art));
        Ok(())
    })
}

/// Ends art.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_art_free(art: *mut LuckyArt) -> LuckyStatus {
    done(|| free(art))
}

/// How many images there are.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_art_image_count(art: *const LuckyArt, out: *mut u32) -> LuckyStatus {
    done(|| {
        from_c::out(out)?.write(given(art)?.0.images.len() as u32);
        Ok(())
    })
}

/// The pixels of an image, by its index from 0.
#[unsafe(no_mangle)]
pub unsafe extern "C" fn lucky_art_image(
    art: *const LuckyArt,
    image: u32,
    out: *mut LuckyImage,
) -> LuckyStatus {
    done(|| {
        let pixels = given(art)?.0.images.get(image as usize);
        let pixels = pixels.ok_or_else(|| Problem::unknown("the reel has no such image"))?;
        let [width, height] = pixels.size();
        from_c::out(out)?.write(LuckyImage { rgba: pixels.rgba().as_ptr(), width, height });
        Ok(())
    })
}
