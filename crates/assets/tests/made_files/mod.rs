//! Animated images made up by hand, and what is seen of them by the words of the formats.

use std::borrow::Cow;

use lucky_reel_assets::Pixels;
use proptest::prelude::*;

pub(crate) const SIZE: [u32; 2] = [6, 5];

/// A part of a frame: where, how large, its colors (0 is seen through), what becomes of it, how long.
#[derive(Clone, Debug)]
pub(crate) struct Part {
    pub(crate) at: [u32; 2],
    pub(crate) size: [u32; 2],
    pub(crate) colors: Vec<u8>,
    pub(crate) disposal: u8,
    pub(crate) over: bool,
    pub(crate) delay: u16,
}

pub(crate) fn part() -> impl Strategy<Value = Part> {
    (
        [0_u32..6, 0_u32..5],
        [1_u32..7, 1_u32..6],
        prop::collection::vec(0_u8..4, 42),
        0_u8..3,
        any::<bool>(),
        0_u16..300,
    )
        .prop_map(|(at, size, colors, disposal, over, delay)| {
            let size = [0, 1].map(|axis| size[axis].min(SIZE[axis] - at[axis]));
            Part { at, size, colors, disposal, over, delay }
        })
}

pub(crate) fn color(index: u8) -> [u8; 4] {
    [[0, 0, 0, 0], [250, 200, 80, 255], [20, 70, 60, 255], [9, 9, 30, 255]][usize::from(index)]
}

/// What is seen of each part, by the words of the formats: disposal 0 none, 1 background, 2 previous.
pub(crate) fn composed(
    parts: &[Part],
    always_over: bool,
    first_previous_clears: bool,
) -> Vec<Pixels> {
    let mut screen = Pixels::new(SIZE).unwrap();
    let mut seen = Vec::new();
    for (nth, part) in parts.iter().enumerate() {
        let before = screen.clone();
        let places = |part: &Part| {
            let (at, size) = (part.at, part.size);
            (0..size[1]).flat_map(move |y| {
                (0..size[0]).map(move |x| ([at[0] + x, at[1] + y], y * size[0] + x))
            })
        };
        for (place, index) in places(part) {
            let pixel = color(part.colors[index as usize]);
            if pixel[3] > 0 || !(part.over || always_over) {
                screen.set_pixel(place, pixel);
            }
        }
        seen.push(screen.clone());
        if part.disposal == 1 || part.disposal == 2 && nth == 0 && first_previous_clears {
            places(part).for_each(|(place, _)| screen.set_pixel(place, [0; 4]));
        } else if part.disposal == 2 {
            screen = before;
        }
    }
    seen
}

pub(crate) fn gif_of(parts: &[Part], repeat: Option<u16>) -> Vec<u8> {
    let palette: Vec<u8> = (0..4).flat_map(|index| color(index)[..3].to_vec()).collect();
    let mut bytes = Vec::new();
    let mut encoder =
        gif::Encoder::new(&mut bytes, SIZE[0] as u16, SIZE[1] as u16, &palette).unwrap();
    match repeat {
        Some(0) => encoder.set_repeat(gif::Repeat::Infinite).unwrap(),
        Some(times) => encoder.set_repeat(gif::Repeat::Finite(times)).unwrap(),
        None => {}
    }
    for part in parts {
        let count = (part.size[0] * part.size[1]) as usize;
        let frame = gif::Frame {
            delay: part.delay,
            dispose: [
                gif::DisposalMethod::Keep,
                gif::DisposalMethod::Background,
                gif::DisposalMethod::Previous,
            ][usize::from(part.disposal)],
            transparent: Some(0),
            left: part.at[0] as u16,
            top: part.at[1] as u16,
            width: part.size[0] as u16,
            height: part.size[1] as u16,
            // A palette of its own now and then.
            palette: part.over.then(|| palette.clone()),
            buffer: Cow::Borrowed(&part.colors[..count]),
            ..gif::Frame::default()
        };
        encoder.write_frame(&frame).unwrap();
    }
    drop(encoder);
    bytes
}

pub(crate) fn apng_of(parts: &[Part], plays: u32) -> Vec<u8> {
    let mut bytes = Vec::new();
    let mut encoder = png::Encoder::new(&mut bytes, SIZE[0], SIZE[1]);
    encoder.set_color(png::ColorType::Rgba);
    encoder.set_depth(png::BitDepth::Eight);
    encoder.set_animated(parts.len() as u32, plays).unwrap();
    // A default image that is no frame.
    encoder.set_sep_def_img(true).unwrap();
    let mut writer = encoder.write_header().unwrap();
    writer.write_image_data(&vec![77; (SIZE[0] * SIZE[1] * 4) as usize]).unwrap();
    for part in parts {
        let dispose = [png::DisposeOp::None, png::DisposeOp::Background, png::DisposeOp::Previous];
        writer.set_dispose_op(dispose[usize::from(part.disposal)]).unwrap();
        writer
            .set_blend_op(if part.over { png::BlendOp::Over } else { png::BlendOp::Source })
            .unwrap();
        writer.set_frame_delay(part.delay, if part.over { 0 } else { 250 }).unwrap();
        writer.reset_frame_position().unwrap();
        writer.set_frame_dimension(part.size[0], part.size[1]).unwrap();
        writer.set_frame_position(part.at[0], part.at[1]).unwrap();
        let count = (part.size[0] * part.size[1]) as usize;
        let data: Vec<u8> = part.colors[..count].iter().flat_map(|index| color(*index)).collect();
        writer.write_image_data(&data).unwrap();
    }
    writer.finish().unwrap();
    bytes
}

/// The same by hand and interlaced, by the seven passes of the format: the `png` crate writes none.
pub(crate) fn interlaced_apng_of(parts: &[Part]) -> Vec<u8> {
    const PASSES: [[u32; 4]; 7] = [
        [0, 0, 8, 8],
        [4, 0, 8, 8],
        [0, 4, 4, 8],
        [2, 0, 4, 4],
        [0, 2, 2, 4],
        [1, 0, 2, 2],
        [0, 1, 1, 2],
    ];
    let packed = |size: [u32; 2], color: &dyn Fn(u32, u32) -> [u8; 4]| {
        let mut rows = Vec::new();
        for [left, top, step_x, step_y] in PASSES {
            for y in (top..size[1]).step_by(step_y as usize).filter(|_| left < size[0]) {
                rows.push(0); // no filter
                (left..size[0]).step_by(step_x as usize).for_each(|x| rows.extend(color(x, y)));
            }
        }
        let mut packed = flate2::write::ZlibEncoder::new(Vec::new(), flate2::Compression::fast());
        std::io::Write::write_all(&mut packed, &rows).unwrap();
        packed.finish().unwrap()
    };
    let mut bytes = b"\x89PNG\r\n\x1a\n".to_vec();
    let mut chunk = |name: &[u8; 4], data: &[u8]| {
        bytes.extend((data.len() as u32).to_be_bytes());
        let checked = [&name[..], data].concat();
        bytes.extend(&checked);
        bytes.extend(crc32fast::hash(&checked).to_be_bytes());
    };
    let pair = |[a, b]: [u32; 2]| [a.to_be_bytes(), b.to_be_bytes()].concat();
    chunk(b"IHDR", &[pair(SIZE), vec![8, 6, 0, 0, 1]].concat());
    chunk(b"acTL", &pair([parts.len() as u32, 0]));
    chunk(b"IDAT", &packed(SIZE, &|_, _| [77; 4]));
    let mut number = 0_u32;
    for part in parts {
        let below: u16 = if part.over { 0 } else { 250 };
        let times = [part.delay.to_be_bytes(), below.to_be_bytes()].concat();
        let ways = vec![part.disposal, u8::from(part.over)];
        let head = [pair([number, part.size[0]]), pair([part.size[1], part.at[0]])].concat();
        let head = [head, part.at[1].to_be_bytes().to_vec(), times, ways].concat();
        chunk(b"fcTL", &head);
        let data = packed(part.size, &|x, y| color(part.colors[(y * part.size[0] + x) as usize]));
        chunk(b"fdAT", &[&(number + 1).to_be_bytes()[..], &data].concat());
        number += 2;
    }
    chunk(b"IEND", &[]);
    bytes
}

/// A WebP by hand: VP8X, ANIM, and an ANMF for each frame, which starts at even places: where, its pixels,
/// whether it is blended, and whether it is cleared after its time.
pub(crate) fn webp_of(size: [u32; 2], frames: &[([u32; 2], Pixels, bool, bool)]) -> Vec<u8> {
    let chunk = |name: &[u8; 4], data: &[u8]| {
        let mut bytes = name.to_vec();
        bytes.extend((data.len() as u32).to_le_bytes());
        bytes.extend(data);
        bytes.extend(vec![0; data.len() % 2]);
        bytes
    };
    let three = |number: u32| number.to_le_bytes()[..3].to_vec();
    let [width, height] = size.map(|side| three(side - 1));
    let mut body = b"WEBP".to_vec();
    body.extend(chunk(b"VP8X", &[vec![0b0001_0010, 0, 0, 0], width, height].concat()));
    body.extend(chunk(b"ANIM", &[0, 0, 0, 0, 0, 0]));
    for (at, picture, blends, clears) in frames {
        let [x, y] = at.map(|side| three(side / 2));
        let [width, height] = picture.size().map(|side| three(side - 1));
        let flags = vec![u8::from(!blends) << 1 | u8::from(*clears)];
        let mut still = Vec::new();
        let encoder = image_webp::WebPEncoder::new(&mut still);
        let [wide, high] = picture.size();
        encoder.encode(picture.rgba(), wide, high, image_webp::ColorType::Rgba8).unwrap();
        let data = [x, y, width, height, three(40), flags, still[12..].to_vec()].concat();
        body.extend(chunk(b"ANMF", &data));
    }
    chunk(b"RIFF", &body)
}
