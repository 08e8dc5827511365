use lucky_reel_core::{Clip, ClipId, Flips, Hold, Mode, Ticks, View};

use super::order::{Step, order_of};
use super::{Sheet, color};
use lucky_reel_assets::{Art, Pixmap};

/// The picture is so wide, and as high as it needs to be.
const WIDTH: i32 = 1280;
const SIDE: i32 = 40;
const ROW: i32 = WIDTH - 2 * SIDE;
/// A hold is at least this wide, so that its numbers can be read.
const NARROW: f64 = 78.0;
const MOST_ROWS: usize = 6;
const MARK_LINE: i32 = 20;
const TITLE: i32 = 112;

/// Where everything of a row of time stands, in pixels from its top.
struct Layout {
    /// Pixels a tick.
    scale: f64,
    rows: usize,
    marks: i32,
    picture: i32,
    spans: i32,
    /// Enlargement of the frames.
    zoom: u32,
}

/// Draws an overview of a clip: every hold as a picture with its number, its frame and its time, widths
/// in proportion to time, marks above, spans below, and how its mode goes on. Time runs from left to
/// right, and on in the next row where one row is too short.
///
/// `None` when the clip is not of this art.
///
/// ```
/// # let path = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/greenhouse/bram.reel.toml");
/// let art = lucky_reel_assets::load(path)?;
/// let walk = art.reel.clip_id("walk-right").unwrap();
/// let picture = lucky_reel_tools::chart::clip(&art, walk).unwrap();
/// assert_eq!(picture.size()[0], 1280);
/// # Ok::<(), lucky_reel_assets::LoadError>(())
/// ```
#[must_use]
pub fn clip(art: &Art, clip: ClipId) -> Option<Pixmap> {
    let clip = art.reel.clip(clip)?;
    let layout = Layout::of(art, &clip);
    let order = order_of(&art.reel, &clip);
    let foot = TITLE + layout.rows as i32 * layout.row_height();
    let mut sheet = Sheet::new([WIDTH as u32, (foot + 130) as u32])?;
    title(&mut sheet, &clip);
    for row in 0..layout.rows {
        let top = TITLE + row as i32 * layout.row_height();
        draw_row(&mut sheet, art, &clip, &layout, row, top);
    }
    sheet.write([SIDE, foot + 34], 15.0, color::DIM, "order of play");
    draw_order(&mut sheet, &order.steps, &order.goes_on, foot + 48);
    Some(sheet.canvas.into_picture())
}

impl Layout {
    fn of(art: &Art, clip: &Clip<'_>) -> Layout {
        // A still takes the whole row: it stands.
        let total = clip.total().get().max(1) as f64;
        let shortest = clip.holds().map(|hold| hold.ticks.get()).min().unwrap_or(1).max(1) as f64;
        // As many rows as the shortest hold needs, each as full as the others.
        let wanted = NARROW / shortest * total / f64::from(ROW);
        let rows = (wanted.ceil() as usize).clamp(1, MOST_ROWS);
        let scale = f64::from(ROW) * rows as f64 / total;
        let count =
            |hold: usize, list: &[u32]| list.iter().filter(|at| **at as usize == hold).count();
        let marks: Vec<u32> = clip.marks().map(|(hold, _)| hold).collect();
        let most_marks = (0..clip.holds().len()).map(|hold| count(hold, &marks)).max().unwrap_or(0);
        let frames = clip.holds().filter_map(|hold| art.reel.frame(hold.frame));
        let largest = frames.fold([1, 1], |[w, h], frame| {
            let [width, height] = frame.size();
            [w.max(width), h.max(height)]
        });
        let room = ((shortest * scale) as u32).clamp(64, 200);
        let zoom = (room / largest[0]).min(192 / largest[1].min(192)).clamp(1, 6);
        Layout {
            scale,
            rows,
            marks: most_marks as i32 * MARK_LINE,
            picture: (largest[1].saturating_mul(zoom)).min(240) as i32 + 16,
            spans: if clip.spans().next().is_some() { 26 } else { 0 },
            zoom,
        }
    }

    fn row_height(&self) -> i32 {
        self.marks + self.picture + 64 + self.spans + 44
    }

    /// The pixel of a moment within the whole strip of all rows.
    fn x(&self, ticks: u64) -> i64 {
        (ticks as f64 * self.scale).round() as i64
    }
}

fn title(sheet: &mut Sheet, clip: &Clip<'_>) {
    let mode = clip.mode().name();
    let goes = match (clip.mode(), clip.repeat()) {
        _ if clip.is_still() => "a still".to_owned(),
        (_, None) => format!("{mode}, forever"),
        (Mode::Once, _) => mode.to_owned(),
        (_, Some(1)) => format!("{mode}, one cycle"),
        (_, Some(cycles)) => format!("{mode}, {cycles} cycles"),
    };
    let count = clip.holds().len();
    let holds = if count == 1 { "1 hold".to_owned() } else { format!("{count} holds") };
    let mut line = match clip.is_still() {
        true => format!("{holds}  ·  {goes}"),
        false => format!("{holds}  ·  {}  ·  {goes}", milliseconds(clip.total())),
    };
    if clip.cycle_time() != clip.total() {
        line += &format!("  ·  {} there and back", milliseconds(clip.cycle_time()));
    }
    sheet.write([SIDE, 52], 30.0, color::LETTERS, clip.name());
    sheet.write([SIDE, 82], 16.0, color::DIM, &line);
}

/// The holds whose time falls into one row.
fn draw_row(sheet: &mut Sheet, art: &Art, clip: &Clip<'_>, layout: &Layout, row: usize, top: i32) {
    let (row_start, row_end) = (row as i64 * i64::from(ROW), (row as i64 + 1) * i64::from(ROW));
    let box_top = top + layout.marks + 6;
    let box_height = layout.picture + 64;
    let mut start = 0;
    for (index, hold) in clip.holds().enumerate() {
        let shown = if clip.is_still() { 1 } else { hold.ticks.get() };
        let (from, to) = (layout.x(start), layout.x(start + shown));
        start += hold.ticks.get();
        let (left, right) = (from.max(row_start), to.min(row_end));
        if left >= right {
            continue;
        }
        let x = SIDE + (left - row_start) as i32;
        let width = (right - left) as i32;
        sheet.fill([x, box_top], [width, box_height], color::BOXES[index % 2]);
        sheet.fill([x, box_top], [1, box_height], color::EDGE);
        let begins = from >= row_start;
        if begins {
            draw_hold(sheet, art, clip, layout, (index as u32, hold), [x, box_top, width]);
        } else {
            let at = [x, box_top + layout.picture + 16];
            sheet.write_centerd(at, width, 13.0, color::DIM, &format!("… {index}"));
        }
        if begins {
            draw_marks(sheet, art, clip, index as u32, [x, box_top], layout.marks);
            let at = [x, box_top + box_height + layout.spans + 18];
            let begin = Ticks::new(start - hold.ticks.get());
            let text = milliseconds(begin);
            if sheet.letters.width(12.0, &text) < width && !clip.is_still() {
                sheet.write(at, 12.0, color::DIM, &text);
            }
        }
        draw_spans(sheet, art, clip, index as u32, [x, box_top + box_height + 4, width]);
    }
    let end = if clip.is_still() { row_end } else { layout.x(start).min(row_end) };
    let end = (end - row_start) as i32;
    sheet.fill([SIDE + end - 1, box_top], [1, box_height], color::EDGE);
    if layout.x(start) <= row_end && !clip.is_still() {
        let text = milliseconds(clip.total());
        let width = sheet.letters.width(12.0, &text);
        let at = [SIDE + end - width, box_top + box_height + layout.spans + 18];
        sheet.write(at, 12.0, color::LETTERS, &text);
    }
}

fn draw_hold(
    sheet: &mut Sheet,
    art: &Art,
    clip: &Clip<'_>,
    layout: &Layout,
    (index, hold): (u32, Hold),
    [x, top, width]: [i32; 3],
) {
    let flips = Flips { x: clip.is_mirrored(), y: false };
    let Some(view) = View::of(&art.reel, hold.frame, flips) else { return };
    let frame_number = art.reel.frame(hold.frame).map_or(0, |frame| frame.index());
    let [frame_width, frame_height] =
        view.size().map(|side| side.saturating_mul(layout.zoom) as i32);
    if frame_width <= width {
        // The pivot stands where it does in the frame, so that frames can be compared.
        let mut pivot = view.pivot().map(|side| (side * layout.zoom as f32) as i32);
        if flips.x {
            pivot[0] = frame_width - pivot[0];
        }
        let left = x + (width - frame_width) / 2;
        let frame_top = top + layout.picture - 8 - frame_height;
        sheet.canvas.draw(&view, &art.images, [left + pivot[0], frame_top + pivot[1]], layout.zoom);
    }
    let line = top + layout.picture;
    let rest = if index == clip.rest() && index > 0 { " · rest" } else { "" };
    sheet.write_centerd([x, line + 16], width, 17.0, color::LETTERS, &format!("{index}{rest}"));
    let frame = format!("frame {frame_number}");
    sheet.write_centerd([x, line + 35], width, 12.0, color::DIM, &frame);
    let time = if clip.is_still() { "stands".to_owned() } else { milliseconds(hold.ticks) };
    sheet.write_centerd([x, line + 53], width, 13.0, color::LETTERS, &time);
}

fn draw_marks(sheet: &mut Sheet, art: &Art, clip: &Clip<'_>, hold: u32, at: [i32; 2], room: i32) {
    let names = clip.marks().filter(|(marked, _)| *marked == hold);
    for (line, (_, mark)) in (0..).zip(names) {
        let y = at[1] - room + line * MARK_LINE + 8;
        sheet.fill([at[0], y - 8], [2, at[1] - y + 8], color::MARK);
        for step in 0..5 {
            sheet.fill([at[0] + 2, y - 8 + step], [5 - (step - 2).abs() * 2, 1], color::MARK);
        }
        sheet.write([at[0] + 10, y], 13.0, color::MARK, art.reel.mark_name(mark));
    }
}

fn draw_spans(sheet: &mut Sheet, art: &Art, clip: &Clip<'_>, hold: u32, [x, y, width]: [i32; 3]) {
    for (span, from, to) in clip.spans() {
        if (from..=to).contains(&hold) {
            sheet.fill([x, y], [width, 4], color::SPAN);
            if from == hold {
                sheet.write([x, y + 18], 13.0, color::SPAN, art.reel.span_name(span));
            }
        }
    }
}

fn draw_order(sheet: &mut Sheet, steps: &[Step], goes_on: &str, top: i32) {
    let mut x = SIDE;
    for step in steps {
        match step {
            Step::Hold(hold) => {
                let text = hold.to_string();
                let width = sheet.letters.width(14.0, &text).max(10) + 12;
                if x + width > WIDTH - SIDE {
                    break;
                }
                sheet.fill([x, top], [width, 26], color::BOXES[*hold as usize % 2]);
                sheet.write_centerd([x, top + 18], width, 14.0, color::LETTERS, &text);
                x += width + 2;
            }
            Step::Break => {
                sheet.fill([x + 5, top - 2], [2, 30], color::MARK);
                x += 14;
            }
        }
    }
    let wide = sheet.letters.width(15.0, goes_on) + 12;
    let at = if x + wide <= WIDTH - SIDE { [x + 12, top + 18] } else { [SIDE, top + 48] };
    sheet.write(at, 15.0, color::LETTERS, goes_on);
}

/// Milliseconds with as many digits as are worth reading.
fn milliseconds(time: Ticks) -> String {
    let text = format!("{:.2}", time.as_millis_f64());
    let text = text.trim_end_matches('0').trim_end_matches('.');
    format!("{text} ms")
}
