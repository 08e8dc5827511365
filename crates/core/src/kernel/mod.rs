//! The kernel of playback: one table of steps for all clips of a reel, and what a boundary is.
//!
//! | file | idea |
//! | --- | --- |
//! | `line.rs` | a clip as a line (or a ring) of places: where each starts, and which is up at a time |
//! | `way.rs`, `origin.rs` | how a line is read, and which way it is headed; which clip a step is of, and its place |
//! | `step.rs` | one place and the boundary at its end, in 16 bytes |
//! | `table.rs` | the steps of all clips, made when the reel is built; what one boundary is |
//! | `rings.rs` | clips that go on to one another forever |
//! | `happened.rs` | what happens in one instant, as flags |
//! | `boundary.rs` | what happened at one boundary, as events in the order of the law |

mod boundary;
mod happened;
mod line;
mod origin;
mod rings;
mod step;
mod table;
mod way;

pub(crate) use boundary::{Boundary, Clips};
pub(crate) use happened::Happened;
pub(crate) use line::{Line, LineTime, RETURNING};
pub(crate) use origin::Origin;
pub(crate) use rings::length_by;
pub(crate) use step::Step;
pub(crate) use table::StepTable;
pub(crate) use way::Way;
