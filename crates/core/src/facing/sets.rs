use alloc::string::String;
use alloc::vec::Vec;

use super::Facing;
use core::fmt;

use crate::ids::ClipId;

/// What is kept when one clip takes another's place.
///
/// # Switching in place
///
/// The place is kept, and no marks of the hold that it lands in are reported.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
pub enum Align {
    /// The share of the cycle: ⌊place × new cycle ÷ old cycle⌋.
    #[default]
    Time,
    /// The hold, and the share of it.
    Hold,
    /// Nothing: the other clip begins at its start.
    Start,
}

/// The word for it in reel files: `time`, `hold` or `start`.
impl fmt::Display for Align {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(match self {
            Align::Time => "time",
            Align::Hold => "hold",
            Align::Start => "start",
        })
    }
}

/// Describes a facing set to build; [`ReelBuilder::facings`](crate::ReelBuilder::facings) takes it.
///
/// A mirrored facing becomes a clip of its own, named after the set and the facing, such as
/// `walk-left`; where the role has such a clip already, that one is used: art of its own comes before
/// a mirror.
///
/// ```
/// use lucky_reel_core::{Facing, Grid, NewClip, NewFacings, NewSheet, Player, Reel, Ticks};
///
/// let mut builder = Reel::builder();
/// let sheet = builder.sheet("bram", NewSheet::grid([128, 64], Grid::cell_size([32, 32])));
/// builder.clip("walk-down", NewClip::of(sheet).frames(0..4).fps(8));
/// builder.clip("walk-right", NewClip::of(sheet).frames(4..8).fps(8));
/// let walk = NewFacings::new()
///     .clip(Facing::Down, "walk-down")
///     .clip(Facing::Right, "walk-right")
///     .mirror(Facing::Left, Facing::Right);
/// let walk = builder.facings("walk", walk);
/// let reel = builder.build()?;
///
/// let mut bram = Player::new(&reel, reel.facing_set(walk).unwrap().clip(Facing::Down));
/// bram.advance(&reel, Ticks::from_millis(300));
/// bram.face(&reel, walk, Facing::Left); // each update, harmless
/// assert_eq!(bram.hold_index(&reel), Some(2)); // the legs go on
/// assert!(bram.view(&reel).unwrap().flips.x);
/// # Ok::<(), lucky_reel_core::BuildError>(())
/// ```
#[derive(Clone, Debug, Default)]
#[must_use = "give it to `ReelBuilder::facings`"]
pub struct NewFacings {
    pub(crate) of: Vec<(Facing, NewFacing)>,
    pub(crate) align: Align,
}

#[derive(Clone, Debug)]
pub(crate) enum NewFacing {
    Clip(String),
    Mirror { of: Facing, swap: Vec<(String, String)> },
}

impl NewFacings {
    /// A set that has no facings yet.
    pub fn new() -> NewFacings {
        NewFacings::default()
    }

    /// The clip of one facing, by its name; it may be made later.
    pub fn clip(mut self, facing: Facing, clip: impl Into<String>) -> NewFacings {
        self.of.push((facing, NewFacing::Clip(clip.into())));
        self
    }

    /// One facing shows another one's clip, mirrored.
    pub fn mirror(self, facing: Facing, of: Facing) -> NewFacings {
        self.mirror_swapping(facing, of, core::iter::empty::<(&str, &str)>())
    }

    /// One facing shows another one's clip, mirrored, and these pairs of marks change places: the
    /// mirrored right foot is the left one.
    pub fn mirror_swapping<N: Into<String>>(
        mut self,
        facing: Facing,
        of: Facing,
        marks: impl IntoIterator<Item = (N, N)>,
    ) -> NewFacings {
        let swap = marks.into_iter().map(|(one, other)| (one.into(), other.into())).collect();
        self.of.push((facing, NewFacing::Mirror { of, swap }));
        self
    }

    /// What a change of facing keeps: by default the fraction of the cycle.
    pub fn align(mut self, align: Align) -> NewFacings {
        self.align = align;
        self
    }
}

/// A compiled facing set.
#[derive(Clone, Debug)]
pub(crate) struct FacingSetData {
    /// The clip of each facing, in their order; the nearest one's where it has none.
    pub(crate) clips: [ClipId; 8],
    /// Whether each facing has a clip of its own, or another's mirrored; by their bits.
    pub(crate) own: u8,
    pub(crate) align: Align,
}

impl FacingSetData {
    pub(crate) fn clip(&self, facing: Facing) -> ClipId {
        self.clips[facing as usize]
    }

    /// Whether a facing has a clip of its own, or another's mirrored.
    pub(crate) fn has_own(&self, facing: Facing) -> bool {
        self.own >> facing as u8 & 1 == 1
    }

    pub(crate) fn has(&self, clip: ClipId) -> bool {
        self.clips.contains(&clip)
    }
}
