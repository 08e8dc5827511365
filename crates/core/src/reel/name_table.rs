//! Names and the numbers behind them.

use alloc::format;
use alloc::string::{String, ToString};
use alloc::sync::Arc;
use alloc::vec::Vec;
use core::sync::atomic::{AtomicU32, Ordering};

use super::name_error::NameError;
use crate::checksum;
use crate::ids::{Family, NONE};

/// All names of a reel.
#[derive(Clone, Debug)]
pub(crate) struct ReelNames {
    pub(crate) family: Family,
    pub(crate) sheets: Names,
    pub(crate) clips: Names,
    pub(crate) marks: Names,
    pub(crate) spans: Names,
    pub(crate) points: Names,
    pub(crate) areas: Names,
    pub(crate) facings: Names,
    pub(crate) looks: Names,
    /// The roles that have cues, each in a role of no name.
    pub(crate) roles: Names,
    pub(crate) facts: Names,
    pub(crate) cues: Names,
    pub(crate) bridges: Names,
    /// Keys of data on marks, in a role of no name: a key is that of all roles.
    pub(crate) data: Names,
}

impl ReelNames {
    /// No names yet, of a family of its own.
    pub(crate) fn new() -> ReelNames {
        let family = Family::new();
        let none = || Names::new(family);
        ReelNames {
            family,
            sheets: none(),
            clips: none(),
            marks: none(),
            spans: none(),
            points: none(),
            areas: none(),
            facings: none(),
            looks: none(),
            roles: none(),
            facts: none(),
            cues: none(),
            bridges: none(),
            data: none(),
        }
    }

    /// The same names with the same numbers, none of them alive.
    pub(crate) fn for_next_version(&self) -> ReelNames {
        let mut next = self.clone();
        for names in [
            &mut next.sheets,
            &mut next.clips,
            &mut next.marks,
            &mut next.spans,
            &mut next.points,
            &mut next.areas,
            &mut next.facings,
            &mut next.looks,
            &mut next.roles,
            &mut next.facts,
            &mut next.cues,
            &mut next.bridges,
            &mut next.data,
        ] {
            names.list.iter_mut().flatten().for_each(|name| name.alive = false);
        }
        next
    }
}

/// A table of names within roles. A name's number never changes, also in later versions of a reel.
///
/// Numbers are drawn from a counter that all builds of a family share, so that two builds made from the
/// same base never give one number to two names.
#[derive(Clone, Debug)]
pub(crate) struct Names {
    pub(crate) family: Family,
    /// `None` for a number that another build of the family has drawn.
    list: Vec<Option<Name>>,
    /// The numbers, sorted by name, then by role.
    by_name: Vec<u16>,
    /// The numbers, sorted by role, then as they are.
    by_role: Vec<u16>,
    next: Arc<AtomicU32>,
}

#[derive(Clone, Debug)]
pub(crate) struct Name {
    pub(crate) role: String,
    pub(crate) name: String,
    /// For checksums: of the role and the name, as numbers may differ from machine to machine.
    pub(crate) sum: u64,
    /// Whether this version of the reel has it.
    pub(crate) alive: bool,
}

impl Names {
    fn new(family: Family) -> Names {
        let (list, by_name, by_role) = (Vec::new(), Vec::new(), Vec::new());
        Names { family, list, by_name, by_role, next: Arc::default() }
    }

    fn name(&self, id: u16) -> Option<&Name> {
        self.list.get(usize::from(id))?.as_ref()
    }

    /// What a number counts in a checksum: 0 where it stands for no name.
    #[inline]
    pub(crate) fn sum(&self, id: u16) -> u64 {
        self.name(id).map_or(0, |name| name.sum)
    }

    /// The number of a name, also of one that this version of the reel has lost.
    pub(crate) fn find(&self, role: &str, name: &str) -> Option<u16> {
        let at = self.place_by_name(role, name).ok()?;
        Some(self.by_name[at])
    }

    fn place_by_name(&self, role: &str, name: &str) -> Result<usize, usize> {
        self.by_name.binary_search_by(|id| {
            self.name(*id).map_or(("", ""), |known| (&known.name, &known.role)).cmp(&(name, role))
        })
    }

    /// The numbers of this name in all roles.
    fn of_name(&self, name: &str) -> &[u16] {
        let of = |id: &u16| self.name(*id).map_or("", |known| &known.name);
        range(&self.by_name, |id| of(id) < name, |id| of(id) == name)
    }

    /// The numbers of the names of a role, also of those that this version of the reel has lost.
    pub(crate) fn of_role(&self, role: &str) -> &[u16] {
        let of = |id: &u16| self.name(*id).map_or("", |known| &known.role);
        range(&self.by_role, |id| of(id) < role, |id| of(id) == role)
    }

    /// The names of a role that this version of the reel has, with their numbers.
    pub(crate) fn alive_in(&self, role: &str) -> impl Iterator<Item = (u16, &Name)> + Clone {
        let known = self.of_role(role).iter();
        known.filter_map(|&id| Some((id, self.get(usize::from(id))?)))
    }

    /// The number of a name that this version of the reel has.
    pub(crate) fn find_alive(&self, role: &str, name: &str) -> Option<u16> {
        self.find(role, name).filter(|id| self.get(usize::from(*id)).is_some())
    }

    /// The number of a name, new or known; `None` when there is no number left.
    pub(crate) fn add(&mut self, role: &str, name: &str) -> Option<u16> {
        let id = match self.find(role, name) {
            Some(id) => id,
            None => {
                let id = self.next.fetch_add(1, Ordering::Relaxed);
                let id = u16::try_from(id).ok().filter(|&id| id < NONE)?;
                let by_name = self.place_by_name(role, name).unwrap_or_else(|at| at);
                // A new number is higher than any other of its role.
                let of = |id: &u16| self.name(*id).map_or("", |known| &known.role);
                let by_role = self.by_role.partition_point(|id| of(id) <= role);
                self.by_name.insert(by_name, id);
                self.by_role.insert(by_role, id);
                let index = usize::from(id);
                self.list.resize_with(self.list.len().max(index + 1), || None);
                let sum = checksum::of_name(role, name);
                let (role, name) = (role.to_string(), name.to_string());
                self.list[index] = Some(Name { role, name, sum, alive: false });
                id
            }
        };
        if let Some(name) = &mut self.list[usize::from(id)] {
            name.alive = true;
        }
        Some(id)
    }

    /// Index of this name within its role, counting removed names: the same in all versions.
    pub(crate) fn rank(&self, id: u16) -> usize {
        let Some(name) = self.name(id) else { return usize::MAX };
        self.of_role(&name.role).partition_point(|other| *other < id)
    }

    pub(crate) fn get(&self, id: usize) -> Option<&Name> {
        self.list.get(id)?.as_ref().filter(|name| name.alive)
    }

    /// A name by its number, where there is one.
    pub(crate) fn of(&self, id: Option<u16>) -> Option<&Name> {
        self.get(usize::from(id?))
    }

    pub(crate) fn len(&self) -> usize {
        self.list.len()
    }

    pub(crate) fn alive(&self) -> impl Iterator<Item = (usize, &Name)> + Clone {
        let all = self.list.iter().enumerate();
        all.filter_map(|(id, name)| Some((id, name.as_ref().filter(|name| name.alive)?)))
    }

    /// The number of `role/name`, or of `name` where only one role has it; the numbers of two where several
    /// have it.
    fn find_wanted(&self, wanted: &str) -> Result<Option<u16>, [u16; 2]> {
        if let Some((role, name)) = wanted.split_once('/') {
            return Ok(self.find_alive(role, name));
        }
        let living = |id: &u16| self.get(usize::from(*id)).is_some();
        let mut same = self.of_name(wanted).iter().copied().filter(living);
        match (same.next(), same.next()) {
            (Some(one), Some(other)) => Err([one, other]),
            (found, _) => Ok(found),
        }
    }

    /// The number of a name that was written by this library, at no cost where there is none.
    pub(crate) fn find_saved(&self, name: &str) -> Option<u16> {
        self.find_wanted(name).ok().flatten()
    }

    /// The number of `role/name`, or of `name` where only one role has it.
    pub(crate) fn look_up(&self, kind: &'static str, wanted: &str) -> Result<u16, NameError> {
        match self.find_wanted(wanted) {
            Ok(Some(id)) => return Ok(id),
            Ok(None) => {}
            Err(several) => {
                let [one, other] =
                    several.map(|id| self.name(id).map_or_else(String::new, Name::full));
                return Err(NameError::several(kind, wanted, one, other));
            }
        }
        let full_wanted = wanted.contains('/');
        let names =
            self.alive().map(|(_, name)| if full_wanted { name.full() } else { name.name.clone() });
        let names: Vec<String> = names.collect();
        Err(NameError::unknown(kind, wanted, &names))
    }
}

/// The part of a sorted list that lies behind these and is of those.
fn range(list: &[u16], before: impl Fn(&u16) -> bool, within: impl Fn(&u16) -> bool) -> &[u16] {
    let list = &list[list.partition_point(before)..];
    &list[..list.partition_point(within)]
}

impl Name {
    /// `role/name`, or the name alone where there are no roles.
    pub(crate) fn full(&self) -> String {
        if self.role.is_empty() {
            self.name.clone()
        } else {
            format!("{}/{}", self.role, self.name)
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn names_keep_their_numbers_from_version_to_version() {
        let mut all = ReelNames::new();
        let names = &mut all.clips;
        let walk = names.add("bram", "walk").unwrap();
        let idle = names.add("moth", "idle").unwrap();
        assert_eq!(names.add("bram", "walk"), Some(walk));
        assert_eq!(
            (names.look_up("clip", "walk"), names.look_up("clip", "moth/idle")),
            (Ok(walk), Ok(idle))
        );

        let mut next = all.for_next_version().clips;
        assert!(next.get(usize::from(walk)).is_none() && next.look_up("clip", "walk").is_err());
        let hover = next.add("moth", "hover").unwrap();
        assert_eq!(next.add("moth", "idle"), Some(idle));
        assert!(hover > idle && next.alive().count() == 2);

        // Two builds of one base never share a number.
        let mut sibling = all.for_next_version().clips;
        let dive = sibling.add("moth", "dive").unwrap();
        assert!(dive > hover && sibling.get(usize::from(hover)).is_none());
        assert_eq!(sibling.rank(dive), 1);
    }
}
