use lucky_reel::assets::{Art, Pixels};
use lucky_reel::{
    Actor, ClipId, CommandError, Crowd, EventBuffer, EventMask, Facing, MarkId, Player, Ticks,
    Unison, View,
    crowd::Target,
    id::{FactId, LookId},
};
use lucky_reel_canvas::Canvas;

use super::art;
use crate::failure::Failure;

/// The height of his boots on the path.
const PATH: f64 = 181.0;
/// How high he hovers, and how fast he rises, in pixels.
const HOVERS: f64 = 22.0;
const RISES: f64 = 70.0;
const LAMPS: [i32; 3] = [48, 160, 284];
const LAMP_HEIGHT: i32 = 90;

/// What the game tells Bram, and when, in seconds. His cues pick the clips.
const PLAN: [(f64, Order); 13] = [
    (0.0, Order::Face(Facing::Right)),
    (0.0, Order::Moving(44.0)),
    (3.6, Order::Standing),
    (3.7, Order::Face(Facing::Down)),
    (5.2, Order::Face(Facing::Up)),
    (5.8, Order::Face(Facing::Right)),
    (6.0, Order::Moving(90.0)),
    (6.8, Order::Airborne(true)),
    (6.8, Order::Moving(34.0)),
    (7.4, Order::WearDusk),
    (8.2, Order::Airborne(false)),
    (8.3, Order::Moving(44.0)),
    (9.0, Order::Hurt),
];
/// When he is out of sight.
const GONE: f64 = 340.0;
/// Where he brushes against blossoms: his place, and the place of the puff.
const BLOSSOMS: [(f64, [i32; 2]); 4] =
    [(30.0, [33, 122]), (68.0, [76, 118]), (142.0, [150, 122]), (196.0, [244, 120])];

/// Moths: where they come from, and the lamp that draws them.
const MOTHS: [([f64; 2], usize); 4] =
    [([6.0, 20.0], 0), ([118.0, 30.0], 1), ([226.0, 160.0], 1), ([316.0, 40.0], 2)];

#[derive(Clone, Copy)]
enum Order {
    Face(Facing),
    /// On his way, so many pixels a second.
    Moving(f32),
    Standing,
    Airborne(bool),
    WearDusk,
    Hurt,
}

/// What the scene has heard and seen.
#[derive(Clone, Copy, Debug, Default)]
pub(super) struct Happened {
    pub(super) updates: u64,
    pub(super) steps: u32,
    pub(super) left_steps: u32,
    pub(super) puffs_shown: usize,
    pub(super) puffs_gone: usize,
    pub(super) drops: u32,
}

/// The greenhouse as a game would keep it: actors, players, places, and what it looked up once.
pub(super) struct Scene {
    art: Art,
    background: Pixels,
    facts: Facts,
    dusk: LookId,
    puff: ClipId,
    step: MarkId,
    left_step: MarkId,
    drop: MarkId,
    bram: Actor,
    bram_at: f64,
    /// How high he is above the path, in pixels.
    height: f64,
    /// How much of the plan is done, and what it says now.
    done: usize,
    pace: f32,
    airborne: bool,
    moths: Vec<Moth>,
    drip: Player,
    puffs: Crowd,
    /// Where each is, by its slot.
    puff_places: Vec<[i32; 2]>,
    tiles: [(&'static str, ClipId); 3],
    /// All tiles in lockstep.
    unison: Unison,
    passed: Ticks,
    happened: Happened,
}

/// The facts of Bram and the moths.
struct Facts {
    moving: FactId<bool>,
    airborne: FactId<bool>,
    pace: FactId<f32>,
    hurt: FactId<()>,
    near: FactId<f32>,
}

struct Moth {
    actor: Actor,
    at: [f64; 2],
    lamp: [f64; 2],
}

impl Scene {
    pub(super) fn new() -> Result<Scene, Failure> {
        let art = art::load()?;
        let background = art::background().ok_or_else(|| {
            Failure::with_fix("the background is not an image", "build the command again")
        })?;
        let reel = &art.reel;
        let moth = Actor::new(reel, reel.id("moth")?);
        let moths = MOTHS.map(|(at, lamp)| {
            let lamp = [f64::from(LAMPS[lamp]), f64::from(LAMP_HEIGHT)];
            Moth { actor: moth, at, lamp }
        });
        Ok(Scene {
            background,
            facts: Facts {
                moving: reel.id("moving")?,
                airborne: reel.id("airborne")?,
                pace: reel.id("pace")?,
                hurt: reel.id("hurt")?,
                near: reel.id("near")?,
            },
            dusk: reel.id::<LookId>("dusk")?,
            puff: reel.id::<ClipId>("puff")?,
            step: reel.id::<MarkId>("step")?,
            left_step: reel.id::<MarkId>("step-left")?,
            drop: reel.id::<MarkId>("drop")?,
            bram: Actor::new(reel, reel.id("bram")?),
            bram_at: -20.0,
            height: 0.0,
            done: 0,
            pace: 0.0,
            airborne: false,
            moths: moths.into(),
            drip: Player::new(reel, reel.id("drip")?),
            puffs: Crowd::new(reel),
            puff_places: Vec::new(),
            tiles: [
                ("fan", reel.id::<ClipId>("fan")?),
                ("glow", reel.id::<ClipId>("glow")?),
                ("shine", reel.id::<ClipId>("shine")?),
            ],
            unison: Unison::new(reel),
            passed: Ticks::ZERO,
            happened: Happened::default(),
            art,
        })
    }

    pub(super) fn happened(&self) -> Happened {
        self.happened
    }

    pub(super) fn passed(&self) -> Ticks {
        self.passed
    }

    /// Where Bram's boots are, in the scene's pixels.
    pub(super) fn bram_at(&self) -> [i32; 2] {
        [self.bram_at.round() as i32, (PATH - self.height).round() as i32]
    }

    /// Whether he is out of sight and every puff is gone.
    pub(super) fn has_ended(&self) -> bool {
        self.bram_at > GONE && self.puffs.is_empty()
    }

    /// A good moment for a still: he looks at us, and a puff is in the air.
    pub(super) fn is_photogenic(&self) -> bool {
        let hold = |puff| self.puffs.player(puff)?.hold_index(&self.art.reel);
        let puff = self.puffs.ids(Target::All).any(|puff| hold(puff) == Some(3));
        puff && (100.0..200.0).contains(&self.bram_at)
    }

    /// Tells Bram what the plan says by now.
    fn tell_bram(&mut self) -> Result<(), CommandError> {
        let Facts { moving, airborne, pace, hurt, .. } = self.facts;
        let now = self.passed.as_secs_f64();
        for (_, tell) in PLAN.iter().skip(self.done).take_while(|(at, _)| *at <= now) {
            self.done += 1;
            match *tell {
                Order::Face(facing) => self.bram.set_facing(facing),
                Order::Moving(pixels) => {
                    self.pace = pixels;
                    self.bram.set(moving, true)?;
                    self.bram.set(pace, pixels)?;
                }
                Order::Standing => {
                    self.pace = 0.0;
                    self.bram.set(moving, false)?;
                }
                Order::Airborne(is) => {
                    self.airborne = is;
                    self.bram.set(airborne, is)?;
                }
                Order::WearDusk => _ = self.bram.wear(&self.art.reel, self.dusk),
                Order::Hurt => self.bram.pulse(hurt)?,
            }
        }
        Ok(())
    }

    pub(super) fn update(&mut self, dt: Ticks) -> Result<(), CommandError> {
        self.tell_bram()?;
        let reel = &self.art.reel;
        self.happened.updates += 1;
        let before = self.bram_at;
        for event in self.bram.advance(reel, dt) {
            self.happened.steps += u32::from(event.is_mark(self.step));
            self.happened.left_steps += u32::from(event.is_mark(self.left_step));
        }
        let seconds = dt.as_secs_f64();
        // Who lands or stumbles does not get on.
        let cue = self.bram.cue().and_then(|cue| reel.role(self.bram.role())?.cue(cue));
        if self.bram.bridge().is_none() && !cue.is_some_and(|cue| cue.finishes) {
            self.bram_at += f64::from(self.pace) * seconds;
        }
        let wanted = if self.airborne { HOVERS } else { 0.0 };
        self.height += (wanted - self.height).clamp(-RISES * seconds, RISES * seconds);
        for moth in &mut self.moths {
            moth.fly(seconds);
            moth.actor.set(self.facts.near, moth.distance() as f32)?;
            moth.actor.advance(reel, dt);
        }

        let touched = BLOSSOMS.iter().filter(|(at, _)| (before..self.bram_at).contains(at));
        for (_, place) in touched {
            let puff = self.puffs.spawn(self.puff)?;
            self.puff_places.resize(self.puffs.slots(), [0; 2]);
            self.puff_places[puff.index()] = *place;
            self.happened.puffs_shown += 1;
        }
        // Who vanishes is gone by itself.
        let mut events = EventBuffer::new();
        self.puffs.advance_into(dt, EventMask::ENDS, &mut events);
        self.happened.puffs_gone += events.iter().count();

        self.unison.advance(dt);
        let drop = self.drop;
        let drops = self.drip.advance(reel, dt);
        self.happened.drops += drops.filter(|event| event.is_mark(drop)).count() as u32;
        self.passed += dt;
        Ok(())
    }

    /// How many cycles each of the tiles has completed.
    pub(super) fn cycles(&self) -> Vec<(&'static str, i32)> {
        let tiles = self.tiles.iter().filter(|(name, _)| *name != "shine");
        let tiles = tiles.map(|(name, clip)| (*name, self.unison.cycle(*clip)));
        tiles.chain([("drip", self.drip.cycle())]).collect()
    }

    /// The scene as it is now: 320 x 200.
    pub(super) fn picture(&self) -> Pixels {
        let mut canvas = Canvas::on(self.background.clone());
        let mut draw = |view: Option<View<'_>>, at: [i32; 2]| {
            if let Some(view) = view {
                canvas.draw(&view, &self.art.images, at, 1);
            }
        };
        let [fan, glow, shine] = self.tiles.map(|(_, clip)| self.unison.view(clip));
        draw(fan, [107, 127]);
        draw(self.drip.view(&self.art.reel), [208, 130]);
        for x in LAMPS {
            draw(glow, [x, LAMP_HEIGHT]);
        }
        draw(self.bram.view(&self.art.reel), self.bram_at());
        for moth in &self.moths {
            draw(moth.actor.view(&self.art.reel), moth.at.map(|side| side.round() as i32));
        }
        for puff in self.puffs.ids(Target::All) {
            draw(self.puffs.view(puff), self.puff_places[puff.index()]);
        }
        for x in LAMPS {
            draw(shine, [x, LAMP_HEIGHT]);
        }
        canvas.into_picture()
    }
}

impl Moth {
    fn off_the_lamp(&self) -> [f64; 2] {
        [self.at[0] - self.lamp[0], self.at[1] - self.lamp[1]]
    }

    fn distance(&self) -> f64 {
        let [x, y] = self.off_the_lamp();
        x.hypot(y)
    }

    /// Toward the lamp, and round about it.
    fn fly(&mut self, seconds: f64) {
        let ([x, y], distance) = (self.off_the_lamp(), self.distance().max(1.0));
        let inward = if distance > 18.0 { 26.0 } else { 0.0 };
        let around = 38.0;
        self.at[0] += (-x * inward - y * around) / distance * seconds;
        self.at[1] += (-y * inward + x * around) / distance * seconds;
    }
}
