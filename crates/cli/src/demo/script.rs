//! The night greenhouse as it plays by itself: keys that are pressed and released at their times.

use std::io;

use lucky_reel::assets::{Art, Pixels};
use lucky_reel::{CommandError, InstanceWriter, Ticks};
use lucky_reel_greenhouse::{Happened, Input, Scene};

use crate::failure::Failure;

/// How many moths there are.
const MOTHS: u32 = 9;

/// Milliseconds from the start, a key, and whether it is pressed or released.
const KEYS: [(u64, &str, bool); 21] = [
    (0, "ShiftLeft", true),
    (0, "ArrowRight", true),
    (2_400, "ArrowRight", false),
    (2_500, "ArrowDown", true),
    (2_560, "ArrowDown", false),
    (4_000, "ArrowUp", true),
    (4_060, "ArrowUp", false),
    (4_700, "ShiftLeft", false),
    (4_700, "ArrowRight", true),
    (5_300, "Space", true),
    (6_500, "ArrowRight", false),
    (6_500, "ArrowLeft", true),
    (7_200, "KeyD", true),
    (7_900, "Space", true),
    (8_900, "KeyS", true),
    (9_500, "ArrowLeft", false),
    (9_700, "ShiftLeft", true),
    (9_700, "ArrowRight", true),
    (11_200, "ArrowRight", false),
    (11_200, "ArrowDown", true),
    (11_260, "ArrowDown", false),
];
/// When it is over, and when a still is taken.
const END: Ticks = Ticks::from_millis(12_000);
const STILL: Ticks = Ticks::from_millis(2_000);

/// The scene, its art, and how far the script is.
pub(super) struct Script {
    art: Art,
    writer: InstanceWriter,
    scene: Scene,
    input: Input,
    done: usize,
    passed: Ticks,
    updates: u64,
}

impl Script {
    pub(super) fn new() -> Result<Script, Failure> {
        let art = lucky_reel_greenhouse::load()?;
        let (writer, scene) = (InstanceWriter::new(&art.reel), Scene::new(&art.reel, MOTHS)?);
        let (input, done, passed, updates) = (Input::default(), 0, Ticks::ZERO, 0);
        Ok(Script { art, writer, scene, input, done, passed, updates })
    }

    /// Plays the keys up to now, then so much time.
    pub(super) fn update(&mut self, dt: Ticks) -> Result<(), CommandError> {
        let due = |(at, ..): &&(u64, &str, bool)| Ticks::from_millis(*at) <= self.passed;
        for (_, key, is_down) in KEYS.iter().skip(self.done).take_while(due) {
            self.input.key(key, *is_down);
            self.done += 1;
        }
        self.scene.update(&self.art.reel, dt, self.input)?;
        self.input.take_pressed();
        self.passed += dt;
        self.updates += 1;
        Ok(())
    }

    pub(super) fn has_ended(&self) -> bool {
        self.passed >= END
    }

    /// Whether the moment for a still has come.
    pub(super) fn is_past_still(&self) -> bool {
        self.passed >= STILL
    }

    pub(super) fn picture(&self) -> io::Result<Pixels> {
        let picture = self.scene.picture(&self.art, &self.writer);
        picture.ok_or_else(|| io::Error::other("the picture is too large"))
    }

    /// Where Bram's boots are, in the scene's pixels.
    pub(super) fn bram_at(&self) -> [i32; 2] {
        self.scene.bram_at().map(|side| side.round() as i32)
    }

    pub(super) fn passed(&self) -> Ticks {
        self.passed
    }

    pub(super) fn updates(&self) -> u64 {
        self.updates
    }

    pub(super) fn happened(&self) -> Happened {
        self.scene.happened()
    }

    /// How many cycles have been completed, by what moves in lockstep and by the drip.
    pub(super) fn cycles(&self) -> [(&'static str, i32); 3] {
        let [fan, glow, drip] = self.scene.cycles();
        [("fan", fan), ("glow", glow), ("drip", drip)]
    }
}
