//! Clips: holds, times, marks, spans, ends.

use alloc::boxed::Box;
use alloc::string::{String, ToString};
use alloc::vec::Vec;

use super::Refuse;
use super::report::CLIP;
use super::sheet::Drawings;
use crate::clip::{ClipData, ClipEnd, HoldData, Mode, NewClip};
use crate::ids::{ClipId, FrameId, MarkId, NONE, SpanId};
use crate::order::{NumberMap, by_number, by_text};
use crate::reel::name_check::check_name;
use crate::reel::name_table::Names;
use crate::reel::times::{LONGEST, ticks_of_holds};
use crate::reel::{DataTable, Key, ProblemKind};

const MAX_HOLDS: usize = 32_000;
/// So that every mark of a hold has a number of its own in an event's serial.
const MAX_MARKS_ON_A_HOLD: usize = 32;
const MAX_CYCLES: u32 = i32::MAX as u32;

pub(super) struct ClipCompiler<'a, 'f> {
    pub(super) clip: &'a NewClip,
    pub(super) drawings: &'a mut Drawings,
    pub(super) sheet_names: &'a Names,
    pub(super) clip_names: &'a Names,
    pub(super) mark_names: &'a mut Names,
    pub(super) span_names: &'a mut Names,
    pub(super) data_names: &'a mut Names,
    pub(super) data_table: &'a mut DataTable,
    pub(super) refuse: &'a mut Refuse<'f>,
}

impl ClipCompiler<'_, '_> {
    pub(super) fn compile(mut self) -> Option<ClipData> {
        let before = self.refuse.report.problems.len();
        let holds = self.holds();
        let repeat = self.repeat();
        let end = self.end();
        let marks = self.marks();
        let data = self.data(marks.as_deref().unwrap_or_default());
        let spans = self.spans();
        let rest = self.hold_number(&Key::Rest, None, self.clip.rest);
        let starts: Option<Box<[u64]>> = holds.as_ref().map(|holds| {
            let sums = holds.iter().scan(0, |sum, hold| {
                *sum += hold.ticks;
                Some(*sum)
            });
            core::iter::once(0).chain(sums).collect()
        });
        let mut data = ClipData {
            holds: holds?,
            starts: starts?,
            mode: self.clip.mode,
            is_still: self.clip.is_still(),
            repeat: repeat?,
            end: end?,
            rest: rest?,
            marks: marks?,
            spans: spans?,
            units_for_ground: 0,
            mirrored: false,
            sets: Box::default(),
            data,
        };
        if data.cycle_ticks() > LONGEST {
            self.refuse.say(None, None, ProblemKind::ClipTooLong);
        }
        data.units_for_ground = self.units_for_ground(data.cycle_ticks());
        let sound = self.refuse.report.problems.len() == before && !self.refuse.is_incomplete();
        sound.then_some(data)
    }

    fn holds(&mut self) -> Option<Box<[HoldData]>> {
        let clip = self.clip;
        if clip.is_empty() {
            if !self.refuse.is_incomplete() {
                self.refuse.say(Key::Frames, None, ProblemKind::Empty);
            }
            return None;
        }
        if clip.len() > MAX_HOLDS {
            let (what, count, max) = ("holds in one clip", clip.len(), MAX_HOLDS);
            self.refuse.say(Key::Frames, None, ProblemKind::TooMany { what, count, max });
            return None;
        }
        let number = clip.sheet.number_in(self.sheet_names.family);
        let sheet = number.and_then(|number| *self.drawings.sheets.get(usize::from(number))?);
        let Some(sheet) = sheet else {
            // A sheet that is known but has problems of its own says what is wrong itself.
            if self.sheet_names.of(number).is_none() {
                self.refuse.say(Key::Sheet, None, ProblemKind::ForeignSheet);
            }
            return None;
        };
        let wrong = clip.holds.iter().enumerate().find(|(_, (frame, _))| *frame >= sheet.frames);
        if let Some((index, (frame, _))) = wrong {
            let name = self.sheet_names.get(clip.sheet.index());
            let name = name.map_or_else(String::new, |name| name.name.clone());
            let kind = ProblemKind::NoFrame { sheet: name, frame: *frame, count: sheet.frames };
            self.refuse.say(Key::Frames, Some(index), kind);
        }
        let ticks = if clip.is_still() { Ok([0].into()) } else { ticks_of_holds(clip) };
        let ticks = ticks.map_err(|problem| {
            let (key, index, kind) = *problem;
            self.refuse.say(key, index, kind);
        });
        let ticks = ticks.ok()?;
        if wrong.is_some() {
            return None;
        }
        let first = sheet.first_frame;
        let mut frames: Vec<FrameId> =
            clip.holds.iter().map(|(frame, _)| FrameId(first + frame)).collect();
        if let Some(pivot) = clip.pivot {
            let mut known = NumberMap::default();
            for frame in &mut frames {
                let Some(moved) = self.drawings.on_pivot(*frame, pivot, &mut known) else {
                    self.refuse.say(Key::Pivot, None, ProblemKind::OffPixels);
                    return None;
                };
                *frame = moved;
            }
        }
        let holds = frames.into_iter().zip(ticks);
        Some(holds.map(|(frame, ticks)| HoldData { ticks, frame, watched: 0 }).collect())
    }

    /// How many cycles, 0 for endless.
    fn repeat(&mut self) -> Option<u32> {
        match (self.clip.mode, self.clip.repeat) {
            (Mode::Once, None) => Some(1),
            (Mode::Once, Some(_)) => {
                self.refuse.say(Key::Repeat, None, ProblemKind::RepeatOnOnce);
                None
            }
            (_, None) => Some(0),
            (_, Some(cycles @ 1..=MAX_CYCLES)) => Some(cycles),
            (_, Some(cycles)) => {
                self.refuse.say(Key::Repeat, None, ProblemKind::Repeat(cycles));
                None
            }
        }
    }

    fn end(&mut self) -> Option<ClipEnd> {
        let Some(end) = &self.clip.end else { return Some(ClipEnd::Stay) };
        let compiled = match end {
            ClipEnd::Stay => Some(ClipEnd::Stay),
            ClipEnd::First => Some(ClipEnd::First),
            ClipEnd::Vanish => Some(ClipEnd::Vanish),
            ClipEnd::Play(name) => {
                let (role, short) = name.split_once('/').unwrap_or((self.refuse.role(), name));
                let found = self.clip_names.find_alive(role, short);
                if found.is_none() {
                    self.refuse.say_unknown(Key::EndPlay, None, CLIP, name, self.clip_names);
                }
                found.map(|id| ClipEnd::Play(ClipId::new(self.clip_names.family, id)))
            }
        };
        if !self.clip.is_finite() {
            self.refuse.say(Key::End, None, ProblemKind::EndOfEndless);
        }
        compiled
    }

    fn marks(&mut self) -> Option<Box<[(u16, MarkId)]>> {
        let mut marks = Vec::new();
        for (name, holds) in &self.clip.marks {
            let key = Key::Mark(name.clone());
            let id = self.name_of(&key, name, |compiler| &mut *compiler.mark_names);
            for (index, hold) in holds.iter().enumerate() {
                let hold = self.hold_number(&key, Some(index), *hold);
                if let (Some(hold), Some(id)) = (hold, id) {
                    marks.push((hold, name, MarkId::new(self.mark_names.family, id)));
                }
            }
        }
        let marks = by_text(marks, |(_, name, _): &(u16, &String, MarkId)| name);
        let mut marks = by_number(marks, |(hold, ..)| u64::from(*hold));
        marks.dedup();
        let crowded =
            marks.chunk_by(|a, b| a.0 == b.0).find(|same| same.len() > MAX_MARKS_ON_A_HOLD);
        if let Some(same) = crowded {
            let (what, count, max) = ("marks on one hold", same.len(), MAX_MARKS_ON_A_HOLD);
            self.refuse.say(Key::Marks, None, ProblemKind::TooMany { what, count, max });
        }
        Some(marks.into_iter().map(|(hold, _, id)| (hold, id)).collect())
    }

    fn spans(&mut self) -> Option<Box<[(SpanId, u16, u16)]>> {
        let mut spans = Vec::new();
        for (name, from, to) in &self.clip.spans {
            let key = Key::Span(name.clone());
            let id = self.name_of(&key, name, |compiler| &mut *compiler.span_names);
            let (from, to) =
                (self.hold_number(&key, None, *from), self.hold_number(&key, None, *to));
            match (from, to) {
                (Some(from), Some(to)) if from > to => {
                    let kind = ProblemKind::SpanReversed(from.into(), to.into());
                    self.refuse.say(key, None, kind);
                }
                (Some(from), Some(to)) => {
                    spans.extend(id.map(|id| (SpanId::new(self.span_names.family, id), from, to)));
                }
                _ => {}
            }
        }
        Some(spans.into_boxed_slice())
    }

    pub(super) fn name_of(
        &mut self,
        key: &Key,
        name: &str,
        names: impl Fn(&mut Self) -> &mut Names,
    ) -> Option<u16> {
        if let Err(bad) = check_name(name) {
            self.refuse.say(key.clone(), None, ProblemKind::Name(bad));
            return None;
        }
        let role = match key {
            // One key for all roles that have it.
            Key::MarkData(..) => String::new(),
            _ => self.refuse.role().to_string(),
        };
        let id = names(self).add(&role, name);
        if id.is_none() {
            let max = usize::from(NONE);
            let what = "names of one kind in a reel";
            let kind = ProblemKind::TooMany { what, count: max + 1, max };
            self.refuse.say(key.clone(), None, kind);
        }
        id
    }

    /// A hold of this clip, counted from 0.
    fn hold_number(&mut self, key: &Key, index: Option<usize>, hold: u32) -> Option<u16> {
        let count = self.clip.len();
        if hold as usize >= count {
            // A clip without holds is refused for that alone.
            if count > 0 {
                self.refuse.say(key.clone(), index, ProblemKind::NoHold { hold, count });
            }
            return None;
        }
        u16::try_from(hold).ok()
    }

    /// Whole units of clip time for one 65,536th of a pixel.
    fn units_for_ground(&mut self, cycle_ticks: u64) -> u64 {
        let Some(pixels) = self.clip.stride.filter(|_| !self.clip.is_still()) else { return 0 };
        // The cycle has ticks * 65,536 units and covers pixels * 65,536 steps.
        let units = cycle_ticks as f64 / pixels + 0.5;
        let in_range = pixels > 0.0 && pixels <= 1_000_000.0;
        if !in_range || !(1.0..4e9).contains(&units) {
            self.refuse.say(Key::Stride, None, ProblemKind::Stride(pixels));
            return 0;
        }
        units as u64
    }
}
