use alloc::string::{String, ToString};
use alloc::vec::Vec;

use super::names::{Names, fault_of_name};
use super::{Fault, NewSheet, Reel, ReelNames};
use crate::clip::NewClip;
use crate::cue::{NewBridge, NewCue, NewFact, NewPhases};
use crate::facing::NewFacings;
use crate::ids::{BridgeId, ClipId, CueId, FacingsId, LookId, SheetId};
use crate::look::NewLook;

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
    pub(super) facings: Vec<Option<NewFacings>>,
    pub(super) looks: Vec<Option<NewLook>>,
    /// By role, in the order in which they were added.
    pub(super) facts: Vec<Added<NewFact>>,
    pub(super) cues: Vec<Added<NewCue>>,
    pub(super) bridges: Vec<Added<NewBridge>>,
    pub(super) phases: Vec<Added<NewPhases>>,
    pub(super) names: ReelNames,
    pub(super) faults: Vec<Fault>,
}

/// Something that belongs to a role, with its number among the names of its kind.
#[derive(Clone, Debug)]
pub(super) struct Added<T> {
    pub(super) role: String,
    pub(super) name: String,
    pub(super) id: u16,
    pub(super) new: T,
}

impl Reel {
    /// A builder for a new reel.
    #[must_use]
    pub fn builder() -> ReelBuilder {
        ReelBuilder::with_names(ReelNames::new())
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
    /// assert_eq!(fan.hold_index(&reel), Some(2)); // it goes on where it was
    /// # Ok::<(), lucky_reel_core::BuildError>(())
    /// ```
    #[must_use]
    pub fn next_version(&self) -> ReelBuilder {
        ReelBuilder::after(self)
    }
}

impl ReelBuilder {
    fn with_names(names: ReelNames) -> ReelBuilder {
        ReelBuilder {
            role: String::new(),
            sheets: Vec::new(),
            clips: Vec::new(),
            facings: Vec::new(),
            looks: Vec::new(),
            facts: Vec::new(),
            cues: Vec::new(),
            bridges: Vec::new(),
            phases: Vec::new(),
            names,
            faults: Vec::new(),
        }
    }

    fn after(reel: &Reel) -> ReelBuilder {
        let names = reel.data.names.for_next_version();
        ReelBuilder {
            sheets: none(names.sheets.len()),
            clips: none(names.clips.len()),
            facings: none(names.facings.len()),
            looks: none(names.looks.len()),
            ..ReelBuilder::with_names(names)
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

    /// Adds a sheet. Its name may have two parts with a dot between, for sheets that only a look
    /// shows: `bram.dusk`.
    pub fn sheet(&mut self, name: impl AsRef<str>, sheet: NewSheet) -> SheetId {
        let name = name.as_ref();
        let id = self.put("sheets", name, sheet, |of| &mut of.sheets, |to| &mut to.sheets);
        SheetId::new(self.names.family, id)
    }

    /// Adds a clip.
    pub fn clip(&mut self, name: impl AsRef<str>, clip: NewClip) -> ClipId {
        let name = name.as_ref();
        let id = self.put("clips", name, clip, |of| &mut of.clips, |to| &mut to.clips);
        ClipId::new(self.names.family, id)
    }

    /// Adds a facing set.
    pub fn facings(&mut self, name: impl AsRef<str>, facings: NewFacings) -> FacingsId {
        let name = name.as_ref();
        let id = self.put("facings", name, facings, |of| &mut of.facings, |to| &mut to.facings);
        FacingsId::new(self.names.family, id)
    }

    /// Adds a look.
    pub fn look(&mut self, name: impl AsRef<str>, look: NewLook) -> LookId {
        let name = name.as_ref();
        let id = self.put("looks", name, look, |of| &mut of.looks, |to| &mut to.looks);
        LookId::new(self.names.family, id)
    }

    /// Adds a fact to the role: at most 32. A plain value makes a fact of its kind, which begins so.
    pub fn fact(&mut self, name: impl AsRef<str>, fact: impl Into<NewFact>) {
        let (name, fact) = (name.as_ref(), fact.into());
        if ["inside", "facing"].contains(&name) {
            let problem = "the name is a word of conditions itself";
            self.refuse("facts", name, problem, "give it another name");
        }
        self.push("facts", name, fact, |of| &mut of.facts, |to| &mut to.facts);
    }

    /// Adds a cue to the role, below those that it has. The last one must hold always.
    pub fn cue(&mut self, name: impl AsRef<str>, cue: NewCue) -> CueId {
        let name = name.as_ref();
        let id = self.push("cues", name, cue, |of| &mut of.cues, |to| &mut to.cues);
        CueId::new(self.names.family, id)
    }

    /// Adds a bridge to the role.
    pub fn bridge(&mut self, name: impl AsRef<str>, bridge: NewBridge) -> BridgeId {
        let name = name.as_ref();
        let id = self.push("bridges", name, bridge, |of| &mut of.bridges, |to| &mut to.bridges);
        BridgeId::new(self.names.family, id)
    }

    /// Adds a group of clips that stay in step with one another.
    pub fn phases(&mut self, name: impl AsRef<str>, phases: NewPhases) {
        let name = name.as_ref();
        let twice = holds(&self.phases, &self.role, name);
        self.check_name("phases", name, twice);
        let (role, name) = (self.role.clone(), name.to_string());
        self.phases.push(Added { role, name, id: 0, new: phases });
    }

    /// Puts a new thing into its table, at the place of its number. A name that an earlier version
    /// of the reel had keeps its number.
    fn put<T>(
        &mut self,
        table: &'static str,
        name: &str,
        new: T,
        names: fn(&mut ReelNames) -> &mut Names,
        list: fn(&mut ReelBuilder) -> &mut Vec<Option<T>>,
    ) -> u16 {
        let known = names(&mut self.names).find(&self.role, name);
        let twice = known.is_some_and(|id| list(self)[usize::from(id)].is_some());
        self.check_name(table, name, twice);
        let Some(id) = names(&mut self.names).add(&self.role, name) else {
            return self.refuse_more(table, name);
        };
        let (list, index) = (list(self), usize::from(id));
        if list.len() <= index {
            list.resize_with(index + 1, || None);
        }
        list[index] = Some(new);
        id
    }

    /// Adds a new thing of a role below those that are there: their order counts.
    fn push<T>(
        &mut self,
        table: &'static str,
        name: &str,
        new: T,
        names: fn(&mut ReelNames) -> &mut Names,
        list: fn(&mut ReelBuilder) -> &mut Vec<Added<T>>,
    ) -> u16 {
        let role = self.role.clone();
        let twice = holds(list(self), &role, name);
        self.check_name(table, name, twice);
        let Some(id) = names(&mut self.names).add(&role, name) else {
            return self.refuse_more(table, name);
        };
        list(self).push(Added { role, name: name.to_string(), id, new });
        id
    }

    fn check_name(&mut self, table: &'static str, name: &str, twice: bool) {
        let parts = if table == "sheets" { 2 } else { 1 };
        if let Some((problem, remedy)) = name.splitn(parts, '.').find_map(fault_of_name) {
            self.refuse(table, name, problem, remedy);
        } else if twice {
            self.refuse(table, name, "there are two of this name", "give one of them another name");
        }
    }

    /// Gives a number that is none.
    fn refuse_more(&mut self, table: &'static str, name: &str) -> u16 {
        self.refuse(table, name, "there are more than 65,535 of them", "split the reel");
        u16::MAX
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

fn holds<T>(list: &[Added<T>], role: &str, name: &str) -> bool {
    list.iter().any(|known| known.role == role && known.name == name)
}
