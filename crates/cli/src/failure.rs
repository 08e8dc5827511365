use std::fmt::Display;
use std::io;
#[cfg(feature = "report")]
use std::io::IsTerminal;
use std::process::ExitCode;

use lucky_reel::assets::{Fault, LoadError, Problem, printable};

/// Why a command failed; the message is complete.
pub(crate) enum Failure {
    Message(String),
    /// What is wrong with reel files and scripts.
    Problems(LoadError),
    /// The reader of the output closed it.
    ClosedPipe,
}

impl Failure {
    pub(crate) fn new(message: impl Display) -> Failure {
        Failure::Message(message.to_string())
    }

    /// What is wrong, and what to do about it.
    pub(crate) fn with_fix(what: impl Display, fix: impl Display) -> Failure {
        Failure::Message(format!("{what}\n  fix: {fix}"))
    }

    /// Something that was not built in: the feature that has it, and how to get all of them.
    #[cfg(not(all(
        feature = "archive",
        feature = "drawings",
        feature = "gif",
        feature = "watch"
    )))]
    pub(crate) fn lacking(what: &str, feature: &str) -> Failure {
        let fix = format!(
            "build with `--features {feature}`, or install everything: cargo install --path crates/cli --features full"
        );
        Failure::with_fix(format!("this build has no {what}"), fix)
    }

    /// Prints it and gives the exit status.
    pub(crate) fn report(self) -> ExitCode {
        match self {
            Failure::Message(message) => {
                let lines: Vec<String> = message.lines().map(printable).collect();
                eprintln!("lucky-reel: {}", lines.join("\n"));
                ExitCode::FAILURE
            }
            Failure::Problems(error) => {
                let reports: Vec<String> = error.problems().iter().map(report).collect();
                eprintln!("{}", reports.join("\n\n"));
                ExitCode::FAILURE
            }
            Failure::ClosedPipe => ExitCode::SUCCESS,
        }
    }
}

/// A problem as people read it.
#[cfg(not(feature = "report"))]
fn report(problem: &Problem) -> String {
    problem.to_string()
}

/// A problem as people read it: in color where a terminal shows it.
#[cfg(feature = "report")]
fn report(problem: &Problem) -> String {
    let terminal =
        io::stderr().is_terminal() && std::env::var_os("NO_COLOR").is_none_or(|no| no.is_empty());
    match terminal {
        true => problem.in_color(terminal_columns()),
        false => problem.to_string(),
    }
}

#[cfg(feature = "report")]
fn terminal_columns() -> usize {
    crossterm::terminal::size().map_or(100, |(columns, _)| usize::from(columns).max(40))
}

impl From<Fault> for Failure {
    fn from(fault: Fault) -> Failure {
        Failure::Message(fault.to_string())
    }
}

impl From<LoadError> for Failure {
    fn from(error: LoadError) -> Failure {
        Failure::Problems(error)
    }
}

impl From<lucky_reel::reel::NameError> for Failure {
    fn from(error: lucky_reel::reel::NameError) -> Failure {
        Failure::new(error)
    }
}

impl From<io::Error> for Failure {
    fn from(error: io::Error) -> Failure {
        match error.kind() {
            io::ErrorKind::BrokenPipe => Failure::ClosedPipe,
            _ => Failure::new(format!("the output cannot be written: {error}")),
        }
    }
}

impl From<lucky_reel_tools::atomic_write::WriteError> for Failure {
    fn from(error: lucky_reel_tools::atomic_write::WriteError) -> Failure {
        if error.already_exists() {
            return Failure::with_fix(error, "add --force to overwrite it");
        }
        Failure::new(error)
    }
}
