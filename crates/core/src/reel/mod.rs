//! The reel: the compiled, immutable bundle of sheets and clips that everything plays from.

mod builder;
mod clip;
mod compile;
mod data;
mod fingerprint;
mod id;
mod images;
mod mark_data;
mod name_check;
mod name_error;
mod name_table;
mod named;
mod new_sheet;
mod problem;
mod problem_kind;
mod problem_site;
mod roles;
mod times;
mod variants;

pub use builder::ReelBuilder;
pub use clip::{Clip, ClipMark, ClipSpan, Hold};
pub use data::Reel;
pub(crate) use data::{Build, ReelData, SheetData};
pub use id::Id;
pub(crate) use mark_data::DataTable;
pub use mark_data::MarkDatum;
pub use name_error::NameError;
pub(crate) use name_table::ReelNames;
pub use new_sheet::{NewFrame, NewSheet};
use problem::Site;
pub use problem::{BuildError, Problem};
pub(crate) use problem_kind::ProblemKind;
pub use problem_site::{Key, Section};
pub use roles::{Cue, CueTest, Fact, Role};
pub use variants::{FacingSet, PhaseGroup};
