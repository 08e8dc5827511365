//! From a name to its id and back, for every kind of id.

use alloc::string::String;
use alloc::vec::Vec;

use super::Reel;
use super::name_error::NameError;
use super::name_table::{Name, Names};
use crate::clip::{DataKey, DataType};
use crate::cue::{ChoiceId, FactData, FactId, FactKind, FactType, MAX_FACTS};
use crate::ids::{
    AreaId, BridgeId, ClipId, CueId, FacingSetId, Family, LookId, MarkId, NONE, PointId, RoleId,
    SheetId, SpanId,
};
use crate::order::by_number;

/// What names are looked up as: [`Reel::id`] finds one, [`Reel::name`] says its name.
///
/// All ids are `Copy`, compare, hash, and turn into a plain number and back by `to_bits` and
/// `from_bits`. The trait is sealed: the kinds of ids are those of this crate.
pub trait Id: Kind {}

impl<K: Kind> Id for K {}

/// The sealed part of [`Id`].
pub trait Kind: Copy {
    #[doc(hidden)]
    fn find(reel: &Reel, name: &str) -> Result<Self, NameError>;
    /// All that the reel has, in the order of their numbers.
    #[doc(hidden)]
    fn all(reel: &Reel) -> Vec<Self>;
    /// Its role and its name, where the reel has it.
    #[doc(hidden)]
    fn role_and_name(self, reel: &Reel) -> Option<(&str, &str)>;
}

impl Reel {
    /// The id of this name, `walk`, or of this role and name, `bram/walk`. Look it up once, and keep the
    /// id.
    ///
    /// A fact is looked up as what it is, `FactId<bool>`; a choice as `fact = choice`.
    ///
    /// ```
    /// # use lucky_reel_core::{ClipId, Grid, MarkId, NewClip, NewSheet, Reel};
    /// # let mut builder = Reel::builder();
    /// # let sheet = builder.sheet("bram", NewSheet::grid([128, 32], Grid::cell_size([32, 32])));
    /// # builder.clip("walk", NewClip::of(sheet).frames(0..4).fps(8).mark("step", [1, 3]));
    /// # let reel = builder.build()?;
    /// let walk: ClipId = reel.id("walk")?;
    /// let step: MarkId = reel.id("step")?;
    /// assert_eq!((reel.name(walk), reel.name(step)), ("walk", "step"));
    /// let error = reel.id::<ClipId>("wakl").unwrap_err();
    /// assert_eq!(error.to_string(), "there is no clip `wakl`: did you mean `walk`?");
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    ///
    /// # Errors
    /// When there is none, naming the nearest; when several roles have it; of a fact, when it is of
    /// another type.
    pub fn id<I: Id>(&self, name: &str) -> Result<I, NameError> {
        I::find(self, name)
    }

    /// All ids of a kind: clips, marks, looks, roles with cues.
    ///
    /// ```
    /// # use lucky_reel_core::{ClipId, Grid, MarkId, NewClip, NewSheet, Reel};
    /// # let mut builder = Reel::builder();
    /// # let sheet = builder.sheet("bram", NewSheet::grid([128, 32], Grid::cell_size([32, 32])));
    /// # builder.clip("idle", NewClip::of(sheet).frames(0..2).fps(2));
    /// # builder.clip("walk", NewClip::of(sheet).frames(0..4).fps(8));
    /// # let reel = builder.build()?;
    /// let names: Vec<&str> = reel.ids::<ClipId>().map(|clip| reel.name(clip)).collect();
    /// assert_eq!(names, ["idle", "walk"]);
    /// # Ok::<(), lucky_reel_core::BuildError>(())
    /// ```
    pub fn ids<I: Id>(&self) -> impl ExactSizeIterator<Item = I> + use<I> {
        I::all(self).into_iter()
    }

    /// The name of an id, without its role; empty where the reel does not know the id.
    #[must_use]
    pub fn name<I: Id>(&self, id: I) -> &str {
        id.role_and_name(self).map_or("", |(_, name)| name)
    }

    /// The role that an id's name belongs to; empty where no role was named, or the reel does not know
    /// the id.
    #[must_use]
    pub fn role_name<I: Id>(&self, id: I) -> &str {
        id.role_and_name(self).map_or("", |(role, _)| role)
    }

    /// The name with its role, for what is saved.
    pub(crate) fn full_name<I: Id>(&self, id: I) -> String {
        match id.role_and_name(self) {
            Some(("", name)) => name.into(),
            Some((role, name)) => alloc::format!("{role}/{name}"),
            None => String::new(),
        }
    }

    /// The role of a fact, and its slot there.
    fn fact_slot(&self, id: u16) -> (RoleId, usize) {
        let names = &self.data.names;
        let role = names.facts.get(usize::from(id)).map_or("", |name| &name.role);
        let role = names.roles.find("", role).unwrap_or(NONE);
        (RoleId::new(self.family, role), names.facts.rank(id))
    }

    /// A fact by the slot that an id says.
    pub(crate) fn fact_data<T: FactType>(&self, id: FactId<T>) -> Option<&FactData> {
        self.role_data(id.role)?.facts.get(usize::from(id.slot))?.as_ref()
    }
}

macro_rules! kinds {
    ($($id:ident: $what:literal in $table:ident;)*) => {$(
        impl Kind for $id {
            fn find(reel: &Reel, name: &str) -> Result<$id, NameError> {
                let found = reel.data.names.$table.look_up($what, name);
                Ok($id::new(reel.family, found?))
            }

            fn all(reel: &Reel) -> Vec<$id> {
                all(&reel.data.names.$table, $id::new)
            }

            fn role_and_name(self, reel: &Reel) -> Option<(&str, &str)> {
                known(&reel.data.names.$table, self.number_in(reel.family))
            }
        }
    )*};
}

kinds! {
    SheetId: "sheet" in sheets;
    MarkId: "mark" in marks;
    SpanId: "span" in spans;
    PointId: "point" in points;
    AreaId: "area" in areas;
    RoleId: "role with cues" in roles;
    FacingSetId: "facing set" in facings;
    LookId: "look" in looks;
    CueId: "cue" in cues;
    BridgeId: "bridge" in bridges;
}

fn all<I>(names: &Names, new: fn(Family, u16) -> I) -> Vec<I> {
    let mut ids = Vec::new();
    for (number, _) in names.alive() {
        ids.push(new(names.family, number as u16));
    }
    ids
}

fn known(names: &Names, number: Option<u16>) -> Option<(&str, &str)> {
    names.of(number).map(|Name { role, name, .. }| (&**role, &**name))
}

impl Kind for ClipId {
    fn find(reel: &Reel, name: &str) -> Result<ClipId, NameError> {
        let id = reel.data.names.clips.look_up("clip", name).map_err(|error| {
            let set = FacingSetId::find(reel, name).ok().and_then(|set| reel.facing_data(set));
            let Some(set) = set else { return error };
            let mut clips = by_number(set.clips.to_vec(), |clip| clip.index() as u64);
            clips.dedup();
            let names = clips.iter().map(|clip| String::from(reel.name(*clip)));
            NameError::facing_set(name, names.collect())
        })?;
        Ok(ClipId::new(reel.family, id))
    }

    fn all(reel: &Reel) -> Vec<ClipId> {
        all(&reel.data.names.clips, ClipId::new)
    }

    fn role_and_name(self, reel: &Reel) -> Option<(&str, &str)> {
        known(&reel.data.names.clips, self.number_in(reel.family))
    }
}

impl<T: FactType> Kind for FactId<T> {
    fn find(reel: &Reel, name: &str) -> Result<FactId<T>, NameError> {
        let (role, slot) = reel.fact_slot(reel.data.names.facts.look_up("fact", name)?);
        let id = FactId::new(role, slot as u8);
        let is = match reel.fact_data(id) {
            Some(fact) if fact.kind == T::KIND => return Ok(id),
            Some(fact) => fact.kind.describe(),
            None => "of a role without cues",
        };
        Err(NameError::of_kind("fact", name, is, T::KIND.describe()))
    }

    fn all(reel: &Reel) -> Vec<FactId<T>> {
        let mut ids = Vec::new();
        for role in RoleId::all(reel) {
            for slot in 0..MAX_FACTS as u8 {
                let id = FactId::new(role, slot);
                if reel.fact_data(id).is_some_and(|fact| fact.kind == T::KIND) {
                    ids.push(id);
                }
            }
        }
        ids
    }

    fn role_and_name(self, reel: &Reel) -> Option<(&str, &str)> {
        let fact = reel.fact_data(self).filter(|fact| fact.kind == T::KIND)?;
        Some((Kind::role_and_name(self.role, reel)?.1, &fact.name))
    }
}

/// Looked up as `fact = choice`.
impl Kind for ChoiceId {
    fn find(reel: &Reel, name: &str) -> Result<ChoiceId, NameError> {
        let (fact, word) = name.split_once('=').unwrap_or((name, ""));
        let (fact, word) = (fact.trim(), word.trim());
        let id = FactId::<ChoiceId>::find(reel, fact)?;
        let words = reel.fact_data(id).map_or(&[][..], |data| &data.choices);
        match words.iter().position(|known| known == word) {
            Some(index) => Ok(ChoiceId { role: id.role, slot: id.slot, index: index as u8 }),
            None => Err(NameError::unknown("choice", word, words)),
        }
    }

    fn all(reel: &Reel) -> Vec<ChoiceId> {
        let mut ids = Vec::new();
        for fact in FactId::<ChoiceId>::all(reel) {
            let count = reel.fact_data(fact).map_or(0, |fact| fact.choices.len() as u8);
            let (role, slot) = (fact.role, fact.slot);
            ids.extend((0..count).map(|index| ChoiceId { role, slot, index }));
        }
        ids
    }

    fn role_and_name(self, reel: &Reel) -> Option<(&str, &str)> {
        let fact = reel.fact_data(FactId::<ChoiceId>::new(self.role, self.slot))?;
        let word = fact.choices.get(self.index())?;
        Some((Kind::role_and_name(self.role, reel)?.1, word))
    }
}

impl<T: DataType + ?Sized> Kind for DataKey<T> {
    fn find(reel: &Reel, name: &str) -> Result<DataKey<T>, NameError> {
        let number = reel.data.names.data.look_up("data key", name)?;
        match reel.data.mark_data.kind(number) {
            Some(kind) if kind == T::KIND => Ok(DataKey::new(reel.family, number)),
            kind => {
                let is = kind.map_or("unused", FactKind::describe_data);
                Err(NameError::of_kind("data key", name, is, T::KIND.describe_data()))
            }
        }
    }

    fn all(reel: &Reel) -> Vec<DataKey<T>> {
        let mut keys = all(&reel.data.names.data, DataKey::new);
        keys.retain(|key| reel.data.mark_data.kind(key.number) == Some(T::KIND));
        keys
    }

    fn role_and_name(self, reel: &Reel) -> Option<(&str, &str)> {
        let number = self.number_in(reel.family);
        let number = number.filter(|key| reel.data.mark_data.kind(*key) == Some(T::KIND));
        known(&reel.data.names.data, number)
    }
}
