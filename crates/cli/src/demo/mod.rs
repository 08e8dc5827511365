//! `demo`: the night greenhouse, played by itself, as images or in the terminal.

mod script;
mod terminal;

use std::fs;
use std::io::{self, Write};
use std::path::{Path, PathBuf};

use lucky_reel::assets::Pixels;
use lucky_reel::{Ticks, time::FixedSteps};
use lucky_reel_tools::AnimatedPng;

use crate::arguments::Demo;
use crate::failure::Failure;
use crate::output::Output;
use script::Script;

/// How often the scene is updated, and how often it is drawn, in a second.
const UPDATES: u32 = 60;
const FRAMES: u16 = 20;
/// Four screen pixels for each of the scene's make 1280 x 800.
const ENLARGED: u32 = 4;

pub(crate) fn run(arguments: &Demo) -> Result<(), Failure> {
    if arguments.terminal {
        return terminal::play();
    }
    let folder = match &arguments.to {
        Some(folder) => folder.clone(),
        None => free_folder()?,
    };
    fs::create_dir_all(&folder).map_err(|error| {
        let shown = folder.display();
        Failure::with_fix(format!("{shown}: cannot create the folder: {error}"), "name another one")
    })?;
    let (moving, still) = (folder.join("greenhouse.png"), folder.join("greenhouse-still.png"));
    let mut output = Output::new(arguments.force);
    output.reserve([&moving, &still])?;
    let plan = rehearse()?;
    let mut script = Script::new()?;
    output.write(&moving, |file| play(&mut script, &plan, file))?;
    output.write(&still, |file| file.write_all(&plan.still.to_png()))?;
    report(&script, &moving, &still)?;
    Ok(())
}

/// `greenhouse-night` here, or the first of greenhouse-night-2, -3 … that is not there yet.
fn free_folder() -> Result<PathBuf, Failure> {
    let name = |nth: u32| match nth {
        1 => PathBuf::from("greenhouse-night"),
        nth => PathBuf::from(format!("greenhouse-night-{nth}")),
    };
    let free = |path: &PathBuf| fs::symlink_metadata(path).is_err();
    (1..10_000).map(name).find(free).ok_or_else(|| {
        Failure::with_fix("all default folder names are taken", "name a folder: --to FOLDER")
    })
}

/// What an animated image must know before it is written.
struct Plan {
    frames: u32,
    still: Pixels,
}

/// Plays the scene frame by frame, in even steps.
fn each_frame(
    script: &mut Script,
    mut show: impl FnMut(&Script) -> io::Result<()>,
) -> io::Result<()> {
    let mut steps = FixedSteps::of(Ticks::from_rate(UPDATES));
    while !script.has_ended() {
        for dt in steps.advance(Ticks::from_rate(u32::from(FRAMES))) {
            script.update(dt).map_err(io::Error::other)?;
        }
        show(script)?;
    }
    Ok(())
}

/// Plays the scene and draws a single picture: it is over in no time.
fn rehearse() -> Result<Plan, Failure> {
    let mut script = Script::new()?;
    let (mut frames, mut still) = (0, None);
    each_frame(&mut script, |script| {
        frames += 1;
        if still.is_none() && script.is_past_still() {
            still = Some(enlarge(&script.picture()?)?);
        }
        Ok(())
    })?;
    let still = match still {
        Some(still) => still,
        None => enlarge(&script.picture()?)?,
    };
    Ok(Plan { frames, still })
}

/// Plays the scene and writes it as it goes.
fn play(script: &mut Script, plan: &Plan, file: impl Write) -> io::Result<()> {
    let mut moving = AnimatedPng::new(file, plan.still.size(), plan.frames)?;
    each_frame(script, |script| moving.frame(&enlarge(&script.picture()?)?, (1, FRAMES)))?;
    moving.finish()
}

fn enlarge(picture: &Pixels) -> io::Result<Pixels> {
    picture.upscaled(ENLARGED).ok_or_else(|| io::Error::other("the picture is too large"))
}

fn report(script: &Script, moving: &Path, still: &Path) -> io::Result<()> {
    let mut out = io::stdout().lock();
    let happened = script.happened();
    let seconds = script.passed().as_secs_f64();
    writeln!(
        out,
        "played   {seconds:.1} s of the night greenhouse in {} updates",
        script.updates()
    )?;
    writeln!(
        out,
        "steps    {} heard, {} of them with the left foot",
        happened.steps, happened.left_steps
    )?;
    writeln!(out, "puffs    {} shown, {} gone", happened.puffs, happened.puffs_gone)?;
    writeln!(out, "drops    {} heard", happened.drops)?;
    let cycles: Vec<String> =
        script.cycles().into_iter().map(|(name, count)| format!("{name} {count}")).collect();
    writeln!(out, "cycles   {}", cycles.join(", "))?;
    writeln!(out, "moving   {} (open it in a browser)", moving.display())?;
    writeln!(out, "still    {}", still.display())
}
