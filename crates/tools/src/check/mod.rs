//! What loads, and is likely a mistake.

mod areas;
mod cues;
mod frames;
mod looks;
mod rows;
mod scene;
mod sheets;

#[cfg(feature = "drawings")]
use lucky_reel_assets::Pixels;
use lucky_reel_assets::{Art, Loader, Problem, Severity, SourceFile, Sources};
use lucky_reel_core::problem::{Key, Section};
use lucky_reel_core::{Clip, Ticks};

use scene::Scene;

/// Displays that people have, in frames a second.
const DISPLAYS: [u32; 10] = [50, 60, 72, 75, 90, 100, 120, 144, 165, 240];

/// What was found in reel files.
#[derive(Debug)]
pub struct CheckReport {
    /// Errors; or, where the files load, warnings.
    pub problems: Vec<Problem>,
    /// What there is to be seen of each.
    #[cfg_attr(not(feature = "drawings"), allow(dead_code))]
    scenes: Vec<Option<Scene>>,
    #[cfg_attr(not(feature = "drawings"), allow(dead_code))]
    art: Option<Art>,
}

impl CheckReport {
    /// A drawing of what a problem is about, by its number; `None` where there is nothing to be seen.
    #[cfg(feature = "drawings")]
    #[must_use]
    pub fn picture(&self, problem: usize) -> Option<Pixels> {
        self.scenes.get(problem)?.as_ref()?.draw(self.art.as_ref()?)
    }

    /// How many problems are this severe.
    #[must_use]
    pub fn count(&self, severity: Severity) -> usize {
        self.problems.iter().filter(|problem| problem.severity() == severity).count()
    }
}

/// A warning, and what there is to be seen of it.
type Found = (Problem, Option<Scene>);

/// Everything that is wrong with the files of a loader, and, where they load, likely mistakes.
///
/// Of the art: frames in which nothing is drawn, that repeat their neighbor, are cut at their cell's edge
/// or jump against their neighbors; drawings outside all cells, half-transparent edges on hard art, colors
/// that nearly are the transparent one, damaged images. Areas that are empty or reach outside their frame.
/// Of times: such as no common display shows evenly.
/// Of looks: colors that occur nowhere, or nearly.
/// Of rows: names that look like misspelled facings.
/// Of cues: those that never win, unused facts and clips, facing sets with gaps, and more.
///
/// ```
/// use lucky_reel_assets::Loader;
///
/// # let folder = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/greenhouse");
/// let bram = Loader::new().file(format!("{folder}/bram.reel.toml"));
/// assert!(lucky_reel_tools::check(bram).problems.is_empty());
/// ```
#[must_use]
pub fn check(loader: Loader<'_>) -> CheckReport {
    match loader.load_with_sources() {
        Ok((art, sources)) => {
            let (problems, scenes) = warnings(&art, &sources).into_iter().unzip();
            CheckReport { problems, scenes, art: Some(art) }
        }
        Err(error) => {
            CheckReport { problems: error.problems().to_vec(), scenes: Vec::new(), art: None }
        }
    }
}

fn warnings(art: &Art, sources: &Sources) -> Vec<Found> {
    let mut found: Vec<Found> = sources.warnings().map(|warning| (warning.clone(), None)).collect();
    for file in sources.files() {
        found.extend(sheets::warnings(art, file));
        found.extend(areas::warnings(art, file));
        found.extend(looks::warnings(art, file).into_iter().map(|warning| (warning, None)));
        found.extend(rows::warnings(file).into_iter().map(|warning| (warning, None)));
    }
    for clip in art.reel.clips() {
        let role = art.reel.role_name(clip.id);
        if let Some(role) = sources.of_role(role) {
            found.extend(frames::warnings(art, &clip, role));
            found.extend(uneven_times(&clip, role));
        }
    }
    found.extend(cues::warnings(&art.reel, sources).into_iter().map(|warning| (warning, None)));
    // Clips that one entry makes share its words.
    let mut warnings: Vec<Found> = Vec::new();
    for (warning, scene) in found {
        if !warnings.iter().any(|(known, _)| warning.is_like(known)) {
            warnings.push((warning, scene));
        }
    }
    warnings
}

fn uneven_times(clip: &Clip<'_>, role: &SourceFile) -> Option<Found> {
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
    let site = (Section::Clips, clip.name, Some(Key::Each), None);
    Some((role.warning(site, what.to_owned(), fix)?, Some(Scene::Clip(clip.id))))
}
