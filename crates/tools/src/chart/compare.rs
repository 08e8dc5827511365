use lucky_reel_assets::Art;
use lucky_reel_core::{Clip, ClipId, Hold, Ticks};

use super::time_bar::{MARK_LINE, Scale, draw_bar, draw_frame, largest_frame, marks_of, view_of};
use super::{Chart, SIDE, WIDTH, milliseconds, name_of, summary};
use crate::drawing::{Drawing, Ink, Theme};

const ROW: i32 = WIDTH - 2 * SIDE;
const TITLE: i32 = 100;
const BAR: i32 = 26;
/// Frames are shown as large as fits into this.
const FRAME: u32 = 64;
/// Room for one comparison apart from its frames and marks.
const LINES: i32 = 190;

/// A clip of one side, with the words that say which side it is.
struct Side<'a> {
    art: &'a Art,
    clip: Clip<'a>,
    label: &'a str,
}

/// Draws two clips hold by hold on one axis of time: frames and bars of both, and between them what
/// differs, as `+20 ms` for a hold that is longer in the second.
///
/// `None` when a clip is not of its art, or the drawing would be too large.
#[must_use]
pub fn clips(
    (art, clip): (&Art, ClipId),
    (other_art, other): (&Art, ClipId),
    theme: Theme,
) -> Option<Chart> {
    let one = Side { art, clip: art.reel.clip(clip)?, label: "first" };
    let two = Side { art: other_art, clip: other_art.reel.clip(other)?, label: "second" };
    let names = [name_of(&art.reel, &one.clip), name_of(&other_art.reel, &two.clip)];
    let height = TITLE + height_of(&one, &two);
    let mut sheet = Drawing::new([WIDTH as u32, height as u32], theme)?;
    sheet.write([SIDE, 48], 22.0, Ink::Letters, &names.join(" and "));
    let count = differing(&one.clip, &two.clip).count();
    let line = match count {
        0 => "no hold differs".to_owned(),
        1 => "1 hold differs".to_owned(),
        count => format!("{count} holds differ"),
    };
    sheet.write([SIDE, 74], 13.0, Ink::Dim, &line);
    draw_pair(&mut sheet, &one, &two, TITLE);
    Some(Chart(sheet))
}

/// Draws what differs between two versions of a reel: each clip whose holds, frames, marks or mode have
/// changed, compared hold by hold, and the names of clips that only one version has.
///
/// `None` when the drawing would be too large.
#[must_use]
pub fn versions(before: &Art, after: &Art, theme: Theme) -> Option<Chart> {
    // A file under another name makes another role: roles count only where there are several.
    let full = |art: &Art, clip: &Clip<'_>| name_of(&art.reel, clip);
    let partner = |art: &Art, clip: &Clip<'_>, other: &Art| {
        let wanted = full(art, clip);
        other.reel.clips().find(|it| full(other, it) == wanted).map(|it| it.id)
    };
    let only = |art: &Art, other: &Art| -> Vec<String> {
        let alone = art.reel.clips().filter(|clip| partner(art, clip, other).is_none());
        alone.map(|clip| name_of(&art.reel, &clip)).collect()
    };
    let (gone, new) = (only(before, after), only(after, before));
    let pairs = before.reel.clips().filter_map(|clip| {
        let other = after.reel.clip(partner(before, &clip, after)?)?;
        let one = Side { art: before, clip, label: "before" };
        let two = Side { art: after, clip: other, label: "after" };
        has_changed(&one, &two).then_some((one, two))
    });
    let mut changed = 0;
    // Clips of one entry change together, and are compared once.
    let mut groups: Vec<(Side<'_>, Side<'_>, Vec<String>)> = Vec::new();
    for (one, two) in pairs {
        changed += 1;
        let name = name_of(&before.reel, &one.clip);
        let same = |(a, b, _): &&mut (Side<'_>, Side<'_>, Vec<String>)| {
            times(a) == times(&one)
                && times(b) == times(&two)
                && same_frames(&one, &two)
                && same_frames(a, b)
        };
        match groups.iter_mut().find(same) {
            Some((.., names)) => names.push(name),
            None => groups.push((one, two, vec![name])),
        }
    }
    let names = i32::from(!gone.is_empty()) * 24 + i32::from(!new.is_empty()) * 24;
    let heights: i64 = groups.iter().map(|(one, two, _)| i64::from(height_of(one, two)) + 34).sum();
    let height = u32::try_from(i64::from(TITLE + names) + heights + 8).ok()?;
    let mut sheet = Drawing::new([WIDTH as u32, height], theme)?;
    sheet.write([SIDE, 48], 22.0, Ink::Letters, "before and after");
    let line = match changed {
        0 => "no clip of both has changed".to_owned(),
        1 => "1 clip has changed".to_owned(),
        count => format!("{count} clips have changed"),
    };
    sheet.write([SIDE, 74], 13.0, Ink::Dim, &line);
    let mut top = TITLE;
    for (what, names) in [("only before", gone), ("only after", new)] {
        if !names.is_empty() {
            let text = format!("{what}: {}", names.join(", "));
            let text = super::reel::shortened(&sheet, 12.0, &text, ROW);
            sheet.write([SIDE, top + 4], 12.0, Ink::Alert, &text);
            top += 24;
        }
    }
    for (one, two, names) in &groups {
        sheet.fill([SIDE, top], [ROW, 1], Ink::Edge);
        let name = super::reel::shortened(&sheet, 17.0, &names.join(", "), ROW);
        sheet.write([SIDE, top + 24], 17.0, Ink::Letters, &name);
        draw_pair(&mut sheet, one, two, top + 34);
        top += height_of(one, two) + 34;
    }
    Some(Chart(sheet))
}

/// The frame of a hold within its sheet, by which versions are compared.
fn frame_number(side: &Side<'_>, hold: Hold) -> Option<u32> {
    side.art.reel.frame(hold.frame).map(|frame| frame.index)
}

/// What the clips of one entry have in common: lengths, marks, mode.
fn times(side: &Side<'_>) -> (String, Vec<(Ticks, String)>) {
    let marks = |hold| marks_of(&side.art.reel, &side.clip, hold).collect::<Vec<_>>().join(",");
    let holds = side.clip.holds().zip(0..).map(|(hold, nth)| (hold.ticks, marks(nth)));
    (summary(&side.clip), holds.collect())
}

fn same_frames(one: &Side<'_>, two: &Side<'_>) -> bool {
    let frames = |side: &Side<'_>| -> Vec<_> {
        side.clip.holds().map(|hold| frame_number(side, hold)).collect()
    };
    frames(one) == frames(two)
}

fn has_changed(one: &Side<'_>, two: &Side<'_>) -> bool {
    times(one) != times(two) || !same_frames(one, two)
}

/// Holds that are not of the same length, or that one of them lacks, with both lengths.
fn differing<'a>(
    one: &'a Clip<'_>,
    two: &'a Clip<'_>,
) -> impl Iterator<Item = (u32, Option<Ticks>, Option<Ticks>)> + 'a {
    let count = one.holds().len().max(two.holds().len()) as u32;
    let both = (0..count).map(|hold| {
        let ticks = |clip: &Clip<'_>| clip.hold(hold).map(|hold| hold.ticks);
        (hold, ticks(one), ticks(two))
    });
    both.filter(|(_, one, two)| one != two)
}

fn zoom_of(one: &Side<'_>, two: &Side<'_>) -> u32 {
    let sizes = [one, two].map(|side| largest_frame(&side.art.reel, &side.clip));
    let largest = sizes.iter().flatten().max().copied().unwrap_or(1);
    (FRAME / largest).clamp(1, 4)
}

fn frames_height(side: &Side<'_>, zoom: u32) -> i32 {
    largest_frame(&side.art.reel, &side.clip)[1].saturating_mul(zoom).min(160) as i32
}

fn height_of(one: &Side<'_>, two: &Side<'_>) -> i32 {
    let zoom = zoom_of(one, two);
    LINES + frames_height(one, zoom) + frames_height(two, zoom) + 2 * MARK_LINE
}

/// Both clips on one axis: frames, bar, what differs, bar, frames.
fn draw_pair(sheet: &mut Drawing, one: &Side<'_>, two: &Side<'_>, top: i32) {
    let zoom = zoom_of(one, two);
    let scale = Scale::fitting(one.clip.total.max(two.clip.total), ROW - 1);
    let first = top + 24 + frames_height(one, zoom) + MARK_LINE;
    let second = first + BAR + 44;
    let below = second + BAR + MARK_LINE + 8;
    for (side, line) in [(one, top + 16), (two, below + frames_height(two, zoom) + 18)] {
        let text = format!("{}  ·  {}", side.label, summary(&side.clip));
        sheet.write([SIDE, line], 12.0, Ink::Dim, &text);
    }
    draw_frames(sheet, one, first - MARK_LINE - 2, scale, zoom);
    draw_frames(sheet, two, below + frames_height(two, zoom), scale, zoom);
    draw_bar(sheet, one.clip.holds(), [SIDE, first, BAR], scale, true);
    draw_bar(sheet, two.clip.holds(), [SIDE, second, BAR], scale, true);
    draw_names(sheet, one, first - 4, scale);
    draw_names(sheet, two, second + BAR + 15, scale);
    let start = |clip: &Clip<'_>, hold: u32| -> Ticks {
        clip.holds().take(hold as usize).fold(Ticks::ZERO, |sum, hold| sum + hold.ticks)
    };
    let mut free = SIDE;
    for (hold, before, after) in differing(&one.clip, &two.clip) {
        for (side, ticks, bar) in [(one, before, first), (two, after, second)] {
            if let Some(ticks) = ticks {
                let from = start(&side.clip, hold);
                let (left, right) = (scale.x(from), scale.x(from + ticks));
                sheet.frame([SIDE + left, bar], [right - left + 1, BAR], Ink::Alert);
            }
        }
        let text = match (before, after) {
            (Some(before), Some(after)) if after > before => {
                format!("{hold}: +{}", milliseconds(Ticks::new(after.get() - before.get())))
            }
            (Some(before), Some(after)) => {
                format!("{hold}: -{}", milliseconds(Ticks::new(before.get() - after.get())))
            }
            (None, _) => format!("{hold}: new"),
            (_, None) => format!("{hold}: gone"),
        };
        let side = if after.is_some() { two } else { one };
        let width = sheet.width(12.0, &text);
        let x = SIDE + scale.x(start(&side.clip, hold));
        let x = x.max(free);
        if x + width <= WIDTH - SIDE {
            sheet.write([x, first + BAR + 27], 12.0, Ink::Alert, &text);
            free = x + width + 12;
        }
    }
}

/// Each frame above or below its hold, where it fits.
fn draw_frames(sheet: &mut Drawing, side: &Side<'_>, bottom: i32, scale: Scale, zoom: u32) {
    let mut start = Ticks::ZERO;
    for hold in side.clip.holds() {
        let (from, to) = (scale.x(start), scale.x(start + hold.ticks));
        start += hold.ticks;
        let Some(view) = view_of(&side.art.reel, &side.clip, hold.frame) else { continue };
        if view.frame.size[0].saturating_mul(zoom) as i32 <= to - from + 8 {
            let place = ([SIDE + from, bottom], to - from);
            draw_frame(sheet, side.art, &view, place, (zoom, false));
        }
    }
}

/// The names of marks where their holds begin.
fn draw_names(sheet: &mut Drawing, side: &Side<'_>, base: i32, scale: Scale) {
    let (mut start, mut free) = (Ticks::ZERO, 0);
    for (index, hold) in (0..).zip(side.clip.holds()) {
        let x = SIDE + scale.x(start);
        start += hold.ticks;
        let text = marks_of(&side.art.reel, &side.clip, index).collect::<Vec<_>>().join(", ");
        let width = sheet.width(12.0, &text);
        if !text.is_empty() && x >= free && x + width <= WIDTH {
            sheet.write([x + 2, base], 12.0, Ink::Mark, &text);
            free = x + width + 8;
        }
    }
}
