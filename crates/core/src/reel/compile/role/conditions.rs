//! When a cue holds.

use alloc::format;
use alloc::string::ToString;
use alloc::vec::Vec;

use super::super::Refuse;
use super::RoleCompiler;
use super::facts::bits_of;
use crate::cue::{Condition, FactData, FactKind, MOST_SPANS, NewWhen, Test, When, Within};
use crate::ids::SpanId;
use crate::reel::name_error::nearest;

impl RoleCompiler<'_> {
    pub(super) fn condition(
        &mut self,
        cue: &str,
        nth: Option<usize>,
        condition: &When,
        facts: &[Option<FactData>],
    ) -> Option<Condition> {
        let tests: Vec<Option<Test>> =
            condition.all.iter().map(|part| self.test(cue, nth, part, facts)).collect();
        tests.into_iter().collect()
    }

    pub(super) fn test(
        &mut self,
        cue: &str,
        nth: Option<usize>,
        part: &NewWhen,
        facts: &[Option<FactData>],
    ) -> Option<Test> {
        let (name, values, is) = match part {
            NewWhen::Is(name, values) => (name, values, true),
            NewWhen::IsNot(name, values) => (name, values, false),
            NewWhen::Within { fact, from, to } => {
                let (slot, data) = self.fact_named(cue, nth, fact, facts)?;
                let whole = data.kind == FactKind::Whole;
                if !matches!(data.kind, FactKind::Whole | FactKind::Number) {
                    let problem = format!("`{fact}` is {}, not a number", data.kind.told());
                    let remedy = "compare it with one of its own values";
                    self.refuse("cues", cue).say(&format!("when.{fact}"), nth, problem, remedy);
                    return None;
                }
                if from.0.is_nan() || to.0.is_nan() || from.0 > to.0 {
                    let problem = "no number lies there".to_string();
                    let remedy = "write such as \"> 0\" or \"-2 to 3\"";
                    self.refuse("cues", cue).say(&format!("when.{fact}"), nth, problem, remedy);
                    return None;
                }
                let bound = |(number, included): (f64, bool)| {
                    (if whole { number } else { f64::from(number as f32) }, included)
                };
                let within = [Within { from: bound(*from), to: bound(*to) }].into();
                return Some(Test::Number { slot, whole, within });
            }
            NewWhen::Inside(span) => return self.inside(cue, nth, span),
            NewWhen::Facing(facings) => {
                let among = facings.iter().fold(0, |bits, facing| bits | 1 << *facing as u8);
                return Some(Test::Facing { among });
            }
        };
        let (slot, data) = self.fact_named(cue, nth, name, facts)?;
        let (data, kind) = (data.clone(), data.kind);
        let mut bits = Vec::new();
        for value in values {
            match bits_of(&data, value) {
                Ok(value) => bits.push(value),
                Err((problem, remedy)) => {
                    self.refuse("cues", cue).say(&format!("when.{name}"), nth, problem, remedy);
                    return None;
                }
            }
        }
        let first = bits.first().copied().unwrap_or(0) != 0;
        Some(match kind {
            FactKind::Flag | FactKind::Pulse => {
                Test::Flag { slot, wanted: first == is, pulse: kind == FactKind::Pulse }
            }
            FactKind::Words => {
                let among = bits.iter().fold(0_u64, |among, word| among | 1 << word);
                Test::Word { slot, among: if is { among } else { !among } }
            }
            FactKind::Whole | FactKind::Number => {
                let whole = kind == FactKind::Whole;
                let number = |bits: &u32| {
                    if whole { f64::from(*bits as i32) } else { f64::from(f32::from_bits(*bits)) }
                };
                let numbers: Vec<f64> = bits.iter().map(number).collect();
                Test::Number { slot, whole, within: numbers_within(numbers, is) }
            }
        })
    }

    pub(super) fn inside(&mut self, cue: &str, nth: Option<usize>, span: &str) -> Option<Test> {
        let names = &self.data.names.spans;
        let id = names.find_alive(self.role, span).map(|id| SpanId::new(names.family, id));
        let Some(id) = id else {
            let mut refuse = Refuse {
                table: "cues",
                role: self.role.to_string(),
                name: cue.to_string(),
                faults: self.faults,
            };
            refuse.say_unknown("when.inside", nth, "span", span, names);
            return None;
        };
        let known = self.spans.iter().position(|known| *known == id);
        let bit = known.unwrap_or_else(|| {
            self.spans.push(id);
            self.spans.len() - 1
        });
        if bit >= MOST_SPANS {
            let problem = format!("the cues of a role name at most {MOST_SPANS} spans");
            self.refuse("cues", cue).say("when.inside", nth, problem, "use fewer");
            return None;
        }
        Some(Test::Inside { span: bit as u8 })
    }

    pub(super) fn fact_named<'f>(
        &mut self,
        cue: &str,
        nth: Option<usize>,
        name: &str,
        facts: &'f [Option<FactData>],
    ) -> Option<(u8, &'f FactData)> {
        let known =
            facts.iter().enumerate().filter_map(|(slot, fact)| Some((slot, fact.as_ref()?)));
        let found = known.clone().find(|(_, fact)| fact.name == name);
        // A fact that is at fault itself has told so.
        let declared = self.builder.facts.iter().any(|f| f.role == self.role && f.name == name);
        if found.is_none() && !declared {
            let names = known.map(|(_, fact)| &*fact.name);
            let remedy = match nearest(name, names) {
                Some(near) => format!("did you mean `{near}`?"),
                None => "add it to the facts".to_string(),
            };
            let problem = format!("there is no fact `{name}`");
            self.refuse("cues", cue).say(&format!("when.{name}"), nth, problem, remedy);
        }
        found.map(|(slot, fact)| (slot as u8, fact))
    }

    /// A fact that is a number, for a speed.
    pub(super) fn number(
        &mut self,
        cue: &str,
        key: &str,
        fact: &str,
        facts: &[Option<FactData>],
    ) -> Option<u8> {
        let found = facts.iter().position(|data| {
            data.as_ref().is_some_and(|data| data.name == fact && data.kind == FactKind::Number)
        });
        if found.is_none() {
            let problem = format!("there is no number `{fact}` among the facts");
            let remedy = "name a fact whose default is a number with a point, such as pace = 1.0";
            self.refuse("cues", cue).say(key, None, problem, remedy);
        }
        found.map(|slot| slot as u8)
    }
}

/// Where numbers are one of these, or none of them.
fn numbers_within(mut numbers: Vec<f64>, is: bool) -> Vec<Within> {
    if is {
        return numbers.into_iter().map(Within::exactly).collect();
    }
    numbers.sort_by(f64::total_cmp);
    let edges = core::iter::once(f64::NEG_INFINITY).chain(numbers.iter().copied());
    let ends = numbers.iter().copied().chain([f64::INFINITY]);
    edges.zip(ends).map(|(from, to)| Within { from: (from, false), to: (to, false) }).collect()
}
