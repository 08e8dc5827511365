//! Crowds against what people write by hand and against the floor of the machine, as ratios of one
//! interleaved run.
//!
//! `cargo bench --bench ratios` prints the table and writes it to `target/ratios.json`.
//! `-- --plot FILE.png` draws the time per player besides, `-- --most N` leaves out larger fields.

#![allow(clippy::expect_used)] // what is measured is known to be sound

mod field;
mod plot;
mod rivals;

use std::hint::black_box;
use std::time::Instant;

use field::{Contender, Kind, Ours, OursTurned, OursWritten, random};
use lucky_reel::Ticks;
use rivals::{BareWrite, Floor, Hand, Modulo, Tiles};

const PLAYERS: [usize; 5] = [1_000, 10_000, 100_000, 1_000_000, 4_000_000];
const ROUNDS: u64 = 21;
/// So many players are updated in one sample, and so many updates are made, at least.
const SAMPLE: usize = 2_000_000;
const UPDATES: usize = 8;

/// The contenders, in the order of the columns.
const NAMES: [&str; 8] = [
    "ours",
    "floor",
    "by hand",
    "modulo",
    "ours, written",
    "bare write",
    "tiles, written",
    "ours, turned",
];

/// Nanoseconds per player and update: a row for each round, a column for each contender.
fn measure(players: usize) -> Vec<[f64; NAMES.len()]> {
    let mut contenders: [Box<dyn Contender>; NAMES.len()] = [
        Box::new(Ours::of(Kind::All, players)),
        Box::new(Floor::new(players)),
        Box::new(Hand::new(players)),
        Box::new(Modulo::new(players)),
        Box::new(OursWritten::new(players)),
        Box::new(BareWrite::new(players)),
        Box::new(Tiles::new(players)),
        Box::new(OursTurned::new(players)),
    ];
    let dt = Ticks::from_rate(60);
    let updates = (SAMPLE / players).max(UPDATES);
    let mut rounds = Vec::new();
    for round in 0..ROUNDS {
        let mut order: Vec<usize> = (0..NAMES.len()).collect();
        order.sort_by_key(|at| random(round, *at as u64, u64::MAX));
        let mut times = [0.0; NAMES.len()];
        for at in order {
            // The one before has had the caches to itself.
            (0..2).for_each(|_| contenders[at].update(black_box(dt)));
            let begun = Instant::now();
            for _ in 0..updates {
                contenders[at].update(black_box(dt));
            }
            times[at] = begun.elapsed().as_secs_f64() * 1e9 / (updates * players) as f64;
        }
        rounds.push(times);
    }
    rounds
}

fn median(values: impl Iterator<Item = f64>) -> f64 {
    let mut values: Vec<f64> = values.collect();
    values.sort_by(f64::total_cmp);
    values[values.len() / 2]
}

fn main() {
    let arguments: Vec<String> = std::env::args().collect();
    let value_of = |name: &str| {
        let at = arguments.iter().position(|argument| argument == name)?;
        arguments.get(at + 1).cloned()
    };
    let most = value_of("--most").and_then(|most| most.parse().ok()).unwrap_or(usize::MAX);
    println!(
        "{:>9}  {:>15}  {:>14}  {:>14}  {:>15}  {:>16}  {:>14}",
        "players",
        "advance ÷ floor",
        "by hand ÷ ours",
        "modulo ÷ ours",
        "written ÷ bare",
        "tiles ÷ bare",
        "turned ÷ bare"
    );
    let mut rows = Vec::new();
    let mut times = Vec::new();
    for players in PLAYERS.into_iter().filter(|players| *players <= most) {
        let rounds = measure(players);
        let ratio = |above: usize, below: usize| median(rounds.iter().map(|t| t[above] / t[below]));
        let ratios = [ratio(0, 1), ratio(2, 0), ratio(3, 0), ratio(4, 5), ratio(6, 5), ratio(7, 5)];
        let [floor, hand, modulo, written, tiles, turned] = ratios;
        println!(
            "{players:>9}  {floor:>15.2}  {hand:>14.2}  {modulo:>14.2}  {written:>15.2}  {tiles:>16.2}  {turned:>14.2}"
        );
        rows.push(serde_json::json!({
            "players": players,
            "advance_over_floor": floor,
            "hand_over_ours": hand,
            "modulo_over_ours": modulo,
            "write_over_bare": written,
            "tiles_over_bare": tiles,
            "turned_over_bare": turned,
        }));
        let each: Vec<f64> =
            (0..NAMES.len()).map(|at| median(rounds.iter().map(|t| t[at]))).collect();
        times.push((players, each));
    }
    println!("\nnanoseconds per player and update:");
    for (players, each) in &times {
        let each = NAMES.iter().zip(each).map(|(name, time)| format!("{name} {time:.2}"));
        println!("{players:>9}  {}", each.collect::<Vec<_>>().join(", "));
    }
    let text = serde_json::to_string_pretty(&rows).expect("numbers can be written");
    let folder = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("target");
    std::fs::create_dir_all(&folder).expect("the folder can be made");
    std::fs::write(folder.join("ratios.json"), text).expect("the file can be written");
    if let Some(path) = value_of("--plot").filter(|path| !path.starts_with("--")) {
        let drawn = plot::draw(&times).expect("the plot can be drawn");
        std::fs::write(&path, drawn.to_png()).expect("the file can be written");
        println!("written: {path}");
    }
}
