//! A clip, or a role with its cues, played live from reel files that are being edited.
//!
//! The preview knows nothing of windows and terminals: they hand it [`Action`]s and the time that has
//! passed, and show what it draws ([`Preview::picture`], [`Preview::layout`]) and says ([`Preview::text`]).

mod actions;
mod edits;
mod facts;
mod keys;
mod layout;
mod panel;
mod scene;
mod steps;

use std::cell::Cell;
use std::path::PathBuf;

use lucky_reel_assets::{Art, Limits, LoadError, Loader, Problem, Watcher};
use lucky_reel_core::{Actor, ClipId, Flips, LookId, LookSet, Player, RoleId, Speed, Ticks, View};

use crate::timeline::{Playing, Timeline};
use edits::Edits;
pub use keys::{Action, KEYS, KeyPress};
pub use panel::{Line, Tone};
pub use scene::BarArea;
pub use steps::{BarStep, Place};

/// Speeds by key, as ratios.
const SPEEDS: [(i32, i32); 9] =
    [(1, 8), (1, 4), (1, 2), (3, 4), (1, 1), (3, 2), (2, 1), (4, 1), (8, 1)];
const NORMAL: usize = 4;
const RATES: [u32; 2] = [60, 144];
/// A clip that is over rests so long before it plays again.
const REST: Ticks = Ticks::from_millis(800);

/// A message is shown for so long.
const MESSAGE: Ticks = Ticks::from_secs(5);

/// What is shown behind the art.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
enum Background {
    Dark,
    Light,
    Checks,
}

/// A live preview of reel files.
///
/// ```
/// use std::path::PathBuf;
/// use lucky_reel_core::Ticks;
/// use lucky_reel_tools::preview::{Action, Preview};
///
/// # let file = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/greenhouse/bram.reel.toml");
/// let mut preview = Preview::open(&[PathBuf::from(file)], Default::default(), None)?;
/// preview.show("walk-right").unwrap();
/// preview.advance(Ticks::from_millis(120));
/// preview.act(Action::Duration(1)); // hold 1 is longer now; `Action::Write` writes it to the file
/// assert!(preview.text().iter().any(|line| line.text.contains("unsaved")));
/// assert_eq!(preview.picture([1280, 800]).size(), [1280, 800]);
/// # Ok::<(), lucky_reel_assets::LoadError>(())
/// ```
#[derive(Debug)]
pub struct Preview {
    files: Vec<PathBuf>,
    watcher: Watcher,
    art: Art,
    edits: Edits,
    player: Player,
    /// The actor of the clip's role, if that has cues.
    actor: Option<Actor>,
    by_cues: bool,
    /// Whether the player was started backward: its bar shows the holds in that order.
    is_reversed: bool,
    /// Whether it has begun to play, so that the order in which its clip is read is fixed.
    has_begun: bool,
    /// Whether time runs backward.
    backward: bool,
    speed: usize,
    paused: bool,
    flips: Flips,
    look: Option<LookId>,
    /// `None` for as large as fits.
    zoom: Option<u32>,
    /// What fitted last.
    shown_zoom: Cell<u32>,
    background: Background,
    onion: bool,
    rate: usize,
    /// By how much a key changes a duration; `None` for a refresh of the display.
    step: Option<Ticks>,
    number: Option<String>,
    rested: Ticks,
    /// The mark that was passed last, and how long ago.
    mark: Option<(String, Ticks)>,
    /// What the last key or reload did, and how long it has been said.
    message: Option<(String, Ticks)>,
    changed: bool,
    /// Whether the last action was to quit.
    asked_to_quit: bool,
}

impl Preview {
    /// Loads the reel files and watches them. It shows the clip of this name, or the first one; `step` is
    /// by how much keys change a duration, where that is not one refresh of the display.
    ///
    /// # Errors
    /// Everything that is wrong with the files.
    pub fn open(
        files: &[PathBuf],
        limits: Limits,
        step: Option<Ticks>,
    ) -> Result<Preview, LoadError> {
        let loader = Loader::new().limits(limits).advise_grids(lucky_reel_measure::advice);
        let loader = files.iter().fold(loader, |loader, file| loader.file(file));
        let (art, watcher) = loader.watch()?;
        let mut edits = Edits::new(limits);
        edits.rebase(files, &art.reel);
        let Some(first) = art.reel.clips().next().map(|clip| clip.id) else {
            let path = files.first().cloned().unwrap_or_default();
            return Err(Problem::in_file(&path, "there is no clip to show", "add one").into());
        };
        let player = Player::new(&art.reel, first);
        let mut preview = Preview {
            files: files.to_vec(),
            watcher,
            art,
            edits,
            player,
            actor: None,
            by_cues: false,
            is_reversed: false,
            has_begun: false,
            backward: false,
            speed: NORMAL,
            paused: false,
            flips: Flips::default(),
            look: None,
            zoom: None,
            shown_zoom: Cell::new(1),
            background: Background::Dark,
            onion: false,
            rate: 0,
            step,
            number: None,
            rested: Ticks::ZERO,
            mark: None,
            message: None,
            changed: true,
            asked_to_quit: false,
        };
        preview.actor = preview.new_actor();
        Ok(preview)
    }

    /// The reel and the pixels that are played now.
    #[must_use]
    pub fn art(&self) -> &Art {
        &self.art
    }

    /// Shows this clip.
    ///
    /// # Errors
    /// When the reel has no clip of this name.
    pub fn show(&mut self, clip: &str) -> Result<(), lucky_reel_core::NameError> {
        let clip: ClipId = self.art.reel.id(clip)?;
        self.begin(clip);
        Ok(())
    }

    /// What plays: the player, or that of the actor.
    fn playing(&self) -> &Player {
        match &self.actor {
            Some(actor) if self.by_cues => actor.player(),
            _ => &self.player,
        }
    }

    /// What is up, in its look.
    fn view(&self) -> Option<View<'_>> {
        match &self.actor {
            Some(actor) if self.by_cues => actor.view(&self.art.reel),
            _ => self.player.view_with(&self.art.reel, &self.looks()),
        }
    }

    fn looks(&self) -> LookSet {
        let mut looks = LookSet::NOTHING;
        if let Some(look) = self.look {
            // One look always fits, and one that is gone is left out.
            let _ = looks.wear(&self.art.reel, look);
        }
        looks
    }

    /// The role of the clip that plays, if it has cues.
    fn role(&self) -> Option<RoleId> {
        let role = self.art.reel.role_name(self.player.requested_clip());
        self.art.reel.ids::<RoleId>().find(|it| self.art.reel.name(*it) == role)
    }

    fn new_actor(&self) -> Option<Actor> {
        self.role().map(|role| Actor::new(&self.art.reel, role))
    }

    fn begin(&mut self, clip: ClipId) {
        let role = self.role();
        self.player = Player::new(&self.art.reel, clip);
        self.by_cues = false;
        if self.role() != role || self.actor.is_none() {
            self.actor = self.new_actor();
        }
        self.apply_settings();
        (self.is_reversed, self.has_begun) = (self.backward, false);
        (self.rested, self.mark, self.changed) = (Ticks::ZERO, None, true);
    }

    /// Speed, flips and looks as they were chosen.
    fn apply_settings(&mut self) {
        let (above, below) = SPEEDS[self.speed.min(SPEEDS.len() - 1)];
        let speed = Speed::from_ratio(above, below).unwrap_or(Speed::NORMAL);
        self.player.set_speed(if self.backward { -speed } else { speed });
        self.player.set_flips(self.flips);
        if let Some(actor) = &mut self.actor {
            actor.set_speed(&self.art.reel, speed);
            actor.set_flips(self.flips);
            for look in actor.looks().iter().collect::<Vec<_>>() {
                actor.take_off(look);
            }
            if let Some(look) = self.look {
                let _ = actor.wear(&self.art.reel, look);
            }
        }
    }

    /// Takes what is new on the disk, if there is anything; the place is kept. Call it for each picture.
    pub fn poll(&mut self) {
        match self.watcher.poll() {
            None => return,
            Some(Ok(reload)) => {
                let dropped = self.edits.rebase(&self.files, &reload.art.reel);
                let edited = (self.edits.count() > 0).then(|| self.edits.build(&reload.art.reel));
                let art = match edited {
                    Some(Ok(art)) => art,
                    _ => reload.art,
                };
                self.take(art);
                self.say(match dropped {
                    0 => "reloaded".to_owned(),
                    dropped => format!("reloaded; durations that no longer fit: {dropped}"),
                });
            }
            Some(Err(_)) => {}
        }
        self.changed = true;
    }

    /// Plays another version of the reel.
    fn take(&mut self, art: Art) {
        self.art = art;
        let reel = &self.art.reel;
        let is_gone = reel.clip(self.player.requested_clip()).is_none();
        let first = reel.clips().next().map(|clip| clip.id);
        if let (true, Some(first)) = (is_gone, first) {
            self.begin(first);
        }
        let role = self.role();
        if self.actor.as_ref().map(Actor::role) != role {
            self.actor = self.new_actor();
            self.by_cues &= self.actor.is_some();
        }
        self.changed = true;
    }

    /// Plays on by the time that has passed.
    pub fn advance(&mut self, dt: Ticks) {
        if let Some((_, age)) = &mut self.message {
            *age += dt;
            if *age > MESSAGE {
                (self.message, self.changed) = (None, true);
            }
        }
        if !self.paused {
            self.play(dt);
        }
    }

    fn play(&mut self, dt: Ticks) {
        let reel = self.art.reel.clone();
        let passed = match &mut self.actor {
            Some(actor) if self.by_cues => {
                actor.advance(&reel, dt).filter_map(|event| event.mark()).last()
            }
            _ => {
                self.has_begun |= dt != Ticks::ZERO;
                let passed = self.player.advance(&reel, dt).filter_map(|event| event.mark()).last();
                self.rested = if self.player.has_ended() { self.rested + dt } else { Ticks::ZERO };
                if self.rested > REST {
                    self.begin(self.player.requested_clip());
                }
                passed
            }
        };
        self.mark = match (passed, self.mark.take()) {
            (Some(mark), _) => Some((reel.name(mark).to_owned(), Ticks::ZERO)),
            (None, Some((name, ago))) => Some((name, ago + dt)),
            (None, None) => None,
        };
        self.changed = true;
    }

    /// Whether anything may look different since this was asked last.
    pub fn take_changed(&mut self) -> bool {
        std::mem::take(&mut self.changed)
    }

    /// Has it drawn again: where it is shown has another size.
    pub fn redraw(&mut self) {
        self.changed = true;
    }

    /// What is played in the order of time: the bar.
    fn timeline(&self) -> Option<Timeline> {
        let clip = self.art.reel.clip(self.playing().clip())?;
        let is_reversed = self.is_reversed && !self.by_cues;
        let speed = if is_reversed { Speed::BACKWARD } else { Speed::NORMAL };
        Some(Timeline::of(&self.art.reel, &clip, Playing { speed, ..Playing::ONCE }))
    }
}
