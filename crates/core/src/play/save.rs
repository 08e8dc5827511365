//! Players that outlive the program, by any serde format.

use alloc::string::String;
use core::fmt;

use super::player::{Plan, Player, STATE};
use crate::ids::{ClipId, NONE};
use crate::kernel::RETURNING;
use crate::reel::Reel;
use crate::time::Speed;

/// The version of what is written here.
const VERSION: u32 = 2;

/// A player as plain data, with names instead of clip ids, so that another build of the game can load
/// it. With the feature `serde` it can be written and read by any serde format, text or binary.
///
/// ```
/// # use lucky_reel_core::{Grid, NewClip, NewSheet, Player, Reel, Ticks};
/// # let mut builder = Reel::builder();
/// # let sheet = builder.sheet("fan", NewSheet::grid([64, 16], Grid::cell_size([16, 16])));
/// # let turn = builder.clip("turn", NewClip::of(sheet).frames(0..4).fps(8));
/// # let reel = builder.build()?;
/// let mut fan = Player::new(&reel, turn);
/// fan.advance(&reel, Ticks::from_millis(333));
/// let saved = fan.save(&reel);
/// assert_eq!(saved.load(&reel), Ok(fan));
/// # Ok::<(), lucky_reel_core::BuildError>(())
/// ```
#[derive(Clone, Debug, PartialEq, Eq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
#[cfg_attr(feature = "serde", serde(deny_unknown_fields))]
pub struct SavedPlayer {
    version: u32,
    clip: String,
    requested: String,
    /// Empty for the clip's own end.
    then: String,
    numbers: SavedNumbers,
}

/// All of a saved player but its clips.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
#[cfg_attr(feature = "serde", serde(deny_unknown_fields))]
pub(crate) struct SavedNumbers {
    hold: u16,
    returning: bool,
    cycle: i32,
    /// 65,536ths of a tick left of the hold.
    left: u64,
    /// In 65,536ths.
    speed: i32,
    /// In ticks.
    hit_stop: u32,
    /// Cycles that were asked for; 0 for as many as the clip says.
    times: u32,
    flags: u8,
    plays: u8,
}

/// Why something saved cannot be loaded.
#[derive(Clone, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub enum RestoreError {
    /// It was written by another version of the format.
    Version {
        /// The version that was found.
        found: u32,
    },
    /// The reel no longer has this clip.
    ClipGone {
        /// Its name, with its role.
        clip: String,
    },
    /// The reel no longer has this role, or it has no cues any more.
    RoleGone {
        /// Its name.
        role: String,
    },
    /// The numbers are not those of what was saved.
    Damaged,
}

impl fmt::Display for RestoreError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            RestoreError::Version { found } => {
                write!(
                    f,
                    "saved in version {found} of the format: load it with the library that saved it"
                )
            }
            RestoreError::ClipGone { clip } => {
                write!(f, "the reel no longer has the clip `{clip}`: play another one instead")
            }
            RestoreError::RoleGone { role } => {
                write!(
                    f,
                    "the reel no longer has the role `{role}` with cues: begin a new actor instead"
                )
            }
            RestoreError::Damaged => f.write_str("the saved data are damaged: begin anew"),
        }
    }
}

impl core::error::Error for RestoreError {}

impl SavedPlayer {
    pub(super) fn of(player: &Player, reel: &Reel) -> SavedPlayer {
        let name = |clip: u16| reel.full_clip_name(ClipId::new(player.family, clip));
        SavedPlayer {
            version: VERSION,
            clip: name(player.clip),
            requested: name(player.requested),
            then: name(player.plan.then),
            numbers: SavedNumbers::of(player),
        }
    }

    /// Restores the player, playing from this reel.
    ///
    /// # Errors
    /// When the reel has lost its clip, or the data are not those of a player. Where only the clip that
    /// was to follow is lost, the clip's own end follows.
    pub fn load(&self, reel: &Reel) -> Result<Player, RestoreError> {
        if self.version != VERSION {
            return Err(RestoreError::Version { found: self.version });
        }
        let find = |name: &String| find_clip(reel, name);
        let then = if self.then.is_empty() { NONE } else { find(&self.then).unwrap_or(NONE) };
        self.numbers.load(reel, [find(&self.clip)?, find(&self.requested)?, then])
    }
}

/// A clip by the name that was saved.
pub(crate) fn find_clip(reel: &Reel, name: &str) -> Result<u16, RestoreError> {
    let gone = || RestoreError::ClipGone { clip: name.into() };
    reel.data.names.clips.find_saved(name).ok_or_else(gone)
}

impl SavedNumbers {
    pub(crate) fn of(player: &Player) -> SavedNumbers {
        SavedNumbers {
            hold: player.place & !RETURNING,
            returning: player.place & RETURNING != 0,
            cycle: player.cycle,
            left: player.left,
            speed: player.speed().to_bits(),
            hit_stop: player.hit_stop,
            times: player.plan.times,
            flags: player.flags,
            plays: player.plays,
        }
    }

    /// The player again: what plays, what was asked for, what follows.
    pub(crate) fn load(
        &self,
        reel: &Reel,
        [clip, requested, then]: [u16; 3],
    ) -> Result<Player, RestoreError> {
        if self.hold & RETURNING != 0 || self.times > i32::MAX as u32 {
            return Err(RestoreError::Damaged);
        }
        let speed = Speed::from_bits(self.speed).map_err(|_| RestoreError::Damaged)?;
        let mut player = Player {
            left: self.left,
            pace: speed.into(),
            hit_stop: self.hit_stop,
            cycle: self.cycle,
            plan: Plan { times: self.times, then },
            place: self.hold | if self.returning { RETURNING } else { 0 },
            clip,
            requested,
            flags: self.flags,
            plays: self.plays,
            ..Player::of_number(reel, clip)
        };
        let clip = reel.clip_at(clip).ok_or(RestoreError::Damaged)?;
        player.fit(reel, clip);
        Ok(player)
    }
}

const _: () = assert!(STATE == 0b111, "every number in these bits is a state");
