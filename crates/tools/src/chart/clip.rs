use std::collections::BTreeSet;

use lucky_reel_assets::Art;
use lucky_reel_core::{Clip, ClipId, ClipSpan, Hold, Ticks};

use super::order::{Step, order_of};
use super::time_bar::{
    MARK_LINE, Scale, draw_frame, draw_marks, largest_frame, most_marks, view_of,
};
use super::{Chart, SIDE, WIDTH, milliseconds, summary};
use crate::drawing::{Drawing, Ink, Theme};

const ROW: i32 = WIDTH - 2 * SIDE;
/// A hold is at least this wide, so that its numbers can be read.
const NARROW: f64 = 58.0;
const MAX_ROWS: usize = 6;
const TITLE: i32 = 112;
/// Below the frames: number, frame, time.
const LINES: i32 = 62;
/// Of rows that a single hold fills, only this much is drawn.
const LEFT_OUT: i32 = 34;

/// Where everything of a row of time stands, in pixels from its top.
struct Layout {
    scale: Scale,
    rows: usize,
    marks: i32,
    picture: i32,
    spans: i32,
    zoom: u32,
}

/// Draws an overview of a clip: every hold as a picture with its pivot and areas, its number, its frame and its
/// time, widths in proportion to time, marks above, spans below, and how its mode goes on. Time runs from
/// left to right, and on in the next row where one row is too short.
///
/// `None` when the clip is not of this art.
///
/// ```
/// use lucky_reel_core::ClipId;
/// use lucky_reel_tools::{Theme, chart};
///
/// # let path = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/greenhouse/bram.reel.toml");
/// let art = lucky_reel_assets::load(path)?;
/// let walk: ClipId = art.reel.id("walk-right").unwrap();
/// let chart = chart::clip(&art, walk, Theme::Dark).unwrap();
/// assert_eq!(chart.pixels().size()[0], 1280);
/// assert!(chart.svg().starts_with("<svg"));
/// # Ok::<(), lucky_reel_assets::LoadError>(())
/// ```
#[must_use]
pub fn clip(art: &Art, clip: ClipId, theme: Theme) -> Option<Chart> {
    let clip = art.reel.clip(clip)?;
    let layout = Layout::of(art, &clip);
    let order = order_of(&art.reel, &clip);
    let rows: Vec<Row> = rows_of(&clip, &layout);
    let foot = TITLE + rows.iter().map(|row| row.height(&layout)).sum::<i32>();
    let mut sheet = Drawing::new([WIDTH as u32, (foot + 112) as u32], theme)?;
    sheet.write([SIDE, 52], 26.0, Ink::Letters, clip.name);
    let end = SIDE + sheet.write([SIDE, 82], 14.0, Ink::Dim, &summary(&clip));
    if let Some(areas) = areas_of(art, &clip) {
        sheet.write([end + 16, 82], 14.0, Ink::Area, &areas);
    }
    let mut top = TITLE;
    for row in &rows {
        match row {
            Row::Holds(row) => draw_row(&mut sheet, art, &clip, &layout, *row, top),
            Row::LeftOut(hold, time) => {
                let text = format!("…  hold {hold} stays up for {} more  …", milliseconds(*time));
                sheet.write_centered([SIDE, top + 20], ROW, 12.0, Ink::Dim, &text);
            }
        }
        top += row.height(&layout);
    }
    sheet.write([SIDE, foot + 24], 13.0, Ink::Dim, "order of play");
    draw_order(&mut sheet, &order.steps, &order.goes_on, foot + 38);
    Some(Chart(sheet))
}

enum Row {
    Holds(usize),
    /// Rows in which nothing changes: the hold that is up, and for how long.
    LeftOut(usize, Ticks),
}

impl Row {
    fn height(&self, layout: &Layout) -> i32 {
        match self {
            Row::Holds(_) => layout.row_height(),
            Row::LeftOut(..) => LEFT_OUT,
        }
    }
}

/// The names of the areas that are outlined in the frames.
fn areas_of(art: &Art, clip: &Clip<'_>) -> Option<String> {
    let views = clip.holds().filter_map(|hold| view_of(&art.reel, clip, hold.frame));
    let ids = views.flat_map(|view| view.areas().map(|(id, _)| id).collect::<Vec<_>>());
    let names: BTreeSet<&str> = ids.map(|id| art.reel.name(id)).collect();
    let names: Vec<&str> = names.into_iter().collect();
    match names.len() {
        0 => None,
        1 => Some(format!("area {}", names[0])),
        _ => Some(format!("areas {}", names.join(", "))),
    }
}

/// The rows to draw: where a single hold fills one or more of them, a line says so instead.
fn rows_of(clip: &Clip<'_>, layout: &Layout) -> Vec<Row> {
    let mut rows: Vec<Row> = Vec::new();
    let time_of_row = Ticks::new(clip.total.get() / layout.rows.max(1) as u64);
    for row in 0..layout.rows {
        let (from, to) = (row as i32 * ROW, (row as i32 + 1) * ROW);
        let mut start = Ticks::ZERO;
        let filling = clip.holds().enumerate().find(|(_, hold)| {
            let covers = layout.scale.x(start) < from && layout.scale.x(start + hold.ticks) >= to;
            start += hold.ticks;
            covers
        });
        match (filling, rows.last_mut()) {
            (Some(_), Some(Row::LeftOut(_, left_out))) => *left_out += time_of_row,
            (Some((hold, _)), _) => rows.push(Row::LeftOut(hold, time_of_row)),
            (None, _) => rows.push(Row::Holds(row)),
        }
    }
    rows
}

impl Layout {
    fn of(art: &Art, clip: &Clip<'_>) -> Layout {
        // A still takes the whole row: it stands.
        let total = clip.total.get().max(1) as f64;
        let shortest = clip.holds().map(|hold| hold.ticks.get()).min().unwrap_or(1).max(1) as f64;
        // As many rows as the shortest hold needs, each as full as the others.
        let wanted = NARROW / shortest * total / f64::from(ROW);
        let rows = (wanted.ceil() as usize).clamp(1, MAX_ROWS);
        let scale = Scale(f64::from(ROW) * rows as f64 / total);
        let largest = largest_frame(&art.reel, clip);
        let room = ((shortest * scale.0) as u32).clamp(56, 200);
        let zoom = (room / largest[0]).min(192 / largest[1].min(192)).clamp(1, 6);
        Layout {
            scale,
            rows,
            marks: most_marks(clip) * MARK_LINE,
            picture: (largest[1].saturating_mul(zoom)).min(240) as i32 + 16,
            spans: if clip.spans().next().is_some() { 26 } else { 0 },
            zoom,
        }
    }

    fn row_height(&self) -> i32 {
        self.marks + self.picture + LINES + self.spans + 44
    }
}

/// The holds whose time falls into one row.
fn draw_row(
    sheet: &mut Drawing,
    art: &Art,
    clip: &Clip<'_>,
    layout: &Layout,
    row: usize,
    top: i32,
) {
    let (row_start, row_end) = (row as i32 * ROW, (row as i32 + 1) * ROW);
    let box_top = top + layout.marks + 6;
    let box_height = layout.picture + LINES;
    let numbers = box_top + box_height + layout.spans + 18;
    let mut start = Ticks::ZERO;
    for (index, hold) in (0..).zip(clip.holds()) {
        let begin = start;
        start += if clip.is_still { Ticks::new(1) } else { hold.ticks };
        let (from, to) = (layout.scale.x(begin), layout.scale.x(start));
        let (left, right) = (from.max(row_start), to.min(row_end));
        if left >= right {
            continue;
        }
        let (x, width) = (SIDE + left - row_start, right - left);
        sheet.fill([x, box_top], [width, box_height], Ink::Box(index as usize));
        sheet.fill([x, box_top], [1, box_height], Ink::Edge);
        let begins = from >= row_start;
        draw_hold(sheet, art, clip, layout, (index, hold, begins), [x, box_top, width]);
        if begins {
            draw_marks(sheet, &art.reel, clip, index, [x, box_top]);
            let text = milliseconds(begin);
            if sheet.width(12.0, &text) < width && !clip.is_still {
                sheet.write([x, numbers], 12.0, Ink::Dim, &text);
            }
        }
        draw_spans(sheet, art, clip, index, [x, box_top + box_height + 4, width]);
    }
    let end = if clip.is_still { row_end } else { layout.scale.x(start).min(row_end) };
    let end = SIDE + end - row_start;
    sheet.fill([end - 1, box_top], [1, box_height], Ink::Edge);
    if layout.scale.x(start) <= row_end && !clip.is_still {
        // The last number of the row below would be in the way of the total.
        sheet.write_left_of([end, numbers + 18], 12.0, Ink::Letters, &milliseconds(clip.total));
    }
}

fn draw_hold(
    sheet: &mut Drawing,
    art: &Art,
    clip: &Clip<'_>,
    layout: &Layout,
    (index, hold, begins): (u32, Hold, bool),
    [x, top, width]: [i32; 3],
) {
    let Some(view) = view_of(&art.reel, clip, hold.frame) else { return };
    let bottom = top + layout.picture - 8;
    if view.frame.size[0].saturating_mul(layout.zoom) as i32 <= width {
        draw_frame(sheet, art, &view, ([x, bottom], width), (layout.zoom, true));
    }
    let line = top + layout.picture;
    if !begins {
        let text = format!("… {index} goes on");
        sheet.write_centered([x, line + 16], width, 12.0, Ink::Dim, &text);
        return;
    }
    let rest = if index == clip.rest && index > 0 { " · rest" } else { "" };
    if !sheet.write_centered([x, line + 16], width, 15.0, Ink::Letters, &format!("{index}{rest}")) {
        sheet.write_centered([x, line + 16], width, 12.0, Ink::Letters, &index.to_string());
    }
    let frame = art.reel.frame(hold.frame).map_or(0, |frame| frame.index);
    sheet.write_centered([x, line + 35], width, 12.0, Ink::Dim, &format!("frame {frame}"));
    let time = if clip.is_still { "stands".to_owned() } else { milliseconds(hold.ticks) };
    if !sheet.write_centered([x, line + 53], width, 12.0, Ink::Letters, &time) {
        sheet.write_centered([x, line + 53], width, 12.0, Ink::Letters, &time);
    }
}

fn draw_spans(sheet: &mut Drawing, art: &Art, clip: &Clip<'_>, hold: u32, [x, y, width]: [i32; 3]) {
    for ClipSpan { span, first: from, last: to, .. } in clip.spans() {
        if (from..=to).contains(&hold) {
            sheet.fill([x, y], [width, 4], Ink::Span);
            if from == hold {
                sheet.write([x, y + 18], 12.0, Ink::Span, art.reel.name(span));
            }
        }
    }
}

fn draw_order(sheet: &mut Drawing, steps: &[Step], goes_on: &str, top: i32) {
    let mut x = SIDE;
    for step in steps {
        match step {
            Step::Hold(hold) => {
                let text = hold.to_string();
                let width = sheet.width(12.0, &text).max(10) + 12;
                if x + width > WIDTH - SIDE {
                    break;
                }
                sheet.fill([x, top], [width, 26], Ink::Box(*hold as usize));
                sheet.write_centered([x, top + 18], width, 12.0, Ink::Letters, &text);
                x += width + 2;
            }
            Step::Break => {
                sheet.fill([x + 5, top - 2], [2, 30], Ink::Mark);
                x += 14;
            }
        }
    }
    let wide = sheet.width(13.0, goes_on) + 12;
    let at = if x + wide <= WIDTH - SIDE { [x + 12, top + 18] } else { [SIDE, top + 48] };
    sheet.write(at, 13.0, Ink::Letters, goes_on);
}
