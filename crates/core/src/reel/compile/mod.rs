//! From what a builder was given to a reel that cannot fail.

mod clip;
mod facings;
mod looks;
mod mark_data;
mod named;
mod report;
mod role;
mod sheet;

use alloc::string::String;
use alloc::sync::Arc;
use alloc::vec::Vec;

use super::{Build, BuildError, ProblemKind, Reel, ReelBuilder, ReelData, Section, fingerprint};
use crate::kernel::StepTable;
use crate::order::{by_number, by_text};
use crate::sheet::PackedFrame;
use clip::ClipCompiler;
use report::{Refuse, Report};
use sheet::Drawings;

impl ReelBuilder {
    /// Checks everything and compiles it.
    ///
    /// # Errors
    /// All problems together: zero-length holds, empty clips, rectangles outside their image, cells
    /// that do not fit, unknown names, two things of one name, numbers out of range, `repeat` on
    /// `once`, an end on an endless clip, clips over 2^47 ticks or 32,000 holds, names that could be
    /// read as something else; facing sets, looks, cues, bridges and phases that name what is not
    /// there or does not fit; a role whose last cue does not always match.
    pub fn build(self) -> Result<Reel, BuildError> {
        compile(self)
    }
}

fn compile(mut builder: ReelBuilder) -> Result<Reel, BuildError> {
    let mut report = Report {
        problems: core::mem::take(&mut builder.problems),
        incomplete: in_order(core::mem::take(&mut builder.incomplete)),
    };
    let mut data = ReelData::new(builder.names.clone());
    let mut drawings = Drawings::new(builder.names.sheets.len());
    for (nth, sheet) in builder.sheets.iter().enumerate() {
        let mut refuse = report.on(Section::Sheets, nth, sheet);
        drawings.add(sheet, &mut data.names, &mut refuse);
    }
    let names = &mut data.names;
    data.clips = none(names.clips.len());
    for (nth, added) in builder.clips.iter().enumerate() {
        let clip = ClipCompiler {
            clip: &added.new,
            drawings: &mut drawings,
            sheet_names: &names.sheets,
            clip_names: &names.clips,
            mark_names: &mut names.marks,
            span_names: &mut names.spans,
            data_names: &mut names.data,
            data_table: &mut data.mark_data,
            refuse: &mut report.on(Section::Clips, nth, added),
        }
        .compile();
        put(&mut data.clips, added.id, clip);
    }
    facings::compile(&builder, &mut data, &mut report);
    looks::compile(&builder, &mut data, &mut drawings, &mut report);
    role::compile(&builder, &mut data, &mut report);
    check_size(&builder, &data, &mut report);
    for (section, role, name) in report.incomplete.clone() {
        let site = super::Site { section, role, name, nth: 0 };
        report.problems.push(site.problem(None, None, ProblemKind::Incomplete));
    }
    if !report.problems.is_empty() {
        return Err(BuildError { problems: report.problems });
    }
    drawings.hand_over(&mut data);
    data.frames.shrink_to_fit();
    data.steps = StepTable::new(&data.clips);
    let mut reel = Reel { family: data.names.family, build: Build::new(), data: Arc::new(data) };
    let print = fingerprint::of_playback(&reel);
    if let Some(data) = Arc::get_mut(&mut reel.data) {
        data.fingerprint = print;
    }
    Ok(reel)
}

/// By section, role and name, each once.
fn in_order(names: Vec<(Section, String, String)>) -> Vec<(Section, String, String)> {
    let names = by_text(by_text(names, |(_, _, name)| name), |(_, role, _)| role);
    let mut names = by_number(names, |(section, ..)| *section as u64);
    names.dedup();
    names
}

/// A reel has at most so many steps: they are numbered beside the flips of a [`PackedFrame`].
const MAX_STEPS: u64 = PackedFrame::MAX as u64 / 2;

fn check_size(builder: &ReelBuilder, data: &ReelData, report: &mut Report) {
    let steps_of = |clip: &Option<_>| clip.as_ref().map_or(0, StepTable::steps_of);
    let steps: u64 = data.clips.iter().map(steps_of).sum();
    if let (Some(last), true) = (builder.clips.last(), steps > MAX_STEPS) {
        let what = "holds in a reel, counting the way there and back";
        let (count, max) = (steps as usize, MAX_STEPS as usize);
        let mut refuse = report.on(Section::Clips, builder.clips.len() - 1, last);
        refuse.say(None, None, ProblemKind::TooMany { what, count, max });
    }
}

fn none<T>(count: usize) -> Vec<Option<T>> {
    core::iter::repeat_with(|| None).take(count).collect()
}

/// Puts a thing at the place of its number.
fn put<T>(list: &mut Vec<Option<T>>, id: u16, thing: Option<T>) {
    let index = usize::from(id);
    if list.len() <= index {
        list.resize_with(index + 1, || None);
    }
    list[index] = thing;
}
