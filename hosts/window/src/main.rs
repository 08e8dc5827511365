//! The night greenhouse in a window: winit for keys and time, softbuffer for pixels, the canvas of
//! `lucky-reel-tools` in between.

mod game;
mod window;

use std::error::Error;
use std::io::Write;
use std::path::{Path, PathBuf};

use clap::Parser;
use greenhouse_scene::Input;
use lucky_reel::Ticks;
use lucky_reel_tools::atomic_write;

use game::Game;

/// Walk with the arrow keys, jump with space, stumble with s, pause with p, leave with escape.
///
/// Edit the reel files or the images while it runs: it reloads them.
#[derive(Debug, Parser)]
pub(crate) struct Arguments {
    /// Folder with the reel files
    #[arg(long, value_name = "FOLDER", default_value = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/greenhouse"))]
    demo: PathBuf,
    /// How many moths there are
    #[arg(long, value_name = "COUNT", default_value_t = 12)]
    moths: u32,
    /// Update 60 times a second, whatever the display does; otherwise once a picture
    #[arg(long)]
    fixed: bool,
    /// Open no window: walk to the right, and write one picture
    #[arg(long, value_name = "FILE")]
    headless: Option<PathBuf>,
    /// Play so many seconds before the picture is written
    #[arg(long, value_name = "SECONDS", default_value_t = 2.5)]
    seconds: f64,
    /// Write the picture whenever the game is paused
    #[arg(long, value_name = "FILE")]
    shot: Option<PathBuf>,
}

fn main() -> Result<(), Box<dyn Error>> {
    let arguments = Arguments::parse();
    let game = Game::open(&arguments)?;
    match arguments.headless.clone() {
        Some(path) => {
            let mut game = game;
            let input = Input { right: true, ..Input::default() };
            let updates = (arguments.seconds.clamp(0.0, 3_600.0) * 60.0).round() as u32;
            for update in 0..updates {
                game.scene.update(
                    &game.art.reel,
                    Ticks::from_rate(60),
                    Input { jump: update == 60, ..input },
                )?;
            }
            write(&path, &game.picture().to_png())?;
            println!("{} steps; written: {}", game.scene.steps(), path.display());
            Ok(())
        }
        None => window::show(game, arguments),
    }
}

/// Writes a file, whole or not at all.
fn write(path: &Path, bytes: &[u8]) -> Result<(), atomic_write::WriteError> {
    atomic_write::write(path, true, |file| file.write_all(bytes))
}
