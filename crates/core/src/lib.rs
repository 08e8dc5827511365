//! The core of Lucky Reel: time, sheets, clips, playback and views.
//!
//! Games add the crate `lucky-reel`, which hands all of this on; this one is for those who build
//! upon playback alone. It is `no_std` with `alloc`, reads no files, knows no pixels and has no
//! dependencies but those that its features `serde`, `bytemuck` and `rayon` name.
//!
//! ```
//! use lucky_reel_core::{Grid, NewClip, NewSheet, Player, Reel, Ticks};
//!
//! let mut builder = Reel::builder();
//! let sheet = builder.sheet("bram", NewSheet::grid([128, 32], Grid::cell_size([32, 32])));
//! let walk = builder.clip("walk", NewClip::of(sheet).frames(0..4).fps(8).mark("step", [1, 3]));
//! let reel = builder.build()?;
//!
//! let mut bram = Player::new(&reel, walk);
//! let step = reel.mark_id("step")?;
//! let steps = bram
//!     .advance(&reel, Ticks::from_secs(2)) // four walks of four frames, however it is cut up
//!     .filter(|event| event.is_mark(step))
//!     .count();
//! assert_eq!(steps, 8);
//! assert_eq!(bram.view(&reel).unwrap().source().x, 0);
//! # Ok::<(), Box<dyn std::error::Error>>(())
//! ```
//!
//! | to | start at |
//! | --- | --- |
//! | count time | [`Ticks`], [`Clock`], [`FixedSteps`] |
//! | build a reel | [`Reel::builder`], [`NewSheet`], [`NewClip`] |
//! | play a clip | [`Player`], [`Event`] |
//! | show many of one clip in lockstep | [`Unison`] |
//! | choose clips by facts | [`Actor`], [`NewCue`], [`NewFact`] |
//! | play hundreds at once | [`Crowd`] |
//! | draw | [`View`], [`Placement`], [`InstanceWriter`], [`DrawList`] |
//! | know what hits what | [`Area`], [`AreaGrid`], [`Masks`] |
//! | report what is wrong with a reel | [`problem`] |
#![no_std]

extern crate alloc;
#[cfg(any(feature = "std", test))]
extern crate std;

mod actor;
mod angle;
mod clip;
mod crowd;
mod cue;
mod distance;
mod event;
mod facing;
mod ids;
mod kernel;
mod look;
mod mask;
mod play;
mod range;
mod reel;
mod sheet;
mod time;
mod unison;
mod view;

pub use actor::{Actor, ActorEvents, FactError, SavedActor};
pub use clip::{ClipEnd, Mode, NewClip};
pub use crowd::{
    Crowd, CrowdInstances, EventBuffer, EventMember, GroupError, GroupId, MemberId, NewMember,
    SavedCrowd, Target,
};
pub use cue::{
    ChoiceId, Condition, ConditionPart, FactId, FactKind, FactType, FactValue, NewBridge, NewCue,
    NewFact, NewPhases,
};
pub use distance::Distance;
pub use event::{CueCause, Event, EventKind, EventMask};
pub use facing::{Align, DirectionCount, Directions, Facing, NewFacings};
pub use ids::{
    AreaId, BridgeId, ClipId, CueId, FacingSetId, FrameId, ImageId, LookId, MarkId, PointId,
    RoleId, SheetId, SpanId,
};
pub use look::NewLook;
pub use mask::Masks;
pub use play::{EventUnit, Events, Player, RestoreError, Sample, SavedPlayer, random_start};
pub use range::OutOfRange;
pub use reel::{
    BuildError, Clip, Cue, Fact, Hold, NameError, NewFrame, NewSheet, Reel, ReelBuilder, Role,
};
pub use sheet::{Flips, Frame, Grid, GridError, PackedFrame, Pivot, Rect};
pub use time::{
    Clock, ExactTime, FixedSteps, ManualClock, ParseTimeError, Speed, Ticks, TimeSource,
};
pub use unison::{SavedUnison, Unison};
pub use view::{
    Area, AreaGrid, Blit, DrawItem, DrawList, Instance, InstanceAttribute, InstanceBuffer,
    InstanceFormat, InstanceWriter, LookError, LookSet, Placement, Quad, SmallInstance, View,
};

/// What can be wrong with a reel: the problems of a [`BuildError`], where each is, and names that are
/// near a misspelt one.
pub mod problem {
    pub use crate::reel::{
        BadName, Key, Problem, ProblemKind, Section, Site, nearest, suggestions,
    };
}
