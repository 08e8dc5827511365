//! Players that are kept outside Rust, as plain numbers.

use super::player::{Plan, Player};
use crate::ids::Family;
use crate::kernel::StepTable;
use crate::reel::Reel;
use crate::time::Pace;

impl Player {
    /// All of the player as plain numbers, for a struct of another language. They hold as long as the
    /// process runs; what outlives it is [saved](Player::save).
    ///
    /// ```
    /// # use lucky_reel_core::{Grid, NewClip, NewSheet, Player, Reel, Ticks};
    /// # let mut builder = Reel::builder();
    /// # let sheet = builder.sheet("fan", NewSheet::grid([64, 16], Grid::cell_size([16, 16])));
    /// # let turn = builder.clip("turn", NewClip::of(sheet).frames(0..4).fps(8));
    /// # let reel = builder.build()?;
    /// let mut fan = Player::new(&reel, turn);
    /// fan.advance(&reel, Ticks::from_millis(333));
    /// let bits: [u64; 6] = fan.to_bits();
    /// assert_eq!(Player::from_bits(&reel, bits), Some(fan));
    /// assert_eq!(Player::from_bits(&reel, [0; 6]), None);
    /// # Ok::<(), lucky_reel_core::BuildError>(())
    /// ```
    #[must_use]
    pub fn to_bits(&self) -> [u64; 6] {
        let pair = |low: u32, high: u32| u64::from(high) << 32 | u64::from(low);
        let four = |of: [u16; 4]| {
            pair(
                u32::from(of[1]) << 16 | u32::from(of[0]),
                u32::from(of[3]) << 16 | u32::from(of[2]),
            )
        };
        [
            self.left,
            pair(self.pace.to_bits(), self.hit_stop),
            pair(self.cycle as u32, self.family.to_bits()),
            pair(self.build.to_bits(), self.plan.times),
            four([self.place, self.clip, self.requested, self.plan.then]),
            u64::from(self.flags) | u64::from(self.plays) << 8,
        ]
    }

    /// The player of these numbers, playing from this reel: one of another version of it finds its place
    /// again. `None` for numbers of no player of this reel or another version of it, and where the clip that
    /// it plays is gone. Values out of range are brought into it, whatever version they say they are of.
    #[must_use]
    pub fn from_bits(reel: &Reel, bits: [u64; 6]) -> Option<Player> {
        let [left, speed, cycle, build, clips, flags] = bits;
        let halves = |bits: u64| [bits as u32, (bits >> 32) as u32];
        let ([pace, hit_stop], [cycle, family]) = (halves(speed), halves(cycle));
        // Which version the numbers say they are of is not believed: they are fitted to this one.
        let ([_, times], [low, high]) = (halves(build), halves(clips));
        if family != reel.family.to_bits() {
            return None;
        }
        let mut player = Player {
            left,
            pace: Pace::from_bits(pace),
            hit_stop,
            cycle: cycle as i32,
            family: Family::from_bits(family),
            build: reel.build.with_ready(false),
            step: StepTable::NOTHING,
            plan: Plan { times: times.min(i32::MAX as u32), then: (high >> 16) as u16 },
            place: low as u16,
            clip: (low >> 16) as u16,
            requested: high as u16,
            flags: flags as u8,
            plays: (flags >> 8) as u8,
        };
        player.fit(reel, reel.clip_at(player.clip)?);
        player.update_ready(reel);
        Some(player)
    }
}
