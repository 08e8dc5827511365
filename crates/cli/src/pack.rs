use std::io::Write;
use std::path::PathBuf;

use lucky_reel::assets::packing::{Packing, pack};
use lucky_reel::assets::{Limits, Pixmap, natural_order};
use lucky_reel::problem::BadName;
use lucky_reel_tools::atomic_write;
use lucky_reel_tools::pack::{Source, reel_file};

use crate::arguments::Pack;
use crate::failure::Failure;
use crate::files::{read_image, refuse_existing};

pub(crate) fn run(arguments: &Pack, limits: Limits) -> Result<(), Failure> {
    let name = arguments.to.file_name().and_then(|name| name.to_str()).unwrap_or_default();
    if BadName::of(name).is_some() {
        let shown = arguments.to.display();
        let fix = "name it such as art/moth, with letters, digits, - and _ (`all` is reserved)";
        return Err(Failure::with_fix(format!("{shown}: not a valid sheet name"), fix));
    }
    let with = |extension: &str| PathBuf::from(format!("{}.{extension}", arguments.to.display()));
    let (sheet, reel) = (with("png"), with("reel.toml"));
    refuse_existing([sheet.clone(), reel.clone()], arguments.force)?;

    // Shells sort by bytes: puff-10 before puff-2.
    let mut files = arguments.files.clone();
    files.sort_by(|one, other| natural_order(&one.to_string_lossy(), &other.to_string_lossy()));
    let (mut images, mut sources): (Vec<Pixmap>, Vec<Source>) = (Vec::new(), Vec::new());
    for path in &files {
        let (image, _) = read_image(path, limits)?;
        let name = path.file_stem().map(|stem| stem.to_string_lossy().into_owned());
        let is_animated = image.frames.len() > 1;
        let (frames, times): (Vec<Pixmap>, Vec<_>) = image.frames.into_iter().unzip();
        images.extend(frames);
        sources.push(Source {
            name: name.unwrap_or_default(),
            times: if is_animated { times } else { vec![arguments.each] },
            plays: image.plays.filter(|_| is_animated),
        });
    }
    let mut packing = Packing::default();
    packing.padding = arguments.padding;
    packing.extrude = arguments.extrude;
    packing.power_of_two = arguments.power_of_two;
    let packed = pack(&images, packing, limits.pixels).map_err(Failure::new)?;

    if let Some(folder) = arguments.to.parent().filter(|folder| !folder.as_os_str().is_empty()) {
        let failed = |error| {
            let shown = folder.display();
            Failure::with_fix(
                format!("{shown}: cannot create the folder: {error}"),
                "name another one",
            )
        };
        std::fs::create_dir_all(folder).map_err(failed)?;
    }
    let text = reel_file(&packed, name, &sources);
    atomic_write::write(&sheet, arguments.force, |file| file.write_all(&packed.sheet.to_png()))?;
    atomic_write::write(&reel, arguments.force, |file| file.write_all(text.as_bytes()))?;
    let [width, height] = packed.sheet.size();
    let mut places = packed.places;
    places.sort_unstable_by_key(|place| (place.x, place.y));
    places.dedup();
    eprintln!(
        "packed:  {}, {width} x {height}, {} regions of {} images",
        sheet.display(),
        places.len(),
        images.len()
    );
    eprintln!("written: {}", reel.display());
    Ok(())
}
