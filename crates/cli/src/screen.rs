//! The terminal, taken over and put back.

use std::io::{self, BufWriter};

use crossterm::event::{DisableMouseCapture, EnableMouseCapture};
use crossterm::style::{Attribute, ResetColor, SetAttribute};
use crossterm::{cursor, execute, terminal};

use crate::cells::{Cells, Style};

/// The terminal, put back as it was when this is dropped, and before a panic is reported.
pub(crate) struct Screen {
    cells: Cells,
}

impl Screen {
    /// Takes the terminal over; the mouse, too, where it is wanted.
    pub(crate) fn open(with_mouse: bool) -> io::Result<Screen> {
        let hook = std::panic::take_hook();
        std::panic::set_hook(Box::new(move |info| {
            put_back();
            hook(info);
        }));
        terminal::enable_raw_mode()?;
        // From here on dropping it restores the terminal.
        let screen = Screen { cells: Cells::default() };
        execute!(io::stdout(), terminal::EnterAlternateScreen, cursor::Hide)?;
        if with_mouse {
            execute!(io::stdout(), EnableMouseCapture)?;
        }
        Ok(screen)
    }

    /// Begins a picture as large as the terminal, blank but for what is behind it.
    pub(crate) fn begin(&mut self, blank: Style) -> io::Result<&mut Cells> {
        let (columns, rows) = terminal::size()?;
        self.cells.begin([columns, rows], blank);
        Ok(&mut self.cells)
    }

    /// Shows the picture.
    pub(crate) fn show(&mut self) -> io::Result<()> {
        self.cells.show(&mut BufWriter::new(io::stdout().lock()))
    }
}

impl Drop for Screen {
    fn drop(&mut self) {
        put_back();
    }
}

/// There is nobody left to tell if this fails.
fn put_back() {
    let mut out = io::stdout();
    let _ = execute!(out, DisableMouseCapture, ResetColor, SetAttribute(Attribute::Reset));
    let _ = execute!(out, cursor::Show, terminal::LeaveAlternateScreen);
    let _ = terminal::disable_raw_mode();
}
