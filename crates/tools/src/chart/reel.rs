use lucky_reel_assets::Art;
use lucky_reel_core::{Clip, Ticks};

use super::time_bar::{Scale, draw_bar, draw_frame, largest_frame, marks_of, view_of};
use super::{Chart, SIDE, WIDTH, milliseconds, mode_of, name_of};
use crate::drawing::{Drawing, Ink, Theme};

const COLUMNS: i32 = 3;
const GAP: i32 = 24;
const CARD: i32 = (WIDTH - 2 * SIDE - (COLUMNS - 1) * GAP) / COLUMNS;
const TITLE: i32 = 96;
/// Frames are shown as large as fits into this.
const FRAME: [u32; 2] = [72, 72];
/// Of a card, below the frames: the bar, its marks, the space to the next card.
const BELOW: i32 = 70;
const HEAD: i32 = 50;

/// Draws all clips of a reel on one page: a card for each with its name, its total and mode, its frames,
/// and its holds to scale with their marks. Clips are in the order of the reel, three in a row.
///
/// `None` when the page would be too large.
///
/// ```
/// use lucky_reel_tools::{Theme, chart};
///
/// # let path = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/greenhouse/tiles.reel.toml");
/// let art = lucky_reel_assets::load(path)?;
/// let page = chart::reel(&art, Theme::Light).unwrap();
/// assert!(art.reel.clips().all(|clip| page.svg().contains(clip.name())));
/// # Ok::<(), lucky_reel_assets::LoadError>(())
/// ```
#[must_use]
pub fn reel(art: &Art, theme: Theme) -> Option<Chart> {
    let clips: Vec<Clip<'_>> = art.reel.clips().collect();
    let rows: Vec<&[Clip<'_>]> = clips.chunks(COLUMNS as usize).collect();
    // A card is as high as the highest frames of its row.
    let frames = |row: &[Clip<'_>]| {
        let high = row.iter().map(|clip| {
            let [_, height] = largest_frame(&art.reel, clip);
            height.saturating_mul(zoom_of(art, clip)).min(2 * FRAME[1]) as i32
        });
        high.max().unwrap_or(0)
    };
    let height = |row: &[Clip<'_>]| HEAD + frames(row) + BELOW;
    let total: i64 = rows.iter().map(|row| i64::from(height(row))).sum();
    let size = [WIDTH as u32, u32::try_from(i64::from(TITLE) + total + 16).ok()?];
    let mut sheet = Drawing::new(size, theme)?;
    let mut roles: Vec<&str> = clips.iter().map(|clip| art.reel.clip_role(clip.id())).collect();
    roles.dedup();
    sheet.write([SIDE, 48], 22.0, Ink::Letters, &roles.join(", "));
    let count = match clips.len() {
        1 => "1 clip".to_owned(),
        count => format!("{count} clips"),
    };
    sheet.write([SIDE, 74], 13.0, Ink::Dim, &count);
    let mut top = TITLE;
    for row in rows {
        for (column, clip) in (0..).zip(row) {
            let at = [SIDE + column * (CARD + GAP), top];
            draw_card(&mut sheet, art, clip, at, frames(row));
        }
        top += height(row);
    }
    Some(Chart(sheet))
}

fn zoom_of(art: &Art, clip: &Clip<'_>) -> u32 {
    let [width, height] = largest_frame(&art.reel, clip);
    (FRAME[0] / width).min(FRAME[1] / height).clamp(1, 4)
}

fn draw_card(sheet: &mut Drawing, art: &Art, clip: &Clip<'_>, [x, top]: [i32; 2], frames: i32) {
    let about = match clip.is_still() {
        true => mode_of(clip),
        false => format!("{}  ·  {}", milliseconds(clip.total()), mode_of(clip)),
    };
    sheet.fill([x, top], [CARD, 1], Ink::Edge);
    let name = shortened(sheet, 15.0, &name_of(&art.reel, clip), CARD);
    sheet.write([x, top + 22], 15.0, Ink::Letters, &name);
    sheet.write([x, top + 41], 12.0, Ink::Dim, &shortened(sheet, 12.0, &about, CARD));
    let bar = top + HEAD + frames + 6;
    draw_frames(sheet, art, clip, [x, bar - 4]);
    if clip.is_still() {
        sheet.fill([x, bar], [CARD, 18], Ink::Box(0));
        sheet.write([x + 8, bar + 14], 12.0, Ink::Dim, "stands");
        return;
    }
    let scale = Scale::fitting(clip.total(), CARD - 1);
    draw_bar(sheet, clip.holds(), [x, bar, 18], scale, true);
    draw_notches(sheet, art, clip, [x, bar], scale);
}

/// The frames of the holds, as many as there is room for.
fn draw_frames(sheet: &mut Drawing, art: &Art, clip: &Clip<'_>, [x, bottom]: [i32; 2]) {
    let zoom = zoom_of(art, clip);
    let step = (largest_frame(&art.reel, clip)[0].saturating_mul(zoom) as i32 + 4).max(8);
    let count = clip.holds().len() as i32;
    let fits = (CARD / step).max(1);
    // Where there are too many, the first ones and the last one.
    let shown = clip.holds().enumerate().filter(|(nth, _)| {
        let nth = *nth as i32;
        count <= fits || nth < fits - 2 || nth == count - 1
    });
    for (place, (nth, hold)) in (0..).zip(shown) {
        let skipped = count > fits && nth as i32 == count - 1;
        let left = x + (if skipped { fits - 1 } else { place }) * step;
        if skipped {
            sheet.write([left - step / 2 - 6, bottom - 8], 13.0, Ink::Dim, "…");
        }
        if let Some(view) = view_of(&art.reel, clip, hold.frame) {
            draw_frame(sheet, art, &view, ([left, bottom], step - 4), (zoom, false));
        }
    }
}

/// Marks as notches below the bar, each name once where there is room.
fn draw_notches(sheet: &mut Drawing, art: &Art, clip: &Clip<'_>, [x, bar]: [i32; 2], scale: Scale) {
    let (mut start, mut free) = (Ticks::ZERO, x);
    for (index, hold) in (0..).zip(clip.holds()) {
        let at = x + scale.x(start);
        start += hold.ticks;
        let names: Vec<&str> = marks_of(&art.reel, clip, index).collect();
        if names.is_empty() {
            continue;
        }
        (0..6).for_each(|line| sheet.fill([at, bar + 19 + line], [6 - line, 1], Ink::Mark));
        let text = names.join(", ");
        let width = sheet.width(12.0, &text);
        // At the end of the bar a name may begin a little before its notch.
        let left = (at + 9).min(x + CARD - width);
        if left >= free && left > at - 24 {
            let beside = if left < at + 7 { 11 } else { 0 };
            sheet.write([left, bar + 31 + beside], 12.0, Ink::Mark, &text);
            free = left + width + 8;
        }
    }
}

/// As much of a text as fits into a width.
pub(super) fn shortened(sheet: &Drawing, size: f32, text: &str, width: i32) -> String {
    if sheet.width(size, text) <= width {
        return text.to_owned();
    }
    let mut short = String::new();
    for c in text.chars() {
        if sheet.width(size, &format!("{short}{c}…")) > width {
            break;
        }
        short.push(c);
    }
    short + "…"
}
