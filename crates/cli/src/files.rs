//! Pictures in, and no file written over by mistake.

use std::io;
use std::path::{Path, PathBuf};

use lucky_reel::assets::film::Film;

use crate::failure::Failure;

/// The largest picture that is read, in bytes.
const LARGEST: u64 = 256 << 20;

/// A picture of any kind that is read; a still one has one frame.
pub(crate) fn read_film(path: &Path) -> Result<Film, Failure> {
    let shown = path.display();
    let unreadable = |error: io::Error| {
        Failure::new(format!("{shown}: the picture can not be read: {error}: check the path"))
    };
    let about = std::fs::metadata(path).map_err(unreadable)?;
    if !about.is_file() {
        return Err(Failure::new(format!(
            "{shown}: this is no plain file: give the path of a file"
        )));
    }
    if about.len() > LARGEST {
        let what = format!("the file is larger than {LARGEST} bytes");
        return Err(Failure::new(format!("{shown}: {what}: use a smaller one")));
    }
    let bytes = std::fs::read(path).map_err(unreadable)?;
    Film::from_bytes(&bytes).map_err(|error| Failure::new(format!("{shown}: {error}")))
}

/// Refuses to begin when one of several files that belong together is there already.
pub(crate) fn refuse_existing(
    paths: impl IntoIterator<Item = PathBuf>,
    force: bool,
) -> Result<(), Failure> {
    let there = paths.into_iter().find(|path| !force && path.exists());
    match there {
        None => Ok(()),
        Some(path) => Err(Failure::new(format!(
            "{}: there is such a file already: give --force to write over it",
            path.display()
        ))),
    }
}
