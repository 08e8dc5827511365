use std::io::{self, Write};
use std::path::Path;

use lucky_reel::assets::{Limits, Pixmap};
use lucky_reel::{Grid, GridError};
use lucky_reel_tools::measure::{Guess, Measured, measure};
use lucky_reel_tools::{atomic_write, chart};
use serde_json::{Value, json};

use crate::arguments::{ListFormat, Measure};
use crate::failure::Failure;
use crate::files::read_image;

pub(crate) fn run(arguments: &Measure, limits: Limits) -> Result<(), Failure> {
    let (image, colors) = read_image(&arguments.image, limits)?;
    let first = image.frames.into_iter().next().map(|(picture, _)| picture);
    let picture =
        first.ok_or_else(|| Failure::with_fix("the image has no frames", "export it again"))?;
    let mut measured = measure(&picture);
    if let Some(cell) = arguments.cell {
        measured.guesses = vec![try_cell(&picture, cell)?];
    }
    let mut out = io::stdout().lock();
    match arguments.format {
        ListFormat::Table => print(&mut out, &measured, &colors, arguments.cell.is_some())?,
        ListFormat::Json => writeln!(out, "{:#}", as_json(&measured, &colors))?,
    }
    let Some(best) = measured.guesses.first() else {
        return Err(Failure::with_fix("the image has no pixels", "export it again"));
    };
    if let Some(path) = &arguments.to {
        let lined = chart::with_grid_lines(&picture, best.grid()).ok_or_else(|| {
            Failure::with_fix("the drawing would be too large", "try larger cells")
        })?;
        atomic_write::write(path, arguments.force, |file| file.write_all(&lined.to_png()))?;
        eprintln!("written: {}", path.display());
    }
    if let Some(path) = &arguments.draft {
        let text = draft(&arguments.image, path, best)?;
        atomic_write::write(path, arguments.force, |file| file.write_all(text.as_bytes()))?;
        eprintln!("written: {}", path.display());
    }
    Ok(())
}

/// A size that was asked about instead of guessed.
fn try_cell(picture: &Pixmap, cell: [u32; 2]) -> Result<Guess, Failure> {
    let grid = Grid::cell_size(cell);
    let grid_failure = |error: GridError| Failure::with_fix(error.message(), error.fix());
    let [columns, rows] = grid.columns_and_rows(picture.size()).map_err(grid_failure)?;
    let cells = grid.cut(picture.size()).map_err(grid_failure)?;
    let filled = cells.chunks(columns as usize).map(|row| {
        row.iter().rposition(|rect| !picture.is_empty_at(*rect)).map_or(0, |last| last as u32 + 1)
    });
    let (filled, evidence) = (filled.collect(), "as asked".to_owned());
    Ok(Guess { cell, margin: [0, 0], gap: [0, 0], columns, rows, filled, evidence })
}

fn print(out: &mut impl Write, measured: &Measured, colors: &str, asked: bool) -> io::Result<()> {
    let [width, height] = measured.size;
    writeln!(
        out,
        "image    {width} x {height} pixels, {:.0} % transparent; {colors}",
        measured.transparent * 100.0
    )?;
    for (nth, guess) in measured.guesses.iter().enumerate() {
        let name = match (nth, asked, measured.sure) {
            (0, true, _) => "given",
            (0, false, true) => "best",
            (0, false, false) => "unsure",
            _ => "other",
        };
        let [wide, high] = guess.cell;
        let pair = |name: &str, pair: [u32; 2]| match pair {
            [0, 0] => String::new(),
            [x, y] => format!(", {name} {x} x {y}"),
        };
        let (columns, rows) = (guess.columns, guess.rows);
        let (margin, gap) = (pair("margin", guess.margin), pair("gap", guess.gap));
        writeln!(
            out,
            "{name:<8} cells of {wide} x {high}: {}, {}{margin}{gap}; {}",
            counted(columns, "column"),
            counted(rows, "row"),
            guess.evidence
        )?;
        if nth == 0 {
            let filled: Vec<String> = guess.filled.iter().map(ToString::to_string).collect();
            writeln!(
                out,
                "rows     cells up to the last that is not empty: {}",
                filled.join(", ")
            )?;
        }
    }
    Ok(())
}

fn counted(count: u32, what: &str) -> String {
    if count == 1 { format!("1 {what}") } else { format!("{count} {what}s") }
}

fn as_json(measured: &Measured, colors: &str) -> Value {
    let guesses = measured.guesses.iter().map(|guess| {
        json!({
            "cell": guess.cell,
            "margin": guess.margin,
            "gap": guess.gap,
            "columns": guess.columns,
            "rows": guess.rows,
            "filled": guess.filled,
            "evidence": guess.evidence,
        })
    });
    json!({
        "width": measured.size[0],
        "height": measured.size[1],
        "colors": colors,
        "transparent": measured.transparent,
        "sure": measured.sure,
        "guesses": guesses.collect::<Vec<_>>(),
    })
}

/// A reel file to start from: the sheet, and a clip of each row that is not empty.
fn draft(image: &Path, draft: &Path, guess: &Guess) -> Result<String, Failure> {
    let same_folder =
        image.parent().unwrap_or(Path::new("")) == draft.parent().unwrap_or(Path::new(""));
    let name = image.file_name().and_then(|name| name.to_str()).unwrap_or_default();
    if !same_folder || name.is_empty() {
        let what = "the draft must be in the image's folder";
        return Err(Failure::with_fix(
            format!("{}: {what}", draft.display()),
            "write it beside the image: a reel file names images relative to itself",
        ));
    }
    let pair = |name: &str, [x, y]: [u32; 2]| match [x, y] {
        [0, 0] => String::new(),
        [x, y] => format!(", {name} = [{x}, {y}]"),
    };
    let [width, height] = guess.cell;
    let more = pair("margin", guess.margin) + &pair("gap", guess.gap);
    let (columns, rows) = (guess.columns, guess.rows);
    let mut text = format!(
        "# A start: name the clips and set how long their frames stay up.\nreel = 1\n\n[sheets.sheet]\n\
         image = {name:?}\ngrid  = {{ cell = [{width}, {height}]{more} }}   # {columns} columns, {rows} rows\n\
         pivot = \"bottom\"\n\n[defaults]\nfps = 8\n"
    );
    for (row, filled) in guess.filled.iter().enumerate().filter(|(_, filled)| **filled > 0) {
        let last = filled - 1;
        text += &format!("\n[clips.row-{row}]\nrow  = {row}\ntake = \"0 to {last}\"\n");
    }
    if guess.filled.iter().all(|filled| *filled == 0) {
        text += "\n[clips.row-0]\nframes = 0   # this sheet is empty\n";
    }
    Ok(text)
}
