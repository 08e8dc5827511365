//! The night greenhouse on a GPU, in one draw call, in a window or off screen.

use std::error::Error;
use std::sync::Arc;

use clap::Parser;
use greenhouse_desk::{Game, Options, Painter, SIZE};
use greenhouse_gpu::{Batch, Gpu, Screen};
use lucky_reel::view::{Instance, OtherReel, OverlayLine, SmallInstance};
use winit::window::Window;

/// The night greenhouse in one draw call
#[derive(Debug, Parser)]
struct Arguments {
    #[command(flatten)]
    options: Options,
    /// Send 16 bytes for each thing, and let the shader look the rest up; there is no overlay then
    #[arg(long)]
    small: bool,
}

fn main() -> Result<(), Box<dyn Error>> {
    let arguments = Arguments::parse();
    let mut off_screen: Option<Gpu> = None;
    let mut picture = |game: &mut Game, is_small: bool| {
        let gpu = match &mut off_screen {
            Some(gpu) => gpu,
            none => none.insert(Gpu::open()?),
        };
        gpu.upload(&game.art, game.writer.table())?;
        let mut written = Written::new(is_small);
        gpu.picture(written.batch(game)?, SIZE, 4.0)
    };
    match arguments.small {
        true => {
            greenhouse_desk::run::<Painted<true>>(arguments.options, |game| picture(game, true))
        }
        false => {
            greenhouse_desk::run::<Painted<false>>(arguments.options, |game| picture(game, false))
        }
    }
}

/// Instances of either size, written anew for each picture.
struct Written {
    is_small: bool,
    full: Vec<Instance>,
    small: Vec<SmallInstance>,
}

impl Written {
    fn new(is_small: bool) -> Written {
        Written { is_small, full: Vec::new(), small: Vec::new() }
    }

    fn batch(&mut self, game: &mut Game) -> Result<Batch<'_>, OtherReel> {
        let (list, writer, _) = game.list();
        self.full.clear();
        self.small.clear();
        if self.is_small {
            list.write(writer, &mut self.small)?;
            Ok(Batch::Small(&self.small))
        } else {
            list.write(writer, &mut self.full)?;
            self.full.extend(game.overlay().iter().map(line_as_instance));
            Ok(Batch::Full(&self.full))
        }
    }
}

/// A line of the overlay, a pixel of a window of [`SIZE`] wide: an instance without a source, which the shader
/// fills. It runs through the middles of pixels.
fn line_as_instance(line: &OverlayLine) -> Instance {
    const WIDTH: f32 = 0.25;
    let way = [0, 1].map(|axis| line.to[axis] - line.from[axis]);
    let length = way[0].hypot(way[1]).max(f32::MIN_POSITIVE);
    let mut instance = Instance::default();
    let along = way.map(|side| side / length * WIDTH);
    let across = [-along[1], along[0]];
    instance.origin =
        [0, 1].map(|axis| line.from[axis] + (WIDTH - along[axis] - across[axis]) / 2.0);
    instance.axis_x = [0, 1].map(|axis| way[axis] + along[axis]);
    instance.axis_y = across;
    instance.tint = line.color;
    instance
}

/// A window that a GPU draws into.
struct Painted<const SMALL: bool> {
    window: Arc<Window>,
    gpu: Gpu,
    screen: Screen,
    written: Written,
}

impl<const SMALL: bool> Painter for Painted<SMALL> {
    fn open(window: Arc<Window>, game: &Game) -> Result<Self, Box<dyn Error>> {
        let (gpu, screen) = Gpu::open_for(Arc::clone(&window), window.inner_size().into())?;
        let mut painted = Painted { window, gpu, screen, written: Written::new(SMALL) };
        painted.reload(game)?;
        Ok(painted)
    }

    fn reload(&mut self, game: &Game) -> Result<(), Box<dyn Error>> {
        self.gpu.upload(&game.art, game.writer.table())
    }

    /// As large as whole pixels fit.
    fn draw(&mut self, game: &mut Game) -> Result<(), Box<dyn Error>> {
        let size: [u32; 2] = self.window.inner_size().into();
        let zoom = (4 * size[0] / SIZE[0]).min(4 * size[1] / SIZE[1]).max(1);
        self.gpu.show(self.written.batch(game)?, &mut self.screen, size, zoom as f32);
        Ok(())
    }
}
