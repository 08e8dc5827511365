//! Pictures that carry timing: composed as a naive model composes them, timed exactly, and broken ones
//! refused with the frame.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

mod made_files;

use lucky_reel_assets::animated::AnimatedImage;
use lucky_reel_assets::{Art, Pixels, load, load_bytes, load_reel};
use lucky_reel_core::{Clip, ClipId, Mode, Ticks};
use made_files::{Part, SIZE, apng_of, color, composed, gif_of, interlaced_apng_of, part, webp_of};
use proptest::prelude::*;

fn same(a: &Pixels, b: &Pixels) -> bool {
    let mut pixels = a.rgba().chunks(4).zip(b.rgba().chunks(4));
    a.size() == b.size() && pixels.all(|(a, b)| a == b || a[3] == 0 && b[3] == 0)
}

fn ticks(delay: u16, below: u64) -> Ticks {
    if delay == 0 {
        Ticks::from_millis(100)
    } else {
        Ticks::new(u64::from(delay) * Ticks::PER_SECOND / below)
    }
}

proptest! {
    #[test]
    fn gifs_are_composed_and_timed(parts in prop::collection::vec(part(), 1..6), repeat in proptest::option::of(0_u16..4)) {
        let bytes = gif_of(&parts, repeat);
        let image = AnimatedImage::from_bytes(&bytes).unwrap();
        let expected = composed(&parts, true, false);
        prop_assert_eq!((image.size, image.frames.len()), (SIZE, parts.len()));
        for ((picture, time), (wanted, part)) in image.frames.iter().zip(expected.iter().zip(&parts)) {
            prop_assert!(same(picture, wanted));
            prop_assert_eq!(time.to_ticks(), ticks(part.delay, 100));
        }
        let plays = match repeat { Some(0) => None, Some(times) => Some(u32::from(times)), None => Some(1) };
        prop_assert_eq!(image.plays, plays);
    }

    #[test]
    fn apngs_are_composed_and_timed(parts in prop::collection::vec(part(), 1..6), plays in 0_u32..3) {
        let bytes = apng_of(&parts, plays);
        let image = AnimatedImage::from_bytes(&bytes).unwrap();
        let expected = composed(&parts, false, true);
        prop_assert_eq!(image.frames.len(), parts.len());
        for ((picture, time), (wanted, part)) in image.frames.iter().zip(expected.iter().zip(&parts)) {
            prop_assert!(same(picture, wanted));
            prop_assert_eq!(time.to_ticks(), ticks(part.delay, if part.over { 100 } else { 250 }));
        }
        prop_assert_eq!(image.plays, (plays > 0).then_some(plays));
    }

    /// Interlaced parts that cover some of the canvas come out as those that are not.
    #[test]
    fn interlaced_apngs_are_composed(parts in prop::collection::vec(part(), 1..6)) {
        let image = AnimatedImage::from_bytes(&interlaced_apng_of(&parts)).unwrap();
        let expected = composed(&parts, false, true);
        prop_assert_eq!(image.frames.len(), parts.len());
        for ((picture, _), wanted) in image.frames.iter().zip(&expected) {
            prop_assert!(same(picture, wanted));
        }
    }

    /// Opaque and empty pixels leave nothing to round: the words of the format are enough.
    #[test]
    fn webps_are_composed(parts in prop::collection::vec(part(), 1..6)) {
        let even = |part: &Part| {
            let at = part.at.map(|at| at & !1);
            let size = [0, 1].map(|axis| part.size[axis].min(SIZE[axis] - at[axis]));
            Part { at, size, disposal: part.disposal & 1, ..part.clone() }
        };
        let parts: Vec<Part> = parts.iter().map(even).collect();
        let frames: Vec<_> = parts.iter().map(|part| {
            let mut picture = Pixels::new(part.size).unwrap();
            let count = part.size[0] * part.size[1];
            for index in 0..count {
                let at = [index % part.size[0], index / part.size[0]];
                picture.set_pixel(at, color(part.colors[index as usize]));
            }
            (part.at, picture, part.over, part.disposal == 1)
        }).collect();
        let image = AnimatedImage::from_bytes(&webp_of(SIZE, &frames)).unwrap();
        let expected = composed(&parts, false, false);
        prop_assert_eq!(image.frames.len(), parts.len());
        for ((picture, _), wanted) in image.frames.iter().zip(&expected) {
            prop_assert!(same(picture, wanted));
        }
    }

    /// A GIF that ends too early has its whole frames, and says so.
    #[test]
    fn gifs_that_are_cut_short_have_their_whole_frames(
        parts in prop::collection::vec(part(), 2..6), cut in 1_usize..12,
    ) {
        let bytes = gif_of(&parts, None);
        prop_assert_eq!(AnimatedImage::from_bytes(&bytes).unwrap().missing, None);
        let image = AnimatedImage::from_bytes(&bytes[..bytes.len() - cut]).unwrap();
        let expected = composed(&parts, true, false);
        // Without the last byte alone all frames are whole; with more of it gone, the last one may be.
        prop_assert!(image.frames.len() == parts.len() || cut > 1 && image.frames.len() + 1 == parts.len());
        prop_assert!(image.frames.iter().zip(&expected).all(|((picture, _), wanted)| same(picture, wanted)));
        prop_assert!(image.missing.unwrap().contains("cut short"));
    }

    /// Cut short or changed anywhere: an answer, never a panic; and no frame that was not there.
    #[test]
    fn broken_films_do_no_harm(
        parts in prop::collection::vec(part(), 1..4), kind in any::<bool>(), cut in 0_usize..400, flip in any::<u8>(),
        at in 0_usize..400,
    ) {
        let mut bytes = if kind { gif_of(&parts, None) } else { apng_of(&parts, 0) };
        let whole = AnimatedImage::from_bytes(&bytes).unwrap().frames.len();
        if let Ok(image) = AnimatedImage::from_bytes(&bytes[..cut.min(bytes.len())]) {
            prop_assert!(image.frames.len() <= whole);
        }
        let at = at % bytes.len();
        bytes[at] ^= flip;
        let _ = AnimatedImage::from_bytes(&bytes);
    }
}

#[test]
fn webps_are_read_still_and_moving() {
    let picture = |shade: u8| {
        let mut picture = Pixels::new([4, 4]).unwrap();
        picture
            .rgba_mut()
            .chunks_exact_mut(4)
            .for_each(|pixel| pixel.copy_from_slice(&[shade, 50, 60, 255]));
        picture.set_pixel([0, 0], [0; 4]);
        picture
    };
    let still = |picture: &Pixels| {
        let mut bytes = Vec::new();
        let encoder = image_webp::WebPEncoder::new(&mut bytes);
        encoder.encode(picture.rgba(), 4, 4, image_webp::ColorType::Rgba8).unwrap();
        bytes
    };
    let image = AnimatedImage::from_bytes(&still(&picture(9))).unwrap();
    assert!(same(&image.frames[0].0, &picture(9)) && image.plays == Some(1));

    let frames = [20, 90, 200].map(|shade| ([0, 0], picture(shade), false, false));
    let bytes = webp_of([4, 4], &frames);
    let image = AnimatedImage::from_bytes(&bytes).unwrap();
    assert_eq!((image.frames.len(), image.plays), (3, None));
    for ((seen, time), shade) in image.frames.iter().zip([20, 90, 200]) {
        assert!(same(seen, &picture(shade)));
        assert_eq!(time.to_ticks(), Ticks::from_millis(40));
    }
    for length in 0..bytes.len() - 1 {
        let _ = AnimatedImage::from_bytes(&bytes[..length]);
    }
    // A frame that reaches out of the canvas takes no memory.
    let huge = Pixels::new([2_048, 2_048]).unwrap();
    let error = AnimatedImage::from_bytes(&webp_of([4, 4], &[([2, 0], huge, false, false)]));
    assert!(error.unwrap_err().message().contains("frame 0: it lies outside"));
}

#[test]
fn what_is_no_image_is_refused_with_the_reason() {
    let message = |bytes: &[u8]| AnimatedImage::from_bytes(bytes).unwrap_err().to_string();
    assert!(message(b"").contains("empty"));
    assert!(message(b"BM6").contains("neither a GIF, nor a PNG, nor a WebP"));
    assert!(message(b"GIF89a").contains("GIF is broken or cut short"));
    let one =
        Part { at: [0, 0], size: SIZE, colors: vec![1; 42], disposal: 0, over: false, delay: 4 };
    let bytes = gif_of(&[one], None);
    let cut = message(&bytes[..bytes.len() - 8]);
    assert!(cut.contains("frame 0"), "{cut}");
    // A canvas of 65,535 x 65,535 with a frame of one pixel.
    let mut huge = bytes;
    huge[6..10].copy_from_slice(&[0xff; 4]);
    assert!(message(&huge).contains("65535 x 65535 pixels are more than"), "{}", message(&huge));
}

/// As browsers show it: black, but for what is seen through.
#[test]
fn a_gif_without_a_color_table_is_black() {
    let colors = (0..42).map(|index| index % 4).collect();
    let part = Part { at: [0, 0], size: SIZE, colors, disposal: 0, over: false, delay: 4 };
    let whole = gif_of(&[part.clone(), part], None);
    let table = 3 << ((whole[10] & 7) + 1);
    let mut bytes = [&whole[..13], &whole[13 + table..]].concat();
    bytes[10] &= 0x7f;
    let image = AnimatedImage::from_bytes(&bytes).unwrap();
    assert_eq!(image.frames.len(), 2);
    let pixel = |index: u32| image.frames[1].0.pixel([index % SIZE[0], index / SIZE[0]]);
    assert!((0..30).all(|index| pixel(index) == [0, 0, 0, if index % 4 == 0 { 0 } else { 255 }]));
    assert!(image.missing.unwrap().contains("color table"));
}

/// Twenty half-transparent frames over one another, by the steps of the format's reference decoder.
#[test]
fn blended_webps_do_not_drift() {
    let glow = |nth: u32| {
        let mut picture = Pixels::new([4, 4]).unwrap();
        for (place, pixel) in (0_u32..).zip(picture.rgba_mut().chunks_exact_mut(4)) {
            let shade = |times: u32| ((nth * times + place * 13) % 256) as u8;
            pixel.copy_from_slice(&[shade(37), shade(71), shade(11), shade(29)]);
        }
        picture
    };
    let frames: Vec<_> = (0..21)
        .map(|nth| ([nth % 3 * 2, nth % 2 * 2], glow(nth), nth % 7 != 5, nth % 5 == 3))
        .collect();
    let bytes = webp_of([8, 8], &frames);
    let image = AnimatedImage::from_bytes(&bytes).unwrap();
    let last = &image.frames[20].0;
    let sums = [0, 1, 2, 3].map(|channel| {
        last.rgba().iter().skip(channel).step_by(4).map(|value| u64::from(*value)).sum::<u64>()
    });
    // What libwebp 1.2.4 comes to.
    assert_eq!(sums, [4145, 4720, 4310, 7070]);
}

fn clip<'a>(art: &'a Art, name: &str) -> Clip<'a> {
    art.reel.clip(art.reel.id::<ClipId>(name).unwrap()).unwrap()
}

/// What once broke a decoder, found by trying bytes: refused, with the reason.
#[test]
fn hostile_files_are_refused() {
    let folder = concat!(env!("CARGO_MANIFEST_DIR"), "/tests/hostile");
    let files = std::fs::read_dir(folder).unwrap().map(|entry| entry.unwrap().path());
    let message: Vec<String> = files
        .map(|path| {
            AnimatedImage::from_bytes(&std::fs::read(path).unwrap()).unwrap_err().to_string()
        })
        .collect();
    assert!(
        message.len() >= 2 && message.iter().all(|message| message.contains("frame 0: its pixels")),
        "{message:?}"
    );
}

#[test]
fn animated_images_cutouts_and_loose_images_become_sheets() {
    let folder = tempfile::tempdir().unwrap();
    let write = |name: &str, bytes: &[u8]| std::fs::write(folder.path().join(name), bytes).unwrap();
    let frame = |shade: u8, size: [u32; 2]| {
        let mut picture = Pixels::new(size).unwrap();
        picture.rgba_mut().fill(shade);
        picture
    };
    // In natural order: 2 before 10, whatever the folder says.
    for number in [1_u8, 2, 10] {
        write(&format!("puff-{number}.png"), &frame(number, [4 + u32::from(number), 5]).to_png());
    }
    let parts: Vec<Part> = [(1, 4), (2, 12), (3, 0)]
        .map(|(shade, delay)| Part {
            at: [0, 0],
            size: SIZE,
            colors: vec![shade; 42],
            disposal: 0,
            over: false,
            delay,
        })
        .to_vec();
    write("spark.gif", &gif_of(&parts, Some(3)));
    write("once.gif", &gif_of(&parts[..1], None));
    write("moth.png", &frame(255, [40, 20]).to_png());
    let text = r#"
        reel = 1
        [sheets.puff]
        images = "puff-*.png"
        pivot = "bottom"
        [sheets.listed]
        images = ["puff-10.png", "puff-1.png"]
        [sheets.spark]
        animated = "spark.gif"
        [sheets.once]
        animated = "once.gif"
        [sheets.moth]
        image = "moth.png"
        cutouts = { rest = [0, 0, 10, 20], up = [10, 0, 15, 12] }
        [sheets.still]
        image = "spark.gif"
        [clips.puff]
        sheet = "puff"
        frames = "all"
        fps = 10
        [clips.listed]
        sheet = "listed"
        frames = [0, 1]
        fps = 10
        [clips.spark]
        sheet = "spark"
        frames = "all"
        [clips.slow]
        like = "spark"
        mode = "ping-pong"
        [clips.once]
        sheet = "once"
        frames = "all"
        end = "vanish"
        [clips.flap]
        sheet = "moth"
        frames = ["rest", "up for 80ms", 0]
        each = "50ms"
        [clips.still]
        sheet = "still"
        frames = 0
        fps = 1
    "#;
    write("moths.reel.toml", text.as_bytes());
    let path = folder.path().join("moths.reel.toml");
    let art = load(&path).unwrap();
    let sources = |name: &str| -> Vec<_> {
        clip(&art, name).holds().map(|hold| *art.reel.frame(hold.frame).unwrap()).collect()
    };
    let shades: Vec<u8> = sources("puff")
        .iter()
        .map(|frame| art.image(frame.image).unwrap().pixel([frame.source.x, frame.source.y])[0])
        .collect();
    assert_eq!(shades, [1, 2, 10]);
    assert_eq!(sources("listed").iter().map(|frame| frame.size[0]).collect::<Vec<_>>(), [14, 5]);
    let spark = clip(&art, "spark");
    let times: Vec<Ticks> = spark.holds().map(|hold| hold.ticks).collect();
    assert_eq!(times, [40, 120, 100].map(Ticks::from_millis));
    assert_eq!((spark.mode, spark.repeat), (Mode::Loop, Some(3)));
    assert_eq!((clip(&art, "slow").mode, clip(&art, "slow").repeat), (Mode::PingPong, None));
    assert_eq!((clip(&art, "once").mode, clip(&art, "once").repeat), (Mode::Once, Some(1)));
    let flap: Vec<_> = clip(&art, "flap").holds().map(|hold| hold.ticks.as_millis_f64()).collect();
    assert_eq!(flap, [50., 80., 50.]);
    assert_eq!(sources("flap")[1].source.width, 15);
    assert_eq!(sources("still")[0].size, SIZE);
    assert_eq!(load_reel([&path]).unwrap().fingerprint(), art.reel.fingerprint());
}

#[test]
fn mistakes_with_animated_images_and_cutouts_are_reported() {
    let text = |sheet: &str, clip: &str| {
        format!("reel = 1\n[sheets.s]\n{sheet}\n[clips.c]\n{clip}\nfps = 4\n")
    };
    let message = |sheet: &str, clip: &str| {
        let one = Part {
            at: [0, 0],
            size: SIZE,
            colors: vec![1; 42],
            disposal: 0,
            over: false,
            delay: 4,
        };
        let read = |path: &str| match path {
            "s.png" => Ok(Pixels::new([20, 10]).unwrap().to_png()),
            "s.gif" => Ok(gif_of(std::slice::from_ref(&one), None)),
            _ => Err(std::io::ErrorKind::NotFound.into()),
        };
        load_bytes("moth.reel.toml", text(sheet, clip).as_bytes(), read).unwrap_err().to_string()
    };
    for (sheet, clip, words) in [
        ("image = \"s.png\"\nanimated = \"s.gif\"", "frames = 0", "both `image` and `animated`"),
        ("animated = \"s.gif\"\ngrid = { cell = [3, 5] }", "frames = 0", "`grid` cuts an image"),
        ("animated = \"s.gif\"", "row = 0", "not cut by a grid"),
        ("animated = \"s.gif\"", "frames = 1", "no frame 1"),
        ("animated = \"t.gif\"", "frames = \"all\"", "no such file"),
        (
            "image = \"s.png\"\ncutouts = { a = [0, 0, 21, 2] }",
            "frames = \"a\"",
            "within the image's 20 x 10",
        ),
        ("image = \"s.png\"\ncutouts = { a = [0, 0, 2] }", "frames = \"a\"", "not a rectangle"),
        (
            "image = \"s.png\"\ncutouts = { all = [0, 0, 2, 2] }",
            "frames = 0",
            "read as something else",
        ),
        (
            "image = \"s.png\"\ncutouts = { a = [0, 0, 2, 2] }",
            "frames = \"b\"",
            "`b` names no frames",
        ),
        ("images = \"s-*.png\"", "frames = 0", "list the pictures"),
        ("image = \"s.png\"\ntransparent = \"pink\"", "frames = 0", "not a color"),
        ("image = \"s.png\"\ntrim = 1", "frames = 0", "true or false"),
        ("image = \"s.png\"\npivots = { 1 = [0, 0] }", "frames = 0", "no frame 1"),
        (
            "image = \"s.png\"\ngrid = { cell = [20, 10], start = [1, 0] }",
            "frames = 0",
            "less its start",
        ),
        ("images = []", "frames = 0", "a pattern such as"),
        ("images = [\"s.png\", \"x.png\"]", "frames = 0", "x.png: there is no such file"),
    ] {
        let message = message(sheet, clip);
        assert!(
            message.contains(words) && message.contains("fix: "),
            "{sheet}, {clip}: {words}\n{message}"
        );
    }
}

/// What is taken in is a setting: an animated image may be refused for its pixels or its frames, and let in again.
#[test]
fn limits_of_films_are_reported_and_raised() {
    let mut bytes = Vec::new();
    {
        let mut encoder = gif::Encoder::new(&mut bytes, 4, 4, &[0, 0, 0, 255, 255, 255]).unwrap();
        for nth in 0..10_u8 {
            let buffer = vec![nth % 2; 16];
            let frame = gif::Frame {
                width: 4,
                height: 4,
                delay: 5,
                buffer: buffer.into(),
                ..Default::default()
            };
            encoder.write_frame(&frame).unwrap();
        }
    }
    let within = |pixels: u64, frames: u64| {
        let mut limits = lucky_reel_assets::Limits::default();
        (limits.pixels, limits.frames) = (pixels, frames);
        AnimatedImage::from_bytes_within(&bytes, limits).map(|image| image.frames.len())
    };
    assert_eq!(within(160, 10), Ok(10));
    let message = |result: Result<usize, _>| -> String {
        result.map_err(|error: lucky_reel_assets::PixelsError| error.to_string()).unwrap_err()
    };
    assert_eq!(
        message(within(159, 10)),
        "10 frames of 4 x 4 pixels are more than 159: use a smaller picture, or raise the limit"
    );
    assert!(message(within(160, 9)).starts_with("it has more than 9 frames"));
    assert_eq!(AnimatedImage::from_bytes(&bytes).unwrap().frames.len(), 10);
}
