//! `[facts]`: what the game tells, with the defaults and so the kinds.

use lucky_reel_core::problem::Section;
use lucky_reel_core::{FactValue, NewFact};

use super::origins::{Home, Origin};
use super::{To, duration};
use crate::document::{Node, Notes, Value, join};
use crate::index::Index;

/// A value of each fact, by its name: of the type that all its values have.
pub(super) type Kinds = Index<FactValue>;

pub(super) fn read(to: &mut To<'_, '_>, facts: Option<&Node>) -> Kinds {
    let mut kinds = Kinds::default();
    let Some(facts) = facts else { return kinds };
    let Some(entries) = facts.table() else {
        to.notes.say_kind(facts, "facts", "facts with their defaults, such as moving = false");
        return kinds;
    };
    for (nth, entry) in entries.iter().enumerate() {
        let before = to.notes.found;
        let home = Home { table: "facts", entry: nth };
        to.origin(Section::Facts, Origin::new(home, &entry.key, entry));
        if let Some((kind, fact)) = read_fact(to.notes, &entry.node, &join("facts", &entry.key)) {
            kinds.insert(entry.key.clone(), kind);
            to.builder.fact(&entry.key, fact);
        }
        to.incomplete_since(before, Section::Facts, &entry.key);
    }
    kinds
}

fn read_fact(notes: &mut Notes<'_>, node: &Node, path: &str) -> Option<(FactValue, NewFact)> {
    match &node.value {
        Value::Bool(value) => return Some((FactValue::Flag(*value), (*value).into())),
        Value::Number(text) => {
            return match number_of(text) {
                Some(FactValue::Whole(number)) => Some((number.into(), number.into())),
                Some(FactValue::Number(number)) => Some((number.into(), number.into())),
                _ => {
                    let fix = "write a whole number of 32 bits, or one with a point";
                    notes.say(&node.span, path, "a fact cannot be this number", fix);
                    None
                }
            };
        }
        Value::Table(_) => {}
        _ => {
            let wanted =
                "a default such as false, 0, 0.0, { pulse = true } or { choices = [\"none\", …] }";
            notes.say_kind(node, path, wanted);
            return None;
        }
    }
    let fields = notes.fields(node, path, &["pulse", "choices", "default"])?;
    match (fields.get("pulse"), fields.get("choices"), fields.get("default")) {
        (Some(pulse), None, None) => {
            let fact = match &pulse.value {
                Value::Bool(true) => NewFact::pulse(),
                _ => NewFact::pulse_for(duration(notes, pulse, &join(path, "pulse"))?),
            };
            Some((FactValue::Flag(false), fact))
        }
        (None, Some(words), default) => {
            let read: Option<Vec<&str>> =
                words.list().and_then(|words| words.iter().map(Node::text).collect());
            let Some(read) = read else {
                notes.say_kind(
                    words,
                    &join(path, "choices"),
                    "choices such as [\"none\", \"left\"]",
                );
                return None;
            };
            let mut fact = NewFact::choices(read);
            if let Some(default) = default {
                match default.text() {
                    Some(word) => fact = fact.starting_as(word),
                    None => {
                        notes.say_kind(default, &join(path, "default"), "one of the words");
                        return None;
                    }
                }
            }
            Some((FactValue::Choice(String::new()), fact))
        }
        _ => {
            let fix =
                "write { pulse = true }, { pulse = \"100ms\" } or { choices = [\"none\", …] }";
            notes.say(&node.span, path, "it does not say what kind of fact this is", fix);
            None
        }
    }
}

/// A whole number, or one with a point.
fn number_of(text: &str) -> Option<FactValue> {
    if text.contains(['.', 'e', 'E']) {
        let number: f32 = text.parse().ok()?;
        number.is_finite().then_some(FactValue::Number(number))
    } else {
        text.parse().ok().map(FactValue::Whole)
    }
}

/// A value for a fact, of the type of its other values where that is known; whether it fits is the core's to say.
pub(super) fn value_of(
    notes: &mut Notes<'_>,
    node: &Node,
    path: &str,
    kind: Option<&FactValue>,
) -> Option<FactValue> {
    let value = match &node.value {
        Value::Bool(value) => Some(FactValue::Flag(*value)),
        Value::Text(text) => Some(FactValue::Choice(text.clone())),
        Value::Number(text) => number_of(text),
        _ => None,
    };
    if value.is_none() {
        let wanted = match kind {
            Some(FactValue::Flag(_)) => "true or false",
            Some(FactValue::Whole(_)) => "a whole number",
            Some(FactValue::Number(_)) => "a number",
            Some(FactValue::Choice(_)) => "one of its choices",
            _ => "true or false, a number or a text",
        };
        notes.say_kind(node, path, wanted);
    }
    value
}
