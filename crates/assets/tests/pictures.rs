//! Pixels in, from every kind of PNG.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use lucky_reel_assets::{Limits, Loader, Pixels};
use png::{BitDepth, ColorType, Encoder};

/// Encodes 4 x 1 pixels as the format wants them.
fn encode(color: ColorType, depth: BitDepth, palette: bool, data: &[u8]) -> Vec<u8> {
    let mut bytes = Vec::new();
    let mut encoder = Encoder::new(&mut bytes, 4, 1);
    encoder.set_color(color);
    encoder.set_depth(depth);
    if palette {
        encoder.set_palette(vec![0, 0, 0, 250, 120, 60, 1, 2, 3, 255, 255, 255]);
        encoder.set_trns(vec![0, 255, 128]);
    }
    let mut writer = encoder.write_header().unwrap();
    writer.write_image_data(data).unwrap();
    writer.finish().unwrap();
    bytes
}

#[test]
fn every_color_type_and_depth_is_read() {
    use BitDepth::*;
    use ColorType::*;
    let gray = |values: [u8; 4]| values.map(|v| [v, v, v, 255]);
    let wide: Vec<u8> = (0..16).flat_map(|sample| [sample * 16, 0x7f]).collect();
    let high = |n: u8| n * 16;
    let cases: Vec<(Vec<u8>, [[u8; 4]; 4])> = vec![
        (encode(Grayscale, One, false, &[0b1010_0000]), gray([255, 0, 255, 0])),
        (encode(Grayscale, Two, false, &[0b0001_1011]), gray([0, 85, 170, 255])),
        (encode(Grayscale, Four, false, &[0x0f, 0x37]), gray([0, 255, 51, 119])),
        (encode(Grayscale, Eight, false, &[1, 2, 3, 250]), gray([1, 2, 3, 250])),
        (encode(Grayscale, Sixteen, false, &wide[..8]), gray([0, 16, 32, 48])),
        (
            encode(GrayscaleAlpha, Eight, false, &[9, 0, 8, 100, 7, 200, 6, 255]),
            [[9, 9, 9, 0], [8, 8, 8, 100], [7, 7, 7, 200], [6, 6, 6, 255]],
        ),
        (
            encode(Rgb, Eight, false, &[1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12]),
            [[1, 2, 3, 255], [4, 5, 6, 255], [7, 8, 9, 255], [10, 11, 12, 255]],
        ),
        (
            encode(Indexed, Two, true, &[0b0001_1011]),
            [[0, 0, 0, 0], [250, 120, 60, 255], [1, 2, 3, 128], [255, 255, 255, 255]],
        ),
        (
            encode(Rgba, Sixteen, false, &wide),
            [0, 4, 8, 12].map(|n| [high(n), high(n + 1), high(n + 2), high(n + 3)]),
        ),
    ];
    for (bytes, expected) in cases {
        let picture = Pixels::from_png(&bytes).unwrap();
        assert_eq!([0, 1, 2, 3].map(|x| picture.pixel([x, 0])), expected);
        for length in 0..bytes.len() - 12 {
            assert!(Pixels::from_png(&bytes[..length]).is_err(), "cut at {length}");
        }
    }
}

/// A load has one limit on pixels: what sheets show counts once, however many name it, and so does what is
/// needed on the way. It is checked before memory is taken.
#[test]
fn a_load_has_one_limit_on_pixels() {
    const SIDE: u32 = 64;
    let picture = Pixels::new([SIDE, SIDE]).unwrap().to_png();
    let load = |sheets: &str, pixels: u32| {
        let first = sheets.split(['.', ']']).nth(1).unwrap();
        let text = format!("reel = 1\n{sheets}[clips.c]\nsheet = \"{first}\"\nframes = 0\n");
        let mut limits = Limits::default();
        limits.total_pixels = u64::from(pixels * SIDE * SIDE);
        let loader = Loader::new().limits(limits);
        let loaded =
            loader.bytes("bram.reel.toml", text.as_bytes(), |_| Ok(picture.clone())).load();
        loaded.map(|art| art.images.len()).map_err(|error| {
            let problem = &error.problems()[0];
            [problem.message(), problem.key(), problem.fix()].map(str::to_owned)
        })
    };
    let sheet = |name: &str, image: &str, transparent: &str| {
        let key = if transparent.is_empty() { "" } else { "transparent = " };
        format!("[sheets.{name}]\nimage = \"{image}\"\n{key}{transparent}\n")
    };
    // One image that many sheets show is held once; with a color key, it is changed in its place.
    let plain: String = (0..6).map(|nth| sheet(&format!("s{nth}"), "a.png", "")).collect();
    assert_eq!(load(&plain, 1), Ok(1));
    assert_eq!(load(&sheet("s", "a.png", "\"#ff00ff\""), 1), Ok(1));
    // Six color keys make six images of one file.
    let keyed = |nth: u32| sheet(&format!("s{nth}"), "a.png", &format!("\"#ff00f{nth}\""));
    let keyed: String = (0..6).map(keyed).collect();
    assert_eq!(load(&keyed, 6), Ok(6));
    for pixels in 1..6 {
        let [message, key, fix] = load(&keyed, pixels).unwrap_err();
        let limit = pixels * SIDE * SIDE;
        let what =
            format!("a.png: with the pictures before it, it makes more than {limit} pixels in all");
        assert_eq!(message, what);
        assert_eq!(key, format!("sheets.s{}.transparent", pixels - 1));
        assert!(fix.contains("`total_pixels`"), "{fix}");
    }
    // Loose pictures are dropped when they stand on their sheet: two, and a sheet that is a little larger.
    let loose = "[sheets.s]\nimages = [\"a.png\", \"b.png\"]\n";
    assert!(load(loose, 4).is_err() && load(loose, 5) == Ok(1));
    let then_plain = format!("{loose}{}", sheet("t", "c.png", ""));
    assert!(load(&then_plain, 5) == Ok(2));
}
