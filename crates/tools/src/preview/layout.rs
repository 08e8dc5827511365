//! The art itself: what is up, the holds beside it, pivot, points and areas.

use lucky_reel_assets::Pixels;
use lucky_reel_core::{Clip, Flips, View};

use super::{Background, Preview};
use crate::drawing::{Drawing, Ink, Theme};

/// How much of a neighboring hold is seen, of 255.
const FAINT: u8 = 80;
const LARGEST_ZOOM: u32 = 16;
const PAPER: [u8; 4] = [0xe8, 0xe4, 0xd8, 0xff];

/// A rectangle about the pivot, in pixels of the art: left, top, right, bottom.
type Envelope = [i32; 4];

impl Preview {
    /// The art alone, as large as fits into this size, for terminals: no letters, nothing beside it.
    #[must_use]
    pub fn layout(&self, size: [u32; 2]) -> Pixels {
        let Some(mut drawing) = Drawing::new(size, Theme::Dark) else { return Pixels::default() };
        self.draw_stage(&mut drawing, [0, 0], size, false);
        drawing.pixels()
    }

    /// Draws the art into a rectangle, the names of points and areas beside them where there is room for
    /// letters.
    pub(super) fn draw_stage(
        &self,
        sheet: &mut Drawing,
        at: [i32; 2],
        size: [u32; 2],
        has_letters: bool,
    ) {
        match self.background {
            Background::Dark => sheet.fill(at, size.map(|side| side as i32), Ink::Background),
            Background::Light => sheet.fill(at, size.map(|side| side as i32), Ink::Rgba(PAPER)),
            Background::Checks => sheet.checks(at, size),
        }
        let [left, top, right, bottom] = self.envelope();
        let [wide, high] = [(right - left).max(1), (bottom - top).max(1)];
        let fits = (size[0] as i32 / wide).min(size[1] as i32 / high);
        let zoom = self.zoom.unwrap_or((fits.max(1) as u32).min(LARGEST_ZOOM));
        self.shown_zoom.set(zoom);
        // The middle of everything that the clip shows is the middle of the stage.
        let pivot = [(0, left, wide), (1, top, high)].map(|(axis, first, length)| {
            let spare = size[axis] as i32 - length.saturating_mul(zoom as i32);
            at[axis] + spare.div_euclid(2) - first.saturating_mul(zoom as i32)
        });
        if self.onion {
            for view in self.beside() {
                sheet.faint(&view, &self.art.images, (pivot, zoom), FAINT);
            }
        }
        let Some(view) = self.view() else { return };
        sheet.view(&view, &self.art.images, pivot, zoom);
        let arm = if has_letters { 7 } else { 1 };
        let ink = if self.background == Background::Light {
            Ink::Rgba([0x05, 0x55, 0x45, 255])
        } else {
            Ink::Span
        };
        sheet.cross(pivot, arm, ink);
        let outline = if self.background == Background::Light {
            Ink::Rgba(Theme::Light.color(Ink::Area))
        } else {
            Ink::Area
        };
        for (at, area) in sheet.areas(&view, pivot, zoom, outline) {
            if has_letters {
                label(sheet, [at[0] + 2, at[1] - 4], Ink::Area, self.art.reel.name(area));
            }
        }
        for (point, from_pivot) in view.points() {
            let place =
                [0, 1].map(|axis| pivot[axis] + (from_pivot[axis] * zoom as f32).round() as i32);
            let radius = if has_letters { 4 } else { 1 };
            sheet.frame(place.map(|side| side - radius), [2 * radius; 2], Ink::Mark);
            if has_letters {
                let name = self.art.reel.name(point);
                label(sheet, [place[0] + 8, place[1] + 4], Ink::Mark, name);
            }
        }
    }

    /// Everything that may be up: of the clip, or with cues of all clips of the role.
    fn envelope(&self) -> Envelope {
        let reel = &self.art.reel;
        let playing = self.playing().clip();
        let role = reel.role_name(playing);
        let clips = reel.clips().filter(|clip| match self.by_cues {
            true => reel.role_name(clip.id) == role,
            false => clip.id == playing,
        });
        let bounds = clips.map(|clip| {
            let [[left, top], [right, bottom]] = clip.envelope(self.flips);
            [left.floor(), top.floor(), right.ceil(), bottom.ceil()].map(|side| side as i32)
        });
        let join = |a: Envelope, b: Envelope| {
            [a[0].min(b[0]), a[1].min(b[1]), a[2].max(b[2]), a[3].max(b[3])]
        };
        bounds.reduce(join).unwrap_or([0, 0, 1, 1])
    }

    fn flips_of(&self, clip: &Clip<'_>) -> Flips {
        Flips { x: self.flips.x != clip.is_mirrored, y: self.flips.y }
    }

    /// The hold before and the next one, as they are played.
    fn beside(&self) -> Vec<View<'_>> {
        let reel = &self.art.reel;
        let bar = self.bar();
        let (Some(up), Some(clip)) = (self.place(&bar).step, reel.clip(self.playing().clip()))
        else {
            return Vec::new();
        };
        let count = bar.len();
        let endless = clip.repeat.is_none();
        let before =
            if up > 0 { Some(up - 1) } else { (endless && count > 1).then_some(count - 1) };
        let after = if up + 1 < count { Some(up + 1) } else { (endless && count > 1).then_some(0) };
        let view = |step: usize| {
            let hold = clip.hold(bar[step].hold)?;
            View::of(reel, hold.frame, self.flips_of(&clip))
        };
        [before, after].into_iter().flatten().filter_map(view).collect()
    }
}

/// A name on a background of its own.
fn label(sheet: &mut Drawing, at: [i32; 2], ink: Ink, name: &str) {
    let width = sheet.width(12.0, name);
    sheet.fill([at[0] - 2, at[1] - 11], [width + 4, 15], Ink::Background);
    sheet.write(at, 12.0, ink, name);
}
