//! Facing sets, and the clips that are others mirrored.

use alloc::format;
use alloc::string::String;
use alloc::vec::Vec;

use super::{Fault, Refuse};
use crate::clip::ClipData;
use crate::facing::{Facing, FacingSet, NewFacing, NewFacings};
use crate::ids::{ClipId, MarkId, NONE};
use crate::reel::names::ReelNames;
use crate::reel::{ReelBuilder, ReelData};

pub(super) fn compile(builder: &ReelBuilder, data: &mut ReelData, faults: &mut Vec<Fault>) {
    // Clips are named while sets are read.
    let mut names = data.names.clone();
    for (id, new) in builder.facings.iter().enumerate() {
        let mut refuse = Refuse::new("facings", &names.facings, id, faults);
        let set = new.as_ref().and_then(|new| {
            let made = (&mut data.clips, &mut data.mirrors);
            compile_set(new, builder, made, &mut names, &mut refuse)
        });
        data.facings.push(set);
    }
    data.names = names;
}

fn compile_set(
    new: &NewFacings,
    builder: &ReelBuilder,
    (clips, mirrors): (&mut Vec<Option<ClipData>>, &mut Vec<(ClipId, ClipId)>),
    names: &mut ReelNames,
    refuse: &mut Refuse<'_>,
) -> Option<FacingSet> {
    let role = refuse.role.clone();
    let given = |names: &ReelNames, name: &str| {
        let id = names.clips.find_alive(&role, name);
        id.filter(|id| builder.clips.get(usize::from(*id)).is_some_and(Option::is_some))
    };
    let mut of: [Option<ClipId>; 8] = [None; 8];
    let mut sound = true;
    for (facing, new) in &new.of {
        if let NewFacing::Clip(name) = new {
            of[*facing as usize] = given(names, name).map(|id| ClipId::new(names.family, id));
            if of[*facing as usize].is_none() {
                refuse.say_unknown(facing.name(), None, "clip", name, &names.clips);
                sound = false;
            }
        }
    }
    for (facing, mirror) in &new.of {
        let NewFacing::Mirror { of: base, swap } = mirror else { continue };
        let key = format!("{}.mirror", facing.name());
        let own = format!("{}-{}", refuse.name, facing.name());
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
                let problem = format!("the set has no clip of its own for `{}`", base.name());
                refuse.say(&key, None, problem, "mirror a facing that has one");
                sound = false;
            }
            continue;
        };
        let swapped = swap_marks(swap, facing.name(), names, refuse);
        let id = names.clips.add(&role, &own)?;
        // A clip at fault has told so itself.
        let mirrored = clips
            .get(base_clip.index())
            .cloned()
            .flatten()
            .map(|base| mirrored(base, &swapped.unwrap_or_default(), names));
        if clips.len() <= usize::from(id) {
            clips.resize_with(usize::from(id) + 1, || None);
        }
        clips[usize::from(id)] = mirrored;
        let id = ClipId::new(names.family, id);
        mirrors.push((id, base_clip));
        of[*facing as usize] = Some(id);
    }
    if of.iter().all(Option::is_none) {
        if sound {
            let remedy = "give it one, such as down = \"walk-down\"";
            refuse.say("", None, String::from("the set has no clip for any facing"), remedy);
        }
        return None;
    }
    let clips = Facing::ALL.map(|facing| {
        let nearest = facing.nearest_first().into_iter().find_map(|near| of[near as usize]);
        nearest.unwrap_or(ClipId::new(names.family, NONE))
    });
    let own = Facing::ALL.into_iter().filter(|facing| of[*facing as usize].is_some());
    let own = own.fold(0, |bits, facing| bits | 1 << facing as u8);
    Some(FacingSet { clips, own, align: new.align })
}

/// Pairs of marks that change places.
fn swap_marks(
    swap: &[(String, String)],
    facing: &str,
    names: &ReelNames,
    refuse: &mut Refuse<'_>,
) -> Option<Vec<(MarkId, MarkId)>> {
    let mut pairs = Vec::new();
    for (one, other) in swap {
        let mut find = |name: &str| {
            let id = names.marks.find(&refuse.role, name);
            if id.is_none() {
                let key = format!("{facing}.swap");
                refuse.say_unknown(&key, None, "mark", name, &names.marks);
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
    let name = |mark: MarkId| names.marks.get(mark.index()).map(|name| &*name.name);
    for (_, mark) in &mut clip.marks {
        let pair = swap.iter().find(|(one, other)| one == mark || other == mark);
        if let Some((one, other)) = pair {
            *mark = if mark == one { *other } else { *one };
        }
    }
    clip.marks.sort_by(|a, b| (a.0, name(a.1)).cmp(&(b.0, name(b.1))));
    clip
}
