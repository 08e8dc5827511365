//! From what a builder was given to a reel that can not fail.

use alloc::boxed::Box;
use alloc::format;
use alloc::string::{String, ToString};
use alloc::sync::Arc;
use alloc::vec::Vec;

use super::names::{Names, fault_of_name, nearest};
use super::new_sheet::Cut;
use super::times::{LONGEST, ticks_of_holds};
use super::{
    BuildError, Fault, NewFrame, NewSheet, Reel, ReelBuilder, ReelData, SheetData, Stamp, Tracks,
    fingerprint,
};
use crate::clip::{ClipData, End, HoldData, Mode, NewClip, NewEnd, Rings, find_rings};
use crate::ids::{ClipId, FrameId, ImageId, MarkId, SpanId};
use crate::sheet::{Frame, Rect};

const MOST_HOLDS: usize = 32_000;
/// So that every mark of a hold has a number of its own in an event's serial.
const MOST_MARKS_ON_A_HOLD: usize = 32;
const MOST_CYCLES: u32 = i32::MAX as u32;

impl ReelBuilder {
    /// Checks everything and compiles it.
    ///
    /// # Errors
    /// All faults together: zero-length holds, empty clips, rectangles outside their image, cells
    /// that do not fit, unknown names, numbers out of range, `repeat` on `once`, an end on an
    /// endless clip, clips over 2^47 ticks or 32,000 holds, names that could be read as something
    /// else.
    pub fn build(self) -> Result<Reel, BuildError> {
        compile(self)
    }
}

fn compile(mut builder: ReelBuilder) -> Result<Reel, BuildError> {
    let mut faults = core::mem::take(&mut builder.faults);
    let mut data = ReelData {
        tracks: Tracks::default(),
        clips: Vec::new(),
        frames: Vec::new(),
        sheets: Vec::new(),
        images: Vec::new(),
        clip_names: builder.clip_names,
        sheet_names: builder.sheet_names,
        mark_names: builder.mark_names,
        span_names: builder.span_names,
        fingerprint: 0,
    };
    for (id, sheet) in builder.sheets.iter().enumerate() {
        let sheet = sheet.as_ref().and_then(|sheet| {
            let mut refuse = Refuse::new("sheets", &data.sheet_names, id, &mut faults);
            cut_sheet(sheet, &mut data.frames, &mut data.images, &mut refuse)
        });
        data.sheets.push(sheet);
    }
    for (id, clip) in builder.clips.iter().enumerate() {
        let clip = clip.as_ref().and_then(|clip| {
            let mut refuse = Refuse::new("clips", &data.clip_names, id, &mut faults);
            ClipCompiler {
                clip,
                role: refuse.role.clone(),
                frames: &data.frames,
                sheets: &data.sheets,
                sheet_names: &data.sheet_names,
                clip_names: &data.clip_names,
                mark_names: &mut data.mark_names,
                span_names: &mut data.span_names,
                refuse: &mut refuse,
            }
            .compile()
        });
        data.clips.push(clip);
    }
    if !faults.is_empty() {
        return Err(BuildError { faults });
    }
    find_rings(&mut data.clips);
    data.tracks = Tracks::new(&data.clips);
    data.fingerprint = fingerprint::of_playback(&data);
    let stamp = builder.stamp.unwrap_or_else(|| Stamp::first(fingerprint::of_family(&data)));
    Ok(Reel { stamp, data: Arc::new(data) })
}

/// Notes down faults of one sheet or clip.
struct Refuse<'f> {
    table: &'static str,
    role: String,
    name: String,
    faults: &'f mut Vec<Fault>,
}

impl<'f> Refuse<'f> {
    fn new(table: &'static str, names: &Names, id: usize, faults: &'f mut Vec<Fault>) -> Self {
        let name = names.get(id);
        let role = name.map_or_else(String::new, |name| name.role.clone());
        let name = name.map_or_else(String::new, |name| name.name.clone());
        Refuse { table, role, name, faults }
    }

    fn say(&mut self, key: &str, index: Option<usize>, problem: String, remedy: impl Into<String>) {
        self.faults.push(Fault {
            table: self.table,
            role: self.role.clone(),
            name: self.name.clone(),
            key: key.to_string(),
            index,
            problem,
            remedy: remedy.into(),
        });
    }
}

fn cut_sheet(
    sheet: &NewSheet,
    frames: &mut Vec<Frame>,
    images: &mut Vec<[u32; 2]>,
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
    let image = ImageId(u16::try_from(images.len()).ok()?);
    let first_frame = u32::try_from(frames.len()).ok()?;
    for (index, new) in cut.iter().enumerate() {
        let one = matches!(sheet.cut, Cut::Frames(_)).then_some(index);
        frames.push(compile_frame(new, sheet, image, index as u32, one, refuse)?);
    }
    images.push(sheet.image);
    Some(SheetData { first_frame, frames: frames.len() as u32 - first_frame })
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
        let problem = "a pivot lies on whole or half pixels within 1,000,000".to_string();
        refuse.say("pivot", one, problem, "give it such as [16, 30] or [15.5, 30]");
        return None;
    };
    Some(Frame { image, source, size: new.size, shift: [x, y], pivot, index })
}

struct ClipCompiler<'a, 'f> {
    clip: &'a NewClip,
    role: String,
    frames: &'a [Frame],
    sheets: &'a [Option<SheetData>],
    sheet_names: &'a Names,
    clip_names: &'a Names,
    mark_names: &'a mut Names,
    span_names: &'a mut Names,
    refuse: &'a mut Refuse<'f>,
}

impl ClipCompiler<'_, '_> {
    fn compile(mut self) -> Option<ClipData> {
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
            repeat: repeat?,
            end: end?,
            rest: rest?,
            marks: marks?,
            spans: spans?,
            units_for_ground: 0,
            rings: Rings::default(),
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
        let Some(sheet) = self.sheets.get(clip.sheet.index()).copied().flatten() else {
            // A sheet that is known but has faults of its own says what is wrong itself.
            if self.sheet_names.get(clip.sheet.index()).is_none() {
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
        let ticks = ticks_of_holds(clip)
            .map_err(|fault| self.refuse.say(fault.key, fault.index, fault.problem, fault.remedy))
            .ok()?;
        if wrong.is_some() {
            return None;
        }
        let holds = clip.holds.iter().zip(ticks);
        let first = sheet.first_frame;
        debug_assert!((first + sheet.frames) as usize <= self.frames.len());
        Some(
            holds
                .map(|((frame, _), ticks)| HoldData { ticks, frame: FrameId(first + frame) })
                .collect(),
        )
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
                let found = self.clip_names.find(role, short);
                let found = found.filter(|&id| self.clip_names.get(usize::from(id)).is_some());
                if found.is_none() {
                    let of_role = self.clip_names.alive().filter(|(_, name)| name.role == role);
                    let near = nearest(short, of_role.map(|(_, name)| &*name.name));
                    let remedy = near.map_or_else(
                        || "name a clip of this reel".to_string(),
                        |near| format!("did you mean `{near}`?"),
                    );
                    self.refuse.say("end.play", None, format!("there is no clip `{name}`"), remedy);
                }
                found.map(|id| End::Play(ClipId(id)))
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
                    marks.push((hold, name, MarkId(id)));
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
                (Some(from), Some(to)) => spans.extend(id.map(|id| (SpanId(id), from, to))),
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
        let Some(pixels) = self.clip.covers else { return 0 };
        // The cycle has ticks * 65,536 units and covers pixels * 65,536 steps.
        let units = cycle_ticks as f64 / pixels + 0.5;
        let in_range = pixels > 0.0 && pixels <= 1_000_000.0;
        if !in_range || !(1.0..9e18).contains(&units) {
            let problem = format!("a cycle can not cover {pixels} pixels");
            let remedy =
                "give a number of pixels above 0, up to 1000000, that the clip's time allows";
            self.refuse.say("covers", None, problem, remedy);
            return 0;
        }
        units as u64
    }
}
