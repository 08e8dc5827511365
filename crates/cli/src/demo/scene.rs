use lucky_reel::assets::{Art, Canvas, Picture};
use lucky_reel::{ClipId, Event, Flips, MarkId, Player, Speed, Ticks, View};

use super::art;
use crate::failure::Failure;

/// How fast Bram walks, in pixels a second: what his clip covers.
const PACE: f64 = 44.0;
/// The height of his boots on the path.
const PATH: i32 = 181;
const LAMPS: [i32; 3] = [48, 160, 284];
const LAMP_HEIGHT: i32 = 90;

/// What Bram does, and until when, in seconds.
const PLAN: [(f64, Doing); 6] = [
    (3.6, Doing::WalksRight),
    (5.9, Doing::LooksAtUs),
    (6.5, Doing::LooksUp),
    (7.6, Doing::WalksRight),
    (9.3, Doing::LooksRight),
    (11.8, Doing::WalksRight),
];
/// Where he brushes against blossoms: his place, and the place of the puff.
const BLOSSOMS: [(f64, [i32; 2]); 4] =
    [(30.0, [33, 122]), (68.0, [76, 118]), (142.0, [150, 122]), (196.0, [244, 120])];

#[derive(Clone, Copy, PartialEq)]
enum Doing {
    WalksRight,
    LooksAtUs,
    LooksUp,
    LooksRight,
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

/// The greenhouse as a game would keep it: players, places, and what it looked up once.
pub(super) struct Scene {
    art: Art,
    background: Picture,
    walk: ClipId,
    looks: [(Doing, ClipId); 3],
    puff: ClipId,
    step: MarkId,
    left_step: MarkId,
    drop: MarkId,
    bram: Player,
    bram_at: f64,
    drip: Player,
    puffs: Vec<(Player, [i32; 2])>,
    tiles: [(&'static str, ClipId); 3],
    passed: Ticks,
    happened: Happened,
}

impl Scene {
    pub(super) fn new() -> Result<Scene, Failure> {
        let art = art::load()?;
        let background = art::background()
            .ok_or_else(|| Failure::new("the background is no picture: build the command again"))?;
        let reel = &art.reel;
        let walk = reel.clip("walk-right")?;
        Ok(Scene {
            background,
            walk,
            looks: [
                (Doing::LooksAtUs, reel.clip("idle-down")?),
                (Doing::LooksUp, reel.clip("idle-up")?),
                (Doing::LooksRight, reel.clip("idle-right")?),
            ],
            puff: reel.clip("puff")?,
            step: reel.mark("step")?,
            left_step: reel.mark("step-left")?,
            drop: reel.mark("drop")?,
            bram: Player::new(reel, walk),
            bram_at: -20.0,
            drip: Player::new(reel, reel.clip("drip")?),
            puffs: Vec::new(),
            tiles: [
                ("fan", reel.clip("fan")?),
                ("glow", reel.clip("glow")?),
                ("shine", reel.clip("shine")?),
            ],
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
        [self.bram_at.round() as i32, PATH]
    }

    /// What Bram does now.
    fn doing(&self) -> Option<Doing> {
        let now = self.passed.as_secs_f64();
        PLAN.iter().find(|(until, _)| now < *until).map(|(_, doing)| *doing)
    }

    /// Whether he is out of sight and every puff is gone.
    pub(super) fn is_over(&self) -> bool {
        self.doing().is_none() && self.puffs.is_empty()
    }

    /// A good moment for a still: he stands, looks at us, and a puff is in the air.
    pub(super) fn is_photogenic(&self) -> bool {
        let puff = self.puffs.iter().any(|(puff, _)| puff.hold(&self.art.reel) == Some(3));
        puff && (100.0..200.0).contains(&self.bram_at)
    }

    pub(super) fn update(&mut self, dt: Ticks) {
        let reel = &self.art.reel;
        self.happened.updates += 1;
        let doing = self.doing();
        let before = self.bram_at;
        let look = self.looks.iter().find(|(look, _)| Some(*look) == doing);
        self.bram.switch_to(reel, look.map_or(self.walk, |(_, clip)| *clip));
        for event in self.bram.advance(reel, dt) {
            if let Event::Mark { mark, .. } = event {
                self.happened.steps += u32::from(mark == self.step);
                self.happened.left_steps += u32::from(mark == self.left_step);
            }
        }
        if look.is_none() {
            self.bram_at += PACE * dt.as_secs_f64();
        }

        let touched = BLOSSOMS.iter().filter(|(at, _)| (before..self.bram_at).contains(at));
        for (_, place) in touched {
            self.puffs.push((Player::new(reel, self.puff), *place));
            self.happened.puffs_shown += 1;
        }
        for (puff, _) in &mut self.puffs {
            puff.advance(reel, dt);
        }
        let up = self.puffs.len();
        self.puffs.retain(|(puff, _)| !puff.is_over());
        self.happened.puffs_gone += up - self.puffs.len();

        let drop = self.drop;
        let drops = self.drip.advance(reel, dt);
        self.happened.drops += drops
            .filter(|event| matches!(event, Event::Mark { mark, .. } if *mark == drop))
            .count() as u32;
        self.passed += dt;
    }

    /// How many cycles each of the tiles has completed.
    pub(super) fn cycles(&self) -> Vec<(&'static str, i32)> {
        let tiles = self.tiles.iter().filter(|(name, _)| *name != "shine");
        let cycle = |clip: ClipId| self.art.reel.moment(clip, self.passed, Speed::NORMAL).cycle();
        let tiles = tiles.map(|(name, clip)| (*name, cycle(*clip)));
        tiles.chain([("drip", self.drip.cycle())]).collect()
    }

    /// The scene as it is now: 320 x 200.
    pub(super) fn picture(&self) -> Picture {
        let mut canvas = Canvas::on(self.background.clone());
        let mut draw = |view: Option<View<'_>>, at: [i32; 2]| {
            if let Some(view) = view {
                canvas.draw(&view, &self.art.images, at, 1);
            }
        };
        let [fan, glow, shine] = self.tiles.map(|(_, clip)| {
            self.art.reel.moment(clip, self.passed, Speed::NORMAL).view(Flips::default())
        });
        draw(fan, [107, 127]);
        draw(self.drip.view(&self.art.reel), [208, 130]);
        for x in LAMPS {
            draw(glow, [x, LAMP_HEIGHT]);
        }
        draw(self.bram.view(&self.art.reel), self.bram_at());
        for (puff, at) in &self.puffs {
            draw(puff.view(&self.art.reel), *at);
        }
        for x in LAMPS {
            draw(shine, [x, LAMP_HEIGHT]);
        }
        canvas.into_picture()
    }
}
