//! `[sheets.NAME]`: an image, its grid and its pivot.

use std::ops::Range;

use lucky_reel_core::problem::{Key, Section};
use lucky_reel_core::{Grid, NewFrame, NewSheet, Pivot, Rect};

use super::To;
use super::cuts::{hex_color, read_cutouts, read_grid, read_pivot, read_placed_cells};
use super::origins::{Home, Origin};
use super::packed::pack;
use super::points_and_areas::{AreaRead, read_areas, read_points};
use super::sheet::{Sheet, Sheets, Timing};
use crate::Pixels;
use crate::document::{Entry, Fields, Node, Notes, Value, join};
use crate::index::Index;
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
        let (path, before) = (join("sheets", &entry.key), to.notes.problems.len());
        let reader = &mut SheetReader { notes: to.notes, pictures, name: &entry.key, path };
        let read = reader.read(&entry.node);
        // A sheet that cannot be read is still known by its name, so that its clips are not reported.
        let id = read.as_ref().map(|read| {
            let home = Home { table: "sheets", entry: nth };
            let mut origin = Origin::new(home, &entry.key, entry);
            origin.items = read.areas_by_name();
            to.origin(Section::Sheets, origin);
            to.add_sheet(&entry.key, read.new_sheet(), pictures.held_as(&read.image))
        });
        to.incomplete_since(before, Section::Sheets, &entry.key);
        let Read { image, frames, cells, is_packed, cutouts, timing, advice, transparent, .. } =
            read.unwrap_or_default();
        let frames = frames.iter().map(|(_, rect)| *rect).collect();
        let sheet =
            Sheet { id, image, frames, cells, is_packed, cutouts, timing, advice, transparent };
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

/// A sheet cut as another is, of another picture of the same size: for looks.
pub(super) fn dressed(
    notes: &mut Notes<'_>,
    pictures: &mut Pictures<'_, '_>,
    (name, image): (&str, &str),
    base: &Node,
    (place, key): (&Node, &str),
) -> Option<(NewSheet, String)> {
    let base_image = base.table()?.iter().find(|entry| entry.key == "image");
    let Some(base_image) = base_image.and_then(|entry| entry.node.text()) else {
        let what = "the sheet is put together from several pictures";
        let fix = "add a sheet for the look, and name that instead of a picture";
        notes.say(&place.span, key, what, fix);
        return None;
    };
    let mut size_of = |notes: &mut Notes<'_>, image: &str| {
        let size = pictures.size(image);
        size.map_err(|problem| tell(notes, place, key, problem)).ok()
    };
    let (size, wanted) = (size_of(notes, image)?, size_of(notes, base_image)?);
    if size != wanted {
        let pixels = |[width, height]: [u32; 2]| format!("{width} x {height} px");
        let what = format!("{image} is {}, and {base_image} {}", pixels(size), pixels(wanted));
        let fix = "a look's picture has the layout of the sheet's own";
        notes.say(&place.span, key, what, fix);
        return None;
    }
    // It names the picture, too, which may be a sheet's own.
    pictures.expect(image);
    let mut node = base.clone();
    if let Value::Table(entries) = &mut node.value {
        for entry in entries.iter_mut().filter(|entry| entry.key == "image") {
            entry.node.value = Value::Text(image.to_owned());
        }
    }
    // What is wrong with the sheet has been said where the sheet was read.
    let silent = &mut Notes::on(notes.path, notes.text);
    let path = join("sheets", name);
    let read = SheetReader { notes: silent, pictures, name, path }.read(&node)?;
    Some((read.new_sheet(), read.image))
}

/// What a sheet was read as.
#[derive(Default)]
struct Read {
    image: String,
    size: [u32; 2],
    grid: Option<Grid>,
    /// Its frames are no longer the cells of the grid.
    by_frame: bool,
    frames: Vec<(NewFrame, Rect)>,
    cells: Option<[u32; 2]>,
    is_packed: bool,
    cutouts: Index<u32>,
    timing: Option<Timing>,
    advice: Option<String>,
    transparent: Option<[u8; 3]>,
    pivot: Pivot,
    points: Vec<(String, u32, [f32; 2])>,
    areas: Vec<AreaRead>,
}

impl Read {
    /// The number of a frame, which may be named.
    fn number_of(&self, frame: &str) -> Option<u32> {
        self.cutouts.get(frame).copied().or_else(|| frame.parse().ok())
    }

    fn new_sheet(&self) -> NewSheet {
        let sheet = match self.grid {
            Some(grid) if !self.by_frame => NewSheet::grid(self.size, grid),
            // Nothing was read: what is wrong has been said.
            _ if self.frames.is_empty() => NewSheet::grid([1, 1], Grid::cell_size([1, 1])),
            _ => NewSheet::frames(self.size, self.frames.iter().map(|(frame, _)| *frame)),
        };
        let points = self.points.iter();
        let sheet = points.fold(sheet.pivot(self.pivot), |sheet, (name, frame, at)| {
            sheet.point(name, *frame, *at)
        });
        let areas = self.areas.iter();
        areas.fold(sheet, |sheet, area| sheet.area(&area.name, area.frames.clone(), area.at))
    }

    /// Where the areas of each name stand.
    fn areas_by_name(&self) -> Vec<(Key, Vec<Range<usize>>)> {
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

struct SheetReader<'a, 'f, 's, 'r> {
    notes: &'a mut Notes<'f>,
    pictures: &'a mut Pictures<'s, 'r>,
    name: &'a str,
    path: String,
}

impl SheetReader<'_, '_, '_, '_> {
    fn read(&mut self, node: &Node) -> Option<Read> {
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
        let mut read = match sources[..] {
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
        if let Some(key) = fields.get("transparent") {
            self.key_out(key, &mut read)?;
        }
        if let Some(trim) = fields.get("trim") {
            self.trim(trim, &mut read)?;
        }
        if let Some(pivots) = fields.get("pivots") {
            self.read_pivots(pivots, &mut read)?;
        }
        if let Some(pivot) = fields.get("pivot") {
            let key = join(&self.path, "pivot");
            read.pivot = read_pivot(self.notes, pivot, &key).unwrap_or_default();
        }
        if let Some(points) = fields.get("points") {
            let number_of = |name: &str| read.number_of(name);
            read.points = read_points(self.notes, points, &join(&self.path, "points"), number_of);
        }
        // Of a sheet without frames something else is wrong.
        if let Some(areas) = fields.get("areas").filter(|_| !read.frames.is_empty()) {
            let frames = (read.frames.len() as u32, &read.cutouts);
            read.areas = read_areas(self.notes, areas, &join(&self.path, "areas"), frames);
        }
        Some(read)
    }

    fn read_source(&mut self, fields: &Fields<'_>, source: &Entry) -> Option<Read> {
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
        // No path of a file begins so.
        let image = format!("/{}", self.name);
        self.pictures.put(&image, picture);
        let frames = frames.into_iter().map(|frame| (frame, frame.source())).collect();
        Some(Read { image, size, frames, timing, ..Read::default() })
    }

    fn read_image(&mut self, fields: &Fields<'_>, node: &Node) -> Option<Read> {
        let file = self.path_of(node, "image", "\"bram.png\"")?;
        let key = join(&self.path, "image");
        let size = self.pictures.size(file);
        let size = size.map_err(|problem| tell(self.notes, node, &key, problem)).ok()?;
        warn_of(self.notes, node, &key, file, self.pictures.missing(file));
        let mut read = Read { image: file.to_owned(), size, ..Read::default() };
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
                (read.cutouts, read.frames) = (named, frames);
            }
            (Some(grid), None)
                if grid.table().is_some_and(|keys| keys.iter().any(|k| k.key == "at")) =>
            {
                let key = join(&self.path, "grid");
                let (cells, columns) = read_placed_cells(self.notes, grid, &key, size)?;
                read.is_packed = true;
                read.cells = Some([columns, (cells.len() as u32).div_ceil(columns)]);
                read.frames = cells.into_iter().map(|rect| (NewFrame::at(rect), rect)).collect();
            }
            (grid, None) => {
                let grid = match grid {
                    Some(grid) => read_grid(self.notes, grid, &join(&self.path, "grid"))?,
                    None => Grid::cell_size(size),
                };
                read.grid = Some(grid);
                // What does not fit is the core's to say.
                read.cells = grid.columns_and_rows(size);
                if read.cells.is_none() {
                    read.advice = self.pictures.grid_advice(file);
                }
                let cells = grid.cut(size).unwrap_or_default();
                read.frames = cells.into_iter().map(|rect| (NewFrame::at(rect), rect)).collect();
            }
        }
        Some(read)
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

    /// Makes a color transparent, for art without alpha.
    fn key_out(&mut self, node: &Node, read: &mut Read) -> Option<()> {
        let path = join(&self.path, "transparent");
        let picture = self.pictures.own_picture(&read.image);
        let mut picture = picture.map_err(|problem| tell(self.notes, node, &path, problem)).ok()?;
        let color = match node.text() {
            Some("top-left") => Some(picture.pixel([0, 0])),
            Some(text) => hex_color(text),
            None => None,
        };
        let Some([r, g, b, _]) = color else {
            let fix = "write a color such as \"#ff00ff\", or \"top-left\" for the color of the top left pixel";
            self.notes.say(&node.span, &path, "not a color", fix);
            return None;
        };
        for pixel in picture.rgba_mut().chunks_exact_mut(4) {
            if pixel[..3] == [r, g, b] {
                pixel.copy_from_slice(&[0; 4]);
            }
        }
        read.transparent = Some([r, g, b]);
        read.image = format!("/{}", self.name);
        self.pictures.put(&read.image, picture);
        Some(())
    }

    /// Takes from each frame the transparent border, and keeps where the rest stood.
    fn trim(&mut self, node: &Node, read: &mut Read) -> Option<()> {
        match node.value {
            Value::Bool(true) => {}
            Value::Bool(false) => return Some(()),
            _ => {
                self.notes.say_kind(node, &join(&self.path, "trim"), "true or false");
                return None;
            }
        }
        let path = join(&self.path, "trim");
        let picture = self.pictures.picture(&read.image);
        let picture = picture.map_err(|problem| tell(self.notes, node, &path, problem)).ok()?;
        for (frame, rect) in &mut read.frames {
            let whole = frame.source();
            // Of a frame in which nothing is drawn one pixel is left.
            let seen = picture.opaque_bounds(whole).unwrap_or(Rect::new(whole.x, whole.y, 1, 1));
            let shift = [seen.x - whole.x, seen.y - whole.y];
            *frame = NewFrame::at(seen).trimmed_from([whole.width, whole.height], shift);
            *rect = seen;
        }
        read.by_frame = true;
        Some(())
    }

    /// Pivots of single frames: `{ 3 = [12, 30], 4 = "bottom" }`.
    fn read_pivots(&mut self, node: &Node, read: &mut Read) -> Option<()> {
        let path = join(&self.path, "pivots");
        let Some(entries) = node.table() else {
            self.notes.say_kind(node, &path, "pivots by frame, such as { 3 = [12, 30] }");
            return None;
        };
        for entry in entries {
            let key = join(&path, &entry.key);
            let number = read.number_of(&entry.key);
            let last = read.frames.len().saturating_sub(1);
            let Some((frame, _)) = number.and_then(|nth| read.frames.get_mut(nth as usize)) else {
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
            *frame = frame.pivot(pivot);
        }
        read.by_frame = true;
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
fn tell(notes: &mut Notes<'_>, node: &Node, key: &str, problem: Problem) {
    let what = format!("{}: {}", problem.path().display(), problem.message());
    let origin = problem.origin();
    notes.say(&node.span, key, what, problem.fix());
    if let Some(last) = notes.problems.last_mut() {
        (last.origin, last.cause) = (origin, problem.cause);
    }
}
