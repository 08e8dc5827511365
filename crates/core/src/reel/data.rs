use alloc::sync::Arc;
use alloc::vec::Vec;
use core::fmt;
use core::sync::atomic::{AtomicU32, Ordering};

use super::name_table::ReelNames;
use super::{Clip, DataTable};
use crate::clip::ClipData;
use crate::cue::{PhaseData, RoleData};
use crate::facing::FacingSetData;
use crate::ids::{AreaId, ClipId, Family, FrameId, PointId, SheetId};
use crate::kernel::{Clips, StepTable};
use crate::new_look::LookData;
use crate::sheet::Frame;

/// Sheets, frames and clips, checked and compiled: what players play from.
///
/// It never changes, is cheap to clone (one count) and is shared by all that play from it. Playing
/// cannot fail and does not allocate: what could go wrong was refused when the reel was built.
///
/// # Versions
///
/// [`Reel::reload`] begins a builder for the next version of the same reel, for reloading
/// while the game runs. Names that survive keep their ids, new ones follow, ids of names that are
/// gone are dead. A player finds its place again by clip and hold in its next advance or view.
/// With a foreign reel nothing moves and nothing is shown.
#[derive(Clone)]
pub struct Reel {
    pub(crate) family: Family,
    pub(crate) build: Build,
    pub(crate) data: Arc<ReelData>,
}

/// Which build of a reel it is: a number that no other build of this process has, and in the lowest bit
/// whether it is ready. A reel always is; a player is while nothing stands in the way of its going on, so
/// that one comparison tells that it may.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) struct Build(u32);

impl Build {
    const READY: u32 = 1;

    /// Of a build that has just been made.
    pub(super) fn new() -> Build {
        static NEXT: AtomicU32 = AtomicU32::new(1);
        Build(NEXT.fetch_add(1, Ordering::Relaxed) << 1 | Build::READY)
    }

    pub(crate) const fn to_bits(self) -> u32 {
        self.0
    }

    #[inline]
    pub(crate) const fn with_ready(self, ready: bool) -> Build {
        Build(self.0 & !Build::READY | ready as u32)
    }

    /// Whether they are the same build, ready or not.
    #[inline]
    pub(crate) const fn is(self, other: Build) -> bool {
        self.0 >> 1 == other.0 >> 1
    }
}

#[derive(Clone)]
pub(crate) struct ReelData {
    pub(crate) steps: StepTable,
    pub(crate) clips: Vec<Option<ClipData>>,
    pub(crate) frames: Vec<Frame>,
    pub(crate) sheets: Vec<Option<SheetData>>,
    /// Width and height of each image, in pixels.
    pub(crate) images: Vec<[u32; 2]>,
    /// The points of frames in half pixels, frame by frame, in the order of their ids.
    pub(crate) points: Vec<(PointId, [i32; 2])>,
    /// Their areas, likewise: left, top, width and height.
    pub(crate) areas: Vec<(AreaId, [i32; 4])>,
    /// Clips that are others mirrored, and those others.
    pub(crate) mirrors: Vec<(ClipId, ClipId)>,
    pub(crate) facings: Vec<Option<FacingSetData>>,
    pub(crate) looks: Vec<Option<LookData>>,
    pub(crate) roles: Vec<Option<RoleData>>,
    pub(crate) phases: Vec<PhaseData>,
    pub(crate) mark_data: DataTable,
    pub(crate) names: ReelNames,
    pub(crate) fingerprint: u64,
}

impl ReelData {
    /// Nothing but names yet.
    pub(super) fn new(names: ReelNames) -> ReelData {
        ReelData {
            steps: StepTable::default(),
            clips: Vec::new(),
            frames: Vec::new(),
            sheets: Vec::new(),
            images: Vec::new(),
            points: Vec::new(),
            areas: Vec::new(),
            mirrors: Vec::new(),
            facings: Vec::new(),
            looks: Vec::new(),
            roles: Vec::new(),
            phases: Vec::new(),
            mark_data: DataTable::default(),
            names,
            fingerprint: 0,
        }
    }
}

/// Where a sheet's frames stand in the list of all frames.
#[derive(Clone, Copy, Debug)]
pub(crate) struct SheetData {
    pub(crate) first_frame: u32,
    pub(crate) frames: u32,
}

impl Reel {
    /// All clips, in the order of their ids.
    pub fn clips(&self) -> impl Iterator<Item = Clip<'_>> {
        let numbered = (0_u16..).zip(&self.data.clips);
        numbered.filter_map(|(id, data)| {
            Some(Clip::new(self, ClipId::new(self.family, id), data.as_ref()?))
        })
    }

    /// A clip; `None` for an id that the reel does not know.
    #[must_use]
    pub fn clip(&self, clip: ClipId) -> Option<Clip<'_>> {
        Some(Clip::new(self, clip, self.clip_data(clip)?))
    }

    /// A frame; `None` for an id that the reel does not have.
    #[must_use]
    pub fn frame(&self, frame: FrameId) -> Option<&Frame> {
        self.data.frames.get(frame.index())
    }

    /// The frames of a sheet, in the order of their numbers there; none for an id that the reel does not
    /// know.
    pub fn frames_of(&self, sheet: SheetId) -> impl ExactSizeIterator<Item = FrameId> + use<> {
        let data = self.sheet_data(sheet);
        let known = data.map_or(0..0, |data| data.first_frame..data.first_frame + data.frames);
        known.map(FrameId)
    }

    fn sheet_data(&self, sheet: SheetId) -> Option<SheetData> {
        *self.data.sheets.get(usize::from(sheet.number_in(self.family)?))?
    }

    /// A hash for checking that two machines play the same: of the names, frames, times, modes, ends, marks
    /// and spans of clips, and of facts, cues, bridges and phases. It does not depend on the order in which
    /// they were added, but for cues and bridges, nor on where frames lie in their images. Equal on every
    /// machine.
    #[must_use]
    pub fn fingerprint(&self) -> u64 {
        self.data.fingerprint
    }

    /// A number for this build of the reel, never used again while the program runs: equal numbers, equal
    /// reels. Reloading and [packing](Reel::with_images) give another one.
    #[must_use]
    #[inline]
    pub fn version(&self) -> u32 {
        self.build.to_bits()
    }

    /// A clip by its id; `None` for a dead or foreign one.
    pub(crate) fn clip_data(&self, clip: ClipId) -> Option<&ClipData> {
        self.clip_at(clip.number_in(self.family)?)
    }

    /// A clip by its number; `None` where it is dead.
    #[inline]
    pub(crate) fn clip_at(&self, clip: u16) -> Option<&ClipData> {
        self.data.clips.get(usize::from(clip))?.as_ref()
    }

    /// The number of a clip that this reel has.
    pub(crate) fn number_of(&self, clip: ClipId) -> Option<u16> {
        clip.number_in(self.family).filter(|number| self.clip_at(*number).is_some())
    }

    /// All clips, for the kernel.
    #[inline]
    pub(crate) fn clip_list(&self) -> Clips<'_> {
        Clips { family: self.family, data: &self.data.clips }
    }

    /// The steps of all clips.
    #[inline]
    pub(crate) fn steps(&self) -> &StepTable {
        &self.data.steps
    }
}

impl fmt::Debug for Reel {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.debug_struct("Reel")
            .field("clips", &self.clips().count())
            .field("frames", &self.data.frames.len())
            .field("images", &self.data.images.len())
            .field("fingerprint", &self.data.fingerprint)
            .finish()
    }
}
