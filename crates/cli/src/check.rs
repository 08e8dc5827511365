use std::io::{self, BufWriter, Write};

use lucky_reel::assets::{Limits, Problem, Severity};
use lucky_reel_tools::check;
use serde_json::json;

use crate::arguments::{Check, CheckFormat};
use crate::failure::Failure;
use crate::files::loader;

pub(crate) fn run(arguments: &Check, limits: Limits) -> Result<(), Failure> {
    let files = arguments.reels.iter();
    let problems = check(files.fold(loader(limits), |loader, path| loader.file(path)));
    let mut out = BufWriter::new(io::stdout().lock());
    match arguments.format {
        CheckFormat::Text => {
            for (nth, problem) in problems.iter().enumerate() {
                let gap = if nth == 0 { "" } else { "\n" };
                writeln!(out, "{gap}{problem}")?;
            }
        }
        CheckFormat::Json => {
            let all: Vec<_> = problems.iter().map(as_json).collect();
            writeln!(out, "{:#}", serde_json::Value::Array(all))?;
        }
    }
    out.flush()?;
    let count = |severity| problems.iter().filter(|problem| problem.severity() == severity).count();
    let (errors, warnings) = (count(Severity::Error), count(Severity::Warning));
    let summary = format!("{}, {}", counted(errors, "error"), counted(warnings, "warning"));
    if errors > 0 || arguments.strict && warnings > 0 {
        return Err(Failure::new(summary));
    }
    eprintln!("checked: {summary}");
    Ok(())
}

fn counted(count: usize, what: &str) -> String {
    match count {
        0 => format!("no {what}s"),
        1 => format!("1 {what}"),
        _ => format!("{count} {what}s"),
    }
}

fn as_json(problem: &Problem) -> serde_json::Value {
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
    })
}
