//! A terminal as a grid of cells, of which only those are written that have changed.

use std::io::{self, BufWriter, Write};

use crossterm::event::{DisableMouseCapture, EnableMouseCapture};
use crossterm::style::{
    Attribute, Color, Print, ResetColor, SetAttribute, SetBackgroundColor, SetForegroundColor,
};
use crossterm::{cursor, execute, queue, terminal};

/// Colors and weight of a cell.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub(crate) struct Style {
    pub(crate) text: Option<Color>,
    pub(crate) behind: Option<Color>,
    pub(crate) is_bold: bool,
    pub(crate) is_reversed: bool,
}

/// Two pixels above one another, in one cell.
pub(crate) fn half_block(upper: Color, lower: Color) -> (char, Style) {
    ('▀', Style { text: Some(upper), behind: Some(lower), ..Style::default() })
}

type Cell = (char, Style);

/// The terminal, put back as it was when this is dropped, and before a panic is reported.
pub(crate) struct Screen {
    size: [u16; 2],
    cells: Vec<Cell>,
    shown: Vec<Cell>,
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
        let screen = Screen { size: [0, 0], cells: Vec::new(), shown: Vec::new() };
        execute!(io::stdout(), terminal::EnterAlternateScreen, cursor::Hide)?;
        if with_mouse {
            execute!(io::stdout(), EnableMouseCapture)?;
        }
        Ok(screen)
    }

    /// Begins a picture, blank but for what is behind it; gives the columns and rows that there are.
    pub(crate) fn begin(&mut self, blank: Style) -> io::Result<[u16; 2]> {
        let (columns, rows) = terminal::size()?;
        if self.size != [columns, rows] {
            self.size = [columns, rows];
            self.shown.clear();
        }
        self.cells.clear();
        self.cells.resize(usize::from(columns) * usize::from(rows), (' ', blank));
        Ok(self.size)
    }

    /// Puts a sign into a cell; what is outside of the terminal is left out.
    pub(crate) fn put(&mut self, [column, row]: [u16; 2], sign: char, style: Style) {
        let [columns, rows] = self.size;
        if column < columns && row < rows {
            let at = usize::from(row) * usize::from(columns) + usize::from(column);
            if let Some(cell) = self.cells.get_mut(at) {
                // Where nothing is said of what is behind, that stays.
                let behind = style.behind.or(cell.1.behind);
                *cell = (sign, Style { behind, ..style });
            }
        }
    }

    /// Writes a text from a cell on, in one row.
    #[cfg(feature = "watch")]
    pub(crate) fn write(&mut self, [column, row]: [u16; 2], text: &str, style: Style) {
        for (at, sign) in (column..).zip(text.chars()) {
            self.put([at, row], sign, style);
        }
    }

    /// Shows the picture.
    pub(crate) fn show(&mut self) -> io::Result<()> {
        let mut out = BufWriter::new(io::stdout().lock());
        if self.shown.len() != self.cells.len() {
            queue!(out, ResetColor, terminal::Clear(terminal::ClearType::All))?;
            self.shown.clear();
        }
        let columns = usize::from(self.size[0]).max(1);
        let (mut style, mut cursor_at) = (None, usize::MAX);
        for (index, cell) in self.cells.iter().enumerate() {
            if self.shown.get(index) == Some(cell) {
                continue;
            }
            if index != cursor_at || index % columns == 0 {
                let (x, y) = ((index % columns) as u16, (index / columns) as u16);
                queue!(out, cursor::MoveTo(x, y))?;
            }
            if style != Some(cell.1) {
                set_style(&mut out, cell.1)?;
                style = Some(cell.1);
            }
            queue!(out, Print(cell.0))?;
            cursor_at = index + 1;
        }
        std::mem::swap(&mut self.cells, &mut self.shown);
        out.flush()
    }
}

fn set_style(out: &mut impl Write, style: Style) -> io::Result<()> {
    queue!(out, SetAttribute(Attribute::Reset))?;
    if let Some(color) = style.text {
        queue!(out, SetForegroundColor(color))?;
    }
    if let Some(color) = style.behind {
        queue!(out, SetBackgroundColor(color))?;
    }
    if style.is_bold {
        queue!(out, SetAttribute(Attribute::Bold))?;
    }
    if style.is_reversed {
        queue!(out, SetAttribute(Attribute::Reverse))?;
    }
    Ok(())
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
