//! Angles, for a core without a floating-point library.

/// Sine and cosine, which `core` does not have, to within 2 units in the last place of an `f32`.
/// After reduction to an eighth of a turn by quadrants, the Taylor series in `f64`.
pub(crate) fn sin_cos(radians: f32) -> (f32, f32) {
    use core::f64::consts::FRAC_PI_2;
    let angle = f64::from(radians);
    // Beyond this a float tells no direction any more; infinities and NaN do not turn.
    if angle.abs() > 1e9 || angle.is_nan() {
        return (0.0, 1.0);
    }
    let quarters = angle / FRAC_PI_2;
    let nearest = (quarters + if quarters < 0.0 { -0.5 } else { 0.5 }) as i64;
    let x = angle - nearest as f64 * FRAC_PI_2;
    let square = x * x;
    let sin = x
        * (1.0
            - square / 6.0
                * (1.0
                    - square / 20.0
                        * (1.0 - square / 42.0 * (1.0 - square / 72.0 * (1.0 - square / 110.0)))));
    let cos = 1.0
        - square / 2.0
            * (1.0
                - square / 12.0
                    * (1.0 - square / 30.0 * (1.0 - square / 56.0 * (1.0 - square / 90.0))));
    let (sin, cos) = match nearest.rem_euclid(4) {
        0 => (sin, cos),
        1 => (cos, -sin),
        2 => (-sin, -cos),
        _ => (-cos, sin),
    };
    (sin as f32, cos as f32)
}
