use super::Flips;
use crate::ids::FrameId;

/// A frame and its flips in four bytes, or nothing.
///
/// It is what shaders read that look texture coordinates up in a table, and what the
/// [`InstanceWriter`](crate::InstanceWriter) makes instances of.
///
/// ```
/// use lucky_reel_core::{Flips, Grid, NewClip, NewSheet, PackedFrame, Player, Reel};
///
/// let mut builder = Reel::builder();
/// let sheet = builder.sheet("moth", NewSheet::grid([64, 16], Grid::cell_size([16, 16])));
/// let rest = builder.clip("rest", NewClip::of(sheet).frames([3]).fps(1));
/// let reel = builder.build()?;
/// let mut moth = Player::new(&reel, rest);
/// moth.set_flips(Flips::X);
/// let picture = moth.packed_frame(&reel);
/// assert_eq!(picture.frame().map(|frame| frame.index()), Some(3));
/// assert_eq!(picture.to_bits(), 3 | 1 << 30);
/// # Ok::<(), lucky_reel_core::BuildError>(())
/// ```
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
#[repr(transparent)]
pub struct PackedFrame(pub(crate) u32);

impl PackedFrame {
    /// Nothing is up: a number that no frame has.
    pub const NOTHING: PackedFrame = PackedFrame(PackedFrame::MAX);
    /// The greatest number that the lower 30 bits hold.
    pub(crate) const MAX: u32 = (1 << PackedFrame::FLIPS_SHIFT) - 1;
    pub(crate) const FLIPS_SHIFT: u32 = 30;

    /// A frame, mirrored so.
    #[must_use]
    pub fn of(frame: FrameId, flips: Flips) -> PackedFrame {
        let flips = u32::from(flips.x) | u32::from(flips.y) << 1;
        PackedFrame(frame.0.min(PackedFrame::MAX) | flips << PackedFrame::FLIPS_SHIFT)
    }

    pub(crate) fn of_clip(frame: FrameId, mirrored: bool) -> PackedFrame {
        PackedFrame::of(frame, Flips { x: mirrored, y: false })
    }

    /// The same picture, mirrored once more: x in the lowest bit, then y.
    #[inline]
    pub(crate) fn mirrored_by(self, flips: u32) -> PackedFrame {
        PackedFrame(self.0 ^ flips << PackedFrame::FLIPS_SHIFT)
    }

    /// The frame that is up; `None` when nothing is.
    #[must_use]
    #[inline]
    pub fn frame(self) -> Option<FrameId> {
        let frame = self.0 & PackedFrame::MAX;
        (frame != PackedFrame::MAX).then_some(FrameId(frame))
    }

    /// How it is mirrored, what its clip does included.
    #[must_use]
    pub fn flips(self) -> Flips {
        Flips { x: self.0 >> PackedFrame::FLIPS_SHIFT & 1 != 0, y: self.0 >> 31 != 0 }
    }

    /// The frame's number in the lower 30 bits (all ones when nothing is up), then a bit for each of
    /// left to right and top to bottom.
    #[must_use]
    pub const fn to_bits(self) -> u32 {
        self.0
    }

    /// The picture that [`to_bits`](PackedFrame::to_bits) gave. Any number is accepted; a reel shows nothing
    /// for a frame that it does not have.
    #[must_use]
    pub const fn from_bits(bits: u32) -> PackedFrame {
        PackedFrame(bits)
    }
}
