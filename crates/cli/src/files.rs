//! Files in: reel files and images.

use std::io;
use std::path::Path;

#[cfg(feature = "archive")]
use lucky_reel::assets::Archive;
use lucky_reel::assets::PngHeader;
use lucky_reel::assets::animated::AnimatedImage;
use lucky_reel::assets::{Limits, Loader};
use lucky_reel_measure as measure;

use crate::failure::Failure;

/// A loader that measures images whose grid does not fit.
pub(crate) fn loader(limits: Limits) -> Loader<'static> {
    Loader::new().limits(limits).advise_grids(measure::advice)
}

/// A loader of reel files, and of those in archives.
pub(crate) fn loader_of<P: AsRef<Path>>(
    paths: impl IntoIterator<Item = P>,
    limits: Limits,
) -> Result<Loader<'static>, Failure> {
    paths.into_iter().try_fold(loader(limits), |loader, path| {
        let path = path.as_ref();
        if !path.extension().is_some_and(|ending| ending.eq_ignore_ascii_case("zip")) {
            return Ok(loader.file(path));
        }
        #[cfg(not(feature = "archive"))]
        return Err(Failure::lacking("archives", "archive"));
        #[cfg(feature = "archive")]
        {
            let bytes = std::fs::read(path).map_err(|error| {
                let what = format!("{}: the archive cannot be read: {error}", path.display());
                Failure::with_fix(what, "check the path")
            })?;
            let opened = Archive::open_within(bytes, limits).map_err(|error| {
                let problem = error.problems().first();
                let [what, entry, fix] = problem.map_or_else(Default::default, |problem| {
                    let entry = problem.path().display().to_string();
                    [problem.message().to_owned(), entry, problem.fix().to_owned()]
                });
                let entry = if entry.is_empty() { entry } else { format!("`{entry}`: ") };
                Failure::with_fix(format!("{}: {entry}{what}", path.display()), fix)
            });
            Ok(loader.files(opened?))
        }
    })
}

/// Whether an argument is a reel file, and not the name of a clip: names have no dots.
#[cfg(feature = "drawings")]
pub(crate) fn is_reel_file(argument: &str) -> bool {
    argument.contains('.')
}

/// Whether a path is that of a reel file, by its name.
pub(crate) fn has_reel_name(path: &Path) -> bool {
    let name = path.file_name().unwrap_or_default().to_string_lossy();
    name.ends_with(".reel.toml") || name.ends_with(".reel.json")
}

/// A picture of any kind that is read, and what its colors are; a still one has one frame.
pub(crate) fn read_image(path: &Path, limits: Limits) -> Result<(AnimatedImage, String), Failure> {
    let shown = path.display();
    let unreadable = |error: io::Error| {
        Failure::with_fix(format!("{shown}: the image cannot be read: {error}"), "check the path")
    };
    let about = std::fs::metadata(path).map_err(unreadable)?;
    if !about.is_file() {
        return Err(Failure::with_fix(
            format!("{shown}: not a regular file"),
            "give the path of a file",
        ));
    }
    let most = limits.picture_bytes;
    if about.len() > most {
        let what = format!("the file is larger than {most} bytes");
        let fix = "use a smaller one, or raise --max-bytes";
        return Err(Failure::with_fix(format!("{shown}: {what}"), fix));
    }
    let bytes = std::fs::read(path).map_err(unreadable)?;
    let image = AnimatedImage::from_bytes_within(&bytes, limits);
    let image = image
        .map_err(|error| Failure::with_fix(format!("{shown}: {}", error.message()), error.fix()))?;
    if let Some(missing) = &image.missing {
        eprintln!("warning: {shown}: {missing}\n  fix: export it again");
    }
    Ok((image, colors_of(&bytes)))
}

/// The kind of a picture and what its pixels are made of, in words.
fn colors_of(bytes: &[u8]) -> String {
    match (bytes.first(), PngHeader::read(bytes)) {
        (_, Ok(PngHeader { color, bits: 1, .. })) => format!("PNG: {color}, 1 bit"),
        (_, Ok(PngHeader { color, bits, .. })) => format!("PNG: {color}, {bits} bits"),
        (Some(b'G'), _) => "GIF: palette, 8 bits".to_owned(),
        _ => "WebP: red, green, blue, alpha, 8 bits".to_owned(),
    }
}
