//! Which cue wins for an actor's facts, and why the others do not, in words.

use lucky_reel_core::{Actor, Cue, Role};

/// What became of a cue.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Outcome {
    /// It does not match.
    Skipped,
    /// It is the first that matches.
    Wins,
    /// One above it wins.
    NotChecked,
}

/// A cue, and what became of it.
#[derive(Clone, Debug)]
pub struct Verdict<'r> {
    /// The cue.
    pub cue: Cue<'r>,
    /// What became of it.
    pub outcome: Outcome,
    /// Of each of its lists of conditions the parts that fail; empty when it matches.
    pub failing: Vec<Vec<String>>,
}

impl Verdict<'_> {
    /// The reason in words: `needs moving = true (now: false)`, `because it always matches`.
    #[must_use]
    pub fn reason(&self) -> String {
        match self.outcome {
            Outcome::Skipped => {
                let any: Vec<String> = self.failing.iter().map(|all| all.join("; ")).collect();
                format!("needs {}", any.join("; or "))
            }
            Outcome::Wins if self.cue.is_always => "because it always matches".to_owned(),
            Outcome::Wins => {
                let held: Vec<String> =
                    self.cue.conditions().iter().map(|all| all.join(", ")).collect();
                format!("because {}", held.join(", or "))
            }
            Outcome::NotChecked => "not checked".to_owned(),
        }
    }
}

/// All cues of a role in their order, judged by an actor's facts, facing and spans as they are now.
#[must_use]
pub fn verdicts<'r>(role: Role<'r>, actor: &Actor) -> Vec<Verdict<'r>> {
    let mut won = false;
    let judge = |cue: Cue<'r>| {
        let failing = cue.failing(actor);
        let outcome = match (won, failing.is_empty()) {
            (true, _) => Outcome::NotChecked,
            (false, true) => Outcome::Wins,
            (false, false) => Outcome::Skipped,
        };
        won |= outcome == Outcome::Wins;
        Verdict { cue, outcome, failing }
    };
    role.cues().map(judge).collect()
}
