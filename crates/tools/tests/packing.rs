//! Gathered pictures are found again, none over another.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use lucky_reel_assets::packing::{Packing, pack};
use lucky_reel_assets::{Pixmap, load_bytes};
use lucky_reel_core::{ExactTime, Rect, Ticks};
use lucky_reel_tools::pack;
use proptest::prelude::*;

proptest! {
    #[test]
    fn gathered_pictures_are_found_again(
        sizes in prop::collection::vec(([1_u32..20, 1_u32..20], 0_u8..6), 1..20), padding in 0_u32..4,
        extend in 0_u32..3, power_of_two in any::<bool>(),
    ) {
        let pictures: Vec<Pixmap> = sizes.iter().map(|(size, shade)| {
            let mut picture = Pixmap::new(*size).unwrap();
            picture.rgba_mut().iter_mut().zip(0_u8..=255).for_each(|(byte, nth)| *byte = (nth / 9 * 7).wrapping_add(shade * 40));
            picture
        }).collect();
        let mut packing = Packing::default();
        (packing.padding, packing.extend, packing.power_of_two) = (padding, extend, power_of_two);
        let packed = pack(&pictures, packing, 1 << 26).unwrap();
        let size = packed.sheet.size();
        prop_assert!(!power_of_two || size.iter().all(|side| side.is_power_of_two()));
        for (picture, place) in pictures.iter().zip(&packed.places) {
            prop_assert!(Rect::fits(size, *place));
            prop_assert_eq!([place.width, place.height], picture.size());
            // Every pixel, and around it the nearest one of the edge.
            let (reach, last) = (extend as i64, picture.size().map(|side| i64::from(side) - 1));
            for y in -reach..=last[1] + reach {
                for x in -reach..=last[0] + reach {
                    let at = [(i64::from(place.x) + x) as u32, (i64::from(place.y) + y) as u32];
                    let nearest = [x.clamp(0, last[0]) as u32, y.clamp(0, last[1]) as u32];
                    prop_assert_eq!(packed.sheet.pixel(at), picture.pixel(nearest));
                }
            }
        }
        // Alike are stored once, others apart, with room between them.
        let room = |place: &Rect| [place.x, place.y, place.x + place.width + padding + 2 * extend, place.y + place.height + padding + 2 * extend];
        for (nth, one) in packed.places.iter().enumerate() {
            for (other_nth, other) in packed.places.iter().enumerate().skip(nth + 1) {
                let (a, b) = (room(one), room(other));
                let apart = a[2] <= b[0] || b[2] <= a[0] || a[3] <= b[1] || b[3] <= a[1];
                prop_assert_eq!(one == other, pictures[nth] == pictures[other_nth]);
                prop_assert!(apart || one == other);
            }
        }

        // The reel file plays them with their times.
        let times: Vec<ExactTime> = (1..=pictures.len() as u64).map(|n| Ticks::new(n * 1_000).into()).collect();
        let text = pack::reel_file(&packed, "moth", &times, Some(3));
        let art = load_bytes("moth.reel.toml", text.as_bytes(), |_| Ok(packed.sheet.to_png())).unwrap();
        let clip = art.reel.clip(art.reel.clip_id("moth").unwrap()).unwrap();
        prop_assert_eq!(clip.repeat(), Some(3));
        for ((hold, place), time) in clip.holds().zip(&packed.places).zip(&times) {
            prop_assert_eq!(art.reel.frame(hold.frame).unwrap().source(), *place);
            prop_assert_eq!(hold.ticks, time.to_ticks());
        }
    }
}

#[test]
fn what_does_not_fit_is_refused() {
    assert!(pack(&[], Packing::default(), 1 << 26).is_err());
    let wide = Pixmap::new([17_000, 1]).unwrap();
    assert!(
        pack(&[wide], Packing::default(), 1 << 26).unwrap_err().to_string().contains("pack fewer")
    );
}
