//! Tiles in lockstep, and fields that are not.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use lucky_reel_core::*;
use proptest::prelude::*;

proptest! {
    /// Every offset is within, and any thousand of them are spread over all of it.
    #[test]
    fn random_start_offsets_are_spread(seed in any::<u64>(), within in 1_u64..1 << 47, first in any::<u32>()) {
        let mut tenths = [0; 10];
        for id in 0..1_000 {
            let offset = Ticks::random(seed, u64::from(first) + id, Ticks::new(within)).get();
            prop_assert!(offset < within);
            tenths[(u128::from(offset) * 10 / u128::from(within)) as usize] += 1;
        }
        prop_assert!(within < 100 || tenths.iter().all(|count| (50..170).contains(count)), "{tenths:?}");
    }
}

#[test]
fn a_unison_outlives_a_reload_and_refuses_a_foreign_reel() {
    let fill = |mut builder: ReelBuilder, names: &[&str]| {
        let sheet = builder.sheet("s", NewSheet::grid([64, 8], Grid::cell_size([8, 8])));
        for name in names {
            builder.clip(name, NewClip::of(sheet).frames(0..8).each(Ticks::new(10)));
        }
        builder.build().unwrap()
    };
    let reel = fill(Reel::builder(), &["fan"]);
    let mut unison = Unison::new(&reel);
    unison.advance(Ticks::new(25));
    let next = fill(reel.reload(), &["fan", "lamp"]);
    assert!(unison.reload(&next));
    unison.advance(Ticks::new(10));
    let shown = |name: &str| unison.packed_frame(next.id(name).unwrap()).frame().unwrap();
    let index = |frame: FrameId| next.frame(frame).unwrap().index;
    assert_eq!([index(shown("fan")), index(shown("lamp"))], [3, 3], "a new clip joins in lockstep");
    let foreign = fill(Reel::builder(), &["other", "names", "here"]);
    let before = unison.clone();
    assert!(!unison.reload(&foreign));
    assert_eq!(unison, before);

    // One clip at a speed of its own, another time, and back again.
    let [fan, lamp] = ["fan", "lamp"].map(|name| next.id::<ClipId>(name).unwrap());
    assert!(unison.set_clip_speed(lamp, Speed::from_f64(2.0).unwrap()));
    unison.seek(Ticks::new(15));
    let index = |frame: Option<FrameId>| next.frame(frame.unwrap()).unwrap().index;
    assert_eq!(
        (index(unison.packed_frame(fan).frame()), index(unison.packed_frame(lamp).frame())),
        (1, 3)
    );
    assert_eq!(unison.save().load(&next).unwrap(), unison);

    // The same seed gives the same field on every machine.
    let offsets = [0, 1, 2, 3].map(|id| Ticks::random(2_026, id, Ticks::from_secs(1)).get());
    assert_eq!(offsets, [31_097_597, 71_396_246, 49_331_838, 8_438_686]);
}
