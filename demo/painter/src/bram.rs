//! Bram, the beetle gardener: four directions, four frames of walking and three of standing each.
//! The lantern is in his left hand whichever way he looks.

use lucky_reel_assets::Pixels;

use crate::brush::{Brush, Color, rgb, veil};

const CELL: [i32; 2] = [32, 32];

const OUTLINE: Color = rgb(0x12151f);
const SHELL: [Color; 4] = [rgb(0x14463f), rgb(0x1f6b57), rgb(0x35957a), rgb(0x8fe0b4)];
const SKIN: [Color; 2] = [rgb(0x4a3550), rgb(0x6a4d6d)];
const STRAW: [Color; 3] = [rgb(0x9a6a34), rgb(0xd0a04c), rgb(0xf1cd78)];
const RIBBON: Color = rgb(0xb0413e);
const APRON: [Color; 2] = [rgb(0x8c4a34), rgb(0xb8694a)];
const BOOT: Color = rgb(0x33262e);
const EYE: [Color; 2] = [rgb(0xf6f0d8), rgb(0x1a1622)];
const BRASS: [Color; 2] = [rgb(0x7a5a2a), rgb(0xc9973f)];
const WING: [Color; 2] = [rgb(0x7d97a8), rgb(0xb9d0d6)];
const FLAME: [Color; 3] = [rgb(0xf08a2c), rgb(0xffce5c), rgb(0xfff4c4)];

/// What differs from frame to frame.
#[derive(Clone, Copy)]
struct Pose {
    /// Pixels the body is lifted.
    lift: i32,
    /// Pixels each foot is ahead and off the ground: left and right.
    feet: [(i32, i32); 2],
    /// Pixels the lantern swings ahead.
    swing: i32,
    /// Pixels the antennae trail behind.
    trail: i32,
    blink: bool,
    /// How high the wings stand; without any they are under their cases.
    wings: Option<i32>,
}

const STANDING: Pose =
    Pose { lift: 0, feet: [(0, 0), (0, 0)], swing: 0, trail: 0, blink: false, wings: None };

/// Walking: the left foot comes down in frame 1, the right one in frame 3.
const POSES: [Pose; 7] = [
    Pose { lift: 1, feet: [(1, 2), (-1, 0)], swing: 0, trail: 1, ..STANDING },
    Pose { lift: 0, feet: [(3, 0), (-3, 0)], swing: -1, trail: 0, ..STANDING },
    Pose { lift: 1, feet: [(-1, 0), (1, 2)], swing: 0, trail: 1, ..STANDING },
    Pose { lift: 0, feet: [(-3, 0), (3, 0)], swing: 1, trail: 0, ..STANDING },
    STANDING,
    Pose { lift: -1, trail: 1, ..STANDING },
    Pose { blink: true, ..STANDING },
];

/// Off his feet: on his wings, landing, and stumbling.
const AIR: [Pose; 8] = [
    Pose { lift: 3, feet: [(1, 2), (-1, 2)], wings: Some(3), ..STANDING },
    Pose { lift: 4, feet: [(1, 2), (-1, 2)], wings: Some(-2), trail: 1, ..STANDING },
    Pose { lift: -3, feet: [(2, 0), (-2, 0)], trail: 3, wings: Some(-3), ..STANDING },
    Pose { lift: -1, feet: [(1, 0), (-1, 0)], trail: 1, ..STANDING },
    Pose { lift: 2, feet: [(3, 3), (-2, 0)], swing: 2, trail: 2, ..STANDING },
    Pose { lift: -2, feet: [(3, 0), (-4, 1)], swing: 3, trail: 3, blink: true, ..STANDING },
    Pose { lift: -1, feet: [(2, 0), (-2, 0)], swing: -2, trail: 1, blink: true, ..STANDING },
    Pose { lift: 2, feet: [(-2, 0), (3, 3)], swing: -2, trail: 2, ..STANDING },
];

/// By day, on his feet.
pub(crate) fn sheet() -> Pixels {
    paint(&POSES)
}

/// By day, off his feet.
pub(crate) fn air() -> Pixels {
    paint(&AIR)
}

/// The same at dusk: all is blue but the lantern and what it lights.
pub(crate) fn at_dusk(mut day: Pixels) -> Pixels {
    let lit = [BRASS[0], BRASS[1], FLAME[0], FLAME[1], FLAME[2], EYE[0]];
    for pixel in day.rgba_mut().chunks_exact_mut(4) {
        let color = [pixel[0], pixel[1], pixel[2], pixel[3]];
        if color[3] == 255 && !lit.contains(&color) {
            for (channel, (share, blue)) in
                [(115, 10), (120, 16), (150, 44)].into_iter().enumerate()
            {
                pixel[channel] = (u32::from(pixel[channel]) * share / 256 + blue) as u8;
            }
        } else if color[3] < 255 && color[3] > 0 {
            pixel[3] = pixel[3].saturating_add(pixel[3] / 2);
        }
    }
    day
}

fn paint(poses: &[Pose]) -> Pixels {
    let mut picture = Pixels::new([256, 128]).unwrap_or_else(|| unreachable!("it is small"));
    let rows: [fn(&mut Brush<'_>, Pose); 4] = [facing_down, facing_up, facing_right, facing_left];
    for (row, draw) in (0..).zip(rows) {
        for (column, pose) in (0..).zip(poses) {
            draw(&mut Brush::cell(&mut picture, [column, row], CELL), *pose);
        }
    }
    picture
}

fn facing_down(brush: &mut Brush<'_>, pose: Pose) {
    let up = pose.lift;
    for side in [-1.0, 1.0] {
        wing(brush, pose, [15.5 + side * 9.0, 15.0], side);
    }
    // Seen from the front his left is on our right.
    for (side, (ahead, off)) in [(1, pose.feet[0]), (-1, pose.feet[1])] {
        let reach = ahead.max(0) / 2;
        boot(brush, 15 + side * 3 - 1, 28 - off + reach);
    }
    shell(brush, [15.5, 18.5 - up as f32], [8.5, 6.5]);
    brush.ellipse([15.5, 19.5 - up as f32], [5.5, 5.0], APRON[0]);
    brush.ellipse([15.0, 19.0 - up as f32], [4.6, 4.4], APRON[1]);
    brush.rect(13, 20 - up, 5, 1, APRON[0]);
    brush.rect(14, 21 - up, 3, 1, APRON[0]);
    arm(brush, [8, 18 - up], [7, 21 - up + pose.swing]);
    arm(brush, [23, 18 - up], [25, 20 - up]);
    head_front(brush, up, pose);
    brush.outline(OUTLINE);
    lantern(brush, 25, 20 - up, pose.swing);
}

fn facing_up(brush: &mut Brush<'_>, pose: Pose) {
    let up = pose.lift;
    for (side, (ahead, off)) in [(-1, pose.feet[0]), (1, pose.feet[1])] {
        let reach = ahead.min(0) / 2;
        boot(brush, 15 + side * 3 - 1, 28 - off - reach.abs());
    }
    arm(brush, [8, 18 - up], [6, 20 - up]);
    arm(brush, [23, 18 - up], [24, 21 - up - pose.swing]);
    shell(brush, [15.5, 18.5 - up as f32], [8.5, 7.0]);
    // The two wing cases meet in the middle.
    brush.rect(15, 12 - up, 1, 13, SHELL[0]);
    brush.rect(16, 12 - up, 1, 13, SHELL[2]);
    for (x, y) in [(11, 16), (20, 16), (12, 21), (19, 21)] {
        brush.rect(x, y - up, 2, 2, SHELL[0]);
    }
    for side in [-1.0, 1.0] {
        wing(brush, pose, [15.5 + side * 8.5, 16.0], side);
    }
    // Apron strings.
    brush.stamp(13, 18 - up, &["aa.aa", ".aaa.", "a...a"], &[('a', APRON[1])]);
    // He has no eyes at the back: his antennae twitch instead.
    antennae(brush, up, pose.trail + i32::from(pose.blink), 0);
    brush.ellipse([15.5, 10.0 - up as f32], [5.5, 4.0], SKIN[0]);
    hat(brush, 15.5, up);
    brush.outline(OUTLINE);
    lantern(brush, 6, 20 - up, pose.swing);
}

fn facing_right(brush: &mut Brush<'_>, pose: Pose) {
    // His left hand is on the far side; the lantern hangs ahead of his chest.
    let up = pose.lift;
    far_boot(brush, pose.feet[0]);
    side_view(brush, pose, pose.feet[1]);
    brush.outline(OUTLINE);
    // The glow falls on him, too.
    lantern(brush, 25, 19 - up, pose.swing);
    arm(brush, [17, 17 - up], [18 - pose.swing, 21 - up]);
}

fn facing_left(brush: &mut Brush<'_>, pose: Pose) {
    let up = pose.lift;
    far_boot(brush, pose.feet[1]);
    side_view(brush, pose, pose.feet[0]);
    brush.outline(OUTLINE);
    brush.mirror();
    // His left hand is on the near side: the lantern is before him.
    arm(brush, [14, 17 - up], [9 - pose.swing, 20 - up]);
    lantern(brush, 8, 20 - up, -pose.swing);
}

/// Seen from his right, looking to the right.
fn side_view(brush: &mut Brush<'_>, pose: Pose, near_foot: (i32, i32)) {
    let up = pose.lift;
    wing(brush, pose, [7.0, 13.0], -1.0);
    boot(brush, 14 + near_foot.0, 28 - near_foot.1);
    shell(brush, [13.5, 18.0 - up as f32], [8.5, 6.8]);
    brush.line([8, 13 - up], [11, 23 - up], SHELL[0]);
    brush.rect(10, 17 - up, 2, 2, SHELL[0]);
    brush.rect(14, 20 - up, 2, 2, SHELL[0]);
    brush.ellipse([19.5, 19.0 - up as f32], [3.3, 4.8], APRON[1]);
    brush.rect(18, 21 - up, 4, 1, APRON[0]);
    antennae(brush, up, pose.trail, 3);
    brush.ellipse([18.5, 11.0 - up as f32], [5.0, 4.5], SKIN[1]);
    brush.rect(15, 14 - up, 7, 1, SKIN[0]);
    if pose.blink {
        brush.rect(20, 12 - up, 3, 1, EYE[1]);
    } else {
        brush.rect(20, 11 - up, 3, 3, EYE[0]);
        brush.rect(21, 11 - up, 2, 2, EYE[1]);
    }
    hat(brush, 17.5, up);
}

/// A wing that stands out to a side, up or down.
fn wing(brush: &mut Brush<'_>, pose: Pose, center: [f32; 2], side: f32) {
    let Some(height) = pose.wings else { return };
    let y = center[1] - pose.lift as f32 - height as f32;
    brush.ellipse([center[0], y], [5.0, 2.6], WING[0]);
    brush.ellipse([center[0] + side, y - 0.6], [4.0, 1.4], WING[1]);
}

fn far_boot(brush: &mut Brush<'_>, foot: (i32, i32)) {
    boot(brush, 15 + foot.0, 27 - foot.1);
}

fn shell(brush: &mut Brush<'_>, center: [f32; 2], radius: [f32; 2]) {
    brush.shaded(center, radius, |u, v| {
        let light = -u * 0.45 - v * 0.8;
        if light > 0.62 {
            SHELL[3]
        } else if light > 0.15 {
            SHELL[2]
        } else if light > -0.4 {
            SHELL[1]
        } else {
            SHELL[0]
        }
    });
}

fn head_front(brush: &mut Brush<'_>, up: i32, pose: Pose) {
    antennae(brush, up, pose.trail, 0);
    brush.ellipse([15.5, 11.0 - up as f32], [6.0, 4.5], SKIN[1]);
    brush.rect(12, 14 - up, 8, 1, SKIN[0]);
    for x in [11, 17] {
        if pose.blink {
            brush.rect(x, 12 - up, 3, 1, EYE[1]);
        } else {
            brush.rect(x, 11 - up, 3, 3, EYE[0]);
            brush.rect(x + 1, 11 - up, 2, 2, EYE[1]);
            brush.dot(x + 1, 11 - up, EYE[0]);
        }
    }
    brush.rect(14, 14 - up, 3, 1, rgb(0x2a1c30));
    hat(brush, 15.5, up);
}

fn antennae(brush: &mut Brush<'_>, up: i32, trail: i32, ahead: i32) {
    let brown = SKIN[1];
    for side in [-1, 1] {
        let root = [15 + ahead + side * 2 + i32::from(side > 0), 6 - up];
        let tip =
            [15 + ahead + side * 5 + i32::from(side > 0) - ahead.signum() * trail, 1 - up + trail];
        brush.line(root, tip, brown);
        brush.dot(tip[0] + side, tip[1], STRAW[2]);
    }
}

fn hat(brush: &mut Brush<'_>, middle: f32, up: i32) {
    let y = 8.0 - up as f32;
    brush.ellipse([middle, y], [8.0, 1.9], STRAW[1]);
    brush.ellipse([middle, y + 1.0], [6.5, 0.9], STRAW[0]);
    brush.ellipse([middle, y - 2.5], [4.5, 2.8], STRAW[1]);
    brush.ellipse([middle - 1.0, y - 3.2], [2.6, 1.6], STRAW[2]);
    brush.rect((middle - 4.0) as i32, y as i32 - 1, 9, 1, RIBBON);
}

fn boot(brush: &mut Brush<'_>, x: i32, y: i32) {
    brush.rect(x, y - 2, 2, 2, SKIN[0]);
    brush.rect(x - 1, y, 4, 2, BOOT);
    brush.dot(x, y, rgb(0x54404a));
}

fn arm(brush: &mut Brush<'_>, from: [i32; 2], to: [i32; 2]) {
    brush.line(from, to, SKIN[1]);
    brush.line([from[0], from[1] + 1], [to[0], to[1] + 1], SKIN[0]);
}

/// A lantern that hangs from a hand at `x`, `y`.
fn lantern(brush: &mut Brush<'_>, x: i32, y: i32, swing: i32) {
    let x = x + swing;
    for (radius, alpha) in [(6.4, 26), (4.6, 38)] {
        brush.ellipse([x as f32, y as f32 + 4.0], [radius, radius], veil(0xffb347, alpha));
    }
    brush.stamp(
        x - 2,
        y,
        &["..o..", ".obo.", "obBbo", "ofFfo", "oFWFo", "ofFfo", "obBbo", ".ooo."],
        &[
            ('o', OUTLINE),
            ('b', BRASS[0]),
            ('B', BRASS[1]),
            ('f', FLAME[0]),
            ('F', FLAME[1]),
            ('W', FLAME[2]),
        ],
    );
}
