//! Looks: other pictures for the same playback. Times, marks and ends stay those of the base, so that
//! changing clothes never changes the game.

use alloc::string::String;
use alloc::vec::Vec;

use crate::ids::{ClipId, FrameId, SheetId};

/// Describes a look to build; [`ReelBuilder::look`](crate::ReelBuilder::look) takes it.
///
/// ```
/// use lucky_reel_core::{Grid, NewClip, NewLook, NewSheet, Player, Reel, LookSet};
///
/// let mut builder = Reel::builder();
/// let day = builder.sheet("bram", NewSheet::grid([128, 32], Grid::cell_size([32, 32])));
/// let dusk = builder.sheet("bram-dusk", NewSheet::grid([128, 32], Grid::cell_size([32, 32])));
/// let idle = builder.clip("idle", NewClip::of(day).frames([2]).fps(1));
/// let look = builder.look("dusk", NewLook::new().sheet(day, dusk));
/// let reel = builder.build()?;
///
/// let bram = Player::new(&reel, idle);
/// let mut worn = LookSet::NOTHING;
/// worn.wear(&reel, look)?;
/// let view = bram.view_with(&reel, &worn).unwrap();
/// assert_eq!(view.frame.image.index(), 1);
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[derive(Clone, Debug, Default)]
#[must_use = "give it to `ReelBuilder::look`"]
pub struct NewLook {
    pub(crate) sheets: Vec<(SheetId, SheetId)>,
    pub(crate) clips: Vec<(String, String)>,
}

impl NewLook {
    /// A look that changes nothing yet.
    pub fn new() -> NewLook {
        NewLook::default()
    }

    /// Frames of one sheet are those of another: as many, of the same untrimmed sizes. What is said last for a sheet
    /// counts.
    pub fn sheet(mut self, base: SheetId, other: SheetId) -> NewLook {
        self.sheets.push((base, other));
        self
    }

    /// The pictures of one clip are those of another with as many holds, by their names. Names of two facing sets stand for the
    /// clips of all facings, and names that end in `*` for all clips that begin so: `idle-*` with `idle-lantern-*`; what is
    /// said of a single clip comes before these.
    pub fn clip(mut self, base: impl Into<String>, other: impl Into<String>) -> NewLook {
        self.clips.push((base.into(), other.into()));
        self
    }
}

/// A compiled look.
#[derive(Clone, Debug, Default)]
pub(crate) struct LookData {
    /// First frame of a sheet, how many, and the first of those instead; by first frame.
    pub(crate) sheets: Vec<(u32, u32, u32)>,
    /// By clip: the clip whose pictures are shown instead, and whether they are mirrored.
    pub(crate) clips: Vec<(ClipId, ClipId, bool)>,
}

impl LookData {
    /// The clip that is shown instead of this one, and whether it is mirrored.
    pub(crate) fn clip(&self, clip: ClipId) -> Option<(ClipId, bool)> {
        let at = self.clips.binary_search_by_key(&clip, |(base, ..)| *base).ok()?;
        let (_, other, mirrored) = self.clips[at];
        Some((other, mirrored))
    }

    /// The frame that is shown instead of this one.
    pub(crate) fn frame(&self, frame: FrameId) -> Option<FrameId> {
        let at = self.sheets.partition_point(|(first, _, _)| *first <= frame.0).checked_sub(1)?;
        let (first, count, other) = self.sheets[at];
        (frame.0 - first < count).then(|| FrameId(other + (frame.0 - first)))
    }
}
