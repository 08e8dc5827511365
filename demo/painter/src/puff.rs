//! A pollen puff: it bursts, spreads, thins out and is gone.

use lucky_reel_assets::Pixels;

use crate::brush::{Brush, Color, random, rgb, veil};

const CELL: [i32; 2] = [32, 32];
const POLLEN: [Color; 4] = [rgb(0xfff7c9), rgb(0xffdf76), rgb(0xe8a83c), rgb(0xa86a2a)];

pub(crate) fn sheet() -> Pixels {
    let mut picture = Pixels::new([256, 32]).unwrap_or_else(|| unreachable!("it is small"));
    for frame in 0..8 {
        let brush = &mut Brush::cell(&mut picture, [frame, 0], CELL);
        let age = frame as f32 / 7.0;
        cloud(brush, frame);
        // Each grain flies its own way, slower and slower, and falls a little.
        let mut next = random(7);
        for grain in 0..22 {
            let angle = grain as f32 * 2.399_963; // the golden angle spreads them evenly
            let reach = (3.0 + next(9) as f32) * (1.0 - (1.0 - age) * (1.0 - age));
            let x = 15.5 + angle.cos() * reach;
            let y = 16.0 + angle.sin() * reach * 0.8 + age * age * 4.0 - age * 3.0;
            let lives = 3 + next(6);
            if frame > lives {
                continue;
            }
            let shade = ((frame + next(2)) / 2).clamp(0, 3) as usize;
            brush.dot(x as i32, y as i32, POLLEN[shade]);
            if frame < 4 && grain % 3 == 0 {
                brush.dot(x as i32 + 1, y as i32, POLLEN[(shade + 1).min(3)]);
            }
        }
    }
    picture
}

fn cloud(brush: &mut Brush<'_>, frame: i32) {
    let (radius, alpha) =
        [(2.5, 255), (5.0, 230), (7.0, 150), (8.5, 95), (9.5, 60), (10.0, 34), (0.0, 0), (0.0, 0)]
            [frame as usize];
    for (dx, dy, share) in [(0.0, 0.0, 1.0), (-3.0, 1.5, 0.7), (3.0, 1.0, 0.75), (0.5, -2.5, 0.7)] {
        let spread = frame.min(4) as f32 / 3.0;
        let at = [15.5 + dx * spread, 16.0 + dy * spread - frame as f32 * 0.4];
        brush.shaded(at, [radius * share, radius * share * 0.9], |u, v| {
            veil(if u + v < 0.1 { 0xffe99a } else { 0xe0a040 }, alpha)
        });
    }
}
