//! Keys and time in, pixels out.

use std::error::Error;
use std::num::NonZeroU32;
use std::rc::Rc;
use std::time::{Duration, Instant};

use greenhouse_scene::Input;
use lucky_reel::{Clock, FixedSteps, Ticks};
use softbuffer::{Context, Surface};
use winit::application::ApplicationHandler;
use winit::dpi::PhysicalSize;
use winit::event::{ElementState, KeyEvent, WindowEvent};
use winit::event_loop::{ActiveEventLoop, ControlFlow, EventLoop};
use winit::keyboard::{KeyCode, PhysicalKey};
use winit::window::{Window, WindowId};

use crate::game::Game;
use crate::{Arguments, write};

/// Time between two pictures.
const FRAME: Duration = Duration::from_millis(16);

pub(crate) fn show(game: Game, arguments: Arguments) -> Result<(), Box<dyn Error>> {
    let mut app = App {
        game,
        arguments,
        clock: Clock::new(),
        steps: FixedSteps::of(Ticks::from_rate(60)),
        input: Input::default(),
        is_paused: false,
        open: None,
        failure: None,
    };
    EventLoop::new()?.run_app(&mut app)?;
    app.failure.map_or(Ok(()), Err)
}

struct App {
    game: Game,
    arguments: Arguments,
    clock: Clock,
    steps: FixedSteps,
    input: Input,
    is_paused: bool,
    open: Option<OpenWindow>,
    failure: Option<Box<dyn Error>>,
}

struct OpenWindow {
    window: Rc<Window>,
    surface: Surface<Rc<Window>, Rc<Window>>,
}

impl OpenWindow {
    fn open(events: &ActiveEventLoop) -> Result<OpenWindow, Box<dyn Error>> {
        let size = PhysicalSize::new(1_280, 800);
        let about = Window::default_attributes().with_inner_size(size).with_title("greenhouse");
        let window = Rc::new(events.create_window(about)?);
        let surface = Surface::new(&Context::new(Rc::clone(&window))?, Rc::clone(&window))?;
        Ok(OpenWindow { window, surface })
    }

    /// The picture in the middle of the window, cut off or with black around it.
    fn draw(&mut self, game: &mut Game) -> Result<(), Box<dyn Error>> {
        let size = self.window.inner_size();
        let (Some(width), Some(height)) =
            (NonZeroU32::new(size.width), NonZeroU32::new(size.height))
        else {
            return Ok(()); // minimized
        };
        self.surface.resize(width, height)?;
        let picture = game.picture();
        let mut pixels = self.surface.buffer_mut()?;
        let left = [size.width, size.height];
        let from = [0, 1].map(|axis| (i64::from(left[axis]) - i64::from(picture.size()[axis])) / 2);
        let rows = pixels.chunks_exact_mut(size.width as usize);
        for (y, row) in (0..).zip(rows) {
            for (x, pixel) in (0..).zip(row) {
                let at = [x - from[0], y - from[1]]
                    .map(|side: i64| u32::try_from(side).unwrap_or(u32::MAX));
                let is_inside = (0..2).all(|axis| at[axis] < picture.size()[axis]);
                let [red, green, blue, _] = if is_inside { picture.pixel(at) } else { [0; 4] };
                *pixel = u32::from_be_bytes([0, red, green, blue]);
            }
        }
        pixels.present()?;
        Ok(())
    }
}

impl App {
    fn play(&mut self) -> Result<(), Box<dyn Error>> {
        self.game.reload();
        let lap = self.clock.lap();
        if self.is_paused {
            return Ok(());
        }
        let (scene, reel) = (&mut self.game.scene, &self.game.art.reel);
        let mut update = |dt| {
            let updated = scene.update(reel, dt, self.input);
            // What was pressed counts for one update.
            (self.input.jump, self.input.stumble) = (false, false);
            updated
        };
        if self.arguments.fixed {
            for dt in self.steps.advance(lap) {
                update(dt)?;
            }
        } else {
            update(lap)?;
        }
        if let Some(open) = &self.open {
            let scene = &self.game.scene;
            let [x, _] = scene.bram_at();
            let plays = scene.bram_plays(&self.game.art.reel);
            open.window
                .set_title(&format!("greenhouse: {} steps, {plays}, x {x:.0}", scene.steps()));
            open.window.request_redraw();
        }
        Ok(())
    }

    fn press(&mut self, key: KeyCode, is_down: bool) -> Result<(), Box<dyn Error>> {
        match key {
            KeyCode::ArrowLeft => self.input.left = is_down,
            KeyCode::ArrowRight => self.input.right = is_down,
            KeyCode::ArrowUp => self.input.up = is_down,
            KeyCode::ArrowDown => self.input.down = is_down,
            KeyCode::Space => self.input.jump |= is_down,
            KeyCode::KeyS => self.input.stumble |= is_down,
            KeyCode::KeyP if is_down => {
                self.is_paused = !self.is_paused;
                if let Some(path) = self.arguments.shot.as_ref().filter(|_| self.is_paused) {
                    write(path, &self.game.picture().to_png())?;
                }
            }
            _ => {}
        }
        Ok(())
    }

    /// Closes the window where something failed.
    fn end_on(&mut self, events: &ActiveEventLoop, done: Result<(), Box<dyn Error>>) {
        if let Err(error) = done {
            self.failure = Some(error);
            events.exit();
        }
    }
}

impl ApplicationHandler for App {
    fn resumed(&mut self, events: &ActiveEventLoop) {
        let opened = OpenWindow::open(events).map(|open| self.open = Some(open));
        self.end_on(events, opened);
    }

    fn about_to_wait(&mut self, events: &ActiveEventLoop) {
        let played = self.play();
        self.end_on(events, played);
        events.set_control_flow(ControlFlow::WaitUntil(Instant::now() + FRAME));
    }

    fn window_event(&mut self, events: &ActiveEventLoop, _: WindowId, event: WindowEvent) {
        match event {
            WindowEvent::CloseRequested => events.exit(),
            WindowEvent::RedrawRequested => {
                let game = &mut self.game;
                let drawn = self.open.as_mut().map_or(Ok(()), |open| open.draw(game));
                self.end_on(events, drawn);
            }
            WindowEvent::KeyboardInput {
                event: KeyEvent { physical_key: PhysicalKey::Code(key), state, repeat: false, .. },
                ..
            } => {
                if key == KeyCode::Escape {
                    return events.exit();
                }
                let pressed = self.press(key, state == ElementState::Pressed);
                self.end_on(events, pressed);
            }
            _ => {}
        }
    }
}
