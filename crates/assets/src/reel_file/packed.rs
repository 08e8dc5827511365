//! Loose pictures put together into one sheet, in memory.

use lucky_reel_core::{NewFrame, Rect};

use crate::Pixels;
use crate::packing::{self, Packing};
use crate::pixels::PixelsError;

/// Puts pictures side by side, in rows, or packs them where they are not of one size; gives the sheet
/// and where each of them stands.
pub(super) fn pack(
    pictures: &[&Pixels],
    most: u64,
) -> Result<(Pixels, Vec<NewFrame>), PixelsError> {
    if pictures.windows(2).any(|pair| pair[0].size() != pair[1].size()) {
        let packing = Packing::default();
        let packed = packing::pack_borrowed(pictures, packing, most)?;
        return Ok((packed.sheet, packed.places.into_iter().map(NewFrame::at).collect()));
    }
    let largest = pictures.iter().fold([1, 1], |[width, height], picture| {
        let size = picture.size();
        [width.max(size[0]), height.max(size[1])]
    });
    // Nearly as many rows as columns.
    let columns = (1_u32..).find(|n| u64::from(*n).pow(2) >= pictures.len() as u64).unwrap_or(1);
    let rows = (pictures.len() as u32).div_ceil(columns).max(1);
    // One pixel between them, so that smooth scaling does not mix neighbors.
    let step = largest.map(|side| side.saturating_add(1));
    let size = [step[0].saturating_mul(columns) - 1, step[1].saturating_mul(rows) - 1];
    let blank = Pixels::new_within(size, most);
    let mut sheet = blank.ok_or_else(|| PixelsError::too_large(size, 1, most))?;
    let frames = (0_u32..).zip(pictures).map(|(nth, picture)| {
        let [x, y] = [nth % columns * step[0], nth / columns * step[1]];
        sheet.copy_from(picture, [x, y]);
        NewFrame::at(Rect::new(x, y, picture.size()[0], picture.size()[1]))
    });
    let frames = frames.collect();
    Ok((sheet, frames))
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        /// Every picture is found again where its frame says, and no two overlap.
        #[test]
        fn packed_pictures_are_found_again(sizes in prop::collection::vec([1_u32..9, 1_u32..9], 1..12)) {
            let pictures: Vec<Pixels> = (1_u8..).zip(&sizes).map(|(shade, size)| {
                let mut picture = Pixels::new(*size).unwrap();
                picture.rgba_mut().fill(shade);
                picture
            }).collect();
            let pictures: Vec<&Pixels> = pictures.iter().collect();
            let (sheet, frames) = pack(&pictures, 1 << 20).unwrap();
            let count = |shade: u8| sheet.rgba().iter().filter(|byte| **byte == shade).count();
            prop_assert_eq!(frames.len(), pictures.len());
            for (shade, picture) in (1..).zip(&pictures) {
                prop_assert_eq!(count(shade), picture.rgba().len());
            }
            prop_assert!(pack(&pictures, 0).is_err());
            // Little is wasted, however unlike the sizes are.
            let area: usize = sizes.iter().map(|[width, height]| ((width + 1) * (height + 1)) as usize).sum();
            let [width, height] = sheet.size();
            prop_assert!((width * height) as usize <= 2 * area + 200, "{width} x {height} for {area}");
        }
    }

    /// One large picture among many small ones takes no room for each.
    #[test]
    fn unlike_sizes_are_packed() {
        let sizes = [[500, 400]].into_iter().chain((0..100).map(|_| [10, 12]));
        let pictures: Vec<Pixels> = sizes
            .zip(1_u32..)
            .map(|(size, nth)| {
                let mut picture = Pixels::new(size).unwrap();
                picture
                    .rgba_mut()
                    .iter_mut()
                    .zip((0..nth).cycle())
                    .for_each(|(to, from)| *to = from as u8);
                picture
            })
            .collect();
        let pictures: Vec<&Pixels> = pictures.iter().collect();
        let (sheet, frames) = pack(&pictures, 1 << 20).unwrap();
        assert!(sheet.rgba().len() / 4 < 260_000, "{:?}", sheet.size());
        for (frame, picture) in frames.iter().zip(&pictures) {
            let source = frame.source();
            let same = |x, y| sheet.pixel([source.x + x, source.y + y]) == picture.pixel([x, y]);
            assert!((0..source.height).all(|y| (0..source.width).all(|x| same(x, y))));
        }
    }
}
