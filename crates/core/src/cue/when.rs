use alloc::string::String;
use alloc::vec::Vec;
use core::ops::{Bound, RangeBounds};

use super::FactValue;
use crate::facing::Facing;

/// A condition of a cue: all of its parts must match. Of several conditions of one cue, any one is enough.
///
/// ```
/// use lucky_reel_core::Condition;
///
/// let falling = Condition::new().fact("airborne", true).below("lift", 0.0);
/// let second_blow = Condition::new().fact("blow", true).inside("open");
/// let near = Condition::new().within("near", 8.0..24.0).none_of("mood", ["calm", "asleep"]);
/// ```
#[derive(Clone, Debug, Default)]
#[must_use = "give it to `NewCue::when`"]
pub struct Condition {
    pub(crate) parts: Vec<ConditionPart>,
}

/// One part of a [`Condition`].
#[derive(Clone, Debug, PartialEq)]
pub(crate) enum ConditionPart {
    Is(String, Vec<FactValue>),
    IsNot(String, Vec<FactValue>),
    Within(String, Within),
    Inside(String),
    Facing(Vec<Facing>),
}

impl Condition {
    /// Without a part: it always matches.
    pub const fn new() -> Condition {
        Condition { parts: Vec::new() }
    }

    /// A fact has this value.
    pub fn fact(self, fact: impl Into<String>, value: impl Into<FactValue>) -> Condition {
        self.any_of(fact, [value])
    }

    /// A fact has one of these values.
    pub fn any_of(
        self,
        fact: impl Into<String>,
        values: impl IntoIterator<Item = impl Into<FactValue>>,
    ) -> Condition {
        let values = values.into_iter().map(Into::into);
        self.and(ConditionPart::Is(fact.into(), values.collect()))
    }

    /// A fact has none of these values.
    pub fn none_of(
        self,
        fact: impl Into<String>,
        values: impl IntoIterator<Item = impl Into<FactValue>>,
    ) -> Condition {
        let values = values.into_iter().map(Into::into);
        self.and(ConditionPart::IsNot(fact.into(), values.collect()))
    }

    /// A number is greater than this.
    pub fn above(self, fact: impl Into<String>, number: f64) -> Condition {
        self.within(fact, (Bound::Excluded(number), Bound::Unbounded))
    }

    /// A number is less than this.
    pub fn below(self, fact: impl Into<String>, number: f64) -> Condition {
        self.within(fact, ..number)
    }

    /// A number lies in this range. For a fact of the type `f32` its bounds are the `f32` nearest to
    /// them, so that 0.1 is not above 0.1.
    pub fn within(self, fact: impl Into<String>, range: impl RangeBounds<f64>) -> Condition {
        let bound = |bound: Bound<&f64>, open| match bound {
            Bound::Included(number) => (*number, true),
            Bound::Excluded(number) => (*number, false),
            Bound::Unbounded => (open, false),
        };
        let from = bound(range.start_bound(), f64::NEG_INFINITY);
        let to = bound(range.end_bound(), f64::INFINITY);
        self.and(ConditionPart::Within(fact.into(), Within { from, to }))
    }

    /// The clip that plays is inside this span.
    pub fn inside(self, span: impl Into<String>) -> Condition {
        self.and(ConditionPart::Inside(span.into()))
    }

    /// It faces one of these.
    pub fn facing(self, facings: impl IntoIterator<Item = Facing>) -> Condition {
        self.and(ConditionPart::Facing(facings.into_iter().collect()))
    }

    fn and(mut self, part: ConditionPart) -> Condition {
        self.parts.push(part);
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

    pub(crate) fn bounds(&self) -> (Bound<f64>, Bound<f64>) {
        let bound = |(number, is_in): (f64, bool)| match (number.is_finite(), is_in) {
            (false, _) => Bound::Unbounded,
            (true, true) => Bound::Included(number),
            (true, false) => Bound::Excluded(number),
        };
        (bound(self.from), bound(self.to))
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
}
