//! The preview in a window. The system's window library is loaded when it runs, so that the command
//! also builds and runs where there is none.

use std::num::NonZeroU32;
use std::rc::Rc;
use std::time::{Duration, Instant};

use lucky_reel::Clock;
use lucky_reel_tools::preview::{Action, BarArea, KeyPress, Preview};
use softbuffer::{Context, Surface};
use winit::application::ApplicationHandler;
use winit::dpi::PhysicalSize;
use winit::event::{ElementState, KeyEvent, MouseButton, MouseScrollDelta, WindowEvent};
use winit::event_loop::{ActiveEventLoop, ControlFlow, EventLoop};
use winit::keyboard::{Key as WindowKey, NamedKey};
use winit::window::{Window, WindowId};

use crate::failure::Failure;

/// Time between two pictures.
const FRAME: Duration = Duration::from_millis(16);
const SIZE: PhysicalSize<u32> = PhysicalSize::new(1280, 800);

pub(super) fn show(preview: Preview) -> Result<(), Failure> {
    let events = EventLoop::new().map_err(|error| no_window(&error))?;
    let mut app = App {
        preview,
        clock: Clock::new(),
        open: None,
        title: String::new(),
        pointer: [0.0; 2],
        is_dragging: false,
        scrolled: 0.0,
        failure: None,
    };
    events.run_app(&mut app).map_err(|error| no_window(&error))?;
    app.failure.map_or(Ok(()), Err)
}

fn no_window(error: &dyn std::fmt::Display) -> Failure {
    Failure::with_fix(format!("no window can be opened: {error}"), "use --in terminal")
}

struct App {
    preview: Preview,
    clock: Clock,
    open: Option<OpenWindow>,
    title: String,
    pointer: [f64; 2],
    is_dragging: bool,
    /// Wheel lines that have not made a whole step yet.
    scrolled: f64,
    failure: Option<Failure>,
}

struct OpenWindow {
    window: Rc<Window>,
    surface: Surface<Rc<Window>, Rc<Window>>,
}

impl OpenWindow {
    fn open(events: &ActiveEventLoop) -> Result<OpenWindow, Failure> {
        let about = Window::default_attributes().with_inner_size(SIZE).with_title("lucky-reel");
        let window = events.create_window(about).map_err(|error| no_window(&error))?;
        let window = Rc::new(window);
        let context = Context::new(Rc::clone(&window)).map_err(|error| no_window(&error))?;
        let surface =
            Surface::new(&context, Rc::clone(&window)).map_err(|error| no_window(&error))?;
        Ok(OpenWindow { window, surface })
    }

    fn draw(&mut self, preview: &Preview) -> Result<(), softbuffer::SoftBufferError> {
        let size = self.window.inner_size();
        let (Some(width), Some(height)) =
            (NonZeroU32::new(size.width), NonZeroU32::new(size.height))
        else {
            return Ok(()); // minimized
        };
        self.surface.resize(width, height)?;
        let picture = preview.picture([size.width, size.height]);
        let mut pixels = self.surface.buffer_mut()?;
        for (pixel, rgba) in pixels.iter_mut().zip(picture.rgba().chunks_exact(4)) {
            *pixel = u32::from_be_bytes([0, rgba[0], rgba[1], rgba[2]]);
        }
        pixels.present()
    }
}

impl App {
    fn act(&mut self, events: &ActiveEventLoop, action: Action) {
        if !self.preview.act(action) {
            events.exit();
        }
    }

    /// The place of the time bar below the pointer.
    fn seek(&mut self, events: &ActiveEventLoop) {
        let Some(open) = &self.open else { return };
        let size = open.window.inner_size();
        let area = BarArea::of([size.width, size.height]);
        // A drag that began on the bar may leave it above or below.
        let inside = [self.pointer[0], f64::from(area.y)];
        if let Some(at) = area.at(inside) {
            self.act(events, Action::Seek(at));
        }
    }

    fn is_on_bar(&self) -> bool {
        self.open.as_ref().is_some_and(|open| {
            let size = open.window.inner_size();
            BarArea::of([size.width, size.height]).at(self.pointer).is_some()
        })
    }
}

impl ApplicationHandler for App {
    fn resumed(&mut self, events: &ActiveEventLoop) {
        match OpenWindow::open(events) {
            Ok(open) => self.open = Some(open),
            Err(failure) => {
                self.failure = Some(failure);
                events.exit();
            }
        }
    }

    fn about_to_wait(&mut self, events: &ActiveEventLoop) {
        self.preview.poll();
        self.preview.advance(self.clock.lap());
        if let Some(open) = &self.open {
            let title = format!("{} - lucky-reel", self.preview.title());
            if title != self.title {
                open.window.set_title(&title);
                self.title = title;
            }
            if self.preview.take_changed() {
                open.window.request_redraw();
            }
        }
        events.set_control_flow(ControlFlow::WaitUntil(Instant::now() + FRAME));
    }

    fn window_event(&mut self, events: &ActiveEventLoop, _: WindowId, event: WindowEvent) {
        match event {
            WindowEvent::CloseRequested => self.act(events, Action::Quit),
            WindowEvent::Resized(_) => self.preview.redraw(),
            WindowEvent::RedrawRequested => {
                let drawn = self.open.as_mut().map(|open| open.draw(&self.preview));
                if let Some(Err(error)) = drawn {
                    self.failure = Some(no_window(&error));
                    events.exit();
                }
            }
            WindowEvent::KeyboardInput { event, .. } => {
                if let Some(action) = key_of(&event).and_then(Action::of) {
                    self.act(events, action);
                }
            }
            WindowEvent::CursorMoved { position, .. } => {
                self.pointer = [position.x, position.y];
                if self.is_dragging {
                    self.seek(events);
                }
            }
            WindowEvent::MouseInput { state, button: MouseButton::Left, .. } => {
                self.is_dragging = state == ElementState::Pressed && self.is_on_bar();
                if self.is_dragging {
                    self.seek(events);
                }
            }
            WindowEvent::MouseWheel { delta, .. } => {
                self.scrolled += match delta {
                    MouseScrollDelta::LineDelta(_, lines) => f64::from(lines),
                    MouseScrollDelta::PixelDelta(pixels) => pixels.y / 40.0,
                };
                let steps = self.scrolled.trunc();
                self.scrolled -= steps;
                if steps != 0.0 {
                    self.act(events, Action::Zoom(steps.clamp(-4.0, 4.0) as i8));
                }
            }
            _ => {}
        }
    }
}

/// A key that is pressed, or held.
fn key_of(event: &KeyEvent) -> Option<KeyPress> {
    if event.state != ElementState::Pressed {
        return None;
    }
    match &event.logical_key {
        WindowKey::Character(text) => text.chars().next().map(KeyPress::Char),
        WindowKey::Named(NamedKey::Space) => Some(KeyPress::Char(' ')),
        WindowKey::Named(NamedKey::ArrowLeft) => Some(KeyPress::Left),
        WindowKey::Named(NamedKey::ArrowRight) => Some(KeyPress::Right),
        WindowKey::Named(NamedKey::ArrowUp) => Some(KeyPress::Up),
        WindowKey::Named(NamedKey::ArrowDown) => Some(KeyPress::Down),
        WindowKey::Named(NamedKey::Tab) => Some(KeyPress::Tab),
        WindowKey::Named(NamedKey::Escape) => Some(KeyPress::Escape),
        _ => None,
    }
}
