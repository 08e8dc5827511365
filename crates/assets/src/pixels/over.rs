/// Source over destination (Porter and Duff), for colors that are not premultiplied, rounded once.
#[must_use]
pub fn blend_over(above: [u8; 4], below: [u8; 4]) -> [u8; 4] {
    match (above[3], below[3]) {
        (255, _) | (_, 0) => return above,
        (0, _) => return below,
        _ => {}
    }
    let (a, b) = (u32::from(above[3]), u32::from(below[3]));
    // Weights in 255ths of 255ths; their sum is not 0, for neither color is transparent.
    let (a, b) = (a * 255, b * (255 - a));
    let alpha = a + b;
    let mix = |channel: usize| {
        let sum = u32::from(above[channel]) * a + u32::from(below[channel]) * b;
        ((sum + alpha / 2) / alpha) as u8
    };
    [mix(0), mix(1), mix(2), ((alpha + 127) / 255) as u8]
}
