/// How a picture is mirrored about its pivot.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
pub struct Flips {
    /// Left to right.
    pub x: bool,
    /// Top to bottom.
    pub y: bool,
}

impl Flips {
    /// Left and right change places once more, where it is mirrored.
    pub(crate) fn mirrored(self, mirrored: bool) -> Flips {
        Flips { x: self.x ^ mirrored, ..self }
    }
}
