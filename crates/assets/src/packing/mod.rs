//! Pictures packed into one sheet.

mod layout;

pub use layout::fits;

use std::borrow::Borrow;
use std::collections::HashMap;

use lucky_reel_core::Rect;

use crate::Pixels;
use crate::pixels::PixelsError;
pub(crate) use layout::Layout;

/// Settings for packing images into a sheet.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub struct Packing {
    /// Pixels left free between two pictures.
    pub padding: u32,
    /// How far the edge of each picture is repeated around it, against bleeding.
    pub extrude: u32,
    /// Whether the sheet's sides are rounded up to powers of two, as far as the largest side allows.
    pub power_of_two: bool,
    /// The largest side of the sheet, in pixels; 16,384 at most.
    pub max_side: u32,
}

impl Default for Packing {
    fn default() -> Packing {
        Packing { padding: 1, extrude: 0, power_of_two: false, max_side: layout::LARGEST }
    }
}

/// A packed sheet.
#[derive(Clone, Debug)]
pub struct PackedSheet {
    /// The sheet.
    pub sheet: Pixels,
    /// Where each frame stands in it; pictures that are alike stand in the same place.
    pub places: Vec<Rect>,
}

/// Packs images into one sheet of at most `most` pixels; equal images are stored once.
///
/// # Errors
/// When there are none, or they do not fit into `most` pixels or the largest sides.
///
/// ```
/// use lucky_reel_assets::Pixels;
/// use lucky_reel_assets::packing::{Packing, pack};
///
/// let picture = Pixels::new([10, 20]).unwrap();
/// let packed = pack(&[picture.clone(), picture], Packing::default(), 1 << 20)?;
/// assert_eq!(packed.places[0], packed.places[1]);
/// # Ok::<(), lucky_reel_assets::PixelsError>(())
/// ```
pub fn pack<P: Borrow<Pixels>>(
    pictures: &[P],
    packing: Packing,
    most: u64,
) -> Result<PackedSheet, PixelsError> {
    pack_borrowed(&pictures.iter().map(Borrow::borrow).collect::<Vec<_>>(), packing, most)
}

/// Like [`pack`].
pub(crate) fn pack_borrowed(
    pictures: &[&Pixels],
    packing: Packing,
    most: u64,
) -> Result<PackedSheet, PixelsError> {
    if pictures.is_empty() {
        return Err(PixelsError::new("there are no pictures", "name some"));
    }
    let mut nth_of: HashMap<&Pixels, usize> = HashMap::new();
    let mut unlike: Vec<&Pixels> = Vec::new();
    for &picture in pictures {
        nth_of.entry(picture).or_insert_with(|| {
            unlike.push(picture);
            unlike.len() - 1
        });
    }
    let mut layout = Layout::new(&unlike, packing, most)?;
    let (Some(sheet), true) = (layout.pages.pop(), layout.pages.is_empty()) else {
        return Err(PixelsError::new("they do not fit into one sheet", "pack fewer of them"));
    };
    let places = pictures.iter().map(|picture| {
        let (_, [x, y]) = layout.places[nth_of[picture]];
        Rect::new(x, y, picture.size()[0], picture.size()[1])
    });
    Ok(PackedSheet { sheet, places: places.collect() })
}
