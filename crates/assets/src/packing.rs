//! Pictures packed into one sheet.

use std::collections::BTreeMap;

use lucky_reel_core::Rect;
use rectangle_pack::{
    GroupedRectsToPlace, RectToInsert, TargetBin, contains_smallest_box, pack_rects,
    volume_heuristic,
};

use crate::Pixmap;
use crate::pixmap::PixmapError;

/// Settings for packing images into a sheet.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub struct Packing {
    /// Pixels left free between two pictures.
    pub padding: u32,
    /// How far the edge of each picture is repeated around it, against bleeding.
    pub extrude: u32,
    /// Whether the sheet's sides are rounded up to powers of two.
    pub power_of_two: bool,
    /// The largest side of the sheet, in pixels; 16,384 at most.
    pub max_side: u32,
}

impl Default for Packing {
    fn default() -> Packing {
        Packing { padding: 1, extrude: 0, power_of_two: false, max_side: LARGEST }
    }
}

/// A packed sheet.
#[derive(Clone, Debug)]
pub struct Packed {
    /// The sheet.
    pub sheet: Pixmap,
    /// Where each frame stands in it; pictures that are alike stand in the same place.
    pub places: Vec<Rect>,
}

/// The largest side of a sheet.
pub(crate) const LARGEST: u32 = 16_384;

/// Packs images into one sheet of at most `most` pixels; equal images are stored once.
///
/// # Errors
/// When there are none, or they do not fit into `most` pixels or the largest sides.
///
/// ```
/// use lucky_reel_assets::Pixmap;
/// use lucky_reel_assets::packing::{Packing, pack};
///
/// let picture = Pixmap::new([10, 20]).unwrap();
/// let packed = pack(&[picture.clone(), picture], Packing::default(), 1 << 20)?;
/// assert_eq!(packed.places[0], packed.places[1]);
/// # Ok::<(), lucky_reel_assets::PixmapError>(())
/// ```
pub fn pack(pictures: &[Pixmap], packing: Packing, most: u64) -> Result<Packed, PixmapError> {
    if pictures.is_empty() {
        return Err(PixmapError::new("there are no pictures", "name some"));
    }
    // The first of those that are alike stands for all.
    let first_of: Vec<usize> = pictures
        .iter()
        .map(|picture| pictures.iter().position(|other| other == picture).unwrap_or_default())
        .collect();
    let around = packing.extrude.saturating_mul(2).saturating_add(packing.padding);
    let mut rects: GroupedRectsToPlace<usize, ()> = GroupedRectsToPlace::new();
    let mut area = 0_u64;
    for index in 0..pictures.len() {
        if first_of[index] == index {
            let [width, height] = pictures[index].size().map(|side| side.saturating_add(around));
            area += u64::from(width) * u64::from(height);
            rects.push_rect(index, None, RectToInsert::new(width.max(1), height.max(1), 1));
        }
    }
    let (size, corners) = place(&rects, area, packing)
        .ok_or_else(|| PixmapError::new("they do not fit into one sheet", "pack fewer of them"))?;
    let sheet = Pixmap::new_within(size, most);
    let mut sheet = sheet.ok_or_else(|| PixmapError::too_large(size, 1, most))?;
    let places: Vec<Rect> = (first_of.iter())
        .map(|first| {
            let [x, y] = corners.get(first).copied().unwrap_or_default();
            let [width, height] = pictures[*first].size();
            Rect::new(x + packing.extrude, y + packing.extrude, width, height)
        })
        .collect();
    for (index, place) in places.iter().enumerate().filter(|(index, _)| first_of[*index] == *index)
    {
        lay(&mut sheet, &pictures[index], *place, packing.extrude);
    }
    Ok(Packed { sheet, places })
}

type Corners = BTreeMap<usize, [u32; 2]>;

/// The smallest sheet, of sides that grow, into which everything fits.
fn place(
    rects: &GroupedRectsToPlace<usize, ()>,
    area: u64,
    packing: Packing,
) -> Option<([u32; 2], Corners)> {
    // What is left free beside the last picture of a row may lie outside of the sheet.
    let largest = packing.max_side.clamp(1, LARGEST).saturating_add(packing.padding);
    let mut side = (1_u32..=largest).find(|side| u64::from(*side).pow(2) >= area)?;
    loop {
        let bound = if packing.power_of_two { side.next_power_of_two().min(largest) } else { side };
        let mut bins = BTreeMap::from([((), TargetBin::new(bound, bound, 1))]);
        let placed = pack_rects(rects, &mut bins, &volume_heuristic, &contains_smallest_box);
        if let Ok(packed) = placed {
            let corners: Corners = packed
                .packed_locations()
                .iter()
                .map(|(index, (_, place))| (*index, [place.x(), place.y()]))
                .collect();
            let ends = packed
                .packed_locations()
                .values()
                .map(|(_, place)| [place.x() + place.width(), place.y() + place.height()]);
            // What is left free at the right and below is cut off.
            let used = ends.fold([1, 1], |[w, h], [x, y]| [w.max(x), h.max(y)]);
            let used = used.map(|side| side.saturating_sub(packing.padding).max(1));
            let rounded = |side: u32| side.next_power_of_two().min(packing.max_side.max(side));
            let size = if packing.power_of_two { used.map(rounded) } else { used };
            return Some((size, corners));
        }
        if side >= largest {
            return None;
        }
        side = (side + side.div_ceil(10)).min(largest);
    }
}

/// Lays a picture into its place, its edge repeated around it.
pub(crate) fn lay(sheet: &mut Pixmap, picture: &Pixmap, place: Rect, extend: u32) {
    let [width, height] = picture.size();
    if width == 0 || height == 0 {
        return;
    }
    for y in 0..height + 2 * extend {
        for x in 0..width + 2 * extend {
            let from =
                [x.saturating_sub(extend).min(width - 1), y.saturating_sub(extend).min(height - 1)];
            sheet.set_pixel([place.x - extend + x, place.y - extend + y], picture.pixel(from));
        }
    }
}
