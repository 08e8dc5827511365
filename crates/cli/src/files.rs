//! Pictures in, and no file written over by mistake.

use std::io;
use std::path::{Path, PathBuf};

use lucky_reel::assets::Limits;
use lucky_reel::assets::film::Film;
use lucky_reel::assets::picture::PngHeader;

use crate::failure::Failure;

/// A picture of any kind that is read, and what its colours are; a still one has one frame.
pub(crate) fn read_film(path: &Path, limits: Limits) -> Result<(Film, String), Failure> {
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
    let most = limits.picture_bytes;
    if about.len() > most {
        let what = format!("the file is larger than {most} bytes");
        let remedy = "use a smaller one, or raise --most-bytes";
        return Err(Failure::new(format!("{shown}: {what}: {remedy}")));
    }
    let bytes = std::fs::read(path).map_err(unreadable)?;
    let film = Film::from_bytes_within(&bytes, limits);
    let film = film.map_err(|error| Failure::new(format!("{shown}: {error}")))?;
    Ok((film, colours_of(&bytes)))
}

/// The kind of a picture and what its pixels are made of, in words.
fn colours_of(bytes: &[u8]) -> String {
    match (bytes.first(), PngHeader::read(bytes)) {
        (_, Ok(PngHeader { colour, bits: 1, .. })) => format!("PNG: {colour}, 1 bit"),
        (_, Ok(PngHeader { colour, bits, .. })) => format!("PNG: {colour}, {bits} bits"),
        (Some(b'G'), _) => "GIF: palette, 8 bits".to_owned(),
        _ => "WebP: red, green, blue, alpha, 8 bits".to_owned(),
    }
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
