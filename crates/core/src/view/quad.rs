use super::{Placement, View};

/// Four corners with texture coordinates, clockwise on the screen from the top left.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Quad {
    /// Corners in the units of the place.
    pub corners: [[f32; 2]; 4],
    /// Texture coordinates from 0 to 1, y down as images are stored.
    pub uv: [[f32; 2]; 4],
}

impl View<'_> {
    /// The corners and texture coordinates of this picture at a place. Flips are in the texture
    /// coordinates: the corners are those that are seen.
    #[must_use]
    pub fn quad(&self, place: Placement) -> Quad {
        Quad { corners: self.corners(place), uv: self.uv() }
    }

    /// The texture coordinates alone, in the order of the corners.
    pub(crate) fn uv(&self) -> [[f32; 2]; 4] {
        let [width, height] = self.reel.image_size(self.frame.image).map(|side| side as f32);
        let source = self.frame.source;
        let ends = |start: u32, length: u32, side: f32, flipped: bool| {
            let (first, last) = (start as f32 / side, (start + length) as f32 / side);
            if flipped { [last, first] } else { [first, last] }
        };
        let [left, right] = ends(source.x, source.width, width, self.flips.x);
        let [top, bottom] = ends(source.y, source.height, height, self.flips.y);
        [[left, top], [right, top], [right, bottom], [left, bottom]]
    }
}
