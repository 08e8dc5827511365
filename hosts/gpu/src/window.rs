//! Keys and time in, instances out.

use std::error::Error;
use std::sync::Arc;

use greenhouse_gpu::{Gpu, Screen};
use greenhouse_scene::{Input, SIZE};
use lucky_reel::Clock;
use winit::application::ApplicationHandler;
use winit::dpi::PhysicalSize;
use winit::event::{ElementState, KeyEvent, WindowEvent};
use winit::event_loop::{ActiveEventLoop, EventLoop};
use winit::keyboard::{KeyCode, PhysicalKey};
use winit::window::{Window, WindowId};

use crate::Game;

pub(crate) fn show(game: Game) -> Result<(), Box<dyn Error>> {
    let (clock, input) = (Clock::new(), Input::default());
    let mut app = App { game, clock, input, open: None, failure: None };
    EventLoop::new()?.run_app(&mut app)?;
    app.failure.map_or(Ok(()), Err)
}

struct App {
    game: Game,
    clock: Clock,
    input: Input,
    open: Option<(Arc<Window>, Gpu, Screen)>,
    failure: Option<Box<dyn Error>>,
}

impl App {
    fn open(&mut self, events: &ActiveEventLoop) -> Result<(), Box<dyn Error>> {
        let size = PhysicalSize::new(1_280, 800);
        let about = Window::default_attributes().with_inner_size(size).with_title("greenhouse");
        let window = Arc::new(events.create_window(about)?);
        let (mut gpu, screen) = Gpu::open_for(Arc::clone(&window), window.inner_size().into())?;
        gpu.upload(&self.game.art, self.game.writer.table())?;
        self.open = Some((window, gpu, screen));
        Ok(())
    }

    /// Plays the time since the last picture, and draws the next one as large as whole pixels fit.
    fn draw(&mut self) -> Result<(), Box<dyn Error>> {
        let dt = self.clock.lap();
        self.game.scene.update(&self.game.art.reel, dt, self.input)?;
        (self.input.jump, self.input.stumble) = (false, false);
        if let Some((window, gpu, screen)) = &mut self.open {
            let size: [u32; 2] = window.inner_size().into();
            let zoom = (size[0] / SIZE[0]).min(size[1] / SIZE[1]).max(1);
            gpu.show(self.game.drawn(), screen, size, zoom as f32);
            let (scene, reel) = (&self.game.scene, &self.game.art.reel);
            let plays = scene.bram_plays(reel);
            window.set_title(&format!("greenhouse: {} steps, {plays}", scene.steps()));
            window.request_redraw();
        }
        Ok(())
    }

    fn press(&mut self, key: KeyCode, is_down: bool) {
        match key {
            KeyCode::ArrowLeft => self.input.left = is_down,
            KeyCode::ArrowRight => self.input.right = is_down,
            KeyCode::ArrowUp => self.input.up = is_down,
            KeyCode::ArrowDown => self.input.down = is_down,
            KeyCode::Space => self.input.jump |= is_down,
            KeyCode::KeyS => self.input.stumble |= is_down,
            _ => {}
        }
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
        let opened = self.open(events);
        self.end_on(events, opened);
    }

    fn window_event(&mut self, events: &ActiveEventLoop, _: WindowId, event: WindowEvent) {
        match event {
            WindowEvent::CloseRequested => events.exit(),
            WindowEvent::RedrawRequested => {
                let drawn = self.draw();
                self.end_on(events, drawn);
            }
            WindowEvent::KeyboardInput {
                event: KeyEvent { physical_key: PhysicalKey::Code(key), state, repeat: false, .. },
                ..
            } => match key {
                KeyCode::Escape => events.exit(),
                _ => self.press(key, state == ElementState::Pressed),
            },
            _ => {}
        }
    }
}
