//! Playback: what is up, what comes next, and what happened on the way.
//!
//! # The laws, and where the code keeps them
//!
//! | law | where |
//! | --- | --- |
//! | half-open holds, cycles, the closing hold | [`Player`], `line` |
//! | partition, nothing skipped, order in one instant | [`Player::advance`], [`Events`] |
//! | start, same clip again, hit-stop | [`Player::play`], [`Player::switch_to`], [`Player::hit_stop`] |
//! | end, chains and rings | [`End`](crate::End), [`Player::advance`] |
//! | backwards, and turned in flight | [`Player::set_speed`] |
//! | seek | [`Player::seek`], [`Player::seek_hold`] |
//! | fitting, ground covered | [`Player::fit_to`], [`Player::advance_by_distance`] |
//! | a look-up and a player never disagree | [`Reel::moment`](crate::Reel::moment) |
//! | reels: the next version, a foreign one | [`Player::fits`] |

mod advance;
mod control;
mod cross;
mod events;
mod line;
mod moment;
mod player;
mod read;
mod rings;
mod save;
mod seek;

pub use events::{Event, Events};
pub use moment::Moment;
pub use player::Player;
pub(crate) use rings::find_rings;
pub use save::{SaveError, SavedPlayer};
