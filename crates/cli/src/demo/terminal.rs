//! The scene in a terminal: two pixels in each character cell.

use std::io::{self, IsTerminal, Write};
use std::time::Duration;

use crossterm::event::{self, Event, KeyCode, KeyEvent, KeyEventKind, KeyModifiers};
use crossterm::style::{Color, Colors, Print, ResetColor, SetColors};
use crossterm::{cursor, execute, queue, terminal};

use lucky_reel::Clock;
use lucky_reel::assets::Pixels;

use super::scene::Scene;
use crate::failure::Failure;

/// A character cell: the colors of its upper and its lower pixel.
type Cell = [[u8; 4]; 2];

/// Plays until a key says to end.
pub(super) fn play() -> Result<(), Failure> {
    if !io::stdout().is_terminal() {
        return Err(Failure::with_fix(
            "--terminal needs a terminal",
            "leave it out to write images",
        ));
    }
    let true_color = std::env::var("COLORTERM")
        .is_ok_and(|value| value.contains("truecolor") || value.contains("24bit"));
    if !true_color {
        return Err(Failure::with_fix(
            "this terminal does not report true color",
            "set COLORTERM=truecolor if it has it, or leave out --terminal to write images",
        ));
    }
    let mut screen = Screen::open()?;
    let mut scene = Scene::new()?;
    let mut clock = Clock::new();
    loop {
        scene.update(clock.lap()).map_err(io::Error::other)?;
        if scene.has_ended() {
            scene = Scene::new()?;
        }
        screen.show(&scene.picture(), scene.bram_at())?;
        if screen.wants_to_end(Duration::from_millis(25))? {
            return Ok(());
        }
    }
}

/// The terminal, put back as it was when this is dropped.
struct Screen {
    shown: Vec<Cell>,
    size: [u16; 2],
}

impl Screen {
    fn open() -> io::Result<Screen> {
        terminal::enable_raw_mode()?;
        // From here on dropping it restores the terminal.
        let screen = Screen { shown: Vec::new(), size: [0, 0] };
        execute!(io::stdout(), terminal::EnterAlternateScreen, cursor::Hide)?;
        Ok(screen)
    }

    /// Shows as much of a picture as fits, about a place.
    fn show(&mut self, picture: &Pixels, about: [i32; 2]) -> io::Result<()> {
        let mut out = io::BufWriter::new(io::stdout().lock());
        let (columns, rows) = terminal::size()?;
        if self.size != [columns, rows] {
            self.size = [columns, rows];
            self.shown.clear();
            queue!(out, ResetColor, terminal::Clear(terminal::ClearType::All))?;
        }
        let [width, height] = picture.size().map(|side| side as i32);
        let (across, down) = (i32::from(columns), i32::from(rows) * 2);
        let begin = |about: i32, seen: i32, whole: i32| {
            if seen >= whole {
                (whole - seen) / 2
            } else {
                (about - seen / 2).clamp(0, whole - seen)
            }
        };
        let left = begin(about[0], across, width);
        // Bram's boots stand low in the window.
        let top = begin(about[1] - down / 6, down, height);
        let mut cells = Vec::with_capacity(usize::from(columns) * usize::from(rows));
        for row in 0..i32::from(rows) {
            for column in 0..across {
                let pixel = |half: i32| match (
                    u32::try_from(left + column),
                    u32::try_from(top + row * 2 + half),
                ) {
                    (Ok(x), Ok(y)) => picture.pixel([x, y]),
                    _ => [0; 4],
                };
                cells.push([pixel(0), pixel(1)]);
            }
        }
        self.write_changes(&mut out, &cells)?;
        self.shown = cells;
        out.flush()
    }

    /// Writes the cells that differ from what is shown.
    fn write_changes(&self, out: &mut impl Write, cells: &[Cell]) -> io::Result<()> {
        let rgb = |[r, g, b, _]: [u8; 4]| Color::Rgb { r, g, b };
        let columns = usize::from(self.size[0]).max(1);
        let mut colors = None;
        let mut cursor_at = usize::MAX;
        for (index, cell) in cells.iter().enumerate() {
            if self.shown.get(index) == Some(cell) {
                continue;
            }
            if index != cursor_at || index % columns == 0 {
                let (x, y) = ((index % columns) as u16, (index / columns) as u16);
                queue!(out, cursor::MoveTo(x, y))?;
            }
            if colors != Some(*cell) {
                queue!(out, SetColors(Colors::new(rgb(cell[0]), rgb(cell[1]))))?;
                colors = Some(*cell);
            }
            queue!(out, Print('▀'))?;
            cursor_at = index + 1;
        }
        Ok(())
    }

    /// Waits a moment for a key; `q`, Escape and Ctrl-C end it.
    fn wants_to_end(&self, wait: Duration) -> io::Result<bool> {
        if !event::poll(wait)? {
            return Ok(false);
        }
        let Event::Key(KeyEvent { code, modifiers, kind: KeyEventKind::Press, .. }) =
            event::read()?
        else {
            return Ok(false);
        };
        let interrupt = code == KeyCode::Char('c') && modifiers.contains(KeyModifiers::CONTROL);
        Ok(interrupt || matches!(code, KeyCode::Char('q') | KeyCode::Esc))
    }
}

impl Drop for Screen {
    fn drop(&mut self) {
        // There is nobody left to tell if this fails.
        let _ = execute!(io::stdout(), ResetColor, cursor::Show, terminal::LeaveAlternateScreen);
        let _ = terminal::disable_raw_mode();
    }
}
