//! Playback: what is up, what comes next, and what happened on the way.
//!
//! | file | what of a player |
//! | --- | --- |
//! | `player.rs` | its 48 bytes |
//! | `state.rs`, `life.rs` | where it is in its life: the one table of states, and its flags; what that lets it do |
//! | `cross.rs` | the first moment, one boundary, both ends, what follows: the laws, each once |
//! | `movement.rs`, `advance.rs` | what moves it; any amount of time or distance at once |
//! | `events.rs`, `reading.rs` | the boundaries between two states, listed; what the caller reads |
//! | `control.rs` | what the game tells it to do |
//! | `place.rs` | going to a place: seek, step, switch in place, the next version of a reel |
//! | `queries.rs`, `save.rs`, `bits.rs` | what can be asked, saved, and kept outside Rust |

mod advance;
mod bits;
mod control;
mod cross;
mod events;
mod life;
mod movement;
mod place;
mod player;
mod queries;
mod reading;
mod save;
mod state;

pub(crate) use advance::Fast;
pub(crate) use events::PlayerEvents;
pub(crate) use events::Walk;
pub(crate) use movement::Drive;
pub(crate) use player::Plan;
pub use player::Player;
pub use reading::Events;
pub(crate) use reading::HasEvents;
pub(crate) use save::SavedState;
pub(crate) use state::{FLIPS, FLIPS_SHIFT, State, begun_flags};
