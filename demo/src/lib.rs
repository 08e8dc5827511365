//! The night greenhouse as a small game: Bram walks, jumps and stumbles, moths circle the lamps, pollen puffs
//! where he treads. It knows no window and no renderer: the command and the hosts give it time and keys, and draw
//! its list.
//!
//! Only whole steps, additions, products and square roots are used, so the same keys at the same times give
//! the same picture on every machine.

#[cfg(feature = "art")]
mod art;
mod ids;
mod moths;
#[cfg(feature = "picture")]
mod picture;

use std::error::Error;

use lucky_reel::{
    Actor, CommandError, Crowd, Directions, DrawList, Event, EventBuffer, EventMask, Facing,
    InstanceWriter, Overlay, Placement, Player, Reel, Ticks, Unison, reel::NameError,
};

#[cfg(feature = "art")]
pub use art::load;
#[cfg(feature = "picture")]
pub use picture::picture_of;

use ids::Ids;
use moths::Moths;

/// The roles of the scene: `NAME.reel.toml` in `demo/greenhouse`.
pub const ROLES: [&str; 5] = ["bram", "greenhouse", "moth", "puff", "tiles"];
/// Width and height of the scene, in pixels of the art.
pub const SIZE: [u32; 2] = [320, 200];
/// Where the lamps hang.
pub const LAMPS: [[i32; 2]; 3] = [[48, 90], [160, 90], [284, 90]];

/// Where he may walk: the least and the greatest place of his boots.
const PATH: [[f64; 2]; 2] = [[12.0, 168.0], [308.0, 192.0]];
/// Pixels a second on foot, in a hurry and not, and upward when he jumps; and what pulls him down again, each second.
const PACE: f32 = 64.0;
const SLOW: f32 = 36.0;
const LEAP: f64 = 130.0;
const FALL: f64 = 340.0;

/// The keys that are held down, and those that were pressed since the last update.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct Input {
    /// To the left.
    pub left: bool,
    /// To the right.
    pub right: bool,
    /// Away from us.
    pub up: bool,
    /// Toward us.
    pub down: bool,
    /// Not in a hurry.
    pub slow: bool,
    /// Pressed: off the ground.
    pub jump: bool,
    /// Pressed: over his own feet.
    pub stumble: bool,
    /// Pressed: into the coat for the dusk, or out of it.
    pub dress: bool,
}

impl Input {
    /// Takes a key, by the name that the standard for keys in browsers gives its place on the keyboard
    /// (`ArrowLeft`, `Space`, `KeyS`), as it is pressed or released; other keys are nothing.
    pub fn key(&mut self, code: &str, is_down: bool) {
        match code {
            "ArrowLeft" => self.left = is_down,
            "ArrowRight" => self.right = is_down,
            "ArrowUp" => self.up = is_down,
            "ArrowDown" => self.down = is_down,
            "ShiftLeft" | "ShiftRight" => self.slow = is_down,
            "Space" => self.jump |= is_down,
            "KeyS" => self.stumble |= is_down,
            "KeyD" => self.dress |= is_down,
            _ => {}
        }
    }

    /// What a host plays where nobody presses keys, by the number of the update, 60 a second: Bram walks to the
    /// right, and jumps after a second.
    #[must_use]
    pub fn alone(update: u32) -> Input {
        Input { right: true, jump: update == 60, ..Input::default() }
    }

    /// To be called after an update: what was pressed counts once.
    pub fn take_pressed(&mut self) {
        (self.jump, self.stumble, self.dress) = (false, false, false);
    }
}

/// What has happened in the scene so far.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct Happened {
    /// Steps that Bram has taken, and those of them with the left foot.
    pub steps: u32,
    /// See `steps`.
    pub left_steps: u32,
    /// Puffs of pollen that were spawned, and those that are gone.
    pub puffs: u32,
    /// See `puffs`.
    pub puffs_gone: u32,
    /// Drops that fell.
    pub drops: u32,
}

/// Everything that moves in the greenhouse.
#[derive(Clone, Debug)]
pub struct Scene {
    ids: Ids,
    bram: Actor,
    at: [f64; 2],
    /// How high he is, and how fast he rises, in pixels and pixels a second.
    height: f64,
    rise: f64,
    moths: Moths,
    puffs: Crowd,
    /// Where each puff is, by its slot.
    puff_places: Vec<[f64; 2]>,
    unison: Unison,
    drip: Player,
    happened: Happened,
    /// What Bram's last update reported.
    events: Vec<Event>,
}

impl Scene {
    /// The scene with so many moths.
    ///
    /// # Errors
    /// When the reel lacks a name that the scene needs.
    pub fn new(reel: &Reel, moths: u32) -> Result<Scene, NameError> {
        let ids = Ids::of(reel)?;
        Ok(Scene {
            bram: Actor::new(reel, ids.bram),
            at: [60.0, 181.0],
            height: 0.0,
            rise: 0.0,
            moths: Moths::new(reel, &ids, moths),
            puffs: Crowd::new(reel),
            puff_places: Vec::new(),
            unison: Unison::new(reel),
            drip: Player::new(reel, ids.drip),
            happened: Happened::default(),
            events: Vec::new(),
            ids,
        })
    }

    /// The scene after a number of seconds, an hour at most, in which [nobody presses keys](Input::alone).
    ///
    /// # Errors
    /// When the reel lacks what the scene needs.
    pub fn after(reel: &Reel, moths: u32, seconds: f64) -> Result<Scene, Box<dyn Error>> {
        let mut scene = Scene::new(reel, moths)?;
        for update in 0..updates_in(seconds) {
            scene.update(reel, Ticks::from_rate(60), Input::alone(update))?;
        }
        Ok(scene)
    }

    /// Goes on with another version of the reel: everything keeps its place.
    ///
    /// # Errors
    /// When the new version lacks a name that the scene needs; then nothing is changed.
    pub fn reload(&mut self, reel: &Reel) -> Result<(), NameError> {
        self.ids = Ids::of(reel)?;
        self.moths.reload(reel);
        self.puffs.reload(reel);
        self.unison.reload(reel);
        Ok(())
    }

    /// What has happened so far.
    #[must_use]
    pub fn happened(&self) -> Happened {
        self.happened
    }

    /// Draws Bram and the moths into an overlay: once after each update.
    pub fn show_in(&self, overlay: &mut Overlay, reel: &Reel, dt: Ticks) {
        overlay.begin(dt);
        for event in &self.events {
            overlay.event(reel, event, whole(self.at, 0.0));
        }
        self.moths.show_in(overlay);
        overlay.actor(reel, &self.bram, whole([self.at[0], self.at[1] - self.height], 0.0));
    }

    /// How many cycles the fans, the lamps and the drip have completed.
    #[must_use]
    pub fn cycles(&self) -> [i32; 3] {
        let [fan, glow] = [self.ids.fan, self.ids.glow].map(|clip| self.unison.cycle(clip));
        [fan, glow, self.drip.cycle()]
    }

    /// Where his boots are on the ground, in pixels.
    #[must_use]
    pub fn bram_at(&self) -> [f64; 2] {
        self.at
    }

    /// The clip that he plays.
    #[must_use]
    pub fn bram_plays<'r>(&self, reel: &'r Reel) -> &'r str {
        reel.name(self.bram.player().clip())
    }

    /// Plays so much time.
    ///
    /// # Errors
    /// When a fact of the reel is not what the scene takes it for.
    pub fn update(&mut self, reel: &Reel, dt: Ticks, input: Input) -> Result<(), CommandError> {
        self.walk(reel, dt, input)?;
        self.moths.fly(&self.ids, dt)?;
        // A puff vanishes at its end, and the crowd frees it.
        let mut ends = EventBuffer::new();
        self.puffs.advance_into(dt, EventMask::ENDS, &mut ends);
        self.happened.puffs_gone += ends.iter().count() as u32;
        self.unison.advance(dt);
        let drops = self.drip.advance(reel, dt).filter(|event| event.is_mark(self.ids.drop));
        self.happened.drops += drops.count() as u32;
        Ok(())
    }

    fn walk(&mut self, reel: &Reel, dt: Ticks, input: Input) -> Result<(), CommandError> {
        let (ids, seconds) = (&self.ids, dt.as_secs_f64());
        let side = |less: bool, more: bool| f32::from(i8::from(more) - i8::from(less));
        let stick = [side(input.left, input.right), side(input.up, input.down)];
        let facing = Facing::from_vector(stick, self.bram.facing(), Directions::FOUR);
        self.bram.set_facing(facing);
        self.bram.set(ids.moving, stick != [0.0, 0.0])?;
        let pace = if input.slow { SLOW } else { PACE };
        self.bram.set(ids.pace, pace)?;
        if input.dress && !self.bram.take_off(ids.dusk) {
            self.bram.wear(reel, ids.dusk)?;
        }
        if input.stumble && self.height == 0.0 {
            self.bram.pulse(ids.hurt)?;
        }
        if input.jump && self.height == 0.0 {
            self.rise = LEAP;
        }
        if self.rise != 0.0 || self.height > 0.0 {
            self.height += self.rise * seconds;
            self.rise -= FALL * seconds;
            if self.height <= 0.0 {
                (self.height, self.rise) = (0.0, 0.0);
            }
        }
        self.bram.set(ids.airborne, self.height > 0.0)?;

        let mut trodden = 0;
        self.events.clear();
        for event in self.bram.advance(reel, dt) {
            trodden += u32::from(event.is_mark(ids.step));
            self.happened.left_steps += u32::from(event.is_mark(ids.left_step));
            self.events.push(event);
        }
        self.happened.steps += trodden;
        for _ in 0..trodden {
            if let Ok(puff) = self.puffs.spawn(ids.puff) {
                self.happened.puffs += 1;
                self.puff_places.resize(self.puffs.slots(), [0.0; 2]);
                self.puff_places[puff.index()] = self.at;
            }
        }
        // Who lands or stumbles does not get on.
        let cue = self.bram.cue().and_then(|cue| reel.role(self.bram.role())?.cue(cue));
        if self.bram.bridge().is_none() && !cue.is_some_and(|cue| cue.finishes) {
            for axis in 0..2 {
                let moved = self.at[axis] + f64::from(stick[axis] * pace) * seconds;
                self.at[axis] = moved.clamp(PATH[0][axis], PATH[1][axis]);
            }
        }
        Ok(())
    }

    /// Puts everything onto a list that is ordered by depth, at whole pixels of the scene.
    pub fn draw(&self, reel: &Reel, list: &mut DrawList, writer: &InstanceWriter) {
        let (ids, [x, y]) = (&self.ids, self.at);
        let mut add = |clip, at, depth| list.add(self.unison.view(clip), whole(at, depth));
        add(ids.greenhouse, [0.0, 0.0], 1_000.0);
        add(ids.fan, [107.0, 127.0], 900.0);
        for lamp in LAMPS.map(|lamp| lamp.map(f64::from)) {
            add(ids.glow, lamp, 800.0);
            add(ids.shine, lamp, 0.0);
        }
        list.add(self.drip.view(reel), whole([208.0, 130.0], 900.0));
        // What stands lower on the path is nearer.
        let on_path = |y: f64| 500.0 - y as f32;
        list.add(self.bram.view(reel), whole([x, y - self.height], on_path(y)));
        self.puffs.instances(writer).write(list, |puff| {
            let at = self.puff_places[puff.index()];
            whole(at, on_path(at[1]) - 0.5)
        });
        self.moths.draw(list, writer);
    }
}

/// How many updates a host plays alone, 60 a second; an hour at most.
#[must_use]
pub fn updates_in(seconds: f64) -> u32 {
    (seconds.clamp(0.0, 3_600.0) * 60.0).round() as u32
}

/// A place on a whole pixel.
pub(crate) fn whole(at: [f64; 2], depth: f32) -> Placement {
    Placement::at(at.map(|side| side.round() as f32)).depth(depth)
}
