//! Clips: holds, times, marks, spans, ends.

use alloc::boxed::Box;
use alloc::collections::BTreeMap;
use alloc::format;
use alloc::string::{String, ToString};
use alloc::vec::Vec;

use super::Refuse;
use super::sheet::{Drawings, OFF_PIXELS, ON_PIXELS};
use crate::clip::{ClipData, End, HoldData, Mode, NewClip, NewEnd};
use crate::ids::{ClipId, FrameId, MarkId, SpanId};
use crate::reel::name_error::nearest;
use crate::reel::names::{Names, fault_of_name};
use crate::reel::times::{LONGEST, ticks_of_holds};

const MOST_HOLDS: usize = 32_000;
/// So that every mark of a hold has a number of its own in an event's serial.
const MOST_MARKS_ON_A_HOLD: usize = 32;
const MOST_CYCLES: u32 = i32::MAX as u32;

pub(super) struct ClipCompiler<'a, 'f> {
    pub(super) clip: &'a NewClip,
    pub(super) role: String,
    pub(super) drawings: &'a mut Drawings,
    pub(super) sheet_names: &'a Names,
    pub(super) clip_names: &'a Names,
    pub(super) mark_names: &'a mut Names,
    pub(super) span_names: &'a mut Names,
    pub(super) refuse: &'a mut Refuse<'f>,
}

impl ClipCompiler<'_, '_> {
    pub(super) fn compile(mut self) -> Option<ClipData> {
        let faults_before = self.refuse.faults.len();
        let holds = self.holds();
        let repeat = self.repeat();
        let end = self.end();
        let marks = self.marks();
        let spans = self.spans();
        let rest = self.hold_number("rest", None, self.clip.rest);
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
        };
        if data.cycle_ticks() > LONGEST {
            let problem = "there and back takes longer than 2^47 ticks (22 days)".to_string();
            self.refuse.say("", None, problem, "make the clip shorter");
        }
        data.units_for_ground = self.units_for_ground(data.cycle_ticks());
        (self.refuse.faults.len() == faults_before).then_some(data)
    }

    fn holds(&mut self) -> Option<Box<[HoldData]>> {
        let clip = self.clip;
        if clip.is_empty() {
            self.refuse.say("frames", None, "the clip has no frames".to_string(), "give it one");
            return None;
        }
        if clip.len() > MOST_HOLDS {
            let problem = format!("{} holds; a clip has at most {MOST_HOLDS}", clip.len());
            self.refuse.say("frames", None, problem, "split the clip");
            return None;
        }
        let number = clip.sheet.number_in(self.sheet_names.family);
        let sheet = number.and_then(|number| *self.drawings.sheets.get(usize::from(number))?);
        let Some(sheet) = sheet else {
            // A sheet that is known but has faults of its own says what is wrong itself.
            if self.sheet_names.of(number).is_none() {
                let problem = "the clip's sheet is not of this reel".to_string();
                self.refuse.say("sheet", None, problem, "give it an id this builder handed out");
            }
            return None;
        };
        let wrong = clip.holds.iter().enumerate().find(|(_, (frame, _))| *frame >= sheet.frames);
        if let Some((index, (frame, _))) = wrong {
            let name = self.sheet_names.get(clip.sheet.index()).map_or("", |name| &name.name);
            let problem = format!("the sheet `{name}` has no frame {frame}");
            let remedy = format!("its frames are 0 to {}", sheet.frames - 1);
            self.refuse.say("frames", Some(index), problem, remedy);
        }
        let ticks = if clip.is_still() { Ok([0].into()) } else { ticks_of_holds(clip) };
        let ticks = ticks
            .map_err(|fault| self.refuse.say(fault.key, fault.index, fault.problem, fault.remedy))
            .ok()?;
        if wrong.is_some() {
            return None;
        }
        let first = sheet.first_frame;
        let mut frames: Vec<FrameId> =
            clip.holds.iter().map(|(frame, _)| FrameId(first + frame)).collect();
        if let Some(pivot) = clip.pivot {
            let mut known = BTreeMap::new();
            for frame in &mut frames {
                let Some(moved) = self.drawings.on_pivot(*frame, pivot, &mut known) else {
                    self.refuse.say("pivot", None, OFF_PIXELS.to_string(), ON_PIXELS);
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
                let problem = "a clip that plays `once` does not repeat".to_string();
                self.refuse.say("repeat", None, problem, "leave it out, or use mode `loop`");
                None
            }
            (_, None) => Some(0),
            (_, Some(cycles @ 1..=MOST_CYCLES)) => Some(cycles),
            (_, Some(cycles)) => {
                let problem = format!("it can not repeat {cycles} times");
                let remedy = "give a number from 1 to 2147483647, or leave it out: for ever";
                self.refuse.say("repeat", None, problem, remedy);
                None
            }
        }
    }

    fn end(&mut self) -> Option<End> {
        let Some(end) = &self.clip.end else { return Some(End::Stay) };
        if !self.clip.is_finite() {
            let problem = "an endless clip never comes to its end".to_string();
            self.refuse.say(
                "end",
                None,
                problem,
                "leave it out, use mode `once`, or give `repeat`",
            );
            return None;
        }
        match end {
            NewEnd::Stay => Some(End::Stay),
            NewEnd::First => Some(End::First),
            NewEnd::Vanish => Some(End::Vanish),
            NewEnd::Play(name) => {
                let (role, short) = name.split_once('/').unwrap_or((&self.role, name));
                let found = self.clip_names.find_alive(role, short);
                if found.is_none() {
                    let of_role = self.clip_names.alive().filter(|(_, name)| name.role == role);
                    let near = nearest(short, of_role.map(|(_, name)| &*name.name));
                    let remedy = near.map_or_else(
                        || "name a clip of this reel".to_string(),
                        |near| format!("did you mean `{near}`?"),
                    );
                    self.refuse.say("end.play", None, format!("there is no clip `{name}`"), remedy);
                }
                found.map(|id| End::Play(ClipId::new(self.clip_names.family, id)))
            }
        }
    }

    fn marks(&mut self) -> Option<Box<[(u16, MarkId)]>> {
        let mut marks = Vec::new();
        for (name, holds) in &self.clip.marks {
            let key = format!("marks.{name}");
            let id = self.name_of(&key, name, |compiler| &mut *compiler.mark_names);
            for (index, hold) in holds.iter().enumerate() {
                let hold = self.hold_number(&key, Some(index), *hold);
                if let (Some(hold), Some(id)) = (hold, id) {
                    marks.push((hold, name, MarkId::new(self.mark_names.family, id)));
                }
            }
        }
        marks.sort_by(|a, b| (a.0, a.1).cmp(&(b.0, b.1)));
        marks.dedup();
        let crowded =
            marks.chunk_by(|a, b| a.0 == b.0).find(|same| same.len() > MOST_MARKS_ON_A_HOLD);
        if let Some(same) = crowded {
            let problem = format!("hold {} has {} marks", same[0].0, same.len());
            let remedy = format!("put at most {MOST_MARKS_ON_A_HOLD} on one hold");
            self.refuse.say("marks", None, problem, remedy);
        }
        Some(marks.into_iter().map(|(hold, _, id)| (hold, id)).collect())
    }

    fn spans(&mut self) -> Option<Box<[(SpanId, u16, u16)]>> {
        let mut spans = Vec::new();
        for (name, from, to) in &self.clip.spans {
            let key = format!("spans.{name}");
            let id = self.name_of(&key, name, |compiler| &mut *compiler.span_names);
            let (from, to) =
                (self.hold_number(&key, None, *from), self.hold_number(&key, None, *to));
            match (from, to) {
                (Some(from), Some(to)) if from > to => {
                    let problem = format!("the span ends at {to}, before it begins at {from}");
                    self.refuse.say(&key, None, problem, "write the smaller number first");
                }
                (Some(from), Some(to)) => {
                    spans.extend(id.map(|id| (SpanId::new(self.span_names.family, id), from, to)));
                }
                _ => {}
            }
        }
        Some(spans.into_boxed_slice())
    }

    fn name_of(
        &mut self,
        key: &str,
        name: &str,
        names: impl Fn(&mut Self) -> &mut Names,
    ) -> Option<u16> {
        if let Some((problem, remedy)) = fault_of_name(name) {
            self.refuse.say(key, None, problem.to_string(), remedy);
            return None;
        }
        let role = self.role.clone();
        let id = names(self).add(&role, name);
        if id.is_none() {
            let problem = "there are more than 65,535 names".to_string();
            self.refuse.say(key, None, problem, "use fewer");
        }
        id
    }

    /// A hold of this clip, counted from 0.
    fn hold_number(&mut self, key: &str, index: Option<usize>, hold: u32) -> Option<u16> {
        let count = self.clip.len();
        if hold as usize >= count {
            // A clip without holds is refused for that alone.
            if count > 0 {
                let problem = format!("the clip has no hold {hold}");
                self.refuse.say(key, index, problem, format!("its holds are 0 to {}", count - 1));
            }
            return None;
        }
        u16::try_from(hold).ok()
    }

    /// Whole units of clip time for one 65,536th of a pixel.
    fn units_for_ground(&mut self, cycle_ticks: u64) -> u64 {
        let Some(pixels) = self.clip.covers.filter(|_| !self.clip.is_still()) else { return 0 };
        // The cycle has ticks * 65,536 units and covers pixels * 65,536 steps.
        let units = cycle_ticks as f64 / pixels + 0.5;
        let in_range = pixels > 0.0 && pixels <= 1_000_000.0;
        if !in_range || !(1.0..4e9).contains(&units) {
            let problem = format!("a cycle can not cover {pixels} pixels");
            let remedy =
                "give a number of pixels above 0, up to 1000000, that the clip's time allows";
            self.refuse.say("covers", None, problem, remedy);
            return 0;
        }
        units as u64
    }
}
