use std::io::Write;

use lucky_reel::assets::Limits;
use lucky_reel_tools::archive::archive;

use crate::arguments::Archive;
use crate::failure::Failure;
use crate::files::loader_of;
use crate::output::Output;

pub(crate) fn run(arguments: &Archive, limits: Limits) -> Result<(), Failure> {
    let art = loader_of(&arguments.reels, limits)?.load()?;
    let bytes = archive(&art, limits)?;
    let output = Output::new(arguments.force).having_read(&art.files).having_read(&arguments.reels);
    output.write(&arguments.to, |file| file.write_all(&bytes))?;
    let (shown, count, size) = (arguments.to.display(), art.files.len(), bytes.len());
    eprintln!("written: {shown}, {count} files in {size} bytes");
    Ok(())
}
