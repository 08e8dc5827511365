//! The reel: the compiled, immutable bundle of sheets and clips that everything plays from.

mod builder;
mod clip;
mod compile;
mod compiled;
mod cues;
mod fault;
mod fingerprint;
mod name_error;
mod names;
mod new_sheet;
mod roles;
mod times;

pub use builder::ReelBuilder;
pub use clip::{Clip, Hold};
pub use compiled::Reel;
pub(crate) use compiled::{Build, ReelData, SheetData};
pub use fault::{BuildError, Fault};
pub use name_error::{NameError, nearest};
pub(crate) use names::ReelNames;
pub use new_sheet::{NewFrame, NewSheet};
pub use roles::{Cue, Fact, Role};
