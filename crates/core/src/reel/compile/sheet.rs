//! Sheets: images cut into frames.

use alloc::vec::Vec;

use super::{Refuse, none, put};
use crate::ids::{AreaId, FrameId, ImageId, PointId, SheetId};
use crate::order::NumberMap;
use crate::reel::builder::Added;
use crate::reel::new_sheet::Cut;
use crate::reel::{Key, NewFrame, NewSheet, ProblemKind, ReelData, ReelNames, SheetData};
use crate::sheet::{Frame, Pivot, Rect};

/// Frames, images, points and areas as sheets, clips and looks add to them.
pub(super) struct Drawings {
    pub(super) frames: Vec<Frame>,
    images: Vec<[u32; 2]>,
    pub(super) points: Vec<(PointId, [i32; 2])>,
    pub(super) areas: Vec<(AreaId, [i32; 4])>,
    pub(super) sheets: Vec<Option<SheetData>>,
    /// Whether each frame has a pivot of its own.
    own_pivots: Vec<bool>,
    /// Frames on other pivots, and those that they are copies of.
    pub(super) copies: Vec<(FrameId, FrameId)>,
}

impl Drawings {
    pub(super) fn new(sheets: usize) -> Drawings {
        Drawings {
            frames: Vec::new(),
            images: Vec::new(),
            points: Vec::new(),
            areas: Vec::new(),
            sheets: none(sheets),
            own_pivots: Vec::new(),
            copies: Vec::new(),
        }
    }

    pub(super) fn hand_over(self, data: &mut ReelData) {
        data.frames = self.frames;
        data.images = self.images;
        data.points = self.points;
        data.areas = self.areas;
        data.sheets = self.sheets;
    }

    /// Cuts one more sheet.
    pub(super) fn add(
        &mut self,
        sheet: &Added<NewSheet>,
        names: &mut ReelNames,
        refuse: &mut Refuse<'_>,
    ) {
        let cut = self.cut(&sheet.new, names, refuse);
        let cut = cut.filter(|_| !refuse.is_incomplete());
        put(&mut self.sheets, sheet.id, cut);
    }

    fn cut(
        &mut self,
        sheet: &NewSheet,
        names: &mut ReelNames,
        refuse: &mut Refuse<'_>,
    ) -> Option<SheetData> {
        let cut = match &sheet.cut {
            Cut::Frames(frames) => frames.clone(),
            Cut::Grid(grid) => {
                let cells = grid.cells(sheet.image).map_err(|error| {
                    refuse.say(Key::Grid(error.key), None, ProblemKind::Grid(error));
                });
                cells.ok()?.into_iter().map(NewFrame::at).collect()
            }
        };
        if cut.is_empty() {
            if !refuse.is_incomplete() {
                refuse.say(Key::Frames, None, ProblemKind::Empty);
            }
            return None;
        }
        let image = match sheet.shares.and_then(|other| self.image_of(other, sheet.image)) {
            Some(shared) => shared,
            None => {
                self.images.push(sheet.image);
                ImageId(u16::try_from(self.images.len() - 1).ok()?)
            }
        };
        let first = u32::try_from(self.frames.len()).ok()?;
        for (index, new) in cut.iter().enumerate() {
            let one = matches!(sheet.cut, Cut::Frames(_)).then_some(index);
            let frame = compile_frame(new, sheet, image, index as u32, one, refuse)?;
            self.frames.push(frame);
            self.own_pivots.push(new.pivot.is_some());
        }
        let cut = SheetData { first_frame: first, frames: cut.len() as u32 };
        self.add_points(sheet, cut, &mut names.points, refuse)?;
        self.add_areas(sheet, cut, &mut names.areas, refuse)?;
        Some(cut)
    }

    /// The image of another sheet, where it is of the same size.
    fn image_of(&self, sheet: SheetId, size: [u32; 2]) -> Option<ImageId> {
        let first = self.sheets.get(sheet.index()).copied().flatten()?.first_frame;
        let image = self.frames.get(first as usize)?.image;
        (self.images.get(image.index()) == Some(&size)).then_some(image)
    }

    /// The same frame on another pivot: for clips that have one of their own. A frame that has its
    /// own keeps that.
    pub(super) fn on_pivot(
        &mut self,
        frame: FrameId,
        pivot: Pivot,
        known: &mut NumberMap,
    ) -> Option<FrameId> {
        let base = self.frames[frame.index()];
        if self.own_pivots[frame.index()] {
            return Some(frame);
        }
        let pivot = pivot.in_halves(base.size)?;
        let key = [u64::from(frame.0), 0, 0];
        if let Some(copy) = known.get(key) {
            return Some(FrameId(copy));
        }
        let copy = self.copy(Frame { pivot, ..base })?;
        self.copies.push((copy, frame));
        known.insert(key, copy.0);
        Some(copy)
    }

    /// One more frame, which is of no sheet.
    pub(super) fn copy(&mut self, frame: Frame) -> Option<FrameId> {
        let copy = FrameId(u32::try_from(self.frames.len()).ok()?);
        self.frames.push(frame);
        self.own_pivots.push(true);
        Some(copy)
    }
}

/// A frame; `one` is its number where it was given alone, and so is at fault alone.
fn compile_frame(
    new: &NewFrame,
    sheet: &NewSheet,
    image: ImageId,
    index: u32,
    one: Option<usize>,
    refuse: &mut Refuse<'_>,
) -> Option<Frame> {
    let source = new.source;
    if source.width == 0 || source.height == 0 || !Rect::fits(sheet.image, source) {
        refuse.say(Key::Frames, one, ProblemKind::OutsideImage(index, sheet.image));
        return None;
    }
    let whole = Rect::new(new.shift[0], new.shift[1], source.width, source.height);
    let shift = new.shift.map(i32::try_from);
    let ([Ok(x), Ok(y)], true) = (shift, Rect::fits(new.size, whole)) else {
        refuse.say(Key::Frames, one, ProblemKind::OutsideUntrimmed(index));
        return None;
    };
    let Some(pivot) = new.pivot.unwrap_or(sheet.pivot).in_halves(new.size) else {
        refuse.say(Key::Pivot, one, ProblemKind::OffPixels);
        return None;
    };
    Some(Frame {
        image,
        source,
        size: new.size,
        shift: [x, y],
        pivot,
        index,
        points: (0, 0),
        areas: (0, 0),
    })
}
