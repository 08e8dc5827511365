//! What loads, and is likely a mistake.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use lucky_reel_assets::{Loader, Pixmap, Severity};
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
            let mut picture = Pixmap::new([256, 64]).unwrap();
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
