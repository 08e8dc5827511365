use crate::checksum::Checksum;
use crate::command_error::CommandError;
use crate::ids::{ClipId, Family, FrameId, LookId, NONE};
use crate::reel::Reel;

/// The looks that one thing wears: at most four, in the order in which they were put on. Later ones
/// win, and apply to the images of earlier ones, too.
///
/// It is a small `Copy` value (12 bytes) of the game's, to be kept beside a player: looks change what
/// is seen and nothing else.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct LookSet {
    looks: [u16; LookSet::MAX],
    family: Option<Family>,
}

impl LookSet {
    /// The most looks that can be worn at once.
    pub const MAX: usize = 4;
    /// The base's own pictures.
    pub const NOTHING: LookSet = LookSet { looks: [NONE; LookSet::MAX], family: None };

    /// Puts a look on, over the others; one that is already worn moves to the top. Looks of another
    /// reel are taken off.
    ///
    /// # Errors
    /// When four are worn already, or the reel has no such look.
    pub fn wear(&mut self, reel: &Reel, look: LookId) -> Result<(), CommandError> {
        if reel.look_data(look).is_none() {
            return Err(CommandError::UnknownId);
        }
        let mut set = if self.family == Some(reel.family) { *self } else { LookSet::NOTHING };
        set.take_off(look);
        let free =
            set.looks.iter_mut().find(|slot| **slot == NONE).ok_or(CommandError::TooManyLooks)?;
        *free = look.number;
        set.family = Some(reel.family);
        *self = set;
        Ok(())
    }

    /// Takes a look off; `false` where it is not worn.
    pub fn take_off(&mut self, look: LookId) -> bool {
        let worn = self.iter().any(|other| other == look);
        let mut left = [NONE; LookSet::MAX];
        let kept = self.iter().filter(|worn| *worn != look);
        left.iter_mut().zip(kept).for_each(|(slot, worn)| *slot = worn.number);
        self.looks = left;
        if left[0] == NONE {
            self.family = None;
        }
        worn
    }

    /// Different numbers for different sets.
    pub(crate) fn as_numbers(&self) -> [u64; 3] {
        let looks = self.looks.iter().fold(0, |bits, look| bits << 16 | u64::from(*look));
        [looks, self.family.map_or(0, |family| u64::from(family.to_bits())), 0]
    }

    pub(crate) fn add_to(&self, reel: &Reel, sum: &mut Checksum) {
        self.looks.iter().for_each(|look| sum.add(reel.data.names.looks.sum(*look)));
    }

    /// Whether nothing is worn.
    #[must_use]
    #[inline]
    pub(crate) fn is_empty(&self) -> bool {
        self.family.is_none()
    }

    /// The looks that are worn, lowest first.
    pub fn iter(&self) -> impl Iterator<Item = LookId> + use<> {
        let (looks, family) = (self.looks, self.family);
        let worn = looks.into_iter().take_while(|look| *look != NONE);
        worn.filter_map(move |look| Some(LookId::new(family?, look)))
    }
}

impl Default for LookSet {
    fn default() -> LookSet {
        LookSet::NOTHING
    }
}

impl Reel {
    /// The frame of a hold in these looks, and whether it is mirrored.
    pub(crate) fn dressed(
        &self,
        clip: ClipId,
        hold: u16,
        looks: &LookSet,
    ) -> Option<(FrameId, bool)> {
        let data = self.clip_data(clip)?;
        let mut frame = data.holds.get(usize::from(hold))?.frame;
        let mut mirrored = data.mirrored;
        for look in looks.iter().filter_map(|look| self.look_data(look)) {
            let instead = look.clip(clip).and_then(|(other, mirrored)| {
                let held = self.clip_data(other)?.holds.get(usize::from(hold))?;
                Some((held.frame, mirrored))
            });
            if let Some(instead) = instead {
                (frame, mirrored) = instead;
            }
            frame = look.frame(frame).unwrap_or(frame);
        }
        Some((frame, mirrored))
    }
}
