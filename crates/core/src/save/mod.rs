//! What all that is saved has in common: one version, one table of names, and what a reel has lost since.
//!
//! Saves hold names, each once, and plain numbers, so that another build of the game can load them.
//!
//! # Versions
//!
//! A save says the version of its format. A library loads the saves of its own version and refuses all
//! others, [`RestoreError::Version`]: nothing is read as what it was not. The format changes with a major
//! version of the library alone.

mod names;

pub(crate) use names::NameWriter;
#[allow(unreachable_pub)] // a sealed trait names it
pub use names::{FoundNames, SavedNames};

use alloc::vec::Vec;
use core::fmt;

use crate::ids::ClipId;
use crate::reel::{NameError, Reel};

/// The version of all that is written here.
const VERSION: u32 = 3;

/// A player, an actor, a crowd or a unison as plain data, with names instead of ids, each once, so that
/// another build of the game can load it. With the feature `serde` it can be written and read by any serde
/// format, text or binary.
///
/// `save` of each of them makes one.
///
/// ```
/// use lucky_reel_core::{ClipId, Grid, NewClip, NewSheet, Player, Reel, RestoreError, Saved};
///
/// # let mut builder = Reel::builder();
/// # let sheet = builder.sheet("bram", NewSheet::grid([128, 32], Grid::cell_size([32, 32])));
/// # let new = || NewClip::of(sheet).frames(0..4).fps(8);
/// # let wave = builder.clip("wave", new());
/// # let before = builder.build()?;
/// # let mut builder = Reel::builder();
/// # let sheet = builder.sheet("bram", NewSheet::grid([128, 32], Grid::cell_size([32, 32])));
/// # builder.clip("idle", NewClip::of(sheet).frames([0]));
/// # let now = builder.build()?;
/// let saved: Saved<Player> = Player::new(&before, wave).save(&before);
/// assert!(saved.load(&before).is_ok());
///
/// // A version of the game later, the clip `wave` is gone.
/// assert!(matches!(saved.load(&now), Err(RestoreError::Missing(_))));
/// let idle: ClipId = now.id("idle")?;
/// let (player, missing) = saved.restore(&now, |_| Some(idle))?;
/// assert_eq!((player.clip(), &*missing[0].name), (idle, "wave"));
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[derive(Clone, Debug, PartialEq, Eq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
#[cfg_attr(feature = "serde", serde(deny_unknown_fields))]
#[cfg_attr(
    feature = "serde",
    serde(bound(
        serialize = "T::Data: serde::Serialize",
        deserialize = "T::Data: serde::de::DeserializeOwned"
    ))
)]
pub struct Saved<T: Savable> {
    version: u32,
    names: SavedNames,
    data: T::Data,
}

impl<T: Savable> Saved<T> {
    pub(crate) fn new(names: NameWriter<'_>, data: T::Data) -> Saved<T> {
        Saved { version: VERSION, names: names.finish(), data }
    }

    /// Restores what was saved, playing from this reel.
    ///
    /// # Errors
    /// When the reel has lost a name that was saved, all of them; when another version of the library has
    /// saved it; when the data are not those of what was saved.
    pub fn load(&self, reel: &Reel) -> Result<T, RestoreError> {
        self.check_version()?;
        let names = self.names.find(reel, |_| None);
        if !names.missing.is_empty() {
            return Err(RestoreError::Missing(names.missing));
        }
        T::load(&self.data, reel, &names)?.ok_or(RestoreError::Damaged)
    }

    /// Restores with what the reel still has, and gives what is missing: for each clip that is lost,
    /// `replacement` says which one plays instead (in a unison a clip that is lost is left out). A clip that
    /// was to follow may be lost: its clip's own end follows. A fact that is lost, or can no longer be what
    /// it was, begins at its default; after a cue that is lost the cues are evaluated anew; a look that is
    /// lost is taken off. Members of a crowd whose clip or role is lost are left out.
    ///
    /// # Errors
    /// When the clip of a player or an actor is lost and nothing plays instead, or an actor's role is lost;
    /// when another version of the library has saved it; when the data are not those of what was saved.
    pub fn restore(
        &self,
        reel: &Reel,
        replacement: impl FnMut(&NameError) -> Option<ClipId>,
    ) -> Result<(T, Vec<NameError>), RestoreError> {
        self.check_version()?;
        let names = self.names.find(reel, replacement);
        match T::load(&self.data, reel, &names)? {
            Some(restored) => Ok((restored, names.missing)),
            None if names.missing.is_empty() => Err(RestoreError::Damaged),
            None => Err(RestoreError::Missing(names.missing)),
        }
    }

    /// Refuses what another version has written.
    fn check_version(&self) -> Result<(), RestoreError> {
        let found = self.version;
        if found == VERSION { Ok(()) } else { Err(RestoreError::Version { found }) }
    }
}

/// What can be saved: players, actors, crowds and unisons. The trait is sealed.
pub trait Savable: Sized {
    #[doc(hidden)]
    type Data;
    /// `None` where it plays nothing without what the reel has lost.
    #[doc(hidden)]
    fn load(
        data: &Self::Data,
        reel: &Reel,
        names: &FoundNames<'_>,
    ) -> Result<Option<Self>, RestoreError>;
}

/// Why something saved cannot be restored.
#[derive(Clone, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub enum RestoreError {
    /// It was written in another version of the format.
    Version {
        /// The version that was found.
        found: u32,
    },
    /// The reel does not have these names any more: `restore` goes on without them.
    Missing(Vec<NameError>),
    /// The numbers are not those of what was saved.
    Damaged,
}

impl fmt::Display for RestoreError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            RestoreError::Version { found } => {
                let read = VERSION;
                write!(
                    f,
                    "saved in version {found} of the format, and this library reads version {read}: \
                     load it with the library that saved it"
                )
            }
            RestoreError::Missing(names) => {
                f.write_str("the reel no longer has ")?;
                for (nth, name) in names.iter().enumerate() {
                    let NameError { kind, name, .. } = name;
                    write!(f, "{}the {kind} `{name}`", if nth > 0 { ", " } else { "" })?;
                }
                f.write_str(": call `restore` and say what plays instead")
            }
            RestoreError::Damaged => f.write_str("the saved data are damaged: begin anew"),
        }
    }
}

impl core::error::Error for RestoreError {}
