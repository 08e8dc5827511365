//! `[looks.NAME]`: other pictures for sheets and clips.

use lucky_reel_core::problem::Section;
use lucky_reel_core::{NewLook, SheetId};

use super::To;
use super::origins::{Home, Origin};
use super::sheet::Sheets;
use super::sheets::dressed;
use crate::document::{Entry, Node, join};
use crate::pictures::Pictures;
use crate::suggestion::did_you_mean;

/// Reads looks; gives the images of the sheets that they bring.
pub(super) fn read(
    to: &mut To<'_, '_>,
    (looks, written): (Option<&Node>, Option<&Node>),
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
        let (path, before) = (join("looks", &entry.key), to.notes.problems.len());
        let mut look = NewLook::new();
        let fields = to.notes.fields(&entry.node, &path, &["sheets", "clips"]);
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
        if let Some(node) = get("sheets") {
            let path = join(&path, "sheets");
            for pair in pairs(to, node, &path, "pictures of sheets") {
                let path = join(&path, &pair.key);
                let known = Context { sheets, written };
                if let Some((base, other, image)) =
                    read_sheet(to, (&entry.key, pair, &path), known, pictures)
                {
                    images.extend(image.map(|image| (other, image)));
                    look = look.sheet(base, other);
                }
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

/// The sheets of the file, as read and as written.
#[derive(Clone, Copy)]
struct Context<'k> {
    sheets: &'k Sheets,
    written: Option<&'k Node>,
}

/// A sheet for a sheet, or a picture, from which a sheet is made; gives the sheet that is replaced, the
/// other one, and its picture where that is new.
fn read_sheet(
    to: &mut To<'_, '_>,
    (look, pair, path): (&str, &Entry, &str),
    known: Context<'_>,
    pictures: &mut Pictures<'_, '_>,
) -> Option<(SheetId, SheetId, Option<String>)> {
    let Some(other) = pair.node.text() else {
        to.notes.say_kind(&pair.node, path, "the name of a sheet, or the path of a picture");
        return None;
    };
    let Some(base) = known.sheets.get(&pair.key) else {
        let names = known.sheets.names();
        let fix = did_you_mean(&pair.key, names, || "name a sheet of this file".to_owned());
        to.notes.say(&pair.key_span, path, format!("there is no sheet `{}`", pair.key), fix);
        return None;
    };
    if let Some(sheet) = known.sheets.get(other) {
        return Some((base.id?, sheet.id?, None));
    }
    let written = known.written.and_then(Node::table).unwrap_or_default();
    let written = written.iter().find(|sheet| sheet.key == pair.key)?;
    let base = base.id?;
    let name = format!("{}.{look}", pair.key);
    let place = (&pair.node, path);
    let (sheet, image) = dressed(to.notes, pictures, (&name, other), &written.node, place)?;
    let sheet = to.add_sheet(&name, sheet, pictures.held_as(&image));
    Some((base, sheet, Some(image)))
}
