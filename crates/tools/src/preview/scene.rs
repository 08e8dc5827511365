//! The whole preview as one picture, for windows.

use lucky_reel_assets::Pixels;

use super::panel::{Line, Tone};
use super::{KEYS, Preview};
use crate::drawing::{Drawing, Ink, Theme};

const PAD: i32 = 20;
const LINE: i32 = 21;
/// Height of the time bar, and of the room above it for two lines of marks.
const BAR: i32 = 44;
const MARKS: i32 = 42;
/// Below the bar: its scale, and three lines of keys.
const FOOT: i32 = 118;

/// Where the time bar is in a picture, in pixels.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[allow(missing_docs)] // their names say it
pub struct BarArea {
    pub x: i32,
    pub y: i32,
    pub width: i32,
    pub height: i32,
}

impl BarArea {
    /// Where it is in a picture of this size.
    #[must_use]
    pub fn of(size: [u32; 2]) -> BarArea {
        let [width, height] = size.map(|side| side as i32);
        BarArea { x: PAD, y: height - FOOT - BAR, width: (width - 2 * PAD).max(1), height: BAR }
    }

    /// The place on the bar below a pixel, from 0 to 1; `None` above and below it.
    #[must_use]
    pub fn at(&self, [x, y]: [f64; 2]) -> Option<f32> {
        let inside = y >= f64::from(self.y - 6) && y < f64::from(self.y + self.height + 6);
        inside.then(|| (((x - f64::from(self.x)) / f64::from(self.width)).clamp(0.0, 1.0)) as f32)
    }
}

impl Preview {
    /// Everything in one picture: the art, what is said beside it, the time bar, the keys.
    #[must_use]
    pub fn picture(&self, size: [u32; 2]) -> Pixels {
        let Some(mut sheet) = Drawing::new(size, Theme::Dark) else { return Pixels::default() };
        let [width, height] = size.map(|side| side as i32);
        let bar = BarArea::of(size);
        let panel = (width * 2 / 5).min(430);
        let stage = [width - panel, bar.y - MARKS - 8].map(|side| side.max(1) as u32);
        self.draw_stage(&mut sheet, [0, 0], stage, true);
        sheet.fill([width - panel, 0], [panel, height], Ink::Background);
        sheet.fill([0, bar.y - MARKS - 8], [width, height], Ink::Background);
        sheet.fill([width - panel, 0], [1, bar.y - MARKS - 8], Ink::Box(0));
        let text = [width - panel + PAD, PAD + 10, panel - 2 * PAD];
        draw_lines(&mut sheet, &self.text(), text, bar.y - MARKS - 16);
        self.draw_faults(&mut sheet, stage);
        self.draw_bar(&mut sheet, bar);
        draw_keys(&mut sheet, [PAD, bar.y + BAR + 46, width - 2 * PAD]);
        sheet.pixels()
    }

    /// What is wrong, over the lower part of the stage.
    fn draw_faults(&self, sheet: &mut Drawing, stage: [u32; 2]) {
        let faults = self.faults();
        if faults.is_empty() {
            return;
        }
        let [wide, high] = stage.map(|side| side as i32);
        let inner = wide - 4 * PAD;
        let wrapped: Vec<Line> = faults.iter().flat_map(|line| wrap(sheet, line, inner)).collect();
        let height = wrapped.len() as i32 * LINE + 24;
        let top = (high - height - PAD).max(0);
        sheet.fill([PAD, top], [wide - 2 * PAD, height], Ink::Box(0));
        sheet.fill([PAD, top], [4, height], Ink::Alert);
        draw_lines(sheet, &wrapped, [2 * PAD, top + 26, inner], high);
    }

    fn draw_bar(&self, sheet: &mut Drawing, area: BarArea) {
        let steps = self.bar();
        let place = self.place(&steps);
        let x_of = |at: f32| area.x + (at * area.width as f32).round() as i32;
        let mut free = [0, 0];
        for (nth, step) in steps.iter().enumerate() {
            let (from, to) = (x_of(step.span[0]), x_of(step.span[1]));
            let is_up = place.step == Some(nth);
            let ink = if is_up { Ink::Edge } else { Ink::Box(nth) };
            sheet.fill([from, area.y], [to - from, area.height], ink);
            sheet.fill([from, area.y], [1, area.height], Ink::Background);
            let text = [step.hold.to_string(), step.duration.clone()];
            sheet.write_centered([from, area.y + 19], to - from, 12.0, Ink::Letters, &text[0]);
            sheet.write_centered([from, area.y + 36], to - from, 12.0, Ink::Letters, &text[1]);
            if step.marks.is_empty() {
                continue;
            }
            for line in 0..8 {
                sheet.fill([from, area.y + line], [8 - line, 1], Ink::Mark);
            }
            // Names beside one another, in two lines where one has no room.
            let names = step.marks.join(", ");
            let wide = sheet.width(12.0, &names);
            let from = from.min(area.x + area.width - wide);
            if let Some(line) = (0..2).find(|line| free[*line] <= from) {
                sheet.write([from, area.y - 8 - line as i32 * 18], 12.0, Ink::Mark, &names);
                free[line] = from + wide + 8;
            }
        }
        let at = x_of(place.at);
        sheet.fill([at - 1, area.y - 5], [3, area.height + 10], Ink::Mark);
    }
}

fn ink_of(tone: Tone) -> (Ink, f32) {
    match tone {
        Tone::Strong => (Ink::Letters, 17.0),
        Tone::Plain => (Ink::Letters, 12.0),
        Tone::Dim => (Ink::Dim, 12.0),
        Tone::Mark => (Ink::Mark, 12.0),
        Tone::Alert => (Ink::Alert, 12.0),
    }
}

/// Lines below one another, wrapped to a width, down to `bottom`.
fn draw_lines(sheet: &mut Drawing, lines: &[Line], [x, top, width]: [i32; 3], bottom: i32) {
    let mut y = top;
    for line in lines.iter().flat_map(|line| wrap(sheet, line, width)).collect::<Vec<_>>() {
        if y > bottom {
            return;
        }
        let (ink, size) = ink_of(line.tone);
        sheet.write([x, y], size, ink, &line.text);
        y += if line.text.is_empty() { LINE / 2 } else { LINE };
    }
}

/// A line as several that fit into a width, the further ones indented.
fn wrap(sheet: &Drawing, line: &Line, width: i32) -> Vec<Line> {
    let (_, size) = ink_of(line.tone);
    let (mut lines, mut now) = (Vec::new(), String::new());
    for word in line.text.split_inclusive(' ') {
        if !now.trim().is_empty() && sheet.width(size, &format!("{now}{}", word.trim_end())) > width
        {
            lines.push(std::mem::replace(&mut now, "    ".to_owned()));
        }
        now.push_str(word);
    }
    lines.push(now);
    lines.into_iter().map(|text| Line { tone: line.tone, text }).collect()
}

/// The keys, each in a box with what it does beside it.
fn draw_keys(sheet: &mut Drawing, [x, top, width]: [i32; 3]) {
    let (mut left, mut y) = (x, top);
    for (keys, what) in KEYS {
        let [box_width, text_width] = [sheet.width(12.0, keys) + 10, sheet.width(12.0, what)];
        if left + box_width + 6 + text_width > x + width {
            (left, y) = (x, y + 24);
        }
        sheet.fill([left, y - 14], [box_width, 19], Ink::Box(1));
        sheet.write([left + 5, y], 12.0, Ink::Letters, keys);
        left += box_width + 6;
        left += sheet.write([left, y], 12.0, Ink::Dim, what) + 18;
    }
}
