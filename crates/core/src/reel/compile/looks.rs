//! Looks: other pictures for the same playback.

use alloc::string::{String, ToString};
use alloc::vec::Vec;

use super::report::CLIP;
use super::sheet::Drawings;
use super::{Refuse, Report, none, put};
use crate::facing::Facing;
use crate::ids::{ClipId, FrameId, SheetId};
use crate::new_look::{LookData, NewLook};
use crate::order::by_number;
use crate::reel::{Key, ProblemKind, ReelBuilder, ReelData, Section, SheetData};
use crate::sheet::Frame;

pub(super) fn compile(
    builder: &ReelBuilder,
    data: &mut ReelData,
    drawings: &mut Drawings,
    report: &mut Report,
) {
    data.looks = none(data.names.looks.len());
    for (nth, added) in builder.looks.iter().enumerate() {
        let mut refuse = report.on(Section::Looks, nth, added);
        let mut look = LookData::default();
        add_clips(&added.new, data, &mut look, &mut refuse);
        add_sheets(&added.new, data, drawings, &mut look, &mut refuse);
        put(&mut data.looks, added.id, Some(look));
    }
}

fn add_clips(new: &NewLook, data: &ReelData, look: &mut LookData, refuse: &mut Refuse<'_>) {
    let names = &data.names.clips;
    for LookPair { said, base, other } in pairs(new, data, refuse) {
        let key = Key::LookClip(said.clone());
        let (base, other) = (&base, &other);
        let mut find = |name: &str| {
            let found = names.find_alive(refuse.role(), name);
            if found.is_none() {
                refuse.say_unknown(key.clone(), None, CLIP, name, names);
            }
            found.map(|id| ClipId::new(names.family, id))
        };
        let (Some(base_id), Some(other_id)) = (find(base), find(other)) else { continue };
        let clip = |id: ClipId| data.clips.get(id.index())?.as_ref();
        // A broken clip is reported on its own.
        let (Some(base_data), Some(other_data)) = (clip(base_id), clip(other_id)) else { continue };
        let (wanted, count) = (base_data.holds.len(), other_data.holds.len());
        if wanted != count {
            let (other, base) = ((other.clone(), count), (base.clone(), wanted));
            refuse.say(key, None, ProblemKind::LookHolds { other, base });
            continue;
        }
        look.clips.push((base_id, other_id, other_data.mirrored));
    }
    look.clips = by_number(core::mem::take(&mut look.clips), |(base, ..)| base.index() as u64);
    look.clips.dedup_by_key(|(base, ..)| *base);
    // What a look has for a clip, it has for its mirrored form.
    for (mirrored_id, base_id) in &data.mirrors {
        if let (Some((other, mirrored)), None) = (look.clip(*base_id), look.clip(*mirrored_id)) {
            let at = look.clips.partition_point(|(base, ..)| base < mirrored_id);
            look.clips.insert(at, (*mirrored_id, other, !mirrored));
        }
    }
}

/// A clip for a clip, and what was said of them.
struct LookPair {
    said: String,
    base: String,
    other: String,
}

/// All pairs that a look says: those of single clips first, then those of facing sets and of names that end in `*`.
fn pairs(new: &NewLook, data: &ReelData, refuse: &mut Refuse<'_>) -> Vec<LookPair> {
    let (names, sets) = (&data.names.clips, &data.names.facings);
    let role = refuse.role().to_string();
    let (mut single, mut several) = (Vec::new(), Vec::new());
    for (base, other) in &new.clips {
        let set = |name: &str| {
            let set =
                sets.find_alive(&role, name).filter(|_| names.find_alive(&role, name).is_none());
            data.facings.get(usize::from(set?))?.as_ref()
        };
        if let (Some(start), Some(instead)) = (base.strip_suffix('*'), other.strip_suffix('*')) {
            let before = several.len();
            for (number, name) in names.alive_in(&role) {
                let Some(rest) = name.name.strip_prefix(start) else { continue };
                let other = alloc::format!("{instead}{rest}");
                let is_there = names.find_alive(&role, &other).is_some();
                // `idle-*` takes in `idle-lantern-*`, too; and a mirror is dressed as what it mirrors.
                let is_none = name.name.starts_with(instead) && instead.starts_with(start)
                    || data.mirrors.iter().any(|(mirror, _)| mirror.number == number);
                if is_there || !is_none {
                    let (said, base) = (base.clone(), name.name.clone());
                    several.push(LookPair { said, base, other });
                }
            }
            if several.len() == before {
                let key = Key::LookClip(base.clone());
                refuse.say_unknown(key, None, CLIP, base, names);
            }
        } else if let (Some(of), Some(instead)) = (set(base), set(other)) {
            for facing in Facing::ALL.into_iter().filter(|facing| of.has_own(*facing)) {
                let is_mirror = data.mirrors.iter().any(|(mirror, _)| *mirror == of.clip(facing));
                let name = |clip: ClipId| names.get(clip.index()).map(|name| name.name.clone());
                let other_name = match instead.has_own(facing) {
                    true => name(instead.clip(facing)),
                    // A mirror is dressed as what it mirrors.
                    false if is_mirror => None,
                    false => Some(alloc::format!("{other}-{}", facing.name())),
                };
                if let (Some(base_name), Some(other)) = (name(of.clip(facing)), other_name) {
                    several.push(LookPair { said: base.clone(), base: base_name, other });
                }
            }
        } else {
            let (base, other) = (base.clone(), other.clone());
            single.push(LookPair { said: base.clone(), base, other });
        }
    }
    single.append(&mut several);
    single
}

fn add_sheets(
    new: &NewLook,
    data: &ReelData,
    drawings: &mut Drawings,
    look: &mut LookData,
    refuse: &mut Refuse<'_>,
) {
    for (nth, (base, other)) in new.sheets.iter().enumerate() {
        if new.sheets[nth + 1..].iter().any(|(later, _)| later == base) {
            continue;
        }
        let number = |sheet: SheetId| sheet.number_in(data.names.family);
        let name = |sheet| data.names.sheets.of(number(sheet)).map_or("", |name| &name.name);
        let key = Key::LookSheet(name(*base).to_string());
        let cut = |drawings: &Drawings, sheet| *drawings.sheets.get(usize::from(number(sheet)?))?;
        let (Some(from), Some(to)) = (cut(drawings, *base), cut(drawings, *other)) else {
            if name(*base).is_empty() || name(*other).is_empty() {
                refuse.say(key, None, ProblemKind::ForeignSheet);
            }
            continue;
        };
        if let Some(kind) = unlike(from, to, &drawings.frames) {
            refuse.say(key, None, kind);
            continue;
        }
        look.sheets.push((from.first_frame, from.frames, to.first_frame));
        // Clips on pivots of their own keep them.
        let own: Vec<(FrameId, FrameId)> = drawings.copies.clone();
        for (copy, of) in own {
            let Some(nth) = of.0.checked_sub(from.first_frame).filter(|nth| *nth < from.frames)
            else {
                continue;
            };
            let pivot = drawings.frames[copy.index()].pivot;
            let instead = drawings.frames[(to.first_frame + nth) as usize];
            if let Some(dressed) = drawings.copy(Frame { pivot, ..instead }) {
                look.sheets.push((copy.0, 1, dressed.0));
            }
        }
    }
    look.sheets = by_number(core::mem::take(&mut look.sheets), |(first, ..)| u64::from(*first));
}

/// How two sheets differ so that one cannot stand for the other.
fn unlike(base: SheetData, other: SheetData, frames: &[Frame]) -> Option<ProblemKind> {
    if base.frames != other.frames {
        return Some(ProblemKind::LookFrames(other.frames, base.frames));
    }
    let size = |first: u32, nth: u32| frames[(first + nth) as usize].size;
    let unlike = (0..base.frames)
        .find(|nth| size(base.first_frame, *nth) != size(other.first_frame, *nth))?;
    let sizes = [other.first_frame, base.first_frame].map(|first| size(first, unlike));
    Some(ProblemKind::LookSize(unlike, sizes[0], sizes[1]))
}
