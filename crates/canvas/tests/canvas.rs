//! What is drawn, against a naive way to do it.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use lucky_reel_assets::Pixels;
use lucky_reel_canvas::Canvas;
use lucky_reel_core::*;
use proptest::prelude::*;

/// What a canvas must do, pixel by pixel: the nearest pixel of the frame, mirrored, laid over.
fn drawn_naively(
    below: &Pixels,
    view: &View<'_>,
    image: &Pixels,
    at: [i32; 2],
    scale: i32,
) -> Pixels {
    let mut out = below.clone();
    let [w, h] = view.frame.size.map(|side| side as i32);
    // Twice as fine, so that half pixels are whole.
    let pivot = view.frame.pivot().map(|side| (side * 2.0) as i32);
    let flips = view.flips;
    let left = |side: i32, pivot: i32, flip: bool| if flip { pivot - 2 * side } else { -pivot };
    let corner = [left(w, pivot[0], flips.x), left(h, pivot[1], flips.y)];
    let corner = [0, 1].map(|axis| at[axis] + (corner[axis] * scale).div_euclid(2));
    for y in 0..h * scale {
        for x in 0..w * scale {
            let (u, v) = (x / scale, y / scale);
            let (u, v) = (if flips.x { w - 1 - u } else { u }, if flips.y { h - 1 - v } else { v });
            let source = view.frame.source;
            let above = image.pixel([source.x + u as u32, source.y + v as u32]);
            let (Ok(x), Ok(y)) = (u32::try_from(corner[0] + x), u32::try_from(corner[1] + y))
            else {
                continue;
            };
            let below = out.pixel([x, y]);
            let (a, b) = (f64::from(above[3]) / 255.0, f64::from(below[3]) / 255.0);
            let alpha = a + b * (1.0 - a);
            // Halves are rounded up; a float may lie a little below one.
            let mix = |c: usize| {
                let sum = f64::from(above[c]) * a + f64::from(below[c]) * b * (1.0 - a);
                if alpha == 0.0 { 0 } else { (sum / alpha + 1e-9).round() as u8 }
            };
            out.set_pixel([x, y], [mix(0), mix(1), mix(2), (alpha * 255.0 + 1e-9).round() as u8]);
        }
    }
    out
}

proptest! {
    #[test]
    fn the_canvas_draws_what_a_naive_one_draws(
        pixels in prop::collection::vec(prop_oneof![Just(0_u8), Just(255), any::<u8>()], 6 * 4 * 4),
        background in any::<[u8; 4]>(), pivot in [-3_i32..12, -3_i32..12], at in [-9_i32..20, -9_i32..20],
        flip in any::<[bool; 2]>(), scale in 1_u32..4,
    ) {
        let image = Pixels::from_rgba([6, 4], pixels).unwrap();
        let mut builder = Reel::builder();
        let pivot = Pivot::At(pivot.map(|halves| halves as f32 / 2.0));
        let sheet = builder.sheet("s", NewSheet::grid([6, 4], Grid::cell_size([3, 4])).pivot(pivot));
        let clip = builder.clip("c", NewClip::of(sheet).frames([1]).fps(1));
        let reel = builder.build().unwrap();
        let view = Player::new(&reel, clip).view(&reel).unwrap();
        let mut view = view;
        view.flips = Flips { x: flip[0], y: flip[1] };
        let mut canvas = Canvas::new([14, 13]).unwrap();
        canvas.clear(background);
        let expected = drawn_naively(canvas.picture(), &view, &image, at, scale as i32);
        canvas.draw(&view, std::slice::from_ref(&image), at, scale);
        for (got, wanted) in canvas.picture().rgba().chunks(4).zip(expected.rgba().chunks(4)) {
            // Colors that nothing is seen of do not count.
            prop_assert!(got == wanted || got[3] == 0 && wanted[3] == 0, "{:?} {:?}", got, wanted);
        }
    }
}

proptest! {
    /// A flash mixes the tinted color toward its own, and leaves alpha alone: all of it hides the drawing and keeps its
    /// outline.
    #[test]
    fn a_flash_mixes_colors_and_keeps_alpha(
        texel in any::<[u8; 4]>(), tint in any::<[u8; 4]>(), flash in any::<[u8; 3]>(), amount in 0.0_f32..=1.0,
    ) {
        let mut image = Pixels::new([1, 1]).unwrap();
        image.set_pixel([0, 0], texel);
        let mut builder = Reel::builder();
        let sheet = builder.sheet("s", NewSheet::grid([1, 1], Grid::cell_size([1, 1])).pivot(Pivot::At([0.0, 0.0])));
        builder.clip("still", NewClip::of(sheet).frames([0]));
        let reel = builder.build().unwrap();
        let shown = Player::new(&reel, reel.id("still").unwrap()).packed_frame(&reel);
        let writer = InstanceWriter::new(&reel);
        let seen = |place: Placement| {
            let mut canvas = Canvas::new([1, 1]).unwrap();
            canvas.draw_instance(&writer.make(shown, place), std::slice::from_ref(&image));
            canvas.picture().pixel([0, 0])
        };
        let place = Placement::at([0.0, 0.0]).tinted(tint);
        let mixed = seen(place.flashed(flash, amount));
        let alpha = f64::from(texel[3]) * f64::from(tint[3]) / 255.0;
        prop_assert!((f64::from(mixed[3]) - alpha).abs() <= 0.51);
        let share = f64::from((amount * 255.0).round()) / 255.0;
        for channel in (0..3).filter(|_| mixed[3] > 0) {
            let tinted = f64::from(texel[channel]) * f64::from(tint[channel]) / 255.0;
            let wanted = tinted * (1.0 - share) + f64::from(flash[channel]) * share;
            prop_assert!((f64::from(mixed[channel]) - wanted).abs() <= 1.01, "{mixed:?}, {wanted}");
        }
        prop_assert_eq!(seen(place.flashed(flash, 0.0)), seen(place));
        prop_assert_eq!(seen(place.flashed(flash, f32::NAN)), seen(place));
        if mixed[3] > 0 {
            prop_assert_eq!(&seen(place.flashed(flash, 1.0))[..3], &flash[..]);
        }
    }
}

proptest! {
    /// A line runs from end to end without a gap, no pixel twice, none further from it than half a pixel's diagonal.
    #[test]
    fn a_line_is_whole_and_thin(ends in any::<[[i8; 2]; 2]>(), far in prop_oneof![Just(1.0_f32), Just(0.13), Just(1e6)]) {
        const SIDE: u32 = 40;
        let [from, to] = ends.map(|end| end.map(|side| f32::from(side) * far));
        let mut canvas = Canvas::new([SIDE, SIDE]).unwrap();
        canvas.clear([0, 0, 0, 255]);
        canvas.line(from, to, [255, 255, 255, 128]);
        let lit: Vec<[u32; 2]> = (0..SIDE * SIDE).map(|at| [at % SIDE, at / SIDE])
            .filter(|at| canvas.picture().pixel(*at)[0] > 0).collect();
        let way = [0, 1].map(|axis| f64::from(to[axis]) - f64::from(from[axis]));
        let length = way[0].hypot(way[1]);
        for at in &lit {
            prop_assert_eq!(canvas.picture().pixel(*at)[0], 128, "drawn twice");
            let off = [0, 1].map(|axis| f64::from(at[axis]) + 0.5 - f64::from(from[axis]));
            let apart = if length == 0.0 { off[0].hypot(off[1]) } else { (off[0] * way[1] - off[1] * way[0]).abs() / length };
            prop_assert!(apart <= 0.75 + 1e-7 * length, "{at:?} is {apart} from the line");
        }
        let inside = |end: [f32; 2]| end.iter().all(|side| (0.0..SIDE as f32).contains(side));
        if inside(from) && inside(to) {
            for end in [from, to] {
                prop_assert!(lit.contains(&end.map(|side| side as u32)), "an end is missing");
            }
            let steps = way[0].abs().max(way[1].abs()).floor() as usize;
            prop_assert!(lit.len() >= steps, "{} pixels for {steps} steps", lit.len());
        }
        canvas.line([f32::NAN, 0.0], to, [255; 4]);
        canvas.line(from, [f32::INFINITY, 3.0], [255; 4]);
        prop_assert_eq!(lit.len(), canvas.picture().rgba().chunks(4).filter(|pixel| pixel[0] > 0).count());
    }
}
