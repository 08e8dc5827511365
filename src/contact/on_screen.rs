//! The opaque pixels of a picture where it is drawn, 64 at a time.

use lucky_reel_core::View;

use super::bits::Bits;

/// A picture on the screen.
#[derive(Clone, Copy)]
pub(super) enum OnScreen<'m> {
    /// At the size of the art, on whole pixels.
    Whole(Bits<'m>),
    /// At any size and angle.
    Sampled(Sampled<'m>),
}

impl<'m> OnScreen<'m> {
    /// A picture whose corners, clockwise from the left top, lie there.
    pub(super) fn with_corners(
        rows: &'m [u64],
        view: &View<'_>,
        corners: [[f32; 2]; 4],
    ) -> Option<OnScreen<'m>> {
        let size = [view.frame.source.width, view.frame.source.height];
        let bits = Bits { rows, at: [0, 0], size, flips: view.flips };
        let [origin, right, _, down] = corners.map(|corner| corner.map(f64::from));
        let [along, across] = [right, down].map(|end| [0, 1].map(|axis| end[axis] - origin[axis]));
        let art = size.map(f64::from);
        let at = origin.map(|side| side as i64);
        let is_whole = at.map(|side| side as f64) == origin
            && at.iter().all(|side| i32::try_from(*side).is_ok());
        if is_whole && along == [art[0], 0.0] && across == [0.0, art[1]] {
            return Some(OnScreen::Whole(Bits { at, ..bits }));
        }
        Sampled::new(bits, origin, along, across).map(OnScreen::Sampled)
    }

    /// The part of the screen that it lies in: its left top pixel, and the one past its right bottom pixel.
    pub(super) fn bounds(&self) -> [[i64; 2]; 2] {
        match self {
            OnScreen::Whole(Bits { at, size, .. }) => {
                [*at, [0, 1].map(|axis| at[axis] + i64::from(size[axis]))]
            }
            OnScreen::Sampled(sampled) => sampled.bounds,
        }
    }

    /// Which of 64 pixels to the right from a point are opaque, among those asked for.
    #[inline]
    pub(super) fn opaque(&self, point: [i64; 2], among: u64) -> u64 {
        match self {
            OnScreen::Whole(bits) => among & bits.window(point),
            OnScreen::Sampled(sampled) => sampled.opaque(point, among),
        }
    }
}

/// A picture at any size and angle: a pixel of the screen shows the texel that its middle lies on.
#[derive(Clone, Copy)]
pub(super) struct Sampled<'m> {
    bits: Bits<'m>,
    bounds: [[i64; 2]; 2],
    origin: [f64; 2],
    /// How far a step to the right, and one down, goes in texels.
    step: [[f64; 2]; 2],
}

impl<'m> Sampled<'m> {
    /// `None` where nothing of it can be seen: an edge without a length, or no number.
    fn new(
        bits: Bits<'m>,
        origin: [f64; 2],
        along: [f64; 2],
        across: [f64; 2],
    ) -> Option<Sampled<'m>> {
        let whole = along[0] * across[1] - along[1] * across[0];
        let [width, height] = bits.size.map(|side| f64::from(side) / whole);
        let step =
            [[across[1] * width, -along[1] * height], [-across[0] * width, along[0] * height]];
        if step.iter().flatten().any(|side| !side.is_finite()) {
            return None;
        }
        let corners = [[0.0, 0.0], [1.0, 0.0], [1.0, 1.0], [0.0, 1.0]];
        let corners = corners
            .map(|[u, v]| [0, 1].map(|axis| origin[axis] + u * along[axis] + v * across[axis]));
        let end = |choose: fn(f64, f64) -> f64| {
            [0, 1].map(|axis| {
                corners.map(|corner| corner[axis]).into_iter().fold(origin[axis], choose)
            })
        };
        let bounds = [end(f64::min).map(floor), end(f64::max).map(|side| -floor(-side))];
        // Pixels of the screen are counted by `i32`.
        let bounds =
            bounds.map(|corner| corner.map(|side| side.clamp(i32::MIN.into(), i32::MAX.into())));
        Some(Sampled { bits, bounds, origin, step })
    }

    fn opaque(&self, [x, y]: [i64; 2], mut among: u64) -> u64 {
        let [right, down] = self.step;
        let [dx, dy] = [x as f64 + 0.5 - self.origin[0], y as f64 + 0.5 - self.origin[1]];
        let first = [0, 1].map(|axis| dx * right[axis] + dy * down[axis]);
        let mut found = 0;
        while among != 0 {
            let nth = among.trailing_zeros();
            among &= among - 1;
            let texel = [0, 1].map(|axis| first[axis] + f64::from(nth) * right[axis]);
            found |= u64::from(self.is_texel_set(texel)) << nth;
        }
        found
    }

    fn is_texel_set(&self, at: [f64; 2]) -> bool {
        let inside = |axis: usize| at[axis] >= 0.0 && at[axis] < f64::from(self.bits.size[axis]);
        inside(0) && inside(1) && self.bits.is_set(at.map(|side| side as i64))
    }
}

/// The whole number at or below; `f64::floor` needs the standard library.
fn floor(number: f64) -> i64 {
    let toward_zero = number.clamp(-1e15, 1e15) as i64;
    toward_zero - i64::from(toward_zero as f64 > number)
}
