use std::fs;
use std::io::Write;
use std::path::{Path, PathBuf};

use lucky_reel::assets::Limits;
use lucky_reel::view::LookSet;
use lucky_reel::{ClipId, Flips, Ticks};
use lucky_reel_tools::render::{Format, Rendering};

use crate::arguments::Render;
use crate::failure::Failure;
use crate::files::loader_of;
use crate::output::Output;
use crate::print;
use crate::progress::progress;

pub(crate) fn run(arguments: &Render, limits: Limits) -> Result<(), Failure> {
    let target = Target::of(arguments)?;
    let art = loader_of([&arguments.reel], limits)?.load()?;
    let clip: ClipId = art.reel.id(&arguments.clip)?;
    let rendering = Rendering::of(&art, clip)
        .ok_or_else(|| Failure::with_fix("the clip is gone", "load it again"))?;
    let mut looks = LookSet::default();
    for name in &arguments.look {
        let worn = looks.wear(&art.reel, art.reel.id(name)?);
        worn.map_err(|error| Failure::with_fix(error.to_string(), "name at most four looks"))?;
    }
    let rendering = rendering
        .looks(looks)
        .scale(arguments.scale)
        .background(arguments.background.unwrap_or_default())
        .flips(Flips { x: arguments.flip_x, y: arguments.flip_y })
        .speed(arguments.speed)
        .cycles(arguments.cycles);
    let output =
        Output::new(arguments.force).having_read(&art.files).having_read([&arguments.reel]);
    match target {
        Target::File(path, format) => write_file(&rendering, &path, format, &output),
        Target::Series(folder) => write_series(&rendering, &folder, output),
    }
}

/// What a path asks for.
enum Target {
    File(PathBuf, Format),
    Series(PathBuf),
}

impl Target {
    fn of(arguments: &Render) -> Result<Target, Failure> {
        let path = PathBuf::from(&arguments.to);
        if arguments.to.ends_with('/') && !arguments.strip {
            return Ok(Target::Series(path));
        }
        let ending = path.extension().map(|ending| ending.to_ascii_lowercase());
        let format = match ending.as_deref().and_then(|ending| ending.to_str()) {
            Some("png") if arguments.strip => Format::Strip,
            #[cfg(not(feature = "gif"))]
            Some("gif") => return Err(Failure::lacking("GIF", "gif")),
            #[cfg(feature = "gif")]
            Some("gif") if !arguments.strip => Format::Gif,
            Some("png" | "apng") if !arguments.strip => Format::Apng,
            _ => {
                let shown = &arguments.to;
                let wanted =
                    if arguments.strip { "FILE.png" } else { "FILE.gif, FILE.png or FOLDER/" };
                let what = format!("{shown}: cannot infer the format from the file name");
                return Err(Failure::with_fix(what, format!("name it {wanted}")));
            }
        };
        Ok(Target::File(path, format))
    }
}

fn write_file(
    rendering: &Rendering<'_>,
    path: &Path,
    format: Format,
    output: &Output,
) -> Result<(), Failure> {
    let bytes = rendering.to_bytes_with_progress(format, progress("rendering"));
    let bytes = bytes?;
    output.write(path, |file| file.write_all(&bytes))?;
    if format == Format::Strip {
        eprintln!("written: {}", path.display());
        return Ok(());
    }
    let (count, time): (usize, Ticks) = rendering.length()?;
    let pictures = if count == 1 { "picture" } else { "pictures" };
    let time = print::milliseconds(time);
    eprintln!("written: {}, {count} {pictures} in {time} ms", path.display());
    if let Some(remark) = rendering.inexact(format)? {
        eprintln!("note: {remark}");
    }
    Ok(())
}

fn write_series(
    rendering: &Rendering<'_>,
    folder: &Path,
    mut output: Output,
) -> Result<(), Failure> {
    let shown = folder.display();
    fs::create_dir_all(folder).map_err(|error| {
        Failure::with_fix(format!("{shown}: cannot create the folder: {error}"), "name another one")
    })?;
    let path = |nth: usize| folder.join(format!("{nth:04}.png"));
    // Either all pictures are written, or none.
    let pictures: Result<Vec<_>, _> = rendering.series().collect();
    let pictures = pictures?;
    output.reserve((0..pictures.len()).map(path))?;
    let mut progress = progress("writing");
    for (nth, picture) in pictures.iter().enumerate() {
        output.write(&path(nth), |file| file.write_all(&picture.to_png()))?;
        progress(nth + 1, pictures.len());
    }
    eprintln!("written: {shown}, {} pictures", pictures.len());
    Ok(())
}
