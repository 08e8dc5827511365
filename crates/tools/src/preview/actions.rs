//! What the keys do.

use lucky_reel_core::{ClipId, Facing, FacingSetId, LookId, Ticks};

use super::{Action, Background, Preview, RATES, SPEEDS};
use crate::words::milliseconds;

const FORWARD: &str = "cues play forward only: press tab for the clip alone";

impl Preview {
    /// Does what a key asks for; `false` when the preview is to be closed: at [`Action::Quit`], or at the
    /// second one in a row where durations are unsaved.
    pub fn act(&mut self, action: Action) -> bool {
        self.message = None;
        self.changed = true;
        let leaves = std::mem::replace(&mut self.asked_to_quit, action == Action::Quit);
        match action {
            Action::Quit if self.edits.count() > 0 && !leaves => {
                self.say("durations are unsaved: w writes them, q again leaves without them");
            }
            Action::Quit => return false,
            Action::Pause => self.paused = !self.paused,
            Action::Hold(by) => self.step_hold(by),
            Action::Refresh => {
                self.paused = true;
                self.play(self.refresh());
            }
            Action::Rate => self.rate = (self.rate + 1) % RATES.len(),
            Action::Speed(by) => {
                let last = SPEEDS.len() - 1;
                self.speed = self.speed.saturating_add_signed(isize::from(by)).min(last);
                self.apply_settings();
            }
            Action::Reverse if self.by_cues => self.say(FORWARD),
            Action::Reverse => {
                self.backward = !self.backward;
                self.apply_settings();
                if self.player.has_ended() || !self.has_begun {
                    self.begin(self.player.requested_clip());
                }
            }
            Action::FlipX => {
                self.flips.x = !self.flips.x;
                self.apply_settings();
            }
            Action::FlipY => {
                self.flips.y = !self.flips.y;
                self.apply_settings();
            }
            Action::Clip(by) => self.begin(self.neighbor(by)),
            Action::Zoom(by) => {
                let now = self.zoom.unwrap_or(self.shown_zoom.get());
                self.zoom = Some(now.saturating_add_signed(i32::from(by)).clamp(1, 32));
            }
            Action::Background => {
                self.background = match self.background {
                    Background::Dark => Background::Light,
                    Background::Light => Background::Checks,
                    Background::Checks => Background::Dark,
                }
            }
            Action::Onion => self.onion = !self.onion,
            Action::Facing(by) => self.turn(by),
            Action::Look => self.next_look(),
            Action::Cues => match self.actor {
                None => self.say("this role has no cues"),
                Some(_) => (self.by_cues, self.mark) = (!self.by_cues, None),
            },
            Action::Fact(nth) => self.press_fact(usize::from(nth)),
            Action::Number(by) => self.change_number(by),
            Action::Duration(by) => self.change_duration(by),
            Action::Write => {
                let done = self.edits.write().unwrap_or_else(|why| why);
                self.say(done);
            }
            Action::Undo => match self.edits.undo(&self.files, &self.art.reel) {
                None => self.say("there is nothing to undo"),
                Some(Ok(art)) => self.take(art),
                Some(Err(_)) => self.say("the file on the disk is at fault: fix it first"),
            },
            Action::Seek(at) => self.seek(at),
        }
        true
    }

    pub(super) fn say(&mut self, message: impl Into<String>) {
        self.message = Some((message.into(), Ticks::ZERO));
    }

    /// One refresh of the display.
    pub(super) fn refresh(&self) -> Ticks {
        Ticks::from_rate(RATES[self.rate % RATES.len()])
    }

    /// The next whole number of refreshes above or below a duration.
    fn whole_refreshes(&self, now: Ticks, by: i8) -> Ticks {
        let (second, rate) = (Ticks::PER_SECOND, u64::from(RATES[self.rate % RATES.len()]));
        let refreshes = match by {
            1 => now.get() * rate / second + 1,
            _ => (now.get() * rate).div_ceil(second).saturating_sub(1),
        };
        Ticks::new(refreshes * second / rate)
    }

    fn neighbor(&self, by: i8) -> ClipId {
        let clips: Vec<ClipId> = self.art.reel.clips().map(|clip| clip.id).collect();
        let now = self.player.requested_clip();
        let at = clips.iter().position(|clip| *clip == now).unwrap_or(0);
        let count = clips.len().max(1) as isize;
        let next = (at as isize + isize::from(by)).rem_euclid(count);
        clips.get(next as usize).copied().unwrap_or(now)
    }

    fn step_hold(&mut self, by: i8) {
        self.paused = true;
        let reel = self.art.reel.clone();
        if !self.by_cues {
            self.has_begun = true;
            let stepped = match by {
                1 => self.player.step_forward(&reel),
                _ => self.player.step_back(&reel),
            };
            if !stepped {
                self.begin(self.player.requested_clip());
            }
            return;
        }
        if by < 0 {
            self.say(FORWARD);
            return;
        }
        // To the next hold, as far as one comes up within ten seconds.
        let up =
            |preview: &Preview| (preview.playing().clip(), preview.playing().hold_index(&reel));
        let before = up(self);
        for _ in 0..2_400 {
            self.play(Ticks::from_rate(240));
            if up(self) != before {
                return;
            }
        }
    }

    fn seek(&mut self, at: f32) {
        if self.by_cues {
            self.say(FORWARD);
            return;
        }
        let Some(timeline) = self.timeline().filter(|timeline| timeline.total > Ticks::ZERO) else {
            return;
        };
        self.paused = true;
        let total = timeline.total.get();
        let time = (f64::from(at.clamp(0.0, 1.0)) * total as f64) as u64;
        // At the end it is still what the last hold shows.
        self.player.seek(&self.art.reel, Ticks::new(time.min(total - 1)));
        (self.is_reversed, self.has_begun) = (self.backward, true);
    }

    /// The facing set of the clip that is shown, and its facing there.
    pub(super) fn facing_of_clip(&self) -> Option<(FacingSetId, Facing)> {
        let (reel, clip) = (&self.art.reel, self.player.requested_clip());
        reel.ids().filter_map(|set| reel.facing_set(set)).find_map(|set| {
            let shows = |facing: &Facing| set.has(*facing) && set.clip(*facing) == clip;
            Some((set.id, Facing::ALL.into_iter().find(shows)?))
        })
    }

    fn turn(&mut self, by: i8) {
        let next = |facing: Facing| {
            let at = Facing::ALL.iter().position(|it| *it == facing).unwrap_or(0) as isize;
            Facing::ALL[(at + isize::from(by)).rem_euclid(8) as usize]
        };
        let reel = self.art.reel.clone();
        match (&mut self.actor, self.by_cues) {
            (Some(actor), true) => {
                // Facings that no set of the role has would look like others.
                let sets: Vec<_> = reel.ids().filter_map(|set| reel.facing_set(set)).collect();
                let has = |facing: Facing| sets.iter().any(|set| set.has(facing));
                let mut facing = next(actor.facing());
                while !has(facing) && facing != actor.facing() {
                    facing = next(facing);
                }
                actor.set_facing(facing);
            }
            _ => match self.facing_of_clip() {
                None => self.say("this clip is of no facing set"),
                Some((set, now)) => {
                    let mut facing = next(now);
                    while reel.facing_set(set).is_some_and(|set| !set.has(facing)) {
                        facing = next(facing);
                    }
                    self.player.face(&reel, set, facing);
                }
            },
        }
    }

    fn next_look(&mut self) {
        let reel = &self.art.reel;
        let role = reel.role_name(self.playing().requested_clip());
        let looks: Vec<LookId> = reel.ids().filter(|look| reel.role_name(*look) == role).collect();
        if looks.is_empty() {
            self.say("this role has no looks");
            return;
        }
        self.look = match self.look.and_then(|look| looks.iter().position(|it| *it == look)) {
            None => looks.first().copied(),
            Some(at) => looks.get(at + 1).copied(),
        };
        self.apply_settings();
    }

    fn change_duration(&mut self, by: i8) {
        let reel = self.art.reel.clone();
        let (clip, hold) = (self.playing().clip(), self.playing().hold_index(&reel));
        let Some((clip, hold)) = reel.clip(clip).zip(hold) else {
            return self.say("no hold is up");
        };
        // The holds of a mirrored clip are those of the clip itself.
        let clip = clip.mirror_of.and_then(|base| reel.clip(base)).unwrap_or(clip);
        let Some(now) = clip.hold(hold).map(|hold| hold.ticks).filter(|_| !clip.is_still) else {
            return self.say("a still has no duration");
        };
        let new = match self.step {
            Some(step) if by > 0 => now + step,
            Some(step) => now - step,
            None => self.whole_refreshes(now, by),
        };
        if new == Ticks::ZERO {
            return self.say(format!("{} is the shortest", milliseconds(now)));
        }
        let place = (reel.role_name(clip.id), clip.name, hold as usize);
        match self.edits.set(place, new, &reel) {
            Ok(art) => {
                self.take(art);
                self.say(format!("hold {hold}: {} to {}", milliseconds(now), milliseconds(new)));
            }
            Err(why) => self.say(why),
        }
    }
}
