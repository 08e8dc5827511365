//! What is drawn, moved and written, against naive ways to do it.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use lucky_reel_assets::{Art, Pixels, load_bytes};
use lucky_reel_canvas::Canvas;
use lucky_reel_core::*;
use lucky_reel_tools::{AnimatedPng, atomic_write};
use proptest::prelude::*;

proptest! {
    /// What is written as an animated image is read again frame by frame.
    #[test]
    fn moving_pictures_are_read_back(seeds in prop::collection::vec(any::<[u8; 6]>(), 1..6)) {
        let mut picture = Pixels::new([7, 5]).unwrap();
        let mut frames = Vec::new();
        for [x, y, r, g, b, a] in seeds {
            picture.set_pixel([u32::from(x % 7), u32::from(y % 5)], [r, g, b, a]);
            frames.push(picture.clone());
        }
        let mut bytes = Vec::new();
        let mut moving = AnimatedPng::new(&mut bytes, [7, 5], frames.len() as u32).unwrap();
        for frame in &frames {
            moving.frame(frame, (3, 50)).unwrap();
        }
        moving.finish().unwrap();

        let mut reader = png::Decoder::new(std::io::Cursor::new(&bytes)).read_info().unwrap();
        let control = *reader.info().animation_control().unwrap();
        prop_assert_eq!((control.num_frames as usize, control.num_plays), (frames.len(), 0));
        let mut screen = Pixels::new([7, 5]).unwrap();
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
    atomic_write::write(&path, false, |file| std::io::Write::write_all(file, b"first")).unwrap();
    let again = atomic_write::write(&path, false, |_| Ok(())).unwrap_err();
    assert!(again.already_exists());
    let failed = atomic_write::write(&path, true, |file| {
        std::io::Write::write_all(file, b"half")?;
        Err(std::io::Error::other("the disk is full"))
    });
    assert!(failed.unwrap_err().to_string().contains("the disk is full"));
    assert_eq!(std::fs::read(&path).unwrap(), b"first");
    assert_eq!(std::fs::read_dir(folder.path()).unwrap().count(), 1, "nothing is left behind");
    let nowhere = atomic_write::write(folder.path().join("no/a.png"), false, |_| Ok(()));
    assert!(nowhere.unwrap_err().to_string().contains("folder does not exist"));
}

/// The frames that the clip `c` shows.
fn shown(art: &Art) -> Vec<u32> {
    let clip = art.reel.clip(art.reel.id::<ClipId>("c").unwrap()).unwrap();
    clip.holds().map(|hold| art.reel.frame(hold.frame).unwrap().index).collect()
}

/// Art on a magenta background, cut, keyed, trimmed and pivoted: nothing moves on the screen.
#[test]
fn art_without_alpha_is_keyed_and_trimmed_in_its_place() {
    let magenta = [255, 0, 255, 255];
    // A title bar of 3 pixels, then 4 x 2 cells of 10 x 8, a figure of 4 x 3 pixels in all but one.
    let mut picture = Pixels::new([40, 19]).unwrap();
    picture.rgba_mut().chunks_exact_mut(4).for_each(|pixel| pixel.copy_from_slice(&magenta));
    for cell in 0..7_u32 {
        for nth in 0..12 {
            let at = [cell % 4 * 10 + 2 + cell % 3 + nth % 4, 3 + cell / 4 * 8 + 4 + nth / 4];
            picture.set_pixel(at, [cell as u8 + 1, 80, 90, 255]);
        }
    }
    let load = |keys: &str| {
        let text = format!(
            "reel = 1\n[sheets.s]\nimage = \"s.png\"\ngrid = {{ cell = [10, 8], start = [0, 3] }}\npivot = [5, 8]\n{keys}\n[clips.c]\nrow = 1\nfps = 4\n[clips.d]\nframes = \"all\"\nfps = 4\n"
        );
        load_bytes("s.reel.toml", text.as_bytes(), |_| Ok(picture.to_png())).unwrap()
    };
    let drawn = |art: &Art, hold: u64| {
        let mut player = Player::new(&art.reel, art.reel.id("d").unwrap());
        player.advance(&art.reel, Ticks::from_millis(250 * hold));
        let mut canvas = Canvas::new([30, 20]).unwrap();
        canvas.draw(&player.view(&art.reel).unwrap(), &art.images, [12, 15], 1);
        canvas.into_picture()
    };
    let keyed = load("transparent = \"#ff00ff\"");
    let trimmed = load("transparent = \"top-left\"\ntrim = true");
    assert_eq!(shown(&keyed), [4, 5, 6], "the empty cell is left out once the background is gone");
    assert_eq!(shown(&load("")), [4, 5, 6, 7]);
    let frame = |art: &Art, nth: usize| {
        let sheet: SheetId = art.reel.id("s").unwrap();
        *art.reel.frame(art.reel.frames_of(sheet).nth(nth).unwrap()).unwrap()
    };
    let small = frame(&trimmed, 5);
    assert_eq!((small.source.width, small.source.height, small.size), (4, 3, [10, 8]));
    assert_eq!((small.shift, small.pivot()), ([4, 4], [5.0, 8.0]));
    for hold in 0..8 {
        assert!(drawn(&keyed, hold) == drawn(&trimmed, hold), "frame {hold} has moved");
    }
    let one = load("transparent = \"top-left\"\npivots = { 2 = [4.5, 7], 3 = \"top-left\" }");
    assert_eq!([2, 3, 4].map(|nth| frame(&one, nth).pivot()), [[4.5, 7.0], [0.0, 0.0], [5.0, 8.0]]);
}
