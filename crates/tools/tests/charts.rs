//! Pictures of clips hold what they promise.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use lucky_reel_assets::{Art, Pixmap, load_bytes};
use lucky_reel_tools::chart;

/// Frames of one plain color each.
fn art(clip: &str) -> Art {
    let mut picture = Pixmap::new([64, 8]).unwrap();
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

fn drawn(clip: &str) -> Pixmap {
    let art = art(clip);
    let picture = chart::clip(&art, art.reel.clip_id("c").unwrap()).unwrap();
    assert_eq!(picture.size()[0], 1280);
    assert!(picture.rgba().chunks(4).all(|pixel| pixel[3] == 255), "nothing is seen through");
    picture
}

fn count(picture: &Pixmap, wanted: [u8; 4]) -> usize {
    picture.rgba().chunks(4).filter(|pixel| *pixel == wanted).count()
}

/// The longest runs of the two colors of the boxes, in the row of pixels where they begin.
fn widths(picture: &Pixmap) -> Vec<usize> {
    let boxes = [[0x22, 0x2f, 0x42, 0xff], [0x2b, 0x3b, 0x51, 0xff]];
    let [width, height] = picture.size();
    let row = (0..height).find(|y| boxes.contains(&picture.pixel([100, *y]))).unwrap();
    let pixels: Vec<_> = (0..width).map(|x| picture.pixel([x, row])).collect();
    let runs = pixels.chunk_by(|a, b| a == b).filter(|run| boxes.contains(&run[0]));
    runs.map(|run| run.len()).collect()
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
    let (mark, span) = ([0xff, 0xc8, 0x57, 0xff], [0x6f, 0xd0, 0xb4, 0xff]);
    let bare = drawn("frames = [0, 1]\nfps = 4\nmode = \"once\"");
    assert_eq!((count(&bare, mark), count(&bare, span)), (0, 0));
    let full = drawn(
        "frames = [0, 1]\nfps = 4\nmode = \"once\"\nmarks = { hit = 1 }\nspans = { open = 0 }",
    );
    assert!(count(&full, mark) > 50 && count(&full, span) > 590 * 4);
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
