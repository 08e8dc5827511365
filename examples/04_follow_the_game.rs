//! The clip follows the game: a moth has two facts, and its cues choose what it plays.
//!
//! The same cues once in code and once from a file; both do the same.
//!
//! `cargo run --example 04_follow_the_game`

use std::path::Path;

use lucky_reel::prelude::*;
use lucky_reel::{Actor, Condition, NewCue};

/// `demo/greenhouse/moth.reel.toml`, said in code.
fn in_code() -> Result<Reel, lucky_reel::BuildError> {
    let mut builder = Reel::builder();
    builder.role("moth");
    let sheet = builder.sheet("moth", NewSheet::grid([80, 16], Grid::cell_size([16, 16])));
    let wings = || NewClip::of(sheet).frames(0..4);
    builder.clip("flutter", wings().each(Ticks::from_millis(40)));
    builder.clip("circle", wings().each(Ticks::from_millis(60)).mode(Mode::PingPong));
    let rest = NewClip::of(sheet).hold(4, Ticks::from_millis(1_500));
    builder.clip("rest", rest.hold(2, Ticks::from_millis(90)));

    builder.fact("lit", true);
    builder.fact("near", 200.0);
    let close = Condition::new().fact("lit", true).below("near", 24.0);
    builder.cue("circling", NewCue::play("circle").when(close)); // the first that matches wins
    builder.cue("drawn", NewCue::play("flutter").when(Condition::new().fact("lit", true)));
    builder.cue("resting", NewCue::play("rest"));
    builder.build()
}

/// A game: the moth flies to the lamp, which goes out after two seconds.
fn play(reel: &Reel) -> Result<Vec<String>, Box<dyn std::error::Error>> {
    let (lit, near) = (reel.id("lit")?, reel.id("near")?);
    let mut moth = Actor::new(reel, reel.id("moth")?);
    let (mut rows, mut now) = (Vec::new(), Ticks::ZERO);
    for update in 0..180 {
        let distance = (60.0 - update as f32).max(10.0);
        moth.set(near, distance)?; // as it is, each update
        moth.set(lit, update < 120)?;
        for event in moth.advance(reel, Ticks::from_rate(60)) {
            if let EventKind::Cue(cue, _) = event.kind {
                let millis = (now + event.at).as_millis_f64();
                rows.push(format!("{millis:>7.1} ms  {}", reel.name(cue)));
            }
        }
        now += Ticks::from_rate(60);
    }
    Ok(rows)
}

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let file = Path::new(env!("CARGO_MANIFEST_DIR")).join("demo/greenhouse/moth.reel.toml");
    let (code, file) = (in_code()?, assets::load_reel([file])?);
    let rows = play(&code)?;
    for line in &rows {
        println!("{line}");
    }
    println!("from the file: {}", if play(&file)? == rows { "the same" } else { "something else" });
    println!("fingerprints:  {:016x} and {:016x}", code.fingerprint(), file.fingerprint());
    Ok(())
}
