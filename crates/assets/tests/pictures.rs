//! Pixels in, from every kind of PNG.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use lucky_reel_assets::Pixmap;
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
        let picture = Pixmap::from_png(&bytes).unwrap();
        assert_eq!([0, 1, 2, 3].map(|x| picture.pixel([x, 0])), expected);
        for length in 0..bytes.len() - 12 {
            assert!(Pixmap::from_png(&bytes[..length]).is_err(), "cut at {length}");
        }
    }
}
