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
//!         println!("{} after {}", reel.name(mark), event.at); // a footstep, at its exact moment
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
//! - A [`View`] is what to draw now; with a [`Placement`] it becomes a [`Quad`](crate::view::Quad), or a [`Blit`](crate::view::Blit). An
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
//! | the game's delta time | [`Clock`], [`FixedSteps`](crate::time::FixedSteps) |
//! | choose the clip every frame | [`Player::switch_to`] |
//! | let facts pick the clip | [`Actor`], [`NewCue`], the guide on cues |
//! | four or eight directions, some mirrored | [`NewFacings`](crate::reel::NewFacings), [`Player::face`], [`Facing::from_vector`] |
//! | another outfit, a damaged look | [`NewLook`](crate::reel::NewLook), [`LookSet`](crate::view::LookSet) |
//! | an item in a hand | [`NewSheet::point`], [`View::point_at`] |
//! | a sound on a footstep | [`EventKind::Mark`] |
//! | an attack that takes 400 ms | [`Player::set_duration`] |
//! | feet that do not slide | [`NewClip::stride`] and [`Player::advance_by_distance`] |
//! | freeze on impact | [`Player::hit_stop`] |
//! | five turns, then a random result | [`Player::play_times`], [`Player::then`] |
//! | an emote over the cues | [`Actor::play_over_cues`] |
//! | a sprite that does not move | a clip of one frame without a duration: a still |
//! | enemies that are off the screen | [`Crowd::sleep_group`], [`Crowd::wake_group`] |
//! | hundreds to millions of sprites | [`Crowd`], the guide on crowds |
//! | slow the enemies, not the hero | [`Crowd::add_group`], [`Crowd::set_group_scale`] |
//! | thousands of tiles in lockstep | [`Unison`] |
//! | many sprites out of step | [`NewMember::random_start`], [`Player::random_start`] |
//! | an instance buffer | [`InstanceWriter`], [`Instance`](crate::view::Instance), [`Crowd::instances`], [`Unison::instances`] |
//! | is it on the screen, how much room does it take | [`View::bounds`], [`Clip::envelope`] |
//! | what can be hit, and what hits it | [`NewSheet::area`], [`View::area`], [`Area`](crate::view::Area); for crowds [`AreaGrid`](crate::view::AreaGrid) |
//! | do two drawings touch, pixel by pixel | [`Masks`](crate::view::Masks) |
//! | one texture for all sheets | `assets::Atlas` (feature `atlas`) |
//! | what stands before what | [`DrawList`] |
//! | see areas, pivots, clips and cues over the game (debug overlay) | [`Overlay`] |
//! | save games and rollback | [`Player::save`] with any serde format, or just a copy |
//! | hear a sound once after a rollback | [`EventHistory`](crate::event::EventHistory) |
//! | a hitbox at the exact time of a mark | [`Player::view_at`], [`Crowd::view_at`] |
//! | what an unknown id does | [`CommandError`] |
//! | what is wrong with a reel built in code, in sentences | `assets::LoadError::from` a [`BuildError`] |
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
//! | `assets` (default) | reel files in TOML, images in PNG and APNG; some ten crates, such as `png` |
//! | `report` | problems of reel files are shown with the line of the file, and the place marked |
//! | `atlas` | `assets::Atlas`: the frames of all files on few images, packed when they are loaded |
//! | `archive` | `assets::Archive`: reel files and images in one ZIP file |
//! | `gif`, `webp`, `json` | images in GIF and WebP, reel files in JSON |
//! | `watch` | `assets::Watcher`: files that are edited while the game runs |
//! | `std` (with `assets`) | [`Clock::lap`], which reads the system's clock |
//! | `serde` | [`Saved`](crate::save::Saved) players, actors, crowds and unisons in any serde format |
//! | `bytemuck` | [`Instance`](crate::view::Instance) and [`SmallInstance`](crate::view::SmallInstance) as plain bytes |
//! | `rayon` | `Crowd::set_parallel`: a crowd is advanced on all cores |
//!
//! Without default features the library is `no_std`, reads no files, and depends on its own core alone.
#![cfg_attr(not(feature = "std"), no_std)]

extern crate alloc;

#[cfg(feature = "assets")]
pub use lucky_reel_assets as assets;
#[doc(inline)]
pub use lucky_reel_core::{
    Actor, BuildError, Clip, ClipId, CommandError, Condition, Crowd, Directions, Event,
    EventBuffer, EventKind, EventMask, Facing, Flips, Grid, InstanceWriter, MarkId, Mode, NewClip,
    NewCue, NewMember, NewSheet, Placement, Player, Reel, Speed, Ticks, Unison, View,
};

mod clock;
mod contact;
mod event_history;
pub mod guide;
mod order;
mod overlay;

pub use clock::Clock;
pub use order::DrawList;
pub use overlay::Overlay;

/// Members of a crowd, and how they are drawn.
pub mod crowd {
    #[doc(inline)]
    pub use lucky_reel_core::{GroupId, MemberId, NewMember, Target};
}

/// Facts, cues and bridges: what actors choose their clips by.
pub mod cue {
    #[doc(inline)]
    pub use lucky_reel_core::{
        Condition, Cue, CueTest, Fact, FactType, FactValue, NewBridge, NewFact, Role,
    };
}

/// What an advance reports, and how it is read.
pub mod event {
    #[doc(inline)]
    pub use lucky_reel_core::{CueCause, Events};

    #[doc(inline)]
    pub use crate::event_history::EventHistory;
}

/// What names are looked up as, once: [`Reel::id`].
pub mod id {
    #[doc(inline)]
    pub use lucky_reel_core::{
        AreaId, BridgeId, ChoiceId, ClipId, CueId, DataKey, DataType, FacingSetId, FactId, FrameId,
        Id, ImageId, LookId, MarkId, PointId, RoleId, SheetId, SpanId,
    };
}

/// What a reel is built from, and what it says of itself.
pub mod reel {
    #[doc(inline)]
    pub use lucky_reel_core::{
        Align, BuildError, Clip, ClipEnd, ClipMark, ClipSpan, FacingSet, Frame, Hold, MarkDatum,
        NameError, NewFacings, NewFrame, NewLook, PhaseGroup, Pivot, Rect, ReelBuilder,
    };
}

/// Saved players, actors, crowds and unisons.
pub mod save {
    #[doc(inline)]
    pub use lucky_reel_core::{RestoreError, Savable, Saved};
}

/// Ticks, speeds and clocks.
pub mod time {
    #[doc(inline)]
    pub use lucky_reel_core::ExactTime;

    #[doc(inline)]
    pub use crate::clock::FixedSteps;
}

/// Pictures at a place: quads, blits, instances, hitboxes, draw order.
pub mod view {
    #[doc(inline)]
    pub use lucky_reel_core::{
        Area, Blit, Directions, ImageRun, Instance, InstanceAttribute, InstanceBuffer,
        InstanceFormat, InstanceWriter, Instances, LookSet, PackedFrame, Quad, SmallInstance,
    };

    #[doc(inline)]
    pub use crate::contact::{AreaGrid, Masks, PictureAt};
    #[doc(inline)]
    pub use crate::order::{DrawItem, DrawList, OtherReel};
    #[doc(inline)]
    pub use crate::overlay::{Overlay, OverlayLine, OverlayPart};
}

/// What can be wrong with a reel: for programs that read reels from files of their own.
pub mod problem {
    #[doc(inline)]
    pub use lucky_reel_core::problem::{Key, Problem, Section};
}

/// What a first game needs, for one `use`.
pub mod prelude {
    #[cfg(feature = "assets")]
    pub use crate::assets::{self, Art};
    pub use crate::{
        ClipId, Clock, Crowd, EventKind, Facing, Flips, Grid, MarkId, Mode, NewClip, NewSheet,
        Placement, Player, Reel, Speed, Ticks,
    };
}
