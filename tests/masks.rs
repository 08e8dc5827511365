//! Masks against pixels that are looked at one by one.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use lucky_reel::{reel::*, view::*, *};
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
        let (one, other) = (PictureAt::new(up(0), [5, 7]), PictureAt::new(up(1), at));
        let [mut mine, theirs] = [one, other].map(|one| pixels(&reel, one.picture, one.position, opaque));
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
