use alloc::vec::Vec;

use crate::ids::{ClipId, FrameId};
use crate::play::{Drive, Player};
use crate::reel::{Reel, Stamp};
use crate::time::{Speed, Ticks};
use crate::view::{Buffer, Drawable, Shown, Spot, View, Writer};

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
    shown: Vec<Shown>,
    /// The clips whose picture the last advance has changed, and whether each is one of them.
    changed: Vec<ClipId>,
    is_changed: Vec<bool>,
    /// The version of the reel that the pictures are of.
    stamp: Option<Stamp>,
    speed: Speed,
    passed: Ticks,
}

impl Unison {
    /// All clips of a reel, each at its start, at normal speed.
    #[must_use]
    pub fn new(reel: &Reel) -> Unison {
        let mut unison = Unison {
            players: Vec::new(),
            shown: Vec::new(),
            changed: Vec::new(),
            is_changed: Vec::new(),
            stamp: None,
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
        let shown = self.shown.iter_mut().zip(&mut self.is_changed);
        for (id, (player, (shown, is_changed))) in (0_u16..).zip(self.players.iter_mut().zip(shown))
        {
            let _ = player.advance(reel, dt);
            let picture = player.shown(reel);
            *is_changed = picture != *shown;
            if *is_changed {
                *shown = picture;
                self.changed.push(ClipId(id));
            }
        }
    }

    /// Sets how fast and which way all clips play from now on.
    pub fn set_speed(&mut self, speed: Speed) {
        self.speed = speed;
        self.players.iter_mut().for_each(|player| player.set_speed(speed));
    }

    /// What a clip shows, in four bytes; nothing for a foreign id.
    #[must_use]
    #[inline]
    pub fn shown(&self, clip: ClipId) -> Shown {
        self.shown.get(clip.index()).copied().unwrap_or(Shown::NOTHING)
    }

    /// What all clips show, by [`ClipId::index`]: for tiles that are read in a tight loop.
    #[must_use]
    pub fn shown_by_clip(&self) -> &[Shown] {
        &self.shown
    }

    /// The frame that a clip shows; `None` when it shows nothing, and for a foreign id.
    #[must_use]
    pub fn frame(&self, clip: ClipId) -> Option<FrameId> {
        self.shown(clip).frame()
    }

    /// What a clip shows, to be drawn; `None` when it shows nothing.
    #[must_use]
    pub fn view<'r>(&self, reel: &'r Reel, clip: ClipId) -> Option<View<'r>> {
        self.shown(clip).view(reel)
    }

    /// Whether the last advance has changed a clip's picture: so the tiles that read it have changed.
    #[must_use]
    #[inline]
    pub fn has_changed(&self, clip: ClipId) -> bool {
        self.is_changed.get(clip.index()).is_some_and(|changed| *changed)
    }

    /// The clips whose picture the last advance has changed, in the order of their numbers.
    pub fn changed(&self) -> impl ExactSizeIterator<Item = ClipId> + '_ {
        self.changed.iter().copied()
    }

    /// Writes what tiles show, each named by its clip, at their positions: as many as there are of
    /// both. Gives how many were written: none with a writer for another version of the reel.
    ///
    /// ```
    /// # use lucky_reel_core::*;
    /// # let mut builder = Reel::builder();
    /// # let tiles = builder.sheet("tiles", NewSheet::grid([64, 32], Grid::cells([16, 16])));
    /// # let fan = builder.clip("fan", NewClip::of(tiles).frames(0..4).fps(16));
    /// # let lamp = builder.clip("lamp", NewClip::of(tiles).frames(4..8).fps(2));
    /// # let reel = builder.build()?;
    /// let (floor, positions) = ([fan, lamp, fan], [[0.0, 0.0], [16.0, 0.0], [32.0, 0.0]]);
    /// let mut unison = Unison::new(&reel);
    /// let writer = Writer::new(&reel);
    /// let mut instances: Vec<Instance> = Vec::new();
    /// unison.write_at(&writer, &mut instances, &floor, &positions);
    /// assert_eq!(instances[0].texture, instances[2].texture);
    ///
    /// // Those alone whose picture has changed, by whatever the game keeps its tiles in.
    /// unison.advance(&reel, Ticks::from_millis(70));
    /// instances.clear();
    /// let tiles = floor.iter().zip(positions).filter(|(clip, _)| unison.has_changed(**clip));
    /// unison.write(&writer, &mut instances, tiles.map(|(clip, at)| (*clip, Spot::at(at))));
    /// assert_eq!(instances.len(), 2);
    /// # Ok::<(), lucky_reel_core::BuildError>(())
    /// ```
    pub fn write_at<T: Drawable<At = Spot>>(
        &self,
        writer: &Writer,
        out: &mut impl Buffer<T>,
        tiles: &[ClipId],
        positions: &[[f32; 2]],
    ) -> usize {
        let places = positions.iter().map(|position| Spot::at(*position));
        self.write(writer, out, tiles.iter().copied().zip(places))
    }

    /// As [`write_at`](Unison::write_at), of tiles that come with their places.
    pub fn write<T: Drawable>(
        &self,
        writer: &Writer,
        out: &mut impl Buffer<T>,
        tiles: impl IntoIterator<Item = (ClipId, T::At)>,
    ) -> usize {
        if !self.stamp.is_some_and(|stamp| stamp.same_version(writer.reel().stamp)) {
            return 0;
        }
        let tiles = tiles.into_iter();
        out.put(tiles.map(|(clip, place)| writer.make(self.shown(clip), place)))
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
        self.stamp = Some(reel.stamp);
        for id in known..reel.data.clips.len() {
            let mut player = Player::new(reel, ClipId(id as u16));
            player.set_speed(self.speed);
            self.shown.push(player.shown(reel));
            self.is_changed.push(false);
            player.travel(reel, Drive::Time(self.passed));
            self.players.push(player);
        }
    }
}
