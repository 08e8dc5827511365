use std::io::Write;
use std::path::PathBuf;

use lucky_reel::assets::Limits;
use lucky_reel_tools::{atomic_write, chart};

use crate::arguments::Chart;
use crate::explain::{length_of, read_script, role_of};
use crate::failure::Failure;
use crate::files::loader;

pub(crate) fn run(arguments: &Chart, limits: Limits) -> Result<(), Failure> {
    let art = loader(limits).file(&arguments.reel).load()?;
    let (picture, name) = match (&arguments.script, &arguments.clip) {
        (Some(path), _) => {
            let role = role_of(&art.reel, arguments.role.as_deref())?;
            let script = read_script(path, role)?;
            let duration = length_of(&script, arguments.duration).to_ticks();
            let name = path.file_stem().map(|name| name.to_string_lossy().into_owned());
            (chart::script(&art, role, &script, duration), name.unwrap_or_default())
        }
        (None, clip) => {
            let clip = art.reel.clip_id(clip.as_deref().unwrap_or_default())?;
            (chart::clip(&art, clip), art.reel.clip_name(clip).to_owned())
        }
    };
    let too_large = || Failure::with_fix("the chart would be too large", "chart less of it");
    let picture = picture.ok_or_else(too_large)?;
    let path = arguments.to.clone().unwrap_or_else(|| PathBuf::from(format!("{name}.png")));
    atomic_write::write(&path, arguments.force, |file| file.write_all(&picture.to_png()))?;
    eprintln!("written: {}", path.display());
    Ok(())
}
