//! A page that plays: one HTML file with all clips of a reel, for a browser without a network.

use std::collections::BTreeMap;

use lucky_reel_assets::Art;
use lucky_reel_core::{Clip, ClipEnd, FrameId, Reel, Ticks};
use serde_json::{Value, json};

use super::time_bar::view_of;
use super::{milliseconds, mode_of, name_of};
use crate::drawing::{data_address, escaped};
use crate::timeline::{Playing, Timeline};

/// A page in which all clips of a reel play to exact time, each with its holds to scale and its marks;
/// with speed, pause and steps, on a light or a dark background. The images are inside; nothing is fetched.
///
/// `PAGE#at=250ms` in the address shows all clips paused at that time.
///
/// ```
/// # let path = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/greenhouse/bram.reel.toml");
/// let art = lucky_reel_assets::load(path)?;
/// let page = lucky_reel_tools::chart::page::of(&art, "bram");
/// assert!(page.starts_with("<!doctype html>") && page.contains("walk-right"));
/// # Ok::<(), lucky_reel_assets::LoadError>(())
/// ```
#[must_use]
pub fn of(art: &Art, title: &str) -> String {
    let mut images = Images::default();
    let clips: Vec<Value> =
        art.reel.clips().filter_map(|clip| clip_data(art, &clip, &mut images)).collect();
    let pixels: Vec<String> =
        images.used.iter().map(|image| data_address(&art.images[*image])).collect();
    let data = json!({ "ticks": Ticks::PER_SECOND, "images": pixels, "clips": clips });
    // Inside a script element, a tag in a text could end it.
    let data = data.to_string().replace('<', "\\u003c");
    let page = include_str!("page.html")
        .replace("{style}", include_str!("page.css"))
        .replace("{script}", include_str!("page.js"));
    // Names may hold braces: what has been filled in is not looked through again.
    let (head, foot) = page.split_once("{data}").unwrap_or((&page, ""));
    format!("{}{data}{foot}", head.replace("{title}", &escaped(title)))
}

/// The images that frames are cut from, each with its place in the page.
#[derive(Default)]
struct Images {
    used: Vec<usize>,
    places: BTreeMap<usize, usize>,
}

impl Images {
    fn place(&mut self, image: usize) -> usize {
        *self.places.entry(image).or_insert_with(|| {
            self.used.push(image);
            self.used.len() - 1
        })
    }
}

fn clip_data(art: &Art, clip: &Clip<'_>, images: &mut Images) -> Option<Value> {
    let reel = &art.reel;
    let timeline = Timeline::of(reel, clip, Playing::ONCE);
    let holds: Option<Vec<Value>> =
        clip.holds().map(|hold| frame_data(reel, clip, hold.frame, images)).collect();
    let marks: Vec<Value> = clip.marks().map(|at| json!([at.hold, reel.name(at.mark)])).collect();
    let (end, then) = match (clip.repeat, clip.end) {
        (None, _) => ("never", String::new()),
        (_, ClipEnd::Stay) => ("stay", String::new()),
        (_, ClipEnd::First) => ("first", String::new()),
        (_, ClipEnd::Vanish) => ("vanish", String::new()),
        (_, ClipEnd::Play(next)) => ("next", reel.name(next).to_owned()),
    };
    let about = match clip.is_still {
        true => mode_of(clip),
        false => format!("{} · {}", milliseconds(clip.total), mode_of(clip)),
    };
    let steps = timeline.steps.iter().map(|step| json!([step.hold, step.end.get()]));
    Some(json!({
        "name": name_of(reel, clip), "about": about, "still": clip.is_still,
        "holds": holds?, "times": clip.holds().map(|hold| hold.ticks.get()).collect::<Vec<_>>(),
        "marks": marks, "end": end, "then": then,
        "steps": steps.collect::<Vec<_>>(), "total": timeline.total.get(),
    }))
}

/// Where a frame is in its image, and where it lies about the pivot: `[image, x, y, width, height, left,
/// top, mirrored]`.
fn frame_data(reel: &Reel, clip: &Clip<'_>, frame: FrameId, images: &mut Images) -> Option<Value> {
    let blit = view_of(reel, clip, frame)?.blit([0, 0], 1);
    let (from, image) = (blit.source, images.place(blit.image.index()));
    let mirrored = u8::from(blit.flips.x);
    Some(json!([image, from.x, from.y, from.width, from.height, blit.at[0], blit.at[1], mirrored]))
}
