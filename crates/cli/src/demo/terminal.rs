//! The scene in a terminal: two pixels in each character cell.

use std::io::{self, IsTerminal};
use std::time::Duration;

use crossterm::event::{self, Event, KeyCode, KeyEvent, KeyEventKind, KeyModifiers};
use crossterm::style::Color;

use lucky_reel::Clock;
use lucky_reel::assets::Pixels;

use super::script::Script;
use crate::cells::{Style, half_block};
use crate::failure::Failure;
use crate::screen::Screen;

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
    let mut screen = Screen::open(false)?;
    let mut script = Script::new()?;
    let mut clock = Clock::new();
    loop {
        script.update(clock.lap()).map_err(io::Error::other)?;
        if script.has_ended() {
            script = Script::new()?;
        }
        show(&mut screen, &script.picture()?, script.bram_at())?;
        if wants_to_end(Duration::from_millis(25))? {
            return Ok(());
        }
    }
}

/// Shows as much of a picture as fits, about a place.
fn show(screen: &mut Screen, picture: &Pixels, about: [i32; 2]) -> io::Result<()> {
    let cells = screen.begin(Style::default())?;
    let [columns, rows] = cells.size();
    let [width, height] = picture.size().map(|side| side as i32);
    let (across, down) = (i32::from(columns), i32::from(rows) * 2);
    let begin = |about: i32, seen: i32, whole: i32| {
        if seen >= whole { (whole - seen) / 2 } else { (about - seen / 2).clamp(0, whole - seen) }
    };
    let left = begin(about[0], across, width);
    // Bram's boots stand low in the window.
    let top = begin(about[1] - down / 6, down, height);
    let color = |column: u16, half: i32| {
        let at = (u32::try_from(left + i32::from(column)), u32::try_from(top + half));
        let [r, g, b, _] = match at {
            (Ok(x), Ok(y)) => picture.pixel([x, y]),
            _ => [0; 4],
        };
        Color::Rgb { r, g, b }
    };
    for row in 0..rows {
        for column in 0..columns {
            let half = i32::from(row) * 2;
            let (sign, style) = half_block(color(column, half), color(column, half + 1));
            cells.put([column, row], sign, style);
        }
    }
    screen.show()
}

/// Waits a moment for a key; `q`, Escape and Ctrl-C end it.
fn wants_to_end(wait: Duration) -> io::Result<bool> {
    if !event::poll(wait)? {
        return Ok(false);
    }
    let Event::Key(KeyEvent { code, modifiers, kind: KeyEventKind::Press, .. }) = event::read()?
    else {
        return Ok(false);
    };
    let interrupt = code == KeyCode::Char('c') && modifiers.contains(KeyModifiers::CONTROL);
    Ok(interrupt || matches!(code, KeyCode::Char('q') | KeyCode::Esc))
}
