//! What the preview says in words.

use lucky_reel_core::{Flips, Speed};

use super::{Preview, RATES, SPEEDS};
use crate::explain::{Outcome, Verdict, verdicts};
use crate::words::{milliseconds, mode_of, name_of};

/// How a line is meant.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Tone {
    /// A heading.
    Strong,
    /// What matters now.
    Plain,
    /// What matters less.
    Dim,
    /// What is up or has just happened.
    Mark,
    /// What is wrong.
    Alert,
}

/// A line of text.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Line {
    /// How it is meant.
    pub tone: Tone,
    /// Without a line break.
    pub text: String,
}

fn line(tone: Tone, text: impl Into<String>) -> Line {
    Line { tone, text: text.into() }
}

impl Preview {
    /// A short name for a window: the clip, and how long it is.
    #[must_use]
    pub fn title(&self) -> String {
        let clip = self.art.reel.clip(self.playing().clip());
        clip.map_or(String::new(), |clip| {
            let name = name_of(&self.art.reel, &clip);
            match clip.is_still {
                true => format!("{name}: a still"),
                false => format!("{name}: {}", milliseconds(clip.total)),
            }
        })
    }

    /// Everything that is said beside the picture: the clip, the hold that is up, the settings, and with
    /// cues the facts and which cue wins.
    #[must_use]
    pub fn text(&self) -> Vec<Line> {
        let mut lines = self.clip_lines();
        lines.extend(self.setting_lines());
        if let Some((message, _)) = &self.message {
            lines.push(line(Tone::Dim, ""));
            lines.push(line(Tone::Mark, &**message));
        }
        if self.by_cues {
            lines.push(line(Tone::Dim, ""));
            lines.extend(self.cue_lines());
        } else if self.actor.is_some() {
            lines.push(line(Tone::Dim, ""));
            lines.push(line(Tone::Dim, "tab: let the role's cues choose the clip"));
        }
        lines
    }

    fn clip_lines(&self) -> Vec<Line> {
        let (reel, player) = (&self.art.reel, self.playing());
        let Some(clip) = reel.clip(player.clip()) else { return Vec::new() };
        let mut lines = vec![line(Tone::Strong, name_of(reel, &clip))];
        lines.push(line(
            Tone::Dim,
            match clip.is_still {
                true => mode_of(&clip),
                false => format!("{} · {}", milliseconds(clip.total), mode_of(&clip)),
            },
        ));
        // The list of cues below may be cut where there is little room.
        lines.extend(self.cue_in_charge());
        let Some((index, hold)) =
            player.hold_index(reel).and_then(|index| Some((index, clip.hold(index)?)))
        else {
            lines.push(line(Tone::Mark, "vanished"));
            return lines;
        };
        let frame = reel.frame(hold.frame).map_or(0, |frame| frame.index);
        lines.push(line(
            Tone::Plain,
            format!("hold {index} (0–{}) · frame {frame}", clip.holds().len() - 1),
        ));
        if !clip.is_still {
            let rate = RATES[self.rate % RATES.len()];
            let refreshes = hold.ticks.as_secs_f64() * f64::from(rate);
            let text =
                format!("{} · {refreshes:.1} refreshes of {rate} Hz", milliseconds(hold.ticks));
            lines.push(line(Tone::Plain, text));
        }
        if let Some((name, ago)) = &self.mark {
            let tone = if ago.as_millis_f64() < 250.0 { Tone::Mark } else { Tone::Dim };
            lines.push(line(tone, format!("mark {name}")));
        }
        lines
    }

    /// The cue that chose the clip, and why.
    fn cue_in_charge(&self) -> Option<Line> {
        let actor = self.actor.as_ref().filter(|_| self.by_cues)?;
        let role = self.art.reel.role(actor.role())?;
        let verdicts = verdicts(role, actor);
        let verdict = verdicts.iter().find(|verdict| actor.cue() == Some(verdict.cue.id))?;
        Some(line(Tone::Mark, format!("cue {}: {}", verdict.cue.name, reason_of(verdict, true))))
    }

    fn setting_lines(&self) -> Vec<Line> {
        let (above, below) = SPEEDS[self.speed.min(SPEEDS.len() - 1)];
        let speed = Speed::from_ratio(above, below).unwrap_or(Speed::NORMAL).to_f64();
        let way = if self.backward && !self.by_cues { ", backward" } else { "" };
        let state = if self.paused { "paused" } else { "playing" };
        let mut lines =
            vec![line(Tone::Dim, ""), line(Tone::Plain, format!("{state} · speed {speed}{way}"))];
        let flips = match self.flips {
            Flips { x: false, y: false } => "",
            Flips { x: true, y: false } => "flipped x",
            Flips { x: false, y: true } => "flipped y",
            Flips { x: true, y: true } => "flipped x and y",
        };
        let facing = match (&self.actor, self.by_cues) {
            (Some(actor), true) => Some(actor.facing()),
            _ => self.facing_of_clip().map(|(_, facing)| facing),
        };
        let facing = facing.map(|facing| format!("facing {}", facing.name()));
        let look = self.look.map(|look| format!("look {}", self.art.reel.name(look)));
        let more: Vec<String> = facing
            .into_iter()
            .chain(look)
            .chain((!flips.is_empty()).then(|| flips.into()))
            .collect();
        if !more.is_empty() {
            lines.push(line(Tone::Plain, more.join(" · ")));
        }
        if self.edits.count() > 0 {
            let text = format!("unsaved durations: {} (w writes them)", self.edits.count());
            lines.push(line(Tone::Mark, text));
        }
        lines
    }

    fn cue_lines(&self) -> Vec<Line> {
        let Some(actor) = &self.actor else { return Vec::new() };
        let reel = &self.art.reel;
        let mut lines = vec![line(Tone::Strong, "facts")];
        for (nth, fact) in (1..).zip(self.facts()) {
            let text = match fact.is_pulse {
                true => format!("{nth}  {} (pulse)", fact.name),
                false => format!("{nth}  {} = {}", fact.name, fact.value),
            };
            lines.push(line(Tone::Plain, text));
        }
        lines.push(line(Tone::Dim, ""));
        lines.push(line(Tone::Strong, "cues"));
        let plays = actor.cue();
        for verdict in reel.role(actor.role()).map(|role| verdicts(role, actor)).unwrap_or_default()
        {
            let in_charge = plays == Some(verdict.cue.id);
            let sign = if in_charge { "> " } else { "  " };
            let reason = reason_of(&verdict, in_charge);
            let tone = match (in_charge, verdict.outcome) {
                (true, _) => Tone::Mark,
                (false, Outcome::Wins) => Tone::Plain,
                _ => Tone::Dim,
            };
            lines.push(line(tone, format!("{sign}{}: {reason}", verdict.cue.name)));
        }
        if let Some(bridge) = actor.bridge() {
            lines.push(line(Tone::Mark, format!("bridge {}", reel.name(bridge))));
        }
        lines
    }

    /// What is wrong with the files on the disk, while the version before plays on: each with its place
    /// and how to fix it. Empty when all is well.
    #[must_use]
    pub fn faults(&self) -> Vec<Line> {
        let problems = self.watcher.problems();
        let mut lines = Vec::new();
        for problem in problems.iter().take(3) {
            let place = match (problem.line(), problem.column()) {
                (Some(line), Some(column)) => format!(":{line}:{column}"),
                _ => String::new(),
            };
            lines.push(line(Tone::Alert, format!("{}{place}", problem.path().display())));
            if let Some(text) = problem.line_text() {
                lines.push(line(Tone::Plain, text.trim()));
            }
            lines.push(line(Tone::Alert, problem.message()));
            lines.push(line(Tone::Dim, format!("fix: {}", problem.fix())));
        }
        if problems.len() > 3 {
            lines.push(line(Tone::Dim, format!("and {} more", problems.len() - 3)));
        }
        if !lines.is_empty() {
            lines.push(line(Tone::Dim, "the version before plays on"));
        }
        lines
    }
}

/// Why a cue is where it is; one in charge that no longer matches is not interrupted.
fn reason_of(verdict: &Verdict<'_>, in_charge: bool) -> String {
    match verdict.outcome {
        Outcome::Skipped | Outcome::NotChecked if in_charge => "runs to its end".to_owned(),
        _ => verdict.reason(),
    }
}
