//! Sheets: images cut into frames.

use alloc::collections::BTreeMap;
use alloc::format;
use alloc::string::ToString;
use alloc::vec::Vec;

use super::Refuse;
use crate::ids::{FrameId, ImageId, PointId, SheetId};
use crate::reel::names::{Names, fault_of_name};
use crate::reel::new_sheet::Cut;
use crate::reel::{NewFrame, NewSheet, ReelData, SheetData};
use crate::sheet::{Frame, Pivot, Rect, in_halves};

/// Frames, images and points as sheets, clips and looks add to them.
#[derive(Default)]
pub(super) struct Drawings {
    pub(super) frames: Vec<Frame>,
    images: Vec<[u32; 2]>,
    points: Vec<(PointId, [i32; 2])>,
    pub(super) sheets: Vec<Option<SheetData>>,
    /// Whether each frame has a pivot of its own.
    own_pivots: Vec<bool>,
    /// Frames on other pivots, and those that they are copies of.
    pub(super) copies: Vec<(FrameId, FrameId)>,
}

impl Drawings {
    pub(super) fn hand_over(self, data: &mut ReelData) {
        data.frames = self.frames;
        data.images = self.images;
        data.points = self.points;
        data.sheets = self.sheets;
    }

    /// Cuts one more sheet.
    pub(super) fn add(
        &mut self,
        sheet: Option<&NewSheet>,
        point_names: &mut Names,
        refuse: &mut Refuse<'_>,
    ) {
        let cut = sheet.and_then(|sheet| self.cut(sheet, point_names, refuse));
        self.sheets.push(cut);
    }

    fn cut(
        &mut self,
        sheet: &NewSheet,
        point_names: &mut Names,
        refuse: &mut Refuse<'_>,
    ) -> Option<SheetData> {
        let cut = match &sheet.cut {
            Cut::Frames(frames) => frames.clone(),
            Cut::Grid(grid) => {
                let cells = grid.cut(sheet.image).map_err(|error| {
                    let key = format!("grid.{}", error.key());
                    refuse.say(&key, None, error.problem(), error.remedy());
                });
                cells.ok()?.into_iter().map(NewFrame::at).collect()
            }
        };
        if cut.is_empty() {
            refuse.say("frames", None, "the sheet has no frames".to_string(), "give it one");
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
        self.add_points(sheet, cut, point_names, refuse)?;
        Some(cut)
    }

    /// The image of another sheet, where it is of the same size.
    fn image_of(&self, sheet: SheetId, size: [u32; 2]) -> Option<ImageId> {
        let first = self.sheets.get(sheet.index()).copied().flatten()?.first_frame;
        let image = self.frames.get(first as usize)?.image;
        (self.images.get(image.index()) == Some(&size)).then_some(image)
    }

    fn add_points(
        &mut self,
        sheet: &NewSheet,
        cut: SheetData,
        names: &mut Names,
        refuse: &mut Refuse<'_>,
    ) -> Option<()> {
        let mut by_frame: BTreeMap<u32, BTreeMap<PointId, [i32; 2]>> = BTreeMap::new();
        for point in &sheet.points {
            let key = format!("points.{}", point.name);
            if let Some((problem, remedy)) = fault_of_name(&point.name) {
                refuse.say(&key, None, problem.to_string(), remedy);
                return None;
            }
            if point.frame >= cut.frames {
                let problem = format!("the sheet has no frame {}", point.frame);
                let remedy = format!("its frames are 0 to {}", cut.frames - 1);
                refuse.say(&format!("{key}.{}", point.frame), None, problem, remedy);
                return None;
            }
            let Some(at) = in_halves(point.at) else {
                let problem = "a point lies on whole or half pixels within 1,000,000".to_string();
                let remedy = "give it such as [24, 12] or [24.5, 12]";
                refuse.say(&format!("{key}.{}", point.frame), None, problem, remedy);
                return None;
            };
            let id = PointId::new(names.family, names.add(&refuse.role, &point.name)?);
            by_frame.entry(point.frame).or_default().insert(id, at);
        }
        for (frame, points) in by_frame {
            let start = self.points.len() as u32;
            let count = u16::try_from(points.len()).ok()?;
            self.points.extend(points);
            self.frames[(cut.first_frame + frame) as usize].points = (start, count);
        }
        Some(())
    }

    /// The same frame on another pivot: for clips that have one of their own. A frame that has its
    /// own keeps that.
    pub(super) fn on_pivot(
        &mut self,
        frame: FrameId,
        pivot: Pivot,
        known: &mut BTreeMap<FrameId, FrameId>,
    ) -> Option<FrameId> {
        let base = self.frames[frame.index()];
        if self.own_pivots[frame.index()] {
            return Some(frame);
        }
        let pivot = pivot.in_halves(base.size)?;
        if let Some(copy) = known.get(&frame) {
            return Some(*copy);
        }
        let copy = self.copy(Frame { pivot, ..base })?;
        self.copies.push((copy, frame));
        known.insert(frame, copy);
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
    let (source, [width, height]) = (new.source, sheet.image);
    if source.width == 0 || source.height == 0 || !Rect::fits(sheet.image, source) {
        let problem = format!("frame {index} is not a part of the image");
        let remedy = format!("keep it within the image's {width} x {height} px");
        refuse.say("frames", one, problem, remedy);
        return None;
    }
    let whole = Rect::new(new.shift[0], new.shift[1], source.width, source.height);
    let shift = new.shift.map(i32::try_from);
    let ([Ok(x), Ok(y)], true) = (shift, Rect::fits(new.size, whole)) else {
        let problem =
            format!("what is left of frame {index} does not lie within its untrimmed size");
        refuse.say("frames", one, problem, "check the untrimmed size and the shift");
        return None;
    };
    let Some(pivot) = new.pivot.unwrap_or(sheet.pivot).in_halves(new.size) else {
        refuse.say("pivot", one, OFF_PIXELS.to_string(), ON_PIXELS);
        return None;
    };
    Some(Frame { image, source, size: new.size, shift: [x, y], pivot, index, points: (0, 0) })
}

pub(super) const OFF_PIXELS: &str = "a pivot lies on whole or half pixels within 1,000,000";
pub(super) const ON_PIXELS: &str = "give it such as [16, 30] or [15.5, 30]";
