use std::io::Write;
use std::path::{Path, PathBuf};

use lucky_reel::assets::packing::{Packing, pack};
use lucky_reel::assets::{Limits, Pixels, natural_order};
use lucky_reel::reel::NameError;
use lucky_reel_tools::pack::{SourceImage, reel_file, reels};

use crate::arguments::Pack;
use crate::failure::Failure;
use crate::files::{has_reel_name, loader, read_image};
use crate::output::Output;

pub(crate) fn run(arguments: &Pack, limits: Limits) -> Result<(), Failure> {
    let name = arguments.to.file_name().and_then(|name| name.to_str()).unwrap_or_default();
    if !NameError::is_valid(name) {
        let shown = arguments.to.display();
        let fix = "name it such as art/moth, with letters, digits, - and _ (`all` is reserved)";
        return Err(Failure::with_fix(format!("{shown}: not a valid sheet name"), fix));
    }
    if arguments.files.iter().any(|file| has_reel_name(file)) {
        return pack_reels(arguments, name, limits);
    }
    let with = |extension: &str| PathBuf::from(format!("{}.{extension}", arguments.to.display()));
    let (sheet, reel) = (with("png"), with("reel.toml"));
    let mut output = Output::new(arguments.force).having_read(&arguments.files);
    output.reserve([&sheet, &reel])?;

    // Shells sort by bytes: puff-10 before puff-2.
    let mut files = arguments.files.clone();
    files.sort_by(|one, other| natural_order(&one.to_string_lossy(), &other.to_string_lossy()));
    let (mut images, mut sources): (Vec<Pixels>, Vec<SourceImage>) = (Vec::new(), Vec::new());
    for path in &files {
        let (image, _) = read_image(path, limits)?;
        let name = path.file_stem().map(|stem| stem.to_string_lossy().into_owned());
        let is_animated = image.frames.len() > 1;
        let (frames, times): (Vec<Pixels>, Vec<_>) = image.frames.into_iter().unzip();
        images.extend(frames);
        sources.push(SourceImage {
            name: name.unwrap_or_default(),
            times: if is_animated { times } else { vec![arguments.each] },
            plays: image.plays.filter(|_| is_animated),
        });
    }
    let packed = pack(&images, packing(arguments, 16_384), limits.pixels).map_err(Failure::new)?;

    make_folder(arguments)?;
    let text = reel_file(&packed, name, &sources);
    output.write(&sheet, |file| file.write_all(&packed.sheet.to_png()))?;
    output.write(&reel, |file| file.write_all(text.as_bytes()))?;
    let [width, height] = packed.sheet.size();
    let mut places = packed.places;
    places.sort_unstable_by_key(|place| (place.x, place.y));
    places.dedup();
    eprintln!(
        "packed:  {}, {width} x {height}, {} cutouts of {} images",
        sheet.display(),
        places.len(),
        images.len()
    );
    eprintln!("written: {}", reel.display());
    Ok(())
}

fn packing(arguments: &Pack, max_side: u32) -> Packing {
    let mut packing = Packing::default();
    packing.padding = arguments.padding;
    packing.extrude = arguments.extrude;
    packing.power_of_two = arguments.power_of_two;
    packing.max_side = arguments.size.unwrap_or(max_side);
    packing
}

fn make_folder(arguments: &Pack) -> Result<(), Failure> {
    let Some(folder) = arguments.to.parent().filter(|folder| !folder.as_os_str().is_empty()) else {
        return Ok(());
    };
    std::fs::create_dir_all(folder).map_err(|error| {
        let what = format!("{}: cannot create the folder: {error}", folder.display());
        Failure::with_fix(what, "name another one")
    })
}

/// The sheets of reel files on few images, and the files for that.
fn pack_reels(arguments: &Pack, name: &str, limits: Limits) -> Result<(), Failure> {
    if let Some(other) = arguments.files.iter().find(|file| !has_reel_name(file)) {
        let what = format!("{}: not a reel file, while others are", other.display());
        return Err(Failure::with_fix(what, "pack images and reel files one after the other"));
    }
    let loader = arguments.files.iter().fold(loader(limits), |loader, file| loader.file(file));
    let (art, sources) = loader.load_with_sources()?;
    let packed = reels(&art, &sources, name, packing(arguments, 2_048))?;
    let folder = arguments.to.parent().unwrap_or(Path::new(""));
    let files =
        packed.files.iter().map(|(file, text)| (folder.join(file), text.as_bytes().to_vec()));
    let pages = packed.pages.iter().map(|(file, page)| (folder.join(file), page.to_png()));
    let mut all: Vec<(PathBuf, Vec<u8>)> = pages.chain(files).collect();
    for (from, name) in &packed.animated {
        let bytes = std::fs::read(from).map_err(|error| {
            let what = format!("{}: the image cannot be read: {error}", from.display());
            Failure::with_fix(what, "pack again when it is there")
        })?;
        all.push((folder.join(name), bytes));
    }
    let mut output = Output::new(arguments.force).having_read(&art.files);
    output.reserve(all.iter().map(|(path, _)| path))?;
    make_folder(arguments)?;
    for (path, bytes) in &all {
        // An animated image may have a folder of its own.
        if let Some(folder) = path.parent().filter(|folder| !folder.as_os_str().is_empty()) {
            std::fs::create_dir_all(folder)?;
        }
        output.write(path, |file| file.write_all(bytes))?;
    }
    for (file, page) in &packed.pages {
        let [width, height] = page.size();
        eprintln!("packed:  {}, {width} x {height}", folder.join(file).display());
    }
    for (_, name) in &packed.animated {
        eprintln!("copied:  {}, which is animated", folder.join(name).display());
    }
    for (file, _) in &packed.files {
        eprintln!("written: {}", folder.join(file).display());
    }
    Ok(())
}
