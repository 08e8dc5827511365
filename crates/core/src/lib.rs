//! The core of Lucky Reel: time, sheets, clips, playback and views.
//!
//! Games add the crate `lucky-reel`, which hands all of this on; this one is for those who build
//! upon playback alone. It is `no_std` with `alloc`, reads no files, knows no pixels and has no
//! dependencies but those that its features `serde`, `bytemuck` and `rayon` name.
//!
//! ```
//! use lucky_reel_core::{MarkId, Grid, NewClip, NewSheet, Player, Reel, Ticks};
//!
//! let mut builder = Reel::builder();
//! let sheet = builder.sheet("bram", NewSheet::grid([128, 32], Grid::cell_size([32, 32])));
//! let walk = builder.clip("walk", NewClip::of(sheet).frames(0..4).fps(8).mark("step", [1, 3]));
//! let reel = builder.build()?;
//!
//! let mut bram = Player::new(&reel, walk);
//! let step: MarkId = reel.id("step")?;
//! let steps = bram
//!     .advance(&reel, Ticks::from_secs(2)) // four walks of four frames, however it is cut up
//!     .filter(|event| event.is_mark(step))
//!     .count();
//! assert_eq!(steps, 8);
//! assert_eq!(bram.view(&reel).unwrap().frame.source.x, 0);
//! # Ok::<(), Box<dyn std::error::Error>>(())
//! ```
//!
//! | to | start at |
//! | --- | --- |
//! | count time | [`Ticks`], [`Speed`] |
//! | build a reel | [`Reel::builder`], [`NewSheet`], [`NewClip`] |
//! | play a clip | [`Player`], [`Event`] |
//! | show many of one clip in lockstep | [`Unison`] |
//! | choose clips by facts | [`Actor`], [`NewCue`], [`NewFact`] |
//! | play hundreds at once | [`Crowd`] |
//! | draw | [`View`], [`Placement`], [`InstanceWriter`] |
//! | know what hits what | [`Area`] |
//! | report what is wrong with a reel | [`problem`] |
#![no_std]

extern crate alloc;
#[cfg(test)]
extern crate std;

mod actor;
mod angle;
mod axes;
mod checksum;
mod clip;
mod command_error;
mod crowd;
mod cue;
mod distance;
mod event;
mod facing;
mod ids;
mod kernel;
mod new_look;
mod order;
mod play;
mod range;
mod reel;
mod save;
mod sheet;
mod time;
mod unison;
mod view;

pub use actor::Actor;
pub use clip::{ClipEnd, DataKey, DataType, Mode, NewClip};
pub use command_error::CommandError;
pub use crowd::{Crowd, EventBuffer, GroupId, MemberId, NewMember, Target};
pub use cue::{ChoiceId, Condition, FactId, FactType, FactValue, NewBridge, NewCue, NewFact};
pub use event::{CueCause, Event, EventKind, EventMask};
pub use facing::{Align, Directions, Facing, NewFacings};
pub use ids::{
    AreaId, BridgeId, ClipId, CueId, FacingSetId, FrameId, ImageId, LookId, MarkId, PointId,
    RoleId, SheetId, SpanId,
};
pub use new_look::NewLook;
pub use play::{Events, Player};
pub use reel::{
    BuildError, Clip, ClipMark, ClipSpan, Cue, CueTest, FacingSet, Fact, Hold, Id, MarkDatum,
    NameError, NewFrame, NewSheet, PhaseGroup, Reel, ReelBuilder, Role,
};
pub use save::{RestoreError, Savable, Saved};
pub use sheet::{Flips, Frame, Grid, PackedFrame, Pivot, Rect};
pub use time::{ExactTime, Speed, Ticks};
pub use unison::Unison;
pub use view::{
    Area, Blit, ImageRun, Instance, InstanceAttribute, InstanceBuffer, InstanceFormat,
    InstanceWriter, Instances, LookSet, Placement, Quad, SmallInstance, View,
};

/// What can be wrong with a reel: the problems of a [`BuildError`], and where each is. Programs that read
/// reels from files of their own need it; games do not.
pub mod problem {
    pub use crate::reel::{Key, Problem, Section};
}
