//! Where pictures are on pages.

use std::collections::{BTreeMap, HashMap, HashSet};

use lucky_reel_core::Rect;
use rectangle_pack::{
    GroupedRectsToPlace, RectToInsert, TargetBin, contains_smallest_box, pack_rects,
    volume_heuristic,
};

use super::Packing;
use crate::Pixels;
use crate::pixels::PixelsError;

/// The largest side of a page, and the most that is left free or repeated around a picture.
pub(super) const LARGEST: u32 = 16_384;

/// A page, and the left top pixel of a picture on it.
type Place = (usize, [u32; 2]);

/// What pages may be.
#[derive(Clone, Copy, Debug)]
struct Rules {
    packing: Packing,
    /// The most pixels of one page.
    most: u64,
}

/// Images with pictures on them.
#[derive(Clone, Debug)]
pub(crate) struct Layout {
    rules: Rules,
    pub(crate) pages: Vec<Pixels>,
    /// The place of each picture.
    pub(crate) places: Vec<Place>,
    /// What is left free on each page.
    free: BTreeMap<usize, TargetBin>,
    /// What is where, if that was [remembered](Layout::remember).
    taken: HashMap<Pixels, Place>,
    /// Places of pictures that are gone, by their size.
    holes: HashMap<[u32; 2], Vec<Place>>,
}

impl Layout {
    /// Puts pictures onto as few pages of at most `most` pixels as fit.
    ///
    /// # Errors
    /// When a picture is larger than a page, or a page would have too many pixels.
    pub(crate) fn new(
        pictures: &[&Pixels],
        packing: Packing,
        most: u64,
    ) -> Result<Layout, PixelsError> {
        let sizes: Vec<[u32; 2]> = pictures.iter().map(|picture| picture.size()).collect();
        let (rules, free, found) = arrange(&sizes, packing, most)?;
        let (pages, places) = (Vec::new(), Vec::new());
        let (taken, holes) = (HashMap::new(), HashMap::new());
        let layout = Layout { rules, pages, places, free, taken, holes };
        layout.filled(pictures, found, &HashSet::new()).ok_or_else(|| {
            let what = format!("a page would have more than {most} pixels");
            PixelsError::new(what, "choose smaller pages, or raise the limit on pixels")
        })
    }

    /// The same pages with other pictures: those that are there already stay, others take places that have
    /// become free. `None` where there is no room for all.
    pub(crate) fn with(mut self, pictures: &[&Pixels]) -> Option<Layout> {
        let wanted: HashMap<&Pixels, usize> = pictures.iter().copied().zip(0..).collect();
        let mut found: HashMap<usize, Place> = HashMap::new();
        for (picture, place) in std::mem::take(&mut self.taken) {
            match wanted.get(&picture) {
                Some(nth) => _ = found.insert(*nth, place),
                None => self.holes.entry(picture.size()).or_default().push(place),
            }
        }
        let kept: HashSet<usize> = found.keys().copied().collect();
        // The same edit takes the same place on every machine.
        self.holes.values_mut().for_each(|places| places.sort_unstable_by(|a, b| b.cmp(a)));
        let mut left: Vec<usize> = Vec::new();
        for (nth, picture) in pictures.iter().enumerate() {
            if kept.contains(&nth) {
                continue;
            }
            match self.holes.get_mut(&picture.size()).and_then(Vec::pop) {
                Some(place) => _ = found.insert(nth, place),
                None => left.push(nth),
            }
        }
        let sizes: Vec<[u32; 2]> = pictures.iter().map(|picture| picture.size()).collect();
        found.extend(self.rules.find(&sizes, &left, &mut self.free)?);
        self.filled(pictures, found, &kept)
    }

    /// Draws pictures at their places, but for those that are there already; pages grow to what lies on
    /// them. `None` above the limit.
    fn filled(
        mut self,
        pictures: &[&Pixels],
        found: HashMap<usize, Place>,
        kept: &HashSet<usize>,
    ) -> Option<Layout> {
        let Rules { packing, most } = self.rules;
        let mut ends: BTreeMap<usize, [u32; 2]> = BTreeMap::new();
        for (nth, (page, at)) in &found {
            let of_picture = pictures.get(*nth)?.size();
            let end = ends.entry(*page).or_insert([1, 1]);
            *end = [0, 1].map(|axis| end[axis].max(at[axis] + of_picture[axis] + packing.extrude));
        }
        for (page, end) in ends {
            self.pages.resize_with(self.pages.len().max(page + 1), Pixels::default);
            let before = &mut self.pages[page];
            let rounded = |side: u32| match packing.power_of_two {
                true => side.next_power_of_two().min(packing.max_side.max(side)),
                false => side,
            };
            let now = [0, 1].map(|axis| rounded(end[axis]).max(before.size()[axis]));
            if now != before.size() {
                let mut larger = Pixels::new_within(now, most)?;
                larger.copy_from(before, [0, 0]);
                *before = larger;
            }
        }
        self.places =
            (0..pictures.len()).map(|nth| found.get(&nth).copied()).collect::<Option<_>>()?;
        for (nth, (picture, (page, [x, y]))) in pictures.iter().zip(&self.places).enumerate() {
            if kept.contains(&nth) {
                continue;
            }
            let [width, height] = picture.size();
            let place = Rect::new(*x, *y, width, height);
            lay(self.pages.get_mut(*page)?, picture, place, packing.extrude);
        }
        Some(self)
    }

    /// Keeps the pictures that were laid out, so that those that stay the same stay where they are.
    pub(crate) fn remember(&mut self, pictures: Vec<Pixels>) {
        self.taken = pictures.into_iter().zip(self.places.iter().copied()).collect();
    }
}

/// Whether images of these sizes fit into one sheet, whatever is drawn on them.
#[must_use]
pub fn fits(sizes: &[[u32; 2]], packing: Packing) -> bool {
    arrange(sizes, packing, u64::MAX).is_ok_and(|(_, free, _)| free.len() == 1)
}

/// Rules, what is left free on each page, and where each picture lies.
type Arranged = (Rules, BTreeMap<usize, TargetBin>, HashMap<usize, Place>);

/// Finds places on as few pages as fit, for pictures of these sizes.
fn arrange(sizes: &[[u32; 2]], packing: Packing, most: u64) -> Result<Arranged, PixelsError> {
    let Packing { padding, extrude, power_of_two, max_side } = packing;
    let (padding, extrude) = (padding.min(LARGEST), extrude.min(LARGEST));
    let size = max_side.clamp(1, LARGEST);
    let packing = Packing { padding, extrude, power_of_two, max_side: size };
    let rules = Rules { packing, most };
    for &[width, height] in sizes {
        if u64::from(width.max(height)) + 2 * u64::from(extrude) > u64::from(size) {
            let what = format!("{width} x {height} px do not fit onto {size} x {size} px");
            let fix = "allow larger sides, or cut it into smaller frames";
            return Err(PixelsError::new(what, fix));
        }
    }
    let all: Vec<usize> = (0..sizes.len()).collect();
    // What is left free beside the last picture of a row may lie outside of the page.
    let bound = size + padding;
    let room = |side: u32| u64::from(side).pow(2);
    let area: u64 = sizes.iter().map(|size| rules.room_of(*size)).sum();
    // One page that is as small as will do, or else as many of full size as are needed.
    let mut side = (1..=bound).find(|side| room(*side) >= area).unwrap_or(bound);
    let mut count = usize::try_from(area.div_ceil(room(bound)).max(1)).unwrap_or(usize::MAX);
    loop {
        let bin = match (count, power_of_two) {
            (1, true) => side.next_power_of_two().min(bound),
            (1, false) => side,
            _ => bound,
        };
        let bins = (0..count).map(|page| (page, TargetBin::new(bin, bin, 1)));
        let mut free = bins.collect();
        if let Some(found) = rules.find(sizes, &all, &mut free) {
            return Ok((rules, free, found));
        }
        if count == 1 && side < bound {
            side = (side + side.div_ceil(10)).min(bound);
        } else {
            count += 1;
        }
    }
}

impl Rules {
    /// How wide and high the room is that a picture takes.
    fn outer(self, size: [u32; 2]) -> [u32; 2] {
        let around = self.packing.extrude.saturating_mul(2).saturating_add(self.packing.padding);
        size.map(|side| side.saturating_add(around).max(1))
    }

    fn room_of(self, size: [u32; 2]) -> u64 {
        let [width, height] = self.outer(size);
        u64::from(width) * u64::from(height)
    }

    /// Finds places for some pictures in what is free.
    fn find(
        self,
        sizes: &[[u32; 2]],
        some: &[usize],
        free: &mut BTreeMap<usize, TargetBin>,
    ) -> Option<HashMap<usize, Place>> {
        let mut rects: GroupedRectsToPlace<usize, ()> = GroupedRectsToPlace::new();
        for nth in some {
            let [width, height] = self.outer(*sizes.get(*nth)?);
            rects.push_rect(*nth, None, RectToInsert::new(width, height, 1));
        }
        let placed = pack_rects(&rects, free, &volume_heuristic, &contains_smallest_box).ok()?;
        let places = placed.packed_locations().iter().map(|(nth, (page, place))| {
            (*nth, (*page, [place.x(), place.y()].map(|side| side + self.packing.extrude)))
        });
        Some(places.collect())
    }
}

/// Lays a picture into its place, its edge repeated around it.
fn lay(sheet: &mut Pixels, picture: &Pixels, place: Rect, extend: u32) {
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
