//! Roles to be read: by tools, and by those who want to know why a clip plays.

use alloc::format;
use alloc::string::String;
use alloc::vec::Vec;

use super::Reel;
use crate::cue::{
    CueData, CueTarget, FactData, FactKind, FactValue, RoleData, Test, describe_number,
};
use crate::facing::Facing;
use crate::ids::{ClipId, CueId, RoleId};
use crate::time::{ExactTime, Ticks};

/// A role of a reel: read-only.
#[derive(Clone, Copy, Debug)]
pub struct Role<'r> {
    reel: &'r Reel,
    id: RoleId,
    data: &'r RoleData,
}

/// A fact of a role: read-only.
#[derive(Clone, Copy, Debug)]
pub struct Fact<'r> {
    pub(crate) slot: u8,
    pub(crate) data: &'r FactData,
    default: u32,
}

/// A cue of a role: read-only.
#[derive(Clone, Copy, Debug)]
pub struct Cue<'r> {
    pub(crate) role: Role<'r>,
    pub(crate) data: &'r CueData,
}

impl Reel {
    /// The roles that have cues.
    pub fn roles(&self) -> impl Iterator<Item = Role<'_>> {
        let numbered = (0_u16..).zip(&self.data.roles);
        numbered.filter_map(|(id, data)| {
            Some(Role { reel: self, id: RoleId::new(self.family, id), data: data.as_ref()? })
        })
    }

    /// A role; `None` for a dead or foreign id.
    #[must_use]
    pub fn role(&self, role: RoleId) -> Option<Role<'_>> {
        Some(Role { reel: self, id: role, data: self.role_data(role)? })
    }
}

impl<'r> Role<'r> {
    /// The reel that it is of.
    #[must_use]
    pub fn reel(&self) -> &'r Reel {
        self.reel
    }

    /// Its id.
    #[must_use]
    pub fn id(&self) -> RoleId {
        self.id
    }

    /// Its name; empty where none was named.
    #[must_use]
    pub fn name(&self) -> &'r str {
        self.reel
            .data
            .names
            .roles
            .of(self.id.number_in(self.reel.family))
            .map_or("", |name| &name.name)
    }

    /// Its facts.
    pub fn facts(&self) -> impl Iterator<Item = Fact<'r>> + use<'r> {
        let numbered = (0_u8..).zip(&self.data.facts);
        let defaults = &self.data.defaults;
        numbered.filter_map(|(slot, data)| {
            let default = *defaults.get(usize::from(slot))?;
            Some(Fact { slot, data: data.as_ref()?, default })
        })
    }

    /// Its cues, in the order in which they are evaluated.
    pub fn cues(&self) -> impl Iterator<Item = Cue<'r>> + use<'r> {
        let role = *self;
        self.data.cues.iter().map(move |data| Cue { role, data })
    }

    /// A cue; `None` if the role does not have it.
    #[must_use]
    pub fn cue(&self, id: CueId) -> Option<Cue<'r>> {
        self.cues().find(|cue| cue.id() == id)
    }

    /// All clips that its cues and bridges name.
    #[must_use]
    pub fn clips(&self) -> Vec<ClipId> {
        let cues = self.data.cues.iter().map(|cue| cue.target);
        let targets = cues.chain(self.data.bridges.iter().map(|bridge| bridge.target));
        targets.flat_map(|target| clips_of(self.reel, target)).collect()
    }
}

/// The clip of a target, or the eight of its facing set.
fn clips_of(reel: &Reel, target: CueTarget) -> Vec<ClipId> {
    match target {
        CueTarget::Clip(clip) => Vec::from([clip]),
        CueTarget::Facings(set) => {
            reel.facing_set(set).map_or_else(Vec::new, |set| set.clips.to_vec())
        }
    }
}

impl<'r> Fact<'r> {
    /// Its name.
    #[must_use]
    pub fn name(&self) -> &'r str {
        &self.data.name
    }

    /// Its kind.
    #[must_use]
    pub fn kind(&self) -> FactKind {
        self.data.kind
    }

    /// How long a pulse is up: one tick for an instant.
    #[must_use]
    pub fn duration(&self) -> ExactTime {
        Ticks::new(u64::from(self.data.duration)).into()
    }

    /// Its default value.
    #[must_use]
    pub fn default(&self) -> FactValue {
        self.data.value_of(self.default)
    }

    /// Its choices; none for facts of other types.
    #[must_use]
    pub fn choices(&self) -> &'r [String] {
        &self.data.choices
    }
}

impl<'r> Cue<'r> {
    /// Its id.
    #[must_use]
    pub fn id(&self) -> CueId {
        self.data.id
    }

    /// Its name.
    #[must_use]
    pub fn name(&self) -> &'r str {
        self.role.reel.cue_name(self.data.id)
    }

    /// Whether it runs to the end of its clip.
    #[must_use]
    pub fn finishes(&self) -> bool {
        self.data.finish
    }

    /// Whether a fresh pulse starts it over.
    #[must_use]
    pub fn restarts(&self) -> bool {
        self.data.restart
    }

    /// Whether it always matches.
    #[must_use]
    pub fn is_always(&self) -> bool {
        self.data.when.is_empty()
    }

    /// Whether a pulse is among its conditions.
    #[must_use]
    pub fn names_pulse(&self) -> bool {
        self.data.pulses != 0
    }

    /// The clips that it may play, each once.
    #[must_use]
    pub fn clips(&self) -> Vec<ClipId> {
        let mut clips = self.plays();
        clips.sort_unstable();
        clips.dedup();
        clips
    }

    /// The clip that it plays, or the eight of its facing set.
    pub(crate) fn plays(&self) -> Vec<ClipId> {
        clips_of(self.role.reel, self.data.target)
    }

    /// Its conditions in words: one of the lists must match, with all of its parts.
    #[must_use]
    pub fn conditions(&self) -> Vec<Vec<String>> {
        let describe = |test: &Test| self.role.describe(test);
        self.data.when.iter().map(|condition| condition.iter().map(describe).collect()).collect()
    }

    /// Whether it matches whenever the other one does, as far as their parts show.
    #[must_use]
    pub fn matches_whenever(&self, other: &Cue<'_>) -> bool {
        let implied = |wanted: &Test, given: &[Test]| given.iter().any(|test| test.implies(wanted));
        let covered = |given: &Vec<Test>| {
            self.data.when.iter().any(|all| all.iter().all(|test| implied(test, given)))
        };
        self.data.when.is_empty()
            || !other.data.when.is_empty() && other.data.when.iter().all(covered)
    }

    /// The facts that its conditions and its speed use, by name.
    pub fn facts(&self) -> impl Iterator<Item = &'r str> + use<'r> {
        let (role, data) = (self.role, self.data);
        let by_speed = data.speed.map(|speed| speed.slot());
        let slots = data.when.iter().flatten().filter_map(Test::slot).chain(by_speed);
        slots.filter_map(move |slot| Some(&*role.data.facts.get(usize::from(slot))?.as_ref()?.name))
    }
}

impl Role<'_> {
    pub(crate) fn fact(&self, slot: u8) -> (&str, &[String]) {
        let data = self.data.facts.get(usize::from(slot)).and_then(Option::as_ref);
        data.map_or(("", &[]), |data| (&data.name, &data.choices))
    }

    fn span_name(&self, span: u8) -> &str {
        self.data.spans.get(usize::from(span)).map_or("", |span| self.reel.span_name(*span))
    }

    /// A test as it is wanted.
    pub(crate) fn describe(&self, test: &Test) -> String {
        match test {
            Test::Flag { slot, wanted, .. } => format!("{} = {wanted}", self.fact(*slot).0),
            Test::Number { slot, whole, within } => {
                let ranges: Vec<String> =
                    within.iter().map(|within| describe_number(within, *whole)).collect();
                format!("{} {}", self.fact(*slot).0, ranges.join(" or "))
            }
            Test::Word { slot, among } => {
                let (name, words) = self.fact(*slot);
                let words = (0..).zip(words).filter(|(nth, _)| among >> nth & 1 != 0);
                let words: Vec<&str> = words.map(|(_, word)| &**word).collect();
                format!("{name} = {}", words.join(" or "))
            }
            Test::Inside { span } => format!("inside = {}", self.span_name(*span)),
            Test::Facing { among } => {
                let among =
                    Facing::ALL.into_iter().filter(|facing| among & 1 << *facing as u8 != 0);
                let names: Vec<&str> = among.map(Facing::name).collect();
                format!("facing = {}", names.join(" or "))
            }
        }
    }
}
