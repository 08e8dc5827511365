//! The night greenhouse on a web page: art that is compiled in, timestamps and keys from the page, and back
//! to it what is to be copied where.

mod image;
mod viewer;

use std::time::Duration;

use lucky_reel::assets::Art;
use lucky_reel::{Clock, DrawList, InstanceWriter, view::DrawItem};
use lucky_reel_greenhouse::{Input, Scene};
use wasm_bindgen::prelude::*;

pub use image::Image;
pub use viewer::{DroppedFile, Viewer};

/// The game, with its art.
#[wasm_bindgen]
pub struct Greenhouse {
    art: Art,
    scene: Scene,
    writer: InstanceWriter,
    list: DrawList,
    clock: Clock,
    input: Input,
}

#[wasm_bindgen]
impl Greenhouse {
    /// The game with so many moths, after so many seconds of a walk to the right.
    ///
    /// # Errors
    /// When the art that is compiled in does not fit the game.
    #[wasm_bindgen(constructor)]
    pub fn new(moths: u32, seconds: f64) -> Result<Greenhouse, JsError> {
        let art = lucky_reel_greenhouse::load()?;
        Ok(Greenhouse {
            scene: Scene::after(&art.reel, moths, seconds)
                .map_err(|e| JsError::new(&e.to_string()))?,
            writer: InstanceWriter::new(&art.reel),
            list: DrawList::by_depth(),
            clock: Clock::new(),
            input: Input::default(),
            art,
        })
    }

    /// The pixels of all images: what the numbers of [`draw`](Greenhouse::draw) copy from.
    pub fn images(&self) -> Vec<Image> {
        Image::all(&self.art)
    }

    /// A key is pressed or released, by its `code`.
    pub fn key(&mut self, code: &str, is_down: bool) {
        self.input.key(code, is_down);
    }

    /// Plays up to a timestamp of the page, in milliseconds.
    ///
    /// # Errors
    /// When the art that is compiled in does not fit the game.
    pub fn play(&mut self, timestamp: f64) -> Result<(), JsError> {
        let dt = self.clock.lap_at(reading(timestamp));
        self.scene.update(&self.art.reel, dt, self.input)?;
        self.input.take_pressed();
        Ok(())
    }

    /// What Bram does, in words.
    pub fn status(&self) -> String {
        let (steps, plays) = (self.scene.happened().steps, self.scene.bram_plays(&self.art.reel));
        format!("{steps} steps, {plays}, x {:.0}", self.scene.bram_at()[0])
    }

    /// What to draw, the farthest first, 8 numbers each: image, left, top, width and height there, left and
    /// top on the screen, and 1 if it is mirrored left to right, plus 2 if top to bottom.
    pub fn draw(&mut self) -> Result<Vec<i32>, JsError> {
        self.list.clear();
        self.scene.draw(&self.art.reel, &mut self.list, &self.writer);
        let mut items: Vec<DrawItem> = Vec::new();
        self.list.write(&self.writer, &mut items)?;
        let views = items.iter().filter_map(|item| {
            let at = item.place.position.map(|side| side as i32);
            Some(image::copy(&item.picture.view(&self.art.reel)?.blit(at, 1)))
        });
        Ok(views.flatten().collect())
    }
}

/// A timestamp in milliseconds; what is none counts as 0.
fn reading(timestamp: f64) -> Duration {
    Duration::try_from_secs_f64(timestamp / 1_000.0).unwrap_or_default()
}
