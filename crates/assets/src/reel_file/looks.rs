//! `[looks.NAME]`: other pictures for sheets and clips, and other colors.

use lucky_reel_core::problem::Section;
use lucky_reel_core::{NewLook, SheetId};

use super::To;
use super::cuts::hex_color;
use super::origins::{Home, Origin};
use super::sheet::{Cut, OnPicture, Sheets};
use super::sheets::tell;
use crate::document::{Entry, Node, join};
use crate::pictures::Pictures;
use crate::suggestion::did_you_mean;

/// Reads looks; gives the images of the sheets that they bring.
pub(super) fn read(
    to: &mut To<'_, '_>,
    looks: Option<&Node>,
    sheets: &Sheets,
    pictures: &mut Pictures<'_, '_>,
) -> Vec<(SheetId, String)> {
    let mut images = Vec::new();
    let Some(looks) = looks else { return images };
    let Some(entries) = looks.table() else {
        to.notes.say_kind(looks, "looks", "tables, such as [looks.dusk]");
        return images;
    };
    for (nth, entry) in entries.iter().enumerate() {
        let (path, before) = (join("looks", &entry.key), to.notes.found);
        let mut look = NewLook::new();
        let fields = to.notes.fields(&entry.node, &path, &["sheets", "clips", "colors"]);
        let get = |key: &str| fields.as_ref().and_then(|fields| fields.get(key));
        if let Some(node) = get("clips") {
            let path = join(&path, "clips");
            for pair in pairs(to, node, &path, "clips for clips") {
                match pair.node.text() {
                    Some(other) => look = look.clip(&pair.key, other),
                    None => {
                        let path = join(&path, &pair.key);
                        to.notes.say_kind(&pair.node, &path, "the name of a clip");
                    }
                }
            }
        }
        // What a look shows for a sheet, as far as that is another one.
        let mut shown: Vec<(SheetId, OnPicture)> = Vec::new();
        if let Some(node) = get("sheets") {
            let path = join(&path, "sheets");
            for pair in pairs(to, node, &path, "pictures of sheets") {
                let path = join(&path, &pair.key);
                if let Some((base, other, on)) =
                    read_sheet(to, (&entry.key, pair, &path), sheets, pictures)
                {
                    if sheets.values().iter().all(|sheet| sheet.id != Some(other)) {
                        images.push((other, on.image.clone()));
                    }
                    shown.push((base, on));
                    look = look.sheet(base, other);
                }
            }
        }
        if let Some(node) = get("colors") {
            let colors = read_colors(to, node, &join(&path, "colors"));
            for (name, sheet) in sheets.iter() {
                let Some(base) = sheet.id else { continue };
                let on = shown.iter().find(|(of, _)| *of == base).map_or(&sheet.on, |(_, on)| on);
                let other = Cut::recolored(on, pictures, &colors, &entry.key);
                let other = other.map_err(|problem| tell(to.notes, node, &path, *problem));
                let Ok(Some(other)) = other else { continue };
                let name = format!("{name}.{}_colors", entry.key);
                let new = sheet.cut.new_sheet(&other);
                let id = to.add_sheet(&name, new, pictures.held_as(&other.image));
                images.push((id, other.image));
                // The last one for a sheet counts.
                look = look.sheet(base, id);
            }
        }
        let home = Home { table: "looks", entry: nth };
        to.origin(Section::Looks, Origin::new(home, &entry.key, entry));
        to.builder.look(&entry.key, look);
        to.incomplete_since(before, Section::Looks, &entry.key);
    }
    images
}

fn pairs<'n>(to: &mut To<'_, '_>, node: &'n Node, path: &str, wanted: &str) -> &'n [Entry] {
    if node.table().is_none() {
        to.notes.say_kind(node, path, wanted);
    }
    node.table().unwrap_or_default()
}

/// `{ "#7a3b2e" = "#3b5e7a" }`: colors, and those that stand for them.
fn read_colors(to: &mut To<'_, '_>, node: &Node, path: &str) -> Vec<([u8; 3], [u8; 3])> {
    let mut colors = Vec::new();
    for pair in pairs(to, node, path, "colors for colors, such as { \"#7a3b2e\" = \"#3b5e7a\" }") {
        let (key, path) = (hex_color(&pair.key), join(path, &pair.key));
        let color = pair.node.text().and_then(hex_color);
        let fix = "write red, green and blue such as \"#7a3b2e\"";
        match (key, color) {
            (Some(from), Some(color)) => colors.push((from, color)),
            (None, _) => to.notes.say(&pair.key_span, &path, "not a color", fix),
            _ => to.notes.say(&pair.node.span, &path, "not a color", fix),
        }
    }
    colors
}

/// A sheet for a sheet, or a picture, from which a sheet is made; gives the sheet that is replaced, the
/// other one, and its picture.
fn read_sheet(
    to: &mut To<'_, '_>,
    (look, pair, path): (&str, &Entry, &str),
    sheets: &Sheets,
    pictures: &mut Pictures<'_, '_>,
) -> Option<(SheetId, SheetId, OnPicture)> {
    let Some(other) = pair.node.text() else {
        to.notes.say_kind(&pair.node, path, "the name of a sheet, or the path of a picture");
        return None;
    };
    let Some(base) = sheets.get(&pair.key) else {
        let names = sheets.names();
        let fix = did_you_mean(&pair.key, names, || "name a sheet of this file".to_owned());
        to.notes.say(&pair.key_span, path, format!("there is no sheet `{}`", pair.key), fix);
        return None;
    };
    if let Some(sheet) = sheets.get(other) {
        return Some((base.id?, sheet.id?, sheet.on.clone()));
    }
    // A sheet cut as this one is, on another picture of the same size.
    let base_id = base.id?;
    let Some(base_image) = base.cut.file() else {
        let what = "the sheet is put together from several pictures";
        let fix = "add a sheet for the look, and name that instead of a picture";
        to.notes.say(&pair.node.span, path, what, fix);
        return None;
    };
    let size = pictures.size(other);
    let size = size.map_err(|problem| tell(to.notes, &pair.node, path, problem)).ok()?;
    if size != base.cut.size {
        let pixels = |[width, height]: [u32; 2]| format!("{width} x {height} px");
        let (size, wanted) = (pixels(size), pixels(base.cut.size));
        let what = format!("{other} is {size}, and {base_image} {wanted}");
        let fix = "a look's picture has the layout of the sheet's own";
        to.notes.say(&pair.node.span, path, what, fix);
        return None;
    }
    // It names the picture, too, which may be a sheet's own.
    pictures.expect(other);
    let name = format!("{}.{look}", pair.key);
    let on = base.cut.on_picture(pictures, other, &name);
    let on = on.map_err(|(_, problem)| tell(to.notes, &pair.node, path, *problem)).ok()?;
    let sheet = to.add_sheet(&name, base.cut.new_sheet(&on), pictures.held_as(&on.image));
    Some((base_id, sheet, on))
}
