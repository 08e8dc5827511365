//! Pixels in, pixels drawn, pixels out.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use lucky_reel_assets::picture::MovingPng;
use lucky_reel_assets::{Canvas, Picture, whole_file};
use lucky_reel_core::*;
use png::{BitDepth, ColorType, Encoder};
use proptest::prelude::*;

/// Encodes 4 x 1 pixels as the format wants them.
fn encode(colour: ColorType, depth: BitDepth, palette: bool, data: &[u8]) -> Vec<u8> {
    let mut bytes = Vec::new();
    let mut encoder = Encoder::new(&mut bytes, 4, 1);
    encoder.set_color(colour);
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
fn every_colour_type_and_depth_is_read() {
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
        let picture = Picture::from_png(&bytes).unwrap();
        assert_eq!([0, 1, 2, 3].map(|x| picture.pixel([x, 0])), expected);
        for length in 0..bytes.len() - 12 {
            assert!(Picture::from_png(&bytes[..length]).is_err(), "cut at {length}");
        }
    }
}

/// What a canvas must do, pixel by pixel: the nearest pixel of the frame, mirrored, laid over.
fn drawn_naively(
    below: &Picture,
    view: &View<'_>,
    image: &Picture,
    at: [i32; 2],
    scale: i32,
) -> Picture {
    let mut out = below.clone();
    let [w, h] = view.size().map(|side| side as i32);
    // Twice as fine, so that half pixels are whole.
    let pivot = view.pivot().map(|side| (side * 2.0) as i32);
    let flips = view.flips();
    let left = |side: i32, pivot: i32, flip: bool| if flip { pivot - 2 * side } else { -pivot };
    let corner = [left(w, pivot[0], flips.x), left(h, pivot[1], flips.y)];
    let corner = [0, 1].map(|axis| at[axis] + (corner[axis] * scale).div_euclid(2));
    for y in 0..h * scale {
        for x in 0..w * scale {
            let (u, v) = (x / scale, y / scale);
            let (u, v) = (if flips.x { w - 1 - u } else { u }, if flips.y { h - 1 - v } else { v });
            let source = view.source();
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
        ground in any::<[u8; 4]>(), pivot in [-3_i32..12, -3_i32..12], at in [-9_i32..20, -9_i32..20],
        flip in any::<[bool; 2]>(), scale in 1_u32..4,
    ) {
        let image = Picture::from_rgba([6, 4], pixels).unwrap();
        let mut builder = Reel::builder();
        let pivot = Pivot::At(pivot.map(|halves| halves as f32 / 2.0));
        let sheet = builder.sheet("s", NewSheet::grid([6, 4], Grid::cells([3, 4])).pivot(pivot));
        let clip = builder.clip("c", NewClip::of(sheet).frames([1]).fps(1));
        let reel = builder.build().unwrap();
        let view = Player::new(&reel, clip).view(&reel).unwrap();
        let view = view.flipped(Flips { x: flip[0], y: flip[1] });
        let mut canvas = Canvas::new([14, 13]).unwrap();
        canvas.clear(ground);
        let expected = drawn_naively(canvas.picture(), &view, &image, at, scale as i32);
        canvas.draw(&view, std::slice::from_ref(&image), at, scale);
        for (got, wanted) in canvas.picture().rgba().chunks(4).zip(expected.rgba().chunks(4)) {
            // Colours that nothing is seen of do not count.
            prop_assert!(got == wanted || got[3] == 0 && wanted[3] == 0, "{:?} {:?}", got, wanted);
        }
    }

    /// What is written as a moving picture is read again frame by frame.
    #[test]
    fn moving_pictures_are_read_back(seeds in prop::collection::vec(any::<[u8; 6]>(), 1..6)) {
        let mut picture = Picture::new([7, 5]).unwrap();
        let mut frames = Vec::new();
        for [x, y, r, g, b, a] in seeds {
            picture.set_pixel([u32::from(x % 7), u32::from(y % 5)], [r, g, b, a]);
            frames.push(picture.clone());
        }
        let mut bytes = Vec::new();
        let mut moving = MovingPng::new(&mut bytes, [7, 5], frames.len() as u32).unwrap();
        for frame in &frames {
            moving.frame(frame, (3, 50)).unwrap();
        }
        moving.finish().unwrap();

        let mut reader = png::Decoder::new(std::io::Cursor::new(&bytes)).read_info().unwrap();
        let control = *reader.info().animation_control().unwrap();
        prop_assert_eq!((control.num_frames as usize, control.num_plays), (frames.len(), 0));
        let mut screen = Picture::new([7, 5]).unwrap();
        for frame in &frames {
            let mut data = vec![0; reader.output_buffer_size().unwrap()];
            reader.next_frame(&mut data).unwrap();
            let place = *reader.info().frame_control().unwrap();
            prop_assert_eq!((place.delay_num, place.delay_den), (3, 50));
            for (nth, pixel) in data.chunks(4).take((place.width * place.height) as usize).enumerate() {
                let (x, y) = (nth as u32 % place.width, nth as u32 / place.width);
                screen.set_pixel([place.x_offset + x, place.y_offset + y], pixel.try_into().unwrap());
            }
            prop_assert_eq!(&screen, frame);
        }
    }
}

#[test]
fn files_are_written_whole_or_not_at_all() {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("a.png");
    whole_file::write(&path, false, |file| std::io::Write::write_all(file, b"first")).unwrap();
    let again = whole_file::write(&path, false, |_| Ok(())).unwrap_err();
    assert!(again.is_there_already());
    let failed = whole_file::write(&path, true, |file| {
        std::io::Write::write_all(file, b"half")?;
        Err(std::io::Error::other("the disk is full"))
    });
    assert!(failed.unwrap_err().to_string().contains("the disk is full"));
    assert_eq!(std::fs::read(&path).unwrap(), b"first");
    assert_eq!(std::fs::read_dir(folder.path()).unwrap().count(), 1, "nothing is left behind");
    let nowhere = whole_file::write(folder.path().join("no/a.png"), false, |_| Ok(()));
    assert!(nowhere.unwrap_err().to_string().contains("folder does not exist"));
}
