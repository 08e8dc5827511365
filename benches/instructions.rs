//! Instructions per player and update, counted by valgrind: a figure that noise does not touch.
//!
//! `cargo bench --bench instructions` runs itself under `valgrind --tool=callgrind` with few and with
//! many updates, and prints the difference. With `-- --at-most N` it fails above N.

#![allow(clippy::expect_used)] // what is measured is known to be sound

#[path = "ratios/field.rs"]
mod field;

use std::process::{Command, ExitCode};

use field::{Contender, Kind, Ours};
use lucky_reel::Ticks;

const PLAYERS: usize = 10_000;
const FEW: usize = 20;
const MANY: usize = 80;

fn main() -> ExitCode {
    let arguments: Vec<String> = std::env::args().collect();
    let number_after = |name: &str| -> Option<f64> {
        let at = arguments.iter().position(|argument| argument == name)?;
        arguments.get(at + 1)?.parse().ok()
    };
    let kind = if arguments.iter().any(|argument| argument == "--loops") {
        Kind::Loops
    } else {
        Kind::All
    };
    if let Some(updates) = number_after("--updates") {
        play(kind, updates as usize);
        return ExitCode::SUCCESS;
    }
    let mut worst = 0.0_f64;
    for (option, name) in
        [("--loops", "loops alone"), ("--all", "with one-shots that are restarted")]
    {
        let counts = [FEW, MANY].map(|updates| count(option, updates));
        let [Some(few), Some(many)] = counts else {
            println!("valgrind is needed to count instructions: install it and run this again");
            return ExitCode::SUCCESS;
        };
        let each = (many - few) as f64 / ((MANY - FEW) * PLAYERS) as f64;
        println!("{each:.2} instructions per player and update, events collected, {name}");
        worst = worst.max(each);
    }
    match number_after("--at-most") {
        Some(most) if worst > most => {
            println!("that is more than {most}");
            ExitCode::FAILURE
        }
        _ => ExitCode::SUCCESS,
    }
}

fn play(kind: Kind, updates: usize) {
    let mut ours = Ours::of(kind, PLAYERS);
    for _ in 0..updates {
        ours.update(Ticks::from_rate(60));
    }
}

/// All instructions of a run with so many updates.
fn count(option: &str, updates: usize) -> Option<u64> {
    let program = std::env::current_exe().ok()?;
    let output = Command::new("valgrind")
        .args(["--tool=callgrind", "--callgrind-out-file=/dev/null"])
        .arg(program)
        .args([option, "--updates", &updates.to_string()])
        .output()
        .ok()?;
    let reported = String::from_utf8_lossy(&output.stderr).into_owned();
    let line = reported.lines().find(|line| line.contains("Collected"))?;
    line.split(':').nth(1)?.trim().parse().ok()
}
