use core::fmt;
use core::ops::{Add, AddAssign, Neg, Sub};

/// A distance over the ground in 65,536ths of a pixel, as clips with a stride are moved by.
///
/// It is signed: negative goes back. Arithmetic saturates.
///
/// ```
/// use lucky_reel_core::Distance;
///
/// assert_eq!(Distance::from_pixels(1.5).to_bits(), 98_304);
/// assert_eq!(Distance::from_pixels(f32::NAN), Distance::ZERO);
/// assert_eq!(Distance::from_pixels(1.5).to_string(), "1.5px");
/// ```
#[derive(Clone, Copy, Default, PartialEq, Eq, PartialOrd, Ord, Hash)]
#[repr(transparent)]
pub struct Distance(i64);

impl Distance {
    /// No distance.
    pub const ZERO: Distance = Distance(0);
    const PER_PIXEL: f64 = 65_536.0;

    /// The nearest distance to a number of pixels; zero if it is not finite.
    #[must_use]
    pub fn from_pixels(pixels: f32) -> Distance {
        let steps = f64::from(pixels) * Self::PER_PIXEL;
        // `as` takes what is beyond an `i64` to its bounds; halves are rounded away from zero.
        Distance(if steps.is_finite() { (steps + 0.5_f64.copysign(steps)) as i64 } else { 0 })
    }

    /// From 65,536ths of a pixel.
    #[must_use]
    pub const fn from_bits(bits: i64) -> Distance {
        Distance(bits)
    }

    /// In 65,536ths of a pixel.
    #[must_use]
    pub const fn to_bits(self) -> i64 {
        self.0
    }

    /// Pixels, to the nearest `f32`. For display only; not exact.
    #[must_use]
    pub fn pixels(self) -> f32 {
        (self.0 as f64 / Self::PER_PIXEL) as f32
    }
}

impl From<f32> for Distance {
    fn from(pixels: f32) -> Distance {
        Distance::from_pixels(pixels)
    }
}

impl Add for Distance {
    type Output = Distance;
    fn add(self, other: Distance) -> Distance {
        Distance(self.0.saturating_add(other.0))
    }
}

impl Sub for Distance {
    type Output = Distance;
    fn sub(self, other: Distance) -> Distance {
        Distance(self.0.saturating_sub(other.0))
    }
}

impl AddAssign for Distance {
    fn add_assign(&mut self, other: Distance) {
        *self = *self + other;
    }
}

impl Neg for Distance {
    type Output = Distance;
    fn neg(self) -> Distance {
        Distance(self.0.saturating_neg())
    }
}

impl fmt::Display for Distance {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{}px", self.pixels())
    }
}

impl fmt::Debug for Distance {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "Distance({}/65536 px)", self.0)
    }
}
