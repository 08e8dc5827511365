//! How large the cells of a sheet are: measured from its pixels, and drawn so that people see it.
//!
//! A line between two cells runs through no figure; between two lines there is always something. On a
//! transparent ground that is evidence enough in most cases. Where it is not, the answer is 'not sure'.

use lucky_reel_core::{Grid, Rect};

use lucky_reel_assets::Pixmap;

/// What was measured of a sheet.
#[derive(Clone, Debug)]
pub struct Measured {
    /// Width and height, in pixels.
    pub size: [u32; 2],
    /// The share of pixels that nothing is seen of, from 0 to 1.
    pub transparent: f64,
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
    /// Pixels left free around all cells, across and down.
    pub margin: [u32; 2],
    /// Pixels left free between two cells, across and down.
    pub gap: [u32; 2],
    /// How many cells stand beside one another.
    pub columns: u32,
    /// How many stand below one another.
    pub rows: u32,
    /// For each row, how many cells there are up to the last that is not empty.
    pub filled: Vec<u32>,
    /// What speaks for it, and against it.
    pub evidence: String,
}

impl Guess {
    /// The grid that cuts so.
    #[must_use]
    pub fn grid(&self) -> Grid {
        Grid::cell_size(self.cell).margin(self.margin).gap(self.gap)
    }
}

/// Cells smaller than this are not guessed.
const SMALLEST: u32 = 8;
/// Gaps and margins wider than this are not guessed.
const WIDEST_GAP: u32 = 4;

/// Measures a sheet.
///
/// ```
/// use lucky_reel_assets::Pixmap;
/// use lucky_reel_tools::measure;
///
/// # let path = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/greenhouse/bram.png");
/// let bram = Pixmap::from_png(&std::fs::read(path)?)?;
/// let measured = measure::measure(&bram);
/// assert!(measured.sure);
/// assert_eq!(measured.guesses[0].cell, [32, 32]);
/// assert_eq!(measured.guesses[0].filled, [7, 7, 7, 7]); // the eighth column is empty
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[must_use]
pub fn measure(picture: &Pixmap) -> Measured {
    let [across, down] = [0, 1].map(|axis| Profile::of(picture, axis).divisions());
    let mut guesses = Vec::new();
    // Cells are mostly square: of the best few of each axis, in this order.
    let mut pairs: Vec<(usize, usize)> = (0..across.len().min(4))
        .flat_map(|x| (0..down.len().min(4)).map(move |y| (x, y)))
        .collect();
    let uneven = |x: usize, y: usize| {
        let (wide, high) = (across[x].cell.max(1), down[y].cell.max(1));
        // A strip of one row says nothing of its height by itself.
        let square = wide == high || wide.max(high) <= 2 * wide.min(high);
        // What is left free is mostly the same both ways; one cell alone has no gap.
        let one = across[x].count == 1 || down[y].count == 1;
        let margins = across[x].margin != down[y].margin;
        let gaps = !one && across[x].gap != down[y].gap;
        let differ = f64::from(u8::from(margins) + u8::from(gaps)) * 0.1;
        across[x].doubt + down[y].doubt + differ + f64::from(u8::from(!square))
    };
    pairs.sort_by(|a, b| uneven(a.0, a.1).total_cmp(&uneven(b.0, b.1)));
    for (x, y) in pairs.into_iter().take(5) {
        guesses.push(guess(picture, &across[x], &down[y]));
    }
    let pixels = picture.rgba().chunks_exact(4);
    let unseen = pixels.clone().filter(|pixel| pixel[3] == 0).count();
    let transparent = unseen as f64 / pixels.len().max(1) as f64;
    let sure = transparent > 0.05
        && is_sure(&across)
        && is_sure(&down)
        && across.first().zip(down.first()).is_some_and(|(x, y)| x.count > 1 || y.count > 1)
        && guesses.first().is_some_and(|best| best.cell == [across[0].cell, down[0].cell]);
    Measured { size: picture.size(), transparent, sure, guesses }
}

/// Whether the best division of an axis is better by far than any that is not a multiple of it: where
/// cells fit, two of them taken together always fit, too.
fn is_sure(divisions: &[Division]) -> bool {
    let Some(best) = divisions.first() else { return false };
    let period = best.cell + best.gap;
    let rivals = divisions.iter().filter(|other| (other.cell + other.gap) % period != 0);
    let nearest = rivals.map(|other| other.doubt).min_by(f64::total_cmp);
    best.doubt < 0.5 && nearest.is_none_or(|doubt| doubt - best.doubt > 0.15)
}

/// What is seen along one axis: of each line of pixels across it, and over each border between two.
struct Profile {
    /// How many pixels of each line are seen.
    seen: Vec<u32>,
    /// Over how many pixels a figure goes on from the line before.
    crossing: Vec<u32>,
}

/// One way to divide an axis.
#[derive(Clone, Copy, Debug)]
struct Division {
    cell: u32,
    margin: u32,
    gap: u32,
    count: u32,
    /// Lines between cells, and pixels of figures that they cut through.
    cut: u32,
    /// From 0; the lower the better.
    doubt: f64,
}

impl Profile {
    fn of(picture: &Pixmap, axis: usize) -> Profile {
        let size = picture.size();
        let at = |along: u32, other: u32| {
            let place = if axis == 0 { [along, other] } else { [other, along] };
            picture.pixel(place)[3] > 0
        };
        let lines = 0..size[axis];
        let count =
            |test: &dyn Fn(u32) -> bool| (0..size[1 - axis]).filter(|other| test(*other)).count();
        Profile {
            seen: lines.clone().map(|line| count(&|other| at(line, other)) as u32).collect(),
            crossing: lines
                .map(|line| {
                    let over = |other| line > 0 && at(line - 1, other) && at(line, other);
                    count(&over) as u32
                })
                .collect(),
        }
    }

    /// All divisions that come into question, best first.
    fn divisions(&self) -> Vec<Division> {
        let size = self.seen.len() as u32;
        let mut all = Vec::new();
        for gap in 0..=WIDEST_GAP {
            for margin in 0..=WIDEST_GAP {
                let room = (size + gap).saturating_sub(2 * margin);
                let fits = |cell: &u32| room.is_multiple_of(cell + gap);
                for cell in (SMALLEST.min(size).max(1)..=size).filter(fits) {
                    all.extend(self.division(cell, margin, gap, room / (cell + gap)));
                }
            }
        }
        all.sort_by(|a, b| a.doubt.total_cmp(&b.doubt).then(a.cell.cmp(&b.cell)));
        all
    }

    /// A division, if what it leaves free is free.
    fn division(&self, cell: u32, margin: u32, gap: u32, count: u32) -> Option<Division> {
        let size = self.seen.len() as u32;
        let start = |nth: u32| margin + nth * (cell + gap);
        let free = |from: u32, to: u32| {
            (from..to.min(size))
                .all(|line| self.seen.get(line as usize).is_none_or(|seen| *seen == 0))
        };
        let gaps_free = (1..count).all(|nth| free(start(nth) - gap, start(nth)));
        // A single cell gives no evidence of a margin or a gap.
        let one_with_more = count == 1 && margin + gap > 0;
        if count == 0
            || one_with_more
            || !free(0, margin)
            || !free(size - margin.min(size), size)
            || !gaps_free
        {
            return None;
        }
        let filled: Vec<bool> =
            (0..count).map(|nth| !free(start(nth), start(nth) + cell)).collect();
        let last = filled.iter().rposition(|filled| *filled).map_or(0, |last| last + 1);
        let holes = filled[..last].iter().filter(|filled| !**filled).count();
        let lines =
            (1..count).map(|nth| self.crossing.get(start(nth) as usize).copied().unwrap_or(0));
        let cut: u32 = lines.sum();
        // How much is cut elsewhere, on the average: a line through a figure cuts about so much.
        let usual = f64::from(self.crossing.iter().sum::<u32>()) / f64::from(size.max(1));
        let cut_share = f64::from(cut) / (usual * f64::from(count.max(2) - 1)).max(1e-9);
        let whole = if count == 1 && size > 2 * SMALLEST { 0.2 } else { 0.0 };
        let extra = f64::from(u8::from(gap > 0) + u8::from(margin > 0)) * 0.06;
        // Larger cells fit wherever smaller ones do, so the smaller are the better; and most sizes are
        // whole multiples of 8.
        let large = (f64::from(cell) / f64::from(size)) * 0.2;
        let odd = if cell.is_multiple_of(8) { 0.0 } else { 0.1 };
        let hollow = holes as f64 / f64::from(count);
        let doubt = cut_share.min(1.0) + hollow + whole + extra + large + odd;
        Some(Division { cell, margin, gap, count, cut, doubt })
    }
}

fn guess(picture: &Pixmap, across: &Division, down: &Division) -> Guess {
    let mut guess = Guess {
        cell: [across.cell, down.cell],
        margin: [across.margin, down.margin],
        gap: [across.gap, down.gap],
        columns: across.count,
        rows: down.count,
        filled: Vec::new(),
        evidence: String::new(),
    };
    let cells = guess.grid().cut(picture.size()).unwrap_or_default();
    let empty = |rect: &Rect| picture.is_empty_at(*rect);
    guess.filled = cells
        .chunks(across.count as usize)
        .map(|row| row.iter().rposition(|rect| !empty(rect)).map_or(0, |last| last as u32 + 1))
        .collect();
    let full = cells.iter().filter(|rect| !empty(rect)).count();
    let cut = across.cut + down.cut;
    let lines = match cut {
        0 => "no line between cells cuts through a figure".to_owned(),
        1 => "lines between cells cut through 1 pixel of figures".to_owned(),
        _ => format!("lines between cells cut through {cut} pixels of figures"),
    };
    guess.evidence = format!("{lines}; {full} of {} cells hold something", cells.len());
    guess
}
