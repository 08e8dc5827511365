//! A sheet that was read: how its entry cuts it, and what comes of that on a picture.

use std::ops::{Range, RangeInclusive};

use lucky_reel_core::problem::Key;
use lucky_reel_core::{ExactTime, Grid, NewFrame, NewSheet, Pivot, Rect, SheetId};

use super::source_file::SheetSource;
use crate::index::Index;
use crate::pictures::Pictures;
use crate::problem::Problem;

/// A sheet that clips can name.
#[derive(Default)]
pub(super) struct Sheet {
    /// `None` for a sheet that cannot be read.
    pub(super) id: Option<SheetId>,
    pub(super) cut: Cut,
    pub(super) on: OnPicture,
}

/// What the entry of a sheet says, whatever the picture.
#[derive(Default)]
pub(super) struct Cut {
    /// The picture: a path, or a name that no path has where it was put together.
    pub(super) image: String,
    pub(super) size: [u32; 2],
    pub(super) grid: Option<Grid>,
    /// Empty when the sheet is at fault itself.
    pub(super) frames: Vec<NewFrame>,
    /// Columns and rows of a grid.
    pub(super) cells: Option<[u32; 2]>,
    /// Whether its cells stand anywhere.
    pub(super) is_packed: bool,
    /// The numbers of named cutouts.
    pub(super) cutouts: Index<u32>,
    /// Times and plays of an animated image.
    pub(super) timing: Option<Timing>,
    /// Which grid fits, where the given one does not.
    pub(super) advice: Option<String>,
    pub(super) transparent: Option<ColorKey>,
    pub(super) trim: bool,
    pub(super) pivot: Pivot,
    /// Pivots of single frames.
    pub(super) pivots: Vec<(u32, Pivot)>,
    pub(super) points: Vec<(String, u32, [f32; 2])>,
    pub(super) areas: Vec<AreaRead>,
}

/// A named rectangle on some frames, and where it was written.
pub(super) struct AreaRead {
    pub(super) name: String,
    pub(super) frames: RangeInclusive<u32>,
    /// Left, top, width and height.
    pub(super) at: [f32; 4],
    pub(super) span: Range<usize>,
}

/// A color that is made transparent.
#[derive(Clone, Copy)]
pub(super) enum ColorKey {
    /// That of the top left pixel.
    TopLeft,
    /// Red, green, blue.
    Rgb([u8; 3]),
}

/// A sheet on its picture, or on that of a look.
#[derive(Clone, Default)]
pub(super) struct OnPicture {
    /// The picture, which is another one where a color of it was made transparent.
    pub(super) image: String,
    frames: Vec<NewFrame>,
    /// The color that was made transparent.
    transparent: Option<[u8; 3]>,
}

/// What an animated image says of its frames: how long each stays, and how often all play (never: forever).
#[derive(Clone, Debug)]
pub(super) struct Timing {
    pub(super) times: Vec<ExactTime>,
    pub(super) plays: Option<u32>,
}

pub(super) type Sheets = Index<Sheet>;

impl Cut {
    /// The number of a frame, which may be named.
    pub(super) fn number_of(&self, frame: &str) -> Option<u32> {
        self.cutouts.get(frame).copied().or_else(|| frame.parse().ok())
    }

    /// Its one picture as a file; `None` where it was put together.
    pub(super) fn file(&self) -> Option<&str> {
        Some(&*self.image).filter(|image| !image.starts_with('/'))
    }

    /// A name for a picture of this sheet: no path of a file begins so.
    pub(super) fn picture_name(sheet: &str) -> String {
        format!("/{sheet}")
    }

    /// Cuts a picture as the sheet is cut: with its color made transparent and its frames trimmed. A picture that
    /// is changed by that is held under the name of the sheet.
    ///
    /// # Errors
    /// The key that cannot be followed, and why.
    pub(super) fn on_picture(
        &self,
        pictures: &mut Pictures<'_, '_>,
        image: &str,
        sheet: &str,
    ) -> Result<OnPicture, (&'static str, Box<Problem>)> {
        let (image, frames) = (image.to_owned(), self.frames.clone());
        let mut on = OnPicture { image, frames, transparent: None };
        if let Some(key) = self.transparent {
            let picture = pictures.own_picture(&on.image);
            let mut picture = picture.map_err(|problem| ("transparent", Box::new(problem)))?;
            let color = match key {
                ColorKey::TopLeft => {
                    let [r, g, b, _] = picture.pixel([0, 0]);
                    [r, g, b]
                }
                ColorKey::Rgb(color) => color,
            };
            for pixel in picture.rgba_mut().chunks_exact_mut(4) {
                if pixel[..3] == color {
                    pixel.copy_from_slice(&[0; 4]);
                }
            }
            (on.image, on.transparent) = (Cut::picture_name(sheet), Some(color));
            pictures.put(&on.image, picture);
        }
        if self.trim {
            let picture =
                pictures.picture(&on.image).map_err(|problem| ("trim", Box::new(problem)))?;
            for frame in &mut on.frames {
                let whole = frame.source();
                // Of a frame in which nothing is drawn one pixel is left.
                let nothing = Rect::new(whole.x, whole.y, 1, 1);
                let seen = picture.opaque_bounds(whole).unwrap_or(nothing);
                let shift = [seen.x - whole.x, seen.y - whole.y];
                *frame = NewFrame::at(seen).trimmed_from([whole.width, whole.height], shift);
            }
        }
        for (number, pivot) in &self.pivots {
            if let Some(frame) = on.frames.get_mut(*number as usize) {
                *frame = frame.pivot(*pivot);
            }
        }
        Ok(on)
    }

    /// The same frames on a picture with other colors; `None` where it has none of these.
    ///
    /// # Errors
    /// Why the picture cannot be had.
    pub(super) fn recolored(
        on: &OnPicture,
        pictures: &mut Pictures<'_, '_>,
        colors: &[([u8; 3], [u8; 3])],
        look: &str,
    ) -> Result<Option<OnPicture>, Box<Problem>> {
        // Sheets that cut one picture share the other one, too.
        let image = format!("{}.{look}", Cut::picture_name(&on.image));
        if !pictures.has(&image) {
            let picture = pictures.picture(&on.image).map_err(Box::new)?;
            if colors.iter().all(|(from, _)| picture.count_color(*from) == 0) {
                return Ok(None);
            }
            let mut picture = pictures.copy_of(&on.image).map_err(Box::new)?;
            picture.recolor(colors);
            pictures.put(&image, picture);
        }
        Ok(Some(OnPicture { image, frames: on.frames.clone(), transparent: on.transparent }))
    }

    /// The sheet to build.
    pub(super) fn new_sheet(&self, on: &OnPicture) -> NewSheet {
        let sheet = match self.grid {
            Some(grid) if !self.trim && self.pivots.is_empty() => NewSheet::grid(self.size, grid),
            // Nothing was read: what is wrong has been said.
            _ if on.frames.is_empty() => NewSheet::grid([1, 1], Grid::cell_size([1, 1])),
            _ => NewSheet::frames(self.size, on.frames.iter().copied()),
        };
        let points = self.points.iter();
        let sheet = points.fold(sheet.pivot(self.pivot), |sheet, (name, frame, at)| {
            sheet.point(name, *frame, *at)
        });
        let areas = self.areas.iter();
        areas.fold(sheet, |sheet, area| sheet.area(&area.name, area.frames.clone(), area.at))
    }

    /// Where the areas of each name stand.
    pub(super) fn areas_by_name(&self) -> Vec<(Key, Vec<Range<usize>>)> {
        let mut by_name: Index<(Key, Vec<Range<usize>>)> = Index::default();
        for area in &self.areas {
            by_name.insert_new(area.name.clone(), (Key::Area(area.name.clone()), Vec::new()));
            if let Some((_, spans)) = by_name.get_mut(&area.name) {
                spans.push(area.span.clone());
            }
        }
        by_name.into_values()
    }
}

impl Sheet {
    /// How many frames it has; none when it is at fault itself.
    pub(super) fn frame_count(&self) -> u32 {
        self.on.frames.len() as u32
    }

    /// The part of the picture that a frame shows.
    pub(super) fn source_of(&self, frame: u32) -> Option<Rect> {
        self.on.frames.get(frame as usize).map(NewFrame::source)
    }

    /// What stays of interest when the file has been read.
    pub(super) fn source(&self, name: &str) -> Option<SheetSource> {
        let is_grid = !self.cut.is_packed && self.cut.cells.is_some_and(|cells| cells != [1, 1]);
        let (name, transparent) = (name.to_owned(), self.on.transparent);
        Some(SheetSource { name, id: self.id?, is_grid, transparent })
    }
}
