//! Roles to be read: by tools, and by those who want to know why a clip plays.

use alloc::string::String;
use alloc::vec::Vec;

use super::{CueTest, Reel};
use crate::cue::{CueData, CueTarget, FactData, FactKind, FactValue, RoleData, Test, Within};
use crate::facing::Facing;
use crate::ids::{ClipId, CueId, RoleId};
use crate::time::Ticks;

/// A role of a reel that has cues: read-only.
#[derive(Clone, Copy, Debug)]
#[non_exhaustive]
pub struct Role<'r> {
    /// Its id.
    pub id: RoleId,
    /// Its name; empty where none was named.
    pub name: &'r str,
    /// The reel that it is of.
    pub reel: &'r Reel,
    data: &'r RoleData,
}

/// A fact of a role: read-only.
#[derive(Clone, Debug)]
#[non_exhaustive]
pub struct Fact<'r> {
    /// Its name.
    pub name: &'r str,
    /// Its default value, of the type that all its values have.
    pub default: FactValue,
    /// How long it stays true, if it is a pulse: one tick for an instant.
    pub pulse: Option<Ticks>,
    /// Its choices; none for facts of other kinds.
    pub choices: &'r [String],
    pub(crate) slot: u8,
    pub(crate) data: &'r FactData,
}

/// A cue of a role: read-only.
#[derive(Clone, Copy, Debug)]
#[non_exhaustive]
pub struct Cue<'r> {
    /// Its id.
    pub id: CueId,
    /// Its name.
    pub name: &'r str,
    /// Whether it runs to the end of its clip.
    pub finishes: bool,
    /// Whether a fresh pulse starts it over.
    pub restarts: bool,
    /// Whether it always matches.
    pub is_always: bool,
    /// Whether a pulse is among its conditions.
    pub names_pulse: bool,
    /// The fact that its speed follows.
    pub speed_fact: Option<&'r str>,
    pub(crate) role: Role<'r>,
    pub(crate) data: &'r CueData,
}

impl Reel {
    /// A role that has cues; `None` for an id that the reel does not know.
    #[must_use]
    pub fn role(&self, role: RoleId) -> Option<Role<'_>> {
        Some(Role { id: role, name: self.name(role), reel: self, data: self.role_data(role)? })
    }
}

impl<'r> Role<'r> {
    /// Its facts.
    pub fn facts(&self) -> impl Iterator<Item = Fact<'r>> + use<'r> {
        let numbered = (0_u8..).zip(&self.data.facts);
        let defaults = &self.data.defaults;
        numbered.filter_map(|(slot, data)| {
            let (data, default) = (data.as_ref()?, *defaults.get(usize::from(slot))?);
            Some(Fact {
                name: &data.name,
                default: data.value_of(default),
                pulse: (data.kind == FactKind::Pulse).then(|| Ticks::new(u64::from(data.duration))),
                choices: &data.choices,
                slot,
                data,
            })
        })
    }

    /// Its cues, in the order in which they are evaluated.
    pub fn cues(&self) -> impl Iterator<Item = Cue<'r>> + use<'r> {
        let role = *self;
        self.data.cues.iter().map(move |data| Cue {
            id: data.id,
            name: role.reel.name(data.id),
            finishes: data.finish,
            restarts: data.restart,
            is_always: data.when.is_empty(),
            names_pulse: data.pulses != 0,
            speed_fact: data.speed.and_then(|speed| Some(&*role.fact(speed.slot())?.name)),
            role,
            data,
        })
    }

    /// A cue; `None` where the role does not have it.
    #[must_use]
    pub fn cue(&self, cue: CueId) -> Option<Cue<'r>> {
        self.cues().find(|known| known.id == cue)
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
            reel.facing_data(set).map_or_else(Vec::new, |set| set.clips.to_vec())
        }
    }
}

impl<'r> Cue<'r> {
    /// Its conditions, of which any one is enough; all tests of one must hold.
    #[must_use]
    pub fn conditions(&self) -> Vec<Vec<CueTest<'r>>> {
        let read = |test: &Test| self.role.read(test);
        self.data.when.iter().map(|condition| condition.iter().map(read).collect()).collect()
    }

    /// Whether it matches whenever the other one does, as far as their tests show.
    #[must_use]
    pub fn matches_whenever(&self, other: &Cue<'_>) -> bool {
        let implied = |wanted: &Test, given: &[Test]| given.iter().any(|test| test.implies(wanted));
        let covered = |given: &Vec<Test>| {
            self.data.when.iter().any(|all| all.iter().all(|test| implied(test, given)))
        };
        self.data.when.is_empty()
            || !other.data.when.is_empty() && other.data.when.iter().all(covered)
    }
}

impl<'r> Role<'r> {
    fn fact(&self, slot: u8) -> Option<&'r FactData> {
        self.data.facts.get(usize::from(slot))?.as_ref()
    }

    /// A test as data.
    fn read(&self, test: &Test) -> CueTest<'r> {
        let name = |slot: u8| self.fact(slot).map_or("", |fact| &*fact.name);
        match test {
            Test::Flag { slot, wanted, .. } => {
                CueTest::Is(name(*slot), Vec::from([FactValue::Flag(*wanted)]))
            }
            Test::Word { slot, among } => {
                let words = self.fact(*slot).map_or(&[][..], |fact| &fact.choices);
                let words = (0..).zip(words).filter(|(nth, _)| among >> nth & 1 != 0);
                let words = words.map(|(_, word)| FactValue::Choice(word.clone()));
                CueTest::Is(name(*slot), words.collect())
            }
            Test::Number { slot, within, .. } => {
                CueTest::Within(name(*slot), within.iter().map(Within::bounds).collect())
            }
            Test::Inside { span } => {
                let span = self.data.spans.get(usize::from(*span));
                CueTest::Inside(span.map_or("", |span| self.reel.name(*span)))
            }
            Test::Facing { among } => {
                let all = Facing::ALL.into_iter();
                CueTest::Facing(all.filter(|facing| among & 1 << *facing as u8 != 0).collect())
            }
        }
    }
}
