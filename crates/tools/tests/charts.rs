//! Pictures of clips hold what they promise.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use std::collections::BTreeMap;

use lucky_reel_assets::{Art, Pixels, load_bytes};
use lucky_reel_core::{ClipId, Grid, Player, Ticks};
use lucky_reel_tools::preview::Preview;
use lucky_reel_tools::{Theme, chart};
use proptest::prelude::*;

/// Frames of one plain color each.
fn art(clip: &str) -> Art {
    let mut picture = Pixels::new([64, 8]).unwrap();
    for x in 0..64 {
        for y in 0..8 {
            picture.set_pixel([x, y], [200, (x / 8) as u8 * 30, 7, 255]);
        }
    }
    let text = format!(
        "reel = 1\n[sheets.s]\nimage = \"s.png\"\ngrid = {{ cell = [8, 8] }}\n[clips.c]\n{clip}\n"
    );
    load_bytes("bram.reel.toml", text.as_bytes(), |_| Ok(picture.to_png())).unwrap()
}

fn drawn(clip: &str) -> Pixels {
    let art = art(clip);
    let chart = chart::clip(&art, art.reel.id::<ClipId>("c").unwrap(), Theme::Dark).unwrap();
    let picture = chart.pixels();
    assert_eq!((chart.size(), picture.size()[0]), (picture.size(), 1280));
    assert!(picture.rgba().chunks(4).all(|pixel| pixel[3] == 255), "nothing is seen through");
    picture
}

fn count(picture: &Pixels, wanted: [u8; 4]) -> usize {
    picture.rgba().chunks(4).filter(|pixel| *pixel == wanted).count()
}

/// The longest runs of the two colors of the boxes, in the row of pixels where they begin.
fn widths(picture: &Pixels) -> Vec<usize> {
    let boxes = [[0x22, 0x2f, 0x42, 0xff], [0x2b, 0x3b, 0x51, 0xff]];
    let [width, height] = picture.size();
    let row = (0..height).find(|y| boxes.contains(&picture.pixel([100, *y]))).unwrap();
    let pixels: Vec<_> = (0..width).map(|x| picture.pixel([x, row])).collect();
    let runs = pixels.chunk_by(|a, b| a == b).filter(|run| boxes.contains(&run[0]));
    runs.map(|run| run.len()).collect()
}

/// The outline of an area is drawn in a chart and in the preview's window, where the area lies.
#[test]
fn areas_are_outlined() {
    const AREA: [u8; 4] = [0xc9, 0xb0, 0xff, 0xff];
    let path = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/greenhouse/net.reel.toml");
    let art = lucky_reel_assets::load(path).unwrap();
    let chart = chart::clip(&art, art.reel.id::<ClipId>("swing").unwrap(), Theme::Dark).unwrap();
    assert!(chart.svg().contains("area catch"));
    // Four outlines of 17 x 17 pixels, zoomed by 3, and some letters.
    let outline = 4 * (4 * 17 * 3 - 4);
    let drawn = count(&chart.pixels(), AREA);
    assert!((outline..outline + 700).contains(&drawn), "{drawn}");

    let preview = Preview::open(&[path.into()], Default::default(), None).unwrap();
    let stage = preview.layout([320, 320]); // 4 pixels a pixel of the art at least
    let lit: Vec<[u32; 2]> = (0..320 * 320)
        .map(|nth| [nth % 320, nth / 320])
        .filter(|at| stage.pixel(*at) == AREA)
        .collect();
    let wide =
        lit.iter().map(|at| at[0]).max().unwrap() - lit.iter().map(|at| at[0]).min().unwrap();
    assert_eq!((wide + 1) % 17, 0, "{wide}");
    assert_eq!(lit.len() as u32, 4 * wide);
}

#[test]
fn widths_are_in_proportion_to_time() {
    let picture = drawn("frames = [0, 1, 2]\neach = [\"100ms\", \"300ms\", \"200ms\"]");
    // 1,200 pixels, less an edge of one for each hold and one at the end.
    let widths = widths(&picture);
    assert_eq!(widths.len(), 3);
    for (width, share) in widths.iter().zip([200, 600, 400]) {
        assert!(width.abs_diff(share) <= 2, "{widths:?}");
    }
    for frame in 0..3 {
        assert!(count(&picture, [200, frame * 30, 7, 255]) >= 64, "each hold shows its frame");
    }
    assert_eq!(count(&picture, [200, 90, 7, 255]), 0);
}

#[test]
fn marks_and_spans_are_drawn_where_there_are_any() {
    let (mark, span) = ([0xff, 0xc8, 0x57, 0xff], [0x7f, 0xd8, 0xbe, 0xff]);
    let bare = drawn("frames = [0, 1]\nfps = 4\nmode = \"once\"");
    // The cross on each pivot is of the spans' color.
    assert_eq!((count(&bare, mark), count(&bare, span)), (0, 2 * 36));
    let full = drawn(
        "frames = [0, 1]\nfps = 4\nmode = \"once\"\nmarks = { hit = 1 }\nspans = { open = 0 }",
    );
    assert!(count(&full, mark) >= 28 && count(&full, span) > 590 * 4);
    // A cycle's end is drawn into the order of play where there is more than one.
    assert!(count(&drawn("frames = [0, 1]\nfps = 4"), mark) > 50);
}

#[test]
fn every_kind_of_clip_can_be_drawn() {
    let long = format!("frames = [{}]\neach = \"1ms\"", vec!["0"; 5_000].join(", "));
    for clip in [
        "frames = 0\nfps = 1",
        "frames = \"0 to 7\"\nfps = 17\nmode = \"ping-pong\"",
        "frames = \"0 to 7\"\nfps = 60\nmode = \"ping-pong\"\nrepeat = 2147483647\nend = \"first\"",
        "frames = [\"0 for 1t\", \"1 for 1000s\"]\nrest = 1",
        "frames = [\"0 for 1400000s\"]\nmode = \"once\"\nend = { play = \"c\" }",
        "frames = \"0 to 7\"\nfps = 8\nmarks = { a = \"0 to 7\", b = \"0 to 7\", c = 3 }",
        &long,
    ] {
        let picture = drawn(clip);
        assert!(picture.size()[1] < 4_000, "{clip}");
    }
}

#[test]
fn rows_in_which_nothing_changes_are_left_out() {
    // 10 ms are wide enough to be read on the sixth part of a row.
    let art = art("frames = [0, 1, 2]\neach = [\"10ms\", \"2000ms\", \"10ms\"]");
    let chart = chart::clip(&art, art.reel.id::<ClipId>("c").unwrap(), Theme::Dark).unwrap();
    let svg = chart.svg();
    assert!(svg.contains("hold 1 stays up for 1346.67 ms more"), "{svg}");
    assert_eq!(svg.matches(">… 1 goes on<").count(), 1);
    assert!(chart.size()[1] < 600);
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 200, ..ProptestConfig::default() })]

    /// What a display shows, against the look-up at each of its refreshes.
    #[test]
    fn a_display_shows_what_is_up_at_its_refreshes(
        times in prop::collection::vec(1_u64..40_000_000, 1..6),
        rate in prop::sample::select(vec![1, 24, 59, 60, 144, 1_000]),
        mode in prop::sample::select(vec!["loop", "ping-pong", "once"]),
    ) {
        let listed: Vec<String> = (0..).zip(&times).map(|(nth, time)| format!("\"{nth} for {time}t\"")).collect();
        let art = art(&format!("frames = [{}]\nmode = \"{mode}\"", listed.join(", ")));
        let clip: ClipId = art.reel.id("c").unwrap();
        let shown = chart::Display::of(&art.reel, clip, rate).unwrap();
        let mut counted: BTreeMap<(i32, u32), u32> = BTreeMap::new();
        let cycles = shown.holds[0].refreshes.len();
        for refresh in 0_u64.. {
            let at = Ticks::new(refresh * Ticks::PER_SECOND / u64::from(rate));
            let mut shown = Player::new(&art.reel, clip);
            shown.advance(&art.reel, at);
            if shown.cycle() >= cycles as i32 || shown.has_ended() {
                break;
            }
            let hold = shown.hold_index(&art.reel).unwrap();
            *counted.entry((shown.cycle(), hold)).or_default() += 1;
        }
        let mut said: BTreeMap<(i32, u32), u32> = BTreeMap::new();
        for hold in &shown.holds {
            for (cycle, count) in (0..).zip(&hold.refreshes) {
                *said.entry((cycle, hold.hold)).or_default() += count;
            }
            // The nearest duration is up for so many refreshes wherever it begins.
            let even = hold.even.get() * u64::from(rate);
            prop_assert!(even % Ticks::PER_SECOND < u64::from(rate) && even >= Ticks::PER_SECOND);
            prop_assert!(hold.even.get().abs_diff(hold.duration.get()) <= Ticks::PER_SECOND.div_ceil(u64::from(rate)));
        }
        said.retain(|_, count| *count > 0);
        prop_assert_eq!(said, counted);
    }
}

fn demo(role: &str) -> Art {
    let folder = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/greenhouse");
    lucky_reel_assets::load(format!("{folder}/{role}.reel.toml")).unwrap()
}

#[test]
fn whole_reels_are_drawn_in_both_themes_and_forms() {
    for role in ["bram", "moth", "puff", "tiles"] {
        let art = demo(role);
        for (theme, background) in
            [(Theme::Dark, [0x12, 0x18, 0x24, 255]), (Theme::Light, [0xf8, 0xf5, 0xec, 255])]
        {
            let chart = chart::reel(&art, theme).unwrap();
            let (picture, svg) = (chart.pixels(), chart.svg());
            assert_eq!((picture.size(), picture.pixel([0, 0])), (chart.size(), background));
            let document = roxmltree::Document::parse(&svg).unwrap();
            let texts: Vec<&str> = document.descendants().filter_map(|node| node.text()).collect();
            for clip in art.reel.clips() {
                assert!(texts.contains(&clip.name), "{}", clip.name);
            }
            let sizes = document.descendants().filter_map(|node| node.attribute("font-size"));
            assert!(sizes.into_iter().all(|size| size.parse::<f32>().unwrap() >= 12.0));
            let all = document.descendants().filter(|node| node.has_tag_name("image")).count();
            let holds: usize = art.reel.clips().map(|clip| clip.holds().len()).sum();
            assert!(all > 0 && all <= holds, "{role}: {all} frames of {holds}");
        }
    }
}

#[test]
fn versions_are_compared_clip_by_clip() {
    let before = art("frames = [0, 1]\neach = [\"100ms\", \"100ms\"]");
    let after = art("frames = [0, 1, 2]\neach = [\"130ms\", \"100ms\", \"50ms\"]");
    let texts = |chart: chart::Chart| -> Vec<String> {
        let svg = chart.svg();
        let document = roxmltree::Document::parse(&svg).unwrap();
        document.descendants().filter_map(|node| Some(node.text()?.to_owned())).collect()
    };
    let said = texts(chart::versions(&before, &after, Theme::Light).unwrap());
    for text in ["1 clip has changed", "0: +30 ms", "2: new"] {
        assert!(said.iter().any(|said| said == text), "{text} in {said:?}");
    }
    let said = texts(chart::versions(&after, &before, Theme::Dark).unwrap());
    assert!(said.contains(&"0: -30 ms".to_owned()) && said.contains(&"2: gone".to_owned()));
    let said = texts(chart::versions(&before, &before, Theme::Dark).unwrap());
    assert!(said.contains(&"no clip of both has changed".to_owned()));
    let clip = |art: &Art| art.reel.id::<ClipId>("c").unwrap();
    let said =
        texts(chart::clips((&before, clip(&before)), (&after, clip(&after)), Theme::Dark).unwrap());
    assert!(said.contains(&"2 holds differ".to_owned()), "{said:?}");
    // Clips of one entry are compared once.
    let (bram, text) = (
        demo("bram"),
        std::fs::read_to_string(concat!(
            env!("CARGO_MANIFEST_DIR"),
            "/../../demo/greenhouse/bram.reel.toml"
        ))
        .unwrap(),
    );
    let folder = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/greenhouse/bram.reel.toml");
    let text = text.replace("\"80ms\"", "\"90ms\"");
    let edited = lucky_reel_assets::Loader::new().file_with_text(folder, &text).load().unwrap();
    let said = texts(chart::versions(&bram, &edited, Theme::Dark).unwrap());
    assert!(said.contains(&"hurry-down, hurry-up, hurry-right, hurry-left".to_owned()), "{said:?}");
}

/// A grid is drawn with numbers around it.
#[test]
fn a_grid_is_drawn_larger_than_its_sheet() {
    let sheet = Pixels::new([96, 64]).unwrap();
    let lined = chart::with_grid_lines(&sheet, Grid::cell_size([32, 32]), &[]).unwrap();
    assert!(lined.size()[0] > 96 && lined.size()[1] > 64);
    let tiny = Pixels::new([64, 64]).unwrap();
    let tiny = chart::with_grid_lines(&tiny, Grid::cell_size([2, 2]), &[]).unwrap();
    assert!(tiny.size()[0] >= 32 * 12, "small cells are drawn large: {:?}", tiny.size());
}
