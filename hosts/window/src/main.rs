//! The night greenhouse in a window, drawn on the CPU: softbuffer for the pixels, the canvas of
//! `lucky-reel-canvas` in between.

use std::error::Error;
use std::num::NonZeroU32;
use std::sync::Arc;

use clap::Parser;
use greenhouse_desk::{Game, Options, Painter};
use lucky_reel::assets::Pixels;
use lucky_reel_canvas::Canvas;
use lucky_reel_greenhouse::picture_of;
use softbuffer::{Context, Surface};
use winit::window::Window;

/// The night greenhouse, drawn on the CPU
#[derive(Debug, Parser)]
struct Arguments {
    #[command(flatten)]
    options: Options,
}

fn main() -> Result<(), Box<dyn Error>> {
    greenhouse_desk::run::<Screen>(Arguments::parse().options, picture)
}

/// So many pixels of the screen for each of the scene.
const ZOOM: u32 = 4;

/// The game as it is now, upscaled, and its overlay in thin lines.
fn picture(game: &mut Game) -> Result<Pixels, Box<dyn Error>> {
    let (list, writer, art) = game.list();
    let picture = picture_of(list, writer, art);
    let picture = picture.and_then(|picture| picture.upscaled(ZOOM));
    let mut canvas = Canvas::on(picture.ok_or("the picture is too large")?);
    let zoomed = |at: [f32; 2]| at.map(|side| side * ZOOM as f32);
    for line in game.overlay() {
        canvas.line(zoomed(line.from), zoomed(line.to), line.color);
    }
    Ok(canvas.into_picture())
}

struct Screen {
    window: Arc<Window>,
    surface: Surface<Arc<Window>, Arc<Window>>,
}

impl Painter for Screen {
    fn open(window: Arc<Window>, _: &Game) -> Result<Screen, Box<dyn Error>> {
        let surface = Surface::new(&Context::new(Arc::clone(&window))?, Arc::clone(&window))?;
        Ok(Screen { window, surface })
    }

    fn reload(&mut self, _: &Game) -> Result<(), Box<dyn Error>> {
        Ok(()) // pictures are drawn from the game's art
    }

    /// The picture from the window's left top corner on, cut off or with black beside it.
    fn draw(&mut self, game: &mut Game) -> Result<(), Box<dyn Error>> {
        let size = self.window.inner_size();
        let (Some(width), Some(height)) =
            (NonZeroU32::new(size.width), NonZeroU32::new(size.height))
        else {
            return Ok(()); // minimized
        };
        self.surface.resize(width, height)?;
        let picture = picture(game)?;
        let row = picture.size()[0] as usize * 4;
        let mut pixels = self.surface.buffer_mut()?;
        pixels.fill(0);
        let shown = pixels.chunks_exact_mut(size.width as usize);
        for (to, from) in shown.zip(picture.rgba().chunks_exact(row)) {
            for (to, from) in to.iter_mut().zip(from.chunks_exact(4)) {
                *to = u32::from_be_bytes([0, from[0], from[1], from[2]]);
            }
        }
        pixels.present()?;
        Ok(())
    }
}
