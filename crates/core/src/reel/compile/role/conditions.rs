//! When a cue matches.

use alloc::string::ToString;
use alloc::vec::Vec;

use super::super::report::{FACT, SPAN};
use super::RoleCompiler;
use super::facts::bits_of;
use crate::cue::{AllOf, Condition, ConditionPart, FactData, FactKind, MAX_SPANS, Test, Within};
use crate::ids::SpanId;
use crate::order::by_number;
use crate::reel::{Key, ProblemKind, Section, Site};

impl RoleCompiler<'_> {
    pub(super) fn condition(
        &mut self,
        cue: &Site,
        nth: Option<usize>,
        condition: &Condition,
        facts: &[Option<FactData>],
    ) -> Option<AllOf> {
        let tests: Vec<Option<Test>> =
            condition.parts.iter().map(|part| self.test(cue, nth, part, facts)).collect();
        tests.into_iter().collect()
    }

    pub(super) fn test(
        &mut self,
        cue: &Site,
        nth: Option<usize>,
        part: &ConditionPart,
        facts: &[Option<FactData>],
    ) -> Option<Test> {
        let (name, values, is) = match part {
            ConditionPart::Is(name, values) => (name, values, true),
            ConditionPart::IsNot(name, values) => (name, values, false),
            ConditionPart::Within(fact, Within { from, to }) => {
                let (slot, data) = self.fact_named(cue, nth, fact, facts)?;
                let whole = data.kind == FactKind::Whole;
                if !matches!(data.kind, FactKind::Whole | FactKind::Number) {
                    let kind = ProblemKind::NotANumber(fact.clone(), data.kind);
                    self.report.at(cue).say(Key::WhenFact(fact.clone()), nth, kind);
                    return None;
                }
                if from.0.is_nan() || to.0.is_nan() || from.0 > to.0 {
                    let key = Key::WhenFact(fact.clone());
                    self.report.at(cue).say(key, nth, ProblemKind::EmptyRange);
                    return None;
                }
                let bound = |(number, included): (f64, bool)| {
                    (if whole { number } else { f64::from(number as f32) }, included)
                };
                let within = [Within { from: bound(*from), to: bound(*to) }].into();
                return Some(Test::Number { slot, whole, within });
            }
            ConditionPart::Inside(span) => return self.inside(cue, nth, span),
            ConditionPart::Facing(facings) => {
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
                Err(kind) => {
                    self.report.at(cue).say(Key::WhenFact(name.clone()), nth, kind);
                    return None;
                }
            }
        }
        let first = bits.first().copied().unwrap_or(0) != 0;
        Some(match kind {
            FactKind::Flag | FactKind::Pulse => {
                Test::Flag { slot, wanted: first == is, pulse: kind == FactKind::Pulse }
            }
            FactKind::Choice => {
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

    pub(super) fn inside(&mut self, cue: &Site, nth: Option<usize>, span: &str) -> Option<Test> {
        let names = &self.data.names.spans;
        let id = names.find_alive(self.role, span).map(|id| SpanId::new(names.family, id));
        let Some(id) = id else {
            self.report.at(cue).say_unknown(Key::WhenInside, nth, SPAN, span, names);
            return None;
        };
        let known = self.spans.iter().position(|known| *known == id);
        let bit = known.unwrap_or_else(|| {
            self.spans.push(id);
            self.spans.len() - 1
        });
        if bit >= MAX_SPANS {
            let (what, count, max) = ("spans in the cues of a role", bit + 1, MAX_SPANS);
            let kind = ProblemKind::TooMany { what, count, max };
            self.report.at(cue).say(Key::WhenInside, nth, kind);
            return None;
        }
        Some(Test::Inside { span: bit as u8 })
    }

    pub(super) fn fact_named<'f>(
        &mut self,
        cue: &Site,
        nth: Option<usize>,
        name: &str,
        facts: &'f [Option<FactData>],
    ) -> Option<(u8, &'f FactData)> {
        let found = facts.iter().enumerate().find_map(|(slot, fact)| {
            Some((slot, fact.as_ref()?)).filter(|(_, fact)| fact.name == name)
        });
        // A fact that is broken itself has been reported.
        if found.is_none() && !self.is_declared(name) {
            let key = Key::WhenFact(name.to_string());
            self.report.at(cue).say_unknown(key, nth, FACT, name, &self.data.names.facts);
        }
        found.map(|(slot, fact)| (slot as u8, fact))
    }

    /// Whether the role has a fact of this name, sound or not.
    pub(super) fn is_declared(&self, fact: &str) -> bool {
        self.mine(&self.builder.facts, &self.lists.facts).any(|(_, known)| known.name == fact)
    }

    /// A fact that is a number, for a speed.
    pub(super) fn number(
        &mut self,
        cue: &Site,
        key: Key,
        fact: &str,
        facts: &[Option<FactData>],
    ) -> Option<u8> {
        let found = facts.iter().position(|data| {
            data.as_ref().is_some_and(|data| data.name == fact && data.kind == FactKind::Number)
        });
        let sound = facts.iter().flatten().any(|data| data.name == fact);
        let broken = self.report.is_incomplete(Section::Facts, self.role, fact)
            || self.is_declared(fact) && !sound;
        if found.is_none() && !broken {
            self.report.at(cue).say(key, None, ProblemKind::SpeedFact(fact.to_string()));
        }
        found.map(|slot| slot as u8)
    }
}

/// The bits of a number, so that greater numbers have greater ones.
fn in_total_order(number: f64) -> u64 {
    let bits = number.to_bits();
    if bits >> 63 == 0 { bits | 1 << 63 } else { !bits }
}

/// Where numbers are one of these, or none of them.
fn numbers_within(numbers: Vec<f64>, is: bool) -> Vec<Within> {
    if is {
        return numbers.into_iter().map(Within::exactly).collect();
    }
    let numbers = by_number(numbers, |number| in_total_order(*number));
    let edges = core::iter::once(f64::NEG_INFINITY).chain(numbers.iter().copied());
    let ends = numbers.iter().copied().chain([f64::INFINITY]);
    edges.zip(ends).map(|(from, to)| Within { from: (from, false), to: (to, false) }).collect()
}
