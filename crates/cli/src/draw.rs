use std::io::Write;
use std::path::PathBuf;

use lucky_reel::assets::{Limits, Loader, chart, whole_file};

use crate::arguments::Draw;
use crate::failure::Failure;

pub(crate) fn run(arguments: &Draw, limits: Limits) -> Result<(), Failure> {
    let art = Loader::new().file(&arguments.reel).limits(limits).load()?;
    let clip = art.reel.clip(&arguments.clip)?;
    let picture = chart::clip(&art, clip)
        .ok_or_else(|| Failure::new("the picture would be too large: draw a shorter clip"))?;
    let name = || PathBuf::from(format!("{}.png", art.reel.clip_name(clip)));
    let path = arguments.to.clone().unwrap_or_else(name);
    whole_file::write(&path, arguments.force, |file| file.write_all(&picture.to_png()))?;
    eprintln!("drawn: {}", path.display());
    Ok(())
}
