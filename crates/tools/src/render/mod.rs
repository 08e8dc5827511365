//! A clip as a file that others can open: an animated image, a series of pictures, or a strip.
//!
//! ```
//! use lucky_reel_core::ClipId;
//! use lucky_reel_tools::render::{Format, Rendering};
//!
//! # let path = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/greenhouse/bram.reel.toml");
//! let art = lucky_reel_assets::load(path)?;
//! let walk: ClipId = art.reel.id("walk-right").unwrap();
//! let rendering = Rendering::of(&art, walk).unwrap().scale(2);
//! let gif = rendering.to_bytes(Format::Gif)?;
//! assert!(gif.starts_with(b"GIF89a"));
//! # Ok::<(), Box<dyn std::error::Error>>(())
//! ```

mod delays;
#[cfg(feature = "gif")]
mod gif;
mod shots;

use std::fmt;

use lucky_reel_assets::{Art, Fault, Pixels};
use lucky_reel_core::{Clip, ClipId, Flips, LookSet, Player, Speed, Ticks, View};

use crate::AnimatedPng;
use lucky_reel_canvas::Canvas;
use shots::{Shot, shots_of};

/// What a rendering is written as.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum Format {
    /// A GIF: times in hundredths of a second, at most 255 colors and transparency.
    Gif,
    /// An animated PNG: exact times and all colors.
    Apng,
    /// One still PNG: the holds side by side, in the order of the clip's list.
    Strip,
}

/// How a clip is rendered: once through, at normal speed, unflipped, in no look, on nothing, pixel by pixel,
/// by default.
#[derive(Clone, Copy, Debug)]
#[must_use = "a rendering does nothing before it is written"]
pub struct Rendering<'a> {
    art: &'a Art,
    clip: Clip<'a>,
    scale: u32,
    background: [u8; 4],
    flips: Flips,
    looks: LookSet,
    speed: Speed,
    cycles: u32,
}

/// Where all frames of a clip have room, about their pivot; in pixels of the art.
#[derive(Clone, Copy)]
struct Extent {
    /// The pivot, from the top left.
    pivot: [i32; 2],
    size: [u32; 2],
}

impl<'a> Rendering<'a> {
    /// A rendering of a clip; `None` when it is not of this art.
    #[must_use]
    pub fn of(art: &'a Art, clip: ClipId) -> Option<Rendering<'a>> {
        let clip = art.reel.clip(clip)?;
        Some(Rendering {
            art,
            clip,
            scale: 1,
            background: [0; 4],
            flips: Flips::default(),
            looks: LookSet::default(),
            speed: Speed::NORMAL,
            cycles: 1,
        })
    }

    /// Each pixel of the art as a square of so many pixels.
    pub fn scale(mut self, scale: u32) -> Self {
        self.scale = scale;
        self
    }

    /// Lays the frames on this color.
    pub fn background(mut self, rgba: [u8; 4]) -> Self {
        self.background = rgba;
        self
    }

    /// Mirrors the frames about their pivot.
    pub fn flips(mut self, flips: Flips) -> Self {
        self.flips = flips;
        self
    }

    /// Dresses the frames in these looks.
    pub fn looks(mut self, looks: LookSet) -> Self {
        self.looks = looks;
        self
    }

    /// Plays it at another speed; backward where it is negative.
    pub fn speed(mut self, speed: Speed) -> Self {
        self.speed = speed;
        self
    }

    /// Plays so many cycles of an endless clip. A finite one is played to its end.
    pub fn cycles(mut self, cycles: u32) -> Self {
        self.cycles = cycles;
        self
    }

    /// How often an animated image plays: forever for an endless clip, else once.
    fn plays(&self) -> u32 {
        u32::from(self.clip.repeat.is_some())
    }

    /// How many pictures it takes, and their time in all.
    ///
    /// # Errors
    /// When the clip does not move at this speed, or takes more than 100,000 pictures.
    pub fn length(&self) -> Result<(usize, Ticks), Fault> {
        let shots = self.shots()?;
        Ok((shots.len(), shots.iter().map(|shot| shot.ticks).sum()))
    }

    /// What this format cannot express exactly, if anything, in words.
    ///
    /// # Errors
    /// As [`length`](Rendering::length).
    pub fn inexact(&self, format: Format) -> Result<Option<String>, Fault> {
        let shots = self.shots()?;
        Ok(match format {
            Format::Gif => delays::hundredths(&shots).remark,
            Format::Apng => delays::fractions(&shots).remark,
            Format::Strip => None,
        })
    }

    /// The file.
    ///
    /// # Errors
    /// When the clip does not move at this speed, or the pictures would be too large.
    pub fn to_bytes(&self, format: Format) -> Result<Vec<u8>, Fault> {
        self.to_bytes_with_progress(format, |_, _| {})
    }

    /// The file; calls `progress` after each picture with the number done and the total.
    ///
    /// # Errors
    /// As [`to_bytes`](Rendering::to_bytes).
    pub fn to_bytes_with_progress(
        &self,
        format: Format,
        progress: impl FnMut(usize, usize),
    ) -> Result<Vec<u8>, Fault> {
        match format {
            #[cfg(feature = "gif")]
            Format::Gif => self.gif(progress),
            #[cfg(not(feature = "gif"))]
            Format::Gif => Err(Fault::new(
                "this build writes no GIF",
                "write FILE.png, an animated PNG, or build with the feature `gif`",
            )),
            Format::Apng => self.apng(progress),
            Format::Strip => self.strip().map(|strip| strip.to_png()),
        }
    }

    /// One picture for each hold, in the order of the clip's list: the whole untrimmed frame.
    ///
    /// # Errors
    /// When a picture would be too large.
    pub fn series(&self) -> impl Iterator<Item = Result<Pixels, Fault>> + use<'a> {
        let rendering = *self;
        rendering.holds().map(move |hold| rendering.draw(&[hold], Extent::of(rendering.view(hold))))
    }

    fn strip(&self) -> Result<Pixels, Fault> {
        let holds: Vec<u32> = self.holds().collect();
        self.draw(&holds, self.extent())
    }

    fn holds(&self) -> impl Iterator<Item = u32> + use<> {
        0..self.clip.holds().len() as u32
    }

    /// What a hold shows, mirrored and dressed.
    fn view(&self, hold: u32) -> Option<View<'a>> {
        let mut player = Player::new(&self.art.reel, self.clip.id);
        player.set_flips(self.flips);
        player.seek_hold(&self.art.reel, hold);
        player.view_with(&self.art.reel, &self.looks)
    }

    fn apng(&self, mut progress: impl FnMut(usize, usize)) -> Result<Vec<u8>, Fault> {
        let shots = self.shots()?;
        let delays = delays::fractions(&shots).delays;
        let extent = self.extent();
        let size = extent.size.map(|side| side.saturating_mul(self.scale));
        let mut bytes = Vec::new();
        let moving = AnimatedPng::playing(&mut bytes, size, shots.len() as u32, self.plays());
        let mut moving = moving.map_err(not_written)?;
        for (nth, (shot, delay)) in shots.iter().zip(delays).enumerate() {
            moving.frame(&self.draw(&[shot.hold], extent)?, delay).map_err(not_written)?;
            progress(nth + 1, shots.len());
        }
        moving.finish().map_err(not_written)?;
        Ok(bytes)
    }

    #[cfg(feature = "gif")]
    fn gif(&self, progress: impl FnMut(usize, usize)) -> Result<Vec<u8>, Fault> {
        let shots = self.shots()?;
        let delays = delays::hundredths(&shots).delays;
        // A hold that is shown often is drawn and quantized once.
        let mut holds: Vec<u32> = shots.iter().map(|shot| shot.hold).collect();
        holds.sort_unstable();
        holds.dedup();
        let pictures: Result<Vec<Pixels>, _> =
            holds.iter().map(|hold| self.draw(&[*hold], self.extent())).collect();
        let order = shots.iter().map(|shot| holds.partition_point(|hold| *hold < shot.hold));
        let order: Vec<(usize, u16)> = order.zip(delays).collect();
        gif::encode(&pictures?, &order, self.plays(), progress).map_err(not_written)
    }

    fn shots(&self) -> Result<Vec<Shot>, Fault> {
        shots_of(&self.art.reel, &self.clip, self.speed, self.cycles)
    }

    fn extent(&self) -> Extent {
        Extent::of(self.holds().filter_map(|hold| self.view(hold)))
    }

    /// What holds show side by side, each in the same room.
    fn draw(&self, holds: &[u32], extent: Extent) -> Result<Pixels, Fault> {
        const SMALLER: &str = "use a smaller scale, or a shorter clip";
        let cell = extent.size.map(|side| side.checked_mul(self.scale).filter(|side| *side > 0));
        let canvas = match (cell, u32::try_from(holds.len())) {
            ([Some(width), Some(height)], Ok(count)) => {
                width.checked_mul(count).and_then(|width| Canvas::new([width, height]))
            }
            _ => None,
        };
        let Some(mut canvas) = canvas else {
            let what = format!("at scale {} the picture is too large, or nothing", self.scale);
            return Err(Fault::new(what, SMALLER));
        };
        canvas.clear(self.background);
        let step = (extent.size[0] * self.scale) as i32;
        for (left, hold) in (0..).map(|nth| nth * step).zip(holds) {
            if let Some(view) = self.view(*hold) {
                let pivot = extent.pivot.map(|side| side * self.scale as i32);
                canvas.draw(&view, &self.art.images, [left + pivot[0], pivot[1]], self.scale);
            }
        }
        Ok(canvas.into_picture())
    }
}

impl Extent {
    fn of<'v>(views: impl IntoIterator<Item = View<'v>>) -> Extent {
        // From the pivot to the edges, whole pixels: a half is rounded away from it.
        let (mut before, mut after) = ([i32::MIN; 2], [i32::MIN; 2]);
        for View { frame, flips, .. } in views {
            let [x, y] = [0, 1].map(|axis| {
                let halves = (frame.pivot()[axis] * 2.0) as i32;
                let side = frame.size[axis] as i32 * 2;
                let flipped = [flips.x, flips.y][axis];
                let (first, last) =
                    if flipped { (side - halves, halves) } else { (halves, side - halves) };
                ((first + 1).div_euclid(2), last.div_euclid(2))
            });
            before = [before[0].max(x.0), before[1].max(y.0)];
            after = [after[0].max(x.1), after[1].max(y.1)];
        }
        let size = [0, 1].map(|axis| before[axis].saturating_add(after[axis]).max(0) as u32);
        Extent { pivot: before, size }
    }
}

fn not_written(error: impl fmt::Display) -> Fault {
    Fault::new(format!("the file cannot be made: {error}"), "use a smaller scale or clip")
}
