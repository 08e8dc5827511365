//! What the hosts with a window share: options, the game with its art, reloading, keys and time. A host
//! brings a [`Painter`].

mod window;

use std::error::Error;
use std::io::Write;
use std::path::{Path, PathBuf};
use std::sync::Arc;

use clap::Args;
use lucky_reel::assets::{Art, Atlas, Loader, Pixels, Watcher};
use lucky_reel::{CommandError, DrawList, InstanceWriter, Overlay, Ticks, view::OverlayLine};
use lucky_reel_greenhouse::{Input, ROLES, Scene, updates_in};
use lucky_reel_tools::atomic_write;
use winit::window::Window;

/// Walk with the arrow keys (slowly with shift), jump with space, stumble with s, change coats with d, pause with p,
/// see areas, clips and cues with o, leave with escape.
#[derive(Clone, Debug, Args)]
pub struct Options {
    /// Folder with the reel files
    #[arg(long, value_name = "FOLDER", default_value = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/greenhouse"))]
    demo: PathBuf,
    /// How many moths there are
    #[arg(long, value_name = "COUNT", default_value_t = 60)]
    moths: u32,
    /// Put all art onto one page
    #[arg(long)]
    atlas: bool,
    /// Update 60 times a second, whatever the display does; otherwise once a picture
    #[arg(long)]
    fixed: bool,
    /// Draw areas, pivots, clips and cues over the game from the start
    #[arg(long)]
    overlay: bool,
    /// Open no window: walk to the right, and write one picture of 1280 x 800
    #[arg(long, value_name = "FILE")]
    headless: Option<PathBuf>,
    /// Play so many seconds before the picture is written
    #[arg(long, value_name = "SECONDS", default_value_t = 2.5)]
    seconds: f64,
    /// Write the picture whenever the game is paused
    #[arg(long, value_name = "FILE")]
    shot: Option<PathBuf>,
}

/// The size of a window at first, and of pictures: four pixels for each of the scene.
pub const SIZE: [u32; 2] = [1_280, 800];

/// The scene, its art, and the list that it is drawn from.
pub struct Game {
    /// What is played and drawn.
    pub art: Art,
    /// Turns frames into instances.
    pub writer: InstanceWriter,
    scene: Scene,
    /// What is drawn over the scene to see its animation, where that is wanted.
    overlay: Option<Overlay>,
    list: DrawList,
    watcher: Watcher,
}

impl Game {
    fn open(options: &Options) -> Result<Game, Box<dyn Error>> {
        let file = |role: &str| options.demo.join(format!("{role}.reel.toml"));
        let loader = ROLES.iter().fold(Loader::new(), |loader, role| loader.file(file(role)));
        let mut atlas = Atlas::new();
        let loader = if options.atlas { loader.into_atlas(&mut atlas) } else { loader };
        let (art, watcher) = loader.watch()?;
        Ok(Game {
            scene: Scene::new(&art.reel, options.moths)?,
            overlay: options.overlay.then(new_overlay),
            writer: InstanceWriter::new(&art.reel),
            list: DrawList::by_depth(),
            watcher,
            art,
        })
    }

    /// Everything as it is now; written by [`DrawList::write`], the farthest first.
    pub fn list(&mut self) -> (&mut DrawList, &InstanceWriter, &Art) {
        self.list.clear();
        self.scene.draw(&self.art.reel, &mut self.list, &self.writer);
        (&mut self.list, &self.writer, &self.art)
    }

    /// Lines to draw over the game, in its pixels; none where no overlay is shown.
    #[must_use]
    pub fn overlay(&self) -> &[OverlayLine] {
        self.overlay.as_ref().map_or(&[], Overlay::lines)
    }

    fn update(&mut self, dt: Ticks, input: Input) -> Result<(), CommandError> {
        self.scene.update(&self.art.reel, dt, input)?;
        if let Some(overlay) = &mut self.overlay {
            self.scene.show_in(overlay, &self.art.reel, dt);
        }
        Ok(())
    }

    /// Shows the overlay from the next update on, or no longer.
    fn switch_overlay(&mut self) {
        self.overlay = if self.overlay.is_none() { Some(new_overlay()) } else { None };
    }

    /// Takes files that have been edited; whether there are some. What is wrong with them is printed, and
    /// the game goes on.
    fn reload(&mut self) -> bool {
        let error: Box<dyn Error> = match self.watcher.poll() {
            None => return false,
            Some(Err(error)) => error.into(),
            Some(Ok(reload)) => match self.scene.reload(&reload.art.reel) {
                Err(error) => error.into(),
                Ok(()) => {
                    self.art = reload.art;
                    self.writer.reload(&self.art.reel);
                    return true;
                }
            },
        };
        eprintln!("{error}");
        false
    }
}

/// Letters of ten pixels, at four for each of the scene.
fn new_overlay() -> Overlay {
    Overlay::new().letters(2.5)
}

/// What draws the game.
pub trait Painter: Sized {
    /// A painter for a window.
    ///
    /// # Errors
    /// When the window cannot be drawn into.
    fn open(window: Arc<Window>, game: &Game) -> Result<Self, Box<dyn Error>>;

    /// Takes art that has been edited.
    ///
    /// # Errors
    /// When it cannot be drawn.
    fn reload(&mut self, game: &Game) -> Result<(), Box<dyn Error>>;

    /// Draws the game into the window, which may have another size than the last time.
    ///
    /// # Errors
    /// When the window is gone.
    fn draw(&mut self, game: &mut Game) -> Result<(), Box<dyn Error>>;
}

/// Plays in a window, or writes one picture.
///
/// # Errors
/// When art cannot be loaded, a window opened or a file written.
pub fn run<P: Painter>(
    options: Options,
    mut picture: impl FnMut(&mut Game) -> Result<Pixels, Box<dyn Error>>,
) -> Result<(), Box<dyn Error>> {
    let mut game = Game::open(&options)?;
    let Some(path) = &options.headless else {
        return window::show::<P>(game, options, Box::new(picture));
    };
    for update in 0..updates_in(options.seconds) {
        game.update(Ticks::from_rate(60), Input::alone(update))?;
    }
    write(path, &picture(&mut game)?)?;
    let (steps, count, images) =
        (game.scene.happened().steps, game.list.len(), game.art.images.len());
    println!("{steps} steps; {count} things from {images} images; written: {}", path.display());
    Ok(())
}

/// Writes a picture, whole or not at all.
fn write(path: &Path, picture: &Pixels) -> Result<(), atomic_write::WriteError> {
    atomic_write::write(path, true, |file| file.write_all(&picture.to_png()))
}
