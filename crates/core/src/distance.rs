/// A distance in 65,536ths of a pixel, as clips with a stride are moved by. It is signed: negative goes back.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub(crate) struct Distance(i64);

impl Distance {
    pub(crate) const ZERO: Distance = Distance(0);
    const PER_PIXEL: f64 = 65_536.0;

    /// The nearest distance to a number of pixels; zero if it is not finite.
    pub(crate) fn from_pixels(pixels: f32) -> Distance {
        let steps = f64::from(pixels) * Self::PER_PIXEL;
        // `as` takes what is beyond an `i64` to its bounds; halves are rounded away from zero.
        Distance(if steps.is_finite() { (steps + 0.5_f64.copysign(steps)) as i64 } else { 0 })
    }

    /// In 65,536ths of a pixel.
    pub(crate) const fn to_bits(self) -> i64 {
        self.0
    }
}
