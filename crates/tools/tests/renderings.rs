//! What is rendered is read back, by other decoders, with the same pixels and the same total time.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use lucky_reel_assets::{Art, Pixels, load_bytes};
use lucky_reel_core::{ClipId, Flips, Player, Speed, Ticks};
use lucky_reel_tools::render::{Format, Rendering};
use proptest::prelude::*;

/// Eight frames of 6 x 4 pixels, each with pixels of its own; not all of them opaque.
fn sheet(colors: u32) -> Pixels {
    let mut picture = Pixels::new([48, 4]).unwrap();
    for nth in 0..192 {
        let (x, y) = (nth % 48, nth / 48);
        let shade = (nth * 7 % colors) as u8;
        let alpha = if nth % 5 == 0 { 0 } else { 255 };
        picture.set_pixel([x, y], [shade, (nth % 11 * 20) as u8, 255 - shade, alpha]);
    }
    picture
}

fn art(clip: &str, colors: u32) -> (Art, ClipId) {
    let text = format!(
        "reel = 1\n[sheets.s]\nimage = \"s.png\"\ngrid = {{ cell = [6, 4] }}\npivot = [2.5, 4]\n[clips.c]\n{clip}\n"
    );
    let art =
        load_bytes("bram.reel.toml", text.as_bytes(), |_| Ok(sheet(colors).to_png())).unwrap();
    let clip: ClipId = art.reel.id("c").unwrap();
    (art, clip)
}

/// Frames with their delays as fractions of a second, and how often it plays (0: forever).
type AnimatedImage = (Vec<(Pixels, f64)>, u32);

fn read_apng(bytes: &[u8]) -> AnimatedImage {
    let mut reader = png::Decoder::new(std::io::Cursor::new(bytes)).read_info().unwrap();
    let control = *reader.info().animation_control().unwrap();
    let mut screen = Pixels::new([reader.info().width, reader.info().height]).unwrap();
    let frames = (0..control.num_frames).map(|_| {
        let mut data = vec![0; reader.output_buffer_size().unwrap()];
        reader.next_frame(&mut data).unwrap();
        let place = *reader.info().frame_control().unwrap();
        for (nth, pixel) in data.chunks(4).take((place.width * place.height) as usize).enumerate() {
            let (x, y) = (nth as u32 % place.width, nth as u32 / place.width);
            screen.set_pixel([place.x_offset + x, place.y_offset + y], pixel.try_into().unwrap());
        }
        (screen.clone(), f64::from(place.delay_num) / f64::from(place.delay_den))
    });
    (frames.collect(), control.num_plays)
}

fn read_gif(bytes: &[u8]) -> AnimatedImage {
    let mut options = gif::DecodeOptions::new();
    options.set_color_output(gif::ColorOutput::RGBA);
    let mut decoder = options.read_info(bytes).unwrap();
    let size = [u32::from(decoder.width()), u32::from(decoder.height())];
    let mut frames = Vec::new();
    while let Some(frame) = decoder.read_next_frame().unwrap() {
        assert_eq!([u32::from(frame.width), u32::from(frame.height)], size);
        let picture = Pixels::from_rgba(size, frame.buffer.to_vec()).unwrap();
        frames.push((picture, f64::from(frame.delay) / 100.0));
    }
    let plays = if decoder.repeat() == gif::Repeat::Infinite { 0 } else { 1 };
    (frames, plays)
}

/// The same as far as it is seen.
fn same(a: &Pixels, b: &Pixels) -> bool {
    let mut pixels = a.rgba().chunks(4).zip(b.rgba().chunks(4));
    a.size() == b.size() && pixels.all(|(a, b)| a == b || a[3] == 0 && b[3] == 0)
}

fn total(image: &AnimatedImage) -> f64 {
    image.0.iter().map(|(_, delay)| delay).sum()
}

proptest! {
    /// Both moving formats hold, in order, the frames that a player shows, and last as long.
    #[test]
    fn films_are_what_a_player_shows(
        times in prop::collection::vec(1_u32..400, 1..6), mode in 0_usize..3, repeat in 1_u32..3,
        endless in any::<bool>(), quarters in prop_oneof![Just(4_i32), -9_i32..10], flip in any::<bool>(),
        scale in 1_u32..3, cycles in 1_u32..3,
    ) {
        prop_assume!(quarters != 0);
        let mode = ["loop", "ping-pong", "once"][mode];
        let frames: Vec<String> = times.iter().enumerate().map(|(n, t)| format!("\"{} for {t}ms\"", n + 1)).collect();
        let finite = mode == "once" || !endless;
        let repeat = if mode == "once" || endless { String::new() } else { format!("repeat = {repeat}") };
        let (art, clip) = art(&format!("frames = [{}]\nmode = \"{mode}\"\n{repeat}", frames.join(", ")), 200);
        let speed = Speed::from_ratio(quarters, 4).unwrap();
        let rendering = Rendering::of(&art, clip).unwrap().scale(scale).speed(speed).cycles(cycles);
        let rendering = rendering.flips(Flips { x: flip, y: false });
        let (count, time) = rendering.length().unwrap();

        let apng = read_apng(&rendering.to_bytes(Format::Apng).unwrap());
        let gif = read_gif(&rendering.to_bytes(Format::Gif).unwrap());
        prop_assert_eq!((apng.0.len(), gif.0.len()), (count, count));
        prop_assert_eq!((apng.1, gif.1), (u32::from(finite), u32::from(finite)));
        prop_assert!((total(&gif) - time.as_secs_f64()).abs() <= 0.005 + 1e-9, "the total is right");
        prop_assert!((total(&apng) - time.as_secs_f64()).abs() <= 0.000_2);
        if rendering.inexact(Format::Apng).unwrap().is_none() {
            prop_assert!((total(&apng) - time.as_secs_f64()).abs() < 1e-9);
        }

        // A player, looked at in the middle of each picture's time.
        let mut at = 0.0;
        for ((drawn, delay), (in_gif, _)) in apng.0.iter().zip(&gif.0) {
            let middle = Ticks::new(((at + delay / 2.0) * Ticks::PER_SECOND as f64) as u64);
            at += delay;
            let mut player = Player::new(&art.reel, clip);
            player.set_speed(speed);
            player.advance(&art.reel, middle);
            let mut view = player.view(&art.reel).unwrap();
            view.flips = Flips { x: flip, y: false };
            let mut canvas = lucky_reel_canvas::Canvas::new(drawn.size()).unwrap();
            // The pivot, at 2.5 pixels of 6, has three of them before it, or four when mirrored.
            let pivot = if flip { 4 } else { 3 };
            canvas.draw(&view, &art.images, [pivot * scale as i32, 4 * scale as i32], scale);
            prop_assert!(same(canvas.picture(), drawn), "apng");
            prop_assert!(same(in_gif, drawn), "gif");
        }
    }
}

#[test]
fn a_series_holds_each_hold_once_and_untouched() {
    let (art, clip) = art("frames = [3, 0, 3]\nfps = 8\nmode = \"ping-pong\"", 200);
    let pictures: Vec<Pixels> =
        Rendering::of(&art, clip).unwrap().series().collect::<Result<_, _>>().unwrap();
    let sheet = sheet(200);
    for (picture, frame) in pictures.iter().zip([3, 0, 3]) {
        let mut whole = Pixels::new([6, 4]).unwrap();
        for nth in 0..24 {
            whole.set_pixel([nth % 6, nth / 6], sheet.pixel([frame * 6 + nth % 6, nth / 6]));
        }
        assert!(same(picture, &whole), "frame {frame}");
    }
    assert_eq!(pictures.len(), 3);
    let strip = Rendering::of(&art, clip).unwrap().scale(2).to_bytes(Format::Strip).unwrap();
    assert_eq!(Pixels::from_png(&strip).unwrap().size(), [3 * 6 * 2, 4 * 2]);
}

#[test]
fn what_a_format_cannot_tell_is_said() {
    let (exact, clip) = art("frames = [0, 1]\neach = \"120ms\"", 200);
    let rendering = Rendering::of(&exact, clip).unwrap();
    assert_eq!(rendering.inexact(Format::Gif), Ok(None));
    assert_eq!(rendering.inexact(Format::Apng), Ok(None));
    let (odd, clip) = art("frames = [0, 1, 2, 3]\nfps = 60", 200);
    let rendering = Rendering::of(&odd, clip).unwrap();
    let remark = rendering.inexact(Format::Gif).unwrap().unwrap();
    assert!(
        remark.contains("4 of 4 times are rounded") && remark.contains("1 of them are under"),
        "{remark}"
    );
    assert_eq!(rendering.inexact(Format::Apng), Ok(None), "a sixtieth is a fraction");
    let image = read_gif(&rendering.to_bytes(Format::Gif).unwrap());
    let delays: Vec<f64> = image.0.iter().map(|(_, delay)| delay * 100.0).collect();
    assert_eq!(delays, [2.0, 1.0, 2.0, 2.0], "the error is carried along");

    for (speed, scale) in [(Speed::STILL, 1), (Speed::NORMAL, 0), (Speed::NORMAL, u32::MAX)] {
        let rendering = rendering.speed(speed).scale(scale);
        let error = rendering.to_bytes(Format::Gif).unwrap_err().to_string();
        assert!(error.contains("speed other than 0") || error.contains("smaller scale"), "{error}");
        assert!(rendering.to_bytes(Format::Apng).is_err());
    }
}

#[test]
fn many_colors_are_brought_down_to_near_ones() {
    let mut picture = Pixels::new([32, 32]).unwrap();
    for nth in 0..1_024 {
        let color = [(nth % 32 * 8) as u8, (nth / 32 * 8) as u8, (nth % 61 * 4) as u8, 255];
        picture.set_pixel([nth % 32, nth / 32], color);
    }
    let text = "reel = 1\n[sheets.s]\nimage = \"s.png\"\n[clips.c]\nframes = 0\nfps = 1\n";
    let art = load_bytes("bram.reel.toml", text.as_bytes(), |_| Ok(picture.to_png())).unwrap();
    let rendering = Rendering::of(&art, art.reel.id::<ClipId>("c").unwrap()).unwrap();
    let image = read_gif(&rendering.to_bytes(Format::Gif).unwrap());
    let pairs = image.0[0].0.rgba().iter().zip(picture.rgba());
    let off = pairs.map(|(a, b)| u64::from(a.abs_diff(*b))).collect::<Vec<_>>();
    let mean = off.iter().sum::<u64>() as f64 / off.len() as f64;
    assert!(mean > 0.0 && mean < 10.0, "{mean}");
}

/// A facing that is another's mirrored is written as the mirror image, and mirrored once more as the
/// base; progress is reported for each picture.
#[test]
fn mirrored_clips_are_written_mirrored() {
    let text = "reel = 1\n[sheets.s]\nimage = \"s.png\"\ngrid = { cell = [6, 4] }\npivot = [2.5, 4]\n\
                [clips.walk]\nrows = { right = 0 }\ntake = [0, 3, 5]\nfps = 10\n\
                [facings.walk]\nleft = { mirror = \"right\" }\n";
    let art = load_bytes("bram.reel.toml", text.as_bytes(), |_| Ok(sheet(200).to_png())).unwrap();
    let rendering = |name: &str| Rendering::of(&art, art.reel.id::<ClipId>(name).unwrap()).unwrap();
    let series = |rendering: Rendering<'_>| -> Vec<Pixels> {
        rendering.series().map(Result::unwrap).collect()
    };
    let (right, left) = (series(rendering("walk-right")), series(rendering("walk-left")));
    assert_eq!(right.len(), 3);
    for (right, left) in right.iter().zip(&left) {
        let [width, height] = right.size();
        // The pivot lies on a half pixel, so one column may be empty on either side.
        let seen = |picture: &Pixels| {
            let columns =
                (0..width).map(|x| (0..height).map(|y| picture.pixel([x, y])).collect::<Vec<_>>());
            let empty = |column: &Vec<[u8; 4]>| column.iter().all(|pixel| pixel[3] == 0);
            let columns: Vec<_> = columns.skip_while(empty).collect();
            let last = columns.iter().rposition(|column| !empty(column)).map_or(0, |last| last + 1);
            columns[..last].to_vec()
        };
        let mut mirrored = seen(left);
        mirrored.reverse();
        assert_eq!(seen(right), mirrored);
    }
    let flips = Flips { x: true, y: false };
    let twice = series(rendering("walk-left").flips(flips));
    assert_eq!(twice, right, "mirrored once more it is the base");

    for format in [Format::Gif, Format::Apng] {
        let mut reported = Vec::new();
        let bytes = rendering("walk-left")
            .to_bytes_with_progress(format, |done, of| reported.push((done, of)));
        assert_eq!(bytes.unwrap(), rendering("walk-left").to_bytes(format).unwrap());
        assert_eq!(reported, [(1, 3), (2, 3), (3, 3)]);
    }
}
