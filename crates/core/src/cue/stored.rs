use alloc::string::String;
use alloc::vec::Vec;

use super::when::Circumstances;
use super::{AllOf, FactKind, FactValue, MAX_FACTS};
use crate::facing::{Align, Facing};
use crate::ids::{BridgeId, ClipId, CueId, FacingSetId, SpanId};

/// A compiled role.
#[derive(Clone, Debug)]
pub(crate) struct RoleData {
    /// By slot; `None` for one whose name is gone.
    pub(crate) facts: Vec<Option<FactData>>,
    /// How every fact begins.
    pub(crate) defaults: [u32; MAX_FACTS],
    /// In the order in which they are looked at; the last one always holds.
    pub(crate) cues: Vec<CueData>,
    pub(crate) bridges: Vec<BridgeData>,
    /// The spans that cues name, by their bits.
    pub(crate) spans: Vec<SpanId>,
}

#[derive(Clone, Debug)]
pub(crate) struct FactData {
    pub(crate) name: String,
    pub(crate) kind: FactKind,
    pub(crate) choices: Vec<String>,
    /// How long a pulse is up, in ticks; at least 1.
    pub(crate) duration: u32,
}

#[derive(Clone, Debug)]
pub(crate) struct CueData {
    pub(crate) id: CueId,
    /// Any of these; none at all: always.
    pub(crate) when: Vec<AllOf>,
    pub(crate) target: CueTarget,
    pub(crate) turns: bool,
    pub(crate) finish: bool,
    pub(crate) restart: bool,
    pub(crate) begin: Vec<(CueId, u16)>,
    pub(crate) speed: Option<SpeedBy>,
    /// The pulses it names, by their bits.
    pub(crate) pulses: u32,
}

#[derive(Clone, Debug)]
pub(crate) struct BridgeData {
    pub(crate) id: BridgeId,
    pub(crate) target: CueTarget,
    pub(crate) turns: bool,
    pub(crate) from: Vec<CueId>,
    pub(crate) to: Vec<CueId>,
}

/// What plays.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum CueTarget {
    Clip(ClipId),
    Facings(FacingSetId),
}

/// The fact that a speed comes from, by its slot.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum SpeedBy {
    Factor(u8),
    Distance(u8),
}

/// A group of clips in step.
#[derive(Clone, Debug)]
pub(crate) struct PhaseData {
    pub(crate) role: String,
    pub(crate) name: String,
    pub(crate) clips: Vec<ClipId>,
    pub(crate) align: Align,
}

impl FactData {
    /// Whether bits are a value that it can have.
    pub(crate) fn can_be(&self, bits: u32) -> bool {
        match self.kind {
            FactKind::Flag => bits <= 1,
            FactKind::Whole => true,
            FactKind::Number => f32::from_bits(bits).is_finite(),
            FactKind::Choice => (bits as usize) < self.choices.len(),
            FactKind::Pulse => bits <= self.duration,
        }
    }

    /// The value that is kept so.
    pub(crate) fn value_of(&self, bits: u32) -> FactValue {
        match self.kind {
            FactKind::Flag | FactKind::Pulse => FactValue::Flag(bits != 0),
            FactKind::Whole => FactValue::Whole(bits as i32),
            FactKind::Number => FactValue::Number(f32::from_bits(bits)),
            FactKind::Choice => {
                FactValue::Choice(self.choices.get(bits as usize).cloned().unwrap_or_default())
            }
        }
    }

    /// How a value is kept; `None` where it cannot be this.
    pub(crate) fn bits_of(&self, value: &FactValue) -> Option<u32> {
        match (self.kind, value) {
            (FactKind::Flag | FactKind::Pulse, FactValue::Flag(value)) => Some(u32::from(*value)),
            (FactKind::Whole, FactValue::Whole(value)) => Some(*value as u32),
            (FactKind::Number, FactValue::Whole(value)) => Some((*value as f32).to_bits()),
            (FactKind::Number, FactValue::Number(value)) => {
                // So that −0 is no change from 0.
                value.is_finite().then(|| (value + 0.0).to_bits())
            }
            (FactKind::Choice, FactValue::Choice(word)) => {
                let at = self.choices.iter().position(|known| known == word)?;
                Some(at as u32)
            }
            _ => None,
        }
    }
}

impl SpeedBy {
    pub(crate) fn slot(self) -> u8 {
        match self {
            SpeedBy::Factor(slot) | SpeedBy::Distance(slot) => slot,
        }
    }
}

impl RoleData {
    /// The first cue that holds.
    pub(crate) fn winner(&self, now: &Circumstances<'_>) -> Option<&CueData> {
        self.cues.iter().find(|cue| cue.holds(now))
    }

    /// A cue by its number.
    pub(crate) fn cue(&self, number: u16) -> Option<&CueData> {
        self.cues.iter().find(|cue| cue.id.number == number)
    }

    /// A bridge by its number.
    pub(crate) fn bridge(&self, number: u16) -> Option<&BridgeData> {
        self.bridges.iter().find(|bridge| bridge.id.number == number)
    }

    /// The first bridge that leads from one cue to another.
    pub(crate) fn bridge_between(&self, from: u16, to: u16) -> Option<&BridgeData> {
        let has = |cues: &[CueId], number| cues.iter().any(|cue| cue.number == number);
        self.bridges.iter().find(|bridge| has(&bridge.from, from) && has(&bridge.to, to))
    }

    /// Whether one cue stands above another.
    pub(crate) fn is_above(&self, one: u16, other: u16) -> bool {
        let found = self.cues.iter().find(|cue| [one, other].contains(&cue.id.number));
        one != other && found.is_some_and(|cue| cue.id.number == one)
    }
}

impl CueData {
    pub(crate) fn holds(&self, now: &Circumstances<'_>) -> bool {
        let all = |condition: &AllOf| condition.iter().all(|test| test.holds(now));
        self.when.is_empty() || self.when.iter().any(all)
    }

    /// The hold that it begins at after another cue.
    pub(crate) fn hold_after(&self, from: u16) -> Option<u16> {
        self.begin.iter().find(|(cue, _)| cue.number == from).map(|(_, hold)| *hold)
    }
}

/// What an actor does with its facing while it plays a target.
pub(crate) fn facing_for(turns: bool, facing: Facing, begun: Facing) -> Facing {
    if turns { facing } else { begun }
}
