//! Points and areas: names on the frames of a sheet.

use alloc::collections::BTreeMap;
use alloc::vec::Vec;
use core::ops::Bound;

use super::Refuse;
use super::sheet::Drawings;
use crate::ids::{AreaId, PointId};
use crate::reel::name_check::check_name;
use crate::reel::names::Names;
use crate::reel::new_sheet::NewArea;
use crate::reel::{Key, NewSheet, ProblemKind, SheetData};
use crate::sheet::in_halves;

/// By frame and name.
type ByFrame<Id, Place> = BTreeMap<u32, BTreeMap<Id, Place>>;

impl Drawings {
    pub(super) fn add_points(
        &mut self,
        sheet: &NewSheet,
        cut: SheetData,
        names: &mut Names,
        refuse: &mut Refuse<'_>,
    ) -> Option<()> {
        let mut by_frame: ByFrame<PointId, [i32; 2]> = BTreeMap::new();
        for point in &sheet.points {
            let key = Key::Point(point.name.clone(), point.frame);
            let problem = match (check_name(&point.name), in_halves(point.at)) {
                (Err(bad), _) => Some(ProblemKind::Name(bad)),
                _ if point.frame >= cut.frames => Some(no_frame(point.frame, cut)),
                (_, None) => Some(ProblemKind::OffPixels("point")),
                (Ok(()), Some(at)) => {
                    let id = PointId::new(names.family, names.add(refuse.role(), &point.name)?);
                    by_frame.entry(point.frame).or_default().insert(id, at);
                    None
                }
            };
            if let Some(problem) = problem {
                refuse.say(key, None, problem);
                return None;
            }
        }
        for (frame, points) in by_frame {
            let frame = &mut self.frames[(cut.first_frame + frame) as usize];
            frame.points = append(&mut self.points, points)?;
        }
        Some(())
    }

    pub(super) fn add_areas(
        &mut self,
        sheet: &NewSheet,
        cut: SheetData,
        names: &mut Names,
        refuse: &mut Refuse<'_>,
    ) -> Option<()> {
        let mut by_frame: ByFrame<AreaId, [i32; 4]> = BTreeMap::new();
        let mut given: BTreeMap<&str, usize> = BTreeMap::new();
        for area in &sheet.areas {
            let nth = given.entry(&area.name).or_default();
            let (key, index) = (Key::Area(area.name.clone()), *nth);
            *nth += 1;
            match read_area(area, cut) {
                Ok((frames, at)) => {
                    let id = AreaId::new(names.family, names.add(refuse.role(), &area.name)?);
                    for frame in frames {
                        by_frame.entry(frame).or_default().insert(id, at);
                    }
                }
                Err(problem) => {
                    refuse.say(key, Some(index), problem);
                    return None;
                }
            }
        }
        for (frame, areas) in by_frame {
            let frame = &mut self.frames[(cut.first_frame + frame) as usize];
            frame.areas = append(&mut self.areas, areas)?;
        }
        Some(())
    }
}

/// The frames and the rectangle of an area, in half pixels.
fn read_area(
    area: &NewArea,
    cut: SheetData,
) -> Result<(core::ops::RangeInclusive<u32>, [i32; 4]), ProblemKind> {
    check_name(&area.name).map_err(ProblemKind::Name)?;
    let first = match area.frames.0 {
        Bound::Included(first) => Some(first),
        Bound::Excluded(before) => before.checked_add(1),
        Bound::Unbounded => Some(0),
    };
    let last = match area.frames.1 {
        Bound::Included(last) => Some(last),
        Bound::Excluded(end) => end.checked_sub(1),
        Bound::Unbounded => Some(cut.frames - 1),
    };
    let (Some(first), Some(last)) = (first, last) else {
        return Err(ProblemKind::Empty("area is on no frame"));
    };
    if first.max(last) >= cut.frames {
        return Err(no_frame(first.max(last), cut));
    }
    if first > last {
        return Err(ProblemKind::Empty("area is on no frame"));
    }
    let [x, y, width, height] = area.at;
    match (in_halves([x, y]), in_halves([width, height])) {
        (Some([x, y]), Some([width, height])) if width.min(height) >= 0 => {
            Ok((first..=last, [x, y, width, height]))
        }
        _ => Err(ProblemKind::OffPixels("rectangle")),
    }
}

fn no_frame(frame: u32, cut: SheetData) -> ProblemKind {
    ProblemKind::NoFrame { sheet: Default::default(), frame, count: cut.frames }
}

/// Adds what one frame has, and gives where it stands.
fn append<T>(list: &mut Vec<T>, of_frame: impl IntoIterator<Item = T>) -> Option<(u32, u16)> {
    let start = list.len();
    list.extend(of_frame);
    Some((u32::try_from(start).ok()?, u16::try_from(list.len() - start).ok()?))
}
