//! What loads, and is likely a mistake.

mod cues;

use lucky_reel_assets::{Art, Loader, Pixmap, Problem, SourceFile, Sources};
use lucky_reel_core::problem::{Key, Section};
use lucky_reel_core::{Clip, Frame, Rect, Ticks};

/// Displays that people have, in frames a second.
const DISPLAYS: [u32; 10] = [50, 60, 72, 75, 90, 100, 120, 144, 165, 240];

/// Everything that is wrong with the files of a loader, and, where they load, what is perhaps not
/// meant so: frames in which nothing is drawn or that repeat their neighbor, grids that cut through
/// figures, times that no common display can show evenly.
///
/// ```
/// use lucky_reel_assets::Loader;
///
/// # let folder = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/greenhouse");
/// let bram = Loader::new().file(format!("{folder}/bram.reel.toml"));
/// assert!(lucky_reel_tools::check(bram).is_empty());
/// ```
#[must_use]
pub fn check(loader: Loader<'_>) -> Vec<Problem> {
    match loader.load_with_sources() {
        Ok((art, sources)) => warnings(&art, &sources),
        Err(error) => error.problems().to_vec(),
    }
}

fn warnings(art: &Art, sources: &Sources) -> Vec<Problem> {
    let mut warnings: Vec<Problem> = sources.warnings().cloned().collect();
    for clip in art.reel.clips() {
        let role = art.reel.clip_role(clip.id());
        let Some(role) = sources.of_role(role) else { continue };
        let found = empty_frames(art, &clip, role)
            .into_iter()
            .chain(repeated_frames(art, &clip, role))
            .chain(cut_figures(art, &clip, role))
            .chain(uneven_times(&clip, role));
        for warning in found {
            // Clips that one entry makes share its words.
            if !warnings.iter().any(|known| warning.is_like(known)) {
                warnings.push(warning);
            }
        }
    }
    for warning in cues::warnings(&art.reel, sources) {
        if !warnings.iter().any(|known| warning.is_like(known)) {
            warnings.push(warning);
        }
    }
    warnings
}

/// The frames of a clip with their pictures, hold by hold.
fn frames<'a>(
    art: &'a Art,
    clip: &Clip<'a>,
) -> impl Iterator<Item = (usize, &'a Frame, &'a Pixmap)> {
    let frames = clip.holds().enumerate();
    frames.filter_map(|(hold, held)| {
        let frame = art.reel.frame(held.frame)?;
        Some((hold, frame, art.image(frame.image())?))
    })
}

fn empty_frames(art: &Art, clip: &Clip<'_>, role: &SourceFile) -> Vec<Problem> {
    let empty = frames(art, clip).filter(|(_, frame, picture)| picture.is_empty_at(frame.source()));
    let warnings = empty.filter_map(|(hold, frame, _)| {
        let what = format!("nothing is drawn in frame {}, which hold {hold} shows", frame.index());
        let fix = "check the cell size and the frames; they are counted from 0";
        role.warning((Section::Clips, clip.name(), Some(Key::Frames), Some(hold)), what, fix)
    });
    warnings.collect()
}

fn repeated_frames(art: &Art, clip: &Clip<'_>, role: &SourceFile) -> Vec<Problem> {
    let frames: Vec<_> = frames(art, clip).collect();
    let warnings = frames.windows(2).filter_map(|pair| {
        let [(_, one, picture), (hold, other, other_picture)] = pair else { return None };
        let differ = one.index() != other.index() || one.image() != other.image();
        if !differ || !alike((one.source(), picture), (other.source(), other_picture)) {
            return None;
        }
        let what =
            format!("frames {} and {} are alike, one after the other", one.index(), other.index());
        let fix = "hold one of them longer instead, or check the frames";
        role.warning((Section::Clips, clip.name(), Some(Key::Frames), Some(*hold)), what, fix)
    });
    warnings.collect()
}

fn alike((a, picture_a): (Rect, &Pixmap), (b, picture_b): (Rect, &Pixmap)) -> bool {
    let same = |x: u32, y: u32| {
        let one = picture_a.pixel([a.x + x, a.y + y]);
        let other = picture_b.pixel([b.x + x, b.y + y]);
        one == other || one[3] == 0 && other[3] == 0
    };
    (a.width, a.height) == (b.width, b.height)
        && (0..a.height).all(|y| (0..a.width).all(|x| same(x, y)))
}

/// Where a figure touches its neighbor at the right or lower border of a frame, or goes on there over
/// a good part of the border but not all of it: tiles fill their cells, figures do not.
fn cut_figures(art: &Art, clip: &Clip<'_>, role: &SourceFile) -> Option<Problem> {
    let cut = frames(art, clip).find_map(|(hold, frame, picture)| {
        let source = frame.source();
        let seen = |x: u32, y: u32| picture.pixel([x, y])[3] > 0;
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
        Some((hold, frame.index(), over, side, name))
    });
    let (hold, index, over, side, name) = cut?;
    let what = if over * 3 > side as usize {
        format!(
            "the {name} border of frame {index} cuts through a figure: it goes on over {over} of {side} pixels"
        )
    } else {
        format!("frame {index} touches its neighbor over {over} pixels of the {name} border")
    };
    let fix = "check the cell size, the margin and the gap of the sheet";
    role.warning((Section::Clips, clip.name(), Some(Key::Frames), Some(hold)), what, fix)
}

fn uneven_times(clip: &Clip<'_>, role: &SourceFile) -> Option<Problem> {
    let even = |rate: &u32| {
        let frame = Ticks::from_rate(*rate).get();
        clip.holds().all(|hold| hold.ticks.get() % frame == 0)
    };
    if DISPLAYS.iter().any(even) {
        return None;
    }
    let what =
        "no common display can show these times evenly: some frames will stay a little longer";
    let fix = "use times that 60, 75, 100 or 144 frames a second can show, such as 1/12s or 120ms";
    role.warning((Section::Clips, clip.name(), Some(Key::Each), None), what.to_owned(), fix)
}
