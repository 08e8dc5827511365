//! One clock for all that stays in lockstep.

mod instances;
mod save;

use alloc::vec::Vec;

use crate::ids::ClipId;
use crate::play::{Drive, Player};
use crate::reel::Reel;
use crate::sheet::PackedFrame;
use crate::time::{Speed, Ticks};
use crate::view::{InstanceWriter, Instances, View};
use instances::Tiles;

/// One shared clock for everything that must stay in lockstep: each clip's frame is looked up once an
/// update, and any number of tiles read it.
///
/// It shows, bit for bit, what a player of each clip shows that was started with it. Its advance costs
/// a little for each clip of the reel and nothing for a tile. It keeps its reel;
/// [`reload`](Unison::reload) is the only place where it meets another.
///
/// ```
/// use lucky_reel_core::{Grid, NewClip, NewSheet, Reel, Ticks, Unison};
///
/// let mut builder = Reel::builder();
/// let tiles = builder.sheet("tiles", NewSheet::grid([64, 32], Grid::cell_size([16, 16])));
/// let fan = builder.clip("fan", NewClip::of(tiles).frames(0..4).fps(16));
/// let lamp = builder.clip("lamp", NewClip::of(tiles).frames(4..8).fps(2));
/// let reel = builder.build()?;
///
/// let floor = [fan, lamp, fan, fan]; // a clip for each tile: numbers, no players
/// let mut unison = Unison::new(&reel);
/// unison.advance(Ticks::from_millis(70));
/// let frames = floor.map(|clip| unison.packed_frame(clip).frame().unwrap().index());
/// assert_eq!(frames, [1, 4, 1, 1]);
/// assert_eq!(unison.changed().collect::<Vec<_>>(), [fan]); // only these need be drawn anew
/// # Ok::<(), lucky_reel_core::BuildError>(())
/// ```
#[derive(Clone, Debug)]
pub struct Unison {
    reel: Reel,
    /// One for each clip, by its number.
    players: Vec<Player>,
    frames: Vec<PackedFrame>,
    /// The clips whose frame the last advance changed, and whether each is one of them.
    changed: Vec<ClipId>,
    is_changed: Vec<bool>,
    speed: Speed,
    time: Ticks,
}

impl Unison {
    /// All clips of a reel, each at its start, at normal speed.
    #[must_use]
    pub fn new(reel: &Reel) -> Unison {
        let mut unison = Unison {
            reel: reel.clone(),
            players: Vec::new(),
            frames: Vec::new(),
            changed: Vec::new(),
            is_changed: Vec::new(),
            speed: Speed::NORMAL,
            time: Ticks::ZERO,
        };
        unison.add_clips();
        unison
    }

    /// Advances all clips by game time.
    pub fn advance(&mut self, dt: Ticks) {
        self.time += dt;
        self.changed.clear();
        for at in 0..self.players.len() {
            let _ = self.players[at].advance(&self.reel, dt);
            self.refresh(at);
        }
    }

    /// Goes to this time since the start, each clip at its present speed.
    pub fn seek(&mut self, time: Ticks) {
        self.time = time;
        self.changed.clear();
        for at in 0..self.players.len() {
            let mut player = Player::of_number(&self.reel, at as u16);
            player.set_speed(self.players[at].speed());
            player.advance_by(&self.reel, Drive::Time(time));
            self.players[at] = player;
            self.refresh(at);
        }
    }

    /// Switches to another version of its reel: every clip keeps its place, and new ones join as if
    /// they had been played from the start at the speed of all. `false`, and nothing is changed, for a
    /// foreign reel.
    pub fn reload(&mut self, reel: &Reel) -> bool {
        if reel.family != self.reel.family {
            return false;
        }
        if reel.build != self.reel.build {
            self.reel = reel.clone();
            self.changed.clear();
            for at in 0..self.players.len() {
                self.players[at].rebind(reel);
                self.players[at].update_ready(reel);
                self.refresh(at);
            }
            self.add_clips();
        }
        true
    }

    /// Sets how fast and which way all clips play from now on.
    pub fn set_speed(&mut self, speed: Speed) {
        self.speed = speed;
        self.players.iter_mut().for_each(|player| player.set_speed(speed));
    }

    /// Sets how fast and which way one clip plays from now on; `false` for an id that the reel does not
    /// have.
    pub fn set_clip_speed(&mut self, clip: ClipId, speed: Speed) -> bool {
        let number = self.reel.number_of(clip).map(usize::from);
        let player = number.and_then(|number| self.players.get_mut(number));
        player.map(|player| player.set_speed(speed)).is_some()
    }

    /// What a clip shows, in four bytes; nothing for a foreign id.
    #[must_use]
    #[inline]
    pub fn packed_frame(&self, clip: ClipId) -> PackedFrame {
        let number = clip.number_in(self.reel.family).map(usize::from);
        let frame = number.and_then(|number| self.frames.get(number));
        frame.copied().unwrap_or(PackedFrame::NOTHING)
    }

    /// What a clip shows, to be drawn; `None` when it shows nothing.
    #[must_use]
    pub fn view(&self, clip: ClipId) -> Option<View<'_>> {
        self.packed_frame(clip).view(&self.reel)
    }

    /// Whether the last advance changed the frame that a clip shows.
    #[must_use]
    #[inline]
    pub fn has_changed(&self, clip: ClipId) -> bool {
        let number = clip.number_in(self.reel.family).map(usize::from);
        number.is_some_and(|number| self.is_changed.get(number) == Some(&true))
    }

    /// The clips whose frame the last advance changed, in the order of their numbers.
    pub fn changed(&self) -> impl ExactSizeIterator<Item = ClipId> + '_ {
        self.changed.iter().copied()
    }

    /// Tiles, each named by its clip, to write for a renderer, as [`Crowd::instances`](crate::Crowd::instances)
    /// writes members. With a writer for another version of the reel nothing is written.
    ///
    /// ```
    /// # use lucky_reel_core::*;
    /// # let mut builder = Reel::builder();
    /// # let tiles = builder.sheet("tiles", NewSheet::grid([64, 32], Grid::cell_size([16, 16])));
    /// # let fan = builder.clip("fan", NewClip::of(tiles).frames(0..4).fps(16));
    /// # let lamp = builder.clip("lamp", NewClip::of(tiles).frames(4..8).fps(2));
    /// # let reel = builder.build()?;
    /// let (floor, positions) = ([fan, lamp, fan], [[0.0, 0.0], [16.0, 0.0], [32.0, 0.0]]);
    /// let mut unison = Unison::new(&reel);
    /// let writer = InstanceWriter::new(&reel);
    /// let mut instances: Vec<Instance> = Vec::new();
    /// unison.instances(&writer, &floor).write_at(&mut instances, &positions);
    /// assert_eq!(instances[0].source, instances[2].source);
    ///
    /// // Those alone whose picture has changed.
    /// unison.advance(Ticks::from_millis(70));
    /// instances.clear();
    /// unison.instances(&writer, &floor).changed().write_at(&mut instances, &positions);
    /// assert_eq!(instances.len(), 2);
    /// # Ok::<(), lucky_reel_core::BuildError>(())
    /// ```
    pub fn instances<'u>(
        &'u self,
        writer: &'u InstanceWriter,
        tiles: &'u [ClipId],
    ) -> Instances<'u, Unison> {
        Instances { of: self, writer, chosen: Tiles { tiles, only_changed: false } }
    }

    /// How many cycles of a clip are complete.
    #[must_use]
    pub fn cycle(&self, clip: ClipId) -> i32 {
        let number = clip.number_in(self.reel.family).map(usize::from);
        number.and_then(|number| self.players.get(number)).map_or(0, Player::cycle)
    }

    /// Takes in what a clip shows now.
    fn refresh(&mut self, at: usize) {
        let frame = self.players[at].packed_frame(&self.reel);
        self.is_changed[at] = frame != self.frames[at];
        if self.is_changed[at] {
            self.frames[at] = frame;
            self.changed.push(ClipId::new(self.reel.family, at as u16));
        }
    }

    /// Joins the clips that it does not have yet.
    fn add_clips(&mut self) {
        for at in self.players.len()..self.reel.data.clips.len() {
            let mut player = Player::of_number(&self.reel, at as u16);
            player.set_speed(self.speed);
            self.frames.push(player.packed_frame(&self.reel));
            self.is_changed.push(false);
            player.advance_by(&self.reel, Drive::Time(self.time));
            self.players.push(player);
        }
    }
}

/// Equal when they show the same from now on.
impl PartialEq for Unison {
    fn eq(&self, other: &Unison) -> bool {
        let all = |unison: &Unison| (unison.speed, unison.time);
        all(self) == all(other) && self.players == other.players
    }
}

impl Eq for Unison {}
