//! Players that outlive the program, by any serde format.

use super::player::{Plan, Player};
use crate::ids::NONE;
use crate::kernel::RETURNING;
use crate::reel::Reel;
use crate::save::{FoundNames, NameWriter, RestoreError, Savable, Saved};
use crate::time::Speed;

/// A saved player within its table of names.
#[derive(Clone, Debug, PartialEq, Eq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
#[cfg_attr(feature = "serde", serde(deny_unknown_fields))]
#[allow(unreachable_pub)] // a sealed trait names it
pub struct SavedState {
    /// What plays, what was asked for, and what follows, if anything was named.
    clips: [u16; 3],
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

impl Savable for Player {
    type Data = SavedState;

    fn load(
        data: &SavedState,
        reel: &Reel,
        names: &FoundNames<'_>,
    ) -> Result<Option<Player>, RestoreError> {
        data.load(reel, names)
    }
}

impl Player {
    /// This player as plain data, its clips by name: see [`Saved`].
    #[must_use]
    pub fn save(&self, reel: &Reel) -> Saved<Player> {
        let mut names = NameWriter::new(reel);
        let state = SavedState::of(self, reel, &mut names);
        Saved::new(names, state)
    }
}

impl SavedState {
    pub(crate) fn of(player: &Player, reel: &Reel, names: &mut NameWriter<'_>) -> SavedState {
        // As the reel sees it, which may be a later version than the one that it last played from.
        let mut player = *player;
        player.rebind(reel);
        let of_reel = player.family == reel.family;
        let clips = [player.clip, player.requested, player.plan.then];
        let clips = clips.map(|clip| if of_reel { names.clip(clip) } else { 0 });
        SavedState { clips, numbers: SavedNumbers::of(&player) }
    }

    /// Whether it plays another clip than the one that was saved.
    pub(crate) fn is_replaced(&self, names: &FoundNames<'_>) -> Result<bool, RestoreError> {
        names.is_replaced(self.clips[1])
    }

    /// The player again; `None` where its clip is lost.
    pub(crate) fn load(
        &self,
        reel: &Reel,
        names: &FoundNames<'_>,
    ) -> Result<Option<Player>, RestoreError> {
        let [clip, requested, then] = self.clips;
        let [clip, requested, then] =
            [names.clip(clip)?, names.clip(requested)?, names.clip(then)?];
        let (Some(clip), Some(requested)) = (clip, requested) else { return Ok(None) };
        self.numbers.load(reel, [clip, requested, then.unwrap_or(NONE)]).map(Some)
    }
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
