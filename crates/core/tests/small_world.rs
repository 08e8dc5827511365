//! A small world searched to the end: roles of two clips, and every script of up to four commands, each held
//! against the naive actor, in one step and tick by tick.
//!
//! Random cases find what is likely; here is what nobody would think of. `cargo test` takes a sample of the
//! roles. `SMALL_WORLD=1800 cargo test --release -p lucky-reel-core --test small_world` takes so many of
//! them, some three minutes on two cores; those tried lie evenly among all that there are.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

#[allow(dead_code)] // some of it is for players alone
mod model;
#[allow(dead_code)] // roles of other tests are random
mod reference_actor;

use std::collections::HashSet;

use lucky_reel_core::*;
use model::{Ends, ModelClip, UNITS};
use reference_actor::{Cond, CueSpec, MARKS, Naive, Row, Spec, reported, seen};

/// Picks one of a list by the lowest digit of a number, and takes that digit off.
fn pick<T: Clone>(number: &mut u64, list: &[T]) -> T {
    let count = list.len() as u64;
    let nth = (*number % count) as usize;
    *number /= count;
    list[nth].clone()
}

const HOLDS: [&[i64]; 6] = [&[1], &[2], &[1, 1], &[1, 2], &[2, 1], &[2, 2]];

/// How it is played, and how often: forever, or so many times.
const PLAYS: [(Mode, Option<i64>); 6] = [
    (Mode::Loop, None),
    (Mode::PingPong, None),
    (Mode::Once, None),
    (Mode::Loop, Some(12)),
    (Mode::PingPong, Some(1)),
    (Mode::PingPong, Some(2)),
];

/// What a cue asks for, and what a mark sets.
const ASKED: [(Cond, &str); 5] = [
    (Cond::A(true), "a-on"),
    (Cond::A(true), "a-off"),
    (Cond::P, "p-set"),
    (Cond::Q, "pace-back"),
    (Cond::Inside, "pace-back"),
];

fn clip(number: &mut u64, other: usize) -> ModelClip {
    let ticks = pick(number, &HOLDS).to_vec();
    let (mode, repeat) = pick(number, &PLAYS);
    let end = pick(number, &[Ends::Stay, Ends::First, Ends::Vanish, Ends::Play(other)]);
    let marks = vec![0; ticks.len()];
    ModelClip { ticks, mode, repeat, end, marks, rest: 0 }
}

/// One role of the small world: a mark that sets a fact, a span, two cues, with and without a phase group and
/// a bridge.
fn role(mut number: u64) -> Spec {
    let n = &mut number;
    let mut clips = vec![clip(n, 1), clip(n, 0)];
    // Where the mark and the span are: nowhere, or on a hold, which there may be only one of.
    let places = [None, Some((0, 0)), Some((0, 1)), Some((1, 0)), Some((1, 1))];
    let (marked, spanned) = (pick(n, &places), pick(n, &places));
    // What the first cue asks for, and what the mark does that can matter to it.
    let (when, sets) = pick(n, &ASKED);
    let paced = sets == "pace-back";
    let mut mark = |clip: usize, hold: usize, mark: &str| {
        let marks = &mut clips[clip].marks;
        let at = hold % marks.len();
        marks[at] = 1 << MARKS.iter().position(|known| *known == mark).unwrap();
    };
    // The other clip may take back what the mark has set, so that cues hand over to and fro.
    let takes_back = pick(n, &[None, Some(0), Some(1)]);
    if let Some((clip, hold)) = marked {
        mark(clip, hold, sets);
        let contrary =
            [("a-on", "a-off"), ("a-off", "a-on")].into_iter().find(|pair| pair.0 == sets);
        if let Some((hold, (_, contrary))) = takes_back.zip(contrary) {
            mark(1 - clip, hold, contrary);
        }
    }
    let span = |clip: usize| {
        let (_, hold) = spanned.filter(|(at, _)| *at == clip)?;
        let hold = (hold % clips[clip].ticks.len()) as u32;
        Some((hold, hold))
    };
    let spans = vec![span(0), span(1)];
    let finite = |clip: usize| clips[clip].cycles().is_some();
    let [finish, again] = pick(n, &[[false; 2], [true, false], [false, true]]);
    // The first cue plays the second clip: which clip is which does not matter.
    let cue = |when, clip: usize| {
        let (begin, plays) = (None, Ok(clip));
        CueSpec { when, plays, finish: finish && finite(clip), again, begin, paced }
    };
    let cues = vec![cue(vec![vec![when]], 1), cue(vec![], 0)];
    let bridges = match pick(n, &[None, Some(0), Some(1)]) {
        Some(clip) if finite(clip) => vec![(3, 3, clip)],
        _ => vec![],
    };
    let phases = pick(n, &[None, Some(Align::Time), Some(Align::Hold)]);
    Spec { clips, spans, cues, bridges, phases, facings: Align::Time, pulses: [1, 3] }
}

/// How many roles there are, some of them twice.
const ROLES: u64 = (6 * 6 * 4 * 6 * 6 * 4) * (5 * 5 * 5 * 3) * 3 * (3 * 3);

#[derive(Clone, Copy, Debug)]
enum Command {
    Advance(u64),
    Speed(i64),
    Pulse(usize),
    Set(bool),
    Once(usize),
    SaveAndLoad,
    Reload,
}

use Command::*;

const COMMANDS: [Command; 14] = [
    Advance(1),
    Advance(2),
    Advance(5),
    Speed(1),
    Speed(-1),
    Speed(2),
    Speed(0),
    Pulse(0),
    Pulse(1),
    Set(true),
    Set(false),
    Once(1),
    SaveAndLoad,
    Reload,
];

/// What is searched: an actor advanced in one step, one advanced tick by tick, and the naive one.
#[derive(Clone)]
struct Three<'s> {
    whole: Actor,
    split: Actor,
    naive: Naive<'s>,
    /// It has not been advanced since it met another version of the reel.
    is_reloaded: bool,
}

struct World<'s> {
    spec: &'s Spec,
    /// The reel and another version of it.
    reels: [Reel; 2],
    seen: HashSet<u64>,
    script: Vec<Command>,
    tried: u64,
}

impl<'s> World<'s> {
    fn new(spec: &'s Spec) -> World<'s> {
        let reel = spec.build();
        let next = spec.build_into(reel.reload());
        World { spec, reels: [reel, next], seen: HashSet::new(), script: Vec::new(), tried: 0 }
    }

    fn search(&mut self) {
        let reel = &self.reels[0];
        let actor = Actor::new(reel, reel.id("").unwrap());
        let naive = Naive::new(self.spec);
        let three = Three { whole: actor, split: actor, naive, is_reloaded: false };
        self.go_deeper(&three, 0);
    }

    fn go_deeper(&mut self, before: &Three<'s>, version: usize) {
        for command in COMMANDS {
            self.script.push(command);
            let (mut three, mut version) = (before.clone(), version);
            self.obey(&mut three, &mut version, command);
            // What has been there before, with as many commands to go, comes to the same again.
            if self.is_new(&three, version) {
                self.tried += 1;
                let mut far = three.clone();
                self.advance(&mut far, version, 45);
                if self.script.len() < 4 {
                    self.go_deeper(&three, version);
                }
            }
            self.script.pop();
        }
    }

    fn obey(&self, three: &mut Three<'s>, version: &mut usize, command: Command) {
        let reel = &self.reels[*version];
        let Three { whole, split, naive, is_reloaded } = three;
        match command {
            Advance(ticks) => self.advance(three, *version, ticks),
            Speed(speed) => {
                naive.set_speed(speed * UNITS);
                let speed = lucky_reel_core::Speed::from_f64(speed as f64).unwrap();
                [whole, split].into_iter().for_each(|actor| actor.set_speed(reel, speed));
            }
            Pulse(nth) => {
                naive.pulse(nth);
                let pulse = reel.id(["p", "q"][nth]).unwrap();
                [whole, split].into_iter().for_each(|actor| actor.pulse(pulse).unwrap());
            }
            Set(value) => {
                naive.set_a(value);
                let fact = reel.id("a").unwrap();
                [whole, split].into_iter().for_each(|actor| actor.set(fact, value).unwrap());
            }
            Once(clip) => {
                naive.play_times(clip, 1);
                let clip: ClipId = reel.id(&format!("c{clip}")).unwrap();
                assert_eq!(
                    [whole, split].map(|actor| actor.play_over_cues(reel, clip, 1)),
                    [true; 2]
                );
            }
            SaveAndLoad => {
                let loaded = whole.save(reel).load(reel).unwrap();
                if !*is_reloaded {
                    assert_eq!(loaded, *whole, "loaded after {:?} of {:?}", self.script, self.spec);
                }
                (*whole, *split) = (loaded, split.save(reel).load(reel).unwrap());
            }
            // One that is not met before the next is none.
            Reload if *is_reloaded => {}
            Reload => {
                *version = 1 - *version;
                *is_reloaded = true;
                naive.reload();
            }
        }
    }

    fn advance(&self, three: &mut Three<'s>, version: usize, ticks: u64) {
        let reel = &self.reels[version];
        let Three { whole, split, naive, is_reloaded } = three;
        *is_reloaded = false;
        let from = naive.now();
        let row = |now: u64, event: Event| reported(reel, now + event.at.get(), event);
        let at_once: Vec<Row> =
            whole.advance(reel, Ticks::new(ticks)).map(|event| row(from, event)).collect();
        let mut bit_by_bit: Vec<Row> = Vec::new();
        naive.rows.clear();
        for tick in from..from + ticks {
            bit_by_bit.extend(split.advance(reel, Ticks::new(1)).map(|event| row(tick, event)));
            naive.tick();
        }
        let after = || format!("{ticks} ticks after {:?} of {:?}", self.script, self.spec);
        assert_eq!(at_once, naive.rows, "in one step: {}", after());
        assert_eq!(bit_by_bit, naive.rows, "tick by tick: {}", after());
        assert_eq!(whole, split, "{}", after());
        assert_eq!(seen(reel, whole), naive.seen(), "{}", after());
    }

    /// Whether such a state has not been met with as many commands to go.
    fn is_new(&mut self, three: &Three<'s>, version: usize) -> bool {
        use std::hash::{DefaultHasher, Hash, Hasher};
        let mut hasher = DefaultHasher::new();
        (self.script.len(), version, three.naive.state()).hash(&mut hasher);
        format!("{:?}", three.whole).hash(&mut hasher);
        self.seen.insert(hasher.finish())
    }
}

#[test]
fn a_small_world_searched_to_the_end() {
    let count: u64 = std::env::var("SMALL_WORLD").map_or(30, |count| count.parse().unwrap());
    // The golden ratio lays any number of them evenly among all, and two counts share none but a few.
    let stride = (ROLES as f64 * 0.618_033_988_749_895) as u64 | 1;
    let threads = std::thread::available_parallelism().map_or(1, |count| count.get() as u64);
    let tried: u64 = std::thread::scope(|scope| {
        let workers: Vec<_> = (0..threads)
            .map(|first| {
                scope.spawn(move || {
                    let mut tried = 0;
                    for nth in (first..count).step_by(threads as usize) {
                        let spec = role((nth + 1).wrapping_mul(stride) % ROLES);
                        let mut world = World::new(&spec);
                        world.search();
                        tried += world.tried;
                    }
                    tried
                })
            })
            .collect();
        workers.into_iter().map(|worker| worker.join().unwrap()).sum()
    });
    println!("{count} of {ROLES} roles, {tried} states of them");
    assert!(tried > count * 100);
}
