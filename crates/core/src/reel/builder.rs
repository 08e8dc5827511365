use alloc::string::{String, ToString};
use alloc::vec::Vec;

use super::names::{Names, fault_of_name};
use super::{Fault, NewSheet, Reel, Stamp};
use crate::clip::NewClip;
use crate::ids::{ClipId, SheetId};

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
    pub(super) point_names: Names,
    pub(super) faults: Vec<Fault>,
    pub(super) stamp: Option<Stamp>,
}

impl Reel {
    /// A builder for a new reel.
    #[must_use]
    pub fn builder() -> ReelBuilder {
        ReelBuilder::new()
    }

    /// A builder for the next version of this reel, in which names keep their ids. It starts empty:
    /// what is not added again is gone.
    ///
    /// ```
    /// use lucky_reel_core::{Grid, NewClip, NewSheet, Player, Reel, ReelBuilder, Ticks};
    ///
    /// fn fill(builder: &mut ReelBuilder, fps: u32) {
    ///     let sheet = builder.sheet("fan", NewSheet::grid([64, 16], Grid::cells([16, 16])));
    ///     builder.clip("turn", NewClip::of(sheet).frames(0..4).fps(fps));
    /// }
    /// let mut builder = Reel::builder();
    /// fill(&mut builder, 8);
    /// let reel = builder.build()?;
    /// let turn = reel.clip("turn").unwrap();
    /// let mut fan = Player::new(&reel, turn);
    /// fan.advance(&reel, Ticks::from_millis(300));
    ///
    /// let mut builder = reel.next_version();
    /// fill(&mut builder, 12); // tuned by eye while the game runs
    /// let reel = builder.build()?;
    /// assert_eq!(reel.clip("turn"), Ok(turn));
    /// assert_eq!(fan.hold(&reel), Some(2)); // it goes on where it was
    /// # Ok::<(), lucky_reel_core::BuildError>(())
    /// ```
    #[must_use]
    pub fn next_version(&self) -> ReelBuilder {
        ReelBuilder::after(self)
    }
}

impl ReelBuilder {
    fn new() -> ReelBuilder {
        ReelBuilder {
            role: String::new(),
            sheets: Vec::new(),
            clips: Vec::new(),
            sheet_names: Names::default(),
            clip_names: Names::default(),
            mark_names: Names::default(),
            span_names: Names::default(),
            point_names: Names::default(),
            faults: Vec::new(),
            stamp: None,
        }
    }

    fn after(reel: &Reel) -> ReelBuilder {
        let data = &reel.data;
        ReelBuilder {
            sheets: none(data.sheet_names.len()),
            clips: none(data.clip_names.len()),
            sheet_names: data.sheet_names.for_next_version(),
            clip_names: data.clip_names.for_next_version(),
            mark_names: data.mark_names.for_next_version(),
            span_names: data.span_names.for_next_version(),
            point_names: data.point_names.for_next_version(),
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
