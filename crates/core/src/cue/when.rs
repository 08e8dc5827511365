use alloc::format;
use alloc::string::{String, ToString};
use alloc::vec::Vec;

use super::FactValue;
use crate::facing::Facing;

/// A condition of a cue: all of its parts must match. Of several conditions of one cue, any one is enough.
///
/// ```
/// use lucky_reel_core::Condition;
///
/// let falling = Condition::fact("airborne", true).and_below("lift", 0.0);
/// let second_blow = Condition::fact("blow", true).and_inside("open");
/// ```
#[derive(Clone, Debug)]
#[must_use = "give it to `NewCue::when`"]
pub struct Condition {
    pub(crate) all: Vec<ConditionPart>,
}

/// One part of a [`Condition`].
#[derive(Clone, Debug, PartialEq)]
#[non_exhaustive]
pub enum ConditionPart {
    /// A fact is one of these values, or of a number: equal to one of them.
    Is(String, Vec<FactValue>),
    /// A fact is none of these values.
    IsNot(String, Vec<FactValue>),
    /// A number lies between two, the first and the last included or not. For a fact of the kind
    /// `f32` they are the `f32` nearest to them, so that 0.1 is not above 0.1.
    Within {
        /// The fact.
        fact: String,
        /// The least, and whether it belongs to it.
        from: (f64, bool),
        /// The greatest, and whether it belongs to it.
        to: (f64, bool),
    },
    /// A clip is inside this span of its own.
    Inside(String),
    /// It faces one of these.
    Facing(Vec<Facing>),
}

impl Condition {
    /// A condition of these parts.
    pub fn all(parts: impl IntoIterator<Item = ConditionPart>) -> Condition {
        Condition { all: parts.into_iter().collect() }
    }

    /// A fact has this value.
    pub fn fact(fact: impl Into<String>, value: impl Into<FactValue>) -> Condition {
        Condition::all([]).and(fact, value)
    }

    /// A number is greater than this.
    pub fn above(fact: impl Into<String>, number: f64) -> Condition {
        Condition::all([]).and_above(fact, number)
    }

    /// A number is less than this.
    pub fn below(fact: impl Into<String>, number: f64) -> Condition {
        Condition::all([]).and_below(fact, number)
    }

    /// And a fact has this value.
    pub fn and(mut self, fact: impl Into<String>, value: impl Into<FactValue>) -> Condition {
        self.all.push(ConditionPart::Is(fact.into(), [value.into()].into()));
        self
    }

    /// And a number is greater than this.
    pub fn and_above(mut self, fact: impl Into<String>, number: f64) -> Condition {
        let fact = fact.into();
        self.all.push(ConditionPart::Within {
            fact,
            from: (number, false),
            to: (f64::INFINITY, false),
        });
        self
    }

    /// And a number is less than this.
    pub fn and_below(mut self, fact: impl Into<String>, number: f64) -> Condition {
        let fact = fact.into();
        let from = (f64::NEG_INFINITY, false);
        self.all.push(ConditionPart::Within { fact, from, to: (number, false) });
        self
    }

    /// And a number lies between these, both included.
    pub fn and_between(mut self, fact: impl Into<String>, from: f64, to: f64) -> Condition {
        self.all.push(ConditionPart::Within {
            fact: fact.into(),
            from: (from, true),
            to: (to, true),
        });
        self
    }

    /// And the clip that plays is inside this span.
    pub fn and_inside(mut self, span: impl Into<String>) -> Condition {
        self.all.push(ConditionPart::Inside(span.into()));
        self
    }

    /// And it faces one of these.
    pub fn and_facing(mut self, facings: impl IntoIterator<Item = Facing>) -> Condition {
        self.all.push(ConditionPart::Facing(facings.into_iter().collect()));
        self
    }
}

/// All of its tests must hold.
pub(crate) type AllOf = Vec<Test>;

/// A compiled test.
#[derive(Clone, Debug, PartialEq)]
pub(crate) enum Test {
    /// A flag or a pulse.
    Flag { slot: u8, wanted: bool, pulse: bool },
    /// A number lies in one of these.
    Number { slot: u8, whole: bool, within: Vec<Within> },
    /// The word is one of these, by their bits.
    Word { slot: u8, among: u64 },
    /// A bit among the spans that the role's cues name.
    Inside { span: u8 },
    /// The facing is one of these, by their bits.
    Facing { among: u8 },
}

/// From the first to the last, each included or not.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct Within {
    pub(crate) from: (f64, bool),
    pub(crate) to: (f64, bool),
}

impl Within {
    pub(crate) fn exactly(number: f64) -> Within {
        Within { from: (number, true), to: (number, true) }
    }

    /// Whether every number of another lies here, too.
    fn contains(&self, other: &Within) -> bool {
        let ((from, has_from), (to, has_to)) = (self.from, self.to);
        let above = other.from.0 > from || other.from.0 == from && (has_from || !other.from.1);
        let below = other.to.0 < to || other.to.0 == to && (has_to || !other.to.1);
        above && below
    }

    pub(crate) fn holds(&self, number: f64) -> bool {
        let (from, to) = (self.from, self.to);
        let above = number > from.0 || from.1 && number == from.0;
        let below = number < to.0 || to.1 && number == to.0;
        above && below
    }
}

/// What tests are held against.
#[derive(Clone, Copy)]
pub(crate) struct Circumstances<'a> {
    pub(crate) facts: &'a [u32; super::MAX_FACTS],
    /// The pulses that are up, by their bits.
    pub(crate) pulses: u32,
    /// The spans that the clip is inside, by their bits.
    pub(crate) spans: u32,
    pub(crate) facing: Facing,
}

impl Test {
    pub(crate) fn holds(&self, now: &Circumstances<'_>) -> bool {
        match self {
            Test::Flag { slot, wanted, pulse: true } => (now.pulses & 1 << slot != 0) == *wanted,
            Test::Flag { slot, wanted, pulse: false } => {
                (now.facts[usize::from(*slot)] != 0) == *wanted
            }
            Test::Number { slot, whole, within } => {
                let bits = now.facts[usize::from(*slot)];
                let number =
                    if *whole { f64::from(bits as i32) } else { f64::from(f32::from_bits(bits)) };
                within.iter().any(|within| within.holds(number))
            }
            Test::Word { slot, among } => {
                among.checked_shr(now.facts[usize::from(*slot)]).unwrap_or(0) & 1 != 0
            }
            Test::Inside { span } => now.spans & 1 << span != 0,
            Test::Facing { among } => among & 1 << now.facing as u8 != 0,
        }
    }

    /// Whether another test holds whenever this one does.
    pub(crate) fn implies(&self, other: &Test) -> bool {
        match (self, other) {
            (
                Test::Number { slot, within, .. },
                Test::Number { slot: other_slot, within: wider, .. },
            ) => {
                let lies_in = |one: &Within| wider.iter().any(|other| other.contains(one));
                slot == other_slot && within.iter().all(lies_in)
            }
            (Test::Word { slot, among }, Test::Word { slot: other_slot, among: wider }) => {
                slot == other_slot && among & !wider == 0
            }
            (Test::Facing { among }, Test::Facing { among: wider }) => among & !wider == 0,
            _ => self == other,
        }
    }

    /// The fact that it asks about.
    pub(crate) fn slot(&self) -> Option<u8> {
        match self {
            Test::Flag { slot, .. } | Test::Number { slot, .. } | Test::Word { slot, .. } => {
                Some(*slot)
            }
            Test::Inside { .. } | Test::Facing { .. } => None,
        }
    }
}

/// The numbers that lie there, as they are said.
pub(crate) fn describe_number(within: &Within, whole: bool) -> String {
    let Within { from, to } = within;
    // The digits that were written, not those of the number that is nearest to them.
    let text = |number: f64| if whole { number.to_string() } else { (number as f32).to_string() };
    match (from.0.is_finite(), to.0.is_finite()) {
        _ if from == to => format!("= {}", text(from.0)),
        (true, true) if from.1 && to.1 => format!("= {} to {}", text(from.0), text(to.0)),
        (true, false) => format!("{} {}", if from.1 { ">=" } else { ">" }, text(from.0)),
        (false, true) => format!("{} {}", if to.1 { "<=" } else { "<" }, text(to.0)),
        _ => format!("between {} and {}", text(from.0), text(to.0)),
    }
}
