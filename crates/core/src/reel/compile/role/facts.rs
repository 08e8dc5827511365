//! What the game tells, and how its values are kept.

use alloc::format;
use alloc::string::{String, ToString};
use alloc::vec::Vec;

use super::RoleCompiler;
use crate::cue::{FactData, FactKind, FactValue, MOST_FACTS, NewFact};
use crate::reel::builder::Added;
use crate::reel::name_error::nearest;

/// A pulse lasts at most so many ticks: 59 seconds.
const LONGEST_PULSE: u64 = 59 * crate::time::Ticks::PER_SECOND;
/// A fact has at most so many words.
const MOST_WORDS: usize = 64;

impl RoleCompiler<'_> {
    pub(super) fn facts(&mut self) -> (Vec<Option<FactData>>, [u32; MOST_FACTS]) {
        let (mut facts, mut defaults) = (Vec::new(), [0; MOST_FACTS]);
        let (builder, role) = (self.builder, self.role);
        for fact in builder.facts.iter().filter(|fact| fact.role == role) {
            let slot = self.data.names.facts.rank(fact.id);
            if slot >= MOST_FACTS {
                let problem = format!("a role has at most {MOST_FACTS} facts");
                let remedy = "use fewer (those that a reload took away count until a restart)";
                self.refuse("facts", &fact.name).say("", None, problem, remedy);
                break;
            }
            if let Some((data, bits)) = self.fact(fact) {
                facts.resize_with(facts.len().max(slot + 1), || None);
                facts[slot] = Some(data);
                defaults[slot] = bits;
            }
        }
        (facts, defaults)
    }

    pub(super) fn fact(&mut self, added: &Added<NewFact>) -> Option<(FactData, u32)> {
        let NewFact { kind, default, words, lasts } = &added.new;
        let mut refuse = self.refuse("facts", &added.name);
        if *kind == FactKind::Words {
            let twice = words.iter().enumerate().any(|(nth, word)| words[..nth].contains(word));
            if words.is_empty() || words.len() > MOST_WORDS || twice {
                let problem = format!("the words must differ, and be 1 to {MOST_WORDS}");
                let remedy = "give such as { words = [\"none\", \"left\", \"right\"] }";
                refuse.say("words", None, problem, remedy);
                return None;
            }
        }
        let lasts = lasts.to_ticks().get();
        if lasts > LONGEST_PULSE {
            let problem = "a pulse lasts at most 59 seconds".to_string();
            refuse.say("pulse", None, problem, "make it shorter");
            return None;
        }
        let lasts = lasts.max(1) as u32;
        let data = FactData { name: added.name.clone(), kind: *kind, words: words.clone(), lasts };
        let bits = match bits_of(&data, default) {
            Ok(bits) => bits,
            Err((problem, remedy)) => {
                refuse.say("", None, problem, remedy);
                return None;
            }
        };
        Some((data, if *kind == FactKind::Pulse { 0 } else { bits }))
    }
}

/// How a value of a fact is kept, or why it can not be.
pub(super) fn bits_of(fact: &FactData, value: &FactValue) -> Result<u32, (String, String)> {
    fact.bits_of(value).ok_or_else(|| {
        let name = &fact.name;
        match (fact.kind, value) {
            (FactKind::Words, FactValue::Word(word)) => {
                let near = nearest(word, fact.words.iter().map(String::as_str));
                let remedy = match near {
                    Some(near) => format!("did you mean `{near}`?"),
                    None => format!("its words are {}", fact.words.join(", ")),
                };
                (format!("`{name}` has no word `{word}`"), remedy)
            }
            (kind, value) => {
                let problem = format!("`{name}` is {}, and can not be `{value}`", kind.told());
                (problem, "give a value of its kind".to_string())
            }
        }
    })
}
