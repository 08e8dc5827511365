//! What can be asked of a crowd.

use super::block::{BLOCK, shown_at};
use super::handle::Handle;
use super::seat::BlockRef;
use super::{Crowd, Lanes};
use crate::actor::Actor;
use crate::ids::FrameId;
use crate::look::Worn;
use crate::play::Player;
use crate::reel::Reel;
use crate::view::{Shown, View};

impl Crowd {
    /// Whether the member of this handle is still there.
    #[must_use]
    pub fn contains(&self, handle: Handle) -> bool {
        self.seat(handle).is_some()
    }

    /// The block and the lane of a member, while it is there.
    pub(super) fn seat(&self, handle: Handle) -> Option<(BlockRef<'_>, usize)> {
        let (block, lane) = (self.block(handle.block())?, handle.lane());
        let there = block.block.has(lane) && block.rows[lane].generation == handle.generation;
        there.then_some((block, lane))
    }

    /// A member as a player of its own, to be read or kept; `None` where it has gone.
    #[must_use]
    pub fn player(&self, handle: Handle) -> Option<Player> {
        let (block, lane) = self.seat(handle)?;
        match block.actor(&self.reel, &self.steps, lane) {
            Some(actor) => Some(*actor.player()),
            None => Some(block.player(&self.reel, &self.steps, lane)),
        }
    }

    /// A member as an actor of its own, to be read or kept; `None` where it has gone, or is none.
    #[must_use]
    pub fn actor(&self, handle: Handle) -> Option<Actor> {
        let (block, lane) = self.seat(handle)?;
        block.actor(&self.reel, &self.steps, lane)
    }

    /// The looks that a member wears.
    #[must_use]
    pub fn worn(&self, handle: Handle) -> Worn {
        self.seat(handle).map_or(Worn::NOTHING, |(block, lane)| self.worn_in(block, lane))
    }

    fn worn_in(&self, block: BlockRef<'_>, lane: usize) -> Worn {
        match block.block.actors.get(lane) {
            Some(actor) => actor.worn(),
            None => {
                let number = block.block.outfits.get(lane).copied().unwrap_or(0);
                self.wardrobe.outfit(number)
            }
        }
    }

    /// What a member shows, in its looks; nothing where it has gone.
    #[must_use]
    pub fn shown(&self, reel: &Reel, handle: Handle) -> Shown {
        self.view(reel, handle).map_or(Shown::NOTHING, |view| view.shown())
    }

    /// The frame that a member shows, in its looks.
    #[must_use]
    pub fn frame(&self, reel: &Reel, handle: Handle) -> Option<FrameId> {
        self.shown(reel, handle).frame()
    }

    /// What a member shows, in its looks, to be drawn; `None` when there is nothing.
    #[must_use]
    pub fn view<'r>(&self, reel: &'r Reel, handle: Handle) -> Option<View<'r>> {
        let (block, lane) = self.seat(handle)?;
        if self.reel.stamp.is_ready_for(reel.stamp) {
            return self.shown_in(block, lane).view(reel);
        }
        let worn = self.worn_in(block, lane);
        self.player(handle)?.view_wearing(reel, &worn)
    }

    /// What is up in a slot of a block that is taken, looks included.
    #[inline]
    pub(super) fn shown_in(&self, block: BlockRef<'_>, lane: usize) -> Shown {
        let plain = block.block.actors.is_empty() && block.block.outfits.is_empty();
        let bare = shown_at(&self.steps, block.codes[lane]);
        if plain { bare } else { self.dressed_picture_in(block, lane).unwrap_or(bare) }
    }

    #[inline(never)]
    fn dressed_picture_in(&self, block: BlockRef<'_>, lane: usize) -> Option<Shown> {
        let worn = self.worn_in(block, lane);
        if worn == Worn::NOTHING {
            return None;
        }
        let origin = self.steps.origin(block.codes[lane] & super::block::STEP);
        let hold = origin.place & !crate::clip::RETURNING;
        let (frame, mirrored) = self.reel.dressed(origin.clip, hold, &worn)?;
        let flips = block.codes[lane] >> Shown::FLIPS_SHIFT;
        Some(Shown::of_clip(frame, mirrored).mirrored_by(flips))
    }

    /// All members, in the order of their slots.
    pub fn handles(&self) -> impl Iterator<Item = Handle> + '_ {
        (0..self.blocks.len()).flat_map(|at| self.handles_of(at, self.blocks[at].alive))
    }

    /// The members whose picture was changed by the last advance, or by what was told since the one
    /// before it (new members and mirrored ones among them), in the order of their slots: all that a
    /// renderer need upload.
    pub fn changed(&self) -> impl Iterator<Item = Handle> + '_ {
        (0..self.blocks.len()).flat_map(|at| self.handles_of(at, self.blocks[at].changed))
    }

    pub(super) fn handles_of(&self, at: usize, lanes: u64) -> impl Iterator<Item = Handle> + '_ {
        let rows = &self.rows[at];
        Lanes(lanes).map(move |lane| Handle {
            slot: (at * BLOCK + lane) as u32,
            generation: rows[lane].generation,
        })
    }
}
