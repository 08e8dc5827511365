//! From what a builder was given to a reel that can not fail.

mod clip;
mod sheet;

use alloc::string::{String, ToString};
use alloc::sync::Arc;
use alloc::vec::Vec;

use super::names::Names;
use super::{BuildError, Fault, Reel, ReelBuilder, ReelData, Stamp, Tracks, fingerprint};
use crate::clip::find_rings;
use clip::ClipCompiler;
use sheet::Drawings;

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
        points: Vec::new(),
        clip_names: builder.clip_names,
        sheet_names: builder.sheet_names,
        mark_names: builder.mark_names,
        span_names: builder.span_names,
        point_names: builder.point_names,
        fingerprint: 0,
    };
    let mut drawings = Drawings {
        frames: &mut data.frames,
        images: &mut data.images,
        points: &mut data.points,
        sheets: &mut data.sheets,
        own_pivots: &mut Vec::new(),
    };
    for (id, sheet) in builder.sheets.iter().enumerate() {
        let mut refuse = Refuse::new("sheets", &data.sheet_names, id, &mut faults);
        drawings.add(sheet.as_ref(), &mut data.point_names, &mut refuse);
    }
    for (id, clip) in builder.clips.iter().enumerate() {
        let clip = clip.as_ref().and_then(|clip| {
            let mut refuse = Refuse::new("clips", &data.clip_names, id, &mut faults);
            ClipCompiler {
                clip,
                role: refuse.role.clone(),
                drawings: &mut drawings,
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
