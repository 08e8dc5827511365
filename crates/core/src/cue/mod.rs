//! Roles: facts that the game tells, and cues that choose the clip from them.
//!
//! Here is what they are; [`actor`](crate::actor) is what becomes of them while time passes.

mod bridge;
mod fact;
mod fact_id;
mod new_cue;
mod stored;
mod when;

pub use bridge::NewBridge;
pub(crate) use bridge::NewPhases;
pub(crate) use fact::FactKind;
pub use fact::{FactValue, NewFact};
pub use fact_id::{ChoiceId, FactId, FactType};
pub use new_cue::NewCue;
pub(crate) use new_cue::{NewSpeed, NewTarget};
pub(crate) use stored::{
    BridgeData, CueData, CueTarget, FactData, PhaseData, RoleData, SpeedBy, facing_for,
};
pub use when::Condition;
pub(crate) use when::ConditionPart;
pub(crate) use when::{AllOf, Circumstances, Test, Within};

/// A role has at most so many facts.
pub(crate) const MAX_FACTS: usize = 32;
/// A role's cues name at most so many spans.
pub(crate) const MAX_SPANS: usize = 32;
