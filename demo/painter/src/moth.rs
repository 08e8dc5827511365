//! A moth: four frames of wings, seen from behind, as it is drawn to a light; and one at rest.

use lucky_reel_assets::Pixels;

use crate::brush::{Brush, Color, rgb};

const WING: [Color; 3] = [rgb(0x6b5a4c), rgb(0xa08a6c), rgb(0xd9c79a)];
const BODY: Color = rgb(0x3a2f2c);

/// How far the wings stand out in each frame.
const SPREAD: [i32; 5] = [6, 4, 2, 4, 3];

pub(crate) fn sheet() -> Pixels {
    let mut picture = Pixels::new([80, 16]).unwrap_or_else(|| unreachable!("it is small"));
    for (column, spread) in (0..).zip(SPREAD) {
        let brush = &mut Brush::cell(&mut picture, [column, 0], [16, 16]);
        let droop = if column == 4 { 2 } else { 0 };
        for out in 0..=spread {
            // Fore wings sweep up and out, hind wings down; both are lighter toward the tips.
            let color = WING[(out * 3 / (spread + 1)) as usize];
            let (rise, fall) = (out / 2 - droop, out / 3 + droop);
            for (x, y, height) in [(8 + out, 5 - rise, 4), (8 + out, 9 + fall, 3)] {
                let height = (height - (out - spread + 2).max(0)).max(1);
                brush.rect(x, y, 1, height, color);
                brush.rect(15 - x, y, 1, height, color);
            }
        }
        if spread > 3 {
            brush.dot(8 + spread - 2, 6, BODY);
            brush.dot(7 - spread + 2, 6, BODY);
        }
        brush.rect(7, 5, 2, 7, BODY);
        brush.line([7, 4], [5, 2], BODY);
        brush.line([8, 4], [10, 2], BODY);
    }
    picture
}
