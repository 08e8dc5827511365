//! What people write by hand, and the floor of the machine.

use lucky_reel::view::Instance;
use lucky_reel::*;

use crate::field::{CLIPS, Contender, Kind, is_one_shot, millis_of, positions, reel, starts};

/// A struct for each sprite that owns its time, its index and its durations.
pub(crate) struct Hand {
    sprites: Vec<Sprite>,
    changed: Changed,
}

/// What rivals collect: which sprite came to which frame. (Ours collects marks, cycles, ends and exact
/// moments besides.)
type Changed = Vec<(u32, u32)>;

struct Sprite {
    elapsed: f32,
    speed: f32,
    durations: Vec<f32>,
    index: usize,
    looping: bool,
    paused: bool,
}

impl Hand {
    pub(crate) fn new(players: usize) -> Hand {
        let sprites = starts(players).map(|start| {
            let durations: Vec<f32> =
                millis_of(start.clip).iter().map(|millis| *millis as f32 / 1_000.0).collect();
            let mut elapsed = start.phase as f32 * durations.iter().sum::<f32>();
            let mut index = 0;
            while elapsed > durations[index] && index + 1 < durations.len() {
                elapsed -= durations[index];
                index += 1;
            }
            Sprite {
                elapsed,
                speed: start.speed as f32,
                durations,
                index,
                looping: !is_one_shot(start.clip),
                paused: start.paused,
            }
        });
        Hand { sprites: sprites.collect(), changed: Vec::new() }
    }
}

impl Contender for Hand {
    fn update(&mut self, dt: Ticks) {
        let dt = dt.as_secs_f64() as f32;
        self.changed.clear();
        for (id, sprite) in (0..).zip(&mut self.sprites) {
            if sprite.paused {
                continue;
            }
            sprite.elapsed += dt * sprite.speed;
            let before = sprite.index;
            while sprite.elapsed > sprite.durations[sprite.index] {
                sprite.elapsed -= sprite.durations[sprite.index];
                sprite.index += 1;
                if sprite.index == sprite.durations.len() {
                    sprite.index = 0;
                    if !sprite.looping {
                        sprite.elapsed = 0.0;
                    }
                }
            }
            if sprite.index != before {
                self.changed.push((id, sprite.index as u32));
            }
        }
    }
}

/// One clock for all, modulo, and a linear scan of end times.
pub(crate) struct Modulo {
    now: f64,
    /// The end times of each clip's holds.
    ends: Vec<Vec<f32>>,
    sprites: Vec<Slot>,
    changed: Changed,
}

struct Slot {
    clip: u32,
    index: u32,
    speed: f32,
    offset: f32,
    paused: bool,
}

impl Modulo {
    pub(crate) fn new(players: usize) -> Modulo {
        let ends = (0..CLIPS).map(|clip| {
            let running = millis_of(clip).into_iter().scan(0, |end, millis| {
                *end += millis;
                Some(*end as f32 / 1_000.0)
            });
            running.collect()
        });
        let ends: Vec<Vec<f32>> = ends.collect();
        let sprites = starts(players).map(|start| Slot {
            clip: start.clip as u32,
            index: 0,
            speed: start.speed as f32,
            offset: start.phase as f32 * ends[start.clip].last().copied().unwrap_or(0.0),
            paused: start.paused,
        });
        let sprites = sprites.collect();
        Modulo { now: 0.0, ends, sprites, changed: Vec::new() }
    }
}

impl Contender for Modulo {
    fn update(&mut self, dt: Ticks) {
        self.now += dt.as_secs_f64();
        self.changed.clear();
        for (id, sprite) in (0..).zip(&mut self.sprites) {
            if sprite.paused {
                continue;
            }
            let ends = &self.ends[sprite.clip as usize];
            let total = ends[ends.len() - 1];
            let time = (self.now as f32 * sprite.speed + sprite.offset) % total;
            let mut index = 0;
            while index + 1 < ends.len() && time >= ends[index] {
                index += 1;
            }
            if sprite.index != index as u32 {
                sprite.index = index as u32;
                self.changed.push((id, sprite.index));
            }
        }
    }
}

/// The same memory, streamed.
pub(crate) struct Floor {
    clocks: Vec<i64>,
    speeds: Vec<u32>,
}

impl Floor {
    pub(crate) fn new(players: usize) -> Floor {
        let speeds = starts(players).map(|start| (start.speed * 65_536.0) as u32);
        Floor { clocks: vec![-1; players], speeds: speeds.collect() }
    }
}

impl Contender for Floor {
    fn update(&mut self, dt: Ticks) {
        let dt = dt.get() as u32;
        for (clock, speed) in self.clocks.iter_mut().zip(&self.speeds) {
            *clock = clock.wrapping_add((u64::from(dt) * u64::from(*speed)) as i64);
        }
    }
}

/// As many instances as there are players, all alike but for their positions.
pub(crate) struct BareWrite {
    positions: Vec<[f32; 2]>,
    instances: Vec<Instance>,
}

impl BareWrite {
    pub(crate) fn new(players: usize) -> BareWrite {
        BareWrite { positions: positions(players), instances: Vec::new() }
    }
}

impl Contender for BareWrite {
    fn update(&mut self, _: Ticks) {
        let alike = std::hint::black_box(Instance { axis_x: [32.0, 0.0], ..Instance::default() });
        self.instances.clear();
        let written = self.positions.iter().map(|position| Instance { origin: *position, ..alike });
        self.instances.extend(written);
    }
}

/// Tiles that read one clock, written as instances.
pub(crate) struct Tiles {
    unison: Unison,
    writer: InstanceWriter,
    clips: Vec<ClipId>,
    positions: Vec<[f32; 2]>,
    instances: Vec<Instance>,
}

impl Tiles {
    pub(crate) fn new(tiles: usize) -> Tiles {
        let (art, ids) = reel(Kind::All);
        Tiles {
            unison: Unison::new(&art),
            writer: InstanceWriter::new(&art),
            clips: starts(tiles).map(|start| ids[start.clip]).collect(),
            positions: positions(tiles),
            instances: Vec::new(),
        }
    }
}

impl Contender for Tiles {
    fn update(&mut self, dt: Ticks) {
        let Tiles { unison, writer, clips, positions, instances } = self;
        unison.advance(dt);
        instances.clear();
        unison.instances(writer, clips).write_at(instances, positions);
    }
}
