//! Lucky Reel plays sprite frame sequences for 2D games: exactly, fast, and for any renderer.
//!
//! ```
//! use lucky_reel::prelude::*;
//!
//! let mut builder = Reel::builder();
//! let sheet = builder.sheet("bram", NewSheet::grid([128, 32], Grid::cell_size([32, 32])));
//! let walk = builder.clip("walk", NewClip::of(sheet).frames(0..4).fps(8).mark("step", [1, 3]));
//! let reel = builder.build()?;
//!
//! let mut bram = Player::new(&reel, walk); // a small Copy value: put it into your own struct
//! let dt = Ticks::from_rate(60);
//! for event in bram.advance(&reel, dt) {
//!     if let Some(mark) = event.mark() {
//!         println!("{} after {}", reel.mark_name(mark), event.at); // a footstep, at its exact moment
//!     }
//! }
//! let view = bram.view(&reel).expect("a loop never vanishes");
//! let quad = view.quad(Placement::at([100.0, 80.0]).scaled(2.0)); // corners and texture coordinates
//! assert_eq!(quad.corners[0], [68.0, 48.0]);
//! # Ok::<(), lucky_reel::BuildError>(())
//! ```
//!
//! It turns sheets into named clips with a duration per frame, plays them from the game's own delta time,
//! reports exactly what happened in each update, and gives any renderer a source rectangle, a quad or
//! instances, with flips and pivots applied. It does not draw, owns no window and no thread, and depends
//! on no renderer.
//!
//! # Concepts
//!
//! - A *sheet* is an image cut into *frames*, counted from 0.
//! - A *clip* is a named list of *holds*: a frame and how long it stays up. Its [`Mode`] is `loop`,
//!   `ping-pong` or `once`. *Marks* name holds that are reported when they are entered; *spans* name
//!   ranges of holds that the game can ask about.
//! - A [`Reel`] is the compiled bundle of sheets and clips, shared by everything that plays from it.
//! - A [`Player`] is the playback state of one thing: 48 bytes, `Copy`, no lifetime.
//! - An [`Event`] says what happened (a hold was entered, a mark passed, a cycle or the clip ended) and when.
//! - An [`Actor`] is a player that picks its own clip: the game sets *facts*, and *cues*, an ordered list of
//!   rules, pick the clip for them, in the actor's [`Facing`] and looks.
//! - A [`Crowd`] is many players or actors, advanced in one call; a [`Unison`] is one clock for all tiles.
//! - A [`View`] is what to draw now; with a [`Placement`] it becomes a [`Quad`], or a [`Blit`]. An
//!   [`InstanceWriter`] writes instance buffers.
//!
//! Time is counted in [`Ticks`], 72,072,000 a second, so that milliseconds and all usual frame rates
//! are whole numbers: see the guide on [time](guide::time). The [guide] also lists the keys of reel files
//! and explains playback, cues and crowds.
//!
//! # Cookbook
//!
//! | task | use |
//! | --- | --- |
//! | clips from a file | [`assets::load`], [`assets::load_all`] |
//! | clips without a file | [`Reel::builder`] |
//! | the game's delta time | [`Clock`], [`FixedSteps`]; in tests [`ManualClock`] |
//! | choose the clip every frame | [`Player::switch_to`] |
//! | let facts pick the clip | [`Actor`], [`NewCue`], the guide on cues |
//! | four or eight directions, some mirrored | [`NewFacings`], [`Player::face`], [`Facing::from_vector`] |
//! | another outfit, a damaged look | [`NewLook`], [`LookSet`] |
//! | an item in a hand | [`NewSheet::point`], [`View::point_at`] |
//! | a sound on a footstep | [`EventKind::Mark`] |
//! | an attack that takes 400 ms | [`Player::set_duration`] |
//! | feet that do not slide | [`NewClip::stride`] and [`Player::advance_by_distance`] |
//! | freeze on impact | [`Player::hit_stop`] |
//! | five turns, then a random result | [`Player::play_times`], [`Player::then`] |
//! | an emote over the cues | [`Actor::play_once`] |
//! | a sprite that does not move | a clip of one frame without a duration: a still |
//! | enemies that are off the screen | [`Crowd::sleep_group`], [`Crowd::wake_group`] |
//! | hundreds to millions of sprites | [`Crowd`], the guide on crowds |
//! | slow the enemies, not the hero | [`Crowd::add_group`], [`Crowd::set_group_scale`] |
//! | thousands of tiles in lockstep | [`Unison`]; without a clock, [`Reel::sample`] |
//! | many sprites out of step | [`NewMember::random_start`], [`Player::random_start`] |
//! | an instance buffer | [`InstanceWriter`], [`Instance`], [`Crowd::instances`], [`Unison::write_at`] |
//! | is it on the screen, how much room does it take | [`View::bounds`], [`Clip::envelope`] |
//! | what can be hit, and what hits it | [`NewSheet::area`], [`View::area`], [`Area`]; for crowds [`AreaGrid`] |
//! | do two drawings touch, pixel by pixel | [`Masks`] |
//! | one texture for all sheets | [`assets::Atlas`] |
//! | what stands before what | [`DrawList`] |
//! | save games and rollback | [`Player::save`] with any serde format, or just a copy |
//! | tune a file while the game runs | `assets::Loader::watch` (feature `watch`), [`assets::Loader::reload`] |
//!
//! # What it is not
//!
//! It is not a renderer or an editor, and has no skeletons or tweens. It plays frames.
//!
//! # Features
//!
//! | feature | brings |
//! | --- | --- |
//! | `assets` (default) | reel files in TOML, images in PNG and APNG; fifteen crates, such as `png` |
//! | `gif`, `webp`, `json` | images in GIF and WebP, reel files in JSON |
//! | `watch` | `assets::Watcher`: files that are edited while the game runs |
//! | `std` (with `assets`) | [`Clock::lap`], which reads the system's clock |
//! | `serde` | [`SavedPlayer`], [`SavedActor`], [`SavedCrowd`] and [`SavedUnison`] in any serde format |
//! | `bytemuck` | [`Instance`] and [`SmallInstance`] as plain bytes |
//! | `rayon` | `Crowd::advance_in_parallel`, on all cores |
//!
//! Without default features only the `no_std` core is compiled, which has no dependencies.
#![cfg_attr(not(feature = "std"), no_std)]

#[cfg(feature = "assets")]
pub use lucky_reel_assets as assets;
pub use lucky_reel_core::*;

pub mod guide;

/// What most games need, for one `use`.
pub mod prelude {
    #[cfg(feature = "assets")]
    pub use crate::assets::{self, Art};
    pub use crate::{
        Actor, Area, AreaGrid, AreaId, Blit, ClipId, Clock, Condition, Crowd, CueCause, CueId,
        Directions, DrawList, Event, EventBuffer, EventKind, EventMask, EventMember, Facing,
        FacingSetId, FactId, FixedSteps, Flips, FrameId, Grid, GroupId, ImageId, Instance,
        InstanceWriter, LookSet, ManualClock, MarkId, Masks, MemberId, Mode, NewBridge, NewClip,
        NewCue, NewFacings, NewFact, NewLook, NewMember, NewSheet, PackedFrame, Pivot, Placement,
        Player, Quad, Reel, RoleId, SavedActor, SavedCrowd, SavedPlayer, SavedUnison, Speed,
        Target, Ticks, TimeSource, Unison, View,
    };
}
