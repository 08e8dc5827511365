//! The night greenhouse with ten thousand moths in one draw call, in a window or off screen.

mod window;

use std::error::Error;
use std::io::Write;
use std::path::PathBuf;

use clap::Parser;
use greenhouse_gpu::{Drawn, Gpu};
use greenhouse_scene::{Input, ROLES, Scene};
use lucky_reel::assets::{Art, Loader, Pages};
use lucky_reel::{DrawList, Instance, InstanceWriter, SmallInstance, Ticks};
use lucky_reel_tools::atomic_write;

/// Walk with the arrow keys, jump with space, stumble with s, leave with escape.
#[derive(Debug, Parser)]
struct Arguments {
    /// Open no window: walk to the right, and write one picture, a PNG of 1280 x 800
    #[arg(long, value_name = "FILE")]
    headless: Option<PathBuf>,
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
    let mut game = Game::new(loader.load()?, &arguments)?;
    let Some(path) = &arguments.headless else { return window::show(game) };
    let updates = (arguments.seconds.clamp(0.0, 3_600.0) * 60.0).round() as u32;
    for update in 0..updates {
        let input = Input { right: true, jump: update == 60, ..Input::default() };
        game.scene.update(&game.art.reel, Ticks::from_rate(60), input)?;
    }
    let mut gpu = Gpu::open()?;
    gpu.upload(&game.art, game.writer.table())?;
    let picture = gpu.picture(game.drawn(), [1_280, 800], 4.0)?;
    atomic_write::write(path, true, |file| file.write_all(&picture.to_png()))?;
    let (steps, images) = (game.scene.steps(), game.art.images.len());
    let count = game.list.len();
    println!("{steps} steps; {count} instances from {images} images in one draw call");
    println!("written: {}", path.display());
    Ok(())
}

/// The scene, its art, and the buffers that it is written into.
pub(crate) struct Game {
    pub(crate) art: Art,
    pub(crate) scene: Scene,
    pub(crate) writer: InstanceWriter,
    list: DrawList,
    is_small: bool,
    full: Vec<Instance>,
    small: Vec<SmallInstance>,
}

impl Game {
    fn new(art: Art, arguments: &Arguments) -> Result<Game, Box<dyn Error>> {
        Ok(Game {
            scene: Scene::new(&art.reel, arguments.moths)?,
            writer: InstanceWriter::new(&art.reel),
            list: DrawList::by_depth(),
            is_small: arguments.small,
            full: Vec::new(),
            small: Vec::new(),
            art,
        })
    }

    /// The scene as it is now, far to near.
    pub(crate) fn drawn(&mut self) -> Drawn<'_> {
        self.list.clear();
        self.scene.draw(&self.art.reel, &mut self.list, &self.writer);
        self.full.clear();
        self.small.clear();
        if self.is_small {
            self.list.write(&self.writer, &mut self.small);
            Drawn::Small(&self.small)
        } else {
            self.list.write(&self.writer, &mut self.full);
            Drawn::Full(&self.full)
        }
    }
}
