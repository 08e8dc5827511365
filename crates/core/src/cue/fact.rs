use alloc::string::{String, ToString};
use alloc::vec::Vec;
use core::fmt;

use crate::time::ExactTime;

/// The kind of a fact.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub enum FactKind {
    /// Yes or no.
    Flag,
    /// A whole number.
    Whole,
    /// A number.
    Number,
    /// One of a closed list of choices.
    Choice,
    /// Yes for an instant, or for a stated time; it falls by itself.
    Pulse,
}

/// What it is, in words: `a whole number`.
impl fmt::Display for FactKind {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(self.describe())
    }
}

impl FactKind {
    pub(crate) const fn describe(self) -> &'static str {
        match self {
            FactKind::Flag => "yes or no",
            FactKind::Whole => "a whole number",
            FactKind::Number => "a number",
            FactKind::Choice => "one of its choices",
            FactKind::Pulse => "a pulse",
        }
    }
}

impl FactKind {
    /// The same for data on marks, where a word may be any text.
    pub(crate) const fn describe_data(self) -> &'static str {
        match self {
            FactKind::Choice => "a text",
            other => other.describe(),
        }
    }
}

/// A value of a fact, or of data on a mark, as files and tools write it.
#[derive(Clone, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
#[non_exhaustive]
pub enum FactValue {
    /// Yes or no; of a pulse, whether it is up.
    Flag(bool),
    /// A whole number.
    Whole(i32),
    /// A number.
    Number(f32),
    /// A word: of a fact one of its choices, on a mark any text.
    Choice(String),
}

impl From<bool> for FactValue {
    fn from(value: bool) -> FactValue {
        FactValue::Flag(value)
    }
}

impl From<i32> for FactValue {
    fn from(value: i32) -> FactValue {
        FactValue::Whole(value)
    }
}

impl From<f32> for FactValue {
    fn from(value: f32) -> FactValue {
        FactValue::Number(value)
    }
}

impl From<&str> for FactValue {
    fn from(value: &str) -> FactValue {
        FactValue::Choice(value.to_string())
    }
}

impl fmt::Display for FactValue {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            FactValue::Flag(value) => write!(f, "{value}"),
            FactValue::Whole(value) => write!(f, "{value}"),
            FactValue::Number(value) => write!(f, "{value}"),
            FactValue::Choice(value) => f.write_str(value),
        }
    }
}

/// Describes a fact to build; [`ReelBuilder::fact`](crate::ReelBuilder::fact) takes it. A plain value
/// makes a fact of its type with this default.
#[derive(Clone, Debug)]
pub struct NewFact {
    pub(crate) kind: FactKind,
    pub(crate) default: FactValue,
    pub(crate) choices: Vec<String>,
    pub(crate) duration: ExactTime,
}

impl NewFact {
    fn of(kind: FactKind, default: FactValue) -> NewFact {
        NewFact { kind, default, choices: Vec::new(), duration: ExactTime::ZERO }
    }

    /// A fact that is one of these choices; the first is the default.
    #[must_use]
    pub fn choices<W: Into<String>>(choices: impl IntoIterator<Item = W>) -> NewFact {
        let choices: Vec<String> = choices.into_iter().map(Into::into).collect();
        let first = choices.first().cloned().unwrap_or_default();
        NewFact { choices, ..NewFact::of(FactKind::Choice, FactValue::Choice(first)) }
    }

    /// The default choice.
    #[must_use]
    pub fn starting_as(mut self, choice: impl Into<String>) -> NewFact {
        self.default = FactValue::Choice(choice.into());
        self
    }

    /// A pulse: true for one instant.
    #[must_use]
    pub fn pulse() -> NewFact {
        NewFact::of(FactKind::Pulse, FactValue::Flag(false))
    }

    /// A pulse that stays true for this long, at most 59 seconds, so that a press just before its time
    /// still counts.
    #[must_use]
    pub fn pulse_for(time: impl Into<ExactTime>) -> NewFact {
        NewFact { duration: time.into(), ..NewFact::pulse() }
    }
}

impl From<bool> for NewFact {
    fn from(value: bool) -> NewFact {
        NewFact::of(FactKind::Flag, value.into())
    }
}

impl From<i32> for NewFact {
    fn from(value: i32) -> NewFact {
        NewFact::of(FactKind::Whole, value.into())
    }
}

impl From<f32> for NewFact {
    fn from(value: f32) -> NewFact {
        NewFact::of(FactKind::Number, value.into())
    }
}
