//! What an update costs: players, actors and crowds, silent and read, in one interleaved run.
//!
//! `cargo bench --bench costs` prints the medians as a table and writes `target/costs.json`, an object of
//! nanoseconds for each thing and update.

#![allow(clippy::expect_used)] // what is measured is known to be sound

use std::hint::black_box;
use std::time::Instant;

use lucky_reel::*;
use lucky_reel::{
    crowd::MemberId,
    id::{FactId, RoleId},
};

/// Things of each kind, updates a round, rounds.
const THINGS: usize = 256;
const UPDATES: usize = 240;
const ROUNDS: usize = 31;
/// Holds of 50 ms: at 60 updates a second one advance in three crosses a boundary.
const HOLD: u64 = 50;
const HOLDS: u32 = 6;

/// One way to spend a round; gives something that depends on all of it.
type Round = Box<dyn FnMut() -> u64>;

struct Field {
    reel: Reel,
    walk: ClipId,
    role: RoleId,
    moving: FactId<bool>,
    pace: FactId<f32>,
    ammo: FactId<i32>,
}

fn field() -> Field {
    let mut builder = Reel::builder();
    let sheet = builder.sheet("bram", NewSheet::grid([256, 32], Grid::cell_size([32, 32])));
    let new = |from: u32| {
        NewClip::of(sheet)
            .frames(from..from + 2)
            .frames(0..HOLDS - 2)
            .each(Ticks::from_millis(HOLD))
    };
    let walk = builder.clip("walk", new(0).mark("step", [1, 3]));
    builder.clip("idle", new(4));
    builder.clip("fall", new(5));
    builder.fact("moving", true);
    builder.fact("pace", 1.0);
    builder.fact("ammo", 3);
    builder.cue("falling", NewCue::play("fall").when(Condition::new().below("pace", 0.0)));
    builder.cue("walking", NewCue::play("walk").when(Condition::new().fact("moving", true)));
    builder.cue("resting", NewCue::play("idle"));
    let reel = builder.build().expect("the role is sound");
    let role: RoleId = reel.id("").expect("it has cues");
    let moving = reel.id("moving").expect("it is there");
    let pace = reel.id("pace").expect("it is there");
    let ammo = reel.id("ammo").expect("it is there");
    Field { reel, walk, role, moving, pace, ammo }
}

/// Where each begins, so that they do not cross their boundaries together.
fn start(nth: usize) -> Ticks {
    Ticks::random(1, nth as u64, Ticks::from_millis(HOLD * u64::from(HOLDS)))
}

fn players(field: &Field) -> Vec<Player> {
    let player = |nth| {
        let mut player = Player::new(&field.reel, field.walk);
        player.advance(&field.reel, start(nth) + Ticks::new(1));
        player
    };
    (0..THINGS).map(player).collect()
}

fn actors(field: &Field) -> Vec<Actor> {
    let actor = |nth| {
        let mut actor = Actor::new(&field.reel, field.role);
        actor.advance(&field.reel, start(nth) + Ticks::new(1));
        actor
    };
    (0..THINGS).map(actor).collect()
}

fn crowd(field: &Field, of_actors: bool) -> (Crowd, Vec<MemberId>) {
    let mut crowd = Crowd::new(&field.reel);
    let members = (0..THINGS).map(|nth| {
        let new = if of_actors {
            crowd.spawn(actors(field)[nth])
        } else {
            crowd.spawn(players(field)[nth])
        };
        new.expect("it plays from the same reel")
    });
    let members = members.collect();
    (crowd, members)
}

/// What people write by hand: elapsed time, an index, and the durations.
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

fn rounds() -> Vec<(&'static str, Round)> {
    let mut rounds: Vec<(&'static str, Round)> = Vec::new();

    let (field_1, field_2) = (field(), field());
    let (mut silent, mut read) = (players(&field_1), players(&field_2));
    rounds.push((
        "player_silent",
        Box::new(move || {
            for _ in 0..UPDATES {
                let dt = black_box(Ticks::from_rate(60));
                for player in &mut silent {
                    player.advance(&field_1.reel, dt);
                }
            }
            silent.iter().map(|player| player.cycle() as u64).sum()
        }),
    ));
    let step: MarkId = field_2.reel.id("step").expect("it is there");
    rounds.push((
        "player_read",
        Box::new(move || {
            let mut steps = 0;
            for _ in 0..UPDATES {
                let dt = black_box(Ticks::from_rate(60));
                for player in &mut read {
                    for event in player.advance(&field_2.reel, dt) {
                        steps += u64::from(event.is_mark(step));
                    }
                }
            }
            steps
        }),
    ));

    let field_3 = field();
    let mut stalled = Player::new(&field_3.reel, field_3.walk);
    rounds.push((
        "event_of_a_day",
        Box::new(move || {
            let day = black_box(Ticks::from_secs(86_400));
            let events = stalled.advance(&field_3.reel, day).take(THINGS * UPDATES);
            events.map(|event| u64::from(event.is_mark(step))).sum()
        }),
    ));

    let (field_1, field_2) = (field(), field());
    let (mut silent, mut read) = (actors(&field_1), actors(&field_2));
    rounds.push((
        "actor_silent",
        Box::new(move || {
            for _ in 0..UPDATES {
                let dt = black_box(Ticks::from_rate(60));
                for actor in &mut silent {
                    actor.advance(&field_1.reel, dt);
                }
            }
            silent.iter().map(|actor| actor.player().cycle() as u64).sum()
        }),
    ));
    let step: MarkId = field_2.reel.id("step").expect("it is there");
    rounds.push((
        "actor_read",
        Box::new(move || {
            let mut steps = 0;
            for _ in 0..UPDATES {
                let dt = black_box(Ticks::from_rate(60));
                for actor in &mut read {
                    for event in actor.advance(&field_2.reel, dt) {
                        steps += u64::from(event.is_mark(step));
                    }
                }
            }
            steps
        }),
    ));

    for (name, of_actors, is_read, sets) in [
        ("crowd_player", false, false, false),
        ("crowd_player_read", false, true, false),
        ("crowd_actor_rest", true, false, false),
        ("crowd_actor_set", true, false, true),
    ] {
        let field = field();
        let (mut crowd, members) = crowd(&field, of_actors);
        let (mut events, mut update) = (EventBuffer::new(), 0_usize);
        rounds.push((
            name,
            Box::new(move || {
                let mut seen = 0;
                for _ in 0..UPDATES {
                    update += 1;
                    let dt = black_box(Ticks::from_rate(60));
                    if sets {
                        // All facts of all members, as they are: mostly what they were.
                        for (nth, member) in members.iter().enumerate() {
                            let moving = (update + nth) % 240 < 120;
                            let reported = [
                                crowd.set_fact(*member, field.moving, moving),
                                crowd.set_fact(*member, field.pace, 1.0),
                                crowd.set_fact(*member, field.ammo, 3),
                            ];
                            seen +=
                                reported.iter().filter(|reported| reported.is_ok()).count() as u64;
                        }
                    }
                    if is_read {
                        crowd.advance_into(dt, EventMask::ALL, &mut events);
                        seen += events.iter().count() as u64;
                    } else {
                        crowd.advance(dt);
                    }
                }
                seen + crowd.len() as u64
            }),
        ));
    }

    let durations = vec![HOLD as f32 / 1_000.0; HOLDS as usize];
    let by_hand = |nth| {
        let elapsed = (start(nth).as_secs_f64() as f32) % (HOLD as f32 / 1_000.0);
        ByHand { elapsed, index: nth % HOLDS as usize, durations: durations.clone() }
    };
    let mut by_hand: Vec<ByHand> = (0..THINGS).map(by_hand).collect();
    rounds.push((
        "hand_written",
        Box::new(move || {
            for _ in 0..UPDATES {
                let dt = black_box(1.0 / 60.0);
                for player in &mut by_hand {
                    player.advance(dt);
                }
            }
            by_hand.iter().map(|player| player.index as u64).sum()
        }),
    ));
    rounds
}

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let only = std::env::var("ONLY").unwrap_or_default();
    let mut rounds: Vec<_> =
        rounds().into_iter().filter(|(name, _)| only.is_empty() || *name == only).collect();
    let mut times = vec![Vec::new(); rounds.len()];
    for _ in 0..ROUNDS {
        // One round of each in turn, so that a busy moment of the machine meets all alike.
        for ((_, round), times) in rounds.iter_mut().zip(&mut times) {
            let begun = Instant::now();
            black_box(round());
            times.push(begun.elapsed().as_secs_f64() * 1e9 / (THINGS * UPDATES) as f64);
        }
    }
    let medians: Vec<(&str, f64)> = rounds
        .iter()
        .zip(&mut times)
        .map(|((name, _), times)| {
            times.sort_by(f64::total_cmp);
            (*name, times[ROUNDS / 2])
        })
        .collect();
    let silent = medians.first().map_or(0.0, |first| first.1);
    println!("{:<18} {:>8} {:>16}", "an update of a", "ns", "÷ player_silent");
    for (name, ns) in &medians {
        println!("{name:<18} {ns:>8.2} {:>16.2}", ns / silent);
    }
    let values = medians.iter().map(|(name, ns)| format!("  \"{name}\": {ns:.3}"));
    let text = format!("{{\n{}\n}}\n", values.collect::<Vec<_>>().join(",\n"));
    let folder = std::env::var("CARGO_TARGET_DIR").unwrap_or_else(|_| "target".to_owned());
    let path = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join(folder).join("costs.json");
    std::fs::write(&path, text)?;
    println!("written: {}", path.display());
    Ok(())
}
