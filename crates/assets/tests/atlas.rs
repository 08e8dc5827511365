//! Frames on atlas: everything about them stays but where they are, and a reload moves what changed alone.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use std::collections::BTreeMap;
use std::fmt::Write as _;

use lucky_reel_assets::packing::Packing;
use lucky_reel_assets::{Art, Atlas, Loader, Pixels};
use lucky_reel_core::{Flips, Rect, View};
use proptest::prelude::*;

/// Images of one role: the shade and the size of each frame, side by side; a shade of 0 is transparent.
type Sheets = Vec<Vec<(u8, [u32; 2])>>;

fn image(frames: &[(u8, [u32; 2])]) -> Pixels {
    let width = frames.iter().map(|(_, size)| size[0]).sum();
    let height = frames.iter().map(|(_, size)| size[1]).max().unwrap();
    let mut picture = Pixels::new([width, height]).unwrap();
    let mut left = 0;
    for (shade, [width, height]) in frames {
        for (x, y) in (0..*width).flat_map(|x| (0..*height).map(move |y| (x, y))) {
            // A gradient, so that what is shifted is seen; its border transparent, to be trimmed.
            let border = x == 0 || y == 0;
            let alpha = if *shade == 0 || border { 0 } else { 255 };
            picture.set_pixel([left + x, y], [*shade, x as u8, y as u8, alpha]);
        }
        left += width;
    }
    picture
}

/// A reel file with a sheet for each image, frames by cutouts, some trimmed, with points and areas.
fn text(sheets: &Sheets) -> String {
    let mut text = "reel = 1\n".to_owned();
    for (nth, frames) in sheets.iter().enumerate() {
        let mut left = 0;
        let cutouts = frames.iter().enumerate().map(|(frame, (_, [width, height]))| {
            left += width;
            format!("f{frame} = [{}, 0, {width}, {height}]", left - width)
        });
        let cutouts = cutouts.collect::<Vec<_>>().join(", ");
        let trim = nth % 2 == 1;
        let _ = write!(
            text,
            "[sheets.s{nth}]\nimage = \"s{nth}.png\"\ncutouts = {{ {cutouts} }}\ntrim = {trim}\npivot = [3, 1.5]\n\
             points = {{ tip = {{ 0 = [2, 1] }} }}\nareas = {{ body = {{ all = [0, 1, 2, 2.5] }} }}\n\
             [clips.c{nth}]\nsheet = \"s{nth}\"\nframes = \"all\"\nfps = 8\npivot = [1, 1]\n"
        );
    }
    text
}

fn loader<'r>(sheets: &'r Sheets, text: &'r str) -> Loader<'r> {
    Loader::new().bytes("bram.reel.toml", text.as_bytes(), |name| {
        let nth: usize = name[1..].trim_end_matches(".png").parse().unwrap();
        Ok(image(&sheets[nth]).to_png())
    })
}

/// What there is to know of the frames of some art, but for the images that they are on.
fn seen(art: &Art) -> Vec<impl PartialEq + std::fmt::Debug + use<>> {
    let views = art.reel.frames().map(|(id, _)| View::of(&art.reel, id, Flips::default()).unwrap());
    let known = views.map(|view| {
        let pixels = art.image(view.frame.image).unwrap().part(view.frame.source).unwrap();
        let named = (view.points().collect::<Vec<_>>(), view.areas().collect::<Vec<_>>());
        let names = named.0.iter().map(|(id, at)| (art.reel.name(*id).to_owned(), *at));
        let areas = named.1.iter().map(|(id, at)| (art.reel.name(*id).to_owned(), *at));
        let named = (names.collect::<Vec<_>>(), areas.collect::<Vec<_>>());
        (
            view.id,
            view.frame.size,
            view.frame.shift,
            view.frame.pivot(),
            named,
            pixels.rgba().to_vec(),
        )
    });
    known.collect()
}

/// The places of different frames, each page with those on it, room for edges included.
fn rooms(art: &Art, packing: Packing) -> BTreeMap<usize, Vec<[u32; 4]>> {
    let mut rooms: BTreeMap<usize, Vec<[u32; 4]>> = BTreeMap::new();
    for (_, frame) in art.reel.frames() {
        let Rect { x, y, width, height } = frame.source;
        let edge = packing.extrude;
        let room = [x - edge, y - edge, x + width + edge, y + height + edge];
        let on_page = rooms.entry(frame.image.index()).or_default();
        if !on_page.contains(&room) {
            on_page.push(room);
        }
    }
    rooms
}

fn sheets() -> impl Strategy<Value = Sheets> {
    let frame = (0_u8..40, [3_u32..24, 3_u32..24]);
    prop::collection::vec(prop::collection::vec(frame, 1..8), 1..6)
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(80))]

    #[test]
    fn nothing_changes_but_where_frames_are(
        before in sheets(), edit in (any::<prop::sample::Index>(), any::<prop::sample::Index>(), 40_u8..60),
        grown in any::<bool>(), size in prop::sample::select(vec![40_u32, 64, 256]),
        (padding, extrude) in (0_u32..3, 0_u32..3), power_of_two in any::<bool>(),
    ) {
        let mut packing = Packing::default();
        (packing.padding, packing.extrude) = (padding, extrude);
        (packing.power_of_two, packing.max_side) = (power_of_two, size);
        let mut atlas = Atlas::with(packing);
        let file = text(&before);
        let plain = loader(&before, &file).load().unwrap();
        let art = loader(&before, &file).into_atlas(&mut atlas).load().unwrap();
        prop_assert_eq!(seen(&art), seen(&plain));
        prop_assert_eq!(art.reel.fingerprint(), plain.reel.fingerprint());
        check_pages(&art, packing, size)?;

        // One frame is drawn otherwise, and perhaps larger: the others stay, unless nothing fits any more.
        let mut after = before.clone();
        let sheet = edit.0.index(after.len());
        let frame = edit.1.index(after[sheet].len());
        after[sheet][frame].0 = edit.2;
        if grown {
            after[sheet][frame].1[0] += 1;
        }
        let file = text(&after);
        let plain = loader(&after, &file).load().unwrap();
        let next = loader(&after, &file).into_atlas(&mut atlas).reload(&art.reel).unwrap();
        prop_assert_eq!(seen(&next), seen(&plain));
        check_pages(&next, packing, size)?;
        let parts = |art: &Art| -> Vec<(usize, Rect, Pixels)> {
            let frames = art.reel.frames().map(|(_, frame)| {
                let pixels = art.image(frame.image).unwrap().part(frame.source).unwrap();
                (frame.image.index(), frame.source, pixels)
            });
            frames.collect()
        };
        let (old, new) = (parts(&art), parts(&next));
        let edited: Vec<usize> = (0..old.len()).filter(|id| old[*id].2 != new[*id].2).collect();
        // Then its place is free for what it is now.
        let takes_its_place = edited.iter().all(|id| {
            let alike = (0..old.len()).filter(|other| old[*other].2 == old[*id].2);
            old[*id].2.size() == new[*id].2.size() && alike.eq(edited.iter().copied())
        });
        if takes_its_place {
            for (id, (old, new)) in old.iter().zip(&new).enumerate() {
                prop_assert_eq!((old.0, old.1), (new.0, new.1), "frame {}", id);
            }
            let on = edited.first().map(|id| old[*id].0);
            for (page, (old, new)) in art.images.iter().zip(&next.images).enumerate() {
                prop_assert_eq!(old != new, Some(page) == on, "page {}", page);
            }
        }

        // What comes back is where it was.
        let file = text(&before);
        let back = loader(&before, &file).into_atlas(&mut atlas).reload(&next.reel).unwrap();
        prop_assert_eq!(seen(&back), seen(&art));
    }
}

/// Frames keep their distance, edges are repeated, and little room is wasted.
fn check_pages(art: &Art, packing: Packing, size: u32) -> Result<(), TestCaseError> {
    let rooms = rooms(art, packing);
    for (page, rooms) in &rooms {
        let picture = &art.images[*page];
        prop_assert!(picture.size().iter().all(|side| *side <= size));
        for (nth, one) in rooms.iter().enumerate() {
            prop_assert!(one[2] <= picture.size()[0] && one[3] <= picture.size()[1]);
            let apart = |other: &[u32; 4]| {
                (0..2).any(|axis| {
                    one[axis] >= other[axis + 2] + packing.padding
                        || other[axis] >= one[axis + 2] + packing.padding
                })
            };
            prop_assert!(rooms[..nth].iter().all(apart));
            let edge = packing.extrude;
            let inside = |at: [u32; 2]| {
                [0, 1].map(|axis| at[axis].clamp(one[axis] + edge, one[axis + 2] - edge - 1))
            };
            for (x, y) in (one[0]..one[2]).flat_map(|x| (one[1]..one[3]).map(move |y| (x, y))) {
                prop_assert_eq!(picture.pixel([x, y]), picture.pixel(inside([x, y])));
            }
        }
    }
    Ok(())
}

#[test]
fn a_frame_that_fits_on_no_page_is_refused() {
    let sheets = vec![vec![(9, [30, 12])]];
    let file = text(&sheets);
    let mut packing = Packing::default();
    packing.max_side = 29;
    let error = loader(&sheets, &file).into_atlas(&mut Atlas::with(packing)).load().unwrap_err();
    let text = error.to_string();
    assert!(text.contains("30 x 12 px do not fit onto 29 x 29 px"), "{text}");
    let reel = loader(&sheets, &file).into_atlas(&mut Atlas::with(packing)).load_reel();
    assert!(reel.is_ok(), "without pixels nothing is moved");
}
