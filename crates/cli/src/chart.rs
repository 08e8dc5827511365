use std::io::Write;
use std::path::{Path, PathBuf};

use lucky_reel::ClipId;
use lucky_reel::assets::{Art, Limits};
use lucky_reel_tools::Theme;
use lucky_reel_tools::chart::{self, page};

use crate::arguments::{Chart, ChartTheme};
use crate::explain::{length_of, read_script, role_of};
use crate::failure::Failure;
use crate::files::{is_reel_file, loader_of};
use crate::output::Output;

pub(crate) fn run(arguments: &Chart, limits: Limits) -> Result<(), Failure> {
    let load = |path: &Path| -> Result<Art, Failure> { Ok(loader_of([path], limits)?.load()?) };
    let art = load(&arguments.reel)?;
    let mut output =
        Output::new(arguments.force).having_read(&art.files).having_read([&arguments.reel]);
    if let Some(path) = &arguments.page {
        let text = page::of(&art, &title_of(&arguments.reel));
        output.write(path, |file| file.write_all(text.as_bytes()))?;
        eprintln!("written: {}", path.display());
        return Ok(());
    }
    let theme = match arguments.theme {
        ChartTheme::Dark => Theme::Dark,
        ChartTheme::Light => Theme::Light,
    };
    let clip = match &arguments.clip {
        Some(name) => Some(art.reel.id::<ClipId>(name)?),
        None => None,
    };
    let name =
        || clip.map_or_else(|| title_of(&arguments.reel), |clip| art.reel.name(clip).to_owned());
    let (drawn, name) = match (&arguments.script, &arguments.against, arguments.display, clip) {
        (Some(path), ..) => {
            let role = role_of(&art.reel, arguments.role.as_deref())?;
            let script = read_script(path, role)?;
            output = output.having_read([path]);
            let duration = length_of(&script, arguments.duration).to_ticks();
            (chart::script(&art, role, &script, duration, theme), title_of(path))
        }
        (None, Some(other), ..) if is_reel_file(other) => {
            let after = load(Path::new(other))?;
            output = output.having_read(&after.files);
            let drawn = match &arguments.clip {
                None => chart::versions(&art, &after, theme),
                Some(clip) => {
                    let both = (art.reel.id::<ClipId>(clip)?, after.reel.id::<ClipId>(clip)?);
                    chart::clips((&art, both.0), (&after, both.1), theme)
                }
            };
            (drawn, format!("{}-compared", name()))
        }
        (None, Some(other), ..) => {
            let clip = clip.ok_or_else(|| {
                let what = "one clip cannot be compared with a whole reel";
                Failure::with_fix(what, "name two clips: chart REEL CLIP --against CLIP")
            })?;
            let other: ClipId = art.reel.id(other)?;
            (chart::clips((&art, clip), (&art, other), theme), format!("{}-compared", name()))
        }
        (None, None, Some(rate), Some(clip)) => {
            if art.reel.clip(clip).is_some_and(|clip| clip.is_still) {
                let what = format!("`{}` is a still: it has no times", name());
                return Err(Failure::with_fix(what, "name a clip that moves"));
            }
            (chart::display(&art, clip, rate, theme), format!("{}-{rate}hz", name()))
        }
        (None, None, Some(_), None) => {
            let fix = "name one: chart REEL CLIP --display 60";
            return Err(Failure::with_fix("--display needs a clip", fix));
        }
        (None, None, None, Some(clip)) => (chart::clip(&art, clip, theme), name()),
        (None, None, None, None) => (chart::reel(&art, theme), name()),
    };
    let too_large = || Failure::with_fix("the chart would be too large", "chart less of it");
    let drawn = drawn.ok_or_else(too_large)?;
    let path = arguments.to.clone().unwrap_or_else(|| PathBuf::from(format!("{name}-chart.png")));
    let extension = path.extension().and_then(|end| end.to_str()).map(str::to_ascii_lowercase);
    let bytes = match extension.as_deref() {
        Some("svg") => drawn.svg().into_bytes(),
        Some("png") => drawn.pixels().to_png(),
        _ => {
            let what = format!("{}: cannot infer the format from the file name", path.display());
            return Err(Failure::with_fix(what, "end it in .png or .svg"));
        }
    };
    output.write(&path, |file| file.write_all(&bytes))?;
    eprintln!("written: {}", path.display());
    Ok(())
}

/// The name of a file up to its first dot.
fn title_of(path: &Path) -> String {
    let name = path.file_name().map(|name| name.to_string_lossy().into_owned()).unwrap_or_default();
    name.split('.').next().unwrap_or_default().to_owned()
}
