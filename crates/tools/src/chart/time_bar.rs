//! Holds beside one another, each as wide as it is long.

use lucky_reel_core::{Clip, Flips, FrameId, Hold, Reel, Ticks, View};

use super::milliseconds;
use crate::drawing::{Drawing, Ink};
use crate::words::data_in_words;
use lucky_reel_assets::Art;

/// A scale of time: pixels a tick.
#[derive(Clone, Copy)]
pub(crate) struct Scale(pub(crate) f64);

impl Scale {
    /// So much time takes so many pixels.
    pub(crate) fn fitting(time: Ticks, pixels: i32) -> Scale {
        Scale(f64::from(pixels) / time.get().max(1) as f64)
    }

    /// Pixels from the beginning to a moment.
    pub(crate) fn x(self, at: Ticks) -> i32 {
        (at.get() as f64 * self.0).round().min(f64::from(i32::MAX)) as i32
    }
}

/// Height of a line of marks above a bar.
pub(crate) const MARK_LINE: i32 = 18;

/// The frame of a hold as it is seen.
pub(crate) fn view_of<'r>(reel: &'r Reel, clip: &Clip<'_>, frame: FrameId) -> Option<View<'r>> {
    View::of(reel, frame, Flips { x: clip.is_mirrored, y: false })
}

/// The largest frame of a clip.
pub(crate) fn largest_frame(reel: &Reel, clip: &Clip<'_>) -> [u32; 2] {
    let frames = clip.holds().filter_map(|hold| reel.frame(hold.frame));
    frames.fold([1, 1], |[w, h], frame| [w.max(frame.size[0]), h.max(frame.size[1])])
}

/// Where the pivot of a view stands, in pixels from its top left as it is seen.
pub(crate) fn pivot_in(view: &View<'_>, zoom: u32) -> [i32; 2] {
    let flips = [view.flips.x, view.flips.y];
    [0, 1].map(|axis| {
        let pivot = view.frame.pivot()[axis];
        let size = view.frame.size[axis] as f32;
        ((if flips[axis] { size - pivot } else { pivot }) * zoom as f32) as i32
    })
}

/// A frame in a box of this width, its bottom at `bottom`; with a cross on its pivot and its areas, if
/// wanted.
pub(crate) fn draw_frame(
    sheet: &mut Drawing,
    art: &Art,
    view: &View<'_>,
    ([x, bottom], width): ([i32; 2], i32),
    (zoom, cross): (u32, bool),
) {
    let [wide, high] = view.frame.size.map(|side| side.saturating_mul(zoom) as i32);
    let pivot = pivot_in(view, zoom);
    let at = [x + (width - wide) / 2 + pivot[0], bottom - high + pivot[1]];
    sheet.view(view, &art.images, at, zoom);
    if cross {
        sheet.areas(view, at, zoom, Ink::Area);
        sheet.cross(at, 5, Ink::Span);
    }
}

/// Names of the marks of a hold as a notch in the bar's upper edge with the names above it, the first
/// the lowest.
pub(crate) fn draw_marks(
    sheet: &mut Drawing,
    reel: &Reel,
    clip: &Clip<'_>,
    hold: u32,
    [x, top]: [i32; 2],
) {
    let names: Vec<String> = marks_with_data(reel, clip, hold).collect();
    if names.is_empty() {
        return;
    }
    for line in 0..7 {
        sheet.fill([x, top + line], [7 - line, 1], Ink::Mark);
    }
    for (nth, name) in (0..).zip(&names) {
        sheet.write([x, top - 5 - nth * MARK_LINE], 12.0, Ink::Mark, name);
    }
}

pub(crate) fn marks_of<'r>(
    reel: &'r Reel,
    clip: &Clip<'r>,
    hold: u32,
) -> impl Iterator<Item = &'r str> {
    clip.marks().filter(move |at| at.hold == hold).map(|at| reel.name(at.mark))
}

/// The names of marks, with what they carry: `hit (damage 5)`.
pub(crate) fn marks_with_data<'r>(
    reel: &'r Reel,
    clip: &Clip<'r>,
    hold: u32,
) -> impl Iterator<Item = String> {
    clip.marks().filter(move |at| at.hold == hold).map(move |at| {
        match data_in_words(clip, at.mark, hold) {
            data if data.is_empty() => reel.name(at.mark).to_owned(),
            data => format!("{} ({data})", reel.name(at.mark)),
        }
    })
}

/// Most names of marks on one hold.
pub(crate) fn most_marks(clip: &Clip<'_>) -> i32 {
    let count = |hold: u32| clip.marks().filter(|at| at.hold == hold).count();
    (0..clip.holds().len() as u32).map(count).max().unwrap_or(0) as i32
}

/// Boxes for holds from left to right, each with its number and its time where there is room.
pub(crate) fn draw_bar(
    sheet: &mut Drawing,
    holds: impl Iterator<Item = Hold>,
    [x, top, height]: [i32; 3],
    scale: Scale,
    has_text: bool,
) {
    let mut start = Ticks::ZERO;
    for (index, hold) in holds.enumerate() {
        let (from, to) = (scale.x(start), scale.x(start + hold.ticks));
        start += hold.ticks;
        let width = (to - from).max(1);
        sheet.fill([x + from, top], [width, height], Ink::Box(index));
        sheet.fill([x + from, top], [1, height], Ink::Edge);
        if has_text {
            let long = format!("{index}  ·  {}", milliseconds(hold.ticks));
            let at = [x + from, top + height / 2 + 5];
            if !sheet.write_centered(at, width - 4, 12.0, Ink::Letters, &long) {
                sheet.write_centered(at, width - 2, 12.0, Ink::Letters, &index.to_string());
            }
        }
    }
    sheet.fill([x + scale.x(start), top], [1, height], Ink::Edge);
}
