//! The updates of a trace: even steps, or durations from a file.

use std::fs::File;
use std::io::{self, BufRead, BufReader, Lines};
use std::path::Path;

use lucky_reel::{Ticks, time::ExactTime};

use crate::arguments::Pacing;
use crate::failure::Failure;

/// All updates of a trace, still to come.
pub(crate) enum Updates {
    Even { every: ExactTime, duration: ExactTime },
    File(FileOfUpdates),
}

impl Updates {
    pub(crate) fn open(pacing: &Pacing, duration: ExactTime) -> Result<Updates, Failure> {
        Ok(match &pacing.updates {
            None => Updates::Even { every: pacing.every, duration },
            Some(path) => Updates::File(FileOfUpdates::open(path)?),
        })
    }

    /// Lets them pass, one after another.
    pub(crate) fn each(
        self,
        mut update: impl FnMut(Ticks) -> Result<(), Failure>,
    ) -> Result<(), Failure> {
        match self {
            Updates::Even { every, duration } => even_updates(every, duration).try_for_each(update),
            Updates::File(mut updates) => {
                while let Some(dt) = updates.next()? {
                    update(dt)?;
                }
                Ok(())
            }
        }
    }
}

/// Steps of `every`, rounded on the running total, until `duration` is over.
fn even_updates(every: ExactTime, duration: ExactTime) -> impl Iterator<Item = Ticks> {
    let duration = duration.to_ticks();
    let mut reached = Ticks::ZERO;
    (1_u64..).map_while(move |nth| {
        let end = every.checked_scale(nth, 1).map_or(Ticks::MAX, ExactTime::to_ticks).min(duration);
        let dt = end - reached;
        reached = end;
        (dt != Ticks::ZERO).then_some(dt)
    })
}

/// The durations of a file, a line each; read as they are wanted, for they may be typed.
pub(crate) struct FileOfUpdates {
    shown: String,
    lines: Lines<Box<dyn BufRead>>,
    number: u64,
}

impl FileOfUpdates {
    fn open(path: &Path) -> Result<FileOfUpdates, Failure> {
        let shown = path.display().to_string();
        let reader: Box<dyn BufRead> = if path == Path::new("-") {
            Box::new(io::stdin().lock())
        } else {
            let file = File::open(path).map_err(|error| unreadable(&shown, &error))?;
            Box::new(BufReader::new(file))
        };
        Ok(FileOfUpdates { shown, lines: reader.lines(), number: 0 })
    }

    fn next(&mut self) -> Result<Option<Ticks>, Failure> {
        for line in self.lines.by_ref() {
            self.number += 1;
            let line = line.map_err(|error| unreadable(&self.shown, &error))?;
            let line = line.trim();
            if !line.is_empty() {
                let time = lucky_reel::assets::parse_time(line).map_err(|error| {
                    let place = format!("{}:{}", self.shown, self.number);
                    Failure::with_fix(format!("{place}: `{line}` is not a duration"), error)
                })?;
                return Ok(Some(time.to_ticks()));
            }
        }
        Ok(None)
    }
}

fn unreadable(shown: &str, error: &io::Error) -> Failure {
    Failure::with_fix(format!("{shown}: the updates cannot be read: {error}"), "check the path")
}
