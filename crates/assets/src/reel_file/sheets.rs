//! `[sheets.NAME]`: an image, its grid and its pivot.

use lucky_reel_core::problem::Section;
use lucky_reel_core::{Grid, NewFrame};

use super::To;
use super::cuts::{hex_color, read_cutouts, read_grid, read_pivot, read_placed_cells};
use super::origins::{Home, Origin};
use super::packed::pack;
use super::points_and_areas::{read_areas, read_points};
use super::shared_values::flag;
use super::sheet::{ColorKey, Cut, Sheet, Sheets, Timing};
use crate::Pixels;
use crate::document::{Entry, Fields, Node, Notes, join};
use crate::pictures::Pictures;
use crate::problem::Problem;

pub(super) fn read(
    to: &mut To<'_, '_>,
    sheets: Option<&Node>,
    pictures: &mut Pictures<'_, '_>,
) -> Sheets {
    let mut known = Sheets::default();
    let Some(sheets) = sheets else {
        let fix = "name an image: [sheets.NAME], image = \"NAME.png\"";
        to.notes.say(&(0..0), "sheets", "the file names no sheet", fix);
        return known;
    };
    let Some(entries) = sheets.table() else {
        to.notes.say_kind(sheets, "sheets", "tables, such as [sheets.bram]");
        return known;
    };
    for name in entries.iter().flat_map(|entry| pictures_of(&entry.node)) {
        pictures.expect(name);
    }
    for (nth, entry) in entries.iter().enumerate() {
        let (path, before) = (join("sheets", &entry.key), to.notes.found);
        let mut reader = SheetReader { notes: to.notes, pictures, name: &entry.key, path };
        let mut sheet = reader.read(&entry.node).unwrap_or_default();
        // A sheet that cannot be read is still known by its name, so that its clips are not reported.
        if !sheet.cut.image.is_empty() {
            let home = Home { table: "sheets", entry: nth };
            let mut origin = Origin::new(home, &entry.key, entry);
            origin.items = sheet.cut.areas_by_name();
            to.origin(Section::Sheets, origin);
            let image = pictures.held_as(&sheet.on.image);
            sheet.id = Some(to.add_sheet(&entry.key, sheet.cut.new_sheet(&sheet.on), image));
        }
        to.incomplete_since(before, Section::Sheets, &entry.key);
        known.insert(entry.key.clone(), sheet);
    }
    known
}

/// The pictures that a sheet names one by one.
fn pictures_of(sheet: &Node) -> impl Iterator<Item = &str> {
    let sources = sheet.table().unwrap_or_default().iter();
    let sources = sources.filter(|entry| ["image", "images"].contains(&&*entry.key));
    sources.flat_map(|Entry { key, node, .. }| {
        let one = node.text().filter(|_| key == "image");
        let list = node.list().unwrap_or_default().iter().filter_map(Node::text);
        one.into_iter().chain(list)
    })
}

struct SheetReader<'a, 'f, 's, 'r> {
    notes: &'a mut Notes<'f>,
    pictures: &'a mut Pictures<'s, 'r>,
    name: &'a str,
    path: String,
}

impl SheetReader<'_, '_, '_, '_> {
    /// The sheet, not yet added to the reel.
    fn read(&mut self, node: &Node) -> Option<Sheet> {
        let cut = self.read_cut(node)?;
        let on = cut.on_picture(self.pictures, &cut.image, self.name);
        let on = on.map_err(|(key, problem)| {
            let place = node.get(key).unwrap_or(node);
            tell(self.notes, place, &join(&self.path, key), *problem);
        });
        Some(Sheet { id: None, on: on.ok()?, cut })
    }

    fn read_cut(&mut self, node: &Node) -> Option<Cut> {
        let known = [
            "image",
            "images",
            "animated",
            "grid",
            "cutouts",
            "pivot",
            "pivots",
            "points",
            "areas",
            "transparent",
            "trim",
        ];
        let fields = self.notes.fields(node, &self.path, &known)?;
        let sources: Vec<&Entry> = fields
            .iter()
            .filter(|(key, _)| ["image", "images", "animated"].contains(key))
            .map(|(_, entry)| entry)
            .collect();
        let mut cut = match sources[..] {
            [] => {
                let key = join(&self.path, "image");
                let fix = "give it one: image = \"NAME.png\", or images, or animated";
                self.notes.say(&node.span, &key, "the sheet has no image", fix);
                return None;
            }
            [only] => self.read_source(&fields, only)?,
            [first, second, ..] => {
                let what = format!("both `{}` and `{}` are given", first.key, second.key);
                let key = join(&self.path, &second.key);
                self.notes.say(&second.key_span, &key, what, "keep one of image, images, animated");
                return None;
            }
        };
        if let Some(color) = fields.get("transparent") {
            cut.transparent = Some(self.read_color_key(color)?);
        }
        if let Some(trim) = fields.get("trim") {
            cut.trim = flag(self.notes, trim, &join(&self.path, "trim"))?;
        }
        if let Some(pivots) = fields.get("pivots") {
            self.read_pivots(pivots, &mut cut)?;
        }
        if let Some(pivot) = fields.get("pivot") {
            let key = join(&self.path, "pivot");
            cut.pivot = read_pivot(self.notes, pivot, &key).unwrap_or_default();
        }
        if let Some(points) = fields.get("points") {
            let number_of = |name: &str| cut.number_of(name);
            cut.points = read_points(self.notes, points, &join(&self.path, "points"), number_of);
        }
        // Of a sheet without frames something else is wrong.
        if let Some(areas) = fields.get("areas").filter(|_| !cut.frames.is_empty()) {
            let frames = (cut.frames.len() as u32, &cut.cutouts);
            cut.areas = read_areas(self.notes, areas, &join(&self.path, "areas"), frames);
        }
        Some(cut)
    }

    fn read_source(&mut self, fields: &Fields<'_>, source: &Entry) -> Option<Cut> {
        if source.key == "image" {
            return self.read_image(fields, &source.node);
        }
        for key in ["grid", "cutouts"] {
            if let Some(node) = fields.get(key) {
                let what = format!("`{key}` cuts an image, and this sheet has `{}`", source.key);
                let key = join(&self.path, key);
                self.notes.say(&node.span, &key, what, "leave it out");
                return None;
            }
        }
        let key = join(&self.path, &source.key);
        let (packed, timing) = if source.key == "animated" {
            let file = self.path_of(&source.node, "animated", "\"spark.gif\"")?;
            let image = self.pictures.animated(file);
            let image =
                image.map_err(|problem| tell(self.notes, &source.node, &key, problem)).ok()?;
            warn_of(self.notes, &source.node, &key, file, image.missing.as_deref());
            let (frames, times): (Vec<Pixels>, _) = image.frames.into_iter().unzip();
            let borrowed: Vec<&Pixels> = frames.iter().collect();
            let packed = pack(&borrowed, self.pictures.most_pixels());
            self.pictures.drop_frames(frames);
            (packed, Some(Timing { times, plays: image.plays }))
        } else {
            let names = self.read_loose(&source.node, &key)?;
            let packed = pack(&self.pictures.all_of(&names), self.pictures.most_pixels());
            self.pictures.drop_used(&names);
            (packed, None)
        };
        let packed = packed.map_err(|error| {
            self.notes.say(&source.node.span, &key, error.message(), error.fix());
        });
        let (picture, frames) = packed.ok()?;
        let size = picture.size();
        let image = Cut::picture_name(self.name);
        self.pictures.put(&image, picture);
        Some(Cut { image, size, frames, timing, ..Cut::default() })
    }

    fn read_image(&mut self, fields: &Fields<'_>, node: &Node) -> Option<Cut> {
        let file = self.path_of(node, "image", "\"bram.png\"")?;
        let key = join(&self.path, "image");
        let size = self.pictures.size(file);
        let size = size.map_err(|problem| tell(self.notes, node, &key, problem)).ok()?;
        warn_of(self.notes, node, &key, file, self.pictures.missing(file));
        let mut cut = Cut { image: file.to_owned(), size, ..Cut::default() };
        match (fields.get("grid"), fields.get("cutouts")) {
            (Some(_), Some(cutouts)) => {
                let what = "both `grid` and `cutouts` are given";
                let key = join(&self.path, "cutouts");
                self.notes.say(&cutouts.span, &key, what, "keep one of them");
                return None;
            }
            (None, Some(cutouts)) => {
                let key = join(&self.path, "cutouts");
                let (named, frames) = read_cutouts(self.notes, cutouts, &key, size)?;
                (cut.cutouts, cut.frames) = (named, frames);
            }
            (Some(grid), None) if grid.get("at").is_some() => {
                let key = join(&self.path, "grid");
                let (cells, columns) = read_placed_cells(self.notes, grid, &key, size)?;
                cut.is_packed = true;
                cut.cells = Some([columns, (cells.len() as u32).div_ceil(columns)]);
                cut.frames = cells.into_iter().map(NewFrame::at).collect();
            }
            (grid, None) => {
                let grid = match grid {
                    Some(grid) => read_grid(self.notes, grid, &join(&self.path, "grid"))?,
                    None => Grid::cell_size(size),
                };
                cut.grid = Some(grid);
                // What does not fit is the core's to say.
                cut.cells = grid.columns_and_rows(size);
                if cut.cells.is_none() {
                    cut.advice = self.pictures.grid_advice(file);
                }
                let cells = grid.cut(size).unwrap_or_default();
                cut.frames = cells.into_iter().map(NewFrame::at).collect();
            }
        }
        Some(cut)
    }

    /// Loose pictures, by name: a pattern, or a list.
    fn read_loose(&mut self, node: &Node, key: &str) -> Option<Vec<String>> {
        let names: Vec<String> = match (node.text(), node.list()) {
            (Some(pattern), _) => {
                let found = self.pictures.matching(pattern);
                found.map_err(|problem| tell(self.notes, node, key, problem)).ok()?
            }
            (_, Some(nodes)) if !nodes.is_empty() && nodes.iter().all(|n| n.text().is_some()) => {
                nodes.iter().filter_map(Node::text).map(str::to_owned).collect()
            }
            _ => {
                let wanted = "a pattern such as \"puff-*.png\", or a list of pictures";
                self.notes.say_kind(node, key, wanted);
                return None;
            }
        };
        for (nth, name) in names.iter().enumerate() {
            let one = node.list().and_then(|nodes| nodes.get(nth)).unwrap_or(node);
            match self.pictures.picture(name) {
                Ok(_) => warn_of(self.notes, one, key, name, self.pictures.missing(name)),
                Err(problem) => {
                    tell(self.notes, one, key, problem);
                    return None;
                }
            }
        }
        Some(names)
    }

    /// A color to make transparent, for art without alpha.
    fn read_color_key(&mut self, node: &Node) -> Option<ColorKey> {
        let key = match node.text() {
            Some("top-left") => Some(ColorKey::TopLeft),
            Some(text) => hex_color(text).map(ColorKey::Rgb),
            None => None,
        };
        if key.is_none() {
            let fix = "write a color such as \"#ff00ff\", or \"top-left\" for the color of the top left pixel";
            self.notes.say(&node.span, &join(&self.path, "transparent"), "not a color", fix);
        }
        key
    }

    /// Pivots of single frames: `{ 3 = [12, 30], 4 = "bottom" }`.
    fn read_pivots(&mut self, node: &Node, cut: &mut Cut) -> Option<()> {
        let path = join(&self.path, "pivots");
        let Some(entries) = node.table() else {
            self.notes.say_kind(node, &path, "pivots by frame, such as { 3 = [12, 30] }");
            return None;
        };
        for entry in entries {
            let key = join(&path, &entry.key);
            let number = cut.number_of(&entry.key);
            let last = cut.frames.len().saturating_sub(1);
            let Some(number) = number.filter(|number| (*number as usize) < cut.frames.len()) else {
                let fix = format!("the frames are 0 to {last}, counted from 0");
                self.notes.say(
                    &entry.key_span,
                    &key,
                    format!("there is no frame {}", entry.key),
                    fix,
                );
                return None;
            };
            let pivot = read_pivot(self.notes, &entry.node, &key)?;
            cut.pivots.push((number, pivot));
        }
        Some(())
    }

    fn path_of<'n>(&mut self, node: &'n Node, key: &str, example: &str) -> Option<&'n str> {
        if node.text().is_none() {
            let key = join(&self.path, key);
            self.notes.say_kind(node, &key, &format!("the path of a file, such as {example}"));
        }
        node.text()
    }
}

/// Warns of a picture that was read although something is missing.
fn warn_of(notes: &mut Notes<'_>, node: &Node, key: &str, name: &str, missing: Option<&str>) {
    if let Some(missing) = missing {
        notes.warn(&node.span, key, format!("{name}: {missing}"), "export it again");
    }
}

/// Tells of a picture's own path, at the place that names it.
pub(super) fn tell(notes: &mut Notes<'_>, node: &Node, key: &str, problem: Problem) {
    let what = format!("{}: {}", problem.path().display(), problem.message());
    let origin = problem.origin();
    notes.say(&node.span, key, what, problem.fix());
    if let Some(last) = notes.problems.last_mut() {
        (last.origin, last.cause) = (origin, problem.cause);
    }
}
