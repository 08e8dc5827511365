//! Looks by colors, by patterns and by facing sets; mirrors of a whole file.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use std::collections::BTreeMap;

use lucky_reel_assets::{Art, Atlas, LoadError, Loader, Pixels, load_bytes};
use lucky_reel_core::{ClipId, Facing, FacingSetId, LookId, LookSet, Player, Ticks, View};
use proptest::prelude::*;

const COLORS: [[u8; 3]; 5] = [[10, 20, 30], [200, 0, 0], [0, 200, 0], [0, 0, 200], [255, 255, 255]];

fn hex([r, g, b]: [u8; 3]) -> String {
    format!("\"#{r:02x}{g:02x}{b:02x}\"")
}

/// What a view shows, pixel by pixel.
fn seen(art: &Art, view: &View<'_>) -> Pixels {
    art.image(view.frame.image).unwrap().part(view.frame.source).unwrap()
}

/// All that a clip shows in a look, hold by hold.
fn shown(art: &Art, clip: &str, look: Option<&str>) -> Vec<Pixels> {
    let mut looks = LookSet::NOTHING;
    if let Some(look) = look {
        looks.wear(&art.reel, art.reel.id::<LookId>(look).unwrap()).unwrap();
    }
    let mut player = Player::new(&art.reel, art.reel.id::<ClipId>(clip).unwrap());
    let count = art.reel.clip(player.clip()).unwrap().holds().len();
    let holds = 0..count as u32;
    holds
        .map(|hold| {
            player.seek_hold(&art.reel, hold);
            seen(art, &player.view_with(&art.reel, &looks).unwrap())
        })
        .collect()
}

proptest! {
    /// A look by colors shows each picture with its colors changed, all at once, and alpha as it was: of sheets that it has
    /// other pictures for those of the others; on an atlas, too. The base stays as it is.
    #[test]
    fn a_look_by_colors_is_the_picture_with_other_colors(
        pixels in prop::collection::vec((0_usize..5, prop_oneof![Just(0_u8), Just(255), any::<u8>()]), 64),
        other in prop::collection::vec(0_usize..5, 64),
        map in prop::collection::btree_map(0_usize..5, 0_usize..5, 0..4),
        [trims, has_sheet, keyed] in any::<[bool; 3]>(),
    ) {
        let picture = |pixel: &dyn Fn(usize) -> [u8; 4]| {
            let rgba = (0..64).flat_map(pixel).collect();
            Pixels::from_rgba([16, 4], rgba).unwrap().to_png()
        };
        let base = picture(&|at| { let (color, alpha) = pixels[at]; let [r, g, b] = COLORS[color]; [r, g, b, alpha] });
        let dusk = picture(&|at| { let [r, g, b] = COLORS[other[at]]; [r, g, b, 255] });
        let colors: Vec<String> = map.iter().map(|(from, to)| format!("{} = {}", hex(COLORS[*from]), hex(COLORS[*to]))).collect();
        let colors = colors.join(", ");
        let sheets = if has_sheet { "sheets = { s = \"t.png\" }\n" } else { "" };
        let keyed = if keyed { format!("transparent = {}\n", hex(COLORS[4])) } else { String::new() };
        let text = format!(
            "reel = 1\n[sheets.s]\nimage = \"s.png\"\ngrid = {{ cell = [4, 4] }}\ntrim = {trims}\n{keyed}\
             [sheets.half]\nimage = \"s.png\"\ngrid = {{ cell = [8, 4] }}\n\
             [defaults]\nfps = 8\n[clips.c]\nsheet = \"s\"\nframes = \"all\"\n[clips.wide]\nsheet = \"half\"\nframes = \"all\"\n\
             [looks.plain]\n{sheets}[looks.frost]\n{sheets}colors = {{ {colors} }}\n"
        );
        let files = [("s.reel.toml", text.as_bytes()), ("s.png", &*base), ("t.png", &*dusk)];
        let art = Loader::new().files(&files[..]).load().unwrap();
        let changed = |mut picture: Pixels| {
            for pixel in picture.rgba_mut().chunks_exact_mut(4) {
                let known = COLORS.iter().position(|color| pixel[..3] == *color);
                if let Some(to) = known.and_then(|at| map.get(&at)) {
                    pixel[..3].copy_from_slice(&COLORS[*to]);
                }
            }
            picture
        };
        let wanted = |clip: &str| -> Vec<Pixels> { shown(&art, clip, Some("plain")).into_iter().map(changed).collect() };
        // A pixel that is not seen has no color worth speaking of.
        let visible = |pictures: Vec<Pixels>| -> Vec<Pixels> {
            pictures.into_iter().map(|mut picture| {
                picture.rgba_mut().chunks_exact_mut(4).filter(|pixel| pixel[3] == 0).for_each(|pixel| pixel.fill(0));
                picture
            }).collect()
        };
        for clip in ["c", "wide"] {
            prop_assert_eq!(visible(shown(&art, clip, Some("frost"))), visible(wanted(clip)));
        }
        let mut atlas = Atlas::new();
        let packed = Loader::new().files(&files[..]).into_atlas(&mut atlas).load().unwrap();
        for look in [None, Some("plain"), Some("frost")] {
            prop_assert_eq!(visible(shown(&packed, "wide", look)), visible(shown(&art, "wide", look)));
        }
        prop_assert!(art.images.len() <= 7, "{} images", art.images.len());
        // Without pixels it is the same reel.
        let reel = Loader::new().files(&files[..]).load_reel().unwrap();
        prop_assert_eq!(reel.images().len(), art.images.len());
    }
}

/// Twelve rows of two cells, each cell of a shade of its own.
fn load(text: &str) -> Result<Art, LoadError> {
    let mut picture = Pixels::new([16, 96]).unwrap();
    for cell in 0..24 {
        for x in 0..8 {
            picture.set_pixel([cell % 2 * 8 + x, cell / 2 * 8 + 4], [cell as u8 + 1, 0, 0, 255]);
        }
    }
    let text =
        format!("reel = 1\n[sheets.s]\nimage = \"s.png\"\ngrid = {{ cell = [8, 8] }}\n{text}");
    load_bytes("bram.reel.toml", text.as_bytes(), |_| Ok(picture.to_png()))
}

fn shades(art: &Art, clip: &str, look: Option<&str>) -> Vec<u8> {
    shown(art, clip, look).iter().map(|picture| picture.pixel([4, 4])[0]).collect()
}

const IDLE: &str = r#"
    [defaults]
    fps = 8
    [clips.idle]
    rows = { down = 0, up = 1, right = 2 }
    [clips.idle-lantern]
    rows = { down = 3, up = 4, right = 5 }
    [clips.idle-lantern-high]
    row = 6
    [facings.idle]
    left = { mirror = "right" }
"#;

#[test]
fn looks_take_patterns_and_facing_sets() {
    let pattern = "[looks.night]\nclips = { \"idle-*\" = \"idle-lantern-*\", idle-up = \"idle-lantern-high\" }";
    let set = "[looks.night]\nclips = { idle = \"idle-lantern\", idle-up = \"idle-lantern-high\" }";
    for look in [pattern, set] {
        let art = load(&format!("{IDLE}{look}")).unwrap();
        let wanted = [
            ("idle-down", [7, 8]),
            ("idle-up", [13, 14]),
            ("idle-right", [11, 12]),
            ("idle-left", [11, 12]),
        ];
        for (clip, wanted) in wanted {
            assert_eq!(shades(&art, clip, Some("night")), wanted, "{clip} by {look}");
        }
        assert_eq!(shades(&art, "idle-lantern-up", Some("night")), [9, 10], "{look}");
        assert_eq!(shades(&art, "idle-down", None), [1, 2]);
    }
    let wrong =
        |look: &str| load(&format!("{IDLE}[looks.night]\n{look}")).expect_err(look).to_string();
    let none = wrong("clips = { \"sit-*\" = \"idle-*\" }");
    assert!(
        none.contains("there is no clip `sit-*`") && none.contains("looks.night.clips.sit-*"),
        "{none}"
    );
    let lacks = wrong("clips = { \"idle-*\" = \"rest-*\" }");
    assert!(lacks.contains("there is no clip `rest-down`"), "{lacks}");
    let color =
        wrong("colors = { \"#12345\" = \"#000000\", \"#010000\" = \"red\", \"#020000\" = 5 }");
    assert_eq!(color.matches("not a color").count(), 3, "{color}");
}

/// One line mirrors a whole file; what a set says itself, and its own art, come first.
#[test]
fn a_file_says_once_which_side_mirrors_which() {
    let text = |mirror: &str| {
        format!(
            "[defaults]\nfps = 8\n{mirror}\n\
             [clips.walk]\nrows = {{ down = 0, right = 1, down-right = 2 }}\nmarks = {{ step-left = 0, step-right = 1 }}\n\
             [clips.run]\nrows = {{ right = 3, left = 4 }}\n\
             [clips.sit]\nrows = {{ down = 5, right = 6 }}\n\
             [clips.turned]\nrow = 7\n\
             [facings.sit]\nleft = \"turned\"\n\
             [facings.step]\nright = \"walk-right\"\nup = {{ mirror = \"right\" }}\n"
        )
    };
    let line = "mirror = { left = \"right\", down-left = \"down-right\", up = \"down\", swap = { step-left = \"step-right\" } }";
    let art = load(&text(line)).unwrap();
    let clip = |set: &str, facing: Facing| {
        let set = art.reel.facing_set(art.reel.id::<FacingSetId>(set).unwrap()).unwrap();
        art.reel.clip(set.clip(facing)).unwrap()
    };
    let walks = clip("walk", Facing::Left);
    assert!(walks.is_mirrored && art.reel.name(walks.mirror_of.unwrap()) == "walk-right");
    let marks: BTreeMap<&str, u32> =
        walks.marks().map(|at| (art.reel.name(at.mark), at.hold)).collect();
    assert_eq!(marks, BTreeMap::from([("step-left", 1), ("step-right", 0)]));
    assert!(clip("walk", Facing::DownLeft).is_mirrored);
    assert!(clip("walk", Facing::Up).is_mirrored);
    // Its own art, and what a set says itself.
    assert_eq!(
        (clip("run", Facing::Left).name, clip("run", Facing::Left).is_mirrored),
        ("run-left", false)
    );
    assert_eq!(clip("sit", Facing::Left).name, "turned");
    assert_eq!(art.reel.name(clip("step", Facing::Up).mirror_of.unwrap()), "walk-right");
    assert_eq!(clip("step", Facing::Left).total, Ticks::from_millis(250));

    let wrong = |line: &str| load(&text(line)).expect_err(line).to_string();
    let report = wrong("mirror = { left = \"rihgt\", rigth = \"left\", up = 5, swap = 3 }");
    for words in [
        "did you mean `right`?",
        "there is no key `rigth`",
        "the facing that it mirrors",
        "marks, such as",
    ] {
        assert!(report.contains(words), "{words}: {report}");
    }
    let report = wrong("mirror = { left = \"right\", swap = { step-lfet = \"step-right\" } }");
    assert!(
        report.contains("there is no mark `step-lfet`") && report.contains("defaults.mirror"),
        "{report}"
    );
}
