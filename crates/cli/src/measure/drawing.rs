//! The sheet with the lines of a guess.

use std::io::Write;
use std::path::Path;

use lucky_reel::assets::{Art, Limits, Pixels};
use lucky_reel::{Flips, View, id::ImageId};
use lucky_reel_measure::Guess;
use lucky_reel_tools::chart;

use crate::arguments::Measure;
use crate::failure::Failure;
use crate::files::loader;
use crate::output::Output;

/// Writes the sheet with the lines of a guess, and with what a reel file cuts from it.
pub(super) fn write(
    arguments: &Measure,
    path: &Path,
    picture: &Pixels,
    guess: &Guess,
    (output, limits): (Output, Limits),
) -> Result<Output, Failure> {
    let art = arguments.reel.as_ref().map(|reel| loader(limits).file(reel).load());
    let art = art.transpose()?;
    let output = output.having_read(art.iter().flat_map(|art| &art.files));
    let views = art.iter().flat_map(|art| views_of(art, picture)).collect::<Vec<_>>();
    if let Some(reel) = arguments.reel.as_ref().filter(|_| views.is_empty()) {
        return Err(no_frames(&arguments.image, reel));
    }
    let lined = chart::with_grid_lines(picture, guess.grid(), &views)
        .ok_or_else(|| Failure::with_fix("the drawing would be too large", "try larger cells"))?;
    output.write(path, |file| file.write_all(&lined.to_png()))?;
    eprintln!("written: {}", path.display());
    Ok(output)
}

/// The frames that are cut from a picture.
fn views_of<'a>(art: &'a Art, picture: &Pixels) -> Vec<View<'a>> {
    let is_it = |image: ImageId| art.image(image) == Some(picture);
    let images: Vec<ImageId> =
        art.reel.images().map(|(id, _)| id).filter(|id| is_it(*id)).collect();
    let frames = art.reel.frames();
    let views = frames.filter_map(|(frame, _)| View::of(&art.reel, frame, Flips::default()));
    views.filter(|view| images.contains(&view.frame.image)).collect()
}

fn no_frames(image: &Path, reel: &Path) -> Failure {
    Failure::with_fix(
        format!("{}: no frame is cut from {}", reel.display(), image.display()),
        "name a reel file whose sheets show this image as it is",
    )
}
