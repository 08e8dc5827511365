//! The command `lucky-reel`: argument parsing, printing, terminals, and nothing else.

#[cfg(feature = "archive")]
mod archive;
mod arguments;
mod cells;
#[cfg(feature = "drawings")]
mod chart;
mod check;
mod clips;
mod convert;
mod demo;
mod explain;
mod failure;
mod files;
mod measure;
mod output;
mod pack;
mod print;
mod progress;
mod render;
mod rows;
mod screen;
mod trace;
mod updates;
#[cfg(feature = "watch")]
mod watch;

use std::process::ExitCode;

use clap::Parser;

use arguments::{Arguments, Command};

fn main() -> ExitCode {
    // Wrong usage ends here, with status 2.
    let arguments = Arguments::parse();
    let limits = arguments.intake.limits();
    let done = match &arguments.command {
        Command::Demo(demo) => demo::run(demo),
        Command::Measure(measure) => measure::run(measure, limits),
        Command::Clips(clips) => clips::run(clips, limits),
        Command::Trace(trace) => trace::run(trace, limits),
        #[cfg(feature = "watch")]
        Command::Watch(watch) => watch::run(watch, limits),
        #[cfg(not(feature = "watch"))]
        Command::Watch(_) => Err(failure::Failure::lacking("live preview", "watch")),
        #[cfg(feature = "drawings")]
        Command::Chart(chart) => chart::run(chart, limits),
        #[cfg(not(feature = "drawings"))]
        Command::Chart(_) => Err(failure::Failure::lacking("charts", "drawings")),
        Command::Render(render) => render::run(render, limits),
        Command::Check(check) => check::run(check, limits),
        #[cfg(feature = "archive")]
        Command::Archive(archive) => archive::run(archive, limits),
        #[cfg(not(feature = "archive"))]
        Command::Archive(_) => Err(failure::Failure::lacking("archives", "archive")),
        Command::Pack(pack) => pack::run(pack, limits),
        Command::Convert(convert) => convert::run(convert),
        Command::Explain(explain) => explain::run(explain, limits),
        Command::Schema => convert::print_schema(),
    };
    match done {
        Ok(()) => ExitCode::SUCCESS,
        Err(failure) => failure.report(),
    }
}
