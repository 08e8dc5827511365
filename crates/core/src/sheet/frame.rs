use crate::ids::ImageId;

/// A rectangle of an image, in pixels from the image's top left, y down.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
pub struct Rect {
    /// Pixels from the left edge.
    pub x: u32,
    /// Pixels from the top edge.
    pub y: u32,
    /// Pixels across.
    pub width: u32,
    /// Pixels down.
    pub height: u32,
}

impl Rect {
    /// A rectangle at `x`, `y`.
    #[must_use]
    pub const fn new(x: u32, y: u32, width: u32, height: u32) -> Rect {
        Rect { x, y, width, height }
    }

    /// Whether all of it lies inside an image of this size.
    #[must_use]
    pub fn fits([width, height]: [u32; 2], rect: Rect) -> bool {
        let ends = |start: u32, length: u32, size: u32| {
            start.checked_add(length).is_some_and(|end| end <= size)
        };
        ends(rect.x, rect.width, width) && ends(rect.y, rect.height, height)
    }
}

/// One drawing: a rectangle of an image, with what is needed to put it in its place.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
#[non_exhaustive]
pub struct Frame {
    /// The image it is cut from.
    pub image: ImageId,
    /// What is cut from the image, trimmed.
    pub source: Rect,
    /// Width and height of the untrimmed cell, in pixels.
    pub size: [u32; 2],
    /// Where the source lies in the untrimmed cell: pixels right and down from its top left.
    pub shift: [i32; 2],
    /// Its number within its sheet, from 0.
    pub index: u32,
    /// In half pixels.
    pub(crate) pivot: [i32; 2],
    /// Where its points stand in the reel's list of them, and how many there are.
    pub(crate) points: (u32, u16),
    /// The same for its areas.
    pub(crate) areas: (u32, u16),
}

impl Frame {
    /// The pivot, in pixels from the top left of the untrimmed cell, unflipped.
    #[must_use]
    pub fn pivot(&self) -> [f32; 2] {
        self.pivot.map(|halves| halves as f32 / 2.0)
    }
}
