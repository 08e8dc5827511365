use lucky_reel_assets::Art;
use lucky_reel_core::{Clip, Ticks};

use super::time_bar::{MARK_LINE, Scale, draw_bar, draw_frame, largest_frame, marks_of, view_of};
use super::{Chart, SIDE, WIDTH, milliseconds, mode_of, name_of};
use crate::drawing::{Drawing, Ink, Theme};

const COLUMNS: i32 = 3;
const GAP: i32 = 24;
const CARD: i32 = (WIDTH - 2 * SIDE - (COLUMNS - 1) * GAP) / COLUMNS;
const TITLE: i32 = 96;
/// Frames are shown as large as fits into this.
const FRAME: [u32; 2] = [72, 72];
/// Of a card, below the frames: the bar, a line of its marks, the space to the next card.
const BELOW: i32 = 70;
/// The size of the names of marks.
const MARK_SIZE: f32 = 12.0;
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
/// assert!(art.reel.clips().all(|clip| page.svg().contains(clip.name)));
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
    // And as low as the lowest names of its marks.
    let ruler = Drawing::new([1, 1], theme)?;
    let lines = |row: &[Clip<'_>]| {
        let all = row.iter().flat_map(|clip| labels(&ruler, art, clip));
        all.map(|label| label.line).max().unwrap_or(0)
    };
    let height = |row: &[Clip<'_>]| HEAD + frames(row) + lines(row) * MARK_LINE + BELOW;
    let total: i64 = rows.iter().map(|row| i64::from(height(row))).sum();
    let size = [WIDTH as u32, u32::try_from(i64::from(TITLE) + total + 16).ok()?];
    let mut sheet = Drawing::new(size, theme)?;
    let mut roles: Vec<&str> = clips.iter().map(|clip| art.reel.role_name(clip.id)).collect();
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
    let about = match clip.is_still {
        true => mode_of(clip),
        false => format!("{}  ·  {}", milliseconds(clip.total), mode_of(clip)),
    };
    sheet.fill([x, top], [CARD, 1], Ink::Edge);
    let name = shortened(sheet, 15.0, &name_of(&art.reel, clip), CARD);
    sheet.write([x, top + 22], 15.0, Ink::Letters, &name);
    sheet.write([x, top + 41], 12.0, Ink::Dim, &shortened(sheet, 12.0, &about, CARD));
    let bar = top + HEAD + frames + 6;
    draw_frames(sheet, art, clip, [x, bar - 4]);
    if clip.is_still {
        sheet.fill([x, bar], [CARD, 18], Ink::Box(0));
        sheet.write([x + 8, bar + 14], 12.0, Ink::Dim, "stands");
        return;
    }
    draw_bar(sheet, clip.holds(), [x, bar, 18], scale_of(clip), true);
    let labels = labels(sheet, art, clip);
    draw_labels(sheet, &labels, [x, bar]);
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

/// The names of the marks of a hold, below the bar.
struct Label {
    /// Where its notch is, and where the text begins and ends.
    at: i32,
    from: i32,
    to: i32,
    line: i32,
    text: String,
}

/// The names of all marks of a clip: each beside its notch where there is room for all of them, else as a list
/// with the numbers of their holds. None is left out, and none lies on another.
fn labels(sheet: &Drawing, art: &Art, clip: &Clip<'_>) -> Vec<Label> {
    let scale = scale_of(clip);
    let (mut start, mut beside, mut listed) = (Ticks::ZERO, Vec::new(), Vec::new());
    let (mut line, mut free) = (0, 0);
    for (hold, held) in (0..).zip(clip.holds()) {
        let at = scale.x(start);
        start += held.ticks;
        let names = marks_of(&art.reel, clip, hold).collect::<Vec<_>>().join(", ");
        if names.is_empty() {
            continue;
        }
        let width = sheet.width(MARK_SIZE, &names);
        // At the end of the bar names may begin a little before their notch.
        let from = (at + 9).min(CARD - width);
        beside.push(Label { at, from, to: from + width, line: 0, text: names.clone() });
        let text = shortened(sheet, MARK_SIZE, &format!("{hold}: {names}"), CARD);
        let width = sheet.width(MARK_SIZE, &text);
        if free > 0 && free + width > CARD {
            (line, free) = (line + 1, 0);
        }
        listed.push(Label { at, from: free, to: free + width, line, text });
        free += width + 16;
    }
    let apart = beside.windows(2).all(|pair| pair[0].to + 8 <= pair[1].from);
    let near = beside.iter().all(|label| label.from >= 0 && label.from > label.at - 24);
    if apart && near { beside } else { listed }
}

fn scale_of(clip: &Clip<'_>) -> Scale {
    Scale::fitting(clip.total, CARD - 1)
}

/// Marks as notches below the bar, with their names.
fn draw_labels(sheet: &mut Drawing, labels: &[Label], [x, bar]: [i32; 2]) {
    for label in labels {
        (0..6).for_each(|row| {
            sheet.fill([x + label.at, bar + 19 + row], [6 - row, 1], Ink::Mark);
        });
    }
    // Where a text lies below a notch, all of them stand lower.
    let covers = |label: &Label| {
        labels
            .iter()
            .any(|other| label.line == 0 && other.at + 7 > label.from && other.at < label.to)
    };
    let below = if labels.iter().any(covers) { 11 } else { 0 };
    for Label { from, line, text, .. } in labels {
        let at = [x + from, bar + 31 + below + line * MARK_LINE];
        sheet.write(at, MARK_SIZE, Ink::Mark, text);
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

#[cfg(test)]
mod tests {
    use super::*;
    use lucky_reel_core::{Grid, NewClip, NewSheet, Reel};
    use proptest::prelude::*;

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(60))]

        /// The marks of every hold have their names, and none lies on another's.
        #[test]
        fn no_mark_is_left_out_and_none_is_covered(
            holds in prop::collection::vec((1_u64..400, prop::collection::vec(0_usize..5, 0..3)), 1..14),
        ) {
            const NAMES: [&str; 5] = ["step", "step-left", "a-blow-with-the-lantern", "thud", "x"];
            let mut builder = Reel::builder();
            let sheet = builder.sheet("s", NewSheet::grid([8, 8], Grid::cell_size([8, 8])));
            let mut clip = NewClip::of(sheet);
            for (ticks, _) in &holds {
                clip = clip.hold(0, Ticks::from_millis(*ticks));
            }
            for (nth, name) in NAMES.iter().enumerate() {
                let at = holds.iter().zip(0_u32..).filter(|((_, marks), _)| marks.contains(&nth));
                clip = clip.mark(*name, at.map(|(_, hold)| hold).collect::<Vec<u32>>());
            }
            builder.clip("c", clip);
            let art = Art { reel: builder.build().unwrap(), images: Vec::new(), files: Vec::new() };
            let clip = art.reel.clips().next().unwrap();
            let ruler = Drawing::new([1, 1], Theme::Dark).unwrap();
            let labels = labels(&ruler, &art, &clip);
            let marked = holds.iter().filter(|(_, marks)| !marks.is_empty()).count();
            prop_assert_eq!(labels.len(), marked);
            prop_assert!(labels.iter().all(|label| label.from >= 0 && label.to <= CARD));
            let apart = |pair: &[Label]| pair[0].line < pair[1].line || pair[0].to < pair[1].from;
            prop_assert!(labels.windows(2).all(apart));
        }
    }
}
