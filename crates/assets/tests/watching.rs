//! Files that are edited while a game runs: every way of saving arrives, and nothing breaks it.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use std::fs;
use std::io::Write;
use std::path::Path;
use std::time::{Duration, Instant};

use lucky_reel_assets::packing::Packing;
use lucky_reel_assets::{Art, Atlas, LoadError, Loader, Pixels, Reload, Watcher};
use lucky_reel_core::{Actor, ClipId, Player, Reel, RoleId, Ticks, Unison};
use tempfile::TempDir;

fn picture(shade: u8) -> Vec<u8> {
    let mut picture = Pixels::new([8, 8]).unwrap();
    picture.rgba_mut().fill(shade);
    picture.to_png()
}

fn reel(each: &str) -> String {
    format!(
        "reel = 1\n[sheets.lamp]\nimage = \"lamp.png\"\ngrid = {{ cell = [4, 4] }}\n\
         [sheets.puff]\nimages = \"puffs/puff-*.png\"\n[defaults]\nsheet = \"lamp\"\n\
         [clips.glow]\nframes = \"0 to 3\"\neach = \"{each}\"\n\
         [clips.puff]\nsheet = \"puff\"\nframes = \"all\"\neach = \"50ms\"\n"
    )
}

/// A folder with a reel file, a sheet, and a folder of loose images.
fn folder() -> TempDir {
    let folder = tempfile::tempdir().unwrap();
    fs::create_dir(folder.path().join("puffs")).unwrap();
    fs::write(folder.path().join("lamp.png"), picture(10)).unwrap();
    fs::write(folder.path().join("puffs/puff-1.png"), picture(20)).unwrap();
    fs::write(folder.path().join("lamp.reel.toml"), reel("100ms")).unwrap();
    folder
}

fn next(watcher: &mut Watcher) -> Result<Reload, LoadError> {
    let begin = Instant::now();
    loop {
        if let Some(made) = watcher.poll() {
            return made;
        }
        assert!(begin.elapsed() < Duration::from_secs(20), "nothing has arrived");
        std::thread::sleep(Duration::from_millis(2));
    }
}

/// Polls until a version is as it should be; earlier versions may come first.
fn until(watcher: &mut Watcher, mut is_it: impl FnMut(&Reload) -> bool) -> Reload {
    loop {
        if let Ok(reload) = next(watcher)
            && is_it(&reload)
        {
            return reload;
        }
    }
}

fn total(reel: &Reel, clip: &str) -> Ticks {
    reel.clip(reel.id::<ClipId>(clip).unwrap()).unwrap().total
}

fn changed(reload: &Reload) -> Vec<usize> {
    reload.changed_images().map(|(image, _)| image.index()).collect()
}

/// As editors do it: a second file, renamed over the first.
fn save_by_rename(path: &Path, bytes: &[u8]) {
    let beside = path.with_extension("swp");
    fs::write(&beside, bytes).unwrap();
    fs::rename(beside, path).unwrap();
}

fn every_way_of_saving(watch: impl Fn(Loader<'static>) -> (Reel, Watcher)) {
    let folder = folder();
    let file = folder.path().join("lamp.reel.toml");
    let (first, mut watcher) = watch(Loader::new().file(&file));
    let glow: ClipId = first.id("glow").unwrap();
    let mut player = Player::new(&first, glow);
    player.advance(&first, Ticks::from_millis(250));
    assert_eq!(player.hold_index(&first), Some(2));
    assert!(watcher.poll().is_none());

    // In place; the place is kept by clip and hold, and no image has changed.
    fs::write(&file, reel("200ms")).unwrap();
    let reload = next(&mut watcher).unwrap();
    assert_eq!(total(&reload.art.reel, "glow"), Ticks::from_millis(800));
    assert_eq!(changed(&reload), []);
    player.advance(&reload.art.reel, Ticks::from_millis(1));
    assert_eq!((player.clip(), player.hold_index(&reload.art.reel)), (glow, Some(2)));

    // An image on which a decoder panics is a broken image, and the next edit is seen.
    let image = folder.path().join("lamp.png");
    let good = fs::read(&image).unwrap();
    let odd = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../fuzz/seeds/images/odd-palette.png");
    save_by_rename(&image, &fs::read(odd).unwrap());
    let error = next(&mut watcher).unwrap_err();
    assert!(error.to_string().contains("its palette has 4 bytes"), "{error}");
    save_by_rename(&image, &good);
    next(&mut watcher).unwrap();

    // By renaming; two saves in a row.
    save_by_rename(&file, reel("210ms").as_bytes());
    until(&mut watcher, |it| total(&it.art.reel, "glow") == Ticks::from_millis(840));
    fs::write(&file, reel("220ms")).unwrap();
    fs::write(&file, reel("230ms")).unwrap();
    until(&mut watcher, |it| total(&it.art.reel, "glow") == Ticks::from_millis(920));

    // Broken, and still broken: said once each. Then as it was.
    fs::write(&file, reel("fast")).unwrap();
    let error = next(&mut watcher).unwrap_err();
    assert!(error.to_string().contains("`fast` is not a duration"), "{error}");
    assert_eq!(watcher.problems().len(), 1);
    assert_eq!(watcher.problems()[0].line(), Some(11));
    assert!(watcher.poll().is_none());
    save_by_rename(&file, reel("230ms").as_bytes());
    next(&mut watcher).unwrap();
    assert!(watcher.problems().is_empty());

    // One image changes, and it alone is handed out.
    let lamp = folder.path().join("lamp.png");
    save_by_rename(&lamp, &picture(11));
    let reload = next(&mut watcher).unwrap();
    let (image, pixels) = reload.changed_images().next().unwrap();
    assert_eq!((changed(&reload).len(), image.index()), (1, 0));
    assert_eq!(pixels.pixel([0, 0]), [11; 4]);

    // One is deleted, and comes back.
    fs::remove_file(&lamp).unwrap();
    let error = next(&mut watcher).unwrap_err();
    assert!(error.to_string().contains("there is no such file"), "{error}");
    fs::write(&lamp, picture(11)).unwrap();
    assert_eq!(changed(&next(&mut watcher).unwrap()), []);

    // A new one that a pattern matches; the folder is deleted, and made anew.
    fs::write(folder.path().join("puffs/puff-2.png"), picture(21)).unwrap();
    let reload = until(&mut watcher, |it| total(&it.art.reel, "puff") == Ticks::from_millis(100));
    assert_eq!(changed(&reload), [1]);
    assert!(reload.art.files.contains(&folder.path().join("puffs/puff-2.png")));
    fs::remove_dir_all(folder.path().join("puffs")).unwrap();
    next(&mut watcher).unwrap_err();
    fs::create_dir(folder.path().join("puffs")).unwrap();
    for number in 1..=3 {
        let path = folder.path().join(format!("puffs/puff-{number}.png"));
        fs::write(path, picture(20 + number)).unwrap();
    }
    until(&mut watcher, |it| total(&it.art.reel, "puff") == Ticks::from_millis(150));

    // A slow writer: a piece now and then. Whatever comes in between, the end is right.
    let text = reel("70ms");
    let mut slow = fs::File::create(&file).unwrap();
    for piece in text.as_bytes().chunks(text.len() / 4) {
        slow.write_all(piece).unwrap();
        slow.flush().unwrap();
        std::thread::sleep(Duration::from_millis(30));
    }
    drop(slow);
    until(&mut watcher, |it| total(&it.art.reel, "glow") == Ticks::from_millis(280));
}

#[test]
fn every_way_of_saving_arrives_by_events() {
    every_way_of_saving(|loader| {
        let (art, watcher) = loader.watch().unwrap();
        (art.reel, watcher)
    });
}

#[test]
fn every_way_of_saving_arrives_by_polling() {
    every_way_of_saving(|loader| {
        let (art, watcher) = loader.watch_by_polling(Duration::from_millis(5)).unwrap();
        (art.reel, watcher)
    });
}

#[test]
fn what_a_game_missed_is_not_lost() {
    let folder = folder();
    let file = folder.path().join("lamp.reel.toml");
    let (_, mut watcher) = Loader::new().file(&file).watch().unwrap();
    let settle = || std::thread::sleep(Duration::from_millis(400));
    // The game does not poll: an image changes, then a time, then the file breaks.
    fs::write(folder.path().join("lamp.png"), picture(12)).unwrap();
    settle();
    fs::write(&file, reel("90ms")).unwrap();
    settle();
    fs::write(&file, "reel = 2").unwrap();
    settle();
    let reload = next(&mut watcher).unwrap();
    assert_eq!(total(&reload.art.reel, "glow"), Ticks::from_millis(360));
    assert_eq!(changed(&reload), [0], "the image of the version in between is new as well");
    next(&mut watcher).unwrap_err();
    assert!(watcher.poll().is_none());
}

#[test]
fn everything_that_plays_goes_on_after_a_reload() {
    let demo = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo/greenhouse");
    let folder = tempfile::tempdir().unwrap();
    for entry in fs::read_dir(demo).unwrap().flatten() {
        fs::copy(entry.path(), folder.path().join(entry.file_name())).unwrap();
    }
    let file = folder.path().join("bram.reel.toml");
    let tiles = folder.path().join("tiles.reel.toml");
    let (art, mut watcher) = Loader::new().file(&file).file(tiles).watch().unwrap();
    let reel = art.reel;
    let role: RoleId = reel.id("bram").unwrap();
    let mut actor = Actor::new(&reel, role);
    actor.set(reel.id("moving").unwrap(), true).unwrap();
    let mut unison = Unison::new(&reel);
    for dt in [1, 180] {
        actor.advance(&reel, Ticks::from_millis(dt));
        unison.advance(Ticks::from_millis(dt));
    }
    let before = (actor.cue(), actor.player().clip(), actor.player().hold_index(&reel));
    let shown = |unison: &Unison| {
        let frame = |clip| unison.view(clip).map(|view| view.id);
        reel.clips().map(|clip| frame(clip.id)).collect::<Vec<_>>()
    };
    let tiles_before = shown(&unison);

    let text = fs::read_to_string(&file).unwrap();
    let slower = text.replace("[\"110ms\", \"140ms\"", "[\"210ms\", \"240ms\"");
    assert_ne!(text, slower);
    fs::write(&file, slower).unwrap();
    let reload = next(&mut watcher).unwrap();
    assert_eq!(reload.changed_images().count(), 0);
    let reel = reload.art.reel;
    actor.advance(&reel, Ticks::new(1));
    unison.reload(&reel);
    assert_eq!((actor.cue(), actor.player().clip(), actor.player().hold_index(&reel)), before);
    assert_eq!(shown(&unison), tiles_before);
}

#[test]
fn what_cannot_be_watched_is_refused() {
    let error = Loader::new().file("nowhere/lamp.reel.toml").watch().unwrap_err();
    assert!(error.to_string().contains("there is no such file"), "{error}");
    let loader = Loader::new().file_with_text("lamp.reel.toml", "reel = 1");
    let error = loader.watch().unwrap_err();
    assert!(error.to_string().contains("in memory cannot be watched"), "{error}");
}

/// On pages, an edited image changes the page alone that it is on, and everything else stays in its place.
#[test]
fn pages_are_watched() {
    let folder = folder();
    let mut packing = Packing::default();
    packing.max_side = 9; // the lamp's frames alike are stored once, the puff stands on a page of its own
    let loader = Loader::new().file(folder.path().join("lamp.reel.toml"));
    let (art, mut watcher) = loader.into_atlas(&mut Atlas::with(packing)).watch().unwrap();
    let place = |art: &Art, clip: &str| {
        let frame =
            art.reel.clip(art.reel.id::<ClipId>(clip).unwrap()).unwrap().hold(0).unwrap().frame;
        let frame = art.reel.frame(frame).unwrap();
        let pixel = art.image(frame.image).unwrap().pixel([frame.source.x, frame.source.y]);
        (frame.image, frame.source, pixel[0])
    };
    let (glow, puff) = (place(&art, "glow"), place(&art, "puff"));
    assert!((art.images.len(), glow.2, puff.2) == (2, 10, 20) && glow.0 != puff.0);
    fs::write(folder.path().join("lamp.png"), picture(30)).unwrap();
    let reload = until(&mut watcher, |it| place(&it.art, "glow").2 == 30);
    assert_eq!(changed(&reload), [glow.0.index()]);
    let now = place(&reload.art, "glow");
    assert_eq!((now.0, now.1, place(&reload.art, "puff")), (glow.0, glow.1, puff));
}
