//! The scene played without a host.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use lucky_reel::assets::{Art, Loader};
use lucky_reel::{DrawList, InstanceWriter, Ticks, view::Instance};
use lucky_reel_greenhouse::{Input, ROLES, Scene};

fn loader() -> Loader<'static> {
    let folder = concat!(env!("CARGO_MANIFEST_DIR"), "/greenhouse");
    ROLES
        .iter()
        .fold(Loader::new(), |loader, role| loader.file(format!("{folder}/{role}.reel.toml")))
}

/// Plays so many updates, with these keys in each.
fn play(scene: &mut Scene, art: &Art, updates: u32, input: impl Fn(u32) -> Input) -> Vec<Instance> {
    for update in 0..updates {
        scene.update(&art.reel, Ticks::from_rate(60), input(update)).unwrap();
    }
    let writer = InstanceWriter::new(&art.reel);
    let (mut list, mut instances) = (DrawList::by_depth(), Vec::new());
    scene.draw(&art.reel, &mut list, &writer);
    list.write(&writer, &mut instances).unwrap();
    instances
}

#[test]
fn bram_walks_jumps_and_stumbles() {
    let art = loader().load().unwrap();
    let mut scene = Scene::new(&art.reel, 9).unwrap();
    let right = Input { right: true, ..Input::default() };
    play(&mut scene, &art, 60, |_| right);
    assert_eq!((scene.bram_plays(&art.reel), scene.bram_at()[0].round()), ("hurry-right", 124.0));
    let steps = scene.happened().steps;
    assert!((3..=5).contains(&steps), "{steps} steps of 15 pixels each");

    // In the air he takes none, and comes down on the same path.
    play(&mut scene, &art, 20, |update| Input { jump: update == 0, ..right });
    assert_eq!(scene.bram_plays(&art.reel), "hover-right");
    assert_eq!(scene.happened().steps, steps);
    play(&mut scene, &art, 60, |_| Input::default());
    assert_eq!(scene.bram_plays(&art.reel), "idle-right");
    play(&mut scene, &art, 5, |update| Input { stumble: update == 0, ..Input::default() });
    assert!(["stumble-right", "trip-right"].contains(&scene.bram_plays(&art.reel)));

    // The walls hold.
    play(&mut scene, &art, 900, |_| Input { left: true, up: true, ..Input::default() });
    assert_eq!(scene.bram_at(), [12.0, 168.0]);
}

#[test]
fn the_same_keys_give_the_same_picture_back_to_front() {
    let art = loader().load().unwrap();
    let keys =
        |update: u32| Input { right: update % 50 < 30, jump: update == 70, ..Input::default() };
    let mut scenes = [Scene::new(&art.reel, 40).unwrap(), Scene::new(&art.reel, 40).unwrap()];
    let [one, other] = &mut scenes;
    let drawn = play(one, &art, 200, keys);
    assert_eq!(drawn, play(other, &art, 200, keys));
    assert!(drawn.len() >= 1 + 2 + 6 + 1 + 40, "{}", drawn.len());
    assert!(drawn.windows(2).all(|pair| pair[0].depth >= pair[1].depth));
    // Everything is on whole pixels.
    let is_whole = |pair: [f32; 2]| pair.iter().all(|side| side.fract() == 0.0);
    assert!(drawn.iter().all(|instance| is_whole(instance.origin) && is_whole(instance.axis_x)));

    // A reload in between changes nothing.
    let next = loader().reload(&art.reel).unwrap();
    one.reload(&next.reel).unwrap();
    assert_eq!(play(one, &next, 100, keys), play(other, &art, 100, keys));
    // Another reel is not the scene's.
    let moth = loader().reload(&art.reel).unwrap().reel.reload().build().unwrap();
    assert!(one.reload(&moth).unwrap_err().to_string().contains("bram"));
}
