//! The preview in a terminal: two pixels in each character cell.

use std::io::{self, IsTerminal};
use std::time::Duration;

use crossterm::event::{
    self, Event, KeyCode, KeyEventKind, KeyModifiers, MouseButton, MouseEventKind,
};
use lucky_reel::Clock;
use lucky_reel_tools::preview::{Action, KEYS, KeyPress, Line, Preview, Tone};
use unicode_width::UnicodeWidthStr;

use super::colors::Palette;
use crate::cells::{Cells, Style, width_of};
use crate::failure::Failure;
use crate::screen::Screen;

/// A picture takes this long.
const FRAME: Duration = Duration::from_millis(25);
/// Columns of the text beside the art, where the terminal has room for both.
const PANEL: u16 = 46;
const BESIDE: u16 = 70;

pub(super) fn show(preview: Preview) -> Result<(), Failure> {
    if !io::stdout().is_terminal() {
        return Err(Failure::with_fix("--in terminal needs a terminal", "use --in window"));
    }
    let mut screen = Screen::open(true)?;
    Ok(run(preview, &mut screen, Palette::of_environment())?)
}

fn run(mut preview: Preview, screen: &mut Screen, palette: Palette) -> io::Result<()> {
    let mut clock = Clock::new();
    let mut places = Places::default();
    loop {
        preview.poll();
        preview.advance(clock.lap());
        if preview.take_changed() {
            places = draw(screen, &preview, palette)?;
        }
        if event::poll(FRAME)? {
            // All that has come in, so that a held key does not lag.
            loop {
                let event = event::read()?;
                if matches!(event, Event::Resize(..)) {
                    preview.redraw();
                }
                if let Some(action) = action_of(&event, &places)
                    && !preview.act(action)
                {
                    return Ok(());
                }
                if !event::poll(Duration::ZERO)? {
                    break;
                }
            }
        }
    }
}

/// What a key or the mouse asks for.
fn action_of(event: &Event, places: &Places) -> Option<Action> {
    match event {
        Event::Key(key) if key.kind != KeyEventKind::Release => {
            let control = key.modifiers.contains(KeyModifiers::CONTROL);
            let key = match key.code {
                KeyCode::Char('c') if control => return Some(Action::Quit),
                KeyCode::Char(c) => KeyPress::Char(c),
                KeyCode::Left => KeyPress::Left,
                KeyCode::Right => KeyPress::Right,
                KeyCode::Up => KeyPress::Up,
                KeyCode::Down => KeyPress::Down,
                KeyCode::Tab => KeyPress::Tab,
                KeyCode::Esc => KeyPress::Escape,
                _ => return None,
            };
            Action::of(key)
        }
        Event::Mouse(mouse) => match mouse.kind {
            MouseEventKind::ScrollUp => Some(Action::Zoom(1)),
            MouseEventKind::ScrollDown => Some(Action::Zoom(-1)),
            MouseEventKind::Down(MouseButton::Left) | MouseEventKind::Drag(MouseButton::Left) => {
                let bar = places.bar;
                let inside = (bar.y..bar.y + bar.height).contains(&mouse.row) && bar.width > 0;
                let at = f32::from(mouse.column.saturating_sub(bar.x)) + 0.5;
                inside.then(|| Action::Seek(at / f32::from(bar.width)))
            }
            _ => None,
        },
        _ => None,
    }
}

/// A rectangle of cells.
#[derive(Clone, Copy, Default)]
struct Area {
    x: u16,
    y: u16,
    width: u16,
    height: u16,
}

impl Area {
    fn new(x: u16, y: u16, width: u16, height: u16) -> Area {
        Area { x, y, width, height }
    }
}

/// Where everything is.
#[derive(Clone, Copy, Default)]
struct Places {
    stage: Area,
    text: Area,
    /// Marks, holds, durations, the playing place.
    bar: Area,
    keys: Area,
}

impl Places {
    fn of([columns, rows]: [u16; 2]) -> Places {
        let keys = key_lines(columns).len() as u16;
        let keys = keys.min(rows / 4);
        let bar = 4.min(rows.saturating_sub(keys));
        let above = rows - keys - bar;
        let beside = columns >= BESIDE;
        let (text, lines) = match beside {
            true => (PANEL.min(columns * 2 / 5), above),
            false => (columns, above.min(8)),
        };
        let stage = match beside {
            true => Area::new(0, 0, columns - text - 1, above),
            false => Area::new(0, 0, columns, above - lines),
        };
        Places {
            stage,
            text: Area::new(columns - text, above - lines, text, lines),
            bar: Area::new(0, above, columns, bar),
            keys: Area::new(0, above + bar, columns, keys),
        }
    }
}

fn draw(screen: &mut Screen, preview: &Preview, palette: Palette) -> io::Result<Places> {
    // Letters are light, whatever the terminal's own background is.
    let cells = screen.begin(palette.background())?;
    let places = Places::of(cells.size());
    draw_stage(cells, preview, places.stage, palette);
    draw_lines(cells, &preview.text(), places.text, palette);
    draw_faults(cells, preview, places.stage, palette);
    draw_bar(cells, preview, places.bar, palette);
    for (row, line) in (places.keys.y..).zip(key_lines(places.keys.width)) {
        let mut column = 0;
        for (keys, what) in line {
            cells.write([column, row], keys, palette.style(Tone::Strong));
            column += keys.width() as u16 + 1;
            cells.write([column, row], what, palette.style(Tone::Dim));
            column += what.width() as u16 + 2;
        }
    }
    screen.show()?;
    Ok(places)
}

/// Lines from the top of an area, each in as many rows as it needs.
fn draw_lines(cells: &mut Cells, lines: &[Line], area: Area, palette: Palette) {
    let rows = lines.iter().flat_map(|line| {
        let rows = wrapped(&line.text, usize::from(area.width));
        rows.into_iter().map(|row| (row, palette.style(line.tone)))
    });
    for (row, (text, style)) in (area.y..area.y + area.height).zip(rows) {
        cells.write([area.x, row], text, style);
    }
}

/// A text in rows of at most so many cells, parted between words where that can be.
fn wrapped(text: &str, width: usize) -> Vec<&str> {
    let (mut rows, mut rest) = (Vec::new(), text);
    loop {
        // Even where there is no room for it, a row takes one character.
        let first = rest.chars().next().map_or(0, char::len_utf8);
        let (fits, after) = rest.split_at(fitting(rest, width).len().max(first));
        if after.is_empty() {
            rows.push(rest);
            return rows;
        }
        let is_whole = after.starts_with(' ');
        let space = fits.rfind(' ').filter(|at| !is_whole && !fits[..*at].trim().is_empty());
        let (row, after) = rest.split_at(space.unwrap_or(fits.len()));
        rows.push(row);
        rest = after.strip_prefix(' ').unwrap_or(after);
    }
}

/// The longest beginning that takes at most so many cells.
fn fitting(text: &str, width: usize) -> &str {
    let mut used = 0;
    let end = text.char_indices().find(|(_, character)| {
        used += width_of(*character);
        used > width
    });
    end.map_or(text, |(end, _)| &text[..end])
}

fn draw_stage(cells: &mut Cells, preview: &Preview, area: Area, palette: Palette) {
    let picture = preview.layout([u32::from(area.width), u32::from(area.height) * 2]);
    for row in 0..area.height {
        for column in 0..area.width {
            let (x, y) = (u32::from(column), u32::from(row) * 2);
            let (sign, style) = palette.cell(picture.pixel([x, y]), picture.pixel([x, y + 1]));
            cells.put([area.x + column, area.y + row], sign, style);
        }
    }
}

/// What is wrong, over the lower part of the stage.
fn draw_faults(cells: &mut Cells, preview: &Preview, stage: Area, palette: Palette) {
    let faults = preview.faults();
    if faults.is_empty() || stage.width < 10 {
        return;
    }
    let width = stage.width - 2;
    let rows: usize = faults.iter().map(|line| wrapped(&line.text, usize::from(width)).len()).sum();
    let height = (rows as u16 + 1).min(stage.height);
    let area = Area::new(stage.x + 1, stage.y + stage.height - height, width, height);
    for row in area.y..area.y + area.height {
        cells.write([area.x, row], &" ".repeat(usize::from(width)), palette.background());
    }
    draw_lines(cells, &faults, area, palette);
}

fn draw_bar(cells: &mut Cells, preview: &Preview, area: Area, palette: Palette) {
    if area.height < 4 || area.width == 0 {
        return;
    }
    let steps = preview.bar();
    let place = preview.place(&steps);
    let column = |at: f32| (at * f32::from(area.width)).round() as u16;
    let shades = [[0x22, 0x2f, 0x42, 255], [0x2b, 0x3b, 0x51, 255], [0x46, 0x5b, 0x74, 255]];
    let mut free = 0;
    for (nth, step) in steps.iter().enumerate() {
        let (from, to) = (column(step.span[0]), column(step.span[1]));
        let is_up = place.step == Some(nth);
        let shade = if is_up { shades[2] } else { shades[nth % 2] };
        let style = match palette {
            Palette::Plain => Style { is_reversed: is_up, ..Style::default() },
            _ => Style { behind: Some(palette.color(shade)), ..palette.style(Tone::Plain) },
        };
        let width = usize::from(to.saturating_sub(from));
        for (row, text) in [(1, step.hold.to_string()), (2, step.duration.clone())] {
            let text = if text.width() < width { text } else { String::new() };
            // Without colors an edge shows where a hold begins.
            let edge = if palette == Palette::Plain && width > 0 { "|" } else { "" };
            let text = format!("{edge}{text:^0$}", width.saturating_sub(edge.len()));
            cells.write([area.x + from, area.y + row], &text, style);
        }
        let names = step.marks.join(", ");
        if !names.is_empty() && from >= free {
            let room = usize::from(area.width - from);
            let text = format!("▾{names} ");
            let text = fitting(&text, room);
            free = from + text.width() as u16;
            cells.write([area.x + from, area.y], text, palette.style(Tone::Mark));
        }
    }
    let at = column(place.at).min(area.width - 1);
    cells.write([area.x + at, area.y + 3], "▲", palette.style(Tone::Mark));
}

/// The keys in as many lines as they need.
fn key_lines(width: u16) -> Vec<Vec<(&'static str, &'static str)>> {
    let (mut lines, mut used) = (vec![Vec::new()], 0);
    for (keys, what) in KEYS {
        let wide = keys.width() + what.width() + 3;
        if used + wide > usize::from(width) && used > 0 {
            lines.push(Vec::new());
            used = 0;
        }
        used += wide;
        if let Some(line) = lines.last_mut() {
            line.push((keys, what));
        }
    }
    lines
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn texts_are_parted_between_words() {
        assert_eq!(wrapped("one two three", 7), ["one two", "three"]);
        assert_eq!(wrapped("one two three", 8), ["one two", "three"]);
        assert_eq!(wrapped("  indented line", 10), ["  indented", "line"]);
        assert_eq!(wrapped("nowheretopart", 5), ["nowhe", "retop", "art"]);
        assert_eq!(wrapped("", 5), [""]);
        assert_eq!(wrapped("größte Maße", 6), ["größte", "Maße"]);
        // Two cells each.
        assert_eq!(wrapped("名前は字", 5), ["名前", "は字"]);
        assert_eq!(wrapped("名前", 1), ["名", "前"]);
    }
}
