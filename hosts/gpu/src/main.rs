//! The night greenhouse with ten thousand moths, drawn off screen in one draw call.

use std::error::Error;
use std::io::Write;
use std::path::PathBuf;

use clap::Parser;
use greenhouse_gpu::{Drawn, Gpu};
use greenhouse_scene::{Input, ROLES, Scene};
use lucky_reel::assets::{Loader, Pages};
use lucky_reel::{DrawList, Instance, InstanceWriter, SmallInstance, Ticks};
use lucky_reel_tools::atomic_write;

/// Plays the greenhouse, and writes one picture of it.
#[derive(Debug, Parser)]
struct Arguments {
    /// The picture, a PNG of 1280 x 800
    #[arg(long, value_name = "FILE", default_value = "greenhouse-gpu.png")]
    headless: PathBuf,
    /// Folder with the reel files
    #[arg(long, value_name = "FOLDER", default_value = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/greenhouse"))]
    demo: PathBuf,
    /// How many moths there are
    #[arg(long, value_name = "COUNT", default_value_t = 10_000)]
    moths: u32,
    /// Play so many seconds before the picture is drawn
    #[arg(long, value_name = "SECONDS", default_value_t = 2.5)]
    seconds: f64,
    /// Send 16 bytes for each instance, and let the shader look the rest up
    #[arg(long)]
    small: bool,
    /// Put all art onto one page
    #[arg(long)]
    pages: bool,
}

fn main() -> Result<(), Box<dyn Error>> {
    let arguments = Arguments::parse();
    let file = |role: &str| arguments.demo.join(format!("{role}.reel.toml"));
    let mut pages = Pages::new();
    let loader = ROLES.iter().fold(Loader::new(), |loader, role| loader.file(file(role)));
    let loader = if arguments.pages { loader.on_pages(&mut pages) } else { loader };
    let art = loader.load()?;
    let mut scene = Scene::new(&art.reel, arguments.moths)?;
    let updates = (arguments.seconds.clamp(0.0, 3_600.0) * 60.0).round() as u32;
    for update in 0..updates {
        let input = Input { right: true, jump: update == 60, ..Input::default() };
        scene.update(&art.reel, Ticks::from_rate(60), input)?;
    }
    let writer = InstanceWriter::new(&art.reel);
    let mut list = DrawList::by_depth();
    scene.draw(&art.reel, &mut list, &writer);
    let (mut full, mut small): (Vec<Instance>, Vec<SmallInstance>) = (Vec::new(), Vec::new());
    let mut gpu = Gpu::open()?;
    gpu.upload(&art, writer.table())?;
    let drawn = if arguments.small {
        list.write(&writer, &mut small);
        Drawn::Small(&small)
    } else {
        list.write(&writer, &mut full);
        Drawn::Full(&full)
    };
    let picture = gpu.picture(drawn, [1_280, 800], 4.0)?;
    let path = &arguments.headless;
    atomic_write::write(path, true, |file| file.write_all(&picture.to_png()))?;
    println!(
        "{} steps; {} instances from {} images in one draw call; written: {}",
        scene.steps(),
        list.len(),
        art.images.len(),
        path.display()
    );
    Ok(())
}
