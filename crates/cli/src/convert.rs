use std::io::{self, Write};
use std::path::Path;

use lucky_reel_tools::convert::{Form, SCHEMA, convert};

use crate::arguments::Convert;
use crate::failure::Failure;
use crate::output::Output;

pub(crate) fn run(arguments: &Convert) -> Result<(), Failure> {
    let Convert { reel, to, force } = arguments;
    let unreadable = |error: io::Error| {
        let shown = reel.display();
        Failure::with_fix(
            format!("{shown}: the reel file cannot be read: {error}"),
            "check the path",
        )
    };
    // A reel file names its images relative to its own folder.
    let folder = |path: &Path| {
        let parent = path.parent().filter(|parent| !parent.as_os_str().is_empty());
        parent.unwrap_or(Path::new(".")).canonicalize().ok()
    };
    if folder(reel) != folder(to) {
        let shown = to.display();
        let fix = "write it to the folder of the reel file, and move it together with its images";
        let what = "its image paths would be wrong in another folder";
        return Err(Failure::with_fix(format!("{shown}: {what}"), fix));
    }
    let ending = to.extension().and_then(|ending| ending.to_str()).map(str::to_ascii_lowercase);
    if !matches!(ending.as_deref(), Some("toml" | "json")) {
        let what = format!("{}: cannot infer the format from the file name", to.display());
        return Err(Failure::with_fix(what, "end it in .toml or .json"));
    }
    let text = std::fs::read_to_string(reel).map_err(unreadable)?;
    let text = convert(reel, &text, Form::of(to))?;
    let output = Output::new(*force).having_read([reel]);
    output.write(to, |file| file.write_all(text.as_bytes()))?;
    eprintln!("written: {}", to.display());
    Ok(())
}

pub(crate) fn print_schema() -> Result<(), Failure> {
    io::stdout().lock().write_all(SCHEMA.as_bytes())?;
    Ok(())
}
