use super::Reel;
use crate::clip::{ClipData, ClipEnd, Mode};
use crate::ids::{ClipId, FrameId, MarkId, SpanId};
use crate::time::Ticks;

/// One entry of a clip: a frame and how long it stays up.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Hold {
    /// The frame, by its number in the whole reel.
    pub frame: FrameId,
    /// How long it stays up at normal speed.
    pub ticks: Ticks,
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
///     println!("{}: {} holds in {}", clip.name(), clip.holds().len(), clip.total());
/// }
/// # Ok::<(), lucky_reel_core::BuildError>(())
/// ```
#[derive(Clone, Copy, Debug)]
pub struct Clip<'r> {
    pub(crate) reel: &'r Reel,
    pub(crate) id: ClipId,
    pub(crate) data: &'r ClipData,
}

impl<'r> Clip<'r> {
    /// Its id.
    #[must_use]
    pub fn id(&self) -> ClipId {
        self.id
    }

    /// Its name, without the role.
    #[must_use]
    pub fn name(&self) -> &'r str {
        self.reel.clip_name(self.id)
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

    /// The time of the holds as listed, each once.
    #[must_use]
    pub fn total(&self) -> Ticks {
        Ticks::new(self.data.starts.last().copied().unwrap_or(0))
    }

    /// The time of one cycle: of a ping-pong there and back, else the same as the total.
    #[must_use]
    pub fn cycle_time(&self) -> Ticks {
        Ticks::new(self.data.cycle_ticks())
    }

    /// The order in which the holds are shown.
    #[must_use]
    pub fn mode(&self) -> Mode {
        self.data.mode
    }

    /// How many cycles it plays; `None` for an endless clip, 1 for `once`.
    #[must_use]
    pub fn repeat(&self) -> Option<u32> {
        (self.data.repeat > 0).then_some(self.data.repeat)
    }

    /// What happens when it is over; unused by an endless clip.
    #[must_use]
    pub fn end(&self) -> ClipEnd {
        self.data.end
    }

    /// The hold shown while it stands still.
    #[must_use]
    pub fn rest(&self) -> u32 {
        u32::from(self.data.rest)
    }

    /// The marks and their holds, by hold and then by name.
    pub fn marks(&self) -> impl Iterator<Item = (u32, MarkId)> + Clone + use<'r> {
        self.data.marks.iter().map(|&(hold, mark)| (u32::from(hold), mark))
    }

    /// The spans: name, first hold and last hold.
    pub fn spans(&self) -> impl Iterator<Item = (SpanId, u32, u32)> + Clone + use<'r> {
        self.data.spans.iter().map(|&(span, from, to)| (span, u32::from(from), u32::from(to)))
    }

    /// Whether it is a still: one frame without a duration. Its hold and its cycle take no time.
    #[must_use]
    pub fn is_still(&self) -> bool {
        self.data.is_still
    }

    /// Whether it is another clip of a facing set, mirrored.
    #[must_use]
    pub fn is_mirrored(&self) -> bool {
        self.data.mirrored
    }

    /// The clip that it is the mirror image of, where a facing set made it.
    #[must_use]
    pub fn mirror_of(&self) -> Option<ClipId> {
        let mirrors = &self.reel.data.mirrors;
        mirrors.iter().find(|(mirrored, _)| *mirrored == self.id).map(|(_, base)| *base)
    }

    /// Whether it has a stride.
    #[must_use]
    pub fn covers_ground(&self) -> bool {
        self.data.units_for_ground > 0
    }
}
