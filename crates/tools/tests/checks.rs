//! What loads, and is likely a mistake.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use lucky_reel_assets::{Loader, Pixels, Severity};
use lucky_reel_tools::check;

const SOUND: &str = r#"reel = 1

[sheets.bram]
image = "bram.png"
grid  = { cell = [32, 32] }
pivot = [16, 30]

[clips.walk]
rows  = { down = 0, up = 1 }
take  = "0 to 3"
fps   = 8
marks = { step = [1, 3] }

[clips.blink]
frames = [4, "5 for 80ms", "4 to 2"]
each   = "120ms"
mode   = "once"
end    = { play = "walk-down" }
"#;

#[test]
fn what_loads_is_checked_for_what_is_likely_a_mistake() {
    let warned = |from: &str, to: &str| -> Vec<String> {
        let text = SOUND.replacen(from, to, 1);
        // Row 0: a figure 20 pixels wide in each cell; the last two cells of row 1 are empty.
        let read = |_: &str| {
            let mut picture = Pixels::new([256, 64]).unwrap();
            for cell in 0..14_u32 {
                let (left, top) = (cell % 8 * 32, cell / 8 * 32);
                for nth in 0..400 {
                    let color = [cell as u8 * 9, 7, (nth % 20) as u8, 255];
                    picture.set_pixel([left + 6 + nth % 20, top + 6 + nth / 20], color);
                }
            }
            // Cells 2 and 3 are alike.
            for nth in 0..1_024 {
                let same = picture.pixel([64 + nth % 32, nth / 32]);
                picture.set_pixel([96 + nth % 32, nth / 32], same);
            }
            Ok(picture.to_png())
        };
        let problems = check(Loader::new().bytes("bram.reel.toml", text.as_bytes(), read)).problems;
        assert!(problems.iter().all(|problem| problem.severity() == Severity::Warning));
        let reported =
            problems.iter().map(|p| format!("{}:{} {p}", p.line().unwrap(), p.column().unwrap()));
        reported.collect()
    };
    let sound = warned(
        "take  = \"0 to 3\"\nfps   = 8\nmarks = { step = [1, 3] }",
        "take  = \"0 to 2\"\nfps = 8",
    );
    // `4 to 2` in the other clip shows both of the cells that are alike, and nothing else is odd.
    assert!(sound.len() == 1 && sound[0].contains("frames 3 and 2 are alike"), "{sound:?}");
    assert!(
        warned("marks = { step = [1, 3] }", "")[0]
            .starts_with("10:9 warning: frames 2 and 3 are alike")
    );
    let empty = warned("[4, \"5 for 80ms\", \"4 to 2\"]", "[4, 15]");
    assert!(
        empty.iter().any(|reported| reported.starts_with("15:14 ")
            && reported.contains("nothing is drawn in frame 15")),
        "{empty:?}"
    );
    let cut = warned("cell = [32, 32]", "cell = [16, 32]");
    assert!(cut.iter().any(|reported| reported.contains("cuts through a figure")), "{cut:?}");
    let uneven = warned("fps   = 8", "fps   = 17");
    assert!(
        uneven.iter().any(|reported| reported.starts_with("11:9 ") && reported.contains("evenly")),
        "{uneven:?}"
    );
}

/// Art as it should not be: what is warned of, and that nothing is said of art that is sound.
#[test]
fn art_is_checked_for_what_artists_overlook() {
    let warned = |transparent: &str, paint: &dyn Fn(&mut Pixels)| -> Vec<String> {
        let text = format!(
            "reel = 1\n[sheets.s]\nimage = \"s.png\"\ngrid = {{ cell = [16, 16], columns = 5 }}\n{transparent}\n\
             [clips.c]\nframes = \"0 to 4\"\nfps = 8\n"
        );
        let mut picture = Pixels::new([96, 16]).unwrap();
        for cell in 0..5 {
            for nth in 0..96_u32 {
                let at = [cell * 16 + 4 + nth % 8, 3 + nth / 8];
                picture.set_pixel(at, [90 + cell as u8, 60, (nth * 2) as u8, 255]);
            }
        }
        paint(&mut picture);
        let read = |_: &str| Ok(picture.to_png());
        let checked = check(Loader::new().bytes("s.reel.toml", text.as_bytes(), read));
        let seen = (0..checked.problems.len()).all(|nth| checked.picture(nth).is_some());
        assert!(seen && checked.count(Severity::Error) == 0, "{:?}", checked.problems);
        checked.problems.iter().map(|problem| problem.message().to_owned()).collect()
    };
    assert_eq!(warned("", &|_| {}), [""; 0]);
    let outside = warned("", &|picture| {
        picture.set_pixel([90, 7], [200, 0, 0, 255]);
        picture.set_pixel([91, 7], [0, 200, 0, 255]);
    });
    assert_eq!(outside, ["2 pixels are drawn outside all cells, the first at 90, 7"]);
    let soft = warned("", &|picture| picture.set_pixel([5, 2], [90, 60, 0, 100]));
    let wanted = "1 pixel is half transparent on art that is hard otherwise, the first at 5, 2";
    assert_eq!(soft, [wanted]);
    let jump = warned("", &|picture| {
        let low = |y: u32| (32..48).map(move |x| [x, y]);
        for at in (10..16).flat_map(low) {
            picture.set_pixel(at, [0; 4]);
        }
    });
    assert_eq!(jump, ["frame 2 stands 5 pixels higher than all others of the clip"]);
    let key = warned("transparent = \"#ff00ff\"", &|picture| {
        picture.set_pixel([0, 0], [255, 0, 255, 255]);
        picture.set_pixel([1, 0], [252, 3, 255, 255]);
    });
    let wanted = "1 pixel is nearly of the transparent color #ff00ff, the first at 1, 0";
    assert!(key.contains(&wanted.to_owned()), "{key:?}");
}

/// Of an image that several sheets share, as of one that was packed, each is judged by its own frames; and only
/// in a grid does what lies beside a frame belong to it.
#[test]
fn sheets_that_share_an_image_are_judged_by_their_own_frames() {
    let text = "reel = 1\n[sheets.hard]\nimage = \"page.png\"\n\
        grid = { cell = [16, 16], columns = 2, at = [[0, 0], [16, 0]] }\n\
        [sheets.soft]\nimage = \"page.png\"\ncutouts = { glow = [32, 0, 4, 4] }\n\
        [clips.hard]\nsheet = \"hard\"\nframes = [0, 1]\nfps = 8\n\
        [clips.soft]\nsheet = \"soft\"\nframes = \"glow\"\n";
    let read = |_: &str| {
        let mut picture = Pixels::new([48, 16]).unwrap();
        for nth in 0..512 {
            // Opaque up to its border, and on at the other side of it, as packed frames lie side by side.
            picture.set_pixel([nth % 32, nth / 32], [(nth % 250) as u8, 60, 9, 255]);
        }
        for nth in 0..10 {
            picture.set_pixel([32 + nth % 4, nth / 4], [200, 180, 90, 100]);
        }
        Ok(picture.to_png())
    };
    let checked = check(Loader::new().bytes("s.reel.toml", text.as_bytes(), read));
    assert!(checked.problems.is_empty(), "{:?}", checked.problems);
}

/// A look by colors that the art does not have, or has in shades that the eye does not tell apart.
#[test]
fn colors_that_occur_nowhere_or_nearly_are_warned_of() {
    let warned = |colors: &str| {
        let text = format!(
            "reel = 1\n[sheets.s]\nimage = \"s.png\"\ngrid = {{ cell = [8, 8] }}\n[clips.c]\nframes = \"0 to 1\"\nfps = 10\n\
             [looks.frost]\ncolors = {{ {colors} }}\n"
        );
        let read = |_: &str| {
            let mut picture = Pixels::new([16, 8]).unwrap();
            for at in 0..36 {
                // Three shades: one in the left cell, and two nearly alike in the right one.
                let color =
                    [[10, 20, 30, 255], [100, 50, 0, 255], [102, 51, 0, 255]][at as usize % 3];
                picture.set_pixel([at % 3 / 2 * 8 + 1 + at % 6, 1 + at / 6], color);
            }
            Ok(picture.to_png())
        };
        let checked = check(Loader::new().bytes("s.reel.toml", text.as_bytes(), read));
        let problems = checked.problems.iter().filter(|problem| problem.key().contains("colors"));
        problems.map(ToString::to_string).collect::<Vec<_>>()
    };
    let all = "\"#643200\" = \"#000000\", \"#663300\" = \"#000000\"";
    assert_eq!(warned(&format!("\"#0a141e\" = \"#ffffff\", {all}")), [""; 0]);
    let none = warned("\"#ff00ff\" = \"#ffffff\"");
    assert!(
        none.len() == 1 && none[0].contains("occurs in no sheet") && none[0].contains("pick it"),
        "{none:?}"
    );
    let near = warned("\"#0b141e\" = \"#ffffff\"");
    assert!(near.len() == 1 && near[0].contains("did you mean `#0a141e`"), "{near:?}");
    let shade = warned("\"#643200\" = \"#ffffff\"");
    assert!(
        shade.len() == 1 && shade[0].contains("nearly `#643200`") && shade[0].contains("`#663300`"),
        "{shade:?}"
    );
}

#[test]
fn rows_that_are_nearly_facings_are_warned_of() {
    let warned = |rows: &str| {
        let text = format!(
            "reel = 1\n[sheets.s]\nimage = \"s.png\"\ngrid = {{ cell = [8, 8] }}\n\
             [clips.walk]\nrows = {{ {rows} }}\ntake = 0\n"
        );
        let read = |_: &str| {
            let mut picture = Pixels::new([8, 24]).unwrap();
            picture.rgba_mut().fill(255);
            Ok(picture.to_png())
        };
        let checked = check(Loader::new().bytes("s.reel.toml", text.as_bytes(), read));
        let problems = checked.problems.iter().filter(|problem| problem.key().contains("rows"));
        problems
            .map(|p| format!("{}:{} {}", p.line().unwrap(), p.column().unwrap(), p.fix()))
            .collect::<Vec<String>>()
    };
    let none: [String; 0] = [];
    assert_eq!(warned("down = 0, up = 1, right = 2"), none);
    assert_eq!(warned("old = 0, young = 1"), none);
    assert_eq!(warned("down = 0, rihgt = 2"), ["6:20 did you mean `right`?"]);
}

/// Areas that hit nothing, or more than the frame, with the frames that they are on.
#[test]
fn areas_that_are_empty_or_reach_outside_are_warned_of() {
    let text = "reel = 1\n[sheets.s]\nimage = \"s.png\"\ngrid = { cell = [8, 8] }\n\
        [sheets.s.areas]\nbody = { all = [1, 1, 6, 6], \"3 to 8\" = [4, 4, 4.5, 2] }\n\
        feet = { 1 = [0, 7, 8, 0], 2 = [0, 0, 8, 8] }\nhead = { 4 = [-0.5, 0, 2, 2] }\n\
        [clips.c]\nframes = [0]\n";
    let read = |_: &str| {
        let mut picture = Pixels::new([80, 8]).unwrap();
        picture.rgba_mut().chunks_mut(4).for_each(|pixel| pixel.copy_from_slice(&[9, 8, 7, 255]));
        Ok(picture.to_png())
    };
    let checked = check(Loader::new().bytes("s.reel.toml", text.as_bytes(), read));
    let lines = checked.problems.iter().map(|problem| (problem.line().unwrap(), problem.message()));
    let wanted = [
        (7, "the area `feet` is empty on frame 1"),
        (6, "the area `body` reaches outside of frames 3, 4, 5, 6, 2 more"),
        (8, "the area `head` reaches outside of frame 4"),
    ];
    assert_eq!(lines.collect::<Vec<_>>(), wanted);
    for nth in 0..3 {
        let picture = checked.picture(nth).unwrap();
        assert!(picture.rgba().chunks(4).any(|pixel| pixel == [0xff, 0xc8, 0x57, 255]), "{nth}");
    }
}

/// A damaged image is read as far as it is whole, and warned of where the file names it.
#[test]
fn damaged_images_are_warned_of() {
    let mut gif = Vec::new();
    let mut encoder = gif::Encoder::new(&mut gif, 2, 2, &[0, 0, 0, 255, 255, 255]).unwrap();
    for pixel in [0, 1] {
        let frame = gif::Frame::from_indexed_pixels(2, 2, vec![pixel; 4], None);
        encoder.write_frame(&frame).unwrap();
    }
    drop(encoder);
    gif.pop();
    for source in ["animated", "image"] {
        let text = format!("reel = 1\n[sheets.s]\n{source} = \"s.gif\"\n[clips.c]\nframes = 0\n");
        let read = |_: &str| Ok(gif.clone());
        let checked = check(Loader::new().bytes("s.reel.toml", text.as_bytes(), read));
        let first = &checked.problems[0];
        assert_eq!((first.severity(), first.line()), (Severity::Warning, Some(3)));
        assert!(first.message().contains("s.gif: it is cut short"), "{first}");
    }
}
