//! Frames of clips that look like mistakes.

use lucky_reel_assets::{Art, Pixels, SourceFile};
use lucky_reel_core::problem::{Key, Section};
use lucky_reel_core::{Clip, Frame, ImageId, Rect};

use super::Found;
use super::scene::{Panel, Scene};

/// A frame of a clip with its pixels.
#[derive(Clone, Copy)]
struct Held<'a> {
    hold: usize,
    frame: &'a Frame,
    picture: &'a Pixels,
}

pub(super) fn warnings(art: &Art, clip: &Clip<'_>, role: &SourceFile) -> Vec<Found> {
    let holds = clip.holds().enumerate();
    let held: Vec<Held<'_>> = holds
        .filter_map(|(hold, held)| {
            let frame = art.reel.frame(held.frame)?;
            Some(Held { hold, frame, picture: art.image(frame.image)? })
        })
        .collect();
    let say = |hold: usize, what: String, fix: &str| {
        role.warning((Section::Clips, clip.name, Some(Key::Frames), Some(hold)), what, fix)
    };
    let mut found = Vec::new();
    for held in held.iter().filter(|held| held.picture.is_empty_at(held.frame.source)) {
        let what = format!(
            "nothing is drawn in frame {}, which hold {} shows",
            held.frame.index, held.hold
        );
        let fix = "check the cell size and the frames; they are counted from 0";
        let scene = Scene::Panels(vec![held.whole_image(vec![held.frame.source])]);
        found.extend(say(held.hold, what, fix).map(|warning| (warning, Some(scene))));
    }
    for pair in held.windows(2) {
        if let [one, other] = pair
            && one.is_another_than(other)
            && one.is_like(other)
        {
            let what = format!(
                "frames {} and {} are alike, one after the other",
                one.frame.index, other.frame.index
            );
            let fix = "hold one of them longer instead, or check the frames";
            let scene = Scene::Panels(vec![one.panel(Vec::new()), other.panel(Vec::new())]);
            found.extend(say(other.hold, what, fix).map(|warning| (warning, Some(scene))));
        }
    }
    // Only in a grid does what lies beside a frame belong to it.
    let grids = role.sheets().iter().filter(|sheet| sheet.is_grid);
    let in_grids: Vec<(ImageId, Rect)> = grids
        .flat_map(|sheet| art.reel.frames_of(sheet.id))
        .filter_map(|frame| art.reel.frame(frame))
        .map(|frame| (frame.image, frame.source))
        .collect();
    let is_in_grid = |held: &&Held<'_>| in_grids.contains(&(held.frame.image, held.frame.source));
    if let Some((held, what, mark)) = held.iter().filter(is_in_grid).find_map(Held::cut) {
        let fix = "check the cell size, the margin and the gap of the sheet";
        let scene = Scene::Panels(vec![held.with_neighbors(vec![mark])]);
        found.extend(say(held.hold, what, fix).map(|warning| (warning, Some(scene))));
    }
    if let Some((odd, usual, feet)) = jump(&held) {
        let index = odd.frame.index;
        let (by, way) = ((feet - usual).abs(), if feet < usual { "higher" } else { "lower" });
        let what = format!("frame {index} stands {by} pixels {way} than all others of the clip");
        let fix = "move the drawing in its cell, or give the frame a pivot of its own in `pivots`";
        let around = odd.hold.saturating_sub(1)..=odd.hold + 1;
        let beside = held.iter().filter(|held| around.contains(&held.hold));
        let scene = Scene::Panels(beside.map(|held| held.with_feet(usual)).collect());
        found.extend(say(odd.hold, what, fix).map(|warning| (warning, Some(scene))));
    }
    found
}

impl<'a> Held<'a> {
    fn panel(&self, marks: Vec<Rect>) -> Panel {
        Panel {
            image: self.frame.image,
            area: self.frame.source,
            label: format!("frame {}, hold {}", self.frame.index, self.hold),
            marks,
        }
    }

    /// With some of what lies around it.
    fn with_neighbors(&self, marks: Vec<Rect>) -> Panel {
        let Rect { x, y, width, height, .. } = self.frame.source;
        let (around, size) = ((width.max(height) / 2).max(4), self.picture.size());
        let [left, top] = [x, y].map(|side| side.saturating_sub(around));
        let right = (x + width + around).min(size[0]);
        let bottom = (y + height + around).min(size[1]);
        let area = Rect::new(left, top, right - left, bottom - top);
        let mut marks = marks;
        marks.push(self.frame.source);
        Panel { area, ..self.panel(marks) }
    }

    fn whole_image(&self, marks: Vec<Rect>) -> Panel {
        let [width, height] = self.picture.size();
        Panel { area: Rect::new(0, 0, width, height), ..self.panel(marks) }
    }

    fn is_another_than(&self, other: &Held<'_>) -> bool {
        self.frame.index != other.frame.index || self.frame.image != other.frame.image
    }

    fn is_like(&self, other: &Held<'_>) -> bool {
        let (a, b) = (self.frame.source, other.frame.source);
        let same = |x: u32, y: u32| {
            let one = self.picture.pixel([a.x + x, a.y + y]);
            let other = other.picture.pixel([b.x + x, b.y + y]);
            one == other || one[3] == 0 && other[3] == 0
        };
        (a.width, a.height) == (b.width, b.height)
            && (0..a.height).all(|y| (0..a.width).all(|x| same(x, y)))
    }

    /// Where a figure touches its neighbor at the right or lower border of a frame, or goes on there over
    /// a good part of the border but not all of it: tiles fill their cells, figures do not.
    fn cut(&self) -> Option<(&Held<'a>, String, Rect)> {
        let source = self.frame.source;
        let seen = |x: u32, y: u32| self.picture.pixel([x, y])[3] > 0;
        let (right, below) = (source.x + source.width, source.y + source.height);
        // What reaches from border to border is a tile, which is meant to join.
        let down =
            (source.y..below).map(|y| seen(right - 1, y) && seen(right, y) && !seen(source.x, y));
        let across =
            (source.x..right).map(|x| seen(x, below - 1) && seen(x, below) && !seen(x, source.y));
        let crosses = |over: usize, side: u32| over >= 2 && over < side as usize;
        let sides = [
            (down.filter(|over| *over).count(), source.height, "right"),
            (across.filter(|over| *over).count(), source.width, "lower"),
        ];
        let (over, side, name) = sides.into_iter().find(|(over, side, _)| crosses(*over, *side))?;
        let index = self.frame.index;
        let what = if over * 3 > side as usize {
            format!(
                "the {name} border of frame {index} cuts through a figure: it goes on over {over} of {side} pixels"
            )
        } else {
            format!("frame {index} touches its neighbor over {over} pixels of the {name} border")
        };
        let mark = match name {
            "right" => Rect::new(right - 1, source.y, 2, source.height),
            _ => Rect::new(source.x, below - 1, source.width, 2),
        };
        Some((self, what, mark))
    }

    /// The frame, and the line on which the others stand.
    fn with_feet(&self, usual: i32) -> Panel {
        let source = self.frame.source;
        let line = usual - 1 + self.frame.pivot()[1].floor() as i32 - self.frame.shift[1];
        let line = line.clamp(0, source.height.saturating_sub(1) as i32) as u32;
        self.panel(vec![Rect::new(source.x, source.y + line, source.width, 1)])
    }

    /// The lowest line on which something is drawn, from the pivot down.
    fn feet(&self) -> Option<i32> {
        let source = self.frame.source;
        let bounds = self.picture.opaque_bounds(source)?;
        let bottom = (bounds.y + bounds.height - source.y) as i32 + self.frame.shift[1];
        Some(bottom - self.frame.pivot()[1].floor() as i32)
    }
}

/// The one frame of a clip whose figure stands elsewhere than those of all others, where these stand, and
/// where it stands itself.
fn jump<'h, 'a>(held: &'h [Held<'a>]) -> Option<(&'h Held<'a>, i32, i32)> {
    let mut frames: Vec<&Held<'_>> = Vec::new();
    for held in held {
        if frames.iter().all(|known| known.is_another_than(held)) {
            frames.push(held);
        }
    }
    let feet: Vec<(i32, &Held<'_>)> =
        frames.iter().filter_map(|held| Some((held.feet()?, *held))).collect();
    let mut sorted: Vec<i32> = feet.iter().map(|(feet, _)| *feet).collect();
    sorted.sort_unstable();
    let usual = *sorted.get(sorted.len() / 2).filter(|_| sorted.len() >= 4)?;
    let mut odd = feet.iter().filter(|(feet, _)| (feet - usual).abs() > 1);
    let (feet, held) = *odd.next()?;
    let least = 3.max(held.frame.size[1] as i32 / 12);
    (odd.next().is_none() && (feet - usual).abs() >= least).then_some((held, usual, feet))
}
