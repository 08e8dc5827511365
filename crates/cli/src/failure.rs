use std::fmt::Display;
use std::io;
use std::process::ExitCode;

/// Why a command did not do what it was told; the message is whole.
pub(crate) enum Failure {
    Message(String),
    /// Whoever read the output has had enough of it.
    NobodyListens,
}

impl Failure {
    pub(crate) fn new(message: impl Display) -> Failure {
        Failure::Message(message.to_string())
    }

    /// Prints it and gives the exit status.
    pub(crate) fn report(self) -> ExitCode {
        match self {
            Failure::Message(message) => {
                eprintln!("lucky-reel: {message}");
                ExitCode::FAILURE
            }
            Failure::NobodyListens => ExitCode::SUCCESS,
        }
    }
}

impl From<lucky_reel::assets::LoadError> for Failure {
    fn from(error: lucky_reel::assets::LoadError) -> Failure {
        Failure::new(error)
    }
}

impl From<lucky_reel::NameError> for Failure {
    fn from(error: lucky_reel::NameError) -> Failure {
        Failure::new(error)
    }
}

impl From<io::Error> for Failure {
    fn from(error: io::Error) -> Failure {
        match error.kind() {
            io::ErrorKind::BrokenPipe => Failure::NobodyListens,
            _ => Failure::new(format!("the output can not be written: {error}")),
        }
    }
}

impl From<lucky_reel_tools::whole_file::WriteError> for Failure {
    fn from(error: lucky_reel_tools::whole_file::WriteError) -> Failure {
        if error.is_there_already() {
            return Failure::new(format!("{error}: give --force to write over it"));
        }
        Failure::new(error)
    }
}
