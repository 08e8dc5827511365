//! Angles, for a core without a floating-point library.

/// Sine and cosine, which `core` does not have, to within 1 unit in the last place of an `f32`. After
/// reduction to an eighth of a turn by quadrants, the Taylor series in `f64`, up to the terms that an
/// `f32` can tell from nothing. Without divisions, as it runs for each instance.
#[inline]
pub(crate) fn sin_cos(radians: f32) -> (f32, f32) {
    use core::f64::consts::FRAC_PI_2;
    let angle = f64::from(radians);
    // Beyond this a float tells no direction any more; infinities and NaN do not turn.
    if !(-1e9..=1e9).contains(&angle) {
        return (0.0, 1.0);
    }
    let quarters = angle * (1.0 / FRAC_PI_2);
    let nearest = (quarters + if quarters < 0.0 { -0.5 } else { 0.5 }) as i64;
    let x = angle - nearest as f64 * FRAC_PI_2;
    let s = x * x;
    let sin =
        x + x * s * (-1.0 / 6.0 + s * (1.0 / 120.0 + s * (-1.0 / 5_040.0 + s * (1.0 / 362_880.0))));
    let cos = 1.0
        + s * (-1.0 / 2.0
            + s * (1.0 / 24.0
                + s * (-1.0 / 720.0 + s * (1.0 / 40_320.0 + s * (-1.0 / 3_628_800.0)))));
    // Each quarter of a turn makes of sine and cosine the other one, or its negative.
    let (sin, cos) = if nearest & 1 == 0 { (sin, cos) } else { (cos, -sin) };
    let sign = if nearest & 2 == 0 { 1.0 } else { -1.0 };
    ((sign * sin) as f32, (sign * cos) as f32)
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn sine_and_cosine_are_those_of_the_standard_library(angle in prop_oneof![-7.0_f32..7.0, -1e6_f32..1e6]) {
            let (sin, cos) = sin_cos(angle);
            let expected = f64::from(angle).sin_cos();
            for (ours, expected) in [(sin, expected.0), (cos, expected.1)] {
                let unit = f64::from(f32::EPSILON) * expected.abs().max(1e-3);
                prop_assert!((f64::from(ours) - expected).abs() <= unit, "{ours} is not {expected}");
            }
        }
    }
}
