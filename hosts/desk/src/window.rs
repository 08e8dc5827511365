//! A window: keys and time in, and a painter that draws.

use std::error::Error;
use std::sync::Arc;
use std::time::{Duration, Instant};

use lucky_reel::assets::Pixels;
use lucky_reel::{Clock, Ticks, time::FixedSteps};
use lucky_reel_greenhouse::Input;
use winit::application::ApplicationHandler;
use winit::dpi::PhysicalSize;
use winit::event::{ElementState, KeyEvent, WindowEvent};
use winit::event_loop::{ActiveEventLoop, ControlFlow, EventLoop};
use winit::keyboard::{KeyCode, PhysicalKey};
use winit::window::{Window, WindowId};

use crate::{Game, Options, Painter, SIZE, write};

/// Time between two pictures.
const FRAME: Duration = Duration::from_millis(16);

type Snapshot<'p> = Box<dyn FnMut(&mut Game) -> Result<Pixels, Box<dyn Error>> + 'p>;

pub(crate) fn show<P: Painter>(
    game: Game,
    options: Options,
    picture: Snapshot<'_>,
) -> Result<(), Box<dyn Error>> {
    let mut app = App::<P> {
        game,
        options,
        picture,
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

struct App<'p, P> {
    game: Game,
    options: Options,
    /// For pictures that are written to a file.
    picture: Snapshot<'p>,
    clock: Clock,
    steps: FixedSteps,
    input: Input,
    is_paused: bool,
    open: Option<(Arc<Window>, P)>,
    failure: Option<Box<dyn Error>>,
}

impl<P: Painter> App<'_, P> {
    fn open(&mut self, events: &ActiveEventLoop) -> Result<(), Box<dyn Error>> {
        let size = PhysicalSize::<u32>::from(SIZE);
        let about = Window::default_attributes().with_inner_size(size).with_title("greenhouse");
        let window = Arc::new(events.create_window(about)?);
        let painter = P::open(Arc::clone(&window), &self.game)?;
        self.open = Some((window, painter));
        Ok(())
    }

    fn play(&mut self) -> Result<(), Box<dyn Error>> {
        let reloaded = self.game.reload();
        let lap = self.clock.lap();
        let Some((window, painter)) = &mut self.open else { return Ok(()) };
        if reloaded {
            painter.reload(&self.game)?;
        }
        if self.is_paused {
            return Ok(());
        }
        let mut update = |dt| {
            let updated = self.game.update(dt, self.input);
            self.input.take_pressed();
            updated
        };
        if self.options.fixed {
            for dt in self.steps.advance(lap) {
                update(dt)?;
            }
        } else {
            update(lap)?;
        }
        let (scene, reel) = (&self.game.scene, &self.game.art.reel);
        let (steps, plays, [x, _]) =
            (scene.happened().steps, scene.bram_plays(reel), scene.bram_at());
        window.set_title(&format!("greenhouse: {steps} steps, {plays}, x {x:.0}"));
        window.request_redraw();
        Ok(())
    }

    fn press(&mut self, key: KeyCode, is_down: bool) -> Result<(), Box<dyn Error>> {
        if key == KeyCode::KeyP && is_down {
            self.is_paused = !self.is_paused;
            if let Some(path) = self.options.shot.as_ref().filter(|_| self.is_paused) {
                write(path, &(self.picture)(&mut self.game)?)?;
            }
        }
        if key == KeyCode::KeyO && is_down {
            self.game.switch_overlay();
        }
        self.input.key(&format!("{key:?}"), is_down);
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

impl<P: Painter> ApplicationHandler for App<'_, P> {
    fn resumed(&mut self, events: &ActiveEventLoop) {
        let opened = self.open(events);
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
                let drawn = self.open.as_mut().map_or(Ok(()), |(_, painter)| painter.draw(game));
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
