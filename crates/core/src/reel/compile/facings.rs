//! Facing sets, and the clips that are others mirrored.

use alloc::format;
use alloc::string::{String, ToString};
use alloc::vec::Vec;

use super::report::{CLIP, MARK};
use super::{Refuse, Report, none, put};
use crate::clip::{ClipData, EVERY_HOLD};
use crate::facing::{Facing, FacingSetData, NewFacing, NewFacings};
use crate::ids::{ClipId, MarkId, NONE};
use crate::order::{by_number, by_text};
use crate::reel::name_table::ReelNames;
use crate::reel::{Key, ProblemKind, ReelBuilder, ReelData, Section};

pub(super) fn compile(builder: &ReelBuilder, data: &mut ReelData, report: &mut Report) {
    // Clips are named while sets are read.
    let mut names = data.names.clone();
    let mut given = alloc::vec![false; names.clips.len()];
    for clip in &builder.clips {
        given[usize::from(clip.id)] = true;
    }
    data.facings = none(names.facings.len());
    for (nth, added) in builder.facings.iter().enumerate() {
        let mut refuse = report.on(Section::Facings, nth, added);
        let made = (&mut data.clips, &mut data.mirrors);
        let set = compile_set(&added.new, &given, made, &mut names, &mut refuse);
        put(&mut data.facings, added.id, set);
    }
    data.names = names;
}

fn compile_set(
    new: &NewFacings,
    given: &[bool],
    (clips, mirrors): (&mut Vec<Option<ClipData>>, &mut Vec<(ClipId, ClipId)>),
    names: &mut ReelNames,
    refuse: &mut Refuse<'_>,
) -> Option<FacingSetData> {
    let role = refuse.role().to_string();
    let given = |names: &ReelNames, name: &str| {
        names.clips.find_alive(&role, name).filter(|id| given.get(usize::from(*id)) == Some(&true))
    };
    let mut of: [Option<ClipId>; 8] = [None; 8];
    let mut sound = true;
    for (facing, new) in &new.of {
        if let NewFacing::Clip(name) = new {
            of[*facing as usize] = given(names, name).map(|id| ClipId::new(names.family, id));
            if of[*facing as usize].is_none() {
                refuse.say_unknown(Key::Facing(*facing), None, CLIP, name, &names.clips);
                sound = false;
            }
        }
    }
    for (facing, mirror) in &new.of {
        let NewFacing::Mirror { of: base, swap } = mirror else { continue };
        let own = format!("{}-{}", refuse.name(), facing.name());
        // Art of its own comes before a mirror.
        if let Some(own) = given(names, &own) {
            of[*facing as usize] = Some(ClipId::new(names.family, own));
            continue;
        }
        let has_clip = |(facing, new): &(Facing, NewFacing)| {
            facing == base && matches!(new, NewFacing::Clip(_))
        };
        let Some(base_clip) = of[*base as usize].filter(|_| new.of.iter().any(has_clip)) else {
            if sound {
                refuse.say(Key::Mirror(*facing), None, ProblemKind::NothingToMirror(*base));
                sound = false;
            }
            continue;
        };
        let swapped = swap_marks(swap, *facing, names, refuse);
        let id = names.clips.add(&role, &own)?;
        // A broken clip is reported on its own.
        let mirrored = clips
            .get(base_clip.index())
            .cloned()
            .flatten()
            .map(|base| mirrored(base, &swapped.unwrap_or_default(), names));
        put(clips, id, mirrored);
        let id = ClipId::new(names.family, id);
        mirrors.push((id, base_clip));
        of[*facing as usize] = Some(id);
    }
    if of.iter().all(Option::is_none) {
        if sound && !refuse.is_incomplete() {
            refuse.say(None, None, ProblemKind::Empty);
        }
        return None;
    }
    let clips = Facing::ALL.map(|facing| {
        let nearest = facing.nearest_first().into_iter().find_map(|near| of[near as usize]);
        nearest.unwrap_or(ClipId::new(names.family, NONE))
    });
    let own = Facing::ALL.into_iter().filter(|facing| of[*facing as usize].is_some());
    let own = own.fold(0, |bits, facing| bits | 1 << facing as u8);
    Some(FacingSetData { clips, own, align: new.align })
}

/// Pairs of marks that change places.
fn swap_marks(
    swap: &[(String, String)],
    facing: Facing,
    names: &ReelNames,
    refuse: &mut Refuse<'_>,
) -> Option<Vec<(MarkId, MarkId)>> {
    let mut pairs = Vec::new();
    for (one, other) in swap {
        let mut find = |name: &str| {
            let id = names.marks.find(refuse.role(), name);
            if id.is_none() {
                refuse.say_unknown(Key::Swap(facing), None, MARK, name, &names.marks);
            }
            id.map(|id| MarkId::new(names.family, id))
        };
        pairs.push((find(one)?, find(other)?));
    }
    Some(pairs)
}

/// The same clip seen in a mirror; the mirrored right foot is the left one.
fn mirrored(mut clip: ClipData, swap: &[(MarkId, MarkId)], names: &ReelNames) -> ClipData {
    clip.mirrored = !clip.mirrored;
    let name = |mark: MarkId| names.marks.get(mark.index()).map_or("", |name| &*name.name);
    for (_, mark) in &mut clip.marks {
        let pair = swap.iter().find(|(one, other)| one == mark || other == mark);
        if let Some((one, other)) = pair {
            *mark = if mark == one { *other } else { *one };
        }
    }
    // What a mark carries goes with its name, and what it carries on one hold stays on that hold.
    for datum in clip.data.iter_mut().filter(|datum| datum.hold != EVERY_HOLD) {
        let pair = swap.iter().find(|(a, b)| [a.number, b.number].contains(&datum.mark));
        if let Some((one, other)) = pair {
            datum.mark = if datum.mark == one.number { other.number } else { one.number };
        }
    }
    clip.data.sort_unstable();
    let marks = clip.marks.iter().map(|(hold, mark)| (*hold, name(*mark), *mark)).collect();
    let marks = by_number(by_text(marks, |(_, name, _)| name), |(hold, ..)| u64::from(*hold));
    clip.marks = marks.into_iter().map(|(hold, _, mark)| (hold, mark)).collect();
    clip
}
