use alloc::string::{String, ToString};
use alloc::vec::Vec;

use super::name_check::check_name;
use super::name_table::Names;
use super::problem::Site;
use super::problem_kind::{BadName, ProblemKind};
use super::problem_site::Section;
use super::{NewSheet, Problem, Reel, ReelNames};
use crate::clip::NewClip;
use crate::cue::{NewBridge, NewCue, NewFact, NewPhases};
use crate::facing::{Align, NewFacings};
use crate::ids::{BridgeId, ClipId, CueId, FacingSetId, LookId, NONE, SheetId};
use crate::new_look::NewLook;

/// Collects sheets, clips, cues and so on, returns their ids at once, and builds the reel.
///
/// Everything is checked when it is built, all problems together.
///
/// ```
/// use lucky_reel_core::{Grid, NewClip, NewSheet, Reel};
///
/// let mut builder = Reel::builder();
/// let puff = builder.sheet("puff", NewSheet::grid([96, 16], Grid::cell_size([16, 16])));
/// builder.clip("burst", NewClip::of(puff).frames(0..7).fps(12));
/// let error = builder.build().unwrap_err();
/// assert_eq!(error.problems()[0].code(), "no-frame");
/// assert_eq!(error.to_string(), "Clips burst Frames[6]: no-frame (puff, 6, 6)");
/// ```
#[derive(Debug)]
pub struct ReelBuilder {
    role: String,
    pub(super) sheets: Vec<Added<NewSheet>>,
    pub(super) clips: Vec<Added<NewClip>>,
    pub(super) facings: Vec<Added<NewFacings>>,
    pub(super) looks: Vec<Added<NewLook>>,
    pub(super) facts: Vec<Added<NewFact>>,
    pub(super) cues: Vec<Added<NewCue>>,
    pub(super) bridges: Vec<Added<NewBridge>>,
    pub(super) phases: Vec<Added<NewPhases>>,
    pub(super) names: ReelNames,
    pub(super) problems: Vec<Problem>,
    /// Section, role and name of what could not be read whole.
    pub(super) incomplete: Vec<(Section, String, String)>,
}

/// Something that belongs to a role, with its number among the names of its kind. Lists of these are in
/// the order in which they were added, two of one name included.
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
    /// use lucky_reel_core::{ClipId, Grid, NewClip, NewSheet, Player, Reel, ReelBuilder, Ticks};
    ///
    /// fn fill(builder: &mut ReelBuilder, fps: u32) {
    ///     let sheet = builder.sheet("fan", NewSheet::grid([64, 16], Grid::cell_size([16, 16])));
    ///     builder.clip("turn", NewClip::of(sheet).frames(0..4).fps(fps));
    /// }
    /// let mut builder = Reel::builder();
    /// fill(&mut builder, 8);
    /// let reel = builder.build()?;
    /// let turn: ClipId = reel.id("turn").unwrap();
    /// let mut fan = Player::new(&reel, turn);
    /// fan.advance(&reel, Ticks::from_millis(300));
    ///
    /// let mut builder = reel.reload();
    /// fill(&mut builder, 12); // tuned by eye while the game runs
    /// let reel = builder.build()?;
    /// assert_eq!(reel.id::<ClipId>("turn"), Ok(turn));
    /// assert_eq!(fan.hold_index(&reel), Some(2)); // it goes on where it was
    /// # Ok::<(), lucky_reel_core::BuildError>(())
    /// ```
    #[must_use]
    pub fn reload(&self) -> ReelBuilder {
        ReelBuilder::with_names(self.data.names.for_next_version())
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
            problems: Vec::new(),
            incomplete: Vec::new(),
        }
    }

    /// Everything added after this call belongs to this role: its clips are `role/name`, or just `name`
    /// where only one role has it.
    pub fn role(&mut self, role: impl Into<String>) {
        self.role = role.into();
        if let Err(bad) = check_name(&self.role) {
            let name = self.role.clone();
            self.refuse(Section::Role, &name, 0, ProblemKind::Name(bad));
        }
    }

    /// Adds a sheet. Its name may have two parts with a dot between, for sheets that only a look
    /// shows: `bram.dusk`.
    pub fn sheet(&mut self, name: impl AsRef<str>, sheet: NewSheet) -> SheetId {
        let name = name.as_ref();
        let id = self.add(Section::Sheets, name, sheet, |of| &mut of.sheets, |to| &mut to.sheets);
        SheetId::new(self.names.family, id)
    }

    /// Adds a clip.
    pub fn clip(&mut self, name: impl AsRef<str>, clip: NewClip) -> ClipId {
        let name = name.as_ref();
        let id = self.add(Section::Clips, name, clip, |of| &mut of.clips, |to| &mut to.clips);
        ClipId::new(self.names.family, id)
    }

    /// Adds a facing set.
    pub fn facings(&mut self, name: impl AsRef<str>, facings: NewFacings) -> FacingSetId {
        let name = name.as_ref();
        let id =
            self.add(Section::Facings, name, facings, |of| &mut of.facings, |to| &mut to.facings);
        FacingSetId::new(self.names.family, id)
    }

    /// Adds a look.
    pub fn look(&mut self, name: impl AsRef<str>, look: NewLook) -> LookId {
        let name = name.as_ref();
        let id = self.add(Section::Looks, name, look, |of| &mut of.looks, |to| &mut to.looks);
        LookId::new(self.names.family, id)
    }

    /// Adds a fact to the role: at most 32. A plain value makes a fact of its type with this default.
    pub fn fact(&mut self, name: impl AsRef<str>, fact: impl Into<NewFact>) {
        let (name, fact) = (name.as_ref(), fact.into());
        if ["inside", "facing"].contains(&name) {
            let nth = self.facts.len();
            self.refuse(Section::Facts, name, nth, ProblemKind::Name(BadName::Reserved));
        }
        self.add(Section::Facts, name, fact, |of| &mut of.facts, |to| &mut to.facts);
    }

    /// Adds a cue to the role, below those that it has. The last one must always match.
    pub fn cue(&mut self, name: impl AsRef<str>, cue: NewCue) -> CueId {
        let name = name.as_ref();
        let id = self.add(Section::Cues, name, cue, |of| &mut of.cues, |to| &mut to.cues);
        CueId::new(self.names.family, id)
    }

    /// Adds a bridge to the role.
    pub fn bridge(&mut self, name: impl AsRef<str>, bridge: NewBridge) -> BridgeId {
        let name = name.as_ref();
        let id =
            self.add(Section::Bridges, name, bridge, |of| &mut of.bridges, |to| &mut to.bridges);
        BridgeId::new(self.names.family, id)
    }

    /// Adds a group of clips, by their names, that stay in step with one another; `align` says what a switch
    /// between them keeps.
    pub fn phases<N: Into<String>>(
        &mut self,
        name: impl AsRef<str>,
        clips: impl IntoIterator<Item = N>,
        align: Align,
    ) {
        let phases = NewPhases { clips: clips.into_iter().map(Into::into).collect(), align };
        let name = name.as_ref();
        let nth = self.phases.len();
        let mut same = self.phases.iter();
        let first = same.position(|known| known.role == self.role && known.name == name);
        self.check_name(Section::Phases, name, nth, first);
        let (role, name) = (self.role.clone(), name.to_string());
        self.phases.push(Added { role, name, id: 0, new: phases });
    }

    /// Adds a new thing to its list. A name that an earlier version of the reel had keeps its number.
    fn add<T>(
        &mut self,
        section: Section,
        name: &str,
        new: T,
        names: fn(&mut ReelNames) -> &mut Names,
        list: fn(&mut ReelBuilder) -> &mut Vec<Added<T>>,
    ) -> u16 {
        let nth = list(self).len();
        let alive = names(&mut self.names).find_alive(&self.role, name);
        let mut first = alive.map(|_| 0);
        if let Some(first) = &mut first {
            while list(self).get(*first).is_some_and(|known| Some(known.id) != alive) {
                *first += 1;
            }
        }
        let (role, id) = self.enter((section, name), nth, first, names);
        list(self).push(Added { role, name: String::from(name), id, new });
        id
    }

    /// Gives a name its number; the place of its thing in the list, and that of the first one of this name, if
    /// there is one.
    fn enter(
        &mut self,
        (section, name): (Section, &str),
        nth: usize,
        first: Option<usize>,
        names: fn(&mut ReelNames) -> &mut Names,
    ) -> (String, u16) {
        self.check_name(section, name, nth, first);
        let role = self.role.clone();
        let id = names(&mut self.names).add(&role, name).unwrap_or_else(|| {
            let (count, max) = (nth + 1, usize::from(NONE));
            let what = "names of one kind in a reel";
            self.refuse(section, name, nth, ProblemKind::TooMany { what, count, max });
            NONE
        });
        (role, id)
    }

    fn check_name(&mut self, section: Section, name: &str, nth: usize, first: Option<usize>) {
        let parts = if section == Section::Sheets { 2 } else { 1 };
        if let Some(bad) = name.splitn(parts, '.').find_map(|part| check_name(part).err()) {
            self.refuse(section, name, nth, ProblemKind::Name(bad));
        } else if let Some(first) = first {
            let kind = ProblemKind::NameTwice { name: name.to_string(), first };
            self.refuse(section, name, nth, kind);
        }
    }

    fn refuse(&mut self, section: Section, name: &str, nth: usize, kind: ProblemKind) {
        let (role, name) = (self.role.clone(), name.to_string());
        self.problems.push(Site { section, role, name, nth }.problem(None, None, kind));
    }
}

impl Section {
    /// For readers of files: says that part of what was written under this name could not be read. What
    /// refers to the name is then not reported as unknown, and what follows from the missing part is not
    /// reported either, so that one mistake does not look like many. The reel is not built: there is a
    /// [`Problem`] of the code `incomplete` for each such name.
    pub fn mark_incomplete(self, builder: &mut ReelBuilder, name: &str) {
        builder.incomplete.push((self, builder.role.clone(), name.to_string()));
    }

    /// For readers of files: how many of these a builder was given so far, of all roles. That is the
    /// [`nth`](Problem::nth) of the next one.
    #[must_use]
    pub fn count(self, builder: &ReelBuilder) -> usize {
        match self {
            Section::Role => 0,
            Section::Sheets => builder.sheets.len(),
            Section::Clips => builder.clips.len(),
            Section::Facings => builder.facings.len(),
            Section::Looks => builder.looks.len(),
            Section::Facts => builder.facts.len(),
            Section::Cues => builder.cues.len(),
            Section::Bridges => builder.bridges.len(),
            Section::Phases => builder.phases.len(),
        }
    }
}
