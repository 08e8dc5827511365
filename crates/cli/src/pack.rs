use std::io::Write;
use std::path::PathBuf;

use lucky_reel::ExactTime;
use lucky_reel::assets::packing::{Packing, pack};
use lucky_reel::assets::{Limits, Pixmap};
use lucky_reel_tools::{atomic_write, pack};

use crate::arguments::Gather;
use crate::failure::Failure;
use crate::files::{read_image, refuse_existing};

pub(crate) fn run(arguments: &Gather, limits: Limits) -> Result<(), Failure> {
    let name = arguments.to.file_name().and_then(|name| name.to_str()).unwrap_or_default();
    let plain = |c: char| c.is_alphanumeric() || c == '-' || c == '_';
    if !name.starts_with(char::is_alphabetic) || !name.chars().all(plain) {
        let shown = arguments.to.display();
        let fix = "name it such as art/moth, with letters, digits, - and _";
        return Err(Failure::new(format!("{shown}: this makes no name of a sheet: {fix}")));
    }
    let (mut frames, mut plays): (Vec<(Pixmap, ExactTime)>, _) = (Vec::new(), None);
    for path in &arguments.files {
        let (image, _) = read_image(path, limits)?;
        if image.frames.len() > 1 {
            plays = image.plays;
            frames.extend(image.frames);
        } else {
            frames.extend(image.frames.into_iter().map(|(picture, _)| (picture, arguments.each)));
        }
    }
    if arguments.files.len() > 1 {
        plays = None;
    }
    let (pictures, times): (Vec<Pixmap>, Vec<ExactTime>) = frames.into_iter().unzip();
    let mut packing = Packing::default();
    packing.padding = arguments.padding;
    packing.extend = arguments.extend;
    packing.power_of_two = arguments.power_of_two;
    let packed = pack(&pictures, packing, limits.pixels).map_err(Failure::new)?;

    let with = |ending: &str| PathBuf::from(format!("{}.{ending}", arguments.to.display()));
    let (sheet, reel) = (with("png"), with("reel.toml"));
    refuse_existing([sheet.clone(), reel.clone()], arguments.force)?;
    let text = pack::reel_file(&packed, name, &times, plays);
    atomic_write::write(&sheet, arguments.force, |file| file.write_all(&packed.sheet.to_png()))?;
    atomic_write::write(&reel, arguments.force, |file| file.write_all(text.as_bytes()))?;
    let [width, height] = packed.sheet.size();
    let mut places = packed.places;
    places.sort_unstable_by_key(|place| (place.x, place.y));
    places.dedup();
    eprintln!(
        "gathered: {}, {width} x {height}, {} frames of {} pictures",
        sheet.display(),
        places.len(),
        pictures.len()
    );
    eprintln!("written:  {}", reel.display());
    Ok(())
}
