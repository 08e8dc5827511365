//! Pixels to the page, and what to copy from them.

use lucky_reel::assets::{Art, Pixels};
use lucky_reel::view::Blit;
use wasm_bindgen::Clamped;
use wasm_bindgen::prelude::*;

/// An image as `ImageData` takes it: straight alpha, four bytes a pixel.
#[wasm_bindgen(getter_with_clone)]
pub struct Image {
    /// In pixels.
    pub width: u32,
    /// Row by row from the top left.
    pub rgba: Clamped<Vec<u8>>,
}

impl Image {
    pub(crate) fn all(art: &Art) -> Vec<Image> {
        let image = |pixels: &Pixels| Image {
            width: pixels.size()[0],
            rgba: Clamped(pixels.rgba().to_vec()),
        };
        art.images.iter().map(image).collect()
    }
}

/// The numbers of a copy: see [`Greenhouse::draw`](crate::Greenhouse::draw).
pub(crate) fn copy(blit: &Blit) -> [i32; 8] {
    let [image, x, y, width, height] = [
        blit.image.index() as u32,
        blit.source.x,
        blit.source.y,
        blit.source.width,
        blit.source.height,
    ]
    .map(|number| number as i32);
    let flips = i32::from(blit.flips.x) + 2 * i32::from(blit.flips.y);
    [image, x, y, width, height, blit.at[0], blit.at[1], flips]
}
