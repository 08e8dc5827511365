//! Masks against pixels that are looked at one by one.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use lucky_reel::{assets::Pixels, reel::*, view::*, *};
use lucky_reel_canvas::Canvas;
use proptest::prelude::*;
use proptest::strategy::Strategy;

/// Wider than two words, so that every way of crossing one is taken.
const IMAGE: [u32; 2] = [170, 40];

/// Whether a pixel of the image is opaque: a pattern from a seed, mostly clear or mostly opaque.
fn is_opaque(seed: u64, often: u64, [x, y]: [u32; 2]) -> bool {
    let mixed = (seed ^ u64::from(x) << 32 ^ u64::from(y)).wrapping_mul(0x9e37_79b9_7f4a_7c15);
    (mixed >> 40) % 16 < often
}

fn frame() -> impl Strategy<Value = (Rect, [u32; 2], [i32; 2])> {
    let side = |whole: u32| (0..whole).prop_flat_map(move |from| (Just(from), 1..=whole - from));
    let trim = [0_u32..9, 0_u32..9];
    (side(IMAGE[0]), side(IMAGE[1]), trim, [-9_i32..200, -9_i32..60]).prop_map(
        |((x, width), (y, height), trim, pivot)| (Rect::new(x, y, width, height), trim, pivot),
    )
}

/// Every opaque pixel of what is up, on the screen.
fn pixels(
    reel: &Reel,
    up: PackedFrame,
    at: [i32; 2],
    opaque: impl Fn([u32; 2]) -> bool,
) -> Vec<[i32; 2]> {
    let blit = up.view(reel).unwrap().blit(at, 1);
    let mut found = Vec::new();
    for y in 0..blit.source.height {
        for x in 0..blit.source.width {
            let from = |at: u32, length: u32, flip: bool| if flip { length - 1 - at } else { at };
            let column = from(x, blit.source.width, blit.flips.x);
            let row = from(y, blit.source.height, blit.flips.y);
            if opaque([blit.source.x + column, blit.source.y + row]) {
                found.push([blit.at[0] + x as i32, blit.at[1] + y as i32]);
            }
        }
    }
    found
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 400, ..ProptestConfig::default() })]

    #[test]
    fn masks_touch_where_pixels_do(
        frames in prop::collection::vec(frame(), 2), flips in any::<[[bool; 2]; 2]>(),
        at in [-40_i32..40, -20_i32..20], seed in any::<u64>(), often in prop::sample::select(vec![0_u64, 1, 8, 16]),
        point in [-60_i32..160, -60_i32..60],
    ) {
        let mut builder = Reel::builder();
        let list = frames.iter().map(|(source, trim, pivot)| {
            let size = [source.width + trim[0] + 3, source.height + trim[1] + 2];
            NewFrame::at(*source)
                .trimmed_from(size, *trim)
                .pivot(Pivot::At(pivot.map(|halves| halves as f32 / 2.0)))
        });
        let sheet = builder.sheet("s", NewSheet::frames(IMAGE, list));
        builder.clip("c", NewClip::of(sheet).frames([0, 1]).fps(1));
        let reel = builder.build().unwrap();
        let opaque = |at| is_opaque(seed, often, at);
        let masks = Masks::new(&reel, |_, at| opaque(at));
        let up = |nth: usize| {
            let flips = Flips { x: flips[nth][0], y: flips[nth][1] };
            PackedFrame::of(reel.frames_of(sheet).nth(nth).unwrap(), flips)
        };
        let things = [(up(0), [5, 7]), (up(1), at)];
        let [one, other] = things.map(|(up, at)| PictureAt::new(up, at));
        let [mut mine, theirs] = things.map(|(up, at)| pixels(&reel, up, at, opaque));
        prop_assert_eq!(masks.contact_count(one, one), mine.len() as u64);
        prop_assert_eq!(masks.is_opaque_at(one, point), mine.contains(&point));
        let least = mine.iter().copied().reduce(|a, b| [a[0].min(b[0]), a[1].min(b[1])]);
        let most = mine.iter().copied().reduce(|a, b| [a[0].max(b[0]), a[1].max(b[1])]);
        let around = least.zip(most).map(|(least, [x, y])| [least, [x + 1, y + 1]]);
        prop_assert_eq!(masks.opaque_bounds(one), around);

        let theirs: std::collections::BTreeSet<[i32; 2]> = theirs.into_iter().collect();
        mine.retain(|pixel| theirs.contains(pixel));
        mine.sort_by_key(|[x, y]| (*y, *x));
        prop_assert_eq!(masks.first_contact(one, other), mine.first().copied());
        prop_assert_eq!(masks.contact_count(one, other), mine.len() as u64);
        prop_assert_eq!(masks.contact_count(other, one), mine.len() as u64);
        prop_assert_eq!(masks.contacts(one, other).collect::<Vec<_>>(), mine);
    }
}

#[test]
fn what_shows_nothing_touches_nothing() {
    let mut builder = Reel::builder();
    let sheet = builder.sheet("s", NewSheet::grid([8, 8], Grid::cell_size([8, 8])));
    let clip = builder.clip("c", NewClip::of(sheet).frames([0]));
    let reel = builder.build().unwrap();
    let masks = Masks::new(&reel, |_, _| true);
    let up = Player::new(&reel, clip).packed_frame(&reel);
    let at = |side: i32| PictureAt::new(up, [side, side]);
    let nothing = PictureAt::new(PackedFrame::NOTHING, [0, 0]);
    assert_eq!(masks.first_contact(at(0), nothing), None);
    assert_eq!(
        (masks.contact_count(nothing, nothing), masks.is_opaque_at(nothing, [0, 0])),
        (0, false)
    );
    for far in [i32::MIN, i32::MAX] {
        assert_eq!(masks.contact_count(at(far), at(0)), 0);
        assert_eq!(masks.contact_count(at(far), at(far)), 64);
    }
}

/// Scaled, flipped and rotated; by quarter turns all numbers are exact.
fn placement() -> impl Strategy<Value = (Placement, bool)> {
    let scale = prop::sample::select(vec![0.5_f32, 1.0, 1.5, 2.0, -1.0, 3.0]);
    let turn = prop_oneof![
        3 => prop::sample::select(vec![[1.0_f32, 0.0], [0.0, 1.0], [-1.0, 0.0], [0.0, -1.0]]).prop_map(|turn| (turn, true)),
        2 => (0.0_f32..6.3).prop_map(|angle| ([angle.cos(), angle.sin()], false)),
        1 => Just(([0.0, 0.0], true)), // nothing is seen of it
    ];
    ([0_i16..480, 0_i16..480], [scale.clone(), scale], turn, any::<bool>()).prop_map(
        |(at, scale, (turn, is_exact), is_up)| {
            let at = at.map(|eighth| f32::from(eighth) / 8.0 + 0.0625);
            let place = Placement::at(at).stretched(scale).pointing(turn);
            (if is_up { place.y_up() } else { place }, is_exact)
        },
    )
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 200, ..ProptestConfig::default() })]

    /// The canvas draws as a GPU does, from other code: where it draws both is where they touch.
    #[test]
    fn placed_masks_touch_where_the_canvas_draws_both(
        places in [placement(), placement()], flips in any::<[[bool; 2]; 2]>(), size in [1_u32..20, 1_u32..20],
        seed in any::<u64>(), often in prop::sample::select(vec![1_u64, 8, 15, 16]),
        whole in prop::option::of([0_i32..60, 0_i32..60]),
    ) {
        const SIDE: u32 = 60;
        let mut builder = Reel::builder();
        let pivot = Pivot::At([3.0, 5.5]);
        let sheet = builder.sheet("s", NewSheet::grid(size, Grid::cell_size(size)).pivot(pivot));
        builder.clip("c", NewClip::of(sheet).frames([0]));
        let reel = builder.build().unwrap();
        let mut image = Pixels::new(size).unwrap();
        for at in (0..size[0] * size[1]).map(|nth| [nth % size[0], nth / size[0]]) {
            image.set_pixel(at, if is_opaque(seed, often, at) { [255; 4] } else { [0; 4] });
        }
        let masks = Masks::new(&reel, |_, at| is_opaque(seed, often, at));
        let (writer, frame) = (InstanceWriter::new(&reel), reel.frames_of(sheet).next().unwrap());
        let up = |nth: usize| PackedFrame::of(frame, Flips { x: flips[nth][0], y: flips[nth][1] });
        let drawn = |nth: usize| {
            let mut canvas = Canvas::new([SIDE, SIDE]).unwrap();
            match whole.filter(|_| nth == 1) {
                Some(at) => canvas.draw(&up(nth).view(&reel).unwrap(), std::slice::from_ref(&image), at, 1),
                None => canvas.draw_instance(&writer.make(up(nth), places[nth].0), std::slice::from_ref(&image)),
            }
            canvas.into_picture()
        };
        let [one, other] = [0, 1].map(|nth| match whole.filter(|_| nth == 1) {
            Some(at) => PictureAt::new(up(nth), at),
            None => PictureAt::placed(up(nth), places[nth].0),
        });
        let pictures = [0, 1].map(drawn);
        let screen = (0..SIDE * SIDE).map(|nth| [nth % SIDE, nth / SIDE]);
        let both = screen.filter(|at| pictures.iter().all(|picture| picture.pixel(*at)[3] > 0));
        let both: Vec<[i32; 2]> = both.map(|at| at.map(|side| side as i32)).collect();
        let on_screen = |at: &[i32; 2]| at.iter().all(|side| (0..SIDE as i32).contains(side));
        let found: Vec<[i32; 2]> = masks.contacts(one, other).collect();
        let seen: Vec<[i32; 2]> = found.iter().copied().filter(on_screen).collect();
        let is_exact = places[0].1 && (places[1].1 || whole.is_some());
        // At an odd angle, a middle may fall on an edge of the art, and numbers of 32 bits round otherwise.
        let differing = seen.iter().filter(|at| !both.contains(at)).count()
            + both.iter().filter(|at| !seen.contains(at)).count();
        prop_assert!(differing <= if is_exact { 0 } else { 2 }, "{differing} of {}", both.len());

        // No number is too large, and none is needed.
        for side in [f32::MAX, -1e30, f32::NAN, f32::INFINITY, 9.223372e18] {
            let far = PictureAt::placed(up(0), Placement::at([side, 3.0]));
            let huge = PictureAt::placed(up(0), Placement::at([3.0, 5.0]).scaled(side));
            prop_assert_eq!(masks.contact_count(far, one), 0);
            _ = masks.contact_count(huge, one);
            _ = masks.is_opaque_at(huge, [7, 7]);
        }

        // All answers are of one law.
        prop_assert_eq!(masks.contact_count(one, other), found.len() as u64);
        prop_assert_eq!(masks.first_contact(one, other), found.first().copied());
        prop_assert!(found.is_sorted_by_key(|[x, y]| (*y, *x)));
        let mut turned: Vec<[i32; 2]> = masks.contacts(other, one).collect();
        prop_assert_eq!(&turned, &found);
        turned.retain(|at| masks.is_opaque_at(one, *at) && masks.is_opaque_at(other, *at));
        prop_assert_eq!(turned.len(), found.len());
        let least = found.iter().copied().reduce(|a, b| [a[0].min(b[0]), a[1].min(b[1])]);
        let inside = masks.opaque_bounds(one).zip(least);
        prop_assert!(inside.is_none_or(|([from, _], least)| from[0] <= least[0] && from[1] <= least[1]));
    }
}
