use super::{Placement, View};
use crate::angle::sin_cos;

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
        let [x, y] = [0, 1].map(|axis| self.edges(axis).map(|halves| halves as f32 / 2.0));
        let lay = self.laid(place);
        let corners =
            [[x[0], y[0]], [x[1], y[0]], [x[1], y[1]], [x[0], y[1]]].map(|at| lay.put(at));
        Quad { corners, uv: self.uv() }
    }

    /// How pixels from the pivot come to lie in the units of a place.
    pub(super) fn laid(&self, place: Placement) -> Lay {
        let mut position = place.position;
        // Snapping is done on the screen, whose y is down.
        if place.y_up {
            position[1] = -position[1];
        }
        if place.snapped {
            let turned = place.rotation != 0.0;
            position = [0, 1].map(|axis| {
                let edge = self.edges(axis)[0] as f32 / 2.0 * place.scale[axis];
                let corner = if turned { 0.0 } else { edge };
                floor(position[axis] + corner) - corner
            });
        }
        let (sin, cos) = if place.rotation == 0.0 { (0.0, 1.0) } else { sin_cos(place.rotation) };
        Lay { position, sin, cos, scale: place.scale, y_up: place.y_up }
    }

    /// The texture coordinates alone, in the order of the corners.
    #[must_use]
    pub fn uv(&self) -> [[f32; 2]; 4] {
        let [left, top, right, bottom] = self.uv_within(0.0);
        [[left, top], [right, top], [right, bottom], [left, bottom]]
    }

    /// The texture coordinates of what is seen left, above, right and below, so many texels inside.
    pub(super) fn uv_within(&self, inset: f32) -> [f32; 4] {
        let [width, height] = self.reel.image_size(self.frame.image).map(|side| side as f32);
        let source = self.frame.source;
        let within = |start: u32, length: u32, side: f32, flipped: bool| {
            let inset = inset.min(length as f32 / 2.0);
            let (first, last) = (start as f32 + inset, (start + length) as f32 - inset);
            let (first, last) = (first / side, last / side);
            if flipped { [last, first] } else { [first, last] }
        };
        let [left, right] = within(source.x, source.width, width, self.flips.x);
        let [top, bottom] = within(source.y, source.height, height, self.flips.y);
        [left, top, right, bottom]
    }
}

/// A place, worked out for one view.
pub(super) struct Lay {
    position: [f32; 2],
    sin: f32,
    cos: f32,
    scale: [f32; 2],
    y_up: bool,
}

impl Lay {
    /// Where pixels right and down from the pivot lie.
    pub(super) fn put(&self, [x, y]: [f32; 2]) -> [f32; 2] {
        let [x, y] = [x * self.scale[0], y * self.scale[1]];
        let turned = [x * self.cos - y * self.sin, x * self.sin + y * self.cos];
        let [x, y] = [self.position[0] + turned[0], self.position[1] + turned[1]];
        [x, if self.y_up { -y } else { y }]
    }
}

/// `f32::floor`, which `core` does not have. Beyond 2^23 every float is whole.
fn floor(value: f32) -> f32 {
    let whole = value as i32 as f32;
    if value.is_nan() || value.abs() >= 8_388_608.0 {
        value
    } else if whole > value {
        whole - 1.0
    } else {
        whole
    }
}
