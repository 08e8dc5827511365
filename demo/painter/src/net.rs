//! A net on a stick, swung from above the shoulder to below the hand in four frames.

use lucky_reel_assets::Pixels;

use crate::brush::{Brush, Color, rgb};

const STICK: [Color; 2] = [rgb(0x6e4a2c), rgb(0x96683f)];
const HOOP: Color = rgb(0xc9b26a);
const MESH: Color = rgb(0x9fb0a6);
const SHADE: Color = rgb(0x5d6f6b);

const SIDE: i32 = 64;
const HAND: [i32; 2] = [14, 44];
/// Where the middle of the hoop is in each frame, and how the bag trails behind it.
const SWING: [([i32; 2], [i32; 2]); 4] =
    [([22, 16], [-7, 1]), ([35, 23], [-7, -3]), ([43, 42], [-4, -7]), ([38, 53], [-1, -8])];

pub(crate) fn sheet() -> Pixels {
    let size = [4 * SIDE as u32, SIDE as u32];
    let mut picture = Pixels::new(size).unwrap_or_else(|| unreachable!("it is small"));
    for (column, ([x, y], [back, up])) in (0..).zip(SWING) {
        let brush = &mut Brush::cell(&mut picture, [column, 0], [SIDE; 2]);
        let [dx, dy] = [x - HAND[0], y - HAND[1]];
        let long = (dx * dx + dy * dy).isqrt();
        // The stick ends at the hoop, 9 pixels before its middle.
        let end = [x - dx * 9 / long, y - dy * 9 / long];
        brush.line(HAND, end, STICK[0]);
        brush.line([HAND[0] + 1, HAND[1]], [end[0] + 1, end[1]], STICK[1]);
        // The bag is all holes between its threads.
        for depth in (0..3).rev() {
            let center = [x + back * depth / 2, y + up * depth / 2];
            let radius = 8 - 2 * depth;
            for v in -radius..=radius {
                for u in -radius..=radius {
                    let inside = u * u + v * v <= radius * radius;
                    let thread = (u + v).rem_euclid(6) == 0 || (u - v).rem_euclid(6) == 0;
                    if inside && thread {
                        let color = if depth == 0 { MESH } else { SHADE };
                        brush.put(center[0] + u, center[1] + v, color);
                    }
                }
            }
        }
        for v in -9..=9_i32 {
            for u in -9..=9_i32 {
                if (64..=81).contains(&(u * u + v * v)) {
                    brush.put(x + u, y + v, HOOP);
                }
            }
        }
        brush.rect(HAND[0] - 1, HAND[1] - 1, 3, 3, STICK[1]);
    }
    picture
}
