//! What is measured: a field of players, and how ours plays it.

#![allow(dead_code)] // each bench uses its part

use lucky_reel::view::Instance;
use lucky_reel::*;

/// A field that advances by the time of one update.
pub(crate) trait Contender {
    fn update(&mut self, dt: Ticks);
}

pub(crate) const CLIPS: usize = 64;
/// A clip in so many is a one-shot that is restarted when it ends; a player in so many is paused.
const ONE_SHOT: usize = 8;
const PAUSED: u64 = 20;

/// Numbers that look random, the same in every run.
pub(crate) fn random(seed: u64, id: u64, within: u64) -> u64 {
    Ticks::random(seed, id, Ticks::new(within)).get()
}

/// 4 to 16 holds of 40 to 400 ms.
pub(crate) fn millis_of(clip: usize) -> Vec<u64> {
    let holds = 4 + random(1, clip as u64, 13);
    (0..holds).map(|hold| 40 + random(2, clip as u64 * 100 + hold, 361)).collect()
}

pub(crate) fn is_one_shot(clip: usize) -> bool {
    clip.is_multiple_of(ONE_SHOT)
}

/// One player of the field.
#[derive(Clone, Copy)]
pub(crate) struct Start {
    pub(crate) clip: usize,
    /// 0.5 to 2.
    pub(crate) speed: f64,
    pub(crate) paused: bool,
    /// Share of its clip that it has behind it.
    pub(crate) phase: f64,
}

pub(crate) fn starts(players: usize) -> impl Iterator<Item = Start> {
    (0..players as u64).map(|id| Start {
        clip: random(3, id, CLIPS as u64) as usize,
        speed: 0.5 + random(4, id, 1_500) as f64 / 1_000.0,
        paused: random(5, id, PAUSED) == 0,
        phase: random(6, id, 1 << 20) as f64 / f64::from(1 << 20),
    })
}

/// Where they stand.
pub(crate) fn positions(players: usize) -> Vec<[f32; 2]> {
    let side = |seed, id| random(seed, id, 4_096) as f32;
    (0..players as u64).map(|id| [side(7, id), side(8, id)]).collect()
}

/// What the field is of.
#[derive(Clone, Copy, PartialEq)]
pub(crate) enum Kind {
    All,
    /// No clip ends.
    Loops,
}

pub(crate) fn reel(kind: Kind) -> (Reel, Vec<ClipId>) {
    let mut builder = Reel::builder();
    let grid = Grid::cell_size([32, 32]);
    let sheet = builder.sheet("field", NewSheet::grid([32 * 16, 32 * CLIPS as u32], grid));
    let ids = (0..CLIPS).map(|clip| {
        let holds = (clip as u32 * 16..).zip(millis_of(clip));
        let new = holds.fold(NewClip::of(sheet), |new, (frame, millis)| {
            new.hold(frame, Ticks::from_millis(millis))
        });
        let mode = if is_one_shot(clip) && kind == Kind::All { Mode::Once } else { Mode::Loop };
        builder.clip(format!("clip-{clip}"), new.mode(mode).mark("step", [1]))
    });
    let ids = ids.collect();
    (builder.build().expect("the clips are sound"), ids)
}

/// Ours: a crowd whose events are collected, and whose one-shots are restarted when they end.
pub(crate) struct Ours {
    pub(crate) reel: Reel,
    pub(crate) crowd: Crowd,
    reported: EventBuffer,
}

impl Ours {
    pub(crate) fn of(kind: Kind, players: usize) -> Ours {
        let (reel, ids) = reel(kind);
        let mut crowd = Crowd::new(&reel);
        for (id, start) in (0..).zip(starts(players)) {
            let speed = Speed::from_f64(start.speed).expect("it is within range");
            let new = NewMember::playing(ids[start.clip]).speed(speed).random_start(9, id);
            let handle = crowd.spawn(new).expect("the clip is of this reel");
            if start.paused {
                crowd.set_paused(handle, true);
            }
        }
        Ours { reel, crowd, reported: EventBuffer::new() }
    }
}

impl Contender for Ours {
    fn update(&mut self, dt: Ticks) {
        let Ours { crowd, reported, .. } = self;
        crowd.advance_into(dt, EventMask::ALL, reported);
        for (handle, event) in reported.iter().select(EventMask::ENDS) {
            if event.is_end() {
                crowd.restart(handle);
            }
        }
    }
}

/// Ours, written as instances of 48 bytes besides.
pub(crate) struct OursWritten {
    pub(crate) ours: Ours,
    writer: InstanceWriter,
    positions: Vec<[f32; 2]>,
    pub(crate) instances: Vec<Instance>,
}

impl OursWritten {
    pub(crate) fn new(players: usize) -> OursWritten {
        let ours = Ours::of(Kind::All, players);
        let writer = InstanceWriter::new(&ours.reel);
        OursWritten { ours, writer, positions: positions(players), instances: Vec::new() }
    }
}

impl Contender for OursWritten {
    fn update(&mut self, dt: Ticks) {
        self.ours.update(dt);
        self.instances.clear();
        self.ours.crowd.instances(&self.writer).write_at(&mut self.instances, &self.positions);
    }
}

/// The same, each member scaled, and rotated into a direction.
pub(crate) struct OursTurned {
    written: OursWritten,
    turns: Vec<(f32, [f32; 2])>,
}

impl OursTurned {
    pub(crate) fn new(players: usize) -> OursTurned {
        let turn = |nth: u64| {
            let (sin, cos) = (nth as f32 * 0.1 % 6.0).sin_cos();
            (0.5 + nth as f32 % 7.0 / 4.0, [cos, sin])
        };
        OursTurned {
            written: OursWritten::new(players),
            turns: (0..players as u64).map(turn).collect(),
        }
    }
}

impl Contender for OursTurned {
    fn update(&mut self, dt: Ticks) {
        let OursWritten { ours, writer, positions, instances } = &mut self.written;
        ours.update(dt);
        instances.clear();
        let turns = &self.turns;
        ours.crowd.instances(writer).write(instances, |member| {
            let at = member.index();
            let (scale, direction) = turns[at];
            Placement::at(positions[at]).scaled(scale).pointing(direction)
        });
    }
}
