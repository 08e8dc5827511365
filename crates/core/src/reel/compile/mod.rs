//! From what a builder was given to a reel that can not fail.

mod clip;
mod facings;
mod looks;
mod role;
mod sheet;

use alloc::format;
use alloc::string::{String, ToString};
use alloc::sync::Arc;
use alloc::vec::Vec;

use super::name_error::nearest;
use super::names::Names;
use super::{Build, BuildError, Fault, Reel, ReelBuilder, ReelData, fingerprint};
use crate::kernel::StepTable;
use crate::sheet::PackedFrame;
use clip::ClipCompiler;
use sheet::Drawings;

impl ReelBuilder {
    /// Checks everything and compiles it.
    ///
    /// # Errors
    /// All faults together: zero-length holds, empty clips, rectangles outside their image, cells
    /// that do not fit, unknown names, numbers out of range, `repeat` on `once`, an end on an
    /// endless clip, clips over 2^47 ticks or 32,000 holds, names that could be read as something
    /// else; facing sets, looks, cues, bridges and phases that name what is not there or does not
    /// fit; a role whose last cue does not hold always.
    pub fn build(self) -> Result<Reel, BuildError> {
        compile(self)
    }
}

fn compile(mut builder: ReelBuilder) -> Result<Reel, BuildError> {
    let mut faults = core::mem::take(&mut builder.faults);
    let mut data = ReelData::new(builder.names.clone());
    let mut drawings = Drawings::default();
    for (id, sheet) in builder.sheets.iter().enumerate() {
        let mut refuse = Refuse::new("sheets", &data.names.sheets, id, &mut faults);
        drawings.add(sheet.as_ref(), &mut data.names.points, &mut refuse);
    }
    let names = &mut data.names;
    for (id, clip) in builder.clips.iter().enumerate() {
        let clip = clip.as_ref().and_then(|clip| {
            let mut refuse = Refuse::new("clips", &names.clips, id, &mut faults);
            ClipCompiler {
                clip,
                role: refuse.role.clone(),
                drawings: &mut drawings,
                sheet_names: &names.sheets,
                clip_names: &names.clips,
                mark_names: &mut names.marks,
                span_names: &mut names.spans,
                refuse: &mut refuse,
            }
            .compile()
        });
        data.clips.push(clip);
    }
    facings::compile(&builder, &mut data, &mut faults);
    looks::compile(&builder, &mut data, &mut drawings, &mut faults);
    role::compile(&builder, &mut data, &mut faults);
    check_size(&data, &mut faults);
    if !faults.is_empty() {
        return Err(BuildError { faults });
    }
    drawings.hand_over(&mut data);
    data.steps = StepTable::new(&data.clips);
    let mut reel = Reel { family: data.names.family, build: Build::new(), data: Arc::new(data) };
    let print = fingerprint::of_playback(&reel);
    if let Some(data) = Arc::get_mut(&mut reel.data) {
        data.fingerprint = print;
    }
    Ok(reel)
}

/// A reel has at most so many steps: they are numbered beside the flips of a [`PackedFrame`].
const MAX_STEPS: u64 = PackedFrame::MAX as u64 / 2;

fn check_size(data: &ReelData, faults: &mut Vec<Fault>) {
    let mut steps = 0;
    for (id, clip) in data.clips.iter().enumerate() {
        steps += clip.as_ref().map_or(0, StepTable::steps_of);
        if steps > MAX_STEPS {
            let mut refuse = Refuse::new("clips", &data.names.clips, id, faults);
            let problem = "with this clip the reel has more than 134 million holds".to_string();
            return refuse.say("", None, problem, "split the reel");
        }
    }
}

/// Notes down the faults of one named thing.
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

    /// There is no such name among those of the role; the nearest is told.
    fn say_unknown(
        &mut self,
        key: &str,
        index: Option<usize>,
        kind: &str,
        name: &str,
        names: &Names,
    ) {
        let of_role = names.alive().filter(|(_, known)| known.role == self.role);
        let remedy = match nearest(name, of_role.map(|(_, known)| &*known.name)) {
            Some(near) => format!("did you mean `{near}`?"),
            None => format!("name a {kind} of this role"),
        };
        self.say(key, index, format!("there is no {kind} `{name}`"), remedy);
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
