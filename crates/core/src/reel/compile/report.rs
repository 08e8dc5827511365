//! Where problems are written down while a reel is compiled.

use alloc::format;
use alloc::string::{String, ToString};
use alloc::vec::Vec;

use crate::reel::builder::Added;
use crate::reel::name_error::suggestions;
use crate::reel::name_table::Names;
use crate::reel::{Key, Problem, ProblemKind, Section, Site};

/// What a name may be of: its section, and the word for it in messages.
pub(super) const CLIP: Named = (Section::Clips, "clip");
pub(super) const FACINGS: Named = (Section::Facings, "facing set");
pub(super) const CUE: Named = (Section::Cues, "cue");
pub(super) const FACT: Named = (Section::Facts, "fact");
/// Marks and spans stand in clips: which of those could not be read does not matter.
pub(super) const MARK: Named = (Section::Clips, "mark");
pub(super) const SPAN: Named = (Section::Clips, "span");
pub(super) type Named = (Section, &'static str);

/// Among more problems than this, no names are suggested: for thousands of wrong names among thousands
/// of others that would take minutes.
const MAX_SUGGESTIONS: usize = 200;

/// All problems so far, and the names about which nothing more can be said.
pub(super) struct Report {
    pub(super) problems: Vec<Problem>,
    pub(super) incomplete: Vec<(Section, String, String)>,
}

impl Report {
    /// For the problems of one thing.
    pub(super) fn on<T>(&mut self, section: Section, nth: usize, added: &Added<T>) -> Refuse<'_> {
        self.at(&site_of(section, nth, added))
    }

    /// For the problems of the thing at a site.
    pub(super) fn at(&mut self, site: &Site) -> Refuse<'_> {
        Refuse { site: site.clone(), report: self }
    }

    /// Whether some of what has this name, or of its whole role, could not be read.
    pub(super) fn is_incomplete(&self, section: Section, role: &str, name: &str) -> bool {
        let has = |section: Section, name: &str| {
            let order = |known: &(Section, String, String)| {
                (known.0, &*known.1, &*known.2).cmp(&(section, role, name))
            };
            self.incomplete.binary_search_by(order).is_ok()
        };
        !self.incomplete.is_empty() && (has(section, name) || has(Section::Role, ""))
    }
}

/// The site of a whole thing.
pub(super) fn site_of<T>(section: Section, nth: usize, added: &Added<T>) -> Site {
    let (role, name) = (added.role.clone(), added.name.clone());
    Site { section, role, name, nth }
}

/// Collects the problems of one thing.
pub(super) struct Refuse<'f> {
    site: Site,
    pub(super) report: &'f mut Report,
}

impl Refuse<'_> {
    pub(super) fn role(&self) -> &str {
        &self.site.role
    }

    pub(super) fn name(&self) -> &str {
        &self.site.name
    }

    /// Whether some of this very thing could not be read.
    pub(super) fn is_incomplete(&self) -> bool {
        self.report.is_incomplete(self.site.section, &self.site.role, &self.site.name)
    }

    pub(super) fn say(
        &mut self,
        key: impl Into<Option<Key>>,
        index: Option<usize>,
        kind: ProblemKind,
    ) {
        self.report.problems.push(self.site.problem(key.into(), index, kind));
    }

    /// Reports an unknown name, among those of the role it names or else of the thing's own role. Nothing is
    /// reported if something of this name could not be read.
    pub(super) fn say_unknown(
        &mut self,
        key: impl Into<Option<Key>>,
        index: Option<usize>,
        (section, what): Named,
        name: &str,
        names: &Names,
    ) {
        let (role, short) = name.split_once('/').unwrap_or((&self.site.role, name));
        if self.report.is_incomplete(section, role, short) {
            return;
        }
        let few = self.report.problems.len() < MAX_SUGGESTIONS;
        let mut near = match few {
            true => suggestions(short, names.alive_in(role).map(|(_, known)| &*known.name)),
            false => Vec::new(),
        };
        if let Some((role, _)) = name.split_once('/') {
            near.iter_mut().for_each(|near| *near = format!("{role}/{near}"));
        }
        self.say(key, index, ProblemKind::Unknown { what, name: name.to_string(), near });
    }
}
