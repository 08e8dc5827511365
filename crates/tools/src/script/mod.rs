//! Scripts of facts over time, for tools and tests: what a game would tell an actor, and when.

mod command;

use std::path::Path;

use lucky_reel_assets::{Fault, LoadError, Problem};
use lucky_reel_core::{Actor, Event, ExactTime, Reel, Role, Ticks};

pub use command::Command;

/// A timed list of commands for an actor.
///
/// A line tells one thing: `at 0.5s set moving=true lift=-2`, `at 1s pulse hurt`, `at 1s face left`,
/// `at 2s wear dusk`, `at 3s take off dusk`, `at 3s speed 0.5`, `at 4s hit-stop 80ms`, `at 4s pause`,
/// `at 5s resume`. The times are exact, whatever the update. Lines that begin with `#` say nothing.
///
/// ```
/// use lucky_reel_core::{RoleId, Actor, EventKind, Ticks};
/// use lucky_reel_tools::script::Script;
///
/// # let path = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/greenhouse/bram.reel.toml");
/// let reel = lucky_reel_assets::load_reel([path])?;
/// let role = reel.role(reel.id::<RoleId>("bram").unwrap()).unwrap();
/// let script = Script::parse("night.txt", "at 100ms set moving=true\nat 100ms face right", role)?;
/// let mut bram = Actor::new(&reel, role.id);
/// let mut cues = Vec::new();
/// script.advance(&reel, &mut bram, Ticks::ZERO, Ticks::from_secs(1), |at, event| {
///     if let EventKind::Cue(cue, _) = event.kind {
///         cues.push((at, reel.name(cue)));
///     }
///     Ok::<(), lucky_reel_assets::LoadError>(())
/// })?;
/// assert_eq!(cues, [(Ticks::ZERO, "resting"), (Ticks::from_millis(100), "walking")]);
/// # Ok::<(), lucky_reel_assets::LoadError>(())
/// ```
#[derive(Clone, Debug, Default)]
pub struct Script {
    /// In the order of time.
    lines: Vec<(Ticks, Command)>,
}

impl Script {
    /// Reads a script for actors of a role; `path` is its name in messages.
    ///
    /// # Errors
    /// All lines that cannot be read, each with its place.
    pub fn parse(path: impl AsRef<Path>, text: &str, role: Role<'_>) -> Result<Script, LoadError> {
        let (mut lines, mut problems) = (Vec::new(), Vec::new());
        let mut start = 0;
        for line in text.split_inclusive('\n') {
            let said = line.trim();
            let span = {
                let from = start + (line.len() - line.trim_start().len());
                from..from + said.len()
            };
            start += line.len();
            if said.is_empty() || said.starts_with('#') {
                continue;
            }
            match read_line(said, role) {
                Ok(line) => lines.push(line),
                Err(Fault { message, fix }) => {
                    problems.push(Problem::in_text(path.as_ref(), text, span, message, fix));
                }
            }
        }
        if !problems.is_empty() {
            return Err(LoadError::new(problems));
        }
        lines.sort_by_key(|(at, _)| *at);
        Ok(Script { lines })
    }

    /// The commands, in order of time.
    #[must_use]
    pub fn lines(&self) -> &[(Ticks, Command)] {
        &self.lines
    }

    /// Lets time pass for an actor from a moment on, and tells it what is due meanwhile at its exact
    /// time. Each event comes with its moment.
    ///
    /// # Errors
    /// The first that `happened` gives; no more is read then.
    pub fn advance<E>(
        &self,
        reel: &Reel,
        actor: &mut Actor,
        from: Ticks,
        dt: Ticks,
        mut happened: impl FnMut(Ticks, Event) -> Result<(), E>,
    ) -> Result<(), E> {
        let (mut now, end) = (from, from + dt);
        let first = self.lines.partition_point(|(at, _)| *at < from);
        let due = self.lines[first..].iter().take_while(|(at, _)| *at < end);
        for (at, command) in due.map(|(at, command)| (*at, Some(command))).chain([(end, None)]) {
            for event in actor.advance(reel, at - now) {
                happened(now + event.at, event)?;
            }
            now = at;
            if let Some(command) = command {
                command.tell(reel, actor);
            }
        }
        Ok(())
    }
}

fn read_line(line: &str, role: Role<'_>) -> Result<(Ticks, Command), Fault> {
    let mut words = line.split_whitespace();
    let at = (words.next() == Some("at")).then(|| words.next()).flatten();
    let Some(at) = at else {
        let fix = "write such as `at 0.5s set moving=true`";
        return Err(Fault::new("the line does not say when", fix));
    };
    let at: ExactTime = lucky_reel_assets::parse_time(at)
        .map_err(|error| Fault::new(format!("`{at}` is not a duration"), error.to_string()))?;
    let words: Vec<&str> = words.collect();
    Ok((at.to_ticks(), Command::read(&words, role)?))
}
