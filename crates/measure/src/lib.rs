//! How large the cells of a sheet are: measured from its pixels, and said with reasons.
//!
//! Evidence of many kinds is weighed together: see `evidence.rs` for one axis, `pairs.rs` for both, and
//! `weights.rs` for how much each counts.

mod division;
mod evidence;
#[doc(hidden)]
pub mod fit;
mod ink;
mod likeness;
mod lines;
mod pairs;
mod reasons;
mod search;
mod weights;

pub use ink::Background;

use division::{Division, Ending, KnownAxis};
use lucky_reel_assets::Pixels;
use lucky_reel_core::Grid;
use search::{Pair, Search};

/// The first guess is relied upon from this chance on: of 296 real sheets, each judged by weights fitted
/// without its package, 164 were so and right, and one was so and wrong.
const SURE: f64 = 0.97;
/// So many guesses are given.
const MAX_GUESSES: usize = 5;

/// What was measured of a sheet.
#[derive(Clone, Debug)]
pub struct Measurement {
    /// Width and height, in pixels.
    pub size: [u32; 2],
    /// The share of pixels that nothing is seen of, from 0 to 1.
    pub transparent: f64,
    /// What lies behind the drawings.
    pub background: Background,
    /// Whether the first guess can be relied upon.
    pub sure: bool,
    /// Grids that fit, best first; none for a picture without pixels.
    pub guesses: Vec<Guess>,
}

/// A grid that fits a sheet.
#[derive(Clone, Debug, PartialEq)]
pub struct Guess {
    /// Width and height of a cell, in pixels.
    pub cell: [u32; 2],
    /// Where the grid begins, in pixels from the top left.
    pub start: [u32; 2],
    /// Pixels left free around all cells, across and down.
    pub margin: [u32; 2],
    /// Pixels left free between two cells, across and down.
    pub gap: [u32; 2],
    /// How many cells stand beside one another.
    pub columns: u32,
    /// How many stand below one another.
    pub rows: u32,
    /// Pixels left over on the right and at the bottom.
    pub left_over: [u32; 2],
    /// For each row, how many cells there are up to the last that is not empty.
    pub filled: Vec<u32>,
    /// How likely it is the right one, from 0 to 1.
    pub chance: f64,
    /// What speaks for it.
    pub reasons: Vec<String>,
    /// What speaks against it.
    pub doubts: Vec<String>,
}

impl Guess {
    /// The grid that cuts so.
    #[must_use]
    pub fn grid(&self) -> Grid {
        let grid = Grid::cell_size(self.cell).start(self.start).margin(self.margin).gap(self.gap);
        let grid = if self.left_over[0] > 0 { grid.columns(self.columns) } else { grid };
        if self.left_over[1] > 0 { grid.count(self.columns * self.rows) } else { grid }
    }

    /// The same grid as a reel file has it: `{ cell = [32, 32], gap = [2, 2] }`.
    #[must_use]
    pub fn in_reel_file(&self) -> String {
        let [width, height] = self.cell;
        let mut text = format!("{{ cell = [{width}, {height}]");
        for (name, [x, y]) in [("start", self.start), ("margin", self.margin), ("gap", self.gap)] {
            if [x, y] != [0, 0] {
                text += &format!(", {name} = [{x}, {y}]");
            }
        }
        // What is left over is then fine.
        if self.left_over[0] > 0 {
            text += &format!(", columns = {}", self.columns);
        }
        if self.left_over[1] > 0 {
            text += &format!(", count = {}", self.columns * self.rows);
        }
        text + " }"
    }
}

/// What is known of a grid before it is measured; the rest is guessed.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct GridHints {
    /// Width and height of a cell, in pixels.
    pub cell: Option<[u32; 2]>,
    /// Pixels left free around all cells, across and down.
    pub margin: Option<[u32; 2]>,
    /// Pixels left free between two cells, across and down.
    pub gap: Option<[u32; 2]>,
    /// How many cells stand beside one another.
    pub columns: Option<u32>,
    /// Where the grid begins, in pixels from the top left.
    pub start: Option<[u32; 2]>,
}

impl GridHints {
    fn axes(&self) -> [KnownAxis; 2] {
        [0, 1].map(|axis| {
            let of = |pair: Option<[u32; 2]>| pair.map(|pair| pair[axis] as usize);
            let count = self.columns.filter(|_| axis == 0).map(|columns| columns as usize);
            KnownAxis { cell: of(self.cell), margin: of(self.margin), gap: of(self.gap), count }
        })
    }
}

/// Measures a sheet.
///
/// ```
/// use lucky_reel_assets::Pixels;
/// use lucky_reel_measure::measure;
///
/// # let path = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/greenhouse/bram-air.png");
/// let bram = Pixels::from_png(&std::fs::read(path)?)?;
/// let measured = measure(&bram);
/// let best = &measured.guesses[0];
/// assert!(measured.sure);
/// assert_eq!((best.cell, best.columns, best.rows), ([32, 32], 8, 4));
/// println!("{}", best.reasons.join("; ")); // no drawing crosses any of 52 borders; …
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[must_use]
pub fn measure(picture: &Pixels) -> Measurement {
    measure_with(picture, GridHints::default())
}

/// Measures a sheet of which some things are known; no guesses where no grid can be so.
///
/// ```
/// use lucky_reel_assets::Pixels;
/// use lucky_reel_measure::{GridHints, measure_with};
///
/// # let path = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/greenhouse/bram.png");
/// let bram = Pixels::from_png(&std::fs::read(path)?)?;
/// let measured = measure_with(&bram, GridHints { cell: Some([64, 32]), ..GridHints::default() });
/// assert_eq!(measured.guesses[0].columns, 4);
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[must_use]
pub fn measure_with(picture: &Pixels, known: GridHints) -> Measurement {
    let size = picture.size();
    let unseen = picture.rgba().chunks_exact(4).filter(|pixel| pixel[3] == 0).count();
    let transparent = unseen as f64 / (picture.rgba().len() / 4).max(1) as f64;
    let mut measured = Measurement {
        size,
        transparent,
        background: Background::None,
        sure: false,
        guesses: Vec::new(),
    };
    let start = known.start.unwrap_or([0, 0]);
    let rest;
    let looked_at = if start == [0, 0] {
        picture
    } else {
        rest = from(picture, start);
        rest.as_ref().unwrap_or(picture)
    };
    let has_no_cells = known.cell.is_some_and(|cell| cell.contains(&0)) || known.columns == Some(0);
    if has_no_cells || size[0] <= start[0] || size[1] <= start[1] {
        return measured;
    }
    let mut search = Search::of(looked_at, known.axes());
    search.keep_best();
    measured.background = search.background;
    let pairs = search.pairs();
    let guesses = pairs.iter().take(MAX_GUESSES);
    let guesses = guesses.map(|pair| guess(&search, pair, start, known.cell.is_some()));
    measured.guesses = guesses.collect();
    if let (Some(best), Some(next), None) = (pairs.first(), pairs.get(1), known.cell) {
        let same = reasons::same_places(&search.divisions(best), &search.divisions(next));
        measured.guesses[0].doubts.extend(same);
    }
    measured.sure = pairs.first().is_some_and(|pair| is_sure(&search, pair));
    measured
}

/// Which grid fits a picture, in words, for [`Loader::advise_grids`](lucky_reel_assets::Loader::advise_grids);
/// `None` where nothing can be said.
#[must_use]
pub fn advice(picture: &Pixels) -> Option<String> {
    let measured = measure(picture);
    let best = measured.guesses.first().filter(|best| best.chance > 0.5)?;
    let certainty = if measured.sure { "fits" } else { "may fit" };
    Some(format!("by its pixels, {} {certainty}", best.in_reel_file()))
}

/// The part of a picture to the right of a place and below it.
fn from(picture: &Pixels, [left, top]: [u32; 2]) -> Option<Pixels> {
    let [width, height] = picture.size();
    let size = [width.checked_sub(left)?, height.checked_sub(top)?];
    let rows = picture.rgba().chunks_exact(width as usize * 4).skip(top as usize);
    Pixels::from_rgba(size, rows.flat_map(|row| &row[left as usize * 4..]).copied().collect())
}

/// Whether a pair can be relied upon: it is likely by far, and more than one cell holds something.
fn is_sure(search: &Search, pair: &Pair) -> bool {
    let [across, down] = search.divisions(pair);
    let cells = cells_of(&across, &down);
    let cell = [across.cell, down.cell];
    let full = cells.filter(|at| search.drawn.count(*at, cell) > 0);
    pair.chance >= SURE && full.take(2).count() == 2
}

fn cells_of(across: &Division, down: &Division) -> impl Iterator<Item = [usize; 2]> {
    let (across, down) = (*across, *down);
    (0..down.count).flat_map(move |row| {
        (0..across.count).map(move |column| [across.start(column), down.start(row)])
    })
}

fn guess(search: &Search, pair: &Pair, start: [u32; 2], size_is_given: bool) -> Guess {
    let divisions = search.divisions(pair);
    let [across, down] = &divisions;
    let cell = [across.cell, down.cell];
    let both = |of: &dyn Fn(&Division) -> usize| [of(across) as u32, of(down) as u32];
    let is_even = |division: &Division| division.ending == Ending::Even;
    let start_of = both(&|division| if is_even(division) { 0 } else { division.margin });
    let is_empty = |at: &[usize; 2]| search.drawn.count(*at, cell) == 0;
    let cells: Vec<[usize; 2]> = cells_of(across, down).collect();
    let filled = cells.chunks(across.count);
    let filled = filled
        .map(|row| row.iter().rposition(|at| !is_empty(at)).map_or(0, |last| last as u32 + 1));
    let (reasons, doubts) = reasons::reasons(search, pair, size_is_given);
    Guess {
        cell: both(&|division| division.cell),
        start: [start[0] + start_of[0], start[1] + start_of[1]],
        margin: both(&|division| if is_even(division) { division.margin } else { 0 }),
        gap: both(&|division| division.gap),
        columns: across.count as u32,
        rows: down.count as u32,
        left_over: both(&|division| if is_even(division) { 0 } else { division.rest }),
        filled: filled.collect(),
        chance: pair.chance,
        reasons,
        doubts,
    }
}
