//! Points and areas: names on the frames of a sheet. One name is one id in all roles, so that a game asks for `body`
//! whoever it is.

use alloc::vec::Vec;
use core::ops::Bound;

use super::Refuse;
use super::sheet::Drawings;
use crate::ids::{AreaId, PointId};
use crate::order::by_number;
use crate::reel::name_check::check_name;
use crate::reel::name_table::Names;
use crate::reel::new_sheet::NewArea;
use crate::reel::{Key, NewSheet, ProblemKind, SheetData};
use crate::sheet::in_halves;

impl Drawings {
    pub(super) fn add_points(
        &mut self,
        sheet: &NewSheet,
        cut: SheetData,
        names: &mut Names,
        refuse: &mut Refuse<'_>,
    ) -> Option<()> {
        let mut places: Vec<(u32, PointId, [i32; 2])> = Vec::new();
        for point in &sheet.points {
            let key = Key::Point(point.name.clone(), point.frame);
            let problem = match (check_name(&point.name), in_halves(point.at)) {
                (Err(bad), _) => Some(ProblemKind::Name(bad)),
                _ if point.frame >= cut.frames => Some(no_frame(point.frame, cut)),
                (_, None) => Some(ProblemKind::OffPixels),
                (Ok(()), Some(at)) => {
                    let id = PointId::new(names.family, names.add("", &point.name)?);
                    places.push((point.frame, id, at));
                    None
                }
            };
            if let Some(problem) = problem {
                refuse.say(key, None, problem);
                return None;
            }
        }
        for of_frame in by_frame(places, |id| id.index()).chunk_by(|a, b| a.0 == b.0) {
            let frame = &mut self.frames[(cut.first_frame + of_frame[0].0) as usize];
            frame.points = append(&mut self.points, of_frame)?;
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
        let mut places: Vec<(u32, AreaId, [i32; 4])> = Vec::new();
        for (nth, area) in sheet.areas.iter().enumerate() {
            match read_area(area, cut) {
                Ok((frames, at)) => {
                    let id = AreaId::new(names.family, names.add("", &area.name)?);
                    for frame in frames {
                        places.push((frame, id, at));
                    }
                }
                Err(problem) => {
                    let before = sheet.areas[..nth].iter();
                    let index = before.filter(|known| known.name == area.name).count();
                    refuse.say(Key::Area(area.name.clone()), Some(index), problem);
                    return None;
                }
            }
        }
        for of_frame in by_frame(places, |id| id.index()).chunk_by(|a, b| a.0 == b.0) {
            let frame = &mut self.frames[(cut.first_frame + of_frame[0].0) as usize];
            frame.areas = append(&mut self.areas, of_frame)?;
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
        return Err(ProblemKind::Empty);
    };
    if first.max(last) >= cut.frames {
        return Err(no_frame(first.max(last), cut));
    }
    if first > last {
        return Err(ProblemKind::Empty);
    }
    let [x, y, width, height] = area.at;
    match (in_halves([x, y]), in_halves([width, height])) {
        (Some([x, y]), Some([width, height])) if width.min(height) >= 0 => {
            Ok((first..=last, [x, y, width, height]))
        }
        _ => Err(ProblemKind::OffPixels),
    }
}

fn no_frame(frame: u32, cut: SheetData) -> ProblemKind {
    ProblemKind::NoFrame { sheet: Default::default(), frame, count: cut.frames }
}

/// Places by frame and name; of those that share both, the last.
fn by_frame<Id: Copy, P>(
    places: Vec<(u32, Id, P)>,
    number: impl Fn(Id) -> usize,
) -> Vec<(u32, Id, P)> {
    let key = |(frame, id, _): &(u32, Id, P)| u64::from(*frame) << 32 | number(*id) as u64;
    let mut places = by_number(places, key);
    places.reverse();
    places.dedup_by_key(|place| key(place));
    places.reverse();
    places
}

/// Adds what one frame has, and gives where it stands.
fn append<Id: Copy, P: Copy>(
    list: &mut Vec<(Id, P)>,
    of_frame: &[(u32, Id, P)],
) -> Option<(u32, u16)> {
    let start = list.len();
    list.extend(of_frame.iter().map(|(_, id, place)| (*id, *place)));
    Some((u32::try_from(start).ok()?, u16::try_from(list.len() - start).ok()?))
}
