//! What the game tells, and how its values are kept.

use alloc::string::{String, ToString};
use alloc::vec::Vec;

use super::super::Refuse;
use super::RoleCompiler;
use crate::cue::{FactData, FactKind, FactValue, MAX_FACTS, NewFact};
use crate::reel::NameError;
use crate::reel::builder::Added;
use crate::reel::{Key, ProblemKind, Section};

/// A pulse duration at most so many ticks: 59 seconds.
const LONGEST_PULSE: u64 = 59 * crate::time::Ticks::PER_SECOND;
/// A fact has at most so many choices.
const MAX_WORDS: usize = 64;

impl RoleCompiler<'_> {
    pub(super) fn facts(&mut self) -> (Vec<Option<FactData>>, [u32; MAX_FACTS]) {
        let (mut facts, mut defaults) = (Vec::new(), [0; MAX_FACTS]);
        for (nth, fact) in self.mine(&self.builder.facts, &self.lists.facts) {
            let slot = self.data.names.facts.rank(fact.id);
            let mut refuse = self.report.on(Section::Facts, nth, fact);
            if slot >= MAX_FACTS {
                // Those that a reload took away count until a restart.
                let (what, count, max) = ("facts in a role", slot + 1, MAX_FACTS);
                refuse.say(None, None, ProblemKind::TooMany { what, count, max });
                break;
            }
            if let Some((data, bits)) = compile_fact(fact, &mut refuse) {
                facts.resize_with(facts.len().max(slot + 1), || None);
                facts[slot] = Some(data);
                defaults[slot] = bits;
            }
        }
        (facts, defaults)
    }
}

fn compile_fact(added: &Added<NewFact>, refuse: &mut Refuse<'_>) -> Option<(FactData, u32)> {
    let NewFact { kind, default, choices, duration } = &added.new;
    if *kind == FactKind::Choice {
        let twice = choices.iter().enumerate().any(|(nth, word)| choices[..nth].contains(word));
        if choices.is_empty() || choices.len() > MAX_WORDS || twice {
            refuse.say(Key::Choices, None, ProblemKind::Choices(MAX_WORDS));
            return None;
        }
    }
    let duration = duration.to_ticks().get();
    if duration > LONGEST_PULSE {
        refuse.say(Key::Pulse, None, ProblemKind::PulseTooLong);
        return None;
    }
    let duration = duration.max(1) as u32;
    let data =
        FactData { name: added.name.clone(), kind: *kind, choices: choices.clone(), duration };
    match bits_of(&data, default) {
        Ok(_) if *kind == FactKind::Pulse => Some((data, 0)),
        Ok(bits) => Some((data, bits)),
        Err(kind) => {
            refuse.say(None, None, kind);
            None
        }
    }
}

/// How a value of a fact is kept, or why it cannot be.
pub(super) fn bits_of(fact: &FactData, value: &FactValue) -> Result<u32, ProblemKind> {
    fact.bits_of(value).ok_or_else(|| match (fact.kind, value) {
        (FactKind::Choice, FactValue::Choice(word)) => {
            let near = NameError::nearest(word, fact.choices.iter().map(String::as_str));
            let near = near.map(ToString::to_string);
            let (fact, choices) = (fact.name.clone(), fact.choices.clone());
            ProblemKind::UnknownChoice { fact, choice: word.clone(), near, choices }
        }
        (is, value) => {
            let (fact, value) = (fact.name.clone(), value.to_string());
            ProblemKind::Value { fact, is, value }
        }
    })
}
