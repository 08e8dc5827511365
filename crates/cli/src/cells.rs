//! A picture as a grid of character cells, and what to write to a terminal so that it shows it.

use std::io::{self, Write};

use crossterm::style::{
    Attribute, Color, Print, ResetColor, SetAttribute, SetBackgroundColor, SetForegroundColor,
};
use crossterm::{cursor, queue, terminal};
#[cfg(feature = "watch")]
use unicode_width::UnicodeWidthChar;

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

/// In the second cell of a character that is two cells wide.
const COVERED: char = '\0';

/// A picture that is being drawn, and the one that the terminal shows.
#[derive(Debug, Default)]
pub(crate) struct Cells {
    size: [u16; 2],
    drawn: Vec<Cell>,
    shown: Vec<Cell>,
}

impl Cells {
    /// Begins a picture of so many columns and rows, blank but for what is behind it.
    pub(crate) fn begin(&mut self, size: [u16; 2], blank: Style) {
        if self.size != size {
            self.size = size;
            self.shown.clear();
        }
        self.drawn.clear();
        self.drawn.resize(size.map(usize::from).iter().product(), (' ', blank));
    }

    /// Columns and rows.
    pub(crate) fn size(&self) -> [u16; 2] {
        self.size
    }

    /// Puts a character one cell wide into a cell; what is outside of the terminal is left out.
    pub(crate) fn put(&mut self, [column, row]: [u16; 2], character: char, style: Style) {
        let [columns, rows] = self.size;
        if column < columns && row < rows {
            let at = usize::from(row) * usize::from(columns) + usize::from(column);
            if let Some(cell) = self.drawn.get_mut(at) {
                // Where nothing is said of what is behind, that stays.
                let behind = style.behind.or(cell.1.behind);
                *cell = (character, Style { behind, ..style });
            }
        }
    }

    /// Writes a text from a cell on, in one row, where nothing else is written.
    #[cfg(feature = "watch")]
    pub(crate) fn write(&mut self, [column, row]: [u16; 2], text: &str, style: Style) {
        let mut column = usize::from(column);
        for character in text.chars() {
            let end = column + width_of(character);
            if end > usize::from(self.size[0]) {
                return;
            }
            for (nth, at) in (column..end).enumerate() {
                self.put([at as u16, row], if nth == 0 { character } else { COVERED }, style);
            }
            column = end;
        }
    }

    /// Writes the cells that have changed.
    pub(crate) fn show(&mut self, out: &mut impl Write) -> io::Result<()> {
        if self.shown.len() != self.drawn.len() {
            queue!(out, ResetColor, terminal::Clear(terminal::ClearType::All))?;
            self.shown.clear();
        }
        let columns = usize::from(self.size[0]).max(1);
        let (mut style, mut cursor_at) = (None, usize::MAX);
        for (index, cell) in self.drawn.iter().enumerate() {
            if cell.0 == COVERED || self.shown.get(index) == Some(cell) {
                continue;
            }
            if index != cursor_at || index % columns == 0 {
                let (x, y) = ((index % columns) as u16, (index / columns) as u16);
                queue!(out, cursor::MoveTo(x, y))?;
            }
            if style != Some(cell.1) {
                set_style(out, cell.1)?;
                style = Some(cell.1);
            }
            queue!(out, Print(cell.0))?;
            cursor_at = index + 1;
        }
        std::mem::swap(&mut self.drawn, &mut self.shown);
        out.flush()
    }
}

/// How many cells a character takes. What only changes the one before it, such as an accent, takes none, and is not
/// shown.
#[cfg(feature = "watch")]
pub(crate) fn width_of(character: char) -> usize {
    UnicodeWidthChar::width(character).unwrap_or(0)
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

#[cfg(all(test, feature = "watch"))]
mod tests {
    use proptest::prelude::*;

    use super::*;

    const SIZE: [u16; 2] = [9, 3];

    fn is_wide(character: char) -> bool {
        character > '\u{2e80}'
    }

    proptest! {
        /// A terminal that gets nothing but the changes shows each picture whole.
        #[test]
        fn a_terminal_shows_what_was_written(
            pictures in prop::collection::vec([0..12_u16, 0..12, 0..12].prop_flat_map(|columns| {
                columns.map(|column| (Just(column), "[ ab字名▀\u{301}\u{7}]{0,12}"))
            }), 1..8)
        ) {
            let mut terminal = vt100::Parser::new(SIZE[1], SIZE[0], 0);
            let mut cells = Cells::default();
            for texts in pictures {
                cells.begin(SIZE, Style::default());
                let mut expected = Vec::new();
                for (row, (column, text)) in (0..).zip(texts) {
                    cells.write([column, row], &text, Style::default());
                    let mut columns = usize::from(column);
                    let fits = text.chars().filter(|c| !matches!(c, '\u{301}' | '\u{7}')).take_while(|c| {
                        columns += 1 + usize::from(is_wide(*c));
                        columns <= usize::from(SIZE[0])
                    });
                    let fits: String = fits.collect();
                    expected.push(format!("{}{fits}", " ".repeat(usize::from(column))).trim_end().to_owned());
                }
                let mut bytes = Vec::new();
                cells.show(&mut bytes).unwrap();
                terminal.process(&bytes);
                let rows = terminal.screen().rows(0, SIZE[0]);
                let shown: Vec<String> = rows.map(|row| row.trim_end().to_owned()).collect();
                prop_assert_eq!(shown, expected);
            }
        }
    }
}
