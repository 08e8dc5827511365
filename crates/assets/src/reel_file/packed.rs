//! Loose pictures put together into one sheet, in memory.

use lucky_reel_core::{NewFrame, Rect};

use crate::Pixels;
use crate::pixels::PixelsError;

/// Puts pictures side by side, in rows, the highest first; gives the sheet and where each of them stands.
pub(super) fn pack(
    pictures: &[&Pixels],
    most: u64,
) -> Result<(Pixels, Vec<NewFrame>), PixelsError> {
    // One pixel between them, so that smooth scaling does not mix neighbors.
    let room = |nth: usize| pictures[nth].size().map(|side| u64::from(side) + 1);
    let mut order: Vec<usize> = (0..pictures.len()).collect();
    order.sort_by_key(|nth| std::cmp::Reverse(room(*nth)[1]));
    let area: u64 = order.iter().map(|nth| room(*nth)).map(|[width, height]| width * height).sum();
    let widest = order.iter().map(|nth| room(*nth)[0]).max().unwrap_or(1);
    let width = widest.max(area.isqrt());
    let (mut at, mut row, mut end) = ([0, 0], 0, [1, 1]);
    let mut places = vec![[0, 0]; pictures.len()];
    for nth in order {
        let [across, down] = room(nth);
        if at[0] + across > width {
            at = [0, at[1] + row];
            row = 0;
        }
        places[nth] = at;
        row = row.max(down);
        at[0] += across;
        end = [end[0].max(at[0] - 1), end[1].max(at[1] + down - 1)];
    }
    let size = end.map(|side| u32::try_from(side).unwrap_or(u32::MAX));
    let blank = Pixels::new_within(size, most);
    let mut sheet = blank.ok_or_else(|| PixelsError::too_large(size, 1, most))?;
    let mut frames = Vec::with_capacity(pictures.len());
    for (picture, at) in pictures.iter().zip(places) {
        // All of it lies on the sheet, whose sides fit.
        let [x, y] = at.map(|side| side as u32);
        sheet.copy_from(picture, [x, y]);
        frames.push(NewFrame::at(Rect::new(x, y, picture.size()[0], picture.size()[1])));
    }
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
