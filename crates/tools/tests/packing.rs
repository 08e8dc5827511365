//! Packed images are found again, none over another.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use lucky_reel_assets::packing::{Packing, pack};
use lucky_reel_assets::{Art, Loader, Pixels, load_bytes};
use lucky_reel_canvas::Canvas;
use lucky_reel_core::{ClipId, ExactTime, LookId, LookSet, Placement, Player, Rect, Ticks};
use lucky_reel_tools::pack::{SourceImage, reel_file, reels};
use proptest::prelude::*;

proptest! {
    #[test]
    fn packed_images_are_found_again(
        sizes in prop::collection::vec(([1_u32..20, 1_u32..20], 0_u8..6), 1..20), padding in 0_u32..4,
        extrude in 0_u32..3, power_of_two in any::<bool>(),
    ) {
        let pictures: Vec<Pixels> = sizes.iter().map(|(size, shade)| {
            let mut picture = Pixels::new(*size).unwrap();
            picture.rgba_mut().iter_mut().zip(0_u8..=255).for_each(|(byte, nth)| *byte = (nth / 9 * 7).wrapping_add(shade * 40));
            picture
        }).collect();
        let mut packing = Packing::default();
        (packing.padding, packing.extrude, packing.power_of_two) = (padding, extrude, power_of_two);
        let packed = pack(&pictures, packing, 1 << 26).unwrap();
        let size = packed.sheet.size();
        prop_assert!(!power_of_two || size.iter().all(|side| side.is_power_of_two()));
        for (picture, place) in pictures.iter().zip(&packed.places) {
            prop_assert!(Rect::fits(size, *place));
            prop_assert_eq!([place.width, place.height], picture.size());
            // Every pixel, and around it the nearest one of the edge.
            let (reach, last) = (extrude as i64, picture.size().map(|side| i64::from(side) - 1));
            for y in -reach..=last[1] + reach {
                for x in -reach..=last[0] + reach {
                    let at = [(i64::from(place.x) + x) as u32, (i64::from(place.y) + y) as u32];
                    let nearest = [x.clamp(0, last[0]) as u32, y.clamp(0, last[1]) as u32];
                    prop_assert_eq!(packed.sheet.pixel(at), picture.pixel(nearest));
                }
            }
        }
        // Alike are stored once, others apart, with room between them.
        let room = |place: &Rect| [place.x, place.y, place.x + place.width + padding + 2 * extrude, place.y + place.height + padding + 2 * extrude];
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
        let animated = |times: &[ExactTime]| SourceImage { name: "moth".to_owned(), times: times.to_vec(), plays: Some(3) };
        let still = |(nth, time): (usize, &ExactTime)| {
            SourceImage { name: format!("moth-{nth}"), times: vec![*time], plays: None }
        };
        let stills: Vec<SourceImage> = times.iter().enumerate().map(still).collect();
        let sources = if times.len() > 1 && padding > 1 { vec![animated(&times)] } else { stills };
        let text = reel_file(&packed, "moth", &sources);
        let art = load_bytes("moth.reel.toml", text.as_bytes(), |_| Ok(packed.sheet.to_png())).unwrap();
        let clip = art.reel.clip(art.reel.id::<ClipId>("moth").unwrap()).unwrap();
        prop_assert_eq!(clip.repeat, sources[0].plays);
        for ((hold, place), time) in clip.holds().zip(&packed.places).zip(&times) {
            prop_assert_eq!(art.reel.frame(hold.frame).unwrap().source, *place);
            prop_assert_eq!(hold.ticks, time.to_ticks());
        }
    }
}

/// Several animations and series become several clips in one image, with their own names.
#[test]
fn each_series_is_a_clip() {
    let images: Vec<Pixels> = (1..=5).map(|side| Pixels::new([side, 4]).unwrap()).collect();
    let packed = pack(&images, Packing::default(), 1 << 20).unwrap();
    let time: ExactTime = Ticks::from_millis(80).into();
    let source = |name: &str, times| SourceImage { name: name.to_owned(), times, plays: Some(1) };
    let sources = [
        source("puff-9", vec![time]),
        source("puff-10", vec![time]),
        source("odd name!", vec![time]),
        source("spark", vec![time; 2]),
    ];
    let text = reel_file(&packed, "effects", &sources);
    let art =
        load_bytes("effects.reel.toml", text.as_bytes(), |_| Ok(packed.sheet.to_png())).unwrap();
    let clips: Vec<_> = art.reel.clips().map(|clip| (clip.name, clip.holds().len())).collect();
    assert_eq!(clips, [("puff", 2), ("odd-name-", 1), ("spark", 2)], "{text}");
    assert!(text.contains("\"puff-10 for 80ms\"") && text.contains("\nspark-1 = ["), "{text}");
    assert_eq!(art.reel.clip(art.reel.id::<ClipId>("spark").unwrap()).unwrap().repeat, Some(1));
}

#[test]
fn what_does_not_fit_is_refused() {
    assert!(pack::<Pixels>(&[], Packing::default(), 1 << 26).is_err());
    let wide = Pixels::new([17_000, 1]).unwrap();
    let error = pack(&[wide], Packing::default(), 1 << 26).unwrap_err().to_string();
    assert!(error.contains("17000 x 1 px do not fit onto 16384 x 16384 px"), "{error}");
    // Settings beyond all measure are held to what a sheet can be.
    let mut packing = Packing::default();
    packing.padding = u32::MAX;
    let two = [Pixels::new([2, 1]).unwrap(), Pixels::new([1, 2]).unwrap()];
    let error = pack(&two, packing, 1 << 26).unwrap_err().to_string();
    assert!(error.contains("pack fewer"), "{error}");
    packing.extrude = u32::MAX;
    assert!(pack(&two, packing, 1 << 26).is_err());
}

/// Everything that a file can do with a sheet, and two more files on the same pages.
const MANY_KINDS: &str = r##"reel = 1
[sheets.moth]
image = "moth.png"
grid = { cell = [16, 16], columns = 3 }
trim = true
pivot = "bottom"
points = { tip = { 1 = [2, 3] } }
areas = { body = { "0 to 1" = [1, 1, 9, 9.5] } }
[sheets.bits]
image = "puff.png"
cutouts = { small = [8, 8, 20, 24], large = [32, 0, 32, 32] }
transparent = "#000000"
[sheets.loose]
images = ["moth.png", "net.png"]
[defaults]
fps = 7
[clips.wings]
sheet = "moth"
row = 0
[clips.burst]
sheet = "bits"
frames = ["large", "small for 80ms"]
[clips.heap]
sheet = "loose"
frames = "all"
[sheets.spark]
animated = "spark.png"
[clips.spark]
sheet = "spark"
frames = "all"
[looks.dark]
sheets = { moth = "moth.png", bits = "puff.png" }
[looks.frost]
colors = { "#6b5a4c" = "#4c6a8c", "#ffb347" = "#7fa6c9" }
"##;

fn pixels_of(art: &Art, worn: Option<&str>) -> Vec<(String, u64, Pixels)> {
    let mut looks = LookSet::default();
    if let Some(look) = worn {
        looks.wear(&art.reel, art.reel.id::<LookId>(look).unwrap()).unwrap();
    }
    let mut seen = Vec::new();
    for clip in art.reel.clips() {
        for (nth, hold) in clip.holds().enumerate() {
            let mut player = Player::new(&art.reel, clip.id);
            player.seek_hold(&art.reel, nth as u32);
            let view = player.view_with(&art.reel, &looks).unwrap();
            let mut canvas = Canvas::new([160, 160]).unwrap();
            canvas.draw(&view, &art.images, [80, 100], 1);
            let name = format!("{}/{}", art.reel.role_name(clip.id), clip.name);
            let named = (
                view.areas().count(),
                view.points().count(),
                view.frame.size,
                view.bounds(Placement::at([0.0, 0.0])),
            );
            seen.push((format!("{name} {named:?}"), hold.ticks.get(), canvas.into_picture()));
        }
    }
    seen
}

/// Packed reel files show what the others show, hold by hold, looks included, on images within the size.
#[test]
fn packed_reel_files_show_the_same() {
    let demo = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo/greenhouse");
    let beside = tempfile::tempdir().unwrap();
    for file in std::fs::read_dir(demo).unwrap().map(|file| file.unwrap().path()) {
        std::fs::copy(&file, beside.path().join(file.file_name().unwrap())).unwrap();
    }
    // Of an animated image the times are in the file, so it stays as it is.
    let seeds = concat!(env!("CARGO_MANIFEST_DIR"), "/../../fuzz/seeds/images/moving.png");
    std::fs::copy(seeds, beside.path().join("spark.png")).unwrap();
    let folder = beside.path();
    let demo = || {
        let many = Loader::new().file_with_text(folder.join("many.reel.toml"), MANY_KINDS);
        let roles = ["bram", "tiles", "puff", "net"];
        roles
            .iter()
            .fold(many, |loader, role| loader.file(folder.join(format!("{role}.reel.toml"))))
    };
    let (art, sources) = demo().load_with_sources().unwrap();
    let mut packing = Packing::default();
    for (side, padding, extrude, pages) in [(2_048, 1, 0, 1), (300, 0, 1, 4)] {
        (packing.max_side, packing.padding, packing.extrude) = (side, padding, extrude);
        let packed = reels(&art, &sources, "night", packing).unwrap();
        assert!(packed.pages.len() >= pages && packed.pages.len() <= 2 * pages);
        assert!(packed.pages.iter().all(|(_, page)| page.size().iter().all(|at| *at <= side)));
        let out = tempfile::tempdir().unwrap();
        for (name, page) in &packed.pages {
            std::fs::write(out.path().join(name), page.to_png()).unwrap();
        }
        for (name, text) in &packed.files {
            std::fs::write(out.path().join(name), text).unwrap();
        }
        assert_eq!(packed.animated.len(), 1);
        for (from, name) in &packed.animated {
            std::fs::copy(from, out.path().join(name)).unwrap();
        }
        let files = packed.files.iter().map(|(name, _)| out.path().join(name));
        let (again, sources) = files
            .fold(Loader::new(), |loader, file| loader.file(file))
            .load_with_sources()
            .unwrap();
        assert_eq!(again.reel.fingerprint(), art.reel.fingerprint());
        // One for each page and the animated image, and again for those that have a color which the look changes.
        let images = packed.pages.len() + 1;
        assert!((images..=2 * images).contains(&again.images.len()), "files share the images");
        for look in [None, Some("many/dark"), Some("bram/dusk"), Some("many/frost")] {
            assert_eq!(pixels_of(&again, look), pixels_of(&art, look), "{look:?}");
        }
        // What has been packed can be packed again.
        let twice = reels(&again, &sources, "night", packing).unwrap();
        assert_eq!(twice.pages.len(), packed.pages.len());
    }
    packing.max_side = 90;
    let error = reels(&art, &sources, "night", packing).unwrap_err();
    assert!(error.to_string().contains("does not fit onto 90 x 90 pixels"), "{error}");
}
