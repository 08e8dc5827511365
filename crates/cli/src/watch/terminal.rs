//! The preview in a terminal: two pixels in each character cell.

use std::io::{self, IsTerminal};
use std::time::Duration;

use crossterm::event::{
    self, DisableMouseCapture, EnableMouseCapture, Event, KeyCode, KeyEventKind, KeyModifiers,
    MouseButton, MouseEventKind,
};
use crossterm::execute;
use lucky_reel::Clock;
use lucky_reel_tools::preview::{Action, KEYS, KeyPress, Line, Preview, Tone};
use ratatui::Frame;
use ratatui::layout::Rect;
use ratatui::style::Style;
use ratatui::text::{Line as TextLine, Span};
use ratatui::widgets::{Clear, Paragraph, Wrap};

use super::colors::Palette;
use crate::failure::Failure;

/// A picture takes this long.
const FRAME: Duration = Duration::from_millis(25);
/// Columns of the text beside the art, where the terminal has room for both.
const PANEL: u16 = 46;
const BESIDE: u16 = 70;

pub(super) fn show(preview: Preview) -> Result<(), Failure> {
    if !io::stdout().is_terminal() {
        return Err(Failure::with_fix("--in terminal needs a terminal", "use --in window"));
    }
    // From here on a panic puts the terminal back before it is reported.
    let mut terminal = ratatui::try_init()?;
    let hook = std::panic::take_hook();
    std::panic::set_hook(Box::new(move |info| {
        let _ = execute!(io::stdout(), DisableMouseCapture);
        hook(info);
    }));
    let shown = execute!(io::stdout(), EnableMouseCapture)
        .and_then(|()| run(preview, &mut terminal, Palette::of_environment()));
    // There is nobody left to tell if this fails.
    let _ = execute!(io::stdout(), DisableMouseCapture);
    ratatui::restore();
    shown.map_err(Failure::from)
}

fn run(
    mut preview: Preview,
    terminal: &mut ratatui::DefaultTerminal,
    palette: Palette,
) -> io::Result<()> {
    let mut clock = Clock::new();
    loop {
        preview.poll();
        preview.advance(clock.lap());
        let mut places = Places::default();
        if preview.take_changed() {
            terminal.draw(|frame| places = draw(frame, &preview, palette))?;
        } else {
            let size = terminal.size()?;
            places = Places::of(Rect::new(0, 0, size.width, size.height));
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

/// Where everything is, in cells.
#[derive(Clone, Copy, Default)]
struct Places {
    stage: Rect,
    text: Rect,
    /// Marks, holds, durations, the playing place.
    bar: Rect,
    keys: Rect,
}

impl Places {
    fn of(area: Rect) -> Places {
        let keys = key_lines(area.width).len() as u16;
        let keys = keys.min(area.height / 4);
        let bar = 4.min(area.height.saturating_sub(keys));
        let above = area.height - keys - bar;
        let beside = area.width >= BESIDE;
        let (text, lines) = match beside {
            true => (PANEL.min(area.width * 2 / 5), above),
            false => (area.width, above.min(8)),
        };
        let stage = match beside {
            true => Rect::new(0, 0, area.width - text - 1, above),
            false => Rect::new(0, 0, area.width, above - lines),
        };
        Places {
            stage,
            text: Rect::new(area.width - text, above - lines, text, lines),
            bar: Rect::new(0, above, area.width, bar),
            keys: Rect::new(0, above + bar, area.width, keys),
        }
    }
}

fn draw(frame: &mut Frame<'_>, preview: &Preview, palette: Palette) -> Places {
    let area = frame.area();
    let places = Places::of(area);
    // Letters are light, whatever the terminal's own background is.
    frame.buffer_mut().set_style(area, palette.background());
    draw_stage(frame, preview, places.stage, palette);
    let text: Vec<TextLine<'_>> =
        preview.text().into_iter().map(|line| styled(line, palette)).collect();
    frame.render_widget(Paragraph::new(text).wrap(Wrap { trim: false }), places.text);
    draw_faults(frame, preview, places.stage, palette);
    draw_bar(frame, preview, places.bar, palette);
    let keys: Vec<TextLine<'_>> = key_lines(places.keys.width)
        .into_iter()
        .map(|line| {
            let spans = line.into_iter().flat_map(|(keys, what)| {
                let style = palette.style(Tone::Strong);
                let what = Span::styled(format!(" {what}  "), palette.style(Tone::Dim));
                [Span::styled(keys, style), what]
            });
            TextLine::from_iter(spans)
        })
        .collect();
    frame.render_widget(Paragraph::new(keys), places.keys);
    places
}

fn styled(line: Line, palette: Palette) -> TextLine<'static> {
    TextLine::styled(line.text, palette.style(line.tone))
}

fn draw_stage(frame: &mut Frame<'_>, preview: &Preview, area: Rect, palette: Palette) {
    let picture = preview.layout([u32::from(area.width), u32::from(area.height) * 2]);
    let cells = frame.buffer_mut();
    for row in 0..area.height {
        for column in 0..area.width {
            let (x, y) = (u32::from(column), u32::from(row) * 2);
            let (sign, style) = palette.cell(picture.pixel([x, y]), picture.pixel([x, y + 1]));
            if let Some(cell) = cells.cell_mut((area.x + column, area.y + row)) {
                cell.set_char(sign).set_style(style);
            }
        }
    }
}

/// What is wrong, over the lower part of the stage.
fn draw_faults(frame: &mut Frame<'_>, preview: &Preview, stage: Rect, palette: Palette) {
    let faults = preview.faults();
    if faults.is_empty() || stage.width < 10 {
        return;
    }
    let width = usize::from(stage.width - 2);
    let lines = |line: &Line| line.text.chars().count().div_ceil(width).max(1) as u16;
    let height = (faults.iter().map(lines).sum::<u16>() + 1).min(stage.height);
    let area = Rect::new(stage.x + 1, stage.bottom() - height, stage.width - 2, height);
    let text: Vec<TextLine<'_>> = faults.into_iter().map(|line| styled(line, palette)).collect();
    frame.render_widget(Clear, area);
    let text = Paragraph::new(text).style(palette.background()).wrap(Wrap { trim: false });
    frame.render_widget(text, area);
}

fn draw_bar(frame: &mut Frame<'_>, preview: &Preview, area: Rect, palette: Palette) {
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
            Palette::Plain if is_up => {
                Style::new().add_modifier(ratatui::style::Modifier::REVERSED)
            }
            Palette::Plain => Style::new(),
            _ => palette.style(Tone::Plain).bg(palette.color(shade)),
        };
        let width = usize::from(to.saturating_sub(from));
        let cells = frame.buffer_mut();
        for (row, text) in [(1, step.hold.to_string()), (2, step.duration.clone())] {
            let text = if text.chars().count() < width { text } else { String::new() };
            // Without colors an edge shows where a hold begins.
            let edge = if palette == Palette::Plain && width > 0 { "|" } else { "" };
            let text = format!("{edge}{text:^0$}", width.saturating_sub(edge.len()));
            cells.set_string(area.x + from, area.y + row, text, style);
        }
        let names = step.marks.join(", ");
        if !names.is_empty() && from >= free {
            let room = usize::from(area.width - from);
            let text: String = format!("▾{names} ").chars().take(room).collect();
            free = from + text.chars().count() as u16;
            cells.set_string(area.x + from, area.y, text, palette.style(Tone::Mark));
        }
    }
    let at = column(place.at).min(area.width - 1);
    frame.buffer_mut().set_string(area.x + at, area.y + 3, "▲", palette.style(Tone::Mark));
}

/// The keys in as many lines as they need.
fn key_lines(width: u16) -> Vec<Vec<(&'static str, &'static str)>> {
    let (mut lines, mut used) = (vec![Vec::new()], 0);
    for (keys, what) in KEYS {
        let wide = keys.len() + what.len() + 3;
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
