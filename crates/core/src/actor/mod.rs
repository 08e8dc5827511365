//! Actors: players that pick their own clip from facts, by their role's cues. (A *cue* is a rule: when
//! these facts match, play this clip.)
//!
//! | file | what of an actor |
//! | --- | --- |
//! | `state.rs` | what it is |
//! | `control.rs` | what the game tells it, and what can be asked |
//! | `over_cues.rs` | clips that it plays over whatever its cues say |
//! | `evaluate.rs` | one evaluation of its cues: who wins, and what becomes of it |
//! | `run.rs`, `take_in.rs` | one advance from moment to moment; what its events mean for the cues |
//! | `repeat.rs` | what is skipped because it repeats |
//! | `advance.rs`, `events.rs` | the fast path around all that, and what is read |
//! | `save.rs`, `failing.rs` | saved actors; which tests of a cue fail |

mod advance;
mod control;
mod evaluate;
mod events;
mod failing;
mod over_cues;
mod repeat;
mod run;
mod save;
mod state;
mod take_in;

pub(crate) use save::SavedActing;
pub use state::Actor;
