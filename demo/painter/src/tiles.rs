//! Tiles: a vent fan, a glow lamp, a drip tray; and the lamp's light.

use lucky_reel_assets::Pixels;

use crate::brush::{Brush, Color, rgb, veil};

const CELL: [i32; 2] = [32, 32];
const IRON: [Color; 4] = [rgb(0x141c26), rgb(0x263442), rgb(0x3d5160), rgb(0x6d8794)];
const BLADE: [Color; 2] = [rgb(0x8fa3a6), rgb(0xc8d6d0)];
const WATER: [Color; 2] = [rgb(0x4aa3b8), rgb(0xb4ecec)];

/// How bright the lamp burns in each of its frames, from 0 to 4.
const GLOWS: i32 = 5;

pub(crate) fn sheet() -> Pixels {
    let mut picture = Pixels::new([192, 96]).unwrap_or_else(|| unreachable!("it is small"));
    for frame in 0..4 {
        fan(&mut Brush::cell(&mut picture, [frame, 0], CELL), frame);
    }
    for frame in 0..GLOWS {
        lamp(&mut Brush::cell(&mut picture, [frame, 1], CELL), frame);
    }
    for frame in 0..6 {
        drip(&mut Brush::cell(&mut picture, [frame, 2], CELL), frame);
    }
    picture
}

fn fan(brush: &mut Brush<'_>, frame: i32) {
    brush.ellipse([15.5, 15.5], [15.5, 15.5], IRON[0]);
    brush.ellipse([15.5, 15.5], [14.5, 14.5], IRON[2]);
    brush.ellipse([15.0, 15.0], [13.8, 13.8], IRON[1]);
    brush.ellipse([15.5, 15.5], [12.5, 12.5], rgb(0x0b1018));
    // Four blades repeat each quarter turn, of which a frame is a quarter.
    let turn = frame as f32 * std::f32::consts::FRAC_PI_8;
    for y in 0..32 {
        for x in 0..32 {
            let (dx, dy) = (x as f32 - 15.5, y as f32 - 15.5);
            let radius = dx.hypot(dy);
            if !(3.0..11.5).contains(&radius) {
                continue;
            }
            let quarter = std::f32::consts::FRAC_PI_2;
            let around = (dy.atan2(dx) - turn - radius * 0.045).rem_euclid(quarter) / quarter;
            if around < 0.52 {
                brush.dot(x, y, BLADE[usize::from(around > 0.3)]);
            }
        }
    }
    brush.ellipse([15.5, 15.5], [3.2, 3.2], IRON[3]);
    brush.rect(14, 14, 2, 2, rgb(0xdfe8e2));
    for (x, y) in [(4, 4), (27, 4), (4, 27), (27, 27)] {
        brush.rect(x - 1, y - 1, 2, 2, IRON[3]);
    }
}

fn lamp(brush: &mut Brush<'_>, glow: i32) {
    // A hook, a cap, a glass bulb with a glow in it.
    brush.rect(15, 0, 2, 5, IRON[2]);
    brush.ellipse([15.5, 6.0], [4.0, 2.0], IRON[3]);
    brush.rect(10, 7, 12, 3, IRON[2]);
    brush.rect(10, 7, 12, 1, IRON[3]);
    let glass = [0xb8742a, 0xd48c32, 0xeaa63e, 0xf6bd52, 0xffd06a][glow as usize];
    brush.ellipse([15.5, 16.0], [6.5, 7.5], rgb(glass));
    let heart = 2.0 + glow as f32 * 0.75;
    brush.ellipse([15.5, 16.5], [heart + 0.8, heart + 1.6], rgb(0xffe08a));
    brush.ellipse([15.5, 16.5], [heart * 0.7, heart], rgb(0xfffbe0));
    brush.rect(11, 13, 1, 5, veil(0xffffff, 150));
    brush.rect(12, 23, 8, 2, IRON[2]);
    brush.rect(14, 25, 4, 1, IRON[3]);
    brush.outline(IRON[0]);
}

fn drip(brush: &mut Brush<'_>, frame: i32) {
    // A pipe above, a tray below, one drop on its way.
    brush.rect(0, 2, 32, 4, IRON[2]);
    brush.rect(0, 2, 32, 1, IRON[3]);
    brush.rect(13, 5, 6, 3, IRON[1]);
    brush.rect(3, 26, 26, 4, rgb(0x7a4a36));
    brush.rect(3, 26, 26, 1, rgb(0xa8694a));
    brush.rect(5, 27, 22, 1, WATER[0]);
    match frame {
        0 => brush.rect(15, 8, 2, 1, WATER[1]),
        1 => brush.rect(15, 8, 2, 3, WATER[1]),
        2 => brush.rect(15, 12, 2, 3, WATER[1]),
        3 => brush.rect(15, 20, 2, 4, WATER[1]),
        4 => {
            brush.rect(12, 25, 8, 1, WATER[1]);
            brush.dot(12, 23, WATER[1]);
            brush.dot(19, 22, WATER[1]);
        }
        _ => {
            brush.rect(9, 26, 4, 1, WATER[1]);
            brush.rect(19, 26, 4, 1, WATER[1]);
        }
    }
}

/// The light around the lamp, to be laid over everything: a frame for each of the lamp's.
pub(crate) fn halos() -> Pixels {
    let mut picture = Pixels::new([480, 96]).unwrap_or_else(|| unreachable!("it is small"));
    for glow in 0..GLOWS {
        let brush = &mut Brush::cell(&mut picture, [glow, 0], [96, 96]);
        // Rings of light with hard edges, as pixels have them.
        for ring in 0..6 {
            let radius = (46.0 - ring as f32 * 7.0) * (0.72 + glow as f32 * 0.07);
            brush.ring_of_light([47.5, 47.5], radius, 5 + glow as u8 * 2);
        }
    }
    picture
}

impl Brush<'_> {
    /// Adds light: alphas add up instead of covering one another.
    fn ring_of_light(&mut self, center: [f32; 2], radius: f32, alpha: u8) {
        for y in 0..96 {
            for x in 0..96 {
                let (dx, dy) = (x as f32 - center[0], y as f32 - center[1]);
                if dx * dx + dy * dy <= radius * radius {
                    let sum = self.get(x, y)[3].saturating_add(alpha);
                    self.put(x, y, veil(0xffc45c, sum));
                }
            }
        }
    }
}
