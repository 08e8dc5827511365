use alloc::vec::Vec;

use crate::ids::{ClipId, FrameId};
use crate::play::{Drive, Player};
use crate::reel::Reel;
use crate::time::{Speed, Ticks};
use crate::view::{Flips, View};

/// One shared clock for everything that must stay in lockstep: each clip's frame is looked up once an
/// update, and any number of tiles read it.
///
/// It shows, bit for bit, what a player of each clip shows that was started with it. Its advance costs
/// a little for each clip of the reel and nothing for a tile.
///
/// ```
/// use lucky_reel_core::{Grid, NewClip, NewSheet, Reel, Ticks, Unison};
///
/// let mut builder = Reel::builder();
/// let tiles = builder.sheet("tiles", NewSheet::grid([64, 32], Grid::cells([16, 16])));
/// let fan = builder.clip("fan", NewClip::of(tiles).frames(0..4).fps(16));
/// let lamp = builder.clip("lamp", NewClip::of(tiles).frames(4..8).fps(2));
/// let reel = builder.build()?;
///
/// let floor = [fan, lamp, fan, fan]; // a clip for each tile: numbers, no players
/// let mut unison = Unison::new(&reel);
/// unison.advance(&reel, Ticks::from_millis(70));
/// let frames = floor.map(|clip| unison.frame(clip).unwrap().index());
/// assert_eq!(frames, [1, 4, 1, 1]);
/// assert_eq!(unison.changed().collect::<Vec<_>>(), [fan]); // only these need be drawn anew
/// # Ok::<(), lucky_reel_core::BuildError>(())
/// ```
#[derive(Clone, Debug)]
pub struct Unison {
    /// One for each clip, by its number.
    players: Vec<Player>,
    frames: Vec<Option<FrameId>>,
    /// The clips whose picture the last advance has changed.
    changed: Vec<ClipId>,
    speed: Speed,
    passed: Ticks,
}

impl Unison {
    /// All clips of a reel, each at its start, at normal speed.
    #[must_use]
    pub fn new(reel: &Reel) -> Unison {
        let mut unison = Unison {
            players: Vec::new(),
            frames: Vec::new(),
            changed: Vec::new(),
            speed: Speed::NORMAL,
            passed: Ticks::ZERO,
        };
        unison.add_clips(reel);
        unison
    }

    /// Lets game time pass for all clips. In the next version of its reel it goes on; clips that are
    /// new there join as if they had been played from the start at the speed of now.
    pub fn advance(&mut self, reel: &Reel, dt: Ticks) {
        self.add_clips(reel);
        self.passed += dt;
        self.changed.clear();
        for (id, (player, shown)) in (0_u16..).zip(self.players.iter_mut().zip(&mut self.frames)) {
            let _ = player.advance(reel, dt);
            let frame = player.frame(reel);
            if frame != *shown {
                *shown = frame;
                self.changed.push(ClipId(id));
            }
        }
    }

    /// Sets how fast and which way all clips play from now on.
    pub fn set_speed(&mut self, speed: Speed) {
        self.speed = speed;
        self.players.iter_mut().for_each(|player| player.set_speed(speed));
    }

    /// The frame that a clip shows; `None` when it shows nothing, and for a foreign id.
    #[must_use]
    pub fn frame(&self, clip: ClipId) -> Option<FrameId> {
        self.frames.get(clip.index()).copied().flatten()
    }

    /// The frames of all clips, by [`ClipId::index`]: for tiles that are read in a tight loop.
    #[must_use]
    pub fn frames(&self) -> &[Option<FrameId>] {
        &self.frames
    }

    /// What a clip shows, to be drawn; `None` when it shows nothing.
    #[must_use]
    pub fn view<'r>(&self, reel: &'r Reel, clip: ClipId) -> Option<View<'r>> {
        let mirrored = reel.get_clip(clip)?.is_mirrored();
        View::of(reel, self.frame(clip)?, Flips { x: mirrored, y: false })
    }

    /// The clips whose picture the last advance has changed, in the order of their numbers.
    pub fn changed(&self) -> impl ExactSizeIterator<Item = ClipId> + '_ {
        self.changed.iter().copied()
    }

    /// How many cycles of a clip are complete.
    #[must_use]
    pub fn cycle(&self, clip: ClipId) -> i32 {
        self.players.get(clip.index()).map_or(0, Player::cycle)
    }

    /// Joins the clips that it does not have yet.
    fn add_clips(&mut self, reel: &Reel) {
        let known = self.players.len();
        if known > 0 && !self.players.iter().any(|player| player.is_of_family(reel)) {
            return;
        }
        for id in known..reel.data.clips.len() {
            let mut player = Player::new(reel, ClipId(id as u16));
            player.set_speed(self.speed);
            self.frames.push(player.frame(reel));
            player.travel(reel, Drive::Time(self.passed));
            self.players.push(player);
        }
    }
}
