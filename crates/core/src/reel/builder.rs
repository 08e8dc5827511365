use alloc::string::{String, ToString};
use alloc::vec::Vec;

use super::names::{Names, fault_of_name};
use super::{BuildError, ClipId, Fault, NewSheet, Reel, SheetId, Stamp, compile};
use crate::clip::NewClip;

/// Gathers sheets and clips, hands back their ids as it goes, and builds the reel.
///
/// Everything is checked when it is built, all faults together.
///
/// ```
/// use lucky_reel_core::{Grid, NewClip, NewSheet, Reel};
///
/// let mut builder = Reel::builder();
/// let puff = builder.sheet("puff", NewSheet::grid([96, 16], Grid::cells([16, 16])));
/// builder.clip("burst", NewClip::of(puff).frames(0..7).fps(12));
/// let error = builder.build().unwrap_err();
/// assert_eq!(
///     error.to_string(),
///     "clips.burst.frames[6]: the sheet `puff` has no frame 6: its frames are 0 to 5"
/// );
/// ```
#[derive(Debug)]
pub struct ReelBuilder {
    role: String,
    pub(super) sheets: Vec<Option<NewSheet>>,
    pub(super) clips: Vec<Option<NewClip>>,
    pub(super) sheet_names: Names,
    pub(super) clip_names: Names,
    pub(super) mark_names: Names,
    pub(super) span_names: Names,
    pub(super) faults: Vec<Fault>,
    pub(super) stamp: Option<Stamp>,
}

impl ReelBuilder {
    pub(super) fn new() -> ReelBuilder {
        ReelBuilder {
            role: String::new(),
            sheets: Vec::new(),
            clips: Vec::new(),
            sheet_names: Names::default(),
            clip_names: Names::default(),
            mark_names: Names::default(),
            span_names: Names::default(),
            faults: Vec::new(),
            stamp: None,
        }
    }

    pub(super) fn after(reel: &Reel) -> ReelBuilder {
        let data = &reel.data;
        ReelBuilder {
            sheets: none(data.sheet_names.len()),
            clips: none(data.clip_names.len()),
            sheet_names: data.sheet_names.for_next_version(),
            clip_names: data.clip_names.for_next_version(),
            mark_names: data.mark_names.for_next_version(),
            span_names: data.span_names.for_next_version(),
            stamp: Some(reel.stamp.next_version()),
            ..ReelBuilder::new()
        }
    }

    /// What is added from here on belongs to this role: its clips are `role/name`, or just `name`
    /// where only one role has it.
    pub fn role(&mut self, role: impl Into<String>) {
        self.role = role.into();
        if let Some((problem, remedy)) = fault_of_name(&self.role) {
            let name = self.role.clone();
            self.refuse("role", &name, problem, remedy);
        }
    }

    /// Adds a sheet.
    pub fn sheet(&mut self, name: impl AsRef<str>, sheet: NewSheet) -> SheetId {
        let name = name.as_ref();
        let known = self.sheet_names.find(&self.role, name);
        let twice = known.is_some_and(|id| self.sheets[usize::from(id)].is_some());
        self.check_name("sheets", name, twice);
        let Some(id) = self.sheet_names.add(&self.role, name) else {
            self.refuse_more("sheets", name);
            return SheetId(u16::MAX);
        };
        put(&mut self.sheets, id, sheet);
        SheetId(id)
    }

    /// Adds a clip.
    pub fn clip(&mut self, name: impl AsRef<str>, clip: NewClip) -> ClipId {
        let name = name.as_ref();
        let known = self.clip_names.find(&self.role, name);
        let twice = known.is_some_and(|id| self.clips[usize::from(id)].is_some());
        self.check_name("clips", name, twice);
        let Some(id) = self.clip_names.add(&self.role, name) else {
            self.refuse_more("clips", name);
            return ClipId(u16::MAX);
        };
        put(&mut self.clips, id, clip);
        ClipId(id)
    }

    /// Checks everything and compiles it.
    ///
    /// # Errors
    /// All faults together: zero-length holds, empty clips, rectangles outside their image, cells
    /// that do not fit, unknown names, numbers out of range, `repeat` on `once`, an end on an
    /// endless clip, clips over 2^47 ticks or 32,000 holds, names that could be read as something
    /// else.
    pub fn build(self) -> Result<Reel, BuildError> {
        compile::compile(self)
    }

    fn check_name(&mut self, table: &'static str, name: &str, twice: bool) {
        if let Some((problem, remedy)) = fault_of_name(name) {
            self.refuse(table, name, problem, remedy);
        } else if twice {
            self.refuse(table, name, "there are two of this name", "give one of them another name");
        }
    }

    fn refuse_more(&mut self, table: &'static str, name: &str) {
        self.refuse(table, name, "there are more than 65,535 of them", "split the reel");
    }

    fn refuse(&mut self, table: &'static str, name: &str, problem: &str, remedy: &str) {
        self.faults.push(Fault {
            table,
            role: self.role.clone(),
            name: name.to_string(),
            key: String::new(),
            index: None,
            problem: problem.to_string(),
            remedy: remedy.to_string(),
        });
    }
}

fn none<T>(count: usize) -> Vec<Option<T>> {
    core::iter::repeat_with(|| None).take(count).collect()
}

fn put<T>(list: &mut Vec<Option<T>>, id: u16, value: T) {
    let index = usize::from(id);
    if list.len() <= index {
        list.resize_with(index + 1, || None);
    }
    list[index] = Some(value);
}
