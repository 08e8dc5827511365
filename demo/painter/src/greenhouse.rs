//! The greenhouse at night: panes and iron, the sky outside, benches of plants, a tiled path.

use lucky_reel_assets::Pixels;

use crate::brush::{Brush, Color, random, rgb, veil};

const SIZE: [u32; 2] = [320, 200];
/// Where the wall ends and the path begins.
const FLOOR: i32 = 150;

const SKY: [Color; 6] =
    [rgb(0x0b1026), rgb(0x0f1836), rgb(0x142346), rgb(0x1a3155), rgb(0x224262), rgb(0x2c556c)];
const IRON: [Color; 3] = [rgb(0x10231f), rgb(0x1d3d35), rgb(0x35604f)];
const WOOD: [Color; 4] = [rgb(0x2b1a1c), rgb(0x4a2c26), rgb(0x6b4030), rgb(0x8d5a3c)];
const LEAF: [Color; 4] = [rgb(0x0f2f2a), rgb(0x1b4d3a), rgb(0x2f7048), rgb(0x59994f)];
const CLAY: [Color; 3] = [rgb(0x5c2f2a), rgb(0x8a4a38), rgb(0xb4694a)];
const STONE: [Color; 4] = [rgb(0x1c2230), rgb(0x2a3242), rgb(0x363f50), rgb(0x454f60)];
const BLOSSOM: [Color; 3] = [rgb(0xd97a9b), rgb(0xf2c1cf), rgb(0xe8b84c)];

pub(crate) fn background() -> Pixels {
    let mut picture = Pixels::new(SIZE).unwrap_or_else(|| unreachable!("it is small"));
    let brush = &mut Brush::on(&mut picture);
    sky(brush);
    garden(brush);
    panes(brush);
    wall(brush);
    benches(brush);
    path(brush);
    vines(brush);
    picture
}

fn sky(brush: &mut Brush<'_>) {
    for y in 0..FLOOR {
        for x in 0..320 {
            // Bands of color, whose edges are dithered.
            let band = y as f32 / 22.0;
            let rough = f32::from(u8::from((x + y) % 2 == 0)) * 0.35;
            let index = (band + rough) as usize;
            brush.dot(x, y, SKY[index.min(5)]);
        }
    }
    let mut next = random(11);
    for _ in 0..90 {
        let (x, y) = (next(320), next(84));
        let bright = next(5) == 0;
        brush.dot(x, y, if bright { rgb(0xf4f2d8) } else { veil(0xc9d6ee, 150) });
        if bright && next(3) == 0 {
            for (dx, dy) in [(1, 0), (-1, 0), (0, 1), (0, -1)] {
                brush.dot(x + dx, y + dy, veil(0xc9d6ee, 90));
            }
        }
    }
    let moon = [239.5, 44.0];
    brush.ellipse(moon, [22.0, 22.0], veil(0xdfe6c8, 18));
    brush.ellipse(moon, [17.0, 17.0], veil(0xdfe6c8, 26));
    brush.ellipse(moon, [12.0, 12.0], rgb(0xf2efcf));
    brush.ellipse([242.0, 41.5], [9.5, 9.5], rgb(0xfbfae6));
    for (x, y, radius) in [(234.0, 48.0, 2.2), (243.0, 51.0, 1.4), (236.0, 39.0, 1.3)] {
        brush.ellipse([x, y], [radius, radius], rgb(0xd9d6b4));
    }
}

/// Trees outside, seen through the glass.
fn garden(brush: &mut Brush<'_>) {
    let mut next = random(5);
    for (base, height, color) in [(112, 26, rgb(0x16303f)), (122, 20, rgb(0x11252f))] {
        let mut x = -8;
        while x < 330 {
            let (wide, high) = (7 + next(9), height / 2 + next(height as u32));
            let radius = [wide as f32, high as f32];
            brush.ellipse([x as f32, base as f32], radius, color);
            x += 5 + next(11);
        }
        brush.rect(0, base, 320, FLOOR - base, color);
    }
}

fn panes(brush: &mut Brush<'_>) {
    // A sheen on the glass, then the iron that holds it.
    for pane in 0..5 {
        let left = pane * 64;
        for step in 0..40 {
            let x = left + 14 + step / 2;
            brush.rect(x, 66 - step, 5, 1, veil(0xbfe3e0, 12));
            brush.rect(x + 8, 66 - step, 2, 1, veil(0xbfe3e0, 12));
        }
    }
    let girder = |brush: &mut Brush<'_>, x: i32, width: i32| {
        brush.rect(x, 0, width, FLOOR, IRON[1]);
        brush.rect(x, 0, 1, FLOOR, IRON[2]);
        brush.rect(x + width - 1, 0, 1, FLOOR, IRON[0]);
    };
    for x in [0, 64, 128, 192, 256, 316] {
        girder(brush, x - i32::from(x > 0 && x < 316) * 2, 4);
    }
    for x in [32, 96, 160, 224, 288] {
        girder(brush, x - 1, 2);
    }
    for y in [18, 72] {
        brush.rect(0, y, 320, 3, IRON[1]);
        brush.rect(0, y, 320, 1, IRON[2]);
        brush.rect(0, y + 2, 320, 1, IRON[0]);
    }
    // Arches between the girders, as old glasshouses have them.
    for pane in 0..5 {
        let middle = pane as f32 * 64.0 + 31.5;
        for x in 0..64 {
            let across = (x as f32 - 31.5) / 32.0;
            let y = 18.0 - (1.0 - across * across).max(0.0).sqrt() * 16.0;
            let x = (middle + across * 32.0) as i32;
            brush.rect(x, y as i32, 1, 2, IRON[1]);
        }
    }
}

fn wall(brush: &mut Brush<'_>) {
    brush.rect(0, 108, 320, FLOOR - 108, rgb(0x1a2a2c));
    for row in 0..6 {
        let y = 108 + row * 7;
        for brick in -1..22 {
            let x = brick * 16 + (row % 2) * 8;
            let tone = [rgb(0x24383a), rgb(0x203234), rgb(0x294043)]
                [((brick * 5 + row * 3) & 3) as usize % 3];
            brush.rect(x + 1, y + 1, 15, 6, tone);
            brush.rect(x + 1, y + 1, 15, 1, rgb(0x32494b));
        }
    }
    brush.rect(0, 105, 320, 4, IRON[1]);
    brush.rect(0, 105, 320, 1, IRON[2]);
    brush.rect(0, 108, 320, 1, IRON[0]);
}

fn benches(brush: &mut Brush<'_>) {
    for (left, width, seed) in [(6, 84, 3), (124, 66, 8), (226, 88, 21)] {
        let mut next = random(seed);
        for leg in [left + 4, left + width - 9] {
            brush.rect(leg, 134, 5, 20, WOOD[1]);
            brush.rect(leg, 134, 1, 20, WOOD[2]);
        }
        brush.rect(left, 128, width, 7, WOOD[2]);
        brush.rect(left, 128, width, 2, WOOD[3]);
        brush.rect(left, 134, width, 1, WOOD[0]);
        for plank in 0..width / 22 {
            brush.rect(left + 20 + plank * 22, 130, 1, 4, WOOD[1]);
        }
        let mut x = left + 9;
        while x < left + width - 8 {
            plant(brush, x, 127, &mut next);
            x += 17 + next(5);
        }
    }
}

fn plant(brush: &mut Brush<'_>, x: i32, base: i32, next: &mut impl FnMut(u32) -> i32) {
    let kind = next(3);
    match kind {
        0 => {
            for frond in -4_i32..=4 {
                let reach = 5 + next(4);
                let [tip_x, tip_y] = [x + frond * 2, base - 9 - reach + frond.abs() * 2];
                brush.line([x, base - 7], [tip_x, tip_y], LEAF[1 + (frond & 1) as usize]);
                brush.dot(tip_x, tip_y, LEAF[3]);
            }
        }
        1 => {
            for _ in 0..16 {
                let (dx, dy) = (next(13) - 6, next(11));
                let shade = 1 + next(3) as usize;
                brush.ellipse([(x + dx) as f32, (base - 8 - dy) as f32], [2.2, 1.6], LEAF[shade]);
            }
            for _ in 0..5 {
                let (dx, dy) = (next(11) - 5, next(10));
                brush.rect(x + dx, base - 10 - dy, 2, 2, BLOSSOM[0]);
                brush.dot(x + dx, base - 10 - dy, BLOSSOM[1]);
            }
        }
        _ => {
            for stem in -1..=1 {
                let top = base - 16 - next(7);
                brush.line([x + stem, base - 7], [x + stem * 4, top], LEAF[2]);
                brush.ellipse([(x + stem * 4 - 1) as f32, (base - 11) as f32], [2.6, 1.2], LEAF[3]);
                brush.ellipse([(x + stem * 4) as f32, top as f32], [1.6, 1.6], BLOSSOM[2]);
                brush.dot(x + stem * 4, top, BLOSSOM[1]);
            }
        }
    }
    brush.rect(x - 5, base - 7, 11, 2, CLAY[2]);
    brush.rect(x - 4, base - 5, 9, 6, CLAY[1]);
    brush.rect(x - 4, base - 5, 2, 6, CLAY[2]);
    brush.rect(x + 3, base - 5, 2, 6, CLAY[0]);
}

/// Tiles that grow toward the viewer.
fn path(brush: &mut Brush<'_>) {
    brush.rect(0, FLOOR, 320, 50, STONE[0]);
    brush.rect(0, FLOOR, 320, 2, rgb(0x0f141d));
    let mut y = FLOOR + 2;
    for (row, height) in [6, 8, 10, 12, 14].into_iter().enumerate() {
        let row = row as i32;
        let width = 22 + row * 5;
        let mut x = -(row * 13 % width);
        let mut nth = row * 7;
        while x < 320 {
            let tone = STONE[1 + (nth * nth * 3 + row) as usize % 2];
            brush.rect(x + 1, y + 1, width - 1, height - 1, tone);
            brush.rect(x + 1, y + 1, width - 1, 1, STONE[3]);
            brush.rect(x + width - 1, y + 2, 1, height - 2, STONE[0]);
            if nth % 5 == 2 {
                brush.line([x + 4, y + height - 2], [x + 8, y + height / 2], STONE[0]);
            }
            if nth % 4 == 1 {
                brush.rect(x + width - 6, y + height - 2, 4, 1, LEAF[1]);
                brush.dot(x + width - 4, y + height - 3, LEAF[2]);
            }
            x += width;
            nth += 1;
        }
        y += height;
    }
}

fn vines(brush: &mut Brush<'_>) {
    let mut next = random(17);
    for x in [3, 20, 58, 66, 122, 134, 186, 198, 262, 308] {
        let length = 14 + next(34);
        let mut at = x;
        for y in 0..length {
            at += [-1, 0, 0, 1][next(4) as usize];
            brush.dot(at, y, LEAF[1]);
            if y % 3 == 0 {
                let side = if next(2) == 0 { -1 } else { 1 };
                brush.rect(at + side, y, 2, 2, LEAF[1 + next(2) as usize]);
                brush.dot(at + side, y, LEAF[2 + next(2) as usize]);
            }
        }
    }
}
