//! A small game, written against the public interface alone, played at several display rates.

#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic)] // so do tests fail

use std::path::Path;
use std::time::Duration;

use lucky_reel::prelude::*;
use lucky_reel::{
    id::SpanId,
    reel::{ClipEnd, Pivot},
    time::FixedSteps,
};

/// What a player of the game would notice.
#[derive(Clone, Debug, PartialEq, Eq)]
enum Noticed {
    Step(Ticks),
    Landed(Ticks),
    PuffGone(Ticks),
}

struct Game {
    reel: Reel,
    clips: [ClipId; 3],
    step: MarkId,
    bram: Player,
    puffs: Vec<Player>,
    now: Ticks,
    noticed: Vec<Noticed>,
}

/// Bram's reel with a leap that goes on to standing, made in code with the words of the files.
fn reel() -> Reel {
    let mut builder = Reel::builder();
    builder.role("bram");
    let cells = Grid::cell_size([32, 32]);
    let body = NewSheet::grid([256, 128], cells).pivot(Pivot::At([16.0, 30.0]));
    let body = builder.sheet("body", body);
    let walk = NewClip::of(body).frames(16..20).times([110, 140, 110, 140].map(Ticks::from_millis));
    builder.clip("walk", walk.mark("step", [1, 3]));
    let leap = NewClip::of(body).frames([20, 21, 22, 21]).each(Ticks::from_millis(75));
    builder
        .clip("leap", leap.mode(Mode::Once).end(ClipEnd::Play("stand".into())).span("air", 1..=2));
    builder.clip(
        "stand",
        NewClip::of(body).hold(20, Ticks::from_millis(900)).hold(22, Ticks::from_millis(120)),
    );
    builder.role("puff");
    let dust = builder.sheet("dust", NewSheet::grid([256, 32], cells));
    builder
        .clip("puff", NewClip::of(dust).frames(0..8).fps(12).mode(Mode::Once).end(ClipEnd::Vanish));
    builder.build().unwrap()
}

impl Game {
    fn new() -> Game {
        let reel = reel();
        let clips = ["walk", "leap", "puff"].map(|name| reel.id::<ClipId>(name).unwrap());
        let step: MarkId = reel.id("step").unwrap();
        let bram = Player::new(&reel, clips[0]);
        let (puffs, noticed) = (Vec::new(), Vec::new());
        Game { reel, clips, step, bram, puffs, now: Ticks::ZERO, noticed }
    }

    /// He walks for 1.3 s, and leaps after that; each update sets his clip anew.
    fn update(&mut self, dt: Ticks) {
        let [walk, leap, puff] = self.clips;
        let leaps = self.now >= Ticks::from_millis(1_300);
        self.bram.switch_to(&self.reel, if leaps { leap } else { walk });
        for event in self.bram.advance(&self.reel, dt) {
            let at = event.at;
            match event.kind {
                EventKind::Mark(mark) if mark == self.step => {
                    self.noticed.push(Noticed::Step(self.now + at));
                    // The dust starts with the step, not with the update.
                    let mut dust = Player::new(&self.reel, puff);
                    dust.advance(&self.reel, dt - at);
                    self.puffs.push(dust);
                }
                EventKind::End => self.noticed.push(Noticed::Landed(self.now + at)),
                _ => {}
            }
        }
        let (reel, now) = (&self.reel, self.now);
        let noticed = &mut self.noticed;
        self.puffs.retain_mut(|puff| {
            let ended = puff.advance(reel, dt).find(|event| event.is_end());
            noticed.extend(ended.map(|event| Noticed::PuffGone(now + event.at)));
            puff.view(reel).is_some()
        });
        self.now += dt;
    }
}

#[test]
fn the_same_is_noticed_at_every_display_rate() {
    let play = |rate: u64| {
        let (mut game, mut clock) = (Game::new(), Clock::new());
        for _ in 0..rate * 26 / 10 {
            game.update(clock.step(Duration::from_nanos(1_000_000_000 / rate)));
        }
        assert!(game.puffs.is_empty());
        game
    };
    let games = [10, 20, 100, 1_000].map(play);
    for game in &games {
        let steps: Vec<_> =
            game.noticed.iter().filter(|noticed| matches!(noticed, Noticed::Step(_))).collect();
        let at = [110, 360, 610, 860, 1_110].map(|ms| Noticed::Step(Ticks::from_millis(ms)));
        assert_eq!(steps, at.iter().collect::<Vec<_>>(), "each step at its exact moment");
        assert!(game.noticed.contains(&Noticed::Landed(Ticks::from_millis(1_600))));
        assert_eq!(game.bram.clip(), game.reel.id::<ClipId>("stand").unwrap());
        let state = |game: &Game| game.bram.save(&game.reel);
        assert_eq!(state(game), state(&games[0]), "and the same state, bit for bit");
    }
    let gone = |game: &Game| {
        game.noticed.iter().filter(|noticed| matches!(noticed, Noticed::PuffGone(_))).count()
    };
    assert_eq!(games.each_ref().map(gone), [5; 4]);
}

#[test]
fn fixed_updates_and_one_long_stall_agree() {
    let mut fixed = Game::new();
    let mut steps = FixedSteps::of(Ticks::from_millis(20));
    for _ in 0..125 {
        for dt in steps.advance(Ticks::from_millis(16)) {
            fixed.update(dt);
        }
    }
    assert_eq!(fixed.now, Ticks::from_secs(2));
    let mut stalled = Player::new(&fixed.reel, fixed.clips[0]);
    stalled.advance(&fixed.reel, Ticks::from_millis(1_300));
    stalled.switch_to(&fixed.reel, fixed.clips[1]);
    let air: SpanId = fixed.reel.id("air").unwrap();
    stalled.advance(&fixed.reel, Ticks::from_millis(100));
    assert!(stalled.in_span(&fixed.reel, air));
    stalled.advance(&fixed.reel, Ticks::from_millis(600));
    assert_eq!(stalled, fixed.bram);
}

/// A file is tuned while the game runs: a broken file is reported, a good one takes over.
#[test]
fn a_file_is_tuned_while_the_game_runs() {
    let source = Path::new(env!("CARGO_MANIFEST_DIR")).join("demo/greenhouse");
    let folder = tempfile::tempdir().unwrap();
    let file = folder.path().join("tiles.reel.toml");
    for name in ["tiles.png", "halo.png", "tiles.reel.toml"] {
        std::fs::copy(source.join(name), folder.path().join(name)).unwrap();
    }
    let load = || assets::Loader::new().file(&file);
    let art = load().load().unwrap();
    let fan: ClipId = art.reel.id("fan").unwrap();
    let mut player = Player::new(&art.reel, fan);
    player.advance(&art.reel, Ticks::from_millis(150));

    let text = std::fs::read_to_string(&file).unwrap();
    std::fs::write(&file, text.replace("fps = 16", "fps = 1O")).unwrap();
    let error = load().reload(&art.reel).unwrap_err();
    assert_eq!(error.problems()[0].line(), Some(17), "{error}");

    std::fs::write(&file, text.replace("fps = 16", "fps = 4")).unwrap();
    let tuned = load().reload(&art.reel).unwrap();
    assert_eq!(tuned.reel.id::<ClipId>("fan"), Ok(fan));
    assert_eq!(player.hold_index(&tuned.reel), Some(2), "it goes on where it was");
    player.advance(&tuned.reel, Ticks::from_millis(200));
    assert_eq!(player.hold_index(&tuned.reel), Some(3), "at the new pace");
    assert!(tuned.reel.fingerprint() != art.reel.fingerprint());
    assert!(tuned.images == art.images);
}
