//! `[looks.NAME]`: other pictures for sheets and clips.

use lucky_reel_core::{NewLook, ReelBuilder, SheetId};

use super::origins::{Origin, Origins};
use super::sheets::{Sheets, dressed};
use crate::document::{Node, Notes, join};
use crate::pictures::Pictures;

/// Reads looks; gives the images of the sheets that they bring.
pub(super) fn read(
    builder: &mut ReelBuilder,
    notes: &mut Notes<'_>,
    (looks, written): (Option<&Node>, Option<&Node>),
    sheets: &Sheets,
    pictures: &mut Pictures<'_, '_>,
    origins: &mut Origins,
) -> Vec<(SheetId, String)> {
    let mut images = Vec::new();
    let Some(looks) = looks else { return images };
    let Some(entries) = looks.table() else {
        notes.say_kind(looks, "looks", "tables, such as [looks.dusk]");
        return images;
    };
    for entry in entries {
        let path = join("looks", &entry.key);
        let origin = Origin { span: entry.key_span.clone(), key: path.clone() };
        origins.name("looks", &entry.key, origin);
        let Some(fields) = notes.fields(&entry.node, &path, &["sheets", "clips"]) else { continue };
        let mut look = NewLook::new();
        for (key, wanted) in [("sheets", "pictures of sheets"), ("clips", "clips for clips")] {
            let path = join(&path, key);
            let Some(node) = fields.get(key) else { continue };
            origins.key("looks", &entry.key, key, node, &path);
            if node.table().is_none() {
                notes.say_kind(node, &path, wanted);
            }
            for pair in node.table().unwrap_or_default() {
                let path = join(&path, &pair.key);
                let Some(other) = pair.node.text() else {
                    notes.say_kind(&pair.node, &path, "a name, or the path of a picture");
                    continue;
                };
                if key == "clips" {
                    look = look.clip(&pair.key, other);
                    continue;
                }
                let Some(base) = sheets.get(&pair.key) else {
                    let names = sheets.keys().map(String::as_str);
                    let remedy = match lucky_reel_core::reel::nearest(&pair.key, names) {
                        Some(near) => format!("did you mean `{near}`?"),
                        None => "name a sheet of this file".to_owned(),
                    };
                    let what = format!("there is no sheet `{}`", pair.key);
                    notes.say(&pair.key_span, &path, what, remedy);
                    continue;
                };
                if let Some(sheet) = sheets.get(other) {
                    look = look.sheet(base.id, sheet.id);
                    continue;
                }
                let base_node = written.and_then(Node::table).unwrap_or_default();
                let base_node = base_node.iter().find(|sheet| sheet.key == pair.key);
                let Some(base_node) = base_node.map(|sheet| &sheet.node) else { continue };
                let name = format!("{}.{}", pair.key, entry.key);
                let place = (&pair.node, &*path);
                if let Some((sheet, image)) =
                    dressed(notes, pictures, (&name, other), base_node, place)
                {
                    let id = builder.sheet(&name, sheet);
                    images.push((id, image));
                    look = look.sheet(base.id, id);
                }
            }
        }
        builder.look(&entry.key, look);
    }
    images
}
