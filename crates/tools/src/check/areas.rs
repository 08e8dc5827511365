//! Areas that can hit nothing, or more than the frame.

use std::collections::BTreeMap;

use lucky_reel_assets::{Art, SourceFile};
use lucky_reel_core::problem::{Key, Section};
use lucky_reel_core::{AreaId, Flips, FrameId, Rect, View};

use super::Found;
use super::scene::{Panel, Scene};

/// So many frames are named and drawn.
const MAX_FRAMES: usize = 4;

pub(super) fn warnings(art: &Art, file: &SourceFile) -> Vec<Found> {
    let mut found = Vec::new();
    for sheet in file.sheets() {
        let ids = art.reel.frames_of(sheet.id);
        let (mut empty, mut outside) = (ByArea::new(), ByArea::new());
        for view in ids.filter_map(|id| View::of(&art.reel, id, Flips::default())) {
            let (pivot, size) = (view.frame.pivot(), view.frame.size);
            for (area, corners) in view.areas() {
                let [least, most] =
                    corners.map(|corner| [0, 1].map(|axis| corner[axis] + pivot[axis]));
                if least[0] >= most[0] || least[1] >= most[1] {
                    empty.entry(area).or_default().push(view.id);
                } else if (0..2).any(|axis| least[axis] < 0.0 || most[axis] > size[axis] as f32) {
                    outside.entry(area).or_default().push(view.id);
                }
            }
        }
        let fix = "give it a width and a height, or leave the frames out";
        found.extend(tell(art, file, &sheet.name, &empty, ("is empty on", fix)));
        let fix = "keep it within the frame, from [0, 0] to its width and height";
        found.extend(tell(art, file, &sheet.name, &outside, ("reaches outside of", fix)));
    }
    found
}

type ByArea = BTreeMap<AreaId, Vec<FrameId>>;

/// A warning for each area, with a picture of its frames.
fn tell(
    art: &Art,
    file: &SourceFile,
    sheet: &str,
    by_area: &ByArea,
    (what, fix): (&str, &str),
) -> Vec<Found> {
    let warning = |(area, frames): (&AreaId, &Vec<FrameId>)| {
        let name = art.reel.name(*area);
        let numbers = frames.iter().filter_map(|frame| art.reel.frame(*frame)).map(|f| f.index);
        let mut text: Vec<String> = numbers.take(MAX_FRAMES).map(|n| n.to_string()).collect();
        if frames.len() > MAX_FRAMES {
            text.push(format!("{} more", frames.len() - MAX_FRAMES));
        }
        let word = if frames.len() == 1 { "frame" } else { "frames" };
        let message = format!("the area `{name}` {what} {word} {}", text.join(", "));
        let site = (Section::Sheets, sheet, Some(Key::Area(name.to_owned())), None);
        let panels = frames.iter().take(MAX_FRAMES).filter_map(|frame| panel(art, *area, *frame));
        Some((file.warning(site, message, fix)?, Some(Scene::Panels(panels.collect()))))
    };
    by_area.iter().filter_map(warning).collect()
}

/// A frame, and what of the area lies inside its image.
fn panel(art: &Art, area: AreaId, frame: FrameId) -> Option<Panel> {
    let view = View::of(&art.reel, frame, Flips::default())?;
    let (_, [least, most]) = view.areas().find(|(id, _)| *id == area)?;
    let [from, to] = [least, most].map(|corner| {
        [0, 1].map(|axis| {
            let source = [view.frame.source.x, view.frame.source.y][axis] as f32;
            let in_frame = corner[axis] + view.frame.pivot()[axis] - view.frame.shift[axis] as f32;
            let side = art.image(view.frame.image).map_or(0, |image| image.size()[axis]);
            (source + in_frame).round().clamp(0.0, side as f32) as u32
        })
    });
    let mark = Rect::new(from[0], from[1], to[0] - from[0], to[1] - from[1]);
    let label = format!("frame {}", art.reel.frame(frame)?.index);
    Some(Panel {
        image: view.frame.image,
        area: around(view.frame.source, mark),
        label,
        marks: vec![mark],
    })
}

/// The smallest rectangle around both.
fn around(one: Rect, other: Rect) -> Rect {
    let [x, y] = [one.x.min(other.x), one.y.min(other.y)];
    let right = (one.x + one.width).max(other.x + other.width);
    let bottom = (one.y + one.height).max(other.y + other.height);
    Rect::new(x, y, right - x, bottom - y)
}
