//! `lucky-reel watch`: a live preview, in a window or in the terminal.

mod colors;
mod terminal;
#[cfg(feature = "window")]
mod window;

use std::io::{self, IsTerminal};
use std::path::PathBuf;

use lucky_reel::assets::Limits;
use lucky_reel_tools::preview::Preview;

use crate::arguments::{Surface, Watch};
use crate::failure::Failure;
use crate::files::is_reel_file;

pub(crate) fn run(arguments: &Watch, limits: Limits) -> Result<(), Failure> {
    let (files, clips): (Vec<&String>, Vec<&String>) =
        arguments.what.iter().partition(|argument| is_reel_file(argument));
    let fix = "name reel files, and at most one clip: watch REEL... [CLIP]";
    if files.is_empty() {
        return Err(Failure::with_fix("no reel file is named", fix));
    }
    if let [_, second, ..] = clips[..] {
        return Err(Failure::with_fix(format!("`{second}` is a second clip"), fix));
    }
    let files: Vec<PathBuf> = files.into_iter().map(PathBuf::from).collect();
    let step = arguments.step.map(|step| step.to_ticks());
    let mut preview = Preview::open(&files, limits, step)?;
    if let Some(clip) = clips.first() {
        preview.show(clip)?;
    }
    match arguments.surface {
        Some(Surface::Window) => in_window(preview),
        Some(Surface::Terminal) => terminal::show(preview),
        None if has_display() => in_window(preview),
        None if io::stdout().is_terminal() => terminal::show(preview),
        None if cfg!(feature = "window") => Err(Failure::with_fix(
            "there is neither a display nor a terminal to show it in",
            "run it in a terminal, or set DISPLAY",
        )),
        None => Err(Failure::with_fix(
            "there is no terminal to show it in",
            "run it in a terminal, or build with the feature `window`",
        )),
    }
}

#[cfg(feature = "window")]
fn in_window(preview: Preview) -> Result<(), Failure> {
    window::show(preview)
}

#[cfg(not(feature = "window"))]
fn in_window(_: Preview) -> Result<(), Failure> {
    Err(Failure::with_fix(
        "this build has no window",
        "use --in terminal, or build with the feature `window`",
    ))
}

/// Whether a window can be expected to open.
fn has_display() -> bool {
    let is_set = |name| std::env::var_os(name).is_some_and(|value| !value.is_empty());
    let by_system = cfg!(any(windows, target_os = "macos"));
    cfg!(feature = "window") && (by_system || is_set("DISPLAY"))
}
