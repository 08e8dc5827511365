//! A bar for work that takes long, where standard error is a terminal.

#[cfg(feature = "progress")]
use std::time::{Duration, Instant};

#[cfg(feature = "progress")]
use indicatif::{ProgressBar, ProgressDrawTarget, ProgressStyle};

/// Work that takes less is done before anyone could read a bar.
#[cfg(feature = "progress")]
const LONG: Duration = Duration::from_millis(400);

/// What to call each time some of the work is done, with how much is done, and of how much.
#[cfg(not(feature = "progress"))]
pub(crate) fn progress(_: &'static str) -> impl FnMut(usize, usize) {
    |_, _| {}
}

/// What to call each time some of the work is done, with how much is done, and of how much.
#[cfg(feature = "progress")]
pub(crate) fn progress(what: &'static str) -> impl FnMut(usize, usize) {
    let (start, mut bar) = (Instant::now(), None::<ProgressBar>);
    move |done, of| {
        if done < of && bar.is_none() && start.elapsed() >= LONG {
            let new = ProgressBar::with_draw_target(Some(of as u64), ProgressDrawTarget::stderr());
            let style = ProgressStyle::with_template("{msg} [{bar:40}] {pos} of {len}, {eta} left");
            bar = Some(new.with_style(style.unwrap_or_else(|_| ProgressStyle::default_bar())));
        }
        if let Some(bar) = &bar {
            bar.set_message(what);
            bar.set_position(done as u64);
            if done == of {
                bar.finish_and_clear();
            }
        }
    }
}
