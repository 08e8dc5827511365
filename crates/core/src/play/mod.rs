//! Playback: what is up, what comes next, and what happened on the way.
//!
//! # The laws, and where the code keeps them
//!
//! | law | where it is stated, with an example |
//! | --- | --- |
//! | time | [`time`](crate::time) |
//! | half-open holds | [`Player`] |
//! | partition, nothing skipped | [`Player::advance`] |
//! | start | [`Player::play`] |
//! | cycles | [`Mode`](crate::Mode) |
//! | end | [`End`](crate::End) |
//! | backwards | [`Player::set_speed`] |
//! | order in one instant | [`Event`] |
//! | same clip again | [`Player::switch_to`] |
//! | seek | [`Player::seek`] |
//! | hit-stop | [`Player::hit_stop`] |
//! | fitting, ground covered | [`Player::fit_to`], [`Player::advance_by_distance`] |
//! | a look-up and a player never disagree | [`Reel::moment`](crate::Reel::moment) |
//! | pivot | [`view`](crate::view) |
//! | refused when built | [`ReelBuilder`](crate::ReelBuilder) |
//! | the next version of a reel, a foreign reel | [`Reel::next_version`](crate::Reel::next_version), [`Player::fits`] |

mod advance;
mod control;
mod cross;
mod crossing;
mod events;
mod in_place;
mod moment;
mod movement;
mod parts;
mod player;
mod read;
mod save;
mod scatter;
mod seek;
mod steps;

pub(crate) use crossing::Crossing;
pub(crate) use events::serial_of_change;
pub use events::{Event, Events};
pub use moment::Moment;
pub(crate) use movement::Drive;
pub(crate) use parts::{FLIPS, FLIPS_SHIFT, Parts};
pub use player::Player;
pub(crate) use save::{Plain, full_name};
pub use save::{SaveError, SavedPlayer};
pub use scatter::scattered;
pub(crate) use steps::{Step, Steps};
