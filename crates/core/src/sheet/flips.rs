/// How a picture is mirrored about its pivot.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
pub struct Flips {
    /// Left to right.
    pub x: bool,
    /// Top to bottom.
    pub y: bool,
}

impl Flips {
    /// As it was drawn.
    pub const NONE: Flips = Flips { x: false, y: false };
    /// Left to right.
    pub const X: Flips = Flips { x: true, y: false };
    /// Top to bottom.
    pub const Y: Flips = Flips { x: false, y: true };

    /// Mirrored once more by others.
    pub(crate) fn flipped(self, other: Flips) -> Flips {
        Flips { x: self.x ^ other.x, y: self.y ^ other.y }
    }

    /// Left and right change places once more, where it is mirrored.
    pub(crate) fn mirrored(self, mirrored: bool) -> Flips {
        Flips { x: self.x ^ mirrored, ..self }
    }
}
