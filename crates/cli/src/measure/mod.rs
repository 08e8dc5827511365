//! `lucky-reel measure`: the cells of a sheet.

#[cfg(feature = "drawings")]
mod drawing;

use std::io::{self, Write};
use std::path::Path;

use lucky_reel::assets::animated::AnimatedImage;
use lucky_reel::assets::{Limits, LoadError};
use lucky_reel::reel::NameError;
use lucky_reel::{Grid, NewSheet, Reel, Ticks};
use lucky_reel_measure::{Background, GridHints, Guess, Measurement, measure_with};
use serde_json::{Value, json};

use crate::arguments::{ListFormat, Measure};
use crate::failure::Failure;
use crate::files::read_image;
use crate::output::Output;
use crate::print;

/// So many guesses are printed where the first is sure, and where it is not.
const WHEN_SURE: usize = 1;
const WHEN_UNSURE: usize = 3;

pub(crate) fn run(arguments: &Measure, limits: Limits) -> Result<(), Failure> {
    let (image, colors) = read_image(&arguments.image, limits)?;
    let output = Output::new(arguments.force).having_read([&arguments.image]);
    if image.frames.len() > 1 {
        return animated(arguments, &image, &colors, &output);
    }
    let first = image.frames.into_iter().next().map(|(picture, _)| picture);
    let picture =
        first.ok_or_else(|| Failure::with_fix("the image has no frames", "export it again"))?;
    let known = GridHints {
        cell: arguments.cell,
        margin: arguments.margin,
        gap: arguments.gap,
        columns: arguments.columns,
        start: arguments.start,
    };
    let measured = measure_with(&picture, known);
    if measured.guesses.is_empty() {
        return Err(no_grid(picture.size(), known));
    }
    let guess = measured.guesses.get(arguments.guess as usize - 1).ok_or_else(|| {
        let count = measured.guesses.len();
        let fix = format!("--guess takes a number from 1 to {count} here");
        Failure::with_fix(format!("there is no guess {}", arguments.guess), fix)
    })?;
    let mut out = io::stdout().lock();
    match arguments.format {
        ListFormat::Table => print_guesses(&mut out, &measured, &colors, arguments)?,
        ListFormat::Json => writeln!(out, "{:#}", as_json(&measured, &colors))?,
    }
    #[cfg(feature = "drawings")]
    let output = match &arguments.to {
        Some(path) => drawing::write(arguments, path, &picture, guess, (output, limits))?,
        None => output,
    };
    #[cfg(not(feature = "drawings"))]
    if arguments.to.is_some() {
        return Err(Failure::lacking("drawings", "drawings"));
    }
    if let Some(path) = &arguments.draft {
        let text = draft(&arguments.image, path, guess, background_color(&measured))?;
        output.write(path, |file| file.write_all(text.as_bytes()))?;
        eprintln!("written: {}", path.display());
    }
    Ok(())
}

/// Why nothing fits what was given.
fn no_grid(size: [u32; 2], known: GridHints) -> Failure {
    if size.contains(&0) {
        return Failure::with_fix("the image has no pixels", "export it again");
    }
    let grid = Grid::cell_size(known.cell.unwrap_or([1, 1]))
        .start(known.start.unwrap_or_default())
        .margin(known.margin.unwrap_or_default())
        .gap(known.gap.unwrap_or_default());
    let grid = known.columns.map_or(grid, |columns| grid.columns(columns));
    let mut builder = Reel::builder();
    builder.sheet("sheet", NewSheet::grid(size, grid));
    let refused = builder.build().err().filter(|_| known.cell.is_some()).map(LoadError::from);
    match refused.as_ref().and_then(|refused| refused.problems().first()) {
        Some(problem) => Failure::with_fix(problem.message(), problem.fix()),
        None => {
            let [width, height] = size;
            let what = format!("no grid on {width} x {height} pixels is as the options say");
            Failure::with_fix(what, "leave one of --cell, --margin, --gap, --columns, --start out")
        }
    }
}

fn print_guesses(
    out: &mut impl Write,
    measured: &Measurement,
    colors: &str,
    arguments: &Measure,
) -> io::Result<()> {
    let [width, height] = measured.size;
    let background = match background_color(measured) {
        Some(color) => format!(", background {color}"),
        None => String::new(),
    };
    writeln!(
        out,
        "image    {width} x {height} pixels, {:.0} % transparent{background}; {colors}",
        measured.transparent * 100.0
    )?;
    let count = if measured.sure { WHEN_SURE } else { WHEN_UNSURE }.max(arguments.guess as usize);
    for (nth, guess) in measured.guesses.iter().enumerate().take(count) {
        let name = match (nth, arguments.cell.is_some(), measured.sure) {
            (0, true, _) => "given".to_owned(),
            (0, false, true) => "best".to_owned(),
            (0, false, false) => "unsure".to_owned(),
            _ => format!("guess {}", nth + 1),
        };
        // What was given is not to be doubted.
        let chance = match name.as_str() {
            "given" => String::new(),
            _ => format!(" ({})", percent(guess.chance)),
        };
        writeln!(out, "{name:<8} {}{chance}", in_words(guess))?;
        // What speaks for it, and what against it.
        for (sign, sentences) in [('+', &guess.reasons), ('-', &guess.doubts)] {
            for sentence in sentences {
                writeln!(out, "         {sign} {sentence}")?;
            }
        }
        if nth + 1 == arguments.guess as usize {
            let filled: Vec<String> = guess.filled.iter().map(ToString::to_string).collect();
            writeln!(out, "         filled cells by row: {}", filled.join(", "))?;
        }
    }
    Ok(())
}

/// The color behind the drawings, where there is one.
fn background_color(measured: &Measurement) -> Option<String> {
    match measured.background {
        Background::Color([r, g, b]) => Some(format!("#{r:02x}{g:02x}{b:02x}")),
        Background::Transparent | Background::None => None,
    }
}

fn in_words(guess: &Guess) -> String {
    let pair = |name: &str, pair: [u32; 2]| match pair {
        [0, 0] => String::new(),
        [x, y] if x == y => format!(", {name} {x}"),
        [x, y] => format!(", {name} {x} x {y}"),
    };
    let [wide, high] = guess.cell;
    format!(
        "cells of {wide} x {high}: {}, {}{}{}{}",
        counted(guess.columns, "column"),
        counted(guess.rows, "row"),
        pair("start", guess.start),
        pair("margin", guess.margin),
        pair("gap", guess.gap)
    )
}

/// Nothing is certain.
fn percent(chance: f64) -> String {
    match (chance * 100.0).round() {
        percent if percent < 1.0 => "under 1 %".to_owned(),
        percent if percent > 99.0 => "over 99 %".to_owned(),
        percent => format!("{percent} %"),
    }
}

fn counted(count: u32, what: &str) -> String {
    if count == 1 { format!("1 {what}") } else { format!("{count} {what}s") }
}

fn as_json(measured: &Measurement, colors: &str) -> Value {
    let guesses = measured.guesses.iter().map(|guess| {
        json!({
            "cell": guess.cell,
            "start": guess.start,
            "margin": guess.margin,
            "gap": guess.gap,
            "columns": guess.columns,
            "rows": guess.rows,
            "left_over": guess.left_over,
            "filled": guess.filled,
            "chance": (guess.chance * 1e4).round() / 1e4,
            "for": guess.reasons,
            "against": guess.doubts,
        })
    });
    json!({
        "width": measured.size[0],
        "height": measured.size[1],
        "colors": colors,
        "transparent": measured.transparent,
        "background": background_color(measured),
        "sure": measured.sure,
        "guesses": guesses.collect::<Vec<_>>(),
    })
}

/// A reel file to start from: the sheet, and a clip of each row that is not empty.
fn draft(
    image: &Path,
    draft: &Path,
    guess: &Guess,
    background: Option<String>,
) -> Result<String, Failure> {
    let file = file_beside(image, draft)?;
    let background = match background {
        Some(color) => format!("transparent = {color:?}   # the color behind the drawings\n"),
        None => String::new(),
    };
    let mut text = format!(
        "# A start: name the clips and set how long their frames stay up.\nreel = 1\n\n[sheets.{}]\n\
         image = {file:?}\ngrid  = {}   # {}, {}\n{background}\
         pivot = \"bottom\"\n\n[defaults]\nfps = 8\n",
        sheet_name(image),
        guess.in_reel_file(),
        counted(guess.columns, "column"),
        counted(guess.rows, "row")
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

/// An animated image has its frames and times in it: there is no grid to measure.
fn animated(
    arguments: &Measure,
    image: &AnimatedImage,
    colors: &str,
    output: &Output,
) -> Result<(), Failure> {
    let grids = [&arguments.cell, &arguments.margin, &arguments.gap, &arguments.start];
    if grids.into_iter().any(Option::is_some)
        || arguments.columns.is_some()
        || arguments.to.is_some()
    {
        let what = format!("{}: an animated image has no grid", arguments.image.display());
        let fix = "leave out what says or draws one; --draft names it as `animated`";
        return Err(Failure::with_fix(what, fix));
    }
    let [width, height] = image.size;
    let count = image.frames.len();
    let time: Ticks = image.frames.iter().map(|(_, time)| time.to_ticks()).sum();
    let plays = image.plays.map_or("forever".to_owned(), |plays| counted(plays, "time"));
    let mut out = io::stdout().lock();
    match arguments.format {
        ListFormat::Table => writeln!(
            out,
            "animated {count} frames of {width} x {height} pixels, {} ms, played {plays}; {colors}",
            print::milliseconds(time)
        )?,
        ListFormat::Json => writeln!(
            out,
            "{:#}",
            json!({
                "width": width,
                "height": height,
                "colors": colors,
                "animated": true,
                "frames": count,
                "ticks": time.get(),
                "plays": image.plays,
            })
        )?,
    }
    if let Some(path) = &arguments.draft {
        let (file, name) = (file_beside(&arguments.image, path)?, sheet_name(&arguments.image));
        let text = format!(
            "# A start: the times and the repeat are those of the image.\nreel = 1\n\n[sheets.{name}]\n\
             animated = {file:?}\npivot    = \"bottom\"\n\n[clips.{name}]\nframes = \"all\"\n"
        );
        output.write(path, |file| file.write_all(text.as_bytes()))?;
        eprintln!("written: {}", path.display());
    }
    Ok(())
}

/// A sheet that is named after its image.
fn sheet_name(image: &Path) -> String {
    let stem = image.file_stem().map(|stem| stem.to_string_lossy().to_lowercase());
    let plain = |c: char| if c.is_alphanumeric() || c == '-' || c == '_' { c } else { '-' };
    let name: String = stem.unwrap_or_default().chars().map(plain).collect();
    if NameError::is_valid(&name) { name } else { format!("sheet-{name}") }
}

/// The name of an image in a reel file beside it.
fn file_beside<'i>(image: &'i Path, draft: &Path) -> Result<&'i str, Failure> {
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
    Ok(name)
}
