use alloc::sync::Arc;
use alloc::vec::Vec;
use core::fmt;

use super::names::{NameError, ReelNames};
use super::{Clip, Tracks};
use crate::clip::ClipData;
use crate::cue::{PhaseData, RoleData};
use crate::facing::FacingSet;
use crate::ids::{ClipId, FrameId, ImageId, MarkId, PointId, SheetId, SpanId};
use crate::look::LookData;
use crate::sheet::Frame;

/// Sheets, frames and clips, checked and compiled: what players play from.
///
/// It never changes, is cheap to clone (one count) and is shared by all that play from it. Playing
/// cannot fail and does not allocate: what could go wrong was refused when the reel was built.
///
/// # Versions
///
/// [`Reel::next_version`] begins a builder for the next version of the same reel, for reloading
/// while the game runs. Names that survive keep their ids, new ones follow, ids of names that are
/// gone are dead. A player finds its place again by clip and hold in its next advance or view.
/// With a foreign reel nothing moves and nothing is shown.
#[derive(Clone)]
pub struct Reel {
    pub(crate) stamp: Stamp,
    pub(crate) data: Arc<ReelData>,
}

/// Which reel, and which version of it: the reel's family in the upper 24 bits, the version below,
/// and in the lowest bit whether it is ready: a reel always is. A player is while nothing stands in
/// the way of its going on, so that one comparison tells that it may.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Stamp(u32);

impl Stamp {
    const READY: u32 = 1;
    const VERSION: u32 = 0xfe;

    /// The first version of a family.
    pub(crate) fn first(fingerprint: u64) -> Stamp {
        Stamp(((fingerprint >> 40) as u32) << 8 | Stamp::READY)
    }

    pub(crate) fn next_version(self) -> Stamp {
        Stamp(self.0 & !Stamp::VERSION | self.0.wrapping_add(2) & Stamp::VERSION)
    }

    pub(crate) fn with_ready(self, ready: bool) -> Stamp {
        Stamp(self.0 & !Stamp::READY | u32::from(ready))
    }

    /// Whether a player that bears this stamp may go on with a reel that bears the other.
    #[inline]
    pub(crate) fn is_ready_for(self, reel: Stamp) -> bool {
        self.0 == reel.0
    }

    pub(crate) fn same_family(self, other: Stamp) -> bool {
        self.0 >> 8 == other.0 >> 8
    }

    pub(crate) fn same_version(self, other: Stamp) -> bool {
        self.0 >> 1 == other.0 >> 1
    }
}

#[derive(Default)]
pub(crate) struct ReelData {
    pub(crate) tracks: Tracks,
    pub(crate) clips: Vec<Option<ClipData>>,
    pub(crate) frames: Vec<Frame>,
    pub(crate) sheets: Vec<Option<SheetData>>,
    /// Width and height of each image, in pixels.
    pub(crate) images: Vec<[u32; 2]>,
    /// The points of frames in half pixels, frame by frame, in the order of their ids.
    pub(crate) points: Vec<(PointId, [i32; 2])>,
    /// Clips that are others mirrored, and those others.
    pub(crate) mirrors: Vec<(ClipId, ClipId)>,
    pub(crate) facings: Vec<Option<FacingSet>>,
    pub(crate) looks: Vec<Option<LookData>>,
    pub(crate) roles: Vec<Option<RoleData>>,
    pub(crate) phases: Vec<PhaseData>,
    pub(crate) names: ReelNames,
    pub(crate) fingerprint: u64,
}

/// Where a sheet's frames stand in the list of all frames.
#[derive(Clone, Copy, Debug)]
pub(crate) struct SheetData {
    pub(crate) first_frame: u32,
    pub(crate) frames: u32,
}

impl Reel {
    /// The clip of this name, `walk`, or of this role and name, `bram/walk`. Look it up once, and
    /// keep the id.
    ///
    /// # Errors
    /// When there is none, naming the nearest; or when several roles have it.
    pub fn clip(&self, name: &str) -> Result<ClipId, NameError> {
        self.data.names.clips.look_up("clip", name).map(ClipId)
    }

    /// The sheet of this name.
    ///
    /// # Errors
    /// As for [`clip`](Reel::clip).
    pub fn sheet(&self, name: &str) -> Result<SheetId, NameError> {
        self.data.names.sheets.look_up("sheet", name).map(SheetId)
    }

    /// The mark of this name.
    ///
    /// # Errors
    /// As for [`clip`](Reel::clip).
    pub fn mark(&self, name: &str) -> Result<MarkId, NameError> {
        self.data.names.marks.look_up("mark", name).map(MarkId)
    }

    /// The span of this name.
    ///
    /// # Errors
    /// As for [`clip`](Reel::clip).
    pub fn span(&self, name: &str) -> Result<SpanId, NameError> {
        self.data.names.spans.look_up("span", name).map(SpanId)
    }

    /// The point of this name.
    ///
    /// # Errors
    /// As for [`clip`](Reel::clip).
    pub fn point(&self, name: &str) -> Result<PointId, NameError> {
        self.data.names.points.look_up("point", name).map(PointId)
    }

    /// The name of a clip without its role; empty for a dead or foreign id.
    #[must_use]
    pub fn clip_name(&self, clip: ClipId) -> &str {
        self.data.names.clips.get(clip.index()).map_or("", |name| &name.name)
    }

    /// The role of a clip; empty where none was named.
    #[must_use]
    pub fn clip_role(&self, clip: ClipId) -> &str {
        self.data.names.clips.get(clip.index()).map_or("", |name| &name.role)
    }

    /// The name of a mark without its role; empty for a dead or foreign id.
    #[must_use]
    pub fn mark_name(&self, mark: MarkId) -> &str {
        self.data.names.marks.get(mark.index()).map_or("", |name| &name.name)
    }

    /// The name of a span without its role; empty for a dead or foreign id.
    #[must_use]
    pub fn span_name(&self, span: SpanId) -> &str {
        self.data.names.spans.get(span.index()).map_or("", |name| &name.name)
    }

    /// The name of a point without its role; empty for a dead or foreign id.
    #[must_use]
    pub fn point_name(&self, point: PointId) -> &str {
        self.data.names.points.get(point.index()).map_or("", |name| &name.name)
    }

    /// All clips, in the order of their ids.
    pub fn clips(&self) -> impl Iterator<Item = Clip<'_>> {
        let numbered = (0_u16..).zip(&self.data.clips);
        numbered.filter_map(|(id, data)| {
            Some(Clip { reel: self, id: ClipId(id), data: data.as_ref()? })
        })
    }

    /// A clip to be read; `None` for a dead or foreign id.
    #[must_use]
    pub fn get_clip(&self, clip: ClipId) -> Option<Clip<'_>> {
        Some(Clip { reel: self, id: clip, data: self.clip_data(clip)? })
    }

    /// A frame; `None` for a foreign id.
    #[must_use]
    pub fn frame(&self, frame: FrameId) -> Option<&Frame> {
        self.data.frames.get(frame.index())
    }

    /// A frame of a sheet by its number there; `None` where there is none.
    #[must_use]
    pub fn frame_of_sheet(&self, sheet: SheetId, index: u32) -> Option<FrameId> {
        let sheet = self.data.sheets.get(sheet.index())?.as_ref()?;
        (index < sheet.frames).then(|| FrameId(sheet.first_frame + index))
    }

    /// How many frames a sheet has; 0 for a dead or foreign id.
    #[must_use]
    pub fn frames_of_sheet(&self, sheet: SheetId) -> u32 {
        self.data.sheets.get(sheet.index()).and_then(|data| *data).map_or(0, |data| data.frames)
    }

    /// How many images it has.
    #[must_use]
    pub fn image_count(&self) -> usize {
        self.data.images.len()
    }

    /// Width and height of an image, in pixels; nothing for a foreign id.
    #[must_use]
    pub fn image_size(&self, image: ImageId) -> [u32; 2] {
        self.data.images.get(image.index()).copied().unwrap_or([0, 0])
    }

    /// A number that tells two machines whether they play the same: it depends on names, frames,
    /// times, modes, ends, marks and spans, and on nothing else. Equal on every machine.
    #[must_use]
    pub fn fingerprint(&self) -> u64 {
        self.data.fingerprint
    }

    /// The points of a frame in half pixels from its untrimmed top left, unflipped.
    pub(crate) fn points_of(&self, frame: &Frame) -> &[(PointId, [i32; 2])] {
        let (start, count) = (frame.points.0 as usize, usize::from(frame.points.1));
        self.data.points.get(start..start + count).unwrap_or_default()
    }

    pub(crate) fn clip_data(&self, clip: ClipId) -> Option<&ClipData> {
        self.data.clips.get(clip.index())?.as_ref()
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
