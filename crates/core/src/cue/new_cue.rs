use alloc::string::String;
use alloc::vec::Vec;

use super::Condition;

/// Describes a cue to build; [`ReelBuilder::cue`](crate::ReelBuilder::cue) takes it. Cues are evaluated
/// in the order in which they are added; the first that matches wins. The last one must always match.
///
/// ```
/// use lucky_reel_core::{NewCue, Condition};
///
/// let hurt = NewCue::play("hurt").when(Condition::new().fact("hurt", true)).finish();
/// let walking = NewCue::play_facings("walk").when(Condition::new().fact("moving", true));
/// let resting = NewCue::play("idle"); // always holds
/// ```
#[derive(Clone, Debug)]
#[must_use = "give it to `ReelBuilder::cue`"]
pub struct NewCue {
    pub(crate) when: Vec<Condition>,
    pub(crate) target: NewTarget,
    pub(crate) turns: bool,
    pub(crate) finish: bool,
    pub(crate) restart: bool,
    pub(crate) begin: Vec<(String, u32)>,
    pub(crate) speed: Option<NewSpeed>,
}

/// What plays, by its name.
#[derive(Clone, Debug)]
pub(crate) enum NewTarget {
    Clip(String),
    Facings(String),
}

/// The fact that a cue's speed comes from.
#[derive(Clone, Debug)]
pub(crate) enum NewSpeed {
    Factor(String),
    Distance(String),
}

impl NewCue {
    /// A cue that plays a clip.
    pub fn play(clip: impl Into<String>) -> NewCue {
        NewCue::of(NewTarget::Clip(clip.into()))
    }

    /// A cue that plays a facing set's clip for the way the actor faces.
    pub fn play_facings(set: impl Into<String>) -> NewCue {
        NewCue::of(NewTarget::Facings(set.into()))
    }

    fn of(target: NewTarget) -> NewCue {
        NewCue {
            when: Vec::new(),
            target,
            turns: true,
            finish: false,
            restart: false,
            begin: Vec::new(),
            speed: None,
        }
    }

    /// When it matches. Called several times: when any of the conditions matches. Never called: always.
    pub fn when(mut self, condition: Condition) -> NewCue {
        self.when.push(condition);
        self
    }

    /// It runs to the end of its clip; only a cue above it may break in.
    pub fn finish(mut self) -> NewCue {
        self.finish = true;
        self
    }

    /// A fresh pulse that it names starts it over.
    pub fn restart(mut self) -> NewCue {
        self.restart = true;
        self
    }

    /// It keeps the facing that it started with, for a blow in mid-swing.
    pub fn keep_facing(mut self) -> NewCue {
        self.turns = false;
        self
    }

    /// When it follows this cue, it begins at this hold.
    pub fn start_at(mut self, cue: impl Into<String>, hold: u32) -> NewCue {
        self.begin.push((cue.into(), hold));
        self
    }

    /// Its speed is this fact, a number; 1 is normal.
    pub fn speed_from(mut self, fact: impl Into<String>) -> NewCue {
        self.speed = Some(NewSpeed::Factor(fact.into()));
        self
    }

    /// Its clip covers a distance at the speed of this fact, in pixels per second.
    pub fn distance_from(mut self, fact: impl Into<String>) -> NewCue {
        self.speed = Some(NewSpeed::Distance(fact.into()));
        self
    }
}
