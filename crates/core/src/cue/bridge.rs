use alloc::string::String;
use alloc::vec::Vec;

use super::NewTarget;
use crate::facing::Align;

/// Describes a bridge to build; [`ReelBuilder::bridge`](crate::ReelBuilder::bridge) takes it: a short clip
/// played once between two cues, such as landing, turning, sheathing. Of several that lead from one
/// cue to another the first counts.
///
/// ```
/// use lucky_reel_core::NewBridge;
///
/// let landing = NewBridge::play("land").between(["falling"], ["resting", "walking"]);
/// ```
#[derive(Clone, Debug)]
#[must_use = "give it to `ReelBuilder::bridge`"]
pub struct NewBridge {
    pub(crate) target: NewTarget,
    pub(crate) turns: bool,
    pub(crate) from: Vec<String>,
    pub(crate) to: Vec<String>,
}

impl NewBridge {
    /// A bridge that plays a clip, which must come to an end.
    pub fn play(clip: impl Into<String>) -> NewBridge {
        NewBridge::of(NewTarget::Clip(clip.into()))
    }

    /// A bridge that plays a facing set's clip for the way the actor faces.
    pub fn play_facings(set: impl Into<String>) -> NewBridge {
        NewBridge::of(NewTarget::Facings(set.into()))
    }

    fn of(target: NewTarget) -> NewBridge {
        NewBridge { target, turns: true, from: Vec::new(), to: Vec::new() }
    }

    /// From any of these cues to any of those.
    pub fn between<F: Into<String>, T: Into<String>>(
        mut self,
        from: impl IntoIterator<Item = F>,
        to: impl IntoIterator<Item = T>,
    ) -> NewBridge {
        self.from.extend(from.into_iter().map(Into::into));
        self.to.extend(to.into_iter().map(Into::into));
        self
    }

    /// It keeps the facing that it started with.
    pub fn keep_facing(mut self) -> NewBridge {
        self.turns = false;
        self
    }
}

/// A group of clips to build that stay in step with one another.
#[derive(Clone, Debug)]
pub(crate) struct NewPhases {
    pub(crate) clips: Vec<String>,
    /// What a switch between them keeps.
    pub(crate) align: Align,
}
