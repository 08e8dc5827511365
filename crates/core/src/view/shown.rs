use super::{Flips, View};
use crate::ids::FrameId;
use crate::reel::Reel;

/// What is up, in four bytes: a frame's number and how it is mirrored, or nothing.
///
/// It is what shaders read that look texture coordinates up in a table, and what the
/// [`Writer`](crate::Writer) makes instances of.
///
/// ```
/// use lucky_reel_core::{Grid, NewClip, NewSheet, Shown, Player, Reel};
///
/// let mut builder = Reel::builder();
/// let sheet = builder.sheet("moth", NewSheet::grid([64, 16], Grid::cells([16, 16])));
/// let rest = builder.clip("rest", NewClip::of(sheet).frames([3]).fps(1));
/// let reel = builder.build()?;
/// let mut moth = Player::new(&reel, rest);
/// moth.set_flip_x(true);
/// let picture = moth.shown(&reel);
/// assert_eq!(picture.frame().map(|frame| frame.index()), Some(3));
/// assert_eq!(picture.to_bits(), 3 | 1 << 30);
/// # Ok::<(), lucky_reel_core::BuildError>(())
/// ```
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
#[repr(transparent)]
pub struct Shown(pub(crate) u32);

impl Shown {
    /// Nothing is up: a number that no frame has.
    pub const NOTHING: Shown = Shown(Shown::MOST);
    /// The greatest number that the lower 30 bits hold.
    pub(crate) const MOST: u32 = (1 << Shown::FLIPS_SHIFT) - 1;
    pub(crate) const FLIPS_SHIFT: u32 = 30;

    /// A frame, mirrored so.
    #[must_use]
    pub fn of(frame: FrameId, flips: Flips) -> Shown {
        let flips = u32::from(flips.x) | u32::from(flips.y) << 1;
        Shown(frame.0.min(Shown::MOST) | flips << Shown::FLIPS_SHIFT)
    }

    pub(crate) fn of_clip(frame: FrameId, mirrored: bool) -> Shown {
        Shown::of(frame, Flips { x: mirrored, y: false })
    }

    /// The same picture, mirrored once more: x in the lowest bit, then y.
    #[inline]
    pub(crate) fn mirrored_by(self, flips: u32) -> Shown {
        Shown(self.0 ^ flips << Shown::FLIPS_SHIFT)
    }

    /// The frame that is up; `None` when nothing is.
    #[must_use]
    #[inline]
    pub fn frame(self) -> Option<FrameId> {
        let frame = self.0 & Shown::MOST;
        (frame != Shown::MOST).then_some(FrameId(frame))
    }

    /// How it is mirrored, what its clip does included.
    #[must_use]
    pub fn flips(self) -> Flips {
        Flips { x: self.0 >> Shown::FLIPS_SHIFT & 1 != 0, y: self.0 >> 31 != 0 }
    }

    /// The frame's number in the lower 30 bits (all ones when nothing is up), then a bit for each of
    /// left to right and top to bottom.
    #[must_use]
    pub const fn to_bits(self) -> u32 {
        self.0
    }

    /// All of it, to be drawn; `None` when nothing is up.
    #[must_use]
    pub fn view(self, reel: &Reel) -> Option<View<'_>> {
        View::of(reel, self.frame()?, self.flips())
    }
}

impl View<'_> {
    /// This picture in four bytes.
    #[must_use]
    pub fn shown(&self) -> Shown {
        Shown::of(self.id, self.flips)
    }
}
