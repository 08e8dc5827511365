//! The reel: the compiled, immutable bundle of sheets and clips that everything plays from.

mod builder;
mod clip;
mod compile;
mod compiled;
mod fingerprint;
mod id;
mod images;
mod name_check;
mod name_error;
mod named;
mod names;
mod new_sheet;
mod problem;
mod problem_kind;
mod roles;
mod site;
mod times;
mod variants;

pub use builder::ReelBuilder;
pub use clip::{Clip, ClipMark, ClipSpan, Hold};
pub use compiled::Reel;
pub(crate) use compiled::{Build, ReelData, SheetData};
pub use id::Id;
pub use name_error::NameError;
pub(crate) use names::ReelNames;
pub use new_sheet::{NewFrame, NewSheet};
pub use problem::{BuildError, Problem};
pub(crate) use problem_kind::ProblemKind;
pub use roles::{Cue, CueTest, Fact, Role};
use site::Site;
pub use site::{Key, Section};
pub use variants::{FacingSet, PhaseGroup};
