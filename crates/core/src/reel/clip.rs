use super::Reel;
use crate::clip::{ClipData, ClipEnd, Mode};
use crate::ids::{ClipId, FrameId, MarkId, SpanId};
use crate::time::Ticks;

/// One entry of a clip: a frame and how long it stays up.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub struct Hold {
    /// The frame, by its number in the whole reel.
    pub frame: FrameId,
    /// How long it stays up at normal speed.
    pub ticks: Ticks,
}

/// A mark on a hold of a clip.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub struct ClipMark {
    /// The hold, from 0 in the clip's own list.
    pub hold: u32,
    /// The mark.
    pub mark: MarkId,
}

/// A range of holds of a clip that has a name.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub struct ClipSpan {
    /// The span.
    pub span: SpanId,
    /// The first hold, from 0 in the clip's own list.
    pub first: u32,
    /// The last hold: it belongs to the span.
    pub last: u32,
}

/// A clip of a reel: read-only.
///
/// ```
/// # use lucky_reel_core::{NewClip, NewSheet, Grid, Reel, Ticks};
/// # let mut builder = Reel::builder();
/// # let sheet = builder.sheet("lamp", NewSheet::grid([64, 16], Grid::cell_size([16, 16])));
/// builder.clip("glow", NewClip::of(sheet).frames(0..4).total(Ticks::from_secs(1)));
/// let reel = builder.build()?;
/// for clip in reel.clips() {
///     println!("{}: {} holds in {}", clip.name, clip.holds().len(), clip.total);
/// }
/// # Ok::<(), lucky_reel_core::BuildError>(())
/// ```
#[derive(Clone, Copy, Debug)]
#[non_exhaustive]
pub struct Clip<'r> {
    /// Its id.
    pub id: ClipId,
    /// Its name, without the role.
    pub name: &'r str,
    /// The order in which the holds are shown.
    pub mode: Mode,
    /// How many cycles it plays; `None` for an endless clip, 1 for `once`.
    pub repeat: Option<u32>,
    /// What happens after the last hold; unused by an endless clip.
    pub end: ClipEnd,
    /// The hold shown while it stands still.
    pub rest: u32,
    /// The time of the holds as listed, each once.
    pub total: Ticks,
    /// The time of one cycle: of a ping-pong there and back, else the same as the total.
    pub cycle_time: Ticks,
    /// Whether it is a still: one frame without a duration. Its hold and its cycle take no time.
    pub is_still: bool,
    /// Whether its frames are shown mirrored.
    pub is_mirrored: bool,
    /// The clip that it is the mirror image of, where a facing set made it.
    pub mirror_of: Option<ClipId>,
    /// Whether it has a stride, so that it can be advanced by distance.
    pub has_stride: bool,
    pub(crate) reel: &'r Reel,
    pub(crate) data: &'r ClipData,
}

impl<'r> Clip<'r> {
    pub(super) fn new(reel: &'r Reel, id: ClipId, data: &'r ClipData) -> Clip<'r> {
        Clip {
            id,
            name: reel.name(id),
            mode: data.mode,
            repeat: (data.repeat > 0).then_some(data.repeat),
            end: data.end,
            rest: u32::from(data.rest),
            total: Ticks::new(data.starts.last().copied().unwrap_or(0)),
            cycle_time: Ticks::new(data.cycle_ticks()),
            is_still: data.is_still,
            is_mirrored: data.mirrored,
            mirror_of: reel.base_of(id).filter(|_| data.mirrored),
            has_stride: data.units_for_ground > 0,
            reel,
            data,
        }
    }

    /// The holds as listed, each once.
    pub fn holds(&self) -> impl ExactSizeIterator<Item = Hold> + Clone + use<'r> {
        self.data.holds.iter().map(|hold| Hold { frame: hold.frame, ticks: Ticks::new(hold.ticks) })
    }

    /// One hold by its number in the list; `None` where there is none.
    #[must_use]
    pub fn hold(&self, hold: u32) -> Option<Hold> {
        let data = self.data.holds.get(hold as usize)?;
        Some(Hold { frame: data.frame, ticks: Ticks::new(data.ticks) })
    }

    /// The marks and their holds, by hold and then by name.
    pub fn marks(&self) -> impl Iterator<Item = ClipMark> + Clone + use<'r> {
        self.data.marks.iter().map(|&(hold, mark)| ClipMark { hold: u32::from(hold), mark })
    }

    /// The spans, in the order in which they were given.
    pub fn spans(&self) -> impl Iterator<Item = ClipSpan> + Clone + use<'r> {
        self.data.spans.iter().map(|&(span, first, last)| ClipSpan {
            span,
            first: u32::from(first),
            last: u32::from(last),
        })
    }
}

impl Reel {
    fn base_of(&self, mirror: ClipId) -> Option<ClipId> {
        let mirrors = &self.data.mirrors;
        mirrors.iter().find(|(mirrored, _)| *mirrored == mirror).map(|(_, base)| *base)
    }
}
