use std::io::{self, BufWriter, Write};
use std::path::{Path, PathBuf};

#[cfg(feature = "drawings")]
use lucky_reel::assets::Pixels;
use lucky_reel::assets::{Limits, Problem, Severity};
use lucky_reel_tools::{CheckReport, check};
use serde_json::json;

use crate::arguments::{Check, CheckFormat};
use crate::failure::Failure;
use crate::files::loader_of;
#[cfg(feature = "drawings")]
use crate::output::Output;

pub(crate) fn run(arguments: &Check, limits: Limits) -> Result<(), Failure> {
    let checked = check(loader_of(&arguments.reels, limits)?);
    let pictures = match &arguments.to {
        Some(folder) => write_pictures(&checked, folder, arguments.force)?,
        None => Vec::new(),
    };
    let picture = |nth: usize| pictures.get(nth).and_then(Option::as_ref);
    let mut out = BufWriter::new(io::stdout().lock());
    match arguments.format {
        CheckFormat::Text => {
            for (nth, problem) in checked.problems.iter().enumerate() {
                let gap = if nth == 0 { "" } else { "\n" };
                writeln!(out, "{gap}{problem}")?;
                if let Some(path) = picture(nth) {
                    writeln!(out, "  = picture: {}", path.display())?;
                }
            }
        }
        CheckFormat::Json => {
            let all = checked.problems.iter().enumerate();
            let all: Vec<_> = all.map(|(nth, problem)| as_json(problem, picture(nth))).collect();
            writeln!(out, "{:#}", serde_json::Value::Array(all))?;
        }
    }
    out.flush()?;
    let (errors, warnings) = (checked.count(Severity::Error), checked.count(Severity::Warning));
    let summary = format!("{}, {}", counted(errors, "error"), counted(warnings, "warning"));
    if errors > 0 || arguments.strict && warnings > 0 {
        return Err(Failure::new(summary));
    }
    eprintln!("checked: {summary}");
    Ok(())
}

#[cfg(not(feature = "drawings"))]
fn write_pictures(_: &CheckReport, _: &Path, _: bool) -> Result<Vec<Option<PathBuf>>, Failure> {
    Err(Failure::lacking("pictures", "drawings"))
}

/// A picture of each problem of which something is to be seen: its path, by the number of the problem.
#[cfg(feature = "drawings")]
fn write_pictures(
    checked: &CheckReport,
    folder: &Path,
    force: bool,
) -> Result<Vec<Option<PathBuf>>, Failure> {
    let pictures: Vec<Option<(PathBuf, Pixels)>> = (checked.problems.iter().enumerate())
        .map(|(nth, problem)| {
            let name = format!("{:02}-{}.png", nth + 1, file_name_of(problem.key()));
            Some((folder.join(name), checked.picture(nth)?))
        })
        .collect();
    let mut output = Output::new(force);
    output.reserve(pictures.iter().flatten().map(|(path, _)| path))?;
    if pictures.iter().any(Option::is_some) {
        std::fs::create_dir_all(folder).map_err(|error| {
            let what = format!("{}: the folder cannot be made: {error}", folder.display());
            Failure::with_fix(what, "give --to a folder, or a path where none is yet")
        })?;
    }
    let write = |(path, picture): (PathBuf, Pixels)| {
        output.write(&path, |file| file.write_all(&picture.to_png()))?;
        Ok(path)
    };
    pictures.into_iter().map(|picture| picture.map(write).transpose()).collect()
}

/// A key such as `clips.walk.frames` as a part of a file name.
#[cfg(feature = "drawings")]
fn file_name_of(key: &str) -> String {
    key.chars().map(|letter| if letter.is_alphanumeric() { letter } else { '-' }).collect()
}

fn counted(count: usize, what: &str) -> String {
    match count {
        0 => format!("no {what}s"),
        1 => format!("1 {what}"),
        _ => format!("{count} {what}s"),
    }
}

fn as_json(problem: &Problem, picture: Option<&PathBuf>) -> serde_json::Value {
    let severity = match problem.severity() {
        Severity::Error => "error",
        Severity::Warning => "warning",
    };
    json!({
        "severity": severity,
        "file": problem.path().to_string_lossy(),
        "line": problem.line(),
        "column": problem.column(),
        "key": problem.key(),
        "message": problem.message(),
        "fix": problem.fix(),
        "text": problem.line_text(),
        "picture": picture.map(|path| path.to_string_lossy()),
    })
}
