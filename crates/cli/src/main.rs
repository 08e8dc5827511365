//! The command `lucky-reel`: argument parsing, printing, terminals, and nothing else.

mod arguments;
mod check;
mod clips;
mod demo;
mod draw;
mod failure;
mod files;
mod gather;
mod measure;
mod print;
mod render;
mod trace;

use std::process::ExitCode;

use clap::Parser;

use arguments::{Arguments, Command};

fn main() -> ExitCode {
    // Wrong usage ends here, with status 2.
    let arguments = Arguments::parse();
    let done = match &arguments.command {
        Command::Demo(demo) => demo::run(demo),
        Command::Measure(measure) => measure::run(measure),
        Command::Clips(clips) => clips::run(clips),
        Command::Trace(trace) => trace::run(trace),
        Command::Draw(draw) => draw::run(draw),
        Command::Render(render) => render::run(render),
        Command::Check(check) => check::run(check),
        Command::Gather(gather) => gather::run(gather),
    };
    match done {
        Ok(()) => ExitCode::SUCCESS,
        Err(failure) => failure.report(),
    }
}
