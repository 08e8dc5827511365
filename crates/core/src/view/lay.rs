//! A placement, worked out: where pixels from the pivot come to lie.

use super::Placement;
use crate::axes::both;

/// A placement in numbers that a point is multiplied by.
pub(super) struct Lay {
    pub(super) position: [f32; 2],
    /// Where a pixel to the right, and one down, leads.
    pub(super) right: [f32; 2],
    pub(super) down: [f32; 2],
}

impl Lay {
    /// The placement of a picture whose left and top edges are seen so many pixels from the pivot.
    // All of this is inlined into the loops that write instances, where most of a placement is constant:
    // left to itself, the compiler makes calls of it, at nine times the cost.
    #[inline(always)]
    pub(super) fn of(place: Placement, edges: [f32; 2]) -> Lay {
        let ([across, along], [sin, cos]) = (place.scale, place.turn);
        let position = if place.snapped { snapped(edges, place) } else { place.position };
        // On the screen y is down.
        let y = if place.y_up { -1.0 } else { 1.0 };
        let right = [across * cos, across * sin * y];
        Lay { position, right, down: [-along * sin, along * cos * y] }
    }

    /// Where pixels right and down from the pivot lie.
    #[inline(always)]
    pub(super) fn put(&self, [x, y]: [f32; 2]) -> [f32; 2] {
        let at = |axis: usize| self.position[axis] + x * self.right[axis] + y * self.down[axis];
        [at(0), at(1)]
    }
}

/// A position from which the picture's left top corner, or its pivot if it is rotated, lies on whole
/// units. Snapping is done on the screen, whose y is down.
fn snapped(edges: [f32; 2], place: Placement) -> [f32; 2] {
    let y = if place.y_up { -1.0 } else { 1.0 };
    let on_screen = [place.position[0], place.position[1] * y];
    let [x, down] = both(|axis| {
        let corner = if place.rotates() { 0.0 } else { edges[axis] * place.scale[axis] };
        floor(on_screen[axis] + corner) - corner
    });
    [x, down * y]
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
