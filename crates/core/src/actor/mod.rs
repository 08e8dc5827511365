//! Actors: players that pick their own clip from facts, by their role's cues.
//!
//! # The laws of actors, and where the code keeps them
//!
//! | law | where it is stated, with an example |
//! | --- | --- |
//! | when cues are looked at, winner, hand-over, no hanging | [`Actor::advance`] |
//! | pulse | [`Actor::pulse`] |
//! | finish, bridges | [`NewCue::finish`](crate::NewCue::finish), [`NewBridge`](crate::NewBridge) |
//! | switching in place | [`Align`](crate::Align) |

mod advance;
mod control;
mod course;
mod events;
mod look;
mod save;
mod state;
mod why;

pub use control::FactError;
pub use events::ActorEvents;
pub use save::SavedActor;
pub use state::Actor;
pub use why::Why;
