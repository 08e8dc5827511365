//! How alike an image is to itself at each distance: frames of one figure are alike where their cells lie
//! over one another.

use super::ink::Ink;

/// So many places across are looked at: enough to see figures, few enough for 4096 lines.
const MAX_PLACES: usize = 96;

/// For each distance in lines: 2 Σ a b ÷ (Σ a² + Σ b²) over all pairs of pixels so far apart, each place's
/// mean removed. From −1 to 1; 0 where there is nothing to compare.
pub(super) fn likeness(ink: &Ink) -> Vec<f64> {
    let count = ink.height;
    let places = profiles(ink);
    // What each line adds to the sum of squares, summed up to it.
    let mut squares = vec![0.0_f64; count + 1];
    for line in 0..count {
        let here: f32 = places.iter().map(|place| place[line] * place[line]).sum();
        squares[line + 1] = squares[line] + f64::from(here);
    }
    let total = squares[count];
    let like = |distance: usize| {
        let products: f64 =
            places.iter().map(|place| f64::from(product(&place[distance..], place))).sum();
        let both = squares[count - distance] + total - squares[distance];
        if both > 1e-9 { 2.0 * products / both } else { 0.0 }
    };
    (0..count).map(|distance| if distance == 0 { 1.0 } else { like(distance) }).collect()
}

/// Eight sums at a time, which compiles to wide registers.
fn product(a: &[f32], b: &[f32]) -> f32 {
    let mut sums = [0.0_f32; 8];
    let (wide_a, wide_b) = (a.chunks_exact(8), b[..a.len()].chunks_exact(8));
    let rest: f32 = wide_a.remainder().iter().zip(wide_b.remainder()).map(|(a, b)| a * b).sum();
    for (a, b) in wide_a.zip(wide_b) {
        (0..8).for_each(|nth| sums[nth] += a[nth] * b[nth]);
    }
    rest + sums.iter().sum::<f32>()
}

/// The brightness at places spread over the lines, and where anything is transparent its alpha, too.
fn profiles(ink: &Ink) -> Vec<Vec<f32>> {
    let sees_through = ink.pixels.iter().any(|pixel| pixel[3] < 255);
    let most = if sees_through { MAX_PLACES / 2 } else { MAX_PLACES };
    let step = ink.width.div_ceil(most).max(1);
    let mut profiles = Vec::new();
    for place in (step / 2..ink.width).step_by(step) {
        let pixel = |line: usize| ink.pixels[line * ink.width + place];
        let light = |line| {
            let [r, g, b, _] = pixel(line).map(f32::from);
            0.299 * r + 0.587 * g + 0.114 * b
        };
        profiles.push(centered((0..ink.height).map(light).collect()));
        if sees_through {
            let alpha = |line| f32::from(pixel(line)[3]);
            profiles.push(centered((0..ink.height).map(alpha).collect()));
        }
    }
    profiles
}

/// With its mean removed, from −1 to 1.
fn centered(mut values: Vec<f32>) -> Vec<f32> {
    let mean = values.iter().sum::<f32>() / values.len().max(1) as f32;
    values.iter_mut().for_each(|value| *value = (*value - mean) / 255.0);
    values
}
