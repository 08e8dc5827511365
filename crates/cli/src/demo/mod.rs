//! The night greenhouse: Bram walks past fans and lamps, and pollen puffs.

mod art;
mod scene;
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
use scene::Scene;

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
    let mut scene = Scene::new()?;
    output.write(&moving, |file| play(&mut scene, &plan, file))?;
    output.write(&still, |file| file.write_all(&plan.still.to_png()))?;
    report(&scene, &moving, &still)?;
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
    /// The picture of the best moment.
    still: Pixels,
}

/// Plays the scene frame by frame, in even steps.
fn each_frame(scene: &mut Scene, mut show: impl FnMut(&Scene) -> io::Result<()>) -> io::Result<()> {
    let mut steps = FixedSteps::of(Ticks::from_rate(UPDATES));
    while !scene.has_ended() {
        for dt in steps.advance(Ticks::from_rate(u32::from(FRAMES))) {
            scene.update(dt).map_err(io::Error::other)?;
        }
        show(scene)?;
    }
    Ok(())
}

/// Plays the scene without drawing it all: it is over in no time.
fn rehearse() -> Result<Plan, Failure> {
    let mut scene = Scene::new()?;
    let mut plan = Plan { frames: 0, still: enlarge(&scene.picture())? };
    each_frame(&mut scene, |scene| {
        plan.frames += 1;
        if scene.is_photogenic() {
            plan.still = enlarge(&scene.picture())?;
        }
        Ok(())
    })?;
    Ok(plan)
}

/// Plays the scene and writes it as it goes.
fn play(scene: &mut Scene, plan: &Plan, file: impl Write) -> io::Result<()> {
    let mut moving = AnimatedPng::new(file, plan.still.size(), plan.frames)?;
    each_frame(scene, |scene| moving.frame(&enlarge(&scene.picture())?, (1, FRAMES)))?;
    moving.finish()
}

fn enlarge(picture: &Pixels) -> io::Result<Pixels> {
    picture.upscaled(ENLARGED).ok_or_else(|| io::Error::other("the picture is too large"))
}

fn report(scene: &Scene, moving: &Path, still: &Path) -> io::Result<()> {
    let mut out = io::stdout().lock();
    let happened = scene.happened();
    let seconds = scene.passed().as_secs_f64();
    writeln!(
        out,
        "played   {seconds:.1} s of the night greenhouse in {} updates",
        happened.updates
    )?;
    writeln!(
        out,
        "steps    {} heard, {} of them with the left foot",
        happened.steps, happened.left_steps
    )?;
    writeln!(out, "puffs    {} shown, {} gone", happened.puffs_shown, happened.puffs_gone)?;
    writeln!(out, "drops    {} heard", happened.drops)?;
    let cycles: Vec<String> =
        scene.cycles().into_iter().map(|(name, count)| format!("{name} {count}")).collect();
    writeln!(out, "cycles   {}", cycles.join(", "))?;
    writeln!(out, "moving   {} (open it in a browser)", moving.display())?;
    writeln!(out, "still    {}", still.display())
}
