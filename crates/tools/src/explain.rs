//! Which cue wins for an actor's facts, and why the others do not, in words.

use lucky_reel_core::{Actor, Cue, CueTest, FactValue, Role};

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
                let words = |all: &Vec<CueTest<'_>>| {
                    all.iter().map(CueTest::to_string).collect::<Vec<_>>().join(", ")
                };
                let held: Vec<String> = self.cue.conditions().iter().map(words).collect();
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
        let failing = failing(role, &cue, actor);
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

/// The tests that fail, each with what is the case instead.
fn failing(role: Role<'_>, cue: &Cue<'_>, actor: &Actor) -> Vec<Vec<String>> {
    let conditions = cue.conditions();
    let failing = cue.failing(actor).into_iter().zip(&conditions);
    let words = |(failing, tests): (Vec<usize>, &Vec<CueTest<'_>>)| {
        let tests = failing.iter().filter_map(|nth| tests.get(*nth));
        tests.map(|test| contradict(role, test, actor)).collect()
    };
    failing.map(words).collect()
}

/// A test, and what is the case instead.
fn contradict(role: Role<'_>, test: &CueTest<'_>, actor: &Actor) -> String {
    let is_pulse = |name: &str| {
        let fact = role.facts().find(|fact| fact.name == name);
        fact.is_some_and(|fact| fact.pulse.is_some())
    };
    let now = match test {
        CueTest::Is(name, values) if is_pulse(name) => {
            let wanted = values.contains(&FactValue::Flag(true));
            let now = if wanted { "not pulsed now" } else { "not to be pulsed now" };
            return format!("{name}, {now}");
        }
        CueTest::Is(name, _) | CueTest::Within(name, _) => {
            let value = actor.value_by_name(role.reel, name);
            value.map_or_else(String::new, |value| value.to_string())
        }
        CueTest::Inside(_) => "outside".to_owned(),
        CueTest::Facing(_) => actor.facing().name().to_owned(),
        _ => String::new(),
    };
    format!("{test} (now: {now})")
}
