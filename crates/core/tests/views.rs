//! The law of the pivot: it lands on the position given, whatever the flip, scale or turn.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use lucky_reel_core::*;
use proptest::prelude::*;

fn reel(cell: [u32; 2], halves: [i32; 2]) -> Reel {
    let mut builder = Reel::builder();
    let pivot = Pivot::At(halves.map(|halves| halves as f32 / 2.0));
    let image = [cell[0] * 3, cell[1] * 2];
    let sheet = NewSheet::grid(image, Grid::cell_size(cell));
    let sheet = builder.sheet("s", sheet.point("top-left", 4, [0.0, 0.0]));
    builder.clip("c", NewClip::of(sheet).frames([4]).fps(1).pivot(pivot));
    builder.build().unwrap()
}

fn view(reel: &Reel, flips: Flips) -> View<'_> {
    let player = Player::new(reel, reel.id("c").unwrap());
    let mut view = player.view(reel).unwrap();
    view.flips = flips;
    view
}

/// Where a pixel of the cell lands: from the pivot, mirrored about it, upscaled.
fn lands(pixel: [f64; 2], halves: [i32; 2], flips: Flips, scale: [f64; 2]) -> [f64; 2] {
    let flip = [flips.x, flips.y];
    [0, 1].map(|axis| {
        let from_pivot = pixel[axis] - f64::from(halves[axis]) / 2.0;
        scale[axis] * if flip[axis] { -from_pivot } else { from_pivot }
    })
}

fn close(a: f32, b: f64) -> bool {
    (f64::from(a) - b).abs() < 1e-3 * (1.0 + b.abs())
}

proptest! {
    /// Every corner of the texture lies where mirroring, stretching and turning about the pivot put
    /// it; corners run clockwise on the screen from the top left.
    #[test]
    fn quads_turn_and_mirror_about_the_pivot(
        cell in [1_u32..40, 1_u32..40], halves in [-20_i32..90, -20_i32..90], flip in any::<[bool; 2]>(),
        at in [-300_f32..300.0, -300_f32..300.0], scale in [0.25_f32..5.0, 0.25_f32..5.0],
        turn in prop_oneof![Just(0.0_f32), -9.0_f32..9.0], y_up in any::<bool>(),
    ) {
        let reel = reel(cell, halves);
        let flips = Flips { x: flip[0], y: flip[1] };
        let mut place = Placement::at(at).stretched(scale).rotated(turn);
        if y_up {
            place = place.y_up();
        }
        let quad = view(&reel, flips).quad(place);
        let size = cell.map(f64::from);
        // The point lies on the art's own top left, wherever that is seen.
        let seen = view(&reel, flips).point_at(reel.id::<PointId>("top-left").unwrap(), place).unwrap();
        let nth = [0, 1, 3, 2][usize::from(flip[0]) + 2 * usize::from(flip[1])];
        prop_assert!([0, 1].into_iter().all(|axis| close(seen[axis], f64::from(quad.corners[nth][axis]))));
        for (corner, texture) in quad.corners.iter().zip(quad.uv) {
            // The frame is cell 4 of 3 x 2: column 1, row 1.
            let pixel = [
                f64::from(texture[0]) * size[0] * 3.0 - size[0],
                f64::from(texture[1]) * size[1] * 2.0 - size[1],
            ];
            let [x, y] = lands(pixel, halves, flips, scale.map(f64::from));
            let (sin, cos) = f64::from(turn).sin_cos();
            let down = if y_up { -1.0 } else { 1.0 };
            prop_assert!(close(corner[0], f64::from(at[0]) + x * cos - y * sin));
            prop_assert!(close(corner[1], f64::from(at[1]) + down * (x * sin + y * cos)));
        }
        if turn == 0.0 {
            let [a, b, c, d] = quad.corners.map(|[x, y]| [x, if y_up { -y } else { y }]);
            prop_assert!(a[0] < b[0] && a[1] < d[1] && b == [c[0], a[1]] && d == [a[0], c[1]]);
        }
    }

    /// An instance is its quad, and shows the same texels; it passes on what is the game's.
    #[test]
    fn instances_are_quads(
        cell in [1_u32..40, 1_u32..40], halves in [-20_i32..90, -20_i32..90], flip in any::<[bool; 2]>(),
        at in [-300_f32..300.0, -300_f32..300.0], scale in [-5_f32..5.0, 0.25_f32..5.0],
        turn in prop_oneof![Just(0.0_f32), -9.0_f32..9.0], y_up in any::<bool>(), snapped in any::<bool>(),
        tint in any::<[u8; 4]>(), depth in -9_f32..9.0, user in any::<u16>(),
        flash in any::<[u8; 3]>(), amount in -0.5_f32..1.5,
    ) {
        let reel = reel(cell, halves);
        let view = view(&reel, Flips { x: flip[0], y: flip[1] });
        let mut place = Placement::at(at).stretched(scale).rotated(turn);
        if y_up {
            place = place.y_up();
        }
        if snapped {
            place = place.snapped();
        }
        let place = place.tinted(tint).flashed(flash, amount).depth(depth).user(user);
        let quad = view.quad(place);
        let instance: Instance = InstanceWriter::new(&reel).make(PackedFrame::of(view.id, view.flips), place);
        prop_assert_eq!((instance.tint, instance.depth, instance.user), (tint, depth, user));
        let share = (amount.clamp(0.0, 1.0) * 255.0).round() as u8;
        let wanted = if share == 0 { [0; 4] } else { [flash[0], flash[1], flash[2], share] };
        prop_assert_eq!(instance.flash, wanted);
        let [least, most] = view.bounds(place);
        for axis in 0..2 {
            let side = quad.corners.map(|corner| corner[axis]);
            prop_assert_eq!(side.into_iter().fold(f32::INFINITY, f32::min), least[axis]);
            prop_assert_eq!(side.into_iter().fold(f32::NEG_INFINITY, f32::max), most[axis]);
        }
        let image = [cell[0] * 3, cell[1] * 2].map(|side| side as f32);
        for corner in [[0.0, 0.0], [1.0, 0.0], [1.0, 1.0], [0.0, 1.0_f32]] {
            let [lands, texel] = [0, 1].map(|what| [0, 1].map(|axis| match what {
                0 => instance.origin[axis] + corner[0] * instance.axis_x[axis] + corner[1] * instance.axis_y[axis],
                _ => f32::from(instance.source[axis]) + corner[axis] * f32::from(instance.source[axis + 2]),
            }));
            let same = |a: [f32; 2], b: [f32; 2]| (0..2).all(|axis| close(a[axis], f64::from(b[axis])));
            let uv = [0, 1].map(|axis| texel[axis] / image[axis]);
            let found = (0..4).find(|nth| same(quad.uv[*nth], uv));
            prop_assert!(found.is_some_and(|nth| same(quad.corners[nth], lands)), "{quad:?} {instance:?}");
        }
    }

    /// A blit covers the pixels that its quad would, moved left and up to a whole pixel; a snapped
    /// quad is the blit.
    #[test]
    fn blits_are_quads_on_whole_pixels(
        cell in [1_u32..40, 1_u32..40], halves in [-20_i32..90, -20_i32..90], flip in any::<[bool; 2]>(),
        at in [-300_i32..300, -300_i32..300], scale in 1_u32..5,
    ) {
        let reel = reel(cell, halves);
        let view = view(&reel, Flips { x: flip[0], y: flip[1] });
        let blit = view.blit(at, scale);
        let place = Placement::at(at.map(|side| side as f32)).scaled(scale as f32);
        let quad = view.quad(place);
        prop_assert_eq!(blit.at.map(|side| side as f32), quad.corners[0].map(f32::floor));
        prop_assert_eq!(blit.size, cell.map(|side| side * scale));
        prop_assert_eq!(blit.source, Rect::new(cell[0], cell[1], cell[0], cell[1]));
        let snapped = view.quad(place.snapped());
        prop_assert_eq!(blit.at.map(|side| side as f32), snapped.corners[0]);
    }
}

#[test]
fn pivots_of_frames_come_before_those_of_clips_and_sheets() {
    let mut builder = Reel::builder();
    let cells = [0, 8].map(|x| NewFrame::at(Rect::new(x, 0, 8, 8)));
    let frames = [cells[0], cells[1].pivot(Pivot::Right)];
    let frames =
        NewSheet::frames([16, 8], frames).pivot(Pivot::Bottom).point("nose", 0, [1.5, 2.0]);
    let frames = builder.sheet("frames", frames);
    let whole = NewSheet::grid([16, 8], Grid::cell_size([16, 8])).on_image_of(frames);
    let whole = builder.sheet("whole", whole);
    let other = NewSheet::grid([16, 9], Grid::cell_size([16, 9])).on_image_of(frames);
    let other = builder.sheet("other", other);
    builder.clip("sheets", NewClip::of(frames).frames([0, 1]).fps(1));
    builder.clip("own", NewClip::of(frames).frames([0, 1, 0]).fps(1).pivot(Pivot::TopLeft));
    let reel = builder.build().unwrap();
    let pivots = |clip: &str| -> Vec<[f32; 2]> {
        let clip = reel.clip(reel.id::<ClipId>(clip).unwrap()).unwrap();
        clip.holds().map(|hold| reel.frame(hold.frame).unwrap().pivot()).collect()
    };
    assert_eq!(pivots("sheets"), [[4.0, 8.0], [8.0, 4.0]]);
    assert_eq!(pivots("own"), [[0.0, 0.0], [8.0, 4.0], [0.0, 0.0]]);

    let nose: PointId = reel.id("nose").unwrap();
    let own = Player::new(&reel, reel.id("own").unwrap());
    assert_eq!(own.view(&reel).unwrap().point(nose), Some([1.5, 2.0]));
    assert_eq!(reel.frames_of(frames).len(), 2, "frames on other pivots are of no sheet");
    let image = |sheet| reel.frame(reel.frames_of(sheet).next().unwrap()).unwrap().image;
    assert_eq!(image(frames), image(whole), "one image, cut twice");
    assert!(image(other) != image(whole) && reel.images().len() == 2, "not of the same size");
}

#[test]
fn views_survive_numbers_that_are_none() {
    let reel = reel([8, 8], [8, 8]);
    let view = view(&reel, Flips::default());
    for number in [f32::NAN, f32::INFINITY, f32::MAX, -0.0] {
        let place =
            Placement::at([number, 1.0]).stretched([number, -2.0]).rotated(number).snapped();
        let _ = view.quad(place.y_up());
    }
    let blit = view.blit([i32::MIN, i32::MAX], u32::MAX);
    assert_eq!((blit.at[0], blit.size[0]), (i32::MIN, u32::MAX));
}
