//! The reel file of a packed sheet.

use std::fmt::Write as _;

use lucky_reel_assets::packing::Packed;
use lucky_reel_core::{ExactTime, Rect};

/// The reel file: one sheet with a region for each place, and one clip of the same name with the
/// times given, that plays so often (`None`: forever).
#[must_use]
pub fn reel_file(packed: &Packed, name: &str, times: &[ExactTime], plays: Option<u32>) -> String {
    let mut text =
        format!("reel = 1\n\n[sheets.{name}]\nimage = \"{name}.png\"\n\n[sheets.{name}.regions]\n");
    let mut regions: Vec<Rect> = Vec::new();
    let mut frames = Vec::new();
    for (place, time) in packed.places.iter().zip(times) {
        let known = regions.iter().position(|region| region == place);
        let region = known.unwrap_or_else(|| {
            regions.push(*place);
            regions.len() - 1
        });
        frames.push(format!("    \"{region} for {time}\","));
    }
    for (number, Rect { x, y, width, height }) in regions.iter().enumerate() {
        let _ = writeln!(text, "part-{number} = [{x}, {y}, {width}, {height}]");
    }
    let _ = write!(text, "\n[clips.{name}]\nframes = [\n{}\n]\n", frames.join("\n"));
    text += &match plays {
        None => String::new(),
        Some(1) => "mode   = \"once\"\n".to_owned(),
        Some(plays) => format!("repeat = {plays}\n"),
    };
    text
}
