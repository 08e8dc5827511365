//! Sheets whose pixels look like mistakes.

use lucky_reel_assets::{Art, Pixels, SheetSource, SourceFile};
use lucky_reel_core::problem::Section;
use lucky_reel_core::{ImageId, Rect};

use super::Found;
use super::scene::{Panel, Scene};

/// A sheet is meant hard where no more than this share of what is drawn is half transparent.
const MAX_SOFT: f64 = 0.02;
/// A color nearly is the transparent one where no channel differs by more than this.
const NEARLY: u8 = 16;
/// So many pixels are marked in a picture.
const MAX_MARKS: usize = 2_000;

pub(super) fn warnings(art: &Art, file: &SourceFile) -> Vec<Found> {
    let mut found = Vec::new();
    for sheet in file.sheets() {
        let reel = &art.reel;
        let mut image = None;
        let frames = reel.frames_of(sheet.id).filter_map(|frame| reel.frame(frame));
        let frames: Vec<Rect> = frames
            .inspect(|frame| image = image.or(Some(frame.image)))
            .map(|frame| frame.source)
            .collect();
        let Some(image) = image else { continue };
        let Some(picture) = art.image(image) else { continue };
        let looked = SheetView { sheet, image, picture, frames, file };
        found.extend(looked.outside(art));
        found.extend(looked.soft_edges());
        found.extend(looked.nearly_transparent());
    }
    found
}

struct SheetView<'a> {
    sheet: &'a SheetSource,
    image: ImageId,
    picture: &'a Pixels,
    frames: Vec<Rect>,
    file: &'a SourceFile,
}

/// Some of the pixels of an image.
struct Covered {
    width: usize,
    pixels: Vec<bool>,
}

impl Covered {
    fn has(&self, [x, y]: [u32; 2]) -> bool {
        self.pixels[y as usize * self.width + x as usize]
    }
}

impl SheetView<'_> {
    /// What is drawn where no cell of any sheet of the image lies.
    fn outside(&self, art: &Art) -> Option<Found> {
        if !self.sheet.is_grid {
            return None;
        }
        // Other sheets, of other files too, may be cut from the same image.
        let frames = art.reel.frames().filter(|(_, frame)| frame.image == self.image);
        let inside = self.covered(frames.map(|(_, frame)| frame.source));
        let marks = self.pixels(|at, pixel| pixel[3] > 0 && !inside.has(at));
        // What fills the gaps with one color is meant to be there.
        let first = self.picture.pixel(*marks.first()?);
        let room = inside.pixels.iter().filter(|inside| !**inside).count();
        if 2 * marks.len() > room && marks.iter().all(|at| self.picture.pixel(*at) == first) {
            return None;
        }
        self.found(
            "drawn outside all cells",
            "check cell, margin, gap, columns and count of the grid",
            &marks,
        )
    }

    /// A few half-transparent pixels on art that is hard otherwise.
    fn soft_edges(&self) -> Option<Found> {
        let own = self.covered(self.frames.iter().copied());
        let drawn = self.pixels(|at, pixel| pixel[3] > 0 && own.has(at)).len();
        let marks = self.pixels(|at, pixel| pixel[3] > 0 && pixel[3] < 255 && own.has(at));
        if marks.len() as f64 > MAX_SOFT * drawn as f64 {
            return None;
        }
        let what = "half transparent on art that is hard otherwise";
        self.found(what, "draw without smoothing, or make these pixels opaque or empty", &marks)
    }

    /// Colors that nearly are the one that is made transparent, and stay.
    fn nearly_transparent(&self) -> Option<Found> {
        let [r, g, b] = self.sheet.transparent?;
        let near = |a: u8, b: u8| a.abs_diff(b) <= NEARLY;
        let own = self.covered(self.frames.iter().copied());
        let marks = self.pixels(|at, [red, green, blue, alpha]| {
            alpha > 0 && near(red, r) && near(green, g) && near(blue, b) && own.has(at)
        });
        let what = format!("nearly of the transparent color #{r:02x}{g:02x}{b:02x}");
        self.found(
            &what,
            "paint them in exactly that color; JPEG and smoothing change colors",
            &marks,
        )
    }

    /// The pixels that lie in these rectangles. What lies beside the sheet's own may be another sheet's.
    fn covered(&self, sources: impl Iterator<Item = Rect>) -> Covered {
        let [width, height] = self.picture.size().map(|side| side as usize);
        let mut pixels = vec![false; width * height];
        for source in sources {
            for y in source.y..source.y + source.height {
                let row = y as usize * width;
                pixels[row + source.x as usize..row + (source.x + source.width) as usize]
                    .fill(true);
            }
        }
        Covered { width, pixels }
    }

    /// The pixels that are so.
    fn pixels(&self, is: impl Fn([u32; 2], [u8; 4]) -> bool) -> Vec<[u32; 2]> {
        let width = self.picture.size()[0].max(1);
        let pixels = (0_u32..).zip(self.picture.rgba().chunks_exact(4));
        pixels
            .map(|(nth, rgba)| ([nth % width, nth / width], [rgba[0], rgba[1], rgba[2], rgba[3]]))
            .filter(|(at, pixel)| is(*at, *pixel))
            .map(|(at, _)| at)
            .collect()
    }

    /// So many pixels are such, and where the first of them is; `None` where there are none.
    fn found(&self, what: &str, fix: &str, marks: &[[u32; 2]]) -> Option<Found> {
        let [x, y] = marks.first()?;
        let count = match marks.len() {
            1 => "1 pixel is".to_owned(),
            count => format!("{count} pixels are"),
        };
        let what = format!("{count} {what}, the first at {x}, {y}");
        let [width, height] = self.picture.size();
        let marks = marks.iter().take(MAX_MARKS).map(|[x, y]| Rect::new(*x, *y, 1, 1)).collect();
        let panel = Panel {
            image: self.image,
            area: Rect::new(0, 0, width, height),
            label: format!("sheet {}, {} frames", self.sheet.name, self.frames.len()),
            marks,
        };
        let site = (Section::Sheets, &*self.sheet.name, None, None);
        Some((self.file.warning(site, what, fix)?, Some(Scene::Panels(vec![panel]))))
    }
}
