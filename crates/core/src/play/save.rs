//! Players that outlive the program: as any serde format, or as bytes.

use alloc::format;
use alloc::string::{String, ToString};
use core::fmt;

use super::parts::Parts;
use super::player::{Player, STATE, State};
use crate::clip::RETURNING;
use crate::ids::ClipId;
use crate::reel::Reel;
use crate::time::Speed;

/// The version of what is written here.
const VERSION: u32 = 1;

/// A player as plain data, its clips by name, so that it finds them again in another build of the
/// game. With the feature `serde` it can be written and read by any serde format.
///
/// ```
/// # use lucky_reel_core::{Grid, NewClip, NewSheet, Player, Reel, Ticks};
/// # let mut builder = Reel::builder();
/// # let sheet = builder.sheet("fan", NewSheet::grid([64, 16], Grid::cells([16, 16])));
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
    asked: String,
    hold: u16,
    returning: bool,
    cycle: i32,
    /// 65,536ths of a tick left of the hold.
    left: u64,
    /// In 65,536ths.
    speed: i32,
    /// In ticks.
    hit_stop: u32,
    flags: u8,
    play: u8,
}

/// Why a saved player can not be loaded.
#[derive(Clone, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub enum SaveError {
    /// It was written by another version of the format.
    Version {
        /// The version that was found.
        found: u32,
    },
    /// The reel has lost the clip.
    ClipGone {
        /// Its name, where it is known.
        clip: String,
    },
    /// The numbers are not those of a player.
    Damaged,
}

impl fmt::Display for SaveError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            SaveError::Version { found } => write!(
                f,
                "the player was saved in version {found} of the format, not {VERSION}: load it with the \
                 library that saved it"
            ),
            SaveError::ClipGone { clip } => write!(
                f,
                "the reel no longer has the clip {clip} that was saved: play another one instead"
            ),
            SaveError::Damaged => {
                f.write_str("these are not the data of a saved player: play a clip from its start")
            }
        }
    }
}

impl core::error::Error for SaveError {}

impl SavedPlayer {
    /// The player again, playing from this reel.
    ///
    /// # Errors
    /// When the reel has lost its clip, or the data are not those of a player.
    pub fn load(&self, reel: &Reel) -> Result<Player, SaveError> {
        if self.version != VERSION {
            return Err(SaveError::Version { found: self.version });
        }
        let find = |name: &str| {
            let gone = |_| SaveError::ClipGone { clip: format!("`{name}`") };
            reel.clip(name).map_err(gone)
        };
        self.restore(reel, find(&self.clip)?, find(&self.asked)?)
    }
}

impl Player {
    /// How many bytes [`to_bytes`](Player::to_bytes) gives.
    pub const BYTES: usize = 44;

    /// This player as plain data, its clips by name.
    #[must_use]
    pub fn save(&self, reel: &Reel) -> SavedPlayer {
        self.save_with_names(full_name(reel, self.clip), full_name(reel, self.asked))
    }

    /// All but its clips, for stores that write their names down once.
    pub(crate) fn plain_bytes(&self) -> Plain {
        self.save_with_names(String::new(), String::new()).to_plain_bytes()
    }

    fn save_with_names(&self, clip: String, asked: String) -> SavedPlayer {
        SavedPlayer {
            version: VERSION,
            clip,
            asked,
            hold: self.place & !RETURNING,
            returning: self.place & RETURNING != 0,
            cycle: self.cycle,
            left: self.remain,
            speed: self.speed().to_bits(),
            hit_stop: self.frozen,
            flags: self.flags,
            play: self.play,
        }
    }

    /// This player as bytes that are the same on every machine: little-endian, a version first, the
    /// clips by the 64-bit hash of their names.
    #[must_use]
    pub fn to_bytes(&self, reel: &Reel) -> [u8; Player::BYTES] {
        let mut bytes = [0; Player::BYTES];
        let hashes = [self.clip, self.asked].map(|clip| hash(&full_name(reel, clip)).to_le_bytes());
        bytes[..4].copy_from_slice(&VERSION.to_le_bytes());
        bytes[4..20].copy_from_slice(hashes.as_flattened());
        bytes[20..].copy_from_slice(&self.plain_bytes());
        bytes
    }

    /// The player that [`to_bytes`](Player::to_bytes) gave. It looks its clip up among all of the
    /// reel's.
    ///
    /// # Errors
    /// When there are too few bytes, the reel has lost the clip, or the data are not a player's.
    pub fn from_bytes(reel: &Reel, bytes: &[u8]) -> Result<Player, SaveError> {
        let bytes: &[u8; Player::BYTES] = bytes.try_into().map_err(|_| SaveError::Damaged)?;
        let version = u32::from_le_bytes(part(bytes, 0));
        if version != VERSION {
            return Err(SaveError::Version { found: version });
        }
        let find = |wanted: u64| {
            let gone = || SaveError::ClipGone { clip: format!("with the hash {wanted:016x}") };
            let found = reel.clips().find(|clip| hash(&full_name(reel, clip.id())) == wanted);
            found.map(|clip| clip.id()).ok_or_else(gone)
        };
        let [clip, asked] = [4, 12].map(|at| u64::from_le_bytes(part(bytes, at)));
        let saved = SavedPlayer::from_plain_bytes(String::new(), String::new(), part(bytes, 20));
        saved.restore(reel, find(clip)?, find(asked)?)
    }
}

/// All of a saved player but its clips' names.
pub(crate) type Plain = [u8; Player::BYTES - 20];

impl SavedPlayer {
    pub(crate) fn to_plain_bytes(&self) -> Plain {
        let place = self.hold | if self.returning { RETURNING } else { 0 };
        let mut bytes = [0; Player::BYTES - 20];
        bytes[..8].copy_from_slice(&self.left.to_le_bytes());
        bytes[8..12].copy_from_slice(&self.speed.to_le_bytes());
        bytes[12..16].copy_from_slice(&self.hit_stop.to_le_bytes());
        bytes[16..20].copy_from_slice(&self.cycle.to_le_bytes());
        bytes[20..22].copy_from_slice(&place.to_le_bytes());
        bytes[22..].copy_from_slice(&[self.flags, self.play]);
        bytes
    }

    pub(crate) fn from_plain_bytes(clip: String, asked: String, bytes: Plain) -> SavedPlayer {
        let place = u16::from_le_bytes(part(&bytes, 20));
        SavedPlayer {
            version: VERSION,
            clip,
            asked,
            hold: place & !RETURNING,
            returning: place & RETURNING != 0,
            cycle: i32::from_le_bytes(part(&bytes, 16)),
            left: u64::from_le_bytes(part(&bytes, 0)),
            speed: i32::from_le_bytes(part(&bytes, 8)),
            hit_stop: u32::from_le_bytes(part(&bytes, 12)),
            flags: bytes[22],
            play: bytes[23],
        }
    }

    /// The player again, of clips that have been found.
    pub(crate) fn restore(
        &self,
        reel: &Reel,
        clip: ClipId,
        asked: ClipId,
    ) -> Result<Player, SaveError> {
        if self.flags & STATE > State::Landed as u8 || self.hold & RETURNING != 0 {
            return Err(SaveError::Damaged);
        }
        let parts = Parts {
            remain: self.left,
            pace: Speed::from_bits(self.speed).map_err(|_| SaveError::Damaged)?.into(),
            frozen: self.hit_stop,
            cycle: self.cycle,
            place: self.hold | if self.returning { RETURNING } else { 0 },
            clip,
            asked,
            flags: self.flags,
            play: self.play,
        };
        let mut player = parts.into_player(reel);
        player.settle(reel).ok_or(SaveError::Damaged)?;
        Ok(player)
    }

    /// The names of the clip that plays, and of the one asked for.
    pub(crate) fn names(&self) -> (&String, &String) {
        (&self.clip, &self.asked)
    }
}

/// Some of the bytes, all of which there are.
fn part<const N: usize>(bytes: &[u8], at: usize) -> [u8; N] {
    core::array::from_fn(|i| bytes[at + i])
}

pub(crate) fn full_name(reel: &Reel, clip: ClipId) -> String {
    match (reel.clip_role(clip), reel.clip_name(clip)) {
        ("", name) => name.to_string(),
        (role, name) => format!("{role}/{name}"),
    }
}

fn hash(name: &str) -> u64 {
    let mut hash = crate::reel::Fingerprint::new();
    hash.name(name);
    hash.finish()
}
