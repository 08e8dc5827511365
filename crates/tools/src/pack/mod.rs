//! Images and reel files packed: one sheet with a reel file, or the sheets of many reel files on few images.

mod reels;

pub use reels::{PackedReels, reels};

use std::collections::BTreeSet;
use std::fmt::Write as _;

use lucky_reel_assets::packing::PackedSheet;
use lucky_reel_core::NameError;
use lucky_reel_core::{ExactTime, Rect};

/// An image to be packed, with the name of the file that it comes from.
#[derive(Clone, Debug)]
pub struct SourceImage {
    /// The file's name without folder and extension.
    pub name: String,
    /// The duration of each frame: several for an animated image.
    pub times: Vec<ExactTime>,
    /// How often an animated image plays; `None` for forever, and for stills.
    pub plays: Option<u32>,
}

/// The reel file: one sheet, with a cutout for each image that differs, named after its file; and clips.
///
/// Stills whose names differ only in a number at the end make one clip, and so does each animated image.
/// A single clip takes the name of the sheet, several take those of their files. `packed` has the places
/// of all frames of all sources, one after another.
///
/// ```
/// use lucky_reel_core::Ticks;
/// use lucky_reel_assets::Pixels;
/// use lucky_reel_assets::packing::{Packing, pack};
/// use lucky_reel_tools::pack::{SourceImage, reel_file};
///
/// let images = [Pixels::new([8, 8]).unwrap(), Pixels::new([8, 9]).unwrap()];
/// let packed = pack(&images, Packing::default(), 1 << 20)?;
/// let still = |name: &str| SourceImage {
///     name: name.to_owned(), times: vec![Ticks::from_millis(80).into()], plays: None,
/// };
/// let text = reel_file(&packed, "puff", &[still("puff-1"), still("puff-2")]);
/// assert!(text.contains("[clips.puff]") && text.contains("\"puff-2 for 80ms\""));
/// # Ok::<(), lucky_reel_assets::PixelsError>(())
/// ```
#[must_use]
pub fn reel_file(packed: &PackedSheet, name: &str, sources: &[SourceImage]) -> String {
    let mut text =
        format!("reel = 1\n\n[sheets.{name}]\nimage = \"{name}.png\"\n\n[sheets.{name}.cutouts]\n");
    let mut cutouts: Vec<(Rect, String)> = Vec::new();
    let mut taken = BTreeSet::new();
    let mut clips: Vec<(String, Vec<String>, Option<u32>)> = Vec::new();
    let mut places = packed.places.iter();
    for source in sources {
        let is_animated = source.times.len() > 1;
        let stem = plain(&source.name);
        let mut frames = Vec::new();
        for (nth, (time, place)) in source.times.iter().zip(&mut places).enumerate() {
            let known = cutouts.iter().position(|(cutout, _)| cutout == place);
            let at = known.unwrap_or_else(|| {
                let wanted = if is_animated { format!("{stem}-{nth}") } else { stem.clone() };
                cutouts.push((*place, free_name(&mut taken, &wanted)));
                cutouts.len() - 1
            });
            frames.push(format!("    \"{} for {time}\",\n", cutouts[at].1));
        }
        let clip = if is_animated { &*stem } else { without_number(&stem) };
        match clips.iter_mut().find(|(known, ..)| known == clip && !is_animated) {
            Some((_, all, _)) => all.append(&mut frames),
            None => clips.push((clip.to_owned(), frames, source.plays.filter(|_| is_animated))),
        }
    }
    for (Rect { x, y, width, height }, name) in &cutouts {
        let _ = writeln!(text, "{name} = [{x}, {y}, {width}, {height}]");
    }
    let (single, mut taken) = (clips.len() == 1, BTreeSet::new());
    for (clip, frames, plays) in clips {
        let clip = if single { name.to_owned() } else { free_name(&mut taken, &clip) };
        let _ = write!(text, "\n[clips.{clip}]\nframes = [\n{}]\n", frames.concat());
        match plays {
            None => {}
            Some(1) => text += "mode   = \"once\"\n",
            Some(plays) => _ = writeln!(text, "repeat = {plays}"),
        }
    }
    text
}

/// A name with letters, digits, - and _ that starts with a letter.
fn plain(name: &str) -> String {
    let mut plain: String = name
        .chars()
        .map(|c| if c.is_alphanumeric() || c == '-' || c == '_' { c } else { '-' })
        .take(80)
        .collect();
    if !NameError::is_valid(&plain) {
        plain.insert_str(0, "frame-");
    }
    plain
}

/// `puff` of `puff-12`.
fn without_number(name: &str) -> &str {
    let stem = name.trim_end_matches(|c: char| c.is_ascii_digit());
    let stem = if stem == name { name } else { stem.trim_end_matches(['-', '_']) };
    if stem.is_empty() { name } else { stem }
}

/// The name, with a number where it is taken.
fn free_name(taken: &mut BTreeSet<String>, name: &str) -> String {
    let numbered = (2..).map(|nth| format!("{name}-{nth}"));
    let mut names = std::iter::once(name.to_owned()).chain(numbered);
    let free = names.find(|name| !taken.contains(name)).unwrap_or_default();
    taken.insert(free.clone());
    free
}
