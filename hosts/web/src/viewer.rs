//! Reel files and images that somebody has dropped onto the page, played clip by clip.

use std::io;

use lucky_reel::assets::{Archive, Art, Files, LoadError, Loader};
use lucky_reel::{ClipId, Clock, Flips, Player, Speed, Ticks};
use wasm_bindgen::prelude::*;

use crate::{Image, image, reading};

/// A file from the page.
#[wasm_bindgen]
pub struct DroppedFile {
    name: String,
    bytes: Vec<u8>,
}

#[wasm_bindgen]
impl DroppedFile {
    /// A file of this name, without its folder, and what is in it.
    #[wasm_bindgen(constructor)]
    pub fn new(name: String, bytes: Vec<u8>) -> DroppedFile {
        DroppedFile { name, bytes }
    }
}

/// Plays one clip of what was dropped.
#[wasm_bindgen]
pub struct Viewer {
    art: Art,
    player: Player,
    clock: Clock,
}

#[wasm_bindgen]
impl Viewer {
    /// Loads all reel files among these; their images are found by name, in whatever folder they were.
    ///
    /// # Errors
    /// Everything that is wrong with the files, as the command says it.
    pub fn open(files: Vec<DroppedFile>) -> Result<Viewer, JsError> {
        let art = loader(&files)?.load()?;
        let player = first(&art)?;
        Ok(Viewer { art, player, clock: Clock::new() })
    }

    /// Goes on with files that have been edited; starts with their first clip where the one that is
    /// played is gone.
    ///
    /// # Errors
    /// As [`open`](Viewer::open); then nothing is changed.
    pub fn reload(&mut self, files: Vec<DroppedFile>) -> Result<(), JsError> {
        let art = loader(&files)?.reload(&self.art.reel)?;
        if art.reel.clip(self.player.clip()).is_none() {
            self.player = first(&art)?;
        }
        self.art = art;
        Ok(())
    }

    /// The names of all clips.
    pub fn clips(&self) -> Vec<String> {
        self.art.reel.clips().map(|clip| self.label(clip.id)).collect()
    }

    /// The name of the clip that is played.
    pub fn clip(&self) -> String {
        self.label(self.player.clip())
    }

    /// Plays a clip from its start, at this speed: 1 is normal.
    ///
    /// # Errors
    /// When there is no such clip, or the speed is out of range.
    pub fn show(&mut self, clip: &str, speed: f64) -> Result<(), JsError> {
        self.player = Player::new(&self.art.reel, self.art.reel.id(clip)?);
        self.set_speed(speed)
    }

    /// Plays at this speed from now on.
    ///
    /// # Errors
    /// When it is out of range.
    pub fn set_speed(&mut self, speed: f64) -> Result<(), JsError> {
        self.player.set_speed(Speed::from_f64(speed)?);
        Ok(())
    }

    /// Plays up to a timestamp of the page, in milliseconds; what is over starts again.
    pub fn play(&mut self, timestamp: f64) {
        let dt = self.clock.lap_at(reading(timestamp));
        self.player.advance(&self.art.reel, dt);
        if self.player.has_ended() {
            self.player.restart(&self.art.reel);
        }
    }

    /// The hold that is up, in words.
    pub fn status(&self) -> String {
        let reel = &self.art.reel;
        let hold = self.player.hold_index(reel).unwrap_or(0);
        let clip = reel.clip(self.player.clip());
        let (last, time) = clip.map_or((0, Ticks::ZERO), |clip| {
            (clip.holds().len() - 1, clip.hold(hold).map_or(Ticks::ZERO, |hold| hold.ticks))
        });
        format!("{}: hold {hold} (0–{last}); {time}", self.clip())
    }

    /// How large the clip gets in pixels: to the left of its pivot, above it, to the right, below.
    pub fn room(&self) -> Vec<i32> {
        let clip = self.art.reel.clip(self.player.clip());
        let [near, far] = clip.map_or([[0.0; 2]; 2], |clip| clip.envelope(Flips::default()));
        [-near[0], -near[1], far[0], far[1]].map(|side| side.ceil() as i32).to_vec()
    }

    /// The pixels of all images.
    pub fn images(&self) -> Vec<Image> {
        Image::all(&self.art)
    }

    /// What to draw with the pivot here, as [`Greenhouse::draw`](crate::Greenhouse::draw) says it.
    pub fn draw(&self, x: i32, y: i32) -> Vec<i32> {
        let view = self.player.view(&self.art.reel);
        view.map_or(Vec::new(), |view| image::copy(&view.blit([x, y], 1)).to_vec())
    }
}

/// Dropped files have lost their folders, so that a path is looked up by its last part.
struct Dropped<'f>(&'f [DroppedFile]);

impl Files for Dropped<'_> {
    fn read(&self, path: &str) -> io::Result<Vec<u8>> {
        let name = path.rsplit('/').next().unwrap_or(path);
        let found = self.0.iter().find(|file| file.name == name);
        found.map(|file| file.bytes.clone()).ok_or(io::ErrorKind::NotFound.into())
    }

    fn list(&self) -> io::Result<Vec<String>> {
        Ok(self.0.iter().map(|file| file.name.clone()).collect())
    }
}

/// All reel files, those in archives too.
fn loader(files: &[DroppedFile]) -> Result<Loader<'_>, LoadError> {
    let (archives, plain): (Vec<&DroppedFile>, Vec<&DroppedFile>) =
        files.iter().partition(|file| file.name.ends_with(".zip"));
    let loader = archives.iter().try_fold(Loader::new(), |loader, file| {
        Ok::<_, LoadError>(loader.files(Archive::open(&*file.bytes)?))
    })?;
    let is_all = plain.is_empty() && !archives.is_empty();
    Ok(if is_all { loader } else { loader.files(Dropped(files)) })
}

fn first(art: &Art) -> Result<Player, JsError> {
    let clip = art.reel.clips().next().ok_or_else(|| JsError::new("there is no clip"))?;
    Ok(Player::new(&art.reel, clip.id))
}

impl Viewer {
    fn label(&self, clip: ClipId) -> String {
        format!("{}/{}", self.art.reel.role_name(clip), self.art.reel.name(clip))
    }
}
