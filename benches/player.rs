//! One player against the struct that people write by hand, side by side in one run.
//!
//! `cargo bench --bench player`

#![allow(clippy::expect_used)] // what is measured is known to be sound

use divan::{Bencher, black_box};
use lucky_reel::{
    Actor, ClipId, Condition, Grid, Mode, NewClip, NewCue, NewSheet, Player, Reel, Ticks,
    id::RoleId, reel::ClipEnd,
};

fn main() {
    divan::main();
}

/// How many updates one sample makes, at 60 a second.
const UPDATES: u64 = 10_000;
const CLIPS: [usize; 4] = [1, 10, 100, 1_000];

/// Holds of 40 to 400 ms, 4 to 16 a clip.
fn holds(clip: usize) -> impl Iterator<Item = u64> {
    let count = 4 + clip % 13;
    (0..count).map(move |hold| 40 + (clip * 37 + hold * 91) as u64 % 361)
}

fn reel(clips: usize) -> (Reel, Vec<ClipId>) {
    let mut builder = Reel::builder();
    let sheet = builder.sheet("sheet", NewSheet::grid([512, 32], Grid::cell_size([32, 32])));
    let ids = (0..clips).map(|clip| {
        let new = holds(clip).zip(0..).fold(NewClip::of(sheet), |new, (millis, frame)| {
            new.hold(frame, Ticks::from_millis(millis))
        });
        builder.clip(format!("clip-{clip}"), new.mode(Mode::Loop))
    });
    let ids = ids.collect();
    (builder.build().expect("the clips are sound"), ids)
}

/// What people write: elapsed time, an index, and the durations.
struct ByHand {
    elapsed: f32,
    index: usize,
    durations: Vec<f32>,
}

impl ByHand {
    fn advance(&mut self, dt: f32) {
        self.elapsed += dt;
        if self.elapsed > self.durations[self.index] {
            self.elapsed -= self.durations[self.index];
            self.index = (self.index + 1) % self.durations.len();
        }
    }
}

/// Each update advances the next of the players, so that 1,000 clips are really used.
#[divan::bench(args = CLIPS)]
fn ours(bencher: Bencher<'_, '_>, clips: usize) {
    let (reel, ids) = reel(clips);
    let mut players: Vec<Player> = ids.iter().map(|clip| Player::new(&reel, *clip)).collect();
    let dt = Ticks::from_rate(60);
    bencher.counter(UPDATES).bench_local(move || {
        for _ in 0..UPDATES / clips as u64 {
            for player in &mut players {
                player.advance(&reel, black_box(dt));
            }
        }
    });
}

#[divan::bench(args = CLIPS)]
fn by_hand(bencher: Bencher<'_, '_>, clips: usize) {
    let by_hand = |clip| {
        let durations = holds(clip).map(|millis| millis as f32 / 1_000.0).collect();
        ByHand { elapsed: 0.0, index: 0, durations }
    };
    let mut players: Vec<ByHand> = (0..clips).map(by_hand).collect();
    bencher.counter(UPDATES).bench_local(move || {
        for _ in 0..UPDATES / clips as u64 {
            for player in &mut players {
                player.advance(black_box(1.0 / 60.0));
            }
        }
    });
}

/// Actors whose facts are set every update and do not change.
#[divan::bench(args = CLIPS)]
fn actors_of_ours(bencher: Bencher<'_, '_>, clips: usize) {
    let mut builder = Reel::builder();
    let sheet = builder.sheet("sheet", NewSheet::grid([512, 32], Grid::cell_size([32, 32])));
    for clip in 0..clips {
        let new = holds(clip).zip(0..).fold(NewClip::of(sheet), |new, (millis, frame)| {
            new.hold(frame, Ticks::from_millis(millis))
        });
        builder.role(format!("role-{clip}"));
        builder.clip("clip", new.mode(Mode::Loop));
        builder.fact("moving", false);
        builder.cue("moving", NewCue::play("clip").when(Condition::new().fact("moving", true)));
        builder.cue("resting", NewCue::play("clip"));
    }
    let reel = builder.build().expect("the roles are sound");
    let mut actors: Vec<Actor> = reel.ids::<RoleId>().map(|role| Actor::new(&reel, role)).collect();
    let dt = Ticks::from_rate(60);
    bencher.counter(UPDATES).bench_local(move || {
        for _ in 0..UPDATES / clips as u64 {
            for actor in &mut actors {
                actor.advance(&reel, black_box(dt));
            }
        }
    });
}

/// One big step costs the same, however big it is.
#[divan::bench(args = [1, 60, 3_600, 86_400])]
fn stall_of_seconds(bencher: Bencher<'_, '_>, seconds: u64) {
    let (reel, ids) = reel(10);
    let mut player = Player::new(&reel, ids[7]);
    player.advance(&reel, Ticks::from_millis(1));
    bencher.bench_local(move || {
        player.advance(&reel, black_box(Ticks::from_secs(seconds)));
    });
}

/// The same of an actor whose marks set a fact with every step, at a speed that a fact gives.
#[divan::bench(args = [1, 60, 3_600, 86_400])]
fn actor_stall_of_seconds(bencher: Bencher<'_, '_>, seconds: u64) {
    let mut builder = Reel::builder();
    let sheet = builder.sheet("sheet", NewSheet::grid([512, 32], Grid::cell_size([32, 32])));
    let walk = NewClip::of(sheet).frames(0..4).fps(8).mark("left", [1]).mark("right", [3]);
    let walk = walk.mark_sets("left", "foot", 1).mark_sets("right", "foot", 2);
    builder.clip("walk", walk);
    builder.fact("foot", 0);
    builder.fact("pace", 0.7);
    builder.cue("odd", NewCue::play("walk").when(Condition::new().fact("foot", 3)));
    builder.cue("walking", NewCue::play("walk").speed_from("pace"));
    let reel = builder.build().expect("the role is sound");
    let role: RoleId = reel.id("").expect("it has cues");
    let mut actor = Actor::new(&reel, role);
    actor.advance(&reel, Ticks::from_millis(1));
    bencher.bench_local(move || {
        actor.advance(&reel, black_box(Ticks::from_secs(seconds)));
    });
}

/// The same over a ring of clips that go on to one another, each a tick long.
#[divan::bench(args = [1, 86_400])]
fn stall_over_a_ring(bencher: Bencher<'_, '_>, seconds: u64) {
    let mut builder = Reel::builder();
    let sheet = builder.sheet("sheet", NewSheet::grid([32, 32], Grid::cell_size([32, 32])));
    for clip in 0..8 {
        let new = NewClip::of(sheet).frames([0]).each(Ticks::new(1)).mode(Mode::Once);
        builder.clip(
            format!("clip-{clip}"),
            new.end(ClipEnd::Play(format!("clip-{}", (clip + 1) % 8))),
        );
    }
    let reel = builder.build().expect("the clips are sound");
    let mut player = Player::new(&reel, reel.id("clip-0").expect("it is there"));
    bencher.bench_local(move || {
        player.advance(&reel, black_box(Ticks::from_secs(seconds)));
    });
}
